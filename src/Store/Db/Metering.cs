using System.Diagnostics.Metrics;

namespace VelvetGate.Store.Db;

/// <summary>What an operator counts of this house. Numbers only: no person, no text, no id.</summary>
public static class Metering
{
    public const string Name = "VelvetGate";

    private static readonly Meter Meter = new(Name);

    /// <summary>Decisions of the gate, by verdict and by what they were for.</summary>
    private static readonly Counter<long> Decisions = Meter.CreateCounter<long>("velvetgate.gate.decisions", "{decision}");

    /// <summary>How often what is remembered had to be read again, by topic.</summary>
    private static readonly Counter<long> Reloads = Meter.CreateCounter<long>("velvetgate.memory.reloads", "{reload}");

    /// <param name="purpose">asked, booked or followed.</param>
    public static void Decided(Core.Gating.Verdict verdict, string purpose) =>
        Decisions.Add(1, new("verdict", verdict.ToString().ToLowerInvariant()), new("for", purpose));

    internal static void Reloaded(Topic topic) =>
        Reloads.Add(1, new KeyValuePair<string, object?>("topic", topic.ToString().ToLowerInvariant()));
}
