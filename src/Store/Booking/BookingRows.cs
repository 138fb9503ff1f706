using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Gating;

namespace VelvetGate.Store.Booking;

/// <summary>Bookings as they are read.</summary>
internal static class BookingRows
{
    public const string Columns = """
        select b.id, b.number, b.person_id, p.given_name, p.family_name, p.birth_date, b.machine_id, lower(b.during) as start,
            upper(b.during) as "end",
            b.minutes, b.parts::text as parts, b.made_by, b.cancelled_at, b.version, b.at_risk_since, b.at_risk::text as at_risk,
                b.arrived_at, b.ask::text as ask, b.companions, b.no_show
        from booking.booking b join people.person p on p.id = b.person_id
        """;

    public sealed record Row(
        Guid Id,
        int Number,
        PersonId PersonId,
        string GivenName,
        string FamilyName,
        LocalDate? BirthDate,
        MachineId MachineId,
        Instant Start,
        Instant End,
        int Minutes,
        string Parts,
        PersonId MadeBy,
        Instant? CancelledAt,
        int Version,
        Instant? AtRiskSince,
        string? AtRisk,
        Instant? ArrivedAt,
        string Ask,
        int Companions,
        bool NoShow
    )
    {
        public BookedTime ToBooking() =>
            new(
                Id: Id,
                Number: Number,
                PersonId: PersonId,
                GivenName: GivenName,
                FamilyName: FamilyName,
                BirthDate: BirthDate,
                MachineId: MachineId,
                Start: Start,
                End: End,
                Minutes: Minutes,
                Parts: GateJson.Read<List<BookingPart>>(Parts),
                MadeBy: MadeBy,
                CancelledAt: CancelledAt,
                Version: Version,
                AtRiskSince: AtRiskSince,
                AtRisk: AtRisk is null ? [] : GateJson.Read<List<RiskReason>>(AtRisk),
                ArrivedAt: ArrivedAt,
                Ask: GateJson.Read<GateQuestion>(Ask),
                Companions: Companions,
                NoShow: NoShow
            );
    }

    public static async Task<BookedTime?> FindIn(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        Guid id,
        bool lockIt = false
    ) =>
        (
            await connection.QuerySingleOrDefaultAsync<Row>(
                Columns + " where b.id = @id" + (lockIt ? " for update of b" : ""),
                new { id },
                transaction
            )
        )?.ToBooking();
}
