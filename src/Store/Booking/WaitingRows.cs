using NodaTime;
using VelvetGate.Core.Gating;

namespace VelvetGate.Store.Booking;

/// <summary>Somebody who waits for a time.</summary>
/// <param name="Ask">Its machine and start are not read.</param>
/// <param name="From">They can come from then; <paramref name="To"/> until then.</param>
/// <param name="Offer">What is kept for them now; null for nothing.</param>
public sealed record WaitingEntry(
    Guid Id,
    int Number,
    PersonId PersonId,
    GateQuestion Ask,
    IReadOnlyList<MachineId> MachineIds,
    Instant From,
    Instant To,
    Instant At,
    OfferedTime? Offer
);

public sealed record OfferedTime(Guid Id, MachineId MachineId, Instant Start, Instant End, int Minutes, Instant Until);

internal sealed record WaitingRow(
    Guid Id,
    int Number,
    PersonId PersonId,
    string Ask,
    string[] MachineIds,
    Instant From,
    Instant To,
    Instant At,
    Guid? OfferId,
    MachineId? OfferMachine,
    Instant? OfferStart,
    Instant? OfferEnd,
    int? OfferMinutes,
    Instant? OfferUntil
)
{
    public const string Columns = """
        select w.id, w.number, w.person_id, w.ask::text as ask, w.machine_ids, lower(w.window_at) as "from",
            upper(w.window_at) as "to", w.at,
            o.id as offer_id, o.machine_id as offer_machine, lower(o.during) as offer_start, upper(o.during) as offer_end,
            o.minutes as offer_minutes, o.until as offer_until
        from booking.waiting w left join booking.offer o on o.waiting_id = w.id and o.ended_at is null
        """;

    public WaitingEntry ToEntry() =>
        new(
            Id: Id,
            Number: Number,
            PersonId: PersonId,
            Ask: GateJson.Read<GateQuestion>(Ask),
            MachineIds: [.. MachineIds.Select(m => (MachineId)m)],
            From: From,
            To: To,
            At: At,
            Offer: OfferId is { } id
                ? new OfferedTime(id, OfferMachine!.Value, OfferStart!.Value, OfferEnd!.Value, OfferMinutes!.Value, OfferUntil!.Value)
                : null
        );
}
