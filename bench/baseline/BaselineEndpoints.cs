using System.Globalization;
using System.Text.Json;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

[assembly: HostingStartup(typeof(VelvetGate.Bench.Baseline.BaselineStartup))]

namespace VelvetGate.Bench.Baseline;

/// <summary>
/// What the gate is measured against: endpoints in the same process, behind the same sign-in, that only do the database's part.
/// Frozen; shares no code with the application. Loaded by ASPNETCORE_HOSTINGSTARTUPASSEMBLIES, so that nothing of it is in the product.
/// </summary>
public sealed class BaselineStartup : IHostingStartup, IStartupFilter
{
    private NpgsqlDataSource? _db;

    public void Configure(IWebHostBuilder builder) => builder.ConfigureServices(services => services.AddSingleton<IStartupFilter>(this));

    public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) => app =>
    {
        _db = NpgsqlDataSource.Create(app.ApplicationServices.GetRequiredService<IConfiguration>()["VELVETGATE_DB"]!);
        app.Map("/baseline/select", branch => branch.Run(Select));
        app.Map("/baseline/insert", branch => branch.Run(Insert));
        next(app);
    };

    /// <summary>One SELECT by primary key, answered as JSON.</summary>
    private async Task Select(HttpContext http)
    {
        if (!(await http.AuthenticateAsync()).Succeeded) { http.Response.StatusCode = 401; return; }
        using var body = await JsonDocument.ParseAsync(http.Request.Body);
        await using var command = _db!.CreateCommand("select id, name, version from house.machine where id = $1");
        command.Parameters.AddWithValue(body.RootElement.GetProperty("machineId").GetString()!);
        await using var reader = await command.ExecuteReaderAsync();
        await reader.ReadAsync();
        await http.Response.WriteAsJsonAsync(new { id = reader.GetString(0), name = reader.GetString(1), version = reader.GetInt32(2) });
    }

    /// <summary>The same inserts and ledger entry as a booking, without deciding anything.</summary>
    private async Task Insert(HttpContext http)
    {
        if (!(await http.AuthenticateAsync()).Succeeded) { http.Response.StatusCode = 401; return; }
        using var body = await JsonDocument.ParseAsync(http.Request.Body);
        var (machine, member) = (body.RootElement.GetProperty("machineId").GetString()!, body.RootElement.GetProperty("memberId").GetString()!);
        var start = DateTimeOffset.Parse(body.RootElement.GetProperty("start").GetString()!, CultureInfo.InvariantCulture).UtcDateTime;
        var end = start.AddMinutes(body.RootElement.GetProperty("minutes").GetInt32());
        var (id, decision, now) = (Guid.NewGuid(), Guid.NewGuid(), DateTime.UtcNow);
        string[] resources = [$"attend:{member}", $"machine:{machine}"];
        await using var connection = await _db!.OpenConnectionAsync();
        try
        {
            await using var transaction = await connection.BeginTransactionAsync();
            await Run(connection, "select id from booking.resource where id = any($1) order by id for update", (object)resources);
            await Run(connection, "insert into gate.decision (id, at, rules_version, ask, facts, outcome, hash) values ($1, $2, 1, $3, $4, '{}', 'baseline')", decision, now, body.RootElement.GetRawText(), Filler);
            await Run(
                connection,
                "insert into booking.booking (id, person_id, machine_id, during, minutes, parts, ask, decision_id, made_by, made_at) values ($1, $2, $3, tstzrange($4, $5), $6, '[]', $7::jsonb, $8, $2, $9)",
                id, member, machine, start, end, (int)(end - start).TotalMinutes, body.RootElement.GetRawText(), decision, now);
            await Run(connection, "insert into booking.claim (booking_id, resource, during, recorded) select $1, unnest($2::text[]), tstzrange($3, $4), tstzrange($5, null)", id, resources, start, end, now);
            await Run(
                connection, "select ledger.append($1, 'booking.made', $2)", now.ToString("yyyy-MM-dd'T'HH:mm:ss.ffffff'Z'", CultureInfo.InvariantCulture),
                JsonSerializer.Serialize(new { booking = id, machine, decision }));
            await transaction.CommitAsync();
            http.Response.StatusCode = 201;
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ExclusionViolation)
        {
            http.Response.StatusCode = 409;
        }
    }

    /// <summary>As long as the facts of a usual decision.</summary>
    private static readonly string Filler = JsonSerializer.Serialize(new string('x', 6000));

    private static async Task Run(NpgsqlConnection connection, string sql, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (var value in values) command.Parameters.AddWithValue(value);
        await command.ExecuteNonQueryAsync();
    }
}
