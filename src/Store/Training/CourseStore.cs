using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

/// <summary>A page to read.</summary>
/// <param name="Body">Markdown.</param>
/// <param name="Options">Answers to the question; the first is right.</param>
public sealed record ReadingPage(string ModuleId, string Title, int Version, string Body, string Check, IReadOnlyList<string> Options);

/// <summary>The modules of a house, and what people did of them.</summary>
public sealed class CourseStore(NpgsqlDataSource db)
{
    private sealed record ModuleRow(string Id, string Kind, string Title, string Topic, int Version, int RepeatFrom)
    {
        public TrainingModule Module => new(Id, Enum.Parse<ModuleKind>(Kind, true), Title, Topic, Version, RepeatFrom);
    }

    private sealed record PageRow(string ModuleId, string Title, int Version, string Body, string CheckText, string[] Options);

    /// <summary>In the order of the course.</summary>
    public async Task<IReadOnlyList<TrainingModule>> Modules(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Modules(connection, null);
    }

    public async Task<IReadOnlyList<ModuleDone>> Done(string personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Done(connection, null, personId);
    }

    /// <summary>Runs made under supervision on each machine, and when the last of them ended.</summary>
    public async Task<IReadOnlyDictionary<string, (int Runs, Instant Last)>> Supervised(string personId, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return (await connection.QueryAsync<(string Machine, int Runs, Instant Last)>(new CommandDefinition(
            "select machine_id, count(*)::int, max(upper(during)) from run.log where person_id = @personId and supervisor_id is not null and outcome <> 'abandoned' group by machine_id",
            new { personId }, cancellationToken: cancel))).ToDictionary(r => r.Machine, r => (r.Runs, r.Last));
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
    /// <returns>Null when there is no such reading; or why it does not count yet.</returns>
    public Task<Result<bool>?> Acknowledge(string personId, string moduleId, int version, string? answer, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        Result<bool>? outcome = null;
        if (await Page(connection, transaction, moduleId) is not { } page) return (outcome, false);
        if (page.Version != version) return (new Refusal("reading.stale", "This page was changed while you read. Load it again and read what is new.", "version"), false);
        if (answer != page.Options[0]) return (new Refusal("reading.wrong", "That is not what the page says. Look again, then answer.", "answer"), false);
        var made = await connection.ExecuteAsync(
            "insert into training.done (person_id, module_id, version, at) values (@personId, @moduleId, @version, @now) on conflict do nothing", new { personId, moduleId, version, now }, transaction);
        if (made == 1)
            await LedgerStore.Append(connection, transaction, now, "training.read", new { person = await HouseStore.Number(connection, transaction, personId), module = moduleId, version });
        outcome = true;
        return (outcome, true);
    }, cancel);

    internal static async Task<IReadOnlyList<TrainingModule>> Modules(NpgsqlConnection connection, NpgsqlTransaction? transaction) =>
        [.. (await connection.QueryAsync<ModuleRow>("select id, kind, title, topic, version, repeat_from from training.module order by position, id", transaction: transaction)).Select(r => r.Module)];

    internal static async Task<IReadOnlyList<ModuleDone>> Done(NpgsqlConnection connection, NpgsqlTransaction? transaction, string personId) =>
        [.. await connection.QueryAsync<ModuleDone>("select module_id, version, at from training.done where person_id = @personId", new { personId }, transaction)];

    private static async Task<ReadingPage?> Page(NpgsqlConnection connection, NpgsqlTransaction? transaction, string moduleId) =>
        await connection.QuerySingleOrDefaultAsync<PageRow>(
            "select p.module_id, m.title, p.version, p.body, p.check_text, p.options from training.module m join training.page p on p.module_id = m.id and p.version = m.version where m.id = @moduleId",
            new { moduleId }, transaction) is { } row
            ? new ReadingPage(row.ModuleId, row.Title, row.Version, row.Body, row.CheckText, row.Options)
            : null;
}
