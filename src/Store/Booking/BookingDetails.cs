using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;

namespace VelvetGate.Store.Booking;

/// <summary>What is run in a booking, by its names.</summary>
/// <param name="Drawing">File name; null without one.</param>
public sealed record RunOf(string Material, decimal ThicknessMm, IReadOnlyList<Operation> Operations, string? Tag, string? Drawing);

/// <summary>Who has the machine next on the same day.</summary>
public sealed record NextOn(Instant Start, string GivenName, string FamilyName, LocalDate? BirthDate);

/// <summary>What a booking alone does not say.</summary>
/// <param name="Next">Null when nobody comes on that day.</param>
public sealed record BookingDetail(IReadOnlyList<RunOf> Runs, NextOn? Next);

/// <summary>Names of what is run, and who comes next: for lists of bookings, in one statement.</summary>
public sealed class BookingDetails(NpgsqlDataSource db)
{
    private sealed record Row(Guid Id, string? Runs, Instant? Start, string? GivenName, string? FamilyName, LocalDate? BirthDate);

    /// <summary>The items of <c>b.ask</c> with their names, as JSON.</summary>
    internal const string Runs = """
        (select jsonb_agg(jsonb_build_object('material', coalesce(m.name, i ->> 'materialId'),
                'thicknessMm', (i ->> 'thicknessMm')::numeric, 'operations', i -> 'operations', 'tag', i ->> 'sheetTag',
                'drawing', d.name) order by nth)::text
            from jsonb_array_elements(b.ask -> 'items') with ordinality as t(i, nth)
            left join materials.material m on m.id = i ->> 'materialId'
            left join bench.drawing d on d.id = (i ->> 'drawingId')::uuid)
        """;

    /// <param name="clock">Of the house: its day ends what comes next.</param>
    public async Task<IReadOnlyDictionary<Guid, BookingDetail>> Of(
        IReadOnlyList<BookedTime> bookings,
        HouseClock clock,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                $"""
                select b.id, {Runs} as runs, lower(n.during) as start, p.given_name, p.family_name, p.birth_date
                from unnest(@ids, @ends) as w (id, day_end) join booking.booking b on b.id = w.id
                left join lateral (select n.person_id, n.during from booking.claim c join booking.booking n on n.id = c.booking_id
                    where c.resource = 'machine:' || b.machine_id and c.live and lower(c.during) >= upper(b.during)
                        and c.during && tstzrange(upper(b.during), greatest(upper(b.during), w.day_end))
                    order by lower(c.during) limit 1) n on true
                left join people.person p on p.id = n.person_id
                """,
                new
                {
                    ids = bookings.Select(b => b.Id).ToArray(),
                    ends = bookings.Select(b => clock.Day(clock.DateOf(b.Start)).End).ToArray(),
                },
                cancellationToken: cancel
            )
        );
        return rows.ToDictionary(
            r => r.Id,
            r => new BookingDetail(Read(r.Runs), r.Start is { } start ? new NextOn(start, r.GivenName!, r.FamilyName!, r.BirthDate) : null)
        );
    }

    internal static IReadOnlyList<RunOf> Read(string? runs) => runs is null ? [] : GateJson.Read<List<RunOf>>(runs);
}
