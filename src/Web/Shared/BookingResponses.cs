using NodaTime;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Booking;

namespace VelvetGate.Web.Shared;

/// <param name="Parts">What each stretch is for; they add up to <paramref name="Minutes"/>.</param>
/// <param name="MemberId">Staff and the person only.</param>
/// <param name="Companions">Come along and watch; they attend nothing.</param>
/// <param name="NoShow">Released because nobody came.</param>
/// <param name="Version">To be sent back with a change, so that two windows do not undo each other.</param>
/// <param name="AtRisk">The person's own bookings, and for staff: why the gate is no longer open for it; null while it is.</param>
public sealed record BookingResponse(
    Guid Id,
    int Number,
    MachineId MachineId,
    string Name,
    bool Mine,
    Instant Start,
    Instant End,
    int Minutes,
    IReadOnlyList<BookingPart> Parts,
    bool Cancelled,
    RiskResponse? AtRisk,
    Instant? ArrivedAt,
    IReadOnlyList<GateItem> Items,
    PersonId? MemberId,
    int Companions,
    bool NoShow,
    int Version,
    IReadOnlyList<RunOf> Runs,
    NextResponse? Next,
    BenchResponse? Bench
);

/// <summary>The finishing bench that is held with it.</summary>
public sealed record BenchResponse(Instant Start, Instant End);

/// <param name="Says">Who comes next, and so what stays on.</param>
public sealed record NextResponse(Instant? Start, string? Name, string Says);

public sealed record RiskResponse(Instant Since, IReadOnlyList<RiskReason> Reasons);

/// <summary>A booking as the one who looks may see it: many rooms show some.</summary>
internal static class BookingResponses
{
    /// <param name="detail">What is run and who comes next, where a list shows it.</param>
    /// <param name="rules">Of the house, with the detail.</param>
    public static BookingResponse Of(BookedTime b, PersonId asker, bool whole, BookingDetail? detail = null, HouseRules? rules = null) =>
        new(
            Id: b.Id,
            Number: b.Number,
            MachineId: b.MachineId,
            Name: PersonName.For(b.GivenName, b.FamilyName, Age(b), whole || b.PersonId == asker),
            Mine: b.PersonId == asker,
            Start: b.Start,
            End: b.End,
            Minutes: b.Minutes,
            Parts: b.Parts,
            Cancelled: b.CancelledAt is not null,
            AtRisk: b.AtRiskSince is { } since && (whole || b.PersonId == asker) ? new RiskResponse(since, b.AtRisk) : null,
            ArrivedAt: b.ArrivedAt,
            Items: whole || b.PersonId == asker ? b.Ask.Items : [],
            MemberId: whole || b.PersonId == asker ? b.PersonId : (PersonId?)null,
            Companions: b.Companions,
            NoShow: b.NoShow,
            Version: b.Version,
            Runs: detail is not null && (whole || b.PersonId == asker) ? detail.Runs : [],
            Next: detail is not null && rules is not null && (whole || b.PersonId == asker) ? Next(detail.Next, rules, whole) : null,
            Bench: rules is not null && (whole || b.PersonId == asker) && b.Ask.Bench?.At(b.End, rules) is { } bench
                ? new BenchResponse(bench.Start, bench.End)
                : null
        );

    private static NextResponse Next(NextOn? next, HouseRules rules, bool whole) =>
        new(
            next?.Start,
            next is null ? null : PersonName.For(next.GivenName, next.FamilyName, Ages.On(next.BirthDate, next.Start), whole),
            new Following(next?.Start).Says(rules)
        );

    private static int? Age(BookedTime b) => Ages.On(b.BirthDate, b.Start);
}
