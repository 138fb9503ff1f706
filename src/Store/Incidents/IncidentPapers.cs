using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Ledger;
using VelvetGate.Core.People;

namespace VelvetGate.Store.Incidents;

/// <param name="Bytes">As the server wrote them anew: nothing that a camera put in is left.</param>
public sealed record NewPhoto(string MediaType, byte[] Bytes, int Width, int Height);

public sealed record PhotoNow(Guid Id, string MediaType, int Width, int Height, int Length, Instant At);

/// <param name="Body">Null once its time is over.</param>
public sealed record InjuryNow(Guid Id, PersonId? PersonId, string? Body, Instant KeptUntil, Instant At);

/// <summary>Photos of an incident, and what is said of injuries: apart from the rest, and kept as the law wants.</summary>
public sealed class IncidentPapers(NpgsqlDataSource db)
{
    public Task<Result<Guid>> AddPhoto(Guid id, NewPhoto photo, bool staff, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                var have = await act.Connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from incidents.photo where incident_id = @id",
                    new { id },
                    act.Transaction
                );
                if (IncidentRules.MayAddPhoto(staff || act.Part is not null, act.Incident.ClosedAt is not null, have) is { } refusal)
                    return (Result<Guid>)refusal;
                var made = Guid.NewGuid();
                await act.Do(
                    """
                    insert into incidents.photo (id, incident_id, media_type, bytes, width, height, by, at)
                    values (@made, @id, @MediaType, @Bytes, @Width, @Height, @By, @Now)
                    """,
                    new
                    {
                        made,
                        id,
                        photo.MediaType,
                        photo.Bytes,
                        photo.Width,
                        photo.Height,
                        act.By,
                        act.Now,
                    }
                );
                await act.Record(
                    RecordEvents.IncidentPhoto,
                    new { photo = made, hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(photo.Bytes)) }
                );
                return made;
            },
            cancel
        );

    /// <summary>Whoever added it takes it off again, or a steward.</summary>
    public Task<Result<bool>> RemovePhoto(Guid id, Guid photo, bool steward, PersonId by, Instant now, CancellationToken cancel) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (act.Incident.ClosedAt is not null)
                    return (Result<bool>)IncidentsProblems.Closed.Refuse();
                var gone = await act.Do(
                    "delete from incidents.photo where id = @photo and incident_id = @id and (@steward or by = @By)",
                    new
                    {
                        photo,
                        id,
                        steward,
                        act.By,
                    }
                );
                if (gone == 0)
                    return CommonProblems.NotFound.Refuse(null, "photo of yours");
                await act.Record(RecordEvents.IncidentPhotoOff, new { photo });
                return true;
            },
            cancel
        );

    public async Task<(string MediaType, byte[] Bytes)?> Photo(Guid id, Guid photo, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.QuerySingleOrDefaultAsync<(string, byte[])?>(
            new CommandDefinition(
                "select media_type, bytes from incidents.photo where id = @photo and incident_id = @id",
                new { photo, id },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>Writes down an injury; the severity is that of first aid at least.</summary>
    public Task<Result<Guid>> Injure(
        Guid id,
        PersonId? person,
        string words,
        HouseRules rules,
        PersonId by,
        Instant now,
        CancellationToken cancel
    ) =>
        IncidentAct.Run(
            db,
            id,
            by,
            now,
            async act =>
            {
                if (act.Incident.ClosedAt is not null)
                    return (Result<Guid>)IncidentsProblems.Closed.Refuse();
                var known = await act.Connection.ExecuteScalarAsync<bool>(
                    "select @person::text is null or exists (select from people.person where id = @person and not erased)",
                    new { person },
                    act.Transaction
                );
                if (!known)
                    return IncidentsProblems.UnknownPerson.Refuse("personId");
                var injury = await AddInjury(act, person, words, rules);
                await act.Do(
                    """
                    update incidents.incident set hurt = true, severity = greatest(severity, 3), version = version + 1 where id = @id
                    """,
                    new { id }
                );
                await act.Record(RecordEvents.IncidentInjury, new { injury });
                return injury;
            },
            cancel
        );

    internal static async Task<Guid> AddInjury(IncidentAct act, PersonId? person, string words, HouseRules rules)
    {
        var born = await act.Connection.ExecuteScalarAsync<LocalDate?>(
            "select birth_date from people.person where id = @person",
            new { person },
            act.Transaction
        );
        var id = Guid.NewGuid();
        await act.Do(
            """
            insert into incidents.injury (id, incident_id, person_id, body, kept_until, by, at)
            values (@id, @incident, @person, @words, @until, @By, @Now)
            """,
            new
            {
                id,
                incident = act.Incident.Id,
                person,
                words = words.Trim(),
                until = Retention.InjuryKeptUntil(born, act.Incident.At, rules),
                act.By,
                act.Now,
            }
        );
        return id;
    }

    /// <summary>Words whose time is over go; that there was an injury stays.</summary>
    public async Task<int> Forget(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await connection.ExecuteAsync(
            new CommandDefinition(
                "update incidents.injury set body = null where body is not null and kept_until <= @now",
                new { now },
                cancellationToken: cancel
            )
        );
    }
}
