using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace VelvetGate.Tests.Support;

/// <summary>The published application as a process of its own, as <c>./start</c> runs it, its clock set to a Tuesday morning.</summary>
public sealed class ServerProcess : IDisposable
{
    private readonly Process _process;

    private ServerProcess(Process process, string address)
    {
        _process = process;
        Address = address;
    }

    public string Address { get; }

    private readonly ConcurrentQueue<string> _said = new();

    /// <summary>What it wrote on its console.</summary>
    public string Console => string.Join('\n', _said);

    /// <param name="demo">False serves as <c>./start --empty</c> does.</param>
    /// <param name="ownClock">The clock of the database, or real time; else ten past ten of the tests' day.</param>
    /// <param name="settings">Of its environment, beside the usual.</param>
    public static async Task<ServerProcess> Start(
        TestDatabase db,
        bool demo = true,
        bool ownClock = false,
        Dictionary<string, string>? settings = null
    )
    {
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")
            ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test, which publishes the application.");
        var address = $"http://127.0.0.1:{FreePort()}";
        var start = new ProcessStartInfo("dotnet", Path.Combine(app, "VelvetGate.Web.dll"))
        {
            WorkingDirectory = app,
            RedirectStandardOutput = true,
        };
        start.Environment["VELVETGATE_DB"] = db.AppConnection;
        start.Environment["VELVETGATE_DEMO"] = demo ? "true" : "false";
        if (!ownClock)
            start.Environment["VELVETGATE_NOW"] = "2026-11-24T10:15Z";
        start.Environment["ASPNETCORE_URLS"] = address;
        start.Environment["Serilog__MinimumLevel__Default"] = "Warning";
        foreach (var (name, value) in settings ?? [])
            start.Environment[name] = value;
        var process = Process.Start(start)!;
        var server = new ServerProcess(process, address);
        process.OutputDataReceived += (_, line) => server._said.Enqueue(line.Data ?? "");
        process.BeginOutputReadLine();
        await server.Ready();
        return server;
    }

    /// <summary>As <c>kill -9</c>.</summary>
    public void Kill()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit();
    }

    public void Dispose()
    {
        if (!_process.HasExited)
            Kill();
        _process.Dispose();
    }

    private async Task Ready()
    {
        using var http = new HttpClient();
        for (var i = 0; i < 300; i++)
        {
            try
            {
                if ((await http.GetAsync(Address + "/healthz")).IsSuccessStatusCode)
                    return;
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }
            await Task.Delay(100);
        }
        throw new InvalidOperationException("The server did not become ready.");
    }

    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
