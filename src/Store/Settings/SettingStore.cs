using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Settings;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.Materials;

namespace VelvetGate.Store.Settings;

/// <summary>The house's library of settings, with how runs with each came out.</summary>
public sealed class SettingStore(NpgsqlDataSource db)
{
    /// <summary>A lasting change of the machine's optics: what was found before it proves nothing after.</summary>
    private const string Serviced =
        "(select max(upper(held)) from house.stop where machine_id = s.machine_id and optics_touched and upper_inf(recorded) "
        + "and upper(held) <= @now)";

    private static readonly string Listed = $"""
        select s.id, s.number, s.body::text as body, t.body as note, s.by, s.at,
            coalesce(r.clean, 0) + p.clean as clean, coalesce(r.charred, 0) as charred, coalesce(r.not_through, 0) as not_through,
            coalesce(r.flames, 0) as flames, greatest(r.last_clean, p.last_clean) as last_clean
        from bench.setting s left join ledger.text t on t.id = s.note_text_id
        left join lateral (
            select count(*) filter (where since and good)::int as clean, max(ended) filter (where since and good) as last_clean,
                count(*) filter (where since and outcome = 'charred')::int as charred,
                count(*) filter (where since and outcome = 'notThrough')::int as not_through,
                count(*) filter (where outcome = 'flame')::int as flames
            from (select outcome, upper(during) as ended, upper(during) > coalesce({Serviced}, '-infinity') as since,
                outcome = 'clean' and counts and (supervisor_id is null or confirmed_at is not null) as good
                from run.log where setting_id = s.id and upper(during) <= @now) l
        ) r on true
        cross join lateral (
            select count(*)::int as clean, max(at) as last_clean from bench.test_piece_result
                where setting_id = s.id and at <= @now and at > coalesce({Serviced}, '-infinity')
        ) p
        where s.ended_at is null
        """;

    /// <summary>Entries of a material, on every machine, newest first.</summary>
    public async Task<IReadOnlyList<Setting>> Of(MaterialId material, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    new CommandDefinition(
                        $"{Listed} and s.material_id = @material order by s.number desc",
                        new { material, now },
                        cancellationToken: cancel
                    )
                )
            ).Select(r => r.ToSetting()),
        ];
    }

    /// <summary>When a machine's optics were last touched; null for never.</summary>
    public async Task<Instant?> ServicedAt(MachineId machine, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteScalarAsync<Instant?>(
            new CommandDefinition(
                $"select {Serviced} from (values (@machine)) s (machine_id)",
                new { machine, now },
                cancellationToken: cancel
            )
        );
    }

    /// <param name="id">Client-made: the same again changes nothing.</param>
    public Task<Result<Guid>> Add(Guid id, SettingValues values, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var known = await connection.ExecuteScalarAsync<bool>(
                    "select exists (select from materials.material where id = @MaterialId)",
                    new { values.MaterialId },
                    transaction
                );
                if (!known)
                    return ((Result<Guid>)SettingsProblems.SettingUnknown.Refuse("materialId", "material"), false);
                await Insert(connection, transaction, id, values, by, now);
                return ((Result<Guid>)id, true);
            },
            cancel
        );

    /// <summary>Puts an entry in, and into the record; the same id again changes nothing.</summary>
    internal static async Task Insert(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        Guid id,
        SettingValues values,
        PersonId by,
        Instant now
    )
    {
        var text = values.Note.Length == 0 ? null : await LedgerStore.Keep(connection, transaction, values.Note, by);
        var added = await connection.ExecuteAsync(
            """
            insert into bench.setting (id, machine_id, material_id, operation, thickness_mm, body, note_text_id, by, at)
            values (@id, @MachineId, @MaterialId, @operation, @ThicknessMm, @body::jsonb, @text, @by, @now)
            on conflict (id) do nothing
            """,
            new
            {
                id,
                values.MachineId,
                values.MaterialId,
                values.ThicknessMm,
                operation = GateWords.Of(values.Operation),
                body = GateJson.Write(values with { Note = "" }),
                text = text?.Id,
                by,
                now,
            },
            transaction
        );
        if (added == 0)
            return;
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.SettingAdded,
            new
            {
                setting = id,
                machine = values.MachineId,
                material = values.MaterialId,
                operation = GateWords.Of(values.Operation),
                by = await LedgerStore.Number(connection, transaction, by),
                note = text?.InChain,
            }
        );
    }

    /// <summary>Takes an entry out; what runs used it still names it.</summary>
    public Task<Result<bool>> End(Guid id, PersonId by, bool staff, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(PersonId By, bool Ended, MachineId Machine)?>(
                    "select by, ended_at is not null, machine_id from bench.setting where id = @id for update",
                    new { id },
                    transaction
                );
                if (row is not { } found)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "setting"), false);
                if (SettingRules.MayEnd(by, found.By, staff, found.Ended) is { } refusal)
                    return (refusal, false);
                await connection.ExecuteAsync(
                    "update bench.setting set ended_at = @now, ended_by = @by where id = @id",
                    new
                    {
                        id,
                        by,
                        now,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.SettingEnded,
                    new
                    {
                        setting = id,
                        machine = found.Machine,
                        by = await LedgerStore.Number(connection, transaction, by),
                    }
                );
                return (true, true);
            },
            cancel
        );

    private sealed record Row(
        Guid Id,
        int Number,
        string Body,
        string? Note,
        PersonId By,
        Instant At,
        int Clean,
        int Charred,
        int NotThrough,
        int Flames,
        Instant? LastClean
    )
    {
        public Setting ToSetting() =>
            new(
                Id,
                Number,
                GateJson.Read<SettingValues>(Body) with
                {
                    Note = Note ?? "",
                },
                By,
                At,
                new SettingResults(Clean, Charred, NotThrough, Flames, LastClean)
            );
    }
}
