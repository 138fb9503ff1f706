using System.Text.Json;
using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Store.Incidents;

/// <summary>One act on an incident whose row is locked: what it stands at, who acts, and the record it goes into.</summary>
/// <param name="Part">Of whoever acts: <c>ran</c>, <c>there</c> or <c>told</c>; null for somebody who had none.</param>
internal sealed record IncidentAct(
    NpgsqlConnection Connection,
    NpgsqlTransaction Transaction,
    IncidentRow Incident,
    string? Part,
    PersonId By,
    Instant Now
)
{
    /// <summary>They ran it or were there. Whoever only wrote down what others told was not involved.</summary>
    public bool Involved => Part is "ran" or "there";

    public Task<int> Do(string sql, object? values = null) => Connection.ExecuteAsync(sql, values, Transaction);

    public Task<TextLink> Keep(string text) => LedgerStore.Keep(Connection, Transaction, text.Trim(), null);

    /// <returns>Null where nothing was written.</returns>
    public async Task<TextLink?> KeepIf(string? text) => string.IsNullOrWhiteSpace(text) ? null : await Keep(text);

    public Task<int> Number(PersonId person) => LedgerStore.Number(Connection, Transaction, person);

    /// <summary>Writes it into the record. The last statement of every act.</summary>
    /// <param name="more">What there is to say beside the incident and who acted.</param>
    public async Task Record(RecordEvent kind, object? more = null)
    {
        var body = new Dictionary<string, object?>
        {
            ["incident"] = Incident.Number,
            ["machine"] = Incident.MachineId?.Value,
            ["by"] = await Number(By),
        };
        foreach (var property in more is null ? [] : JsonSerializer.SerializeToElement(more).EnumerateObject().ToList())
            body[property.Name] = property.Value;
        await LedgerStore.Append(Connection, Transaction, Now, kind, body);
    }

    /// <summary>Runs one act in a transaction of its own.</summary>
    public static Task<Result<T>> Run<T>(
        NpgsqlDataSource db,
        Guid id,
        PersonId by,
        Instant now,
        Func<IncidentAct, Task<Result<T>>> act,
        CancellationToken cancel
    ) =>
        Db.Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                if (await IncidentRow.Lock(connection, transaction, id) is not { } incident)
                    return ((Result<T>)CommonProblems.NotFound.Refuse(null, "incident"), false);
                var part = await PartOf(connection, transaction, id, by);
                var result = await act(new IncidentAct(connection, transaction, incident, part, by, now));
                return (result, result.IsOk);
            },
            cancel
        );

    internal static Task<string?> PartOf(NpgsqlConnection connection, NpgsqlTransaction? transaction, Guid id, PersonId person) =>
        connection.ExecuteScalarAsync<string?>(
            "select part from incidents.involved where incident_id = @id and person_id = @person",
            new { id, person },
            transaction
        );

    public static string Word<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
