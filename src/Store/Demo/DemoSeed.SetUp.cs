using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Store.Demo;

/// <summary>How the machines of the invented house were set up, and when their interlocks were tried since.</summary>
public sealed partial class DemoSeed
{
    private const int TrialEachDays = 90;

    /// <summary>How many days ago the interlocks were last tried; each quarter before.</summary>
    private static readonly (string Machine, int DaysAgo)[] Trials = [("heron", 45), ("wren", 30), ("swift", 62), ("kestrel", 80)];

    private async Task WriteSetUps(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        foreach (var machine in DemoHouse.Machines)
            await connection.ExecuteAsync(
                """
                insert into house.commissioning (machine_id, sheet, set_by, held, recorded)
                values (@Id, @sheet::jsonb, @by, tstzrange(@from, null), tstzrange(@from, null))
                """,
                new
                {
                    machine.Id,
                    sheet = GateJson.Write(SetUpOf(machine, _rules.Clock.DateOf(_founded))),
                    by = Id(1),
                    from = _founded,
                },
                transaction
            );
        await WritePapers(connection, transaction);
        foreach (var (machine, daysAgo) in Trials)
            for (var days = daysAgo; now - Duration.FromDays(days) > _founded; days += TrialEachDays)
                await connection.ExecuteAsync(
                    "insert into upkeep.interlock_trial (id, machine_id, at, by) values (gen_random_uuid(), @machine, @at, @by)",
                    new
                    {
                        machine,
                        at = now - Duration.FromDays(days),
                        by = Id(3),
                    },
                    transaction
                );
    }

    /// <summary>What an inspector would find; one of them is due within the month.</summary>
    private async Task WritePapers(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        var today = _rules.Clock.DateOf(now);
        (PaperKind Kind, string? Machine, int DaysAgo, int? Days, string By, string Says)[] papers =
        [
            (
                PaperKind.ExtractionExamined,
                "heron",
                400,
                425,
                "examiner of the extraction firm",
                "Report 26-118: 0.6 m/s inward at the lid, nothing to put right."
            ),
            (PaperKind.ExtinguishersServiced, null, 65, 365, "the extinguisher firm", "CO2 extinguisher weighed, pin and seal new."),
            (PaperKind.LaserSafetyOfficer, null, 200, 365, "the keeper", "Appointed by the trustees; two-day course."),
            (
                PaperKind.RiskFire,
                null,
                150,
                365,
                "the keeper, with the fire officer",
                "No run in the last half hour; bins emptied at closing."
            ),
            (PaperKind.CoAlarmTested, null, 20, 31, "a steward", "Sounded."),
            (PaperKind.FirstAiders, null, 300, 1095, "two stewards, names at the first aid kit", "Three-day course."),
        ];
        foreach (var (kind, machine, daysAgo, days, by, says) in papers)
            await connection.ExecuteAsync(
                """
                insert into house.paper (id, kind, machine_id, on_day, next_day, by, says, recorded_at, recorded_by)
                values (gen_random_uuid(), @kind, @machine, @on, @next::date, @by, @says, @at, @keeper)
                """,
                new
                {
                    kind = System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(kind.ToString()),
                    machine,
                    on = today.PlusDays(-daysAgo),
                    next = days is { } more ? today.PlusDays(more - daysAgo) : (LocalDate?)null,
                    by,
                    says,
                    at = now - Duration.FromDays(daysAgo),
                    keeper = Id(0),
                },
                transaction
            );
    }

    /// <summary>All of it is shown, but how dense the window of one machine is.</summary>
    private static CommissioningSheet SetUpOf(MachineSpec machine, LocalDate on) =>
        new(
            On: on,
            By: "the keeper, with the seller’s fitter",
            Wiring: "by the house electrician, report in the office",
            InterlocksOn: on,
            MakersGone: true,
            RelayGone: true,
            WiredBy: "the seller’s fitter",
            Consent: "the maker’s, letter in the office",
            ClassAnew: $"by the laser safety officer: {machine.LaserClass}",
            WindowNm: machine.WavelengthNm,
            WindowOd: machine.Id == "kestrel" ? null : 6,
            AirflowHow: "vane meter at the outlet, by the extraction engineer, fan at full",
            InwardMS: 0.6m,
            Route: machine.Extraction == Extraction.Filtered ? "" : "4 m of steel duct to above the roof ridge",
            Stages: machine.Extraction == Extraction.Filtered
                ? [new("particle filter", "600 h"), new("carbon", "100 h"), new("fan", "20,000 h")]
                : [new("fan", "20,000 h")],
            Level: true
        );
}
