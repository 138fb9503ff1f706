using System.Security.Cryptography;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core;
using VelvetGate.Core.Materials;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Materials;

/// <param name="State">waiting, known, added, refused or withdrawn.</param>
/// <param name="Note">What the person wrote; gone once erased.</param>
public sealed record RulingRequest(
    Guid Id, string PersonId, string Name, string Supplier, string Link, string? Note, string? FileName, Instant At, string State, string? MaterialId, Instant? AnsweredAt, string? Answer);

/// <summary>A new material as a steward answers with it.</summary>
public sealed record NewMaterial(string Name, string Family, RulingStanding Standing, IReadOnlyList<string> Reasons, string Hazard, LocalDate ReviewBy);

/// <summary>Requests for rulings on what is not on the list.</summary>
public sealed class RulingRequestStore(NpgsqlDataSource db)
{
    private const string Columns = """
        select r.id, r.person_id, r.name, r.supplier, r.link, n.body as note, r.file_name, r.at, r.state, r.material_id, r.answered_at, a.body as answer
        from materials.request r left join ledger.text n on n.id = r.text_id left join ledger.text a on a.id = r.answer_text_id
        """;

    /// <returns>Its id, or why not.</returns>
    public Task<Result<Guid>> Add(string personId, string name, string supplier, string link, string? note, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        // The person's row is the lock under which their open requests are counted.
        await connection.ExecuteAsync("select 1 from people.person where id = @personId for update", new { personId }, transaction);
        if (await connection.ExecuteScalarAsync<int>("select count(*)::int from materials.request where person_id = @personId and state = 'waiting'", new { personId }, transaction) >= RulingRequests.MostOpen)
            return ((Result<Guid>)new Refusal("request.many", $"{RulingRequests.MostOpen} of your requests wait already. Talk to a steward, or withdraw one.", "name"), false);
        var id = Guid.NewGuid();
        var text = string.IsNullOrWhiteSpace(note) ? null : await LedgerStore.Keep(connection, transaction, note, personId);
        await connection.ExecuteAsync(
            "insert into materials.request (id, person_id, name, supplier, link, text_id, at) values (@id, @personId, @name, @supplier, @link, @text, @now)",
            new { id, personId, name, supplier, link, text = text?.Id, now }, transaction);
        await LedgerStore.Append(connection, transaction, now, "ruling.requested", new { request = id, by = await HouseStore.Number(connection, transaction, personId) });
        return (id, true);
    }, cancel);

    /// <summary>Keeps a data sheet with a request that waits.</summary>
    /// <returns>False when there is none of this person's.</returns>
    public Task<bool> Attach(Guid id, string personId, string name, string mediaType, byte[] bytes, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        var sha256 = Convert.ToHexStringLower(SHA256.HashData(bytes));
        await connection.ExecuteAsync(
            "insert into bench.file (sha256, media_type, length, bytes) values (@sha256, @mediaType, @length, @bytes) on conflict do nothing",
            new { sha256, mediaType, length = bytes.LongLength, bytes }, transaction);
        var kept = await connection.ExecuteAsync(
            "update materials.request set file_name = @name, sha256 = @sha256 where id = @id and person_id = @personId and state = 'waiting'", new { id, personId, name, sha256 }, transaction) == 1;
        return (kept, kept);
    }, cancel);

    /// <returns>Null when the request has no file.</returns>
    public async Task<(string Name, string MediaType, byte[] Bytes)?> File(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(string, string, byte[])?>(new CommandDefinition(
            "select r.file_name, f.media_type, f.bytes from materials.request r join bench.file f on f.sha256 = r.sha256 where r.id = @id", new { id }, cancellationToken: cancel));
    }

    /// <summary>Those that wait, and this person's own, oldest first.</summary>
    /// <param name="everybodys">Stewards see whatever waits.</param>
    public async Task<IReadOnlyList<RulingRequest>> List(string personId, bool everybodys, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<RulingRequest>(new CommandDefinition(
            $"{Columns} where r.person_id = @personId or (@everybodys and r.state = 'waiting') order by r.state <> 'waiting', r.at", new { personId, everybodys }, cancellationToken: cancel))];
    }

    /// <returns>Null when there is no such request.</returns>
    public async Task<RulingRequest?> Find(Guid id, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<RulingRequest>(new CommandDefinition($"{Columns} where r.id = @id", new { id }, cancellationToken: cancel));
    }

    /// <returns>False when it is not the person's own, or no longer waits.</returns>
    public Task<bool> Withdraw(Guid id, string personId, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        var done = await connection.ExecuteAsync("update materials.request set state = 'withdrawn' where id = @id and person_id = @personId and state = 'waiting'", new { id, personId }, transaction) == 1;
        if (done) await LedgerStore.Append(connection, transaction, now, "ruling.answered", new { request = id, state = "withdrawn", by = await HouseStore.Number(connection, transaction, personId) });
        return (done, done);
    }, cancel);

    /// <summary>Answers a request: it is a known material, it comes on the list, or it stays out.</summary>
    /// <param name="knownAs">The material it is, for <see cref="RequestAnswer.Known"/>.</param>
    /// <param name="added">For <see cref="RequestAnswer.Added"/>: shut at once, or by arrangement before another pair of eyes.</param>
    /// <returns>The material, if any; null when nothing waits under that id; or why not.</returns>
    public Task<Result<string?>?> Answer(Guid id, RequestAnswer answer, string? knownAs, NewMaterial? added, string reason, string by, Instant now, CancellationToken cancel) => Work.Do(db, async (connection, transaction) =>
    {
        Result<string?>? outcome = null;
        var row = await connection.QuerySingleOrDefaultAsync<(string Person, string Name)?>("select person_id, name from materials.request where id = @id and state = 'waiting' for update", new { id }, transaction);
        if (row is not { } request) return (outcome, false);
        if (RulingRequests.MayAnswer(request.Person, by) is { } self) return (self, false);
        var material = knownAs;
        if (answer == RequestAnswer.Known)
        {
            var known = await connection.ExecuteAsync(
                "update materials.material set synonyms = array_append(synonyms, @Name), version = version + 1 where id = @knownAs and not (@Name = any(synonyms)) and lower(name) <> lower(@Name)", new { request.Name, knownAs }, transaction);
            if (known == 0 && !await connection.ExecuteScalarAsync<bool>("select exists (select from materials.material where id = @knownAs)", new { knownAs }, transaction))
                return (new Refusal("request.material", "Choose the material of the list that it is.", "materialId"), false);
        }
        if (answer == RequestAnswer.Added)
        {
            var put = await AddMaterial(connection, transaction, added!, reason, by, now);
            if (put.Refusal is { } refusal) return (refusal, false);
            material = put.Value;
        }
        var text = await LedgerStore.Keep(connection, transaction, reason, request.Person);
        var state = GateWords.Of(answer);
        await connection.ExecuteAsync(
            "update materials.request set state = @state, material_id = @material, answered_by = @by, answered_at = @now, answer_text_id = @text where id = @id",
            new { id, state, material, by, now, text = text.Id }, transaction);
        await MessageStore.Tell(
            connection, transaction, request.Person, $"request.{state}:{id}",
            answer switch { RequestAnswer.Known => $"“{request.Name}” is on the list already", RequestAnswer.Added => $"“{request.Name}” came on the list", _ => $"“{request.Name}” stays out" },
            reason, material is null ? "/materials/requests" : $"/materials/{material}", now);
        await LedgerStore.Append(connection, transaction, now, "ruling.answered", new { request = id, state, material, by = await HouseStore.Number(connection, transaction, by), why = text.InChain });
        outcome = material;
        return (outcome, true);
    }, cancel);

    private static async Task<Result<string>> AddMaterial(NpgsqlConnection connection, NpgsqlTransaction transaction, NewMaterial added, string reason, string by, Instant now)
    {
        var id = RulingRequests.IdOf(added.Name);
        if (id.Length == 0) return new Refusal("request.name", "Give it a name with letters.", "name");
        var made = await connection.ExecuteAsync(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
            values (@id, @Name, @Family, '{}', 1, false, (select coalesce(max(position), 0) + 1 from materials.material)) on conflict do nothing
            """,
            new { id, added.Name, added.Family }, transaction);
        if (made == 0) return new Refusal("request.name", "A material of that name is on the list already. Say that it is that one, or give another name.", "name");
        var ranges = RulingRequests.Everywhere(id, added.Standing, added.Reasons, added.Hazard);
        var put = await RulingStore.Put(connection, transaction, new RulingChange(id, [.. ranges.Select(RulingCell.Of)], ranges, "", added.ReviewBy), now, reason, by, now);
        return put.Refusal is { } refusal ? refusal : id;
    }
}
