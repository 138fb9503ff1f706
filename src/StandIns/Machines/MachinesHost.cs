using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.StandIns.Machines;

/// <summary>How a machine stands, and what may be set.</summary>
public sealed record MachineView(
    string Machine,
    string Name,
    bool Beam,
    bool Siren,
    double? LeaseSecondsLeft,
    decimal? AirflowM3PerHour,
    decimal? CoolantC,
    decimal? CoolantFlow,
    decimal? RoomC,
    decimal? Humidity,
    bool? LidClosed,
    bool Network,
    bool Power,
    bool ServiceKey,
    bool PaperKey,
    bool BeamStuck
);

public sealed record FobTap(string? Code);

/// <summary>Simulated machines over HTTP, and a page for people, on loopback. No sign-in: nothing here is real.</summary>
public static class MachinesHost
{
    /// <param name="file">JSON list of <see cref="MachineSetUp"/>; boots are counted beside it.</param>
    public static async Task Run(int port, Uri broker, string file)
    {
        var setUps = JsonSerializer.Deserialize<List<MachineSetUp>>(await File.ReadAllTextAsync(file), JsonSerializerOptions.Web) ?? [];
        var boots = Path.GetDirectoryName(Path.GetFullPath(file))!;
        await using var machines = new StandInMachines(
            setUps.Select(s => new StandInMachine(s, TimeProvider.System, () => NextBoot(boots, s.Serial))),
            broker,
            TimeProvider.System
        );
        await using var app = Build(machines, port);
        await app.RunAsync();
    }

    /// <summary>The way in for scripts, tests and the page.</summary>
    public static WebApplication Build(StandInMachines machines, int port)
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
        builder.Services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.DefaultIgnoreCondition = JsonIgnoreCondition.Never;
        });
        var app = builder.Build();
        app.MapGet("/", () =>
            Results.Stream(typeof(MachinesHost).Assembly.GetManifestResourceStream("page.html")!, "text/html; charset=utf-8")
        );
        app.MapGet("/machines", () => machines.All.Select(m => View(m)));
        app.MapGet("/machines/{id}", (string id) => machines.Find(id) is { } m ? Results.Ok(View(m)) : Results.NotFound());
        app.MapPut("/machines/{id}", (string id, JsonElement body) =>
        {
            if (machines.Find(id) is not { } machine)
                return Results.NotFound();
            if (body.ValueKind != JsonValueKind.Object)
                return Results.BadRequest("Send an object with what is to be set.");
            try
            {
                machine.Turn(dials => Turned(dials, body));
            }
            catch (FormatException e)
            {
                return Results.BadRequest(e.Message);
            }
            return Results.Ok(View(machine));
        });
        app.MapPost("/machines/{id}/fob", async (string id, FobTap tap, CancellationToken cancel) =>
        {
            if (machines.LineOf(id) is not { } line)
                return Results.NotFound();
            if (tap.Code is not { Length: > 0 and <= 100 } code)
                return Results.BadRequest("Send {\"code\": \"…\"}.");
            await line.Fob(code, cancel);
            return Results.NoContent();
        });
        app.MapPost("/machines/{id}/button", async (string id, CancellationToken cancel) =>
        {
            if (machines.LineOf(id) is not { } line)
                return Results.NotFound();
            await line.Press(cancel);
            return Results.NoContent();
        });
        return app;
    }

    private static MachineView View(StandInMachine machine)
    {
        var (d, s) = (machine.Dials, machine.State);
        return new MachineView(
            Machine: machine.SetUp.Machine,
            Name: machine.SetUp.Name,
            Beam: s.Beam,
            Siren: s.Siren,
            LeaseSecondsLeft: s.LeftMs / 1000.0,
            AirflowM3PerHour: d.AirflowM3PerHour,
            CoolantC: d.CoolantC,
            CoolantFlow: d.CoolantFlow,
            RoomC: d.RoomC,
            Humidity: d.Humidity,
            LidClosed: d.LidClosed,
            Network: d.Network,
            Power: d.Power,
            ServiceKey: d.ServiceKey,
            PaperKey: d.PaperKey,
            BeamStuck: d.BeamStuck
        );
    }

    /// <exception cref="FormatException">A field is unknown, or its value is none.</exception>
    private static Dials Turned(Dials dials, JsonElement body)
    {
        foreach (var (name, value) in body.EnumerateObject().Select(p => (p.Name, p.Value)))
            dials = name switch
            {
                "airflowM3PerHour" => dials with { AirflowM3PerHour = Number(name, value) },
                "coolantC" => dials with { CoolantC = Number(name, value) },
                "coolantFlow" => dials with { CoolantFlow = Number(name, value) },
                "roomC" => dials with { RoomC = Number(name, value) },
                "humidity" => dials with { Humidity = Number(name, value) },
                "lidClosed" => dials with { LidClosed = Flag(name, value) },
                "network" => dials with { Network = Flag(name, value) ?? false },
                "power" => dials with { Power = Flag(name, value) ?? false },
                "serviceKey" => dials with { ServiceKey = Flag(name, value) ?? false },
                "paperKey" => dials with { PaperKey = Flag(name, value) ?? false },
                "beamStuck" => dials with { BeamStuck = Flag(name, value) ?? false },
                _ => throw new FormatException($"There is no “{name}” to set."),
            };
        return dials;
    }

    private static decimal? Number(string name, JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => null,
            JsonValueKind.Number when value.TryGetDecimal(out var number) && Math.Abs(number) < 1_000_000 => number,
            _ => throw new FormatException($"“{name}” is a number, or null for a sensor that is silent."),
        };

    private static bool? Flag(string name, JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => null,
            JsonValueKind.True => true,
            JsonValueKind.False => false,
            _ => throw new FormatException($"“{name}” is true or false, or null for a sensor that is silent."),
        };

    private static int NextBoot(string folder, string serial)
    {
        var file = Path.Combine(folder, $"{serial}.boot");
        var boot = (File.Exists(file) && int.TryParse(File.ReadAllText(file), out var last) ? last : 0) + 1;
        File.WriteAllText(file, $"{boot}");
        return boot;
    }
}
