using System.Globalization;
using System.Runtime.InteropServices;

namespace VelvetGate.Broker;

/// <summary>Serves until it is told to end.</summary>
internal static class BrokerProgram
{
    private static async Task<int> Main(string[] args)
    {
        if (
            args is not [var port]
            || !int.TryParse(port, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            || Environment.GetEnvironmentVariable("VELVETGATE_BROKER_PASSWORD") is not { Length: >= 16 } password
        )
        {
            await Console.Error.WriteLineAsync(
                "VELVETGATE_BROKER_PASSWORD=… broker PORT   serves MQTT on loopback; the house signs in as “house”"
            );
            return 2;
        }
        await using var broker = new HouseBroker(number, password);
        await broker.Start();
        var ended = new TaskCompletionSource();
        using var term = PosixSignalRegistration.Create(PosixSignal.SIGTERM, c =>
        {
            c.Cancel = true;
            ended.TrySetResult();
        });
        await ended.Task;
        return 0;
    }
}
