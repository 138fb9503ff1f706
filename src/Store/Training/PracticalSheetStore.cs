using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <summary>The practical sheets of a house: in versions, since what was marked stays with the version it was marked on.</summary>
public sealed class PracticalSheetStore(NpgsqlDataSource db)
{
    /// <summary>Every sheet in its newest version.</summary>
    public async Task<IReadOnlyList<PracticalSheet>> All(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await All(connection, null);
    }

    public async Task<IReadOnlyList<PracticalRepeat>> Repeats(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<PracticalRepeat>(
                new CommandDefinition(
                    "select r.practical_id, p.title, r.at, r.by_day as by from training.practical_repeat r join training.practical "
                        + "p on p.id = r.practical_id and p.version = r.version",
                    cancellationToken: cancel
                )
            ),
        ];
    }

    /// <summary>Puts a new version of a sheet in place, or a first one, and tells those who have to show it again.</summary>
    /// <param name="id">Null makes another sheet.</param>
    /// <param name="version">The version it was written against; 0 for a first one.</param>
    /// <param name="reason">Null looks only.</param>
    /// <returns>Its id and who shows it again; null when there is no such sheet; or why not.</returns>
    public Task<Result<(string Id, IReadOnlyList<PersonId> Again)>> Publish(
        string? id,
        int version,
        PracticalChange change,
        string? reason,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync("select pg_advisory_xact_lock(hashtext('training.practical'))", transaction: transaction);
                var sheets = await All(connection, transaction);
                var present = sheets.FirstOrDefault(s => s.Id == id);
                if (id is not null && present is null)
                    return (
                        (Result<(string Id, IReadOnlyList<PersonId> Again)>)CommonProblems.NotFound.Refuse(null, "practical form"),
                        false
                    );
                if ((present?.Version ?? 0) != version)
                    return (TrainingProblems.PracticalChanged.Refuse("version"), false);
                var sheet = id ?? $"practical-{NewPages.IdOf(change.Title, [])}";
                if (id is null && sheets.Any(s => s.Id == sheet))
                    return (TrainingProblems.PracticalTitleTaken.Refuse("title"), false);
                IReadOnlyList<PersonId> again =
                    change.RepeatBy is null || present is null ? [] : await Holders(connection, transaction, sheet, rules, now);
                if (reason is null)
                    return ((sheet, again), false);
                var next = version + 1;
                await connection.ExecuteAsync(
                    "insert into training.practical (id, version, title, steps) values (@sheet, @next, @Title, @steps::jsonb)",
                    new
                    {
                        sheet,
                        next,
                        change.Title,
                        steps = GateJson.Write(change.Steps),
                    },
                    transaction
                );
                if (change.RepeatBy is { } day && present is not null)
                {
                    await connection.ExecuteAsync(
                        "insert into training.practical_repeat (practical_id, version, by_day, at) values (@sheet, @next, @day, @now)",
                        new
                        {
                            sheet,
                            next,
                            day,
                            now,
                        },
                        transaction
                    );
                    var until = day.ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture);
                    await MessageStore.Tell(
                        connection,
                        transaction,
                        [
                            .. again.Select(p => new Telling(
                                p,
                                $"practical.{sheet}.{next}:{p}",
                                $"Show “{change.Title}” again by {until}",
                                reason,
                                "/training/ladder"
                            )),
                        ],
                        now
                    );
                }
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    change.RepeatBy is null || present is null ? RecordEvents.PracticalReworded : RecordEvents.PracticalPublished,
                    new
                    {
                        practical = sheet,
                        version = next,
                        again = again.Count,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return ((sheet, again), true);
            },
            cancel
        );

    /// <summary>Who holds a certificate now whose path ends with this sheet.</summary>
    private static async Task<IReadOnlyList<PersonId>> Holders(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        string sheet,
        HouseRules rules,
        Instant now
    )
    {
        var authorities = (await PathStore.All(connection, transaction, rules, now))
            .Where(p => p.Path.Steps[^1].Id == sheet)
            .Select(p => p.Path.Authority)
            .ToArray();
        return
        [
            .. await connection.QueryAsync<PersonId>(
                """
                select distinct c.person_id from training.certificate c join people.person p on p.id = c.person_id
                where c.authority = any(@authorities) and upper_inf(c.recorded) and c.held @> @now and not p.erased order by 1
                """,
                new { authorities, now },
                transaction
            ),
        ];
    }

    private static async Task<IReadOnlyList<PracticalSheet>> All(NpgsqlConnection connection, NpgsqlTransaction? transaction) =>
        [
            .. (
                await connection.QueryAsync<(string Id, string Title, int Version, string Steps)>(
                    "select distinct on (id) id, title, version, steps::text from training.practical order by id, version desc",
                    transaction: transaction
                )
            ).Select(r => new PracticalSheet(r.Id, r.Title, r.Version, GateJson.Read<List<PracticalStep>>(r.Steps))),
        ];
}
