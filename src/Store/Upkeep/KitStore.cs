using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Upkeep;

/// <summary>Something that the round looks at.</summary>
/// <param name="InDateUntil">Of fire kit; null for what does not go out of date.</param>
/// <param name="Wrong">What the last look at fire kit found.</param>
/// <param name="Count">Pairs of eyewear in good condition; 0 for fire kit.</param>
public sealed record KitSeen(
    string Id,
    bool Eyewear,
    string Name,
    Instant? InDateUntil,
    string[] Wrong,
    int Count,
    Instant? LookedAt,
    PersonId? LookedBy,
    string? Note
);

/// <summary>The round of fire kit and eyewear: what each look found.</summary>
public sealed class KitStore(NpgsqlDataSource db)
{
    private const string Seen = """
        with item as (
            select id, false as eyewear, name, in_date_until, wrong, 0 as count from house.fire_kit
                where held @> @now and upper_inf(recorded)
            union all
            select id, true, name, null, '{}'::text[], count from house.eyewear where held @> @now and upper_inf(recorded))
        select i.*, l.at as looked_at, l.by as looked_by, t.body as note from item i left join lateral (select at, by, text_id
            from upkeep.kit_look where item_id = i.id and eyewear = i.eyewear and at <= @now order by at desc limit 1) l on true
        left join ledger.text t on t.id = l.text_id
        order by i.eyewear, i.name, i.id
        """;

    public async Task<IReadOnlyList<KitSeen>> All(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<KitSeen>(new CommandDefinition(Seen, new { now }, cancellationToken: cancel))];
    }

    /// <summary>Writes down what was found at an item of fire kit. What is wrong shuts the gate until somebody finds it right.</summary>
    public Task<Result<bool>> Look(string id, KitLook look, PersonId by, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, id, false, now) is not { } item)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "item of fire kit"), false);
                if (KitRound.Wrong(look, await UpkeepCounting.Hands(connection, transaction, by, null, now)) is { } refusal)
                    return (refusal, false);
                string[] wrong = [.. look.Wrong.Distinct().Order().Select(UpkeepCounting.Word)];
                if (!wrong.SequenceEqual(item.Wrong))
                    await SheetStore.WriteKit(
                        connection,
                        transaction,
                        new KitItem(item.Id, item.Name, item.InDateUntil),
                        wrong,
                        wrong.Length > 0 ? now : null,
                        now
                    );
                await Keep(connection, transaction, new Found(item, wrong, 0, look.Note), by, now);
                return (await Whole(connection, transaction, by, rules, now), true);
            },
            cancel
        );

    /// <summary>Writes down how many pairs of a set were damaged: they are taken away, and count no more.</summary>
    public Task<Result<bool>> LookAtEyewear(
        string id,
        int? damaged,
        string? note,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Find(connection, transaction, id, true, now) is not { } item)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "set of eyewear"), false);
                var hands = await UpkeepCounting.Hands(connection, transaction, by, null, now);
                if (KitRound.WrongEyewear(damaged, item.Count, note, hands) is { } refusal)
                    return (refusal, false);
                if (damaged > 0)
                {
                    var set = await connection.QuerySingleAsync<EyewearSet>(
                        "select id, name, min_nm, max_nm, optical_density, damage_rated, count from house.eyewear "
                            + "where id = @id and held @> @now and upper_inf(recorded)",
                        new { id, now },
                        transaction
                    );
                    await SheetStore.WriteEyewear(connection, transaction, set with { Count = set.Count - damaged.Value }, now);
                }
                await Keep(connection, transaction, new Found(item, [], damaged!.Value, note), by, now);
                return (await Whole(connection, transaction, by, rules, now), true);
            },
            cancel
        );

    private sealed record Found(KitSeen Item, string[] Wrong, int Damaged, string? Note);

    private static async Task<KitSeen?> Find(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string id,
        bool eyewear,
        Instant now
    )
    {
        // The same lock as the forms of the house: two looks at one item come one after the other.
        await connection.ExecuteAsync("select pg_advisory_xact_lock(730011)", transaction: transaction);
        return (await connection.QueryAsync<KitSeen>(Seen, new { now }, transaction)).SingleOrDefault(i =>
            i.Id == id && i.Eyewear == eyewear
        );
    }

    private static async Task Keep(NpgsqlConnection connection, NpgsqlTransaction transaction, Found found, PersonId by, Instant now)
    {
        var text = string.IsNullOrWhiteSpace(found.Note) ? null : await LedgerStore.Keep(connection, transaction, found.Note.Trim(), null);
        await connection.ExecuteAsync(
            """
            insert into upkeep.kit_look (id, item_id, eyewear, at, by, wrong, damaged, text_id)
            values (gen_random_uuid(), @Id, @Eyewear, @now, @by, @Wrong, @Damaged, @text)
            """,
            new
            {
                found.Item.Id,
                found.Item.Eyewear,
                now,
                by,
                found.Wrong,
                found.Damaged,
                text = text?.Id,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.HouseKitLooked,
            new
            {
                item = found.Item.Id,
                eyewear = found.Item.Eyewear,
                by = await LedgerStore.Number(connection, transaction, by),
                wrong = string.Join(",", found.Wrong),
                damaged = found.Damaged,
                what = text?.InChain,
            }
        );
    }

    /// <summary>Once every item was looked at, the room’s task about it is done too.</summary>
    /// <returns>Whether it was.</returns>
    private static async Task<bool> Whole(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId by,
        HouseRules rules,
        Instant now
    )
    {
        var seen = await connection.QueryAsync<KitSeen>(Seen, new { now }, transaction);
        List<RoundItem> items = [.. seen.Select(i => new RoundItem(i.Eyewear, i.Id, i.LookedAt))];
        var tasks = await connection.QueryAsync<(string Id, Instant Since)>(
            "select id, since from upkeep.task where machine_id is null and plan ->> 'part' = 'fireKit' and held @> @now "
                + "and upper_inf(recorded) order by id",
            new { now },
            transaction
        );
        var done = false;
        foreach (var task in tasks.Where(t => KitRound.IsWhole(items, t.Since, now)))
            done |= (await UpkeepStore.Done(connection, transaction, task.Id, new(null, null, null), by, rules, now)).IsOk;
        return done;
    }
}
