using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Dapper;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests;

/// <summary>The server over a demo house of its own, with a clock that stands.</summary>
public class WebHouse : WebApplicationFactory<Program>, IAsyncLifetime
{
    public TestDatabase Db { get; private set; } = null!;

    public TestClock Clock { get; } = new(TestDatabase.Now);

    /// <summary>What went wrong in the server without being expected, newest last.</summary>
    public ConcurrentQueue<string> Unexpected { get; } = new();

    public async ValueTask InitializeAsync() => Db = await Fill();

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await Db.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    /// <summary>Signed in by name; <c>null</c> is a visitor without an account.</summary>
    public async Task<Api> As(string? name)
    {
        var api = new Api(CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = true, AllowAutoRedirect = false }));
        if (name is not null)
            await api.SignIn(name, "ropewalk");
        return api;
    }

    /// <summary>Gives somebody a second steward's word.</summary>
    public async Task MakeSteward(string personId)
    {
        await using var connection = await Db.Owner.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync(
            "insert into people.role (person_id, role, held, recorded) "
                + "values (@personId, 'steward', tstzrange(@Now, null), tstzrange(@Now, null))",
            new { personId, Clock.Now },
            transaction
        );
        // Told in the record as the server would, so that the whole of it still verifies.
        await LedgerStore.Append(connection, transaction, Clock.Now, RecordEvents.LedgerBaseline, new { });
        await transaction.CommitAsync();
    }

    /// <summary>An instant of the demo's coming days, on the wall clock of winter London, which is UTC.</summary>
    public static string At(int day, int hour, int minute = 0) => $"2026-11-{24 + day:00}T{hour:00}:{minute:00}:00+00:00";

    protected virtual Task<TestDatabase> Fill() => TestDatabase.Demo();

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("VELVETGATE_DB", Db.AppConnection);
        builder.UseSetting("VELVETGATE_DEMO", "true");
        builder.UseSetting("VELVETGATE_FOUNDING_CODE", EmptyHouse.Code);
        builder.UseSetting("Serilog:MinimumLevel:Default", "Fatal");
        builder.ConfigureTestServices(services =>
            services.AddSingleton<IClock>(Clock).AddSingleton<IExceptionHandler>(new Remembering(Unexpected))
        );
    }

    /// <summary>Handles nothing; a test that meets a 500 can say why.</summary>
    private sealed class Remembering(ConcurrentQueue<string> seen) : IExceptionHandler
    {
        public ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
        {
            if (exception is not BadHttpRequestException)
                seen.Enqueue($"{httpContext.TraceIdentifier} {httpContext.Request.Path}: {exception}");
            return ValueTask.FromResult(false);
        }
    }
}

/// <summary>A house with tables and nothing in them.</summary>
public sealed class EmptyHouse : WebHouse
{
    /// <summary>What its server would write on the console.</summary>
    public const string Code = "ROPE-WALK";

    protected override Task<TestDatabase> Fill() => TestDatabase.Empty();
}

/// <summary>A caller with its cookies and its antiforgery token.</summary>
public sealed class Api(HttpClient http) : IDisposable
{
    public HttpClient Http { get; } = http;

    public async Task SignIn(string name, string password)
    {
        var answer = await Post("/api/sign-in", new { name, password });
        if (answer.Status != HttpStatusCode.OK)
            throw new InvalidOperationException($"{name} cannot sign in: {answer.Body}");
        Http.DefaultRequestHeaders.Remove("X-Velvet-Gate");
        Http.DefaultRequestHeaders.Add(
            answer.Body.GetProperty("antiforgeryHeader").GetString()!,
            answer.Body.GetProperty("antiforgeryToken").GetString()
        );
    }

    public async Task<Answer> Get(string path) => await Answer.Of(await Http.GetAsync(path));

    public async Task<Answer> Post(string path, object? body = null) => await Answer.Of(await Http.PostAsJsonAsync(path, body ?? new { }));

    public async Task<Answer> Put(string path, object body) => await Answer.Of(await Http.PutAsJsonAsync(path, body));

    public async Task<Answer> Delete(string path) => await Answer.Of(await Http.DeleteAsync(path));

    public async Task<Answer> PostText(string path, string json) =>
        await Answer.Of(await Http.PostAsync(path, new StringContent(json, System.Text.Encoding.UTF8, "application/json")));

    public Task<Answer> PutIn(string svg, string name = "drawing.svg") => PutIn(System.Text.Encoding.UTF8.GetBytes(svg), name);

    public async Task<Answer> PutIn(byte[] bytes, string name = "drawing.svg")
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", name } };
        return await Answer.Of(await Http.PostAsync("/api/drawings", form));
    }

    public void Dispose() => Http.Dispose();
}

/// <summary>Status and JSON of one answer.</summary>
public sealed record Answer(HttpStatusCode Status, JsonElement Body, HttpResponseMessage Response)
{
    public string? Code => Text("code");

    public string Detail => Text("detail") ?? "";

    public string Verdict => Text("verdict") ?? $"none: {Body}";

    /// <summary>Every reason code of an answer of the gate, or of the problem of a refused booking.</summary>
    public IReadOnlyList<string> Codes =>
        [
            .. Body.GetProperty("posts")
                .EnumerateArray()
                .SelectMany(p => p.GetProperty("reasons").EnumerateArray())
                .Select(r => r.GetProperty("code").GetString()!),
        ];

    /// <summary>Fields that a problem names.</summary>
    public IReadOnlyList<string> Fields =>
        Body.TryGetProperty("errors", out var errors) ? [.. errors.EnumerateObject().Select(e => e.Name)] : [];

    public string Id => Text("id") ?? throw new InvalidOperationException($"No id in {Body}");

    public static async Task<Answer> Of(HttpResponseMessage response)
    {
        var text = await response.Content.ReadAsStringAsync();
        var json =
            text.Length > 0 && response.Content.Headers.ContentType?.MediaType?.Contains("json", StringComparison.Ordinal) == true
                ? JsonDocument.Parse(text).RootElement
                : default;
        return new Answer(response.StatusCode, json, response);
    }

    private string? Text(string name) =>
        Body.ValueKind == JsonValueKind.Object && Body.TryGetProperty(name, out var value) ? value.ToString() : null;
}
