using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <param name="ByRule">What the ladder said; a steward may have taken another step.</param>
public sealed record ConductNow(
    Guid Id,
    PersonId PersonId,
    MachineId? MachineId,
    ConductMatter Matter,
    ConductStep Step,
    ConductStep ByRule,
    PersonId WrittenBy,
    string? Text,
    Instant At,
    AppealNow? Appeal
);

/// <param name="Outcome"><c>upheld</c> or <c>lifted</c>; null while it waits.</param>
public sealed record AppealNow(string? Text, Instant At, PersonId? HeardBy, LocalDate? HeardOn, string? Outcome, string? OutcomeText);

/// <summary>What happened with a person, what followed, and appeals against it.</summary>
public sealed class ConductStore(NpgsqlDataSource db)
{
    private sealed record Row(
        Guid Id,
        PersonId PersonId,
        MachineId? MachineId,
        string Matter,
        string Step,
        string ByRule,
        PersonId WrittenBy,
        string? Text,
        Instant At,
        Guid? PauseId,
        string? AppealText,
        Instant? AppealAt,
        PersonId? HeardBy,
        LocalDate? HeardOn,
        string? Outcome,
        string? OutcomeText
    )
    {
        public ConductNow Now =>
            new(
                Id: Id,
                PersonId: PersonId,
                MachineId: MachineId,
                Matter: Enum.Parse<ConductMatter>(Matter, true),
                Step: Enum.Parse<ConductStep>(Step, true),
                ByRule: Enum.Parse<ConductStep>(ByRule, true),
                WrittenBy: WrittenBy,
                Text: Text,
                At: At,
                Appeal: AppealAt is { } at ? new AppealNow(AppealText, at, HeardBy, HeardOn, Outcome, OutcomeText) : null
            );
    }

    private const string Columns = """
        select c.id, c.person_id, c.machine_id, c.matter, c.step, c.by_rule, c.written_by, t.body as text, c.at, c.pause_id,
            a_text.body as appeal_text, a.at as appeal_at, a.heard_by, a.heard_on, a.outcome, o.body as outcome_text
        from people.conduct c left join ledger.text t on t.id = c.text_id
        left join people.appeal a on a.conduct_id = c.id left join ledger.text a_text on a_text.id = a.text_id left
            join ledger.text o on o.id = a.outcome_text_id
        """;

    /// <summary>Entries about a person, newest first.</summary>
    public async Task<IReadOnlyList<ConductNow>> Of(PersonId personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        $"{Columns} where c.person_id = @personId order by c.at desc, c.id",
                        new { personId },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => r.Now),
        ];
    }

    /// <summary>Appeals that nobody has heard yet, oldest first.</summary>
    public async Task<IReadOnlyList<ConductNow>> Waiting(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        $"{Columns} where a.at is not null and a.outcome is null order by a.at",
                        cancellationToken: cancel
                    )
                )
            ).Select(r => r.Now),
        ];
    }

    /// <summary>The step that the ladder says for one more entry.</summary>
    public async Task<ConductStep> Next(PersonId personId, ConductMatter matter, HouseRules rules, Instant now, CancellationToken cancel) =>
        ConductLadder.Next(matter, Counting(await Of(personId, cancel)), rules, now);

    /// <summary>Writes an entry; a pause begins with it.</summary>
    public Task<Result<Guid>> Write(
        PersonId personId,
        MachineId? machineId,
        ConductMatter matter,
        ConductStep step,
        string text,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (ConductLadder.MayWrite(personId, by) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                var (person, machine) = await connection.QuerySingleAsync<(bool, bool)>(
                    "select exists (select from people.person where id = @personId and not erased), @machineId::text is null or "
                        + "exists (select from house.machine where id = @machineId)",
                    new { personId, machineId },
                    transaction
                );
                if (!person)
                    return (PeopleProblems.PersonUnknownId.Refuse("personId", personId), false);
                if (!machine)
                    return (PeopleProblems.ConductMachine.Refuse("machineId"), false);
                // Two entries at once: the second sees the first.
                await connection.ExecuteAsync(
                    "select 1 from people.person where id = @personId for no key update",
                    new { personId },
                    transaction
                );
                var earlier = (
                    await connection.QueryAsync<Row>($"{Columns} where c.person_id = @personId", new { personId }, transaction)
                ).Select(r => r.Now);
                var rule = ConductLadder.Next(matter, Counting(earlier), rules, now);
                var kept = await LedgerStore.Keep(connection, transaction, text, personId);
                Guid? pause =
                    step == ConductStep.Pause ? await PeopleStore.Pause(connection, transaction, personId, by, text, null, now) : null;
                var id = Guid.NewGuid();
                await connection.ExecuteAsync(
                    """
                    insert into people.conduct (id, person_id, machine_id, matter, step, by_rule, written_by, text_id, at, pause_id)
                    values (@id, @personId, @machineId, @matter, @step, @rule, @by, @text, @now, @pause)
                    """,
                    new
                    {
                        id,
                        personId,
                        machineId,
                        matter = Word(matter),
                        step = Word(step),
                        rule = Word(rule),
                        by,
                        text = kept.Id,
                        now,
                        pause,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.ConductWritten,
                    new
                    {
                        entry = id,
                        person = await LedgerStore.Number(connection, transaction, personId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        matter = Word(matter),
                        step = Word(step),
                        byRule = Word(rule),
                        what = kept.InChain,
                    }
                );
                await MessageStore.Tell(
                    connection,
                    transaction,
                    personId,
                    $"conduct.{id}:{personId}",
                    "Something was written about your conduct",
                    text,
                    "/me",
                    now
                );
                return (id, true);
            },
            cancel
        );

    /// <summary>The person asks for it to be heard again.</summary>
    /// <returns>Refused when there is no such entry.</returns>
    public Task<Result<bool>> Appeal(Guid id, string text, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { } entry || entry.PersonId != by)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "entry"), false);
                if (entry.AppealAt is not null)
                    return (PeopleProblems.AppealTwice.Refuse(), false);
                var kept = await LedgerStore.Keep(connection, transaction, text, by);
                await connection.ExecuteAsync(
                    "insert into people.appeal (conduct_id, person_id, written_by, text_id, at) values (@id, @PersonId, "
                        + "@WrittenBy, @text, @now)",
                    new
                    {
                        id,
                        entry.PersonId,
                        entry.WrittenBy,
                        text = kept.Id,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.ConductAppealed,
                    new
                    {
                        entry = id,
                        person = await LedgerStore.Number(connection, transaction, by),
                        what = kept.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Somebody who was not involved says what comes of it. Lifted, the entry no longer counts, and its pause ends.</summary>
    /// <returns>Refused when there is no such appeal.</returns>
    public Task<Result<bool>> Hear(
        Guid id,
        bool lifted,
        LocalDate heardOn,
        string text,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await Locked(connection, transaction, id) is not { AppealAt: not null } entry)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "entry"), false);
                if (entry.Outcome is not null)
                    return (PeopleProblems.AppealHeard.Refuse(), false);
                if (ConductLadder.MayHear(entry.PersonId, entry.WrittenBy, by) is { } refusal)
                    return (refusal, false);
                var kept = await LedgerStore.Keep(connection, transaction, text, entry.PersonId);
                var word = lifted ? "lifted" : "upheld";
                await connection.ExecuteAsync(
                    "update people.appeal set heard_by = @by, heard_on = @heardOn, heard_at = @now, outcome = @word, "
                        + "outcome_text_id = @text where conduct_id = @id",
                    new
                    {
                        id,
                        by,
                        heardOn,
                        now,
                        word,
                        text = kept.Id,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.ConductHeard,
                    new
                    {
                        entry = id,
                        person = await LedgerStore.Number(connection, transaction, entry.PersonId),
                        by = await LedgerStore.Number(connection, transaction, by),
                        outcome = word,
                        what = kept.InChain,
                    }
                );
                if (lifted && entry.PauseId is { } pause)
                    await PeopleStore.EndPause(connection, transaction, pause, by, text, now);
                await MessageStore.Tell(
                    connection,
                    transaction,
                    entry.PersonId,
                    $"appeal.{id}:{entry.PersonId}",
                    lifted ? "Your appeal was granted" : "Your appeal was heard: it stands",
                    text,
                    "/me",
                    now
                );
                return (true, true);
            },
            cancel
        );

    private static IEnumerable<ConductEntry> Counting(IEnumerable<ConductNow> entries) =>
        entries.Select(e => new ConductEntry(e.Matter, e.Step, e.At, e.Appeal?.Outcome == "lifted"));

    private static async Task<Row?> Locked(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        await connection.ExecuteAsync(
            "select 1 from people.person where id = (select person_id from people.conduct where id = @id) for no key update",
            new { id },
            transaction
        );
        return await connection.QuerySingleOrDefaultAsync<Row>($"{Columns} where c.id = @id", new { id }, transaction);
    }

    private static string Word<T>(T value)
        where T : struct, Enum => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
