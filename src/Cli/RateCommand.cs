using System.Globalization;
using System.Text.Json;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Cli;

/// <summary>How often something happens, on a command line.</summary>
internal static class RateCommand
{
    private const string Usage = "vg calc rate --events N --hours H [--against-events N --against-hours H]";
    private const int MostEvents = 1_000_000;
    private const double MostHours = 10_000_000;

    /// <summary>
    /// <c>vg calc rate</c>: events for each 100 laser hours, with exact limits, as JSON; with a second count also how likely chance alone
    /// parts the two.
    /// </summary>
    public static int Run(string[] args)
    {
        var options = Options.Parse(args, ["--events", "--hours", "--against-events", "--against-hours"], ["--json"]);
        if (options.Plain.Count > 0)
            throw new UsageException($"{options.Plain[0]} is not read: {Usage}");
        var rate = Read(options, "--events", "--hours");
        if (!options.Has("--against-events") && !options.Has("--against-hours"))
        {
            Print(rate);
            return 0;
        }
        var against = Read(options, "--against-events", "--against-hours");
        Print(
            new
            {
                rate,
                against,
                byChance = Rate.ByChance(rate.Count, rate.Hours!.Value, against.Count, against.Hours!.Value),
            }
        );
        return 0;
    }

    private static Rate Read(Options options, string events, string hours)
    {
        if (!int.TryParse(options[events], NumberStyles.None, CultureInfo.InvariantCulture, out var count) || count > MostEvents)
            throw new UsageException($"{events} takes a whole number from 0 to {MostEvents}.");
        if (
            !double.TryParse(options[hours], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var known)
            || known is not (> 0 and <= MostHours)
        )
            throw new UsageException($"{hours} takes laser hours above 0, up to {MostHours:0}, such as 412.5.");
        return Rate.Of(count, known);
    }

    private static void Print(object made) => Console.WriteLine(JsonSerializer.Serialize(made, GateJson.Options));
}
