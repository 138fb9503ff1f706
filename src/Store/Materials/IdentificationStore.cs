using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Materials;

/// <summary>What was tested by flame: who did it, what came of it and why, in the record. It excludes; it never permits.</summary>
public sealed class IdentificationStore(NpgsqlDataSource db)
{
    public Task KeepFlameTest(PersonId by, bool green, string reason, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var text = await LedgerStore.Keep(connection, transaction, reason, by);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.IdentificationFlameTested,
                    new
                    {
                        by = await LedgerStore.Number(connection, transaction, by),
                        green,
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );
}
