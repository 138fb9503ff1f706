using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <summary>A page to read.</summary>
/// <param name="Body">Markdown.</param>
/// <param name="Options">Answers to the question; the first is right.</param>
public sealed record ReadingPage(string ModuleId, string Title, int Version, string Body, string Check, IReadOnlyList<string> Options);

/// <summary>The modules of a house, and what people did of them.</summary>
public sealed class CourseStore(NpgsqlDataSource db)
{
    private sealed record ModuleRow(string Id, string Kind, string Title, string Topic, int Version);

    private sealed record PageRow(string ModuleId, string Title, int Version, string Body, string CheckText, string[] Options);

    /// <summary>In the order of the course.</summary>
    public async Task<IReadOnlyList<TrainingModule>> Modules(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Modules(connection, null);
    }

    public async Task<IReadOnlyList<ModuleDone>> Done(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Done(connection, null, personId);
    }

    /// <summary>What these people did.</summary>
    public async Task<ILookup<PersonId, ModuleDone>> Done(IReadOnlyCollection<PersonId> people, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (
            await connection.QueryAsync<(PersonId Person, string Module, int Version, Instant At)>(
                new CommandDefinition(
                    "select person_id, module_id, version, at from training.done where person_id = any(@people)",
                    new { people = people.ToArray() },
                    cancellationToken: cancel
                )
            )
        ).ToLookup(d => d.Person, d => new ModuleDone(d.Module, d.Version, d.At));
    }

    /// <returns>The newest version of the page; null when there is no such reading.</returns>
    public async Task<ReadingPage?> Page(string moduleId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Page(connection, null, moduleId);
    }

    /// <summary>Notes that a person read a page and answered its question.</summary>
    /// <param name="version">The version that was read.</param>
    /// <param name="answer">The answer's words.</param>
    /// <returns>Refused when there is no such reading; or why it does not count yet.</returns>
    public Task<Result<bool>> Acknowledge(
        PersonId personId,
        string moduleId,
        int version,
        string? answer,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Page(connection, transaction, moduleId) is not { } page)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "reading"), false);
                if (ModuleRules.MayTick(page.Version, version, page.Options[0], answer) is { } refusal)
                    return (refusal, false);
                var made = await connection.ExecuteAsync(
                    "insert into training.done (person_id, module_id, version, at) values (@personId, @moduleId, @version, @now) "
                        + "on conflict do nothing",
                    new
                    {
                        personId,
                        moduleId,
                        version,
                        now,
                    },
                    transaction
                );
                if (made == 1)
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.TrainingRead,
                        new
                        {
                            person = await LedgerStore.Number(connection, transaction, personId),
                            module = moduleId,
                            version,
                        }
                    );
                return (true, true);
            },
            cancel
        );

    /// <summary>Puts a new version of a page in place, and tells those who have to read it again.</summary>
    /// <param name="version">The version it was written against.</param>
    /// <param name="reason">Null looks only.</param>
    /// <returns>Who has to read it again; null when there is no such reading; or why not.</returns>
    public Task<Result<IReadOnlyList<PersonId>>> Publish(
        string moduleId,
        int version,
        PageChange change,
        string? reason,
        PersonId by,
        LocalDate today,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    "select 1 from training.module where id = @moduleId for update",
                    new { moduleId },
                    transaction
                );
                if (
                    (await Modules(connection, transaction)).FirstOrDefault(m => m.Id == moduleId && m.Kind == ModuleKind.Reading)
                    is not { } module
                )
                    return ((Result<IReadOnlyList<PersonId>>)CommonProblems.NotFound.Refuse(null, "reading"), false);
                if (module.Version != version)
                    return (TrainingProblems.PageStale.Refuse("version"), false);
                List<PersonId> again = change.RepeatBy is null ? [] : await Counting(connection, transaction, module, today);
                if (reason is null)
                    return (again, false);
                var next = version + 1;
                await connection.ExecuteAsync(
                    """
                    insert into training.page (module_id, version, body, check_text, options)
                        values (@moduleId, @next, @Body, @Check, @options);
                    update training.module set version = @next where id = @moduleId;
                    """,
                    new
                    {
                        moduleId,
                        next,
                        change.Body,
                        change.Check,
                        options = change.Options.ToArray(),
                    },
                    transaction
                );
                if (change.RepeatBy is { } day)
                {
                    await Repeated(
                        connection,
                        transaction,
                        module,
                        next,
                        day,
                        again,
                        $"Read “{module.Title}” again",
                        reason,
                        $"/training/read/{moduleId}",
                        by,
                        now
                    );
                    return (again, true);
                }
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TrainingReworded,
                    new
                    {
                        module = moduleId,
                        version = next,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (again, true);
            },
            cancel
        );

    /// <summary>Asks everybody who passed a quiz to pass it anew: the bank has changed.</summary>
    /// <param name="version">The version it was written against.</param>
    /// <param name="reason">Null looks only.</param>
    /// <returns>Who has to; null when there is no such quiz; or why not.</returns>
    public Task<Result<IReadOnlyList<PersonId>>> Renew(
        string moduleId,
        int version,
        LocalDate by,
        string? reason,
        PersonId who,
        LocalDate today,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                await connection.ExecuteAsync(
                    "select 1 from training.module where id = @moduleId for update",
                    new { moduleId },
                    transaction
                );
                if (
                    (await Modules(connection, transaction)).FirstOrDefault(m => m.Id == moduleId && m.Kind == ModuleKind.Quiz)
                    is not { } module
                )
                    return ((Result<IReadOnlyList<PersonId>>)CommonProblems.NotFound.Refuse(null, "quiz"), false);
                if (module.Version != version)
                    return (TrainingProblems.QuizStale.Refuse("version"), false);
                var again = await Counting(connection, transaction, module, today);
                if (reason is null)
                    return (again, false);
                var next = version + 1;
                await connection.ExecuteAsync(
                    "update training.module set version = @next where id = @moduleId",
                    new { moduleId, next },
                    transaction
                );
                await Repeated(
                    connection,
                    transaction,
                    module,
                    next,
                    by,
                    again,
                    $"Pass “{module.Title}” anew",
                    reason,
                    "/training/ladder",
                    who,
                    now
                );
                return (again, true);
            },
            cancel
        );

    /// <summary>Whose work on a module counts now.</summary>
    private static async Task<List<PersonId>> Counting(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        TrainingModule module,
        LocalDate today
    )
    {
        var done = (
            await connection.QueryAsync<(PersonId Person, int Version, Instant At)>(
                "select d.person_id, d.version, d.at from training.done d join people.person p on p.id = d.person_id where "
                    + "d.module_id = @Id and not p.erased",
                new { module.Id },
                transaction
            )
        ).ToLookup(d => d.Person, d => new ModuleDone(module.Id, d.Version, d.At));
        return [.. done.Where(d => ModuleRules.IsDone(module, d, today)).Select(d => d.Key).OrderBy(p => p.Value, StringComparer.Ordinal)];
    }

    /// <summary>From a version on the ones before count to a day; whom it meets is told once.</summary>
    private static async Task Repeated(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        TrainingModule module,
        int version,
        LocalDate day,
        IReadOnlyList<PersonId> again,
        string title,
        string reason,
        string link,
        PersonId by,
        Instant now
    )
    {
        await connection.ExecuteAsync(
            "insert into training.repeat (module_id, version, by_day, at) values (@Id, @version, @day, @now)",
            new
            {
                module.Id,
                version,
                day,
                now,
            },
            transaction
        );
        var until = day.ToString("d MMM uuuu", System.Globalization.CultureInfo.InvariantCulture);
        await MessageStore.Tell(
            connection,
            transaction,
            [.. again.Select(p => new Telling(p, $"page.{module.Id}.{version}:{p}", $"{title} by {until}", reason, link))],
            now
        );
        var text = await LedgerStore.Keep(connection, transaction, reason, null);
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.TrainingPublished,
            new
            {
                module = module.Id,
                version,
                repeatBy = day.ToString("uuuu-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                again = again.Count,
                by = await LedgerStore.Number(connection, transaction, by),
                why = text.InChain,
            }
        );
    }

    /// <summary>Adds a page that the house wrote itself. It asks for nothing until a path has it.</summary>
    /// <returns>Its id.</returns>
    public Task<string> Add(string title, PageChange page, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // Two pages of one title at once get two ids.
                await connection.ExecuteAsync("select pg_advisory_xact_lock(hashtext('training.module'))", transaction: transaction);
                var id = NewPages.IdOf(title, [.. (await Modules(connection, transaction)).Select(m => m.Id)]);
                await connection.ExecuteAsync(
                    """
                    insert into training.module (id, kind, title, topic, position)
                        values (@id, 'reading', @title, '', (select max(position) + 1 from training.module));
                    insert into training.page (module_id, version, body, check_text, options) values (@id, 1, @Body, @Check, @options);
                    """,
                    new
                    {
                        id,
                        title,
                        page.Body,
                        page.Check,
                        options = page.Options.ToArray(),
                    },
                    transaction
                );
                var text = await LedgerStore.Keep(connection, transaction, reason, null);
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TrainingPageAdded,
                    new
                    {
                        module = id,
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (id, true);
            },
            cancel
        );

    internal static async Task<IReadOnlyList<TrainingModule>> Modules(NpgsqlConnection connection, NpgsqlTransaction? transaction)
    {
        using var rows = await connection.QueryMultipleAsync(
            "select id, kind, title, topic, version from training.module order by position, id; select module_id, version, by_day "
                + "from training.repeat order by version",
            transaction: transaction
        );
        var modules = (await rows.ReadAsync<ModuleRow>()).ToList();
        var repeats = (await rows.ReadAsync<(string Module, int Version, LocalDate By)>()).ToLookup(
            r => r.Module,
            r => new Repeat(r.Version, r.By)
        );
        return
        [
            .. modules.Select(m => new TrainingModule(
                m.Id,
                Enum.Parse<ModuleKind>(m.Kind, true),
                m.Title,
                m.Topic,
                m.Version,
                [.. repeats[m.Id]]
            )),
        ];
    }

    internal static async Task<IReadOnlyList<ModuleDone>> Done(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        PersonId personId
    ) =>
        [
            .. await connection.QueryAsync<ModuleDone>(
                "select module_id, version, at from training.done where person_id = @personId",
                new { personId },
                transaction
            ),
        ];

    private static async Task<ReadingPage?> Page(NpgsqlConnection connection, NpgsqlTransaction? transaction, string moduleId) =>
        await connection.QuerySingleOrDefaultAsync<PageRow>(
            "select p.module_id, m.title, p.version, p.body, p.check_text, p.options from training.module m join training.page p "
                + "on p.module_id = m.id and p.version = m.version where m.id = @moduleId",
            new { moduleId },
            transaction
        )
            is { } row
            ? new ReadingPage(row.ModuleId, row.Title, row.Version, row.Body, row.CheckText, row.Options)
            : null;
}
