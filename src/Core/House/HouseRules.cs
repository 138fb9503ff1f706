using NodaTime;

namespace VelvetGate.Core.House;

/// <summary>Who has to be there for a run, by pack.</summary>
public enum Supervision
{
    /// <summary>A named adult with a certificate in the room.</summary>
    AdultInRoom,

    /// <summary>A steward on duty in the building.</summary>
    StewardOnDuty,

    /// <summary>A second person within call.</summary>
    SecondPersonInCall,
}

/// <summary>Opening hours of one weekday; equal times mean closed all day. Midnight as <paramref name="Closes"/> is the day's end.</summary>
public sealed record OpeningDay(IsoDayOfWeek Day, LocalTime Opens, LocalTime Closes);

/// <summary>One dated version of a house's rules. Minutes unless the name says otherwise.</summary>
public sealed record HouseRules
{
    public required string HouseName { get; init; }

    /// <summary>IANA zone, such as Europe/London.</summary>
    public required string ZoneId { get; init; }
    public required string Pack { get; init; }
    public required IReadOnlyList<OpeningDay> Hours { get; init; }
    public required ColourMap Colours { get; init; }
    public required Supervision Supervision { get; init; }
    public required int AttendFromAge { get; init; }
    public required int AloneFromAge { get; init; }

    /// <summary>Months a certificate runs; 0 means to the end of the school year, 31 July.</summary>
    public required int CertificateMonths { get; init; }
    public required int IdleLapseDays { get; init; }
    public required bool SameDayBooking { get; init; }
    public required decimal HoursPerPersonDay { get; init; }
    public required decimal HoursPerPersonWeek { get; init; }
    public required int OpenBookingsPerPerson { get; init; }
    public required int NoShowGraceMinutes { get; init; }
    public required int AttentionMinutes { get; init; }
    public required int PauseMinutes { get; init; }

    public int SlotMinutes { get; init; } = 15;
    public decimal ChecksMinutes { get; init; } = 10;
    public decimal RunFactor { get; init; } = 2;
    public decimal ReloadMinutes { get; init; } = 3;
    public decimal CleanDownMinutes { get; init; } = 10;
    public decimal CleanDownResidueMinutes { get; init; } = 15;
    public decimal ChangeoverMinutes { get; init; } = 5;
    public decimal TestPieceMinutes { get; init; } = 10;

    /// <summary>The last run ends this long before the room is locked: embers start fires after closing.</summary>
    public int LastRunBeforeCloseMinutes { get; init; } = 30;
    public int BookAheadDays { get; init; } = 21;
    public int LongestBookingMinutes { get; init; } = 480;
    public decimal AirMixingFactor { get; init; } = 3;
    public decimal AirResidual { get; init; } = 0.01m;
    public int AirClearingFloorSeconds { get; init; } = 30;

    /// <summary>The open hours of one local date as instants; null when closed.</summary>
    public Interval? OpenOn(LocalDate date)
    {
        var hours = Hours.FirstOrDefault(h => h.Day == date.DayOfWeek);
        if (hours is null || hours.Opens == hours.Closes) return null;
        return Clock.Between(date, hours.Opens, hours.Closes);
    }

    [System.Text.Json.Serialization.JsonIgnore]
    public HouseClock Clock => HouseClock.For(ZoneId);
}
