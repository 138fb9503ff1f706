using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <param name="Evidence">Gone once erased.</param>
/// <param name="ConfirmedAt">Null while nobody has confirmed it.</param>
public sealed record FoundingNow(
    Guid Id,
    PersonId PersonId,
    string GivenName,
    string FamilyName,
    MachineId MachineId,
    PersonId SetBy,
    Instant At,
    Instant Ends,
    Instant? ConfirmedAt,
    string? Evidence
);

/// <summary>
/// The first authority on a machine that has nobody to sign: written down with evidence, confirmed by another, ending after a year.
/// </summary>
public sealed class FoundingStore(NpgsqlDataSource db)
{
    /// <summary>Gives a person certificate and trainer authority for a machine without trainers.</summary>
    public async Task<Result<Guid>> Found(
        PersonId personId,
        MachineId machineId,
        string? evidence,
        HouseRules rules,
        PersonId by,
        Instant now,
        CancellationToken cancel
    )
    {
        try
        {
            return await Transaction.Run(
                db,
                async (connection, transaction) =>
                {
                    var (person, machine, trainers) = await connection.QuerySingleAsync<(bool, bool, bool)>(
                        """
                        select exists (select from people.person where id = @personId and not erased), exists (select from house.machine
                            where id = @machineId),
                            exists (select from people.acting where role = 'trainer' and machine_id = @machineId and upper_inf(recorded)
                                and held @> @now)
                        """,
                        new
                        {
                            personId,
                            machineId,
                            now,
                        },
                        transaction
                    );
                    if (!person)
                        return (PeopleProblems.PersonUnknownId.Refuse("personId", personId), false);
                    if (!machine)
                        return (TrainingProblems.FoundingMachine.Refuse("machineId", machineId), false);
                    var span = SignOffs.Found(trainers, evidence, rules, now);
                    if (span.Refusal is { } refusal)
                        return ((Result<Guid>)refusal, false);
                    var id = Guid.NewGuid();
                    var certificate = new CertificateNow(
                        Id: Guid.NewGuid(),
                        PersonId: personId,
                        Authority: machineId.Value,
                        Since: now,
                        Until: span.Value.End,
                        SignedBy: by,
                        Founding: true
                    );
                    await TrainingStore.Save(connection, transaction, certificate, evidence!, now);
                    var text = await LedgerStore.Keep(connection, transaction, evidence!, personId);
                    await connection.ExecuteAsync(
                        """
                        insert into people.founding (id, person_id, machine_id, certificate_id, set_by, text_id, at, ends)
                        values (@id, @personId, @machineId, @certificate, @by, @text, @now, @ends)
                        """,
                        new
                        {
                            id,
                            personId,
                            machineId,
                            certificate = certificate.Id,
                            by,
                            text = text.Id,
                            now,
                            ends = span.Value.End,
                        },
                        transaction
                    );
                    await AccountStore.GiveRole(connection, transaction, personId, Role.Trainer, machineId, span.Value.End, now);
                    await LedgerStore.Append(
                        connection,
                        transaction,
                        now,
                        RecordEvents.TrainingFounded,
                        new
                        {
                            founding = id,
                            person = await LedgerStore.Number(connection, transaction, personId),
                            by = await LedgerStore.Number(connection, transaction, by),
                            machine = machineId,
                            end = Core.Ledger.Chain.Instant(span.Value.End!.Value),
                            why = text.InChain,
                        }
                    );
                    return (id, true);
                },
                cancel
            );
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            return TrainingProblems.FoundingTwice.Refuse("machineId");
        }
    }

    /// <summary>Confirms it with another pair of eyes.</summary>
    /// <returns>Refused when none waits for confirming.</returns>
    public Task<Result<bool>> Confirm(Guid id, string reason, PersonId by, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(PersonId Person, PersonId SetBy)?>(
                    "select person_id, set_by from people.founding where id = @id and confirmed_at is null and ends > @now for update",
                    new { id, now },
                    transaction
                );
                if (row is not { } founding)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "founding sign-off that waits"), false);
                if (SignOffs.MayConfirm(founding.Person, founding.SetBy, by) is { } refusal)
                    return (refusal, false);
                var text = await LedgerStore.Keep(connection, transaction, reason, founding.Person);
                await connection.ExecuteAsync(
                    "update people.founding set confirmed_by = @by, confirmed_at = @now, confirm_text_id = @text where id = @id",
                    new
                    {
                        id,
                        by,
                        now,
                        text = text.Id,
                    },
                    transaction
                );
                await LedgerStore.Append(
                    connection,
                    transaction,
                    now,
                    RecordEvents.TrainingConfirmed,
                    new
                    {
                        founding = id,
                        person = await LedgerStore.Number(connection, transaction, founding.Person),
                        by = await LedgerStore.Number(connection, transaction, by),
                        why = text.InChain,
                    }
                );
                return (true, true);
            },
            cancel
        );

    /// <summary>Those that have not ended, newest first.</summary>
    public async Task<IReadOnlyList<FoundingNow>> Standing(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return
        [
            .. await connection.QueryAsync<FoundingNow>(
                new CommandDefinition(
                    """
                    select f.id, f.person_id, p.given_name, p.family_name, f.machine_id, f.set_by, f.at, f.ends, f.confirmed_at,
                        t.body as evidence
                    from people.founding f join people.person p on p.id = f.person_id left join ledger.text t on t.id = f.text_id
                    where f.ends > @now order by f.at desc
                    """,
                    new { now },
                    cancellationToken: cancel
                )
            ),
        ];
    }
}
