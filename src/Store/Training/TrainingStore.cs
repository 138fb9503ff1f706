using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core;
using VelvetGate.Core.House;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Training;

public sealed record CertificateNow(Guid Id, string PersonId, string Authority, Instant Since, Instant? Until, string SignedBy, bool Founding);

/// <summary>Certificates and who may sign them.</summary>
public sealed class TrainingStore(NpgsqlDataSource db)
{
    private sealed record SpanRow(Instant From, Instant? Until);

    /// <summary>Signs a person off, if the signer holds the authority at this moment.</summary>
    public Task<Result<CertificateNow>> SignOff(string memberId, string authority, string? note, string signer, HouseRules rules, Instant now, CancellationToken cancel) =>
        Work.Do(db, async (connection, transaction) =>
        {
            var machine = SignOffs.MachineOf(authority);
            var known = await connection.QuerySingleAsync<(bool Member, bool Machine, bool Fixture)>(
                """
                select exists (select from people.person where id = @memberId and not erased), exists (select from house.machine where id = @machine),
                    @addOn = '' or exists (select from house.fixture where machine_id = @machine and id = @addOn)
                """,
                new { memberId, machine, addOn = authority.Contains('/') ? authority.Split('/', 2)[1] : "" }, transaction);
            if (!known.Member) return (Refuse("person.unknownId", $"There is no member “{memberId}”.", "memberId"), false);
            if (!known.Machine || !known.Fixture) return (Refuse("signOff.unknownAuthority", $"“{authority}” is neither a machine nor an add-on here.", "authority"), false);
            var trains = await connection.QueryAsync<SpanRow>(
                """
                select lower(held) as "from", upper(held) as until from people.role
                where person_id = @signer and role = 'trainer' and machine_id = @machine and upper_inf(recorded)
                """,
                new { signer, machine }, transaction);
            var signed = SignOffs.Sign(signer, memberId, authority, note, trains.Select(t => new Span(t.From, t.Until)), rules, now);
            if (signed.Refusal is { } refusal) return ((Result<CertificateNow>)refusal, false);
            var certificate = new CertificateNow(Guid.NewGuid(), memberId, authority, now, signed.Value.End, signer, false);
            await Save(connection, transaction, certificate, note!, now);
            return (certificate, true);

            static Result<CertificateNow> Refuse(string code, string text, string field) => new Refusal(code, text, field);
        }, cancel);

    /// <summary>Certificates that hold now, soonest to end first.</summary>
    /// <param name="endingBefore">Only those that end before; null takes all.</param>
    /// <param name="personId">Only this person's; null takes everybody's.</param>
    public async Task<IReadOnlyList<CertificateNow>> Held(Instant now, Instant? endingBefore, CancellationToken cancel, string? personId = null)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return [.. await connection.QueryAsync<CertificateNow>(new CommandDefinition(
            """
            select id, person_id, authority, lower(held) as since, upper(held) as until, signed_by, founding
            from training.certificate c
            where upper_inf(recorded) and held @> @now and (@endingBefore::timestamptz is null or upper(held) <= @endingBefore) and (@personId::text is null or person_id = @personId)
              and not exists (select from training.certificate n where n.person_id = c.person_id and n.authority = c.authority and n.id <> c.id
                  and upper_inf(n.recorded) and (upper_inf(n.held) or upper(n.held) > upper(c.held)))
            order by upper(held), person_id
            """,
            new { now, endingBefore, personId }, cancellationToken: cancel))];
    }

    internal static async Task Save(NpgsqlConnection connection, NpgsqlTransaction transaction, CertificateNow certificate, string note, Instant now)
    {
        var text = await LedgerStore.Keep(connection, transaction, note, certificate.PersonId);
        await connection.ExecuteAsync(
            """
            insert into training.certificate (id, person_id, authority, signed_by, text_id, founding, held, recorded)
            values (@Id, @PersonId, @Authority, @SignedBy, @text, @Founding, tstzrange(@Since, @Until), tstzrange(@now, null))
            """,
            new { certificate.Id, certificate.PersonId, certificate.Authority, certificate.SignedBy, text = text.Id, certificate.Founding, certificate.Since, certificate.Until, now }, transaction);
        await LedgerStore.Append(connection, transaction, now, "training.signedOff", new
        {
            certificate = certificate.Id, person = await HouseStore.Number(connection, transaction, certificate.PersonId),
            by = await HouseStore.Number(connection, transaction, certificate.SignedBy), authority = certificate.Authority,
            start = Core.Ledger.Chain.Instant(certificate.Since), end = certificate.Until is { } u ? Core.Ledger.Chain.Instant(u) : null, note = text.InChain,
        });
    }
}
