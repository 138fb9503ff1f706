using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>Starting values of house rules for the three usual kinds of workshop. All are house decisions and may be changed.</summary>
public static class Packs
{
    public const string School = "school";
    public const string StaffedWorkshop = "staffedWorkshop";
    public const string MemberRun = "memberRun";

    public static IReadOnlyList<(string Id, string Name, string For)> All { get; } =
    [
        (School, "School", "A named adult in the room, no one under 18 alone, certificates to the end of the school year."),
        (StaffedWorkshop, "Staffed workshop", "A steward on duty in the building, people from 16 alone, walk-up allowed."),
        (MemberRun, "Member-run", "Adults with a second person within call, longer hours, closed at night."),
    ];

    /// <exception cref="ArgumentOutOfRangeException">No such pack.</exception>
    public static HouseRules Start(string pack, string houseName, string zoneId) =>
        pack switch
        {
            School => Base(pack, houseName, zoneId) with
            {
                Supervision = Supervision.AdultInRoom,
                AttendFromAge = 11,
                AloneFromAge = 18,
                CertificateMonths = 0,
                IdleLapseDays = 60,
                SameDayBooking = false,
                HoursPerPersonDay = 2,
                HoursPerPersonWeek = 4,
                OpenBookingsPerPerson = 2,
                NoShowGraceMinutes = 10,
                AttentionMinutes = 2,
                PauseMinutes = 0,
                WalkUp = false,
                MachinesPerAdult = 2,
                SupervisedRuns = 3,
                CourseBeforeSignOff = true,
                QuizCoolDownHours = 0,
                BroughtInMonths = 0,
                Conduct = Conduct.WarningLadder,
                Card = CardVariant.StopAndLeave,
                ClosedMachinesOnly = true,
                ClassesOutsideLimits = true,
            },
            StaffedWorkshop => Base(pack, houseName, zoneId) with { PolycarbonateOffered = true },
            MemberRun => Base(pack, houseName, zoneId) with
            {
                Supervision = Supervision.SecondPersonInCall,
                AttendFromAge = 18,
                AloneFromAge = 18,
                IdleLapseDays = 120,
                HoursPerPersonDay = 4,
                HoursPerPersonWeek = 10,
                PauseMinutes = 0,
                Hours = EveryDay(new LocalTime(7, 0), new LocalTime(22, 0)),
                GuardianConsent = false,
                LearnersPerTrainer = 3,
                SupervisedRuns = 2,
                CourseBeforeSignOff = true,
                Conduct = Conduct.PauseAtOnce,
                PolycarbonateOffered = true,
                ShortJobs = true,
            },
            _ => throw new ArgumentOutOfRangeException(nameof(pack), pack, "No such pack."),
        };

    private static HouseRules Base(string pack, string houseName, string zoneId) =>
        new()
        {
            HouseName = houseName,
            ZoneId = zoneId,
            Pack = pack,
            Hours = EveryDay(new LocalTime(10, 0), new LocalTime(21, 0)),
            Colours = ColourMap.None,
            Supervision = Supervision.StewardOnDuty,
            AttendFromAge = 14,
            AloneFromAge = 16,
            CertificateMonths = 12,
            IdleLapseDays = 90,
            SameDayBooking = true,
            HoursPerPersonDay = 3,
            HoursPerPersonWeek = 8,
            OpenBookingsPerPerson = 3,
            NoShowGraceMinutes = 15,
            AttentionMinutes = 3,
            PauseMinutes = 2,
            // As long as the fire watch: house practice.
            LastRunBeforeCloseMinutes = FireWatch.Minutes,
            GuardianConsent = true,
        };

    private static OpeningDay[] EveryDay(LocalTime opens, LocalTime closes) =>
        [.. Enumerable.Range(1, 7).Select(day => new OpeningDay((IsoDayOfWeek)day, opens, closes))];
}
