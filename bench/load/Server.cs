using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;

namespace VelvetGate.Bench;

/// <summary>
/// The published application in a process of its own, with the baseline endpoints beside it, and a caller signed in to it.
/// </summary>
internal sealed class Server : IDisposable
{
    private readonly Process _process;

    private Server(Process process, HttpClient http)
    {
        _process = process;
        Http = http;
    }

    public HttpClient Http { get; }

    public static async Task<Server> Start(string app, string connection, int port)
    {
        var start = new ProcessStartInfo("dotnet", "VelvetGate.Web.dll") { WorkingDirectory = app };
        start.Environment["VELVETGATE_DB"] = connection;
        start.Environment["ASPNETCORE_URLS"] = $"http://127.0.0.1:{port}";
        start.Environment["DOTNET_STARTUP_HOOKS"] = Path.Combine(AppContext.BaseDirectory, "VelvetGate.Bench.Baseline.dll");
        start.Environment["ASPNETCORE_HOSTINGSTARTUPASSEMBLIES"] = "VelvetGate.Bench.Baseline";
        start.Environment["Serilog__MinimumLevel__Default"] = "Warning";
        var process = Process.Start(start)!;
        var http = new HttpClient(new SocketsHttpHandler { UseCookies = true, MaxConnectionsPerServer = 256 })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
        };
        for (var i = 0; i < 300; i++)
        {
            try
            {
                if ((await http.GetAsync("/healthz")).IsSuccessStatusCode)
                    break;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(100);
            }
        }
        var signed = await (await http.PostAsJsonAsync("/api/sign-in", new { name = Prepared.SignIn, password = Prepared.Password }))
            .EnsureSuccessStatusCode()
            .Content.ReadFromJsonAsync<JsonElement>();
        http.DefaultRequestHeaders.Add(
            signed.GetProperty("antiforgeryHeader").GetString()!,
            signed.GetProperty("antiforgeryToken").GetString()
        );
        return new Server(process, http);
    }

    /// <summary>As many requests as go, from so many clients, for so long.</summary>
    /// <returns>Requests a second, and the sorted times in ms of each status.</returns>
    public async Task<(double PerSecond, List<double> Times, IReadOnlyDictionary<int, int> Statuses)> Load(
        string path,
        Func<Random, object> body,
        int clients,
        TimeSpan time
    )
    {
        var times = new ConcurrentBag<double>();
        var statuses = new ConcurrentDictionary<int, int>();
        var clock = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable
                .Range(0, clients)
                .Select(c =>
                    Task.Run(async () =>
                    {
                        var random = new Random(c * 7919);
                        while (clock.Elapsed < time)
                        {
                            var started = clock.Elapsed;
                            using var answer = await Http.PostAsJsonAsync(path, body(random));
                            await answer.Content.ReadAsByteArrayAsync();
                            times.Add((clock.Elapsed - started).TotalMilliseconds);
                            statuses.AddOrUpdate((int)answer.StatusCode, 1, (_, n) => n + 1);
                        }
                    })
                )
        );
        return (times.Count / clock.Elapsed.TotalSeconds, [.. times.Order()], statuses);
    }

    public void Dispose()
    {
        Http.Dispose();
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit();
        _process.Dispose();
    }
}
