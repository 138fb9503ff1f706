using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

public sealed record CertificateNow(
    Guid Id,
    PersonId PersonId,
    string Authority,
    Instant Since,
    Instant? Until,
    PersonId SignedBy,
    bool Founding
);

/// <summary>Certificates and who may sign them.</summary>
public sealed class TrainingStore(NpgsqlDataSource db)
{
    private sealed record SpanRow(string Authority, Instant From, Instant? Until);

    /// <summary>
    /// Signs a person off by a note, if the signer holds the authority at this moment and the house does not want the whole path first.
    /// </summary>
    /// <returns>The certificate, and what was left open on its path.</returns>
    public Task<Result<(CertificateNow Certificate, IReadOnlyList<string> Open)>> SignOff(
        PersonId memberId,
        string authority,
        string? note,
        PersonId signer,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var signed = await Sign(connection, transaction, memberId, authority, note, signer, false, rules, now);
                return (signed, signed.Refusal is null);
            },
            cancel
        );

    /// <param name="onSheet">The practical sheet was gone through.</param>
    internal static async Task<Result<(CertificateNow Certificate, IReadOnlyList<string> Open)>> Sign(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId memberId,
        string authority,
        string? note,
        PersonId signer,
        bool onSheet,
        HouseRules rules,
        Instant now
    )
    {
        if (!await Known(connection, transaction, memberId))
            return PeopleProblems.PersonUnknownId.Refuse("memberId", memberId);
        var paths = await PathStore.All(connection, transaction, rules, now);
        if (paths.FirstOrDefault(p => p.Path.Authority == authority)?.Path is not { } path)
            return TrainingProblems.SignOffUnknownAuthority.Refuse("authority", authority);
        var signed = SignOffs.Sign(
            signer,
            memberId,
            authority,
            note,
            await Trains(connection, transaction, signer, authority, now),
            rules,
            now
        );
        if (signed.Refusal is { } refusal)
            return refusal;
        var open = await Open(connection, transaction, path, paths, memberId, rules, now);
        if (SignOffs.MayPass(path, open, onSheet, rules) is { } wait)
            return wait;
        var certificate = new CertificateNow(
            Id: Guid.NewGuid(),
            PersonId: memberId,
            Authority: authority,
            Since: now,
            Until: signed.Value.End,
            SignedBy: signer,
            Founding: false
        );
        await Save(connection, transaction, certificate, open.Count == 0 ? note! : $"{note} Left open: {string.Join("; ", open)}.", now);
        return (certificate, open);
    }

    internal static async Task<IReadOnlyList<string>> Open(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        TrainingPath path,
        IReadOnlyList<PathNow> paths,
        PersonId memberId,
        HouseRules rules,
        Instant now
    )
    {
        var progress = await PathStore.ProgressOf(connection, transaction, memberId, paths, now);
        return [.. Ladder.StillToDo(path, progress, null, rules, now).Select(s => s.Title)];
    }

    /// <summary>When somebody may sign for an authority of a machine.</summary>
    internal static async Task<IReadOnlyList<Span>> Trains(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        PersonId signer,
        string authority,
        Instant now
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            """
            select '' as authority, lower(held) as "from", upper(held) as until from people.acting where person_id = @signer
                and role = 'trainer' and machine_id = @machine and upper_inf(recorded);
            select authority from training.path where upper_inf(recorded) and held @> @now and split_part(authority, '/', 1) = @machine
                and (body -> 'need' ->> 'forSigning')::boolean;
            select authority, lower(held) as "from", upper(held) as until from training.certificate where person_id = @signer
                and upper_inf(recorded);
            """,
            new
            {
                signer,
                machine = SignOffs.MachineOf(authority),
                now,
            },
            transaction
        );
        var roles = (await rows.ReadAsync<SpanRow>()).Select(r => new Span(r.From, r.Until)).ToList();
        var teaching = (await rows.ReadAsync<string>()).ToList();
        var held = (await rows.ReadAsync<SpanRow>()).Select(r => new Certificate(r.Authority, new Span(r.From, r.Until))).ToList();
        return SignOffs.Trains(authority, roles, teaching, held);
    }

    internal static Task<bool> Known(NpgsqlConnection connection, NpgsqlTransaction? transaction, PersonId personId) =>
        connection.ExecuteScalarAsync<bool>(
            "select exists (select from people.person where id = @personId and not erased)",
            new { personId },
            transaction
        )!;

    /// <summary>Enters a certificate from papers of before, marked as such.</summary>
    public Task<Result<CertificateNow>> EnterPaper(
        PersonId memberId,
        string authority,
        LocalDate? signedOn,
        string? evidence,
        PersonId by,
        HouseRules rules,
        Instant now,
        CancellationToken cancel
    ) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (!await Known(connection, transaction, memberId))
                    return ((Result<CertificateNow>)PeopleProblems.PersonUnknownId.Refuse("memberId", memberId), false);
                if ((await PathStore.All(connection, transaction, rules, now)).All(p => p.Path.Authority != authority))
                    return (TrainingProblems.SignOffUnknownAuthority.Refuse("authority", authority), false);
                var held = SignOffs.FromPaper(by, memberId, signedOn, evidence, rules, now);
                if (held.Refusal is { } refusal)
                    return (refusal, false);
                var certificate = new CertificateNow(
                    Id: Guid.NewGuid(),
                    PersonId: memberId,
                    Authority: authority,
                    Since: held.Value.Start,
                    Until: held.Value.End,
                    SignedBy: by,
                    Founding: false
                );
                await Save(connection, transaction, certificate, evidence!, now, fromPaper: true);
                return (certificate, true);
            },
            cancel
        );

    /// <summary>Certificates that hold now, soonest to end first.</summary>
    /// <param name="endingBefore">Only those that end before; null takes all.</param>
    /// <param name="personId">Only this person's; null takes everybody's.</param>
    public async Task<IReadOnlyList<CertificateNow>> Held(
        Instant now,
        Instant? endingBefore,
        CancellationToken cancel,
        PersonId? personId = null
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<CertificateNow>(
                new CommandDefinition(
                    """
                    select id, person_id, authority, lower(held) as since, upper(held) as until, signed_by, founding
                    from training.certificate c
                    where upper_inf(recorded) and held @> @now and (@endingBefore::timestamptz is null or upper(held) <= @endingBefore)
                        and (@personId::text is null or person_id = @personId)
                      and not exists (select from training.certificate n where n.person_id = c.person_id and n.authority = c.authority
                          and n.id <> c.id
                          and upper_inf(n.recorded) and (upper_inf(n.held) or upper(n.held) > upper(c.held)))
                    order by upper(held), person_id
                    """,
                    new
                    {
                        now,
                        endingBefore,
                        personId,
                    },
                    cancellationToken: cancel
                )
            ),
        ];
    }

    internal static async Task Save(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        CertificateNow certificate,
        string note,
        Instant now,
        bool fromPaper = false
    )
    {
        var text = await LedgerStore.Keep(connection, transaction, note, certificate.PersonId);
        await connection.ExecuteAsync(
            """
            insert into training.certificate (id, person_id, authority, signed_by, text_id, founding, from_paper, held, recorded)
            values (@Id, @PersonId, @Authority, @SignedBy, @text, @Founding, @fromPaper, tstzrange(@Since, @Until), tstzrange(@now, null))
            """,
            new
            {
                certificate.Id,
                certificate.PersonId,
                certificate.Authority,
                certificate.SignedBy,
                text = text.Id,
                certificate.Founding,
                fromPaper,
                certificate.Since,
                certificate.Until,
                now,
            },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            fromPaper ? RecordEvents.TrainingPaperEntered : RecordEvents.TrainingSignedOff,
            new
            {
                certificate = certificate.Id,
                person = await LedgerStore.Number(connection, transaction, certificate.PersonId),
                by = await LedgerStore.Number(connection, transaction, certificate.SignedBy),
                authority = certificate.Authority,
                start = Core.Ledger.Chain.Instant(certificate.Since),
                end = certificate.Until is { } u ? Core.Ledger.Chain.Instant(u) : null,
                note = text.InChain,
            }
        );
    }
}
