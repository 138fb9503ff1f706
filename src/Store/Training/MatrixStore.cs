using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.House;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;

namespace VelvetGate.Store.Training;

/// <summary>What somebody holds of one authority.</summary>
/// <param name="Lapse">When it ceases to count, by its date or by idleness; may be past for idleness.</param>
/// <param name="Hold">Under review or suspended.</param>
public sealed record MatrixCell(string Authority, Instant? Until, Lapse? Lapse, CertificateHoldKind? Hold, bool FromPaper);

/// <param name="Cells">Only what is held.</param>
public sealed record MatrixRow(
    PersonId PersonId,
    string GivenName,
    string FamilyName,
    LocalDate? BirthDate,
    bool Paused,
    IReadOnlyList<MatrixCell> Cells
);

/// <param name="Now">What the person holds of it now; null when nothing.</param>
public sealed record CertificateStatus(
    Guid Id,
    PersonId PersonId,
    string Person,
    string Authority,
    string AuthorityName,
    Instant Since,
    Instant? Until,
    bool FromPaper,
    string SignedBy,
    bool Paused,
    MatrixCell? Now
);

/// <summary>Who holds what, and what lapses when: for everybody at once, in one round trip.</summary>
public sealed class MatrixStore(NpgsqlDataSource db)
{
    private sealed record PersonRow(PersonId Id, string GivenName, string FamilyName, LocalDate? BirthDate, bool Paused);

    private sealed record CertificateRow(PersonId PersonId, string Authority, Instant Since, Instant? Until, bool FromPaper);

    private sealed record UseRow(PersonId PersonId, MachineId MachineId, Instant At);

    public async Task<IReadOnlyList<MatrixRow>> All(HouseRules rules, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await All(connection, null, rules, now);
    }

    /// <summary>A certificate by its id, and how it stands: what is on paper may have been renewed, suspended or lapsed since.</summary>
    /// <returns>Null when there never was one.</returns>
    public async Task<CertificateStatus?> Standing(Guid certificate, HouseRules rules, Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        if (
            await connection.QuerySingleOrDefaultAsync<CertificateRow>(
                "select person_id, authority, lower(held) as since, upper(held) as until, from_paper from training.certificate "
                    + "where id = @certificate and upper_inf(recorded)",
                new { certificate }
            )
            is not { } row
        )
            return null;
        var person = (await All(connection, null, rules, now, row.PersonId)).SingleOrDefault();
        var names = await PathStore.Names(connection, null, await PathStore.All(connection, null, rules, now));
        var signer = await connection.QuerySingleAsync<(string Given, string Family)>(
            "select given_name, family_name from training.certificate c join people.person p on p.id = c.signed_by where c.id = "
                + "@certificate and upper_inf(c.recorded)",
            new { certificate }
        );
        return new CertificateStatus(
            Id: certificate,
            PersonId: row.PersonId,
            Person: $"{person?.GivenName} {person?.FamilyName}".Trim(),
            Authority: row.Authority,
            AuthorityName: names.GetValueOrDefault(row.Authority, row.Authority),
            Since: row.Since,
            Until: row.Until,
            FromPaper: row.FromPaper,
            SignedBy: $"{signer.Given} {signer.Family}",
            Paused: person?.Paused ?? false,
            Now: person?.Cells.FirstOrDefault(c => c.Authority == row.Authority)
        );
    }

    private static async Task<IReadOnlyList<MatrixRow>> All(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        HouseRules rules,
        Instant now,
        PersonId? personId = null
    )
    {
        using var rows = await connection.QueryMultipleAsync(
            $"""
            select p.id, p.given_name, p.family_name, p.birth_date, exists (select from people.pause u where u.person_id = p.id
                and upper_inf(u.recorded) and u.held @> @now) as paused
                from people.person p where not p.erased and (@personId::text is null or p.id = @personId) and exists (select
                    from people.account a where a.person_id = p.id and upper_inf(a.recorded) and a.held @> @now)
                    order by p.family_name, p.given_name, p.id;
            select person_id, authority, lower(held) as since, upper(held) as until, from_paper
                from training.certificate where upper_inf(recorded) and held @> @now and (@personId::text is null or person_id = @personId);
            select person_id, machine_id, max(upper(during)) as at from run.log where upper(during) <= @now and counts
                and (supervisor_id is null or confirmed_at is not null) and (@personId::text is null or person_id = @personId)
                group by person_id, machine_id;
            select machine_id, lower(held) as since, upper(held) as until from house.stop where upper_inf(recorded)
                and held && tstzrange(@now - interval '400 days', null)
                union all select m.id, lower(o.during), upper(o.during) from house.occurrence o join house.plan p on p.id = o.plan_id
                    join house.machine m on cardinality(p.machine_ids) = 0 or m.id = any(p.machine_ids)
                    where p.kind = 'closure' and upper_inf(o.recorded) and {LongClosures.Is}
                        and upper(o.during) > @now - interval '400 days';
            select person_id, authority, kind from training.certificate_hold where upper_inf(recorded) and held @> @now;
            """,
            new { now, personId },
            transaction
        );
        var people = (await rows.ReadAsync<PersonRow>()).ToList();
        var held = (await rows.ReadAsync<CertificateRow>()).ToLookup(c => c.PersonId);
        var used = (await rows.ReadAsync<UseRow>()).ToDictionary(u => (u.PersonId, u.MachineId), u => u.At);
        var stops = (await rows.ReadAsync<(MachineId Machine, Instant Since, Instant? Until)>()).ToLookup(
            s => s.Machine,
            s => new Span(s.Since, s.Until)
        );
        var holds = (await rows.ReadAsync<(PersonId Person, string Authority, string Kind)>())
            .GroupBy(h => (h.Person, h.Authority))
            .ToDictionary(g => g.Key, g => g.Max(h => Enum.Parse<CertificateHoldKind>(h.Kind, true)));
        return
        [
            .. people.Select(p => new MatrixRow(
                p.Id,
                p.GivenName,
                p.FamilyName,
                p.BirthDate,
                p.Paused,
                [.. Longest(held[p.Id]).Select(Cell)]
            )),
        ];

        // Of two certificates for one authority the one that ends later counts. Sorting them in the database costs more than all the rest.
        static IEnumerable<CertificateRow> Longest(IEnumerable<CertificateRow> own)
        {
            var best = new Dictionary<string, CertificateRow>(StringComparer.Ordinal);
            foreach (var c in own)
                if (!best.TryGetValue(c.Authority, out var other) || (c.Until ?? Instant.MaxValue) > (other.Until ?? Instant.MaxValue))
                    best[c.Authority] = c;
            return best.Values;
        }

        MatrixCell Cell(CertificateRow c)
        {
            var machine = SignOffs.MachineOf(c.Authority);
            var last = used.TryGetValue((c.PersonId, machine), out var at) ? Instant.Max(at, c.Since) : c.Since;
            return new MatrixCell(
                c.Authority,
                c.Until,
                Lapses.Ahead(c.Until, last, stops[machine], rules),
                holds.TryGetValue((c.PersonId, c.Authority), out var hold) ? hold : null,
                c.FromPaper
            );
        }
    }

    /// <summary>
    /// Tells everybody whose certificates lapse soon: one message a person, with all of them, and not again for the same ones.
    /// </summary>
    /// <returns>How many were told.</returns>
    public Task<int> Remind(HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var names = await PathStore.Names(connection, transaction, await PathStore.All(connection, transaction, rules, now));
                var reminders = (await All(connection, transaction, rules, now))
                    .Select(r =>
                        (
                            r.PersonId,
                            Reminder: Reminders.For(
                                [
                                    .. r
                                        .Cells.Where(c => c.Lapse is not null)
                                        .Select(c => new LapsingCertificate(
                                            c.Authority,
                                            names.GetValueOrDefault(c.Authority, c.Authority),
                                            c.Lapse!
                                        )),
                                ],
                                rules,
                                now
                            )
                        )
                    )
                    .Where(r => r.Reminder is not null)
                    .Select(r => new Telling(
                        r.PersonId,
                        $"lapse.{r.Reminder!.Key}:{r.PersonId}",
                        r.Reminder.Title,
                        r.Reminder.Text,
                        "/training/ladder"
                    ))
                    .ToList();
                if (reminders.Count == 0)
                    return (0, false);
                var known = (
                    await connection.QueryAsync<string>(
                        "select key from people.message where key = any(@keys)",
                        new { keys = reminders.Select(r => r.Key).ToArray() },
                        transaction
                    )
                ).ToHashSet();
                var fresh = reminders.Where(r => !known.Contains(r.Key)).ToList();
                if (fresh.Count == 0)
                    return (0, false);
                await MessageStore.Tell(connection, transaction, fresh, now);
                await LedgerStore.Append(connection, transaction, now, RecordEvents.TrainingReminded, new { people = fresh.Count });
                return (fresh.Count, true);
            },
            cancel
        );
}
