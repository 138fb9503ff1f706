using NodaTime;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Core.Watch;

/// <summary>What kind of thing waits for a steward.</summary>
public enum NeedKind
{
    MachineStopped,
    AskWaiting,
    BookingAtRisk,
    CertificateLapsing,
    NoShow,
    FoundingUnconfirmed,
    KitEnding,
    RulingProposed,
    RulingReview,
    RulingRequested,
    AppealWaiting,
    CertificateReview,
    RunToLook,
    WorkParked,
    MailUndelivered,
    RoomShort,
    UpkeepOverdue,
    IncidentOpen,
    FireWatchRunning,
    IncidentActionLate,
    LookAsked,
    RoomShut,
    FixtureOverdue,
    FixtureDamaged,
    FaultOpen,
    KitWrong,
    ConsumableLow,
    PaperDue,
}

/// <summary>One thing that needs a hand.</summary>
/// <param name="Urgency">1 can wait for days, 2 this week, 3 today, 4 now.</param>
/// <param name="By">When it starts to hurt; null means now.</param>
/// <param name="Subject">Id of the thing itself, for the link.</param>
public sealed record Need(NeedKind Kind, int Urgency, Instant? By, string Title, string Text, string Subject);

/// <summary>How an open incident stands.</summary>
/// <param name="Watch">A fire watch is wanted, and nobody has begun it.</param>
/// <param name="Causeless">Nobody has ticked a cause or said why there is none.</param>
public sealed record IncidentStanding(int Severity, bool Watch, bool Causeless);

/// <summary>Orders what waits: worst first, then soonest. Source: house practice.</summary>
public static class NeedsAHand
{
    /// <summary>Certificates that end within this many days are listed.</summary>
    public const int LapseDays = 14;

    /// <summary>So many overdue reviews have a line each.</summary>
    private const int ReviewsApart = 3;

    public static IReadOnlyList<Need> Order(IEnumerable<Need> needs) =>
        [.. needs.OrderByDescending(n => n.Urgency).ThenBy(n => n.By ?? Instant.MinValue).ThenBy(n => n.Title, StringComparer.Ordinal)];

    /// <summary>Overdue upkeep shuts nothing by itself, but each booking waits for a steward's word.</summary>
    public static Need Upkeep(string machineName, string task, Instant overdueFrom, string id) =>
        new(NeedKind.UpkeepOverdue, 3, overdueFrom, "Upkeep overdue", $"{machineName}: {task}", id);

    /// <summary>A fault that somebody told of; what stops the machine waits as a stop.</summary>
    /// <param name="asks">Each booking waits for a steward’s word.</param>
    public static Need Fault(string machineName, string seen, bool asks, Instant at, string id) =>
        new(
            NeedKind.FaultOpen,
            asks ? 4 : 2,
            asks ? null : at,
            asks ? "A fault to decide on" : "Fault to look at",
            $"{machineName}: {seen}",
            id
        );

    /// <summary>Fire kit that a look found wrong: nothing runs until it is right.</summary>
    public static Need KitWrong(string name, string wrong, Instant since, string id) =>
        new(NeedKind.KitWrong, 4, since, "Fire kit to put right", $"{name}: {wrong}. Nothing runs until it is right.", id);

    public static Need Low(string name, string left, Instant? at, string id) =>
        new(NeedKind.ConsumableLow, 2, at, "To be ordered", $"{name}: {left} left.", id);

    /// <param name="end">End of the day before its next one.</param>
    public static Need Paper(string what, Instant end, Instant now, string id) =>
        new(NeedKind.PaperDue, end <= now ? 3 : 2, end, end <= now ? "Paper out of date" : "Paper to renew", what, id);

    /// <summary>Below so much free space, in MB, the keeper is told; below a quarter of it now.</summary>
    public const int ShortMb = 2000;

    /// <param name="diskFreeMb">Where the server runs; below zero when it cannot be told.</param>
    /// <param name="drawings">Bytes that drawings take.</param>
    public static IEnumerable<Need> Room(long diskFreeMb, long drawings)
    {
        if (diskFreeMb is >= 0 and < ShortMb)
            yield return new(
                NeedKind.RoomShort,
                diskFreeMb < ShortMb / 4 ? 4 : 3,
                null,
                "Disk nearly full",
                $"{diskFreeMb} MB are free where the server runs. When it is full nothing can be saved any more: make room.",
                "disk"
            );
        if (drawings > DrawingRoom.PerHouse / 10 * 9)
            yield return new(
                NeedKind.RoomShort,
                2,
                null,
                "Little room for drawings",
                $"Drawings take {drawings / 1_000_000} MB of the {DrawingRoom.PerHouse / 1_000_000} MB there is. Ask members to "
                    + "delete old ones, or keep them for fewer months.",
                "drawings"
            );
    }

    /// <summary>A stopped machine is now; one with bookings to come later today is no less so.</summary>
    public static Need Stopped(string machineName, string reason, string stopId) =>
        new(NeedKind.MachineStopped, 4, null, "Machine stopped", $"{machineName}: {reason}", stopId);

    /// <summary>An ask is as urgent as its start is near.</summary>
    public static Need Asked(string who, string what, Instant start, Instant now, string askId) =>
        new(NeedKind.AskWaiting, Near(start, now), start, "Request waiting", $"{who}: {what}", askId);

    /// <summary>A booking that the gate no longer opens for.</summary>
    public static Need AtRisk(string who, string what, Instant start, Instant now, string bookingId) =>
        new(NeedKind.BookingAtRisk, Near(start, now), start, "Booking at risk", $"{who}: {what}", bookingId);

    public static Need Lapsing(string who, string authority, Instant end, Instant now, PersonId personId) =>
        new(
            NeedKind.CertificateLapsing,
            Near(end, now) is 4 ? 3 : Near(end, now),
            end,
            "Certificate lapsing",
            $"{who}, {authority}",
            personId.Value
        );

    /// <summary>An appeal waits for somebody who was not involved.</summary>
    public static Need Appeal(string who, Instant at, PersonId personId) =>
        new(NeedKind.AppealWaiting, 3, at, "Appeal to hear", who, personId.Value);

    /// <summary>Certificates under review, in one line: the gate asks for each of them meanwhile.</summary>
    public static Need Review(int count, Instant since) =>
        new(
            NeedKind.CertificateReview,
            2,
            since,
            "Certificates under review",
            count == 1 ? "One is to be looked at." : $"{count} are to be looked at.",
            "review"
        );

    /// <summary>A run that no rule allows, that nobody stands behind, or at which a flame stayed.</summary>
    /// <param name="why">In a clause.</param>
    public static Need RunToLook(string who, string machine, bool flame, string why, Instant end, string runId)
    {
        var follows = flame ? "The machine is out of service until somebody has looked." : "It does not count as practice.";
        return new(
            NeedKind.RunToLook,
            flame ? 4 : 3,
            end,
            flame ? "A flame stayed" : "Run to look at",
            $"{who} on {machine}: {why}. {follows}",
            runId
        );
    }

    /// <summary>An incident that nobody has closed: now where nobody has begun its fire watch, today without a cause for long.</summary>
    public static Need Incident(int number, string place, string what, IncidentStanding standing, Instant at, Instant now, string id)
    {
        var late = standing.Causeless && now >= at + Duration.FromDays(Causes.OpenDays);
        var next =
            standing.Watch ? "Nobody has begun the fire watch."
            : late ? $"No cause after {Causes.OpenDays} days: tick one, or write what was looked at."
            : "It is open.";
        return new(
            NeedKind.IncidentOpen,
            standing.Watch ? 4
                : late || standing.Severity >= 4 ? 3
                : 2,
            standing.Watch ? null : at,
            standing.Watch ? "Fire watch to begin" : "Incident to close",
            $"{number}, {place}: {what}. {next}",
            id
        );
    }

    public static Need WatchRunning(int number, string place, string who, Instant due, Instant now, string id) =>
        new(NeedKind.FireWatchRunning, due <= now ? 4 : 3, due, "Fire watch", $"{place}, incident {number}: the next look is {who}’s.", id);

    public static Need ActionLate(int number, string who, string text, Instant due, Instant now, string id) =>
        new(
            NeedKind.IncidentActionLate,
            due <= now ? 3
                : Near(due, now) is 4 ? 3
                : Near(due, now),
            due,
            "Action after an incident",
            $"{who}: {text} (incident {number})",
            id
        );

    public static Need LookAsked(string machine, Instant since, string id) =>
        new(
            NeedKind.LookAsked,
            4,
            null,
            "Look before the next start",
            $"Somebody told of fire or smoke at {machine}, without a name: bed, lens, filter, duct.",
            id
        );

    public static Need RoomShut(int number, string id) =>
        new(NeedKind.RoomShut, 4, null, "Room shut", $"Incident {number}: until it is aired and a steward says so.", id);

    /// <summary>Something the server could not do by itself.</summary>
    public static Need Parked(string why, Instant at, string subject) =>
        new(NeedKind.WorkParked, 3, at, "The server needs a look", why, subject);

    /// <summary>Mail that was given up: the person reads the message only once they sign in.</summary>
    public static Need Undelivered(string who, string title, string why, Instant at, PersonId personId) =>
        new(NeedKind.MailUndelivered, 2, at, "Mail not delivered", $"{who}: “{title}” ({why})", personId.Value);

    /// <summary>Nobody came within the grace: the time can be given to others.</summary>
    public static Need NoShow(string who, string what, Instant start, string bookingId) =>
        new(NeedKind.NoShow, 4, start, "No-show to release", $"{who}: {what}", bookingId);

    /// <summary>A fixture that should be back: whoever booked it next finds none.</summary>
    public static Need Overdue(string fixture, string who, Instant due, string id) =>
        new(NeedKind.FixtureOverdue, 3, due, "Fixture not back", $"{fixture}: {who} has it", id);

    /// <summary>Shut for every booking with it until somebody has looked.</summary>
    public static Need Damaged(string fixture, string what, Instant at, string id) =>
        new(NeedKind.FixtureDamaged, 3, at, "Fixture came back damaged", $"{fixture}: {what}", id);

    /// <summary>A first authority that a second pair of eyes has not looked at.</summary>
    public static Need Unconfirmed(string who, string machine, Instant ends, string foundingId) =>
        new(NeedKind.FoundingUnconfirmed, 2, ends, "Founding sign-off to confirm", $"{who} on {machine}", foundingId);

    /// <summary>Fire kit that goes out of date within <see cref="LapseDays"/> days, or has: then the gate is shut.</summary>
    public static Need Kit(string name, Instant until, Instant now, string kitId) =>
        new(
            NeedKind.KitEnding,
            until <= now ? 4 : Near(until, now),
            until,
            until <= now ? "Fire kit out of date" : "Fire kit going out of date",
            name,
            kitId
        );

    /// <summary>A milder ruling that another pair of eyes has to agree to.</summary>
    public static Need Proposed(string who, string material, Instant at, MaterialId materialId) =>
        new(NeedKind.RulingProposed, 2, at, "Milder ruling proposed", $"{material}, by {who}", materialId.Value);

    /// <summary>Somebody wants to bring what is not on the list.</summary>
    public static Need Requested(string who, string name, Instant at) =>
        new(NeedKind.RulingRequested, 2, at, "Ruling asked for", $"{name}, by {who}", "");

    /// <summary>Materials whose rulings were to be looked at again before today; many stand in one line.</summary>
    /// <param name="overdue">Longest overdue first.</param>
    /// <param name="all">How many there are; at least as many as are given.</param>
    public static IEnumerable<Need> Reviews(IReadOnlyList<(MaterialId MaterialId, string Name, Instant Since)> overdue, int all) =>
        all <= ReviewsApart
            ? overdue.Select(o => new Need(NeedKind.RulingReview, 1, o.Since, "Ruling to review", o.Name, o.MaterialId.Value))
            :
            [
                new Need(
                    NeedKind.RulingReview,
                    1,
                    overdue[0].Since,
                    "Rulings to review",
                    $"{all} materials, {overdue[0].Name} first",
                    overdue[0].MaterialId.Value
                ),
            ];

    /// <summary>One line for those of a kind that have none of their own; where they all stand, its link leads.</summary>
    public static Need More(Need last, int more) => last with { Title = "And more like these", Text = $"{more} more", Subject = "" };

    private static int Near(Instant at, Instant now) =>
        (at - now).TotalHours switch
        {
            < 2 => 4,
            < 24 => 3,
            < 24 * 7 => 2,
            _ => 1,
        };
}
