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

    /// <summary>What it has taken of the processors so far.</summary>
    public TimeSpan Cpu
    {
        get
        {
            _process.Refresh();
            return _process.TotalProcessorTime;
        }
    }

    public static async Task<Server> Start(string app, string connection, int port, Dictionary<string, string>? settings = null)
    {
        var start = new ProcessStartInfo("dotnet", "VelvetGate.Web.dll") { WorkingDirectory = app };
        start.Environment["VELVETGATE_DB"] = connection;
        start.Environment["ASPNETCORE_URLS"] = $"http://127.0.0.1:{port}";
        start.Environment["DOTNET_STARTUP_HOOKS"] = Path.Combine(AppContext.BaseDirectory, "VelvetGate.Bench.Baseline.dll");
        start.Environment["ASPNETCORE_HOSTINGSTARTUPASSEMBLIES"] = "VelvetGate.Bench.Baseline";
        start.Environment["Serilog__MinimumLevel__Default"] = "Warning";
        foreach (var (name, value) in settings ?? [])
            start.Environment[name] = value;
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
    public Task<Answered> Load(string path, Func<Random, object> body, int clients, TimeSpan time) =>
        Load(random => Http.PostAsJsonAsync(path, body(random)), clients, time);

    /// <param name="every">How often each client asks; nothing is without a pause.</param>
    public static async Task<Answered> Load(
        Func<Random, Task<HttpResponseMessage>> ask,
        int clients,
        TimeSpan time,
        TimeSpan every = default
    )
    {
        var times = new ConcurrentBag<double>();
        var statuses = new ConcurrentDictionary<int, int>();
        var sizes = new ConcurrentBag<int>();
        var clock = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable
                .Range(0, clients)
                .Select(c =>
                    Task.Run(async () =>
                    {
                        var random = new Random(c * 7919);
                        await Task.Delay(every * c / clients);
                        while (clock.Elapsed < time)
                        {
                            var started = clock.Elapsed;
                            using var answer = await ask(random);
                            sizes.Add((await answer.Content.ReadAsByteArrayAsync()).Length);
                            times.Add((clock.Elapsed - started).TotalMilliseconds);
                            statuses.AddOrUpdate((int)answer.StatusCode, 1, (_, n) => n + 1);
                            var rest = every - (clock.Elapsed - started);
                            if (rest > TimeSpan.Zero)
                                await Task.Delay(rest);
                        }
                    })
                )
        );
        return new Answered(times.Count / clock.Elapsed.TotalSeconds, [.. times.Order()], statuses, sizes.Max());
    }

    /// <param name="PerSecond">Requests a second.</param>
    /// <param name="Times">Sorted, in ms.</param>
    /// <param name="Statuses">How many of each.</param>
    /// <param name="Bytes">Of the longest answer.</param>
    public sealed record Answered(double PerSecond, List<double> Times, IReadOnlyDictionary<int, int> Statuses, int Bytes);

    public void Dispose()
    {
        Http.Dispose();
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit();
        _process.Dispose();
    }
}
