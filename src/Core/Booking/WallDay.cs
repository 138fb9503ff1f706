using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Booking;

/// <summary>A booking as a screen on the wall shows it.</summary>
/// <param name="Who">First name and initial; “booked” for a minor.</param>
/// <param name="Left">Share of the day, 0 to 1, at which it begins; so too <paramref name="Width"/>, how much of it it takes.</param>
/// <param name="Here">The person has come, and it is on.</param>
public sealed record WallBooking(string Who, Instant Start, Instant End, double Left, double Width, bool Here);

/// <param name="Says">What is so now, in a few words.</param>
public sealed record WallMachine(string Name, string Says, bool Stopped, IReadOnlyList<WallBooking> Bookings);

/// <summary>The day of a room on a screen on the wall, where anybody reads it: no name of a minor, and nothing of what is run.</summary>
/// <param name="NowAt">Share of the day that is over; null outside opening hours.</param>
/// <param name="Marks">Full hours, each with its share of the day.</param>
public sealed record WallDay(
    string House,
    string Day,
    string Clock,
    string Hours,
    string OnDuty,
    IReadOnlyList<string> Notices,
    double? NowAt,
    IReadOnlyList<(string Hour, double At)> Marks,
    IReadOnlyList<WallMachine> Machines
)
{
    public const string Booked = "booked";

    /// <summary>What the wall needs of a booking.</summary>
    /// <param name="Shown">Name as anybody may read it; null for a minor.</param>
    public sealed record Time(MachineId MachineId, string? Shown, Instant Start, Instant End, bool Arrived);

    /// <param name="machines">In the order of the house, with whether each is out of service.</param>
    /// <param name="notices">Closures and classes of the day.</param>
    public static WallDay Of(
        HouseRules rules,
        IReadOnlyList<(MachineId Id, string Name, bool Stopped)> machines,
        IReadOnlyList<Time> times,
        IReadOnlyList<string> onDuty,
        IReadOnlyList<string> notices,
        Instant now
    )
    {
        var today = rules.Clock.DateOf(now);
        var day = rules.OpenOn(today) ?? rules.Clock.Day(today);
        return new WallDay(
            House: rules.HouseName,
            Day: rules.Clock.At(now).ToString("dddd d MMMM", System.Globalization.CultureInfo.InvariantCulture),
            Clock: $"{rules.Clock.At(now):HH:mm}",
            Hours: rules.OpenOn(today) is { } open
                ? $"Open {rules.Clock.At(open.Start):HH:mm} to {rules.Clock.At(open.End):HH:mm}"
                : "Closed today",
            OnDuty: onDuty.Count == 0 ? "No steward on duty" : $"On duty: {string.Join(", ", onDuty)}",
            Notices: notices,
            NowAt: now >= day.Start && now <= day.End ? Share(now) : null,
            Marks: [.. FullHours(day, rules.Clock).Select(h => ($"{rules.Clock.At(h):HH}", Share(h)))],
            Machines: [.. machines.Select(m => Machine(m, [.. times.Where(t => t.MachineId == m.Id).OrderBy(t => t.Start)]))]
        );

        double Share(Instant at) => Math.Clamp((at - day.Start) / day.Duration, 0, 1);

        WallMachine Machine((MachineId Id, string Name, bool Stopped) m, List<Time> booked) =>
            new(
                m.Name,
                m.Stopped ? "Out of service" : Says(booked, rules, now),
                m.Stopped,
                [
                    .. booked.Select(b => new WallBooking(
                        b.Shown ?? Booked,
                        b.Start,
                        b.End,
                        Share(b.Start),
                        Share(b.End) - Share(b.Start),
                        b.Arrived && b.Start <= now && b.End > now
                    )),
                ]
            );
    }

    private static string Says(IReadOnlyList<Time> booked, HouseRules rules, Instant now)
    {
        string At(Instant at) => $"{rules.Clock.At(at):HH:mm}";
        if (booked.FirstOrDefault(b => b.Start <= now && b.End > now) is { } on)
            return on.Arrived ? $"In use until {At(on.End)}" : $"Booked until {At(on.End)}, nobody here yet";
        return booked.FirstOrDefault(b => b.Start > now) is { } next ? $"Free until {At(next.Start)}" : "Free for the rest of the day";
    }

    private static IEnumerable<Instant> FullHours(Interval day, HouseClock clock)
    {
        var minutes = clock.At(day.Start).Minute;
        for (var at = day.Start + Duration.FromMinutes((60 - minutes) % 60); at <= day.End; at += Duration.FromHours(1))
            yield return at;
    }
}
