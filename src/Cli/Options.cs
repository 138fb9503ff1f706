namespace VelvetGate.Cli;

/// <summary>Arguments as <c>--name value</c>, flags and the rest.</summary>
internal sealed class Options
{
    private readonly Dictionary<string, string?> _named = new(StringComparer.Ordinal);

    public List<string> Plain { get; } = [];

    /// <param name="flags">Names that take no value.</param>
    /// <exception cref="UsageException">An option is unknown or lacks its value.</exception>
    public static Options Parse(IReadOnlyList<string> args, string[] values, string[] flags)
    {
        var options = new Options();
        for (var i = 0; i < args.Count; i++)
        {
            if (!args[i].StartsWith("--", StringComparison.Ordinal))
                options.Plain.Add(args[i]);
            else if (flags.Contains(args[i]))
                options._named[args[i]] = null;
            else if (!values.Contains(args[i]))
                throw new UsageException($"There is no option {args[i]}.");
            else if (i + 1 >= args.Count)
                throw new UsageException($"{args[i]} needs a value.");
            else
                options._named[args[i]] = args[++i];
        }
        return options;
    }

    public string? this[string name] => _named.GetValueOrDefault(name);

    public bool Has(string flag) => _named.ContainsKey(flag);
}

/// <summary>What was typed cannot be carried out; the message says what to type.</summary>
internal sealed class UsageException(string message) : Exception(message);
