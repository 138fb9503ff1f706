using System.IO.Compression;
using System.Security.Cryptography.X509Certificates;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.ResponseCompression;
using NodaTime;
using Npgsql;
using Serilog;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.People;
using VelvetGate.Store.Db;
using VelvetGate.Store.Demo;
using VelvetGate.Web.Booking;
using VelvetGate.Web.Drawings;
using VelvetGate.Web.Gate;
using VelvetGate.Web.House;
using VelvetGate.Web.Incidents;
using VelvetGate.Web.Ledger;
using VelvetGate.Web.Machines;
using VelvetGate.Web.Materials;
using VelvetGate.Web.Metrics;
using VelvetGate.Web.People;
using VelvetGate.Web.Public;
using VelvetGate.Web.Reports;
using VelvetGate.Web.Run;
using VelvetGate.Web.Settings;
using VelvetGate.Web.Shared;
using VelvetGate.Web.Station;
using VelvetGate.Web.Training;
using VelvetGate.Web.Upkeep;
using VelvetGate.Web.Watch;

var builder = WebApplication.CreateBuilder(args);
var config = builder.Configuration;
builder.AddMetricsAddress();
builder.Services.AddSerilog(log => log.ReadFrom.Configuration(config).Filter.ByExcluding(NearMissEndpoints.IsOfOne).WriteTo.Console());
builder.WebHost.ConfigureKestrel(k =>
{
    k.Limits.MaxRequestBodySize = DrawingLimits.Bytes + 1024 * 1024;
    k.AddServerHeader = false;
    // A body that trickles, and connections without end, cost everybody.
    k.Limits.MinRequestBodyDataRate = new(bytesPerSecond: 2_000, gracePeriod: TimeSpan.FromSeconds(10));
    k.Limits.MaxConcurrentConnections = 2_000;
    k.Limits.MaxConcurrentUpgradedConnections = 100;
});

builder.Services.AddSingleton(_ =>
    Database.Open(config["VELVETGATE_DB"] ?? throw new InvalidOperationException("Set VELVETGATE_DB to a PostgreSQL connection."))
);

// A chosen instant, or the demo's own time, or the real one.
if (config["VELVETGATE_NOW"] is { Length: > 0 } start)
    builder.Services.AddSingleton<IClock>(new ShiftedClock(Instants.Parse(start).Value));
else if (config.GetValue("VELVETGATE_DEMO", false))
    builder
        .Services.AddSingleton<DemoClock>()
        .AddSingleton<DemoClockStore>()
        .AddSingleton<IClock>(services => services.GetRequiredService<DemoClock>())
        .AddHostedService<DemoClockWorker>();
else
    builder.Services.AddSingleton<IClock>(SystemClock.Instance);
builder.Services.AddSingleton(new Mode(config.GetValue("VELVETGATE_DEMO", false)));
builder.Services.AddSingleton<WorkHealth>().AddSingleton<SchemaGuard>();

// First of all workers: nothing runs on a schema that this version does not know.
builder.Services.AddHostedService(services => services.GetRequiredService<SchemaGuard>());
builder
    .Services.AddLedger()
    .AddHouse()
    .AddPeople()
    .AddUpkeep()
    .AddMaterials()
    .AddSettings()
    .AddDrawings()
    .AddTraining()
    .AddGate()
    .AddBooking()
    .AddRun()
    .AddIncidents()
    .AddStation()
    .AddReports()
    .AddWatch()
    .AddPublic();

var secure = new HouseAddress(config).IsSecure;
builder.Services.AddSingleton<HouseAddress>();
builder.Services.AddHttpContextAccessor().AddScoped<CurrentUser>().AddScoped<IAuthorizationHandler, RoleHandler>();
builder.Services.AddAuthorization(Policy.Add);
builder
    .Services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
    .AddCookie(cookie =>
    {
        cookie.Cookie.Name = secure ? "__Host-velvetgate" : "velvetgate";
        cookie.Cookie.SecurePolicy = secure ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
        cookie.Cookie.HttpOnly = true;
        cookie.Cookie.SameSite = SameSiteMode.Strict;
        cookie.ExpireTimeSpan = Sessions.Longest.ToTimeSpan();
        cookie.SlidingExpiration = false;
        cookie.Events.OnRedirectToLogin = context => Status(context.Response, 401);
        cookie.Events.OnRedirectToAccessDenied = context => Status(context.Response, 403);
        cookie.Events.OnValidatePrincipal = async context =>
        {
            var user = context.HttpContext.RequestServices.GetRequiredService<CurrentUser>();
            if (!await user.TakeUp(CurrentUser.KeyOf(context.Principal), context.HttpContext.RequestAborted))
                context.RejectPrincipal();
        };
    });
builder.Services.AddAntiforgery(a =>
{
    a.HeaderName = "X-Velvet-Gate";
    a.Cookie.Name = secure ? "__Host-velvetgate-form" : "velvetgate-form";
    a.Cookie.SecurePolicy = secure ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;
    a.Cookie.SameSite = SameSiteMode.Strict;
});
var protection = builder.Services.AddDataProtection().SetApplicationName("VelvetGate");

// Keys in the database are readable by whoever reads it, unless a certificate from outside seals them.
if (config["VELVETGATE_KEY_CERTIFICATE"] is { Length: > 0 } certificate)
    protection.ProtectKeysWithCertificate(X509CertificateLoader.LoadPkcs12FromFile(certificate, config["VELVETGATE_KEY_PASSWORD"]));
builder
    .Services.AddOptions<KeyManagementOptions>()
    .Configure<NpgsqlDataSource>((keys, db) => keys.XmlRepository = new DataProtectionKeys(db));
builder.Services.ConfigureHttpJsonOptions(json => GateJson.Configure(json.SerializerOptions));
builder.Services.Configure<FormOptions>(form => form.MultipartBodyLengthLimit = DrawingLimits.Bytes + 512 * 1024);
builder.Services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = TimeSpan.FromSeconds(5));
builder.Services.AddOpenApi(OpenApi.Configure);
builder.Services.AddOutputCache();

// Files alone, which are the same for everybody: an answer that holds secrets beside what somebody typed is not compressed.
builder.Services.AddResponseCompression(compress =>
{
    compress.EnableForHttps = true;
    compress.MimeTypes = ["text/css", "text/javascript", "image/svg+xml", "application/octet-stream"];
});
builder.Services.Configure<BrotliCompressionProviderOptions>(brotli => brotli.Level = CompressionLevel.Optimal);

if (MailSettings.Read(config) is { } mail)
    builder.Services.AddSingleton(mail).AddHostedService<MailWorker>();

// A name that is not this house's is refused before anything else reads it.
if (config["VELVETGATE_HOSTS"] is { Length: > 0 } hosts)
    builder.Services.Configure<HostFilteringOptions>(filter =>
        filter.AllowedHosts = hosts.Split([',', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
    );

var app = builder.Build();
app.UseMetricsAddress();
app.UseKnownProxies();
app.UseSecurityHeaders();
app.UseProblems();
app.UseResponseCompression();
app.UseSafeWords();
app.UseDefaultFiles();
app.UseStaticFiles(
    new StaticFileOptions
    {
        OnPrepareResponse = file =>
            file.Context.Response.Headers.CacheControl = file.Context.Request.Path.StartsWithSegments("/assets")
                ? "public, max-age=31536000, immutable"
                : "no-cache",
    }
);
app.UseSchemaGuard();
app.UseNamelessNearMisses();
app.UseAuthentication();
app.UseSecondFactor();
app.UseAuthorization();
app.UseAntiforgeryHeader();
app.UsePlainBodies();

app.UseOutputCache();
app.MapOpenApi().AllowAnonymous().CacheOutput(policy => policy.Expire(TimeSpan.FromHours(1)));
app.MapReadiness();
app.MapPeopleRoom();
app.MapHouseRoom();
app.MapMachinesRoom();
app.MapUpkeepRoom();
app.MapWatchRoom();
app.MapGateRoom();
app.MapMaterialsRoom();
app.MapSettingsRoom();
app.MapTrainingRoom();
app.MapDrawingsRoom();
app.MapBookingRoom();
app.MapRunRoom();
app.MapIncidentsRoom();
app.MapStationRoom();
app.MapReportsRoom();
app.MapLedgerRoom();
app.MapPublicRoom();
app.Map("/api/{**rest}", () => TypedResults.NotFound()).AllowAnonymous().ExcludeFromDescription();
app.MapFallbackToFile("index.html").AllowAnonymous();
try
{
    app.Run();
}
catch (SchemaException e)
{
    await Console.Error.WriteLineAsync(e.Message);
    Environment.ExitCode = 3;
}

static Task Status(HttpResponse response, int status)
{
    response.StatusCode = status;
    return Task.CompletedTask;
}

/// <summary>Named so that the tests can host it.</summary>
public partial class Program;
