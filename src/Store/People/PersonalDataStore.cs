using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.People;

/// <summary>What is held about a person: all of it for them to take away, and its erasing by rule.</summary>
public sealed class PersonalDataStore(NpgsqlDataSource db)
{
    /// <summary>Table, and how its rows are found. A test holds the list against the tables that speak of people.</summary>
    internal static readonly IReadOnlyList<(string Section, string From)> Sections =
    [
        (
            "person",
            "(select id, number, given_name, family_name, birth_date, age_band, email, sign_in_name from people.person) r where r.id = @id"
        ),
        ("accounts", "people.account r where r.person_id = @id"),
        ("agreements", "people.agreement r where r.person_id = @id"),
        ("roles", "people.role r where r.person_id = @id"),
        (
            "invites",
            "(select id, person_id, made_by, at, expires, agreed_by, agreed_at, used_at from people.invite) r where r.person_id = "
                + "@id or r.made_by = @id or r.agreed_by = @id"
        ),
        ("consents", "people.consent r where r.person_id = @id"),
        ("legalHolds", "people.legal_hold r where r.person_id = @id"),
        ("pauses", "people.pause r where r.person_id = @id"),
        ("messages", "people.message r where r.person_id = @id"),
        (
            "secondFactor",
            "(select person_id, begun, confirmed, cardinality(spare) as spare_codes from people.second_factor) r where r.person_id = @id"
        ),
        ("sessions", "people.session r where r.person_id = @id"),
        ("foundingSignOffs", "people.founding r where r.person_id = @id"),
        ("modulesDone", "training.done r where r.person_id = @id"),
        // An attempt that is still open keeps its questions, their right answers and its marks to itself.
        (
            "quizAttempts",
            "(select id, person_id, module_id, version, started, ended, answers, correct, asked, critical_missed, passed, case "
                + "when ended is not null then questions end as questions, case when ended is not null then drawn end as drawn, case "
                + "when ended is not null then seed end as seed from training.attempt) r where r.person_id = @id"
        ),
        ("certificates", "training.certificate r where r.person_id = @id"),
        ("certificateHolds", "training.certificate_hold r where r.person_id = @id"),
        ("outsideCertificates", "training.outside r where r.person_id = @id"),
        ("inductions", "training.induction r where r.trainer_id = @id"),
        ("inductionPlaces", "training.place r where r.person_id = @id"),
        ("practicals", "training.observation r where r.person_id = @id or r.trainer_id = @id"),
        (
            "practicalMarks",
            "(select m.*, o.person_id from training.mark m join training.observation o on o.id = m.observation_id) r where "
                + "r.person_id = @id or r.by = @id"
        ),
        ("paths", "training.path r where r.set_by = @id"),
        ("conduct", "people.conduct r where r.person_id = @id"),
        ("appeals", "people.appeal r where r.person_id = @id"),
        ("drawings", "(select id, person_id, name, sha256, at from bench.drawing) r where r.person_id = @id"),
        ("jobs", "bench.job r where r.person_id = @id"),
        ("asks", "gate.ask r where r.person_id = @id"),
        ("lifts", "gate.lift r where r.person_id = @id"),
        ("bookings", "booking.booking r where r.person_id = @id or r.ask ->> 'supervisorId' = @id"),
        ("waiting", "booking.waiting r where r.person_id = @id"),
        (
            "offers",
            "(select o.*, w.person_id from booking.offer o join booking.waiting w on w.id = o.waiting_id) r where r.person_id = @id"
        ),
        ("fixtures", "house.fixture_out r where r.person_id = @id or r.out_by = @id or r.back_by = @id or r.right_by = @id"),
        ("upkeepDone", "upkeep.done r where r.by = @id"),
        ("readings", "upkeep.reading r where r.by = @id"),
        ("faults", "upkeep.fault r where r.reported_by = @id or r.closed_by = @id"),
        ("faultsJudged", "upkeep.fault_state r where r.set_by = @id"),
        ("machinesServiced", "upkeep.service r where r.recorded_by = @id"),
        ("machinesTried", "upkeep.tried r where r.by = @id"),
        ("interlocksTried", "upkeep.interlock_trial r where r.by = @id"),
        ("afterBreaks", "upkeep.after_break r where r.by = @id"),
        ("commissioning", "house.commissioning r where r.set_by = @id"),
        ("upkeepPhotos", "(select id, subject, width, height, by, at from upkeep.photo) r where r.by = @id"),
        ("kitLooked", "upkeep.kit_look r where r.by = @id"),
        ("stockChanged", "upkeep.stock r where r.by = @id"),
        ("locks", "upkeep.lock r where r.holder_id = @id or r.hung_by = @id or r.off_by = @id"),
        ("papersOfTheHouse", "house.paper r where r.recorded_by = @id"),
        ("refusedTries", "booking.try r where r.person_id = @id"),
        (
            "calendarAddresses",
            "(select id, person_id, kind, machine_id, made_at, read_at, ended_at from booking.feed) r where r.person_id = @id"
        ),
        ("swaps", "booking.swap r where r.asked_by = @id"),
        ("settings", "bench.setting r where r.by = @id or r.ended_by = @id"),
        ("testPieces", "bench.test_piece r where r.by = @id"),
        ("testPieceResults", "bench.test_piece_result r where r.by = @id"),
        ("stationSessions", "station.session r where r.person_id = @id"),
        ("stationActs", "station.act r where r.by = @id"),
        ("controllers", "station.controller r where r.enrolled_by = @id"),
        (
            "fobs",
            "(select id, person_id, name, learnt_at, learnt_by, revoked_at, revoked_by from station.fob) r where r.person_id = @id "
                + "or r.learnt_by = @id or r.revoked_by = @id"
        ),
        ("fobsAwaited", "station.learning r where r.person_id = @id or r.by = @id"),
        ("tapInCodes", "(select person_id, until from station.tap_code) r where r.person_id = @id"),
        ("screens", "(select id, machine_id, name, enrolled_at, enrolled_by, revoked_at from station.device) r where r.enrolled_by = @id"),
        ("placeCodes", "(select machine_id, made_at, made_by from station.place_code) r where r.made_by = @id"),
        ("machinePapers", "(select id, machine_id, name, added_at, added_by from house.machine_paper) r where r.added_by = @id"),
        ("pins", "(select person_id, set_at from station.pin) r where r.person_id = @id"),
        ("pinsAwaited", "station.pin_due r where r.person_id = @id"),
        ("seen", "station.seen r where r.person_id = @id"),
        ("supervising", "station.supervising r where r.person_id = @id"),
        ("lastTaps", "station.tap r where r.person_id = @id"),
        ("runs", "run.log r where r.person_id = @id or r.supervisor_id = @id or r.looked_by = @id"),
        ("duties", "house.duty r where r.person_id = @id"),
        ("calendar", "house.plan r where r.person_id = @id"),
        ("classes", "house.roster r where r.person_id = @id"),
        ("rulings", "materials.ruling r where r.changed_by = @id or r.owner_id = @id"),
        ("rulingProposals", "materials.proposal r where r.proposed_by = @id or r.answered_by = @id"),
        ("rulingRequests", "materials.request r where r.person_id = @id"),
        ("sheets", "materials.sheet r where r.brought_by = @id or r.registered_by = @id"),
        ("sheetEvidence", "materials.evidence r where r.added_by = @id"),
        (
            "incidents",
            "(select i.id, i.number, i.machine_id, i.at, i.what, i.severity, v.part, v.person_id from incidents.involved v join "
                + "incidents.incident i on i.id = v.incident_id) r where r.person_id = @id"
        ),
        (
            "incidentsTold",
            "(select id, number, reported_by, closed_by, causes_by from incidents.incident) r where r.reported_by = @id or "
                + "r.closed_by = @id or r.causes_by = @id"
        ),
        ("incidentWords", "incidents.seen r where r.by = @id"),
        ("incidentPhotos", "(select id, incident_id, by, at from incidents.photo) r where r.by = @id"),
        ("injuries", "incidents.injury r where r.person_id = @id or r.by = @id"),
        ("incidentHolds", "incidents.hold r where r.set_by = @id or r.ended_by = @id"),
        ("incidentActions", "incidents.action r where r.owner_id = @id or r.set_by = @id or r.ended_by = @id"),
        ("fireWatches", "incidents.fire_watch r where r.person_id = @id"),
        ("fireLooks", "incidents.look r where r.by = @id"),
        ("nearMissLooks", "incidents.look_asked r where r.looked_by = @id"),
        ("texts", "(select id, body, about from ledger.text) r where r.about = @id"),
    ];

    /// <summary>Everything held about a person, as one JSON object.</summary>
    /// <returns>Null when there is no such person.</returns>
    public async Task<string?> Download(PersonId id, CancellationToken cancel)
    {
        // A function of the database takes at most a hundred arguments.
        var parts = string.Join(
            " || ",
            Sections
                .Select(s => $"'{s.Section}', (select coalesce(jsonb_agg(to_jsonb(r)), '[]') from {s.From})")
                .Chunk(40)
                .Select(some => $"jsonb_build_object({string.Join(",\n", some)})")
        );
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<string>(
            new CommandDefinition(
                $"select jsonb_pretty({parts}) from people.person where id = @id and not erased",
                new { id },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>
    /// Removes what names a person, if retention, legal holds and what they own allow it. Rows, record and chain stay whole.
    /// </summary>
    /// <returns>Refused when there is no such person; else true, or why not yet.</returns>
    public Task<Result<bool>> Erase(PersonId personId, PersonId by, HouseRules rules, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var row = await connection.QuerySingleOrDefaultAsync<(Instant? Ends, Instant? Last, bool Hold)?>(
                    """
                    select (select upper(held) from people.account where person_id = p.id and upper_inf(recorded)
                        order by upper(held) desc limit 1),
                        (select max(t) from (select max(upper(during)) as t from booking.booking where person_id = p.id
                            and cancelled_at is null
                            union all select max(upper(during)) from run.log where person_id = p.id) x),
                        exists (select from people.legal_hold where person_id = p.id and ended_at is null)
                    from people.person p where p.id = @personId and not p.erased for update
                    """,
                    new { personId },
                    transaction
                );
                if (row is not { } facts)
                    return ((Result<bool>)CommonProblems.NotFound.Refuse(null, "account"), false);
                var owns = await Owns(connection, transaction, personId, now);
                if (Retention.MayErase(personId, by, facts.Ends, facts.Last, facts.Hold, owns, rules, now) is { } refusal)
                    return (refusal, false);
                await Remove(connection, transaction, personId, by, now);
                return (true, true);
            },
            cancel
        );

    private static async Task<IReadOnlyList<string>> Owns(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        Instant now
    ) =>
        [
            .. await connection.QueryAsync<string>(
                """
                select 'the role ' || role || coalesce(' on ' || machine_id, '') from people.role
                    where person_id = @personId and role <> 'member' and upper_inf(recorded) and (upper_inf(held) or upper(held) > @now)
                union all select 'booking ' || number from booking.booking where person_id = @personId and cancelled_at is null
                    and upper(during) > @now
                union all select 'a class or duty in the calendar' where exists (select from house.plan where person_id = @personId
                    and ended_at is null)
                union all select 'a machine they stopped' where exists (select from house.stop where set_by = @personId
                    and upper_inf(recorded) and held @> @now)
                """,
                new { personId, now },
                transaction
            ),
        ];

    internal static async Task Remove(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        PersonId personId,
        PersonId? by,
        Instant now
    )
    {
        var texts = (
            await connection.QueryAsync<Guid>(
                "delete from ledger.text where about = @personId and (keep_until is null or keep_until <= @now) returning id",
                new { personId, now },
                transaction
            )
        )
            .Order()
            .ToArray();
        await connection.ExecuteAsync(
            """
            update people.person set given_name = 'Erased', family_name = '', birth_date = null, age_band = null, email = null,
                sign_in_name = null, password_hash = null,
                security_stamp = gen_random_uuid()::text, erased = true, version = version + 1
            where id = @personId;
            delete from people.message where person_id = @personId;
            delete from bench.job where person_id = @personId;
            update booking.claim set live = false, recorded = tstzrange(lower(recorded), greatest(@now, lower(recorded)))
                where live and offer_id in (select o.id from booking.offer o join booking.waiting w on w.id = o.waiting_id
                    where w.person_id = @personId);
            update booking.offer set ended_at = @now, ended_why = 'withdrawn' where ended_at is null
                and waiting_id in (select id from booking.waiting where person_id = @personId);
            update booking.waiting set ended_at = @now, ended_why = 'takenBack' where ended_at is null and person_id = @personId;
            update booking.feed set ended_at = @now where ended_at is null and person_id = @personId;
            delete from booking.try where person_id = @personId;
            -- What somebody wrote goes; when who ran what stays with the runs.
            update station.session set body = body - 'looked' - 'held' where person_id = @personId;
            delete from people.session where person_id = @personId;
            delete from people.second_factor where person_id = @personId;
            delete from station.learning where person_id = @personId;
            delete from station.tap_code where person_id = @personId;
            delete from station.tap where person_id = @personId;
            delete from station.pin where person_id = @personId;
            delete from station.pin_due where person_id = @personId;
            delete from station.seen where person_id = @personId;
            delete from station.supervising where person_id = @personId;
            update station.fob set revoked_at = greatest(@now, learnt_at), name = 'Erased' where person_id = @personId
                and revoked_at is null;
            update materials.request set supplier = '', link = '' where person_id = @personId;
            update materials.sheet set supplier = '' where brought_by = @personId;
            with gone as (delete from bench.drawing where person_id = @personId returning sha256)
                delete from bench.file f using gone where f.sha256 = gone.sha256
                    and not exists (select from bench.drawing d where d.sha256 = f.sha256 and d.person_id <> @personId)
                    and not exists (select from materials.evidence e where e.sha256 = f.sha256)
                    and not exists (select from materials.request q where q.sha256 = f.sha256)
            """,
            new { personId, now },
            transaction
        );
        await LedgerStore.Append(
            connection,
            transaction,
            now,
            RecordEvents.PersonErased,
            new
            {
                person = await LedgerStore.Number(connection, transaction, personId),
                by = by is { } eraser ? await LedgerStore.Number(connection, transaction, eraser) : (int?)null,
                // What the record points at and is gone: named, so that nothing else can go unseen.
                texts,
            }
        );
    }

    /// <summary>Erases texts that outlived their person for as long as law wanted, and no longer.</summary>
    /// <returns>How many.</returns>
    public Task<int> EraseOverdue(Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var texts = (
                    await connection.QueryAsync<Guid>(
                        new CommandDefinition(
                            "delete from ledger.text t using people.person p where p.id = t.about and p.erased and t.keep_until <= "
                                + "@now returning t.id",
                            new { now },
                            transaction,
                            cancellationToken: cancel
                        )
                    )
                )
                    .Order()
                    .ToArray();
                if (texts.Length > 0)
                    await LedgerStore.Append(connection, transaction, now, RecordEvents.PersonTextsErased, new { texts });
                return (texts.Length, texts.Length > 0);
            },
            cancel
        );
}
