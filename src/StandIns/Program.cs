using System.Globalization;
using VelvetGate.StandIns.Machines;

namespace VelvetGate.StandIns;

/// <summary>Stand-ins for what a house has outside of this product: a mail server, and machines with their controllers.</summary>
internal static class StandInsProgram
{
    private static async Task<int> Main(string[] args)
    {
        switch (args)
        {
            case ["mailbox", var port, var folder] when Port(port) is { } number:
                await using (var box = new MailBox(number, folder))
                    await box.Ended;
                return 0;
            case ["machines", var port, var broker, var file] when Port(port) is { } number:
                await MachinesHost.Run(number, new Uri(broker), file);
                return 0;
            default:
                await Console.Error.WriteLineAsync(
                    """
                    standins mailbox PORT FOLDER          keeps every mail that comes over SMTP as a file
                    standins machines PORT BROKER FILE    simulates the machines and controllers of FILE, with a page on loopback
                    """
                );
                return 2;
        }
    }

    private static int? Port(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
}
