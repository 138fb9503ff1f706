using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.Booking;

/// <param name="MachineName">As it is called now.</param>
/// <param name="Materials">Names, by id.</param>
/// <param name="Drawings">Names, by id; one that was deleted is missing.</param>
/// <param name="Sheets">Tags of the sheets that are still there, cleared and not set aside.</param>
/// <param name="LastRun">Of one of its drawings by this person on this machine; null for never, or without a drawing.</param>
public sealed record KeptJob(
    Guid Id,
    string Name,
    Job Job,
    Instant At,
    string MachineName,
    IReadOnlyDictionary<string, string> Materials,
    IReadOnlyDictionary<string, string> Drawings,
    IReadOnlyList<string> Sheets,
    (Instant At, string Outcome)? LastRun
);

/// <summary>Jobs that people keep for themselves.</summary>
public sealed class JobStore(NpgsqlDataSource db)
{
    /// <summary>A person's jobs, what was run last first.</summary>
    public async Task<IReadOnlyList<KeptJob>> Of(PersonId person, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var rows = await connection.QueryAsync<Row>(
            new CommandDefinition(
                """
                select j.id, j.name, j.body, j.at, m.name as machine_name,
                    (select jsonb_object_agg(a.id, a.name) from materials.material a
                        where a.id in (select i ->> 'materialId' from jsonb_array_elements(j.body -> 'items') i)) as materials,
                    (select jsonb_object_agg(d.id, d.name) from bench.drawing d
                        where d.id::text in (select i ->> 'drawingId' from jsonb_array_elements(j.body -> 'items') i)) as drawings,
                    array(select s.tag from materials.sheet s
                        where s.tag in (select i ->> 'sheetTag' from jsonb_array_elements(j.body -> 'items') i)
                            and exists (select from materials.clearance c where c.tag = s.tag and c.held @> @now and upper_inf(c.recorded))
                            and not exists (select from materials.quarantine q where q.tag = s.tag and upper_inf(q.recorded)
                                and coalesce(upper(q.held) > @now, true))) as sheets,
                    r.at as ran, r.outcome
                from bench.job j join house.machine m on m.id = j.machine_id
                left join lateral (
                    select upper(l.during) as at, l.outcome from run.log l join booking.booking b on b.id = l.booking_id
                    where l.person_id = j.person_id and l.machine_id = j.machine_id and upper(l.during) <= @now and exists (
                        select from jsonb_array_elements(b.ask -> 'items') i
                        join jsonb_array_elements(j.body -> 'items') own on own ->> 'drawingId' = i ->> 'drawingId')
                    order by upper(l.during) desc limit 1
                ) r on true
                where j.person_id = @person
                order by greatest(j.at, r.at) desc, j.id
                """,
                new { person, now },
                cancellationToken: cancel
            )
        );
        return [.. rows.Select(r => r.ToJob())];
    }

    /// <param name="id">Client-made: the same again changes nothing.</param>
    public Task<Result<Guid>> Keep(Guid id, PersonId person, string? name, Job job, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                // Two tabs at once: one after the other.
                await connection.ExecuteAsync("select from people.person where id = @person for update", new { person }, transaction);
                var kept = await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from bench.job where person_id = @person and id <> @id",
                    new { person, id },
                    transaction
                );
                if (Job.MayKeep(name, kept) is { } refusal)
                    return ((Result<Guid>)refusal, false);
                await connection.ExecuteAsync(
                    """
                    insert into bench.job (id, person_id, name, machine_id, body, at)
                    values (@id, @person, @name, @MachineId, @body::jsonb, @now) on conflict (id) do nothing
                    """,
                    new
                    {
                        id,
                        person,
                        name = name!.Trim(),
                        job.MachineId,
                        body = GateJson.Write(job),
                        now,
                    },
                    transaction
                );
                return (id, true);
            },
            cancel
        );

    /// <returns>False where the person keeps no such job.</returns>
    public async Task<bool> TakeAway(Guid id, PersonId person, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
                new CommandDefinition(
                    "delete from bench.job where id = @id and person_id = @person",
                    new { id, person },
                    cancellationToken: cancel
                )
            ) > 0;
    }

    private sealed record Row(
        Guid Id,
        string Name,
        string Body,
        Instant At,
        string MachineName,
        string? Materials,
        string? Drawings,
        string[] Sheets,
        Instant? Ran,
        string? Outcome
    )
    {
        public KeptJob ToJob()
        {
            static Dictionary<string, string> Names(string? json) => json is null ? [] : GateJson.Read<Dictionary<string, string>>(json);
            return new(
                Id,
                Name,
                Job: GateJson.Read<Job>(Body),
                At: At,
                MachineName: MachineName,
                Materials: Names(Materials),
                Drawings: Names(Drawings),
                Sheets: Sheets,
                LastRun: Ran is { } ran ? (ran, Outcome!) : null
            );
        }
    }
}
