using System.Diagnostics.Metrics;
using OpenTelemetry.Metrics;
using VelvetGate.Store.Db;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Metrics;

/// <summary>
/// Counts of requests, the database, the runtime and the gate, in the text format that monitors scrape, on an address of its own
/// (<c>VELVETGATE_METRICS</c>, such as 127.0.0.1:9464): what serves people serves no metrics, and this address nothing else.
/// </summary>
public static class MetricsAddress
{
    public const string Path = "/metrics";
    private const string Setting = "VELVETGATE_METRICS";

    /// <summary>Listens on it too, where it is set.</summary>
    /// <exception cref="InvalidOperationException">It is no address and port.</exception>
    public static void AddMetricsAddress(this WebApplicationBuilder builder)
    {
        if (builder.Configuration[Setting] is not { Length: > 0 } address)
            return;
        if (!System.Net.IPEndPoint.TryParse(address, out var point) || point.Port == 0)
            throw new InvalidOperationException($"{Setting} wants an address and a port, such as 127.0.0.1:9464.");
        var urls = builder.WebHost.GetSetting(WebHostDefaults.ServerUrlsKey);
        builder.WebHost.UseUrls($"{(string.IsNullOrEmpty(urls) ? "http://localhost:5000" : urls)};http://{point}");
        builder.Services.AddSingleton(new MetricsPort(point.Port)).AddHostedService<WorkMeter>();
        builder
            .Services.AddOpenTelemetry()
            .WithMetrics(metrics =>
                metrics
                    .AddMeter(
                        Metering.Name,
                        "Microsoft.AspNetCore.Hosting",
                        "Microsoft.AspNetCore.Server.Kestrel",
                        "Npgsql",
                        "System.Runtime"
                    )
                    .AddPrometheusExporter()
            );
    }

    /// <summary>First of all: nothing else of the application is reached from there, nor metrics from elsewhere.</summary>
    public static void UseMetricsAddress(this WebApplication app)
    {
        if (app.Services.GetService<MetricsPort>() is not { } metrics)
            return;
        app.UseOpenTelemetryPrometheusScrapingEndpoint(http => http.Connection.LocalPort == metrics.Port && http.Request.Path == Path);
        app.Use(
            (http, next) =>
            {
                if (http.Connection.LocalPort != metrics.Port)
                    return next(http);
                http.Response.StatusCode = StatusCodes.Status404NotFound;
                return Task.CompletedTask;
            }
        );
    }

    private sealed record MetricsPort(int Port);

    /// <summary>How background work goes, as <c>/readyz</c> says it.</summary>
    private sealed class WorkMeter(WorkHealth health) : IHostedService, IDisposable
    {
        private readonly Meter _meter = new(Metering.Name);

        public Task StartAsync(CancellationToken cancellationToken)
        {
            _meter.CreateObservableGauge(
                "velvetgate.work.failures",
                () => health.All.Select(w => new Measurement<int>(w.Failures, new KeyValuePair<string, object?>("work", w.Name))),
                "{failure}",
                "Failures in a row of each background work."
            );
            return Task.CompletedTask;
        }

        public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

        public void Dispose() => _meter.Dispose();
    }
}
