using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using VelvetGate.Tests.Support;
using Xunit;

// They run one at a time (xunit.runner.json): they share one house, and some say what must not happen meanwhile.
[assembly: AssemblyFixture(typeof(VelvetGate.Browser.Tests.LiveServer))]

namespace VelvetGate.Browser.Tests;

/// <summary>The published application as <c>./start</c> runs it, on a demo house of its own, its clock set to a Tuesday morning.</summary>
public sealed class LiveServer : IAsyncLifetime
{
    private Process? _process;

    public TestDatabase Db { get; private set; } = null!;

    public string Address { get; private set; } = "";

    public async ValueTask InitializeAsync()
    {
        Db = await TestDatabase.Demo();
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP") ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test browser.");
        Address = $"http://127.0.0.1:{FreePort()}";
        var start = new ProcessStartInfo("dotnet", Path.Combine(app, "VelvetGate.Web.dll")) { WorkingDirectory = app, RedirectStandardOutput = true };
        start.Environment["VELVETGATE_DB"] = Db.AppConnection;
        start.Environment["VELVETGATE_DEMO"] = "true";
        start.Environment["VELVETGATE_NOW"] = "2026-11-24T10:15Z";
        start.Environment["ASPNETCORE_URLS"] = Address;
        start.Environment["Serilog__MinimumLevel__Default"] = "Warning";
        _process = Process.Start(start);
        _process!.OutputDataReceived += (_, _) => { };
        _process.BeginOutputReadLine();
        using var http = new HttpClient();
        for (var i = 0; i < 150; i++)
        {
            try
            {
                if ((await http.GetAsync(Address + "/healthz")).IsSuccessStatusCode) return;
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }
            await Task.Delay(200);
        }
        throw new InvalidOperationException("The server did not become ready.");
    }

    public async ValueTask DisposeAsync()
    {
        _process?.Kill(entireProcessTree: true);
        _process?.Dispose();
        await Db.DisposeAsync();
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
