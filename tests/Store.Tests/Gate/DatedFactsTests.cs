using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Core.Gating;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Gate;

/// <summary>
/// For each kind of dated fact: a change from now on leaves last week's answer as it was, and a correction of last week changes
/// what is known of it now, but not what was known of it then. Two axes, one set of queries.
/// </summary>
public class DatedFactsTests
{
    private static readonly Instant Now = TestDatabase.Now;
    private static readonly Instant LastWeek = Now - Duration.FromDays(7) + Duration.FromHours(2);
    private static readonly Instant Tomorrow = Now + Duration.FromDays(1) + Duration.FromHours(2);
    private static readonly Instant LongAgo = Now - Duration.FromDays(30);

    /// <param name="Code">The reason that the changed fact brings.</param>
    /// <param name="Change">Makes the fact other from an instant on, recorded at another.</param>
    private sealed record Kind(
        string Code,
        Func<NpgsqlConnection, Instant, Instant, Task> Change,
        Func<GateQuestion, GateQuestion>? Asking = null
    );

    private static readonly Dictionary<string, Kind> Kinds = new()
    {
        ["ruling"] = new("material.banned", (c, from, at) =>
            Replace(
                c,
                "materials.ruling",
                "material_id = 'birch-ply-laser' and kind = 'co2' and operation = 'cut'",
                "standing",
                "'banned'",
                from,
                at
            )
        ),
        ["certificate"] = new("training.lapsed", (c, from, at) =>
            End(c, "training.certificate", "person_id = 'm-4' and authority = 'heron'", from, at)
        ),
        ["stop"] = new("machine.stopped", (c, from, at) =>
            Add(
                c,
                "house.stop (id, machine_id, set_by, text_id, held, recorded)",
                "gen_random_uuid(), 'heron', 'm-2', gen_random_uuid()",
                from,
                at
            )
        ),
        ["pause"] = new("person.paused", (c, from, at) =>
            Add(
                c,
                "people.pause (id, person_id, set_by, text_id, held, recorded)",
                "gen_random_uuid(), 'm-4', 'm-2', gen_random_uuid()",
                from,
                at
            )
        ),
        ["house rules"] = new("time.closed", (c, from, at) =>
            Replace(c, "house.rules", "true", "body", "jsonb_set(body, '{hours}', '[]')", from, at)
        ),
        ["clearance"] = new("sheet.notCleared", (c, from, at) =>
            Replace(c, "materials.clearance", "tag = 'S-0097'", "operations", "'{engrave}'", from, at)
        ),
        ["quarantine"] = new("sheet.quarantined", async (c, from, at) =>
        {
            await End(c, "materials.quarantine", "tag = 'S-0097'", from, at);
            await Add(c, "materials.quarantine (tag, held, recorded)", "'S-0097'", from, at);
        }),
        ["account"] = new("person.inactive", (c, from, at) => End(c, "people.account", "person_id = 'm-4'", from, at)),
        ["agreement"] = new("person.agreement", (c, from, at) => End(c, "people.agreement", "person_id = 'm-4'", from, at)),
        ["fire kit"] = new("room.kitOut", (c, from, at) =>
            Replace(c, "house.fire_kit", "id = 'co2'", "in_date_until", "'2026-01-01T00:00Z'::timestamptz", from, at)
        ),
        ["upkeep"] = new("machine.upkeepOverdue", (c, from, at) =>
            Replace(c, "upkeep.task", "machine_id = 'heron'", "overdue_from", "'2026-01-01T00:00Z'::timestamptz", from, at)
        ),
        ["rota"] = new("room.noSupervisor", (c, from, at) => End(c, "house.duty", "lower(during) < '2026-12-01'", from, at, "during")),
        ["trainer role"] = new(
            "training.none",
            (c, from, at) => End(c, "people.role", "person_id = 'm-3' and role = 'trainer' and machine_id = 'heron'", from, at),
            a => a with { MemberId = "m-5", SupervisorId = "m-3" }
        ),
        ["eyewear"] = new(
            "room.eyewear",
            (c, from, at) => Replace(c, "house.eyewear", "id = 'blue'", "count", "0", from, at),
            a => a with { MachineId = "swift" }
        ),
    };

    public static TheoryData<string> KindNames => [.. Kinds.Keys];

    [Theory]
    [MemberData(nameof(KindNames))]
    public async Task Gate_AskedAboutLastWeekAfterAChange_AnswersAsOfThenAndAsKnownThen(string name)
    {
        var kind = Kinds[name];
        await using var db = await TestDatabase.Demo();
        await db.Tamper("update house.machine set spec = jsonb_set(spec, '{laserClass}', '\"4\"') where id = 'swift'");
        await using var connection = await db.App.OpenConnectionAsync();
        (await Says(LastWeek)).ShouldBeFalse();
        (await Says(Tomorrow)).ShouldBeFalse();

        await kind.Change(connection, Now, Now);
        (await Says(LastWeek)).ShouldBeFalse("a change from now on leaves last week alone");
        (await Says(Tomorrow)).ShouldBeTrue();
        (await Says(Tomorrow, knownAt: Now - Duration.FromHours(1))).ShouldBeFalse("an hour ago nobody knew of it");

        await kind.Change(connection, LongAgo, Now + Duration.FromMinutes(5));
        (await Says(LastWeek)).ShouldBeTrue("the correction reaches back");
        (await Says(LastWeek, knownAt: LastWeek)).ShouldBeFalse("but last week it was not known");

        async Task<bool> Says(Instant start, Instant? knownAt = null)
        {
            var ask = (kind.Asking ?? (a => a))(Questions.OnHeron(start));
            return (await Questions.Decide(db, ask, start - Duration.FromHours(1), knownAt)).Reasons.Any(r => r.Code == kind.Code);
        }
    }

    private static Task Replace(
        NpgsqlConnection connection,
        string table,
        string where,
        string column,
        string value,
        Instant from,
        Instant at
    ) => Correct(connection, table, where, from, at, "held", (column, value));

    private static Task End(NpgsqlConnection connection, string table, string where, Instant from, Instant at, string held = "held") =>
        Correct(connection, table, where, from, at, held, null);

    private static Task Add(NpgsqlConnection connection, string into, string values, Instant from, Instant at) =>
        connection.ExecuteAsync(
            $"insert into {into} values ({values}, tstzrange(@from, case when @from < @at then @at end), tstzrange(@at, null))",
            new { from, at }
        );

    /// <summary>As the app corrects: closes <c>recorded</c> of what stood, and inserts what stands before and from the change.</summary>
    private static async Task Correct(
        NpgsqlConnection connection,
        string table,
        string where,
        Instant from,
        Instant at,
        string held,
        (string Column, string Value)? change
    )
    {
        var parts = table.Split('.');
        var columns = (
            await connection.QueryAsync<string>(
                """
                select column_name::text from information_schema.columns
                where table_schema = @schema and table_name = @name and is_identity = 'NO' and column_name not in ('recorded', @held)
                    order by ordinal_position
                """,
                new
                {
                    schema = parts[0],
                    name = parts[1],
                    held,
                }
            )
        ).ToList();
        var list = string.Join(", ", columns);
        var id = table == "house.rules" ? "gen_random_uuid()" : "id";
        var same = string.Join(", ", columns.Select(c => c == "id" ? id : c));
        var changed = string.Join(
            ", ",
            columns.Select(c =>
                c == "id" ? id
                : c == change?.Column ? change.Value.Value
                : c
            )
        );
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync(
            $"create temp table old on commit drop as select * from {table} where {where} and upper_inf(recorded)",
            transaction: transaction
        );
        await connection.ExecuteAsync(
            $"update {table} set recorded = tstzrange(lower(recorded), @at) where {where} and upper_inf(recorded)",
            new { at },
            transaction
        );
        await connection.ExecuteAsync(
            $"insert into {table} ({list}, {held}, recorded) select {same}, {held} * tstzrange(null, @from), tstzrange(@at, null) "
                + $"from old where not isempty({held} * tstzrange(null, @from))",
            new { from, at },
            transaction
        );
        if (change is not null)
        {
            await connection.ExecuteAsync(
                $"insert into {table} ({list}, {held}, recorded) select {changed}, {held} * tstzrange(@from, null), tstzrange(@at, "
                    + $"null) from old where not isempty({held} * tstzrange(@from, null))",
                new { from, at },
                transaction
            );
        }
        await transaction.CommitAsync();
    }
}
