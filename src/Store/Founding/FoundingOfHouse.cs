using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Founding;

/// <summary>The first step of a new house: its rules from a pack, the starting material list, and the first keeper.</summary>
public sealed class FoundingOfHouse(NpgsqlDataSource db)
{
    /// <summary>True while nobody has an account and no rules hold.</summary>
    public async Task<bool> IsEmpty(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<bool>(
            new CommandDefinition(
                "select not exists (select from people.person) and not exists (select from house.rules)",
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Founds the house. Two who press at once found it once.</summary>
    /// <param name="alsoSteward">In a house of one the keeper is its steward too; the record says so.</param>
    public Task<Result<PersonId>> Found(
        HouseRules rules,
        NewPerson keeper,
        string passwordHash,
        bool alsoSteward,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(730010)", transaction: transaction);
                if (
                    await connection.ExecuteScalarAsync<bool>(
                        "select exists (select from people.person) or exists (select from house.rules)",
                        transaction: transaction
                    )
                )
                    return ((Result<PersonId>)HouseProblems.HouseFounded.Refuse(), false);
                await connection.ExecuteAsync(
                    "insert into house.rules (id, held, recorded, body, reason) values (gen_random_uuid(), tstzrange(@now, null), "
                        + "tstzrange(@now, null), @body::jsonb, @reason)",
                    new
                    {
                        now,
                        body = GateJson.Write(rules),
                        reason = $"Founding: the starting pack “{rules.Pack}”",
                    },
                    transaction
                );
                await StartingShelf.Write(
                    connection,
                    transaction,
                    now,
                    rules.Clock.DateOf(now).PlusMonths(Core.Materials.RulingChanges.ReviewMonths)
                );
                var id = await AccountStore.Add(connection, transaction, keeper, passwordHash, rules, now);
                await AccountStore.GiveRole(connection, transaction, id, Role.Keeper, null, null, now);
                if (alsoSteward)
                    await AccountStore.GiveRole(connection, transaction, id, Role.Steward, null, null, now);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.HouseFounded,
                    new
                    {
                        by = await LedgerStore.Number(connection, transaction, id),
                        pack = rules.Pack,
                        steward = alsoSteward,
                    }
                );
                return (id, true);
            },
            cancel
        );
}
