using System.Diagnostics;
using System.Text.Json;
using System.Text.Json.Nodes;
using NodaTime;
using VelvetGate.Tests.Support;

namespace VelvetGate.Web.Tests.Station.Controllers;

/// <summary>A controller that somebody else wrote, in another language, from the protocol’s page alone.</summary>
public sealed class PythonController : IAsyncDisposable
{
    private readonly ControlledHouse _house;
    private readonly Process _process;

    public PythonController(ControlledHouse house)
    {
        _house = house;
        var at = house.ControllersAt;
        var start = new ProcessStartInfo("/usr/bin/python3") { RedirectStandardInput = true, RedirectStandardOutput = true };
        foreach (
            var argument in new[]
            {
                Repo.Path("tests", "outside", "controller.py"),
                at.Host,
                $"{at.Port}",
                "heron",
                ControlledHouse.Serial,
                Convert.ToHexStringLower(ControlledHouse.Key),
                "1",
            }.Concat(at.UserInfo.Length > 0 ? at.UserInfo.Split(':') : [])
        )
            start.ArgumentList.Add(argument);
        _process = Process.Start(start)!;
    }

    public JsonObject Sensors { get; } =
        new()
        {
            ["airflowM3PerHour"] = 640,
            ["coolantC"] = 21,
            ["coolantLPerMin"] = 2.4,
            ["lidShut"] = true,
            ["keyOut"] = false,
        };

    public async Task<JsonElement> Tell(JsonObject command)
    {
        await _process.StandardInput.WriteLineAsync(command.ToJsonString());
        await _process.StandardInput.FlushAsync();
        var line = await _process.StandardOutput.ReadLineAsync(new CancellationTokenSource(TimeSpan.FromSeconds(10)).Token)
            ?? throw new InvalidOperationException("The controller has ended.");
        return JsonDocument.Parse(line).RootElement;
    }

    public Task Connect() => Tell(new JsonObject { ["connect"] = true });

    public Task Press() => Tell(new JsonObject { ["press"] = true });

    /// <summary>Time passes for machine and house.</summary>
    public async Task<JsonElement> Pass(int seconds)
    {
        var state = await Tell(Step(0));
        for (var left = seconds; left > 0; left -= 5)
        {
            var step = Math.Min(left, 5);
            _house.Clock.Now += Duration.FromSeconds(step);
            state = await Tell(Step(step * 1000));
            var (events, readings) = (state.GetProperty("events").GetInt64(), state.GetProperty("readings").GetInt64());
            await ControlledHouse.Until(
                () => _house.Ask<bool>($"select event_number >= {events} and reading_number >= {readings} from station.controller"),
                "the house does not hear"
            );
        }
        return state;
    }

    public async Task Becomes(bool relay) =>
        await ControlledHouse.Until(
            async () => (await Tell(Step(0))).GetProperty("relay").GetBoolean() == relay,
            $"the relay does not go {(relay ? "on" : "off")}"
        );

    private JsonObject Step(int ms) => new() { ["pass"] = ms, ["sensors"] = Sensors.DeepClone() };

    public async ValueTask DisposeAsync()
    {
        _process.StandardInput.Close();
        if (!_process.WaitForExit(2_000))
            _process.Kill();
        await _process.WaitForExitAsync();
        _process.Dispose();
    }
}
