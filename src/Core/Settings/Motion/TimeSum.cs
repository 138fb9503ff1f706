using VelvetGate.Core.House;

namespace VelvetGate.Core.Settings.Motion;

/// <summary>Adds up a run, layer by layer, and holds it against what the machine's own runs have shown.</summary>
internal sealed class TimeSum(RunSettings settings)
{
    /// <summary>Until a house has logged runs enough, a tenth less and a quarter more. Common practice.</summary>
    private const decimal Less = 0.9m;
    private const decimal More = 1.25m;

    private readonly Dictionary<(Operation Operation, string? Colour), double> _layers = [];
    private readonly Dictionary<Operation, double> _travel = [];

    /// <summary>Seconds with the beam on.</summary>
    /// <param name="colour">Null for what several colours share.</param>
    /// <returns>Seconds that pass before the layer begins, where it is a new one.</returns>
    public double Add(Operation operation, string? colour, double seconds)
    {
        if (seconds <= 0)
            return 0;
        var news = _layers.TryAdd((operation, colour), 0);
        _layers[(operation, colour)] += seconds;
        if (!news)
            return 0;
        Travel(operation, settings.StartUpSeconds);
        return settings.StartUpSeconds;
    }

    /// <summary>Seconds with the beam off, for this operation.</summary>
    public void Travel(Operation operation, double seconds) => _travel[operation] = _travel.GetValueOrDefault(operation) + seconds;

    public DrawingTime Total()
    {
        var (all, low, high, travel) = (0.0, 0.0, 0.0, 0.0);
        var layers = new List<LayerSeconds>();
        foreach (var operation in Enum.GetValues<Operation>())
        {
            var told = settings.Factors?.FirstOrDefault(f => f.Operation == operation);
            var (factor, less, more) = ((double)(told?.Factor ?? 1), (double)(told?.Low ?? Less), (double)(told?.High ?? More));
            var own = _layers.Where(l => l.Key.Operation == operation).Select(l => l).ToList();
            layers.AddRange(own.Select(l => new LayerSeconds(l.Key.Colour, operation, l.Value * factor)));
            var off = _travel.GetValueOrDefault(operation) * factor;
            var both = own.Sum(l => l.Value) * factor + off;
            (all, travel) = (all + both, travel + off);
            (low, high) = (low + both * less, high + both * more);
        }
        double Of(Operation operation) => layers.Where(l => l.Operation == operation).Sum(l => l.Seconds);
        return new DrawingTime(
            all,
            low,
            high,
            new SecondsBy(Of(Operation.Cut), Of(Operation.Score), Of(Operation.Engrave), travel),
            layers
        );
    }
}
