using System.Text.Json;
using System.Text.Json.Serialization;
using VelvetGate.Core.Settings.Calculators;

namespace VelvetGate.Cli;

/// <summary>Calculators of the house, on a command line: without a database, in the same numbers as the pages.</summary>
internal static class CalcCommand
{
    /// <summary>Nothing is left out: a program that reads it finds every name.</summary>
    private static readonly JsonSerializerOptions Json = new(GateJson.Options) { DefaultIgnoreCondition = JsonIgnoreCondition.Never };

    /// <summary>
    /// <c>vg calc NAME --field value … [--unit mm|in] [--json]</c>: an answer with its working, in words or as one JSON document.
    /// </summary>
    public static int Run(string[] args)
    {
        if (args is ["rate", .. var events])
            return RateCommand.Run(events);
        if (args is not [var name, .. var rest] || CalculatorList.Find(name) is not { } calculator)
            throw new UsageException($"vg calc {string.Join(" | ", CalculatorList.All.Select(c => c.Name))} | rate");
        var options = Options.Parse(
            rest,
            [.. calculator.Inputs.Where(i => i.Kind != InputKind.Tick).Select(Flag), "--unit"],
            [.. calculator.Inputs.Where(i => i.Kind == InputKind.Tick).Select(Flag), "--json"]
        );
        if (options.Plain.Count > 0)
            throw new UsageException($"{options.Plain[0]} is not read: {Usage(calculator)}");
        if (Length.ParseChoice(options["--unit"]) is not { IsOk: true, Value: var unit })
            throw new UsageException("--unit takes mm or in.");
        var typed = calculator
            .Inputs.Where(i => options.Has(Flag(i)))
            .ToDictionary(i => i.Name, i => i.Kind == InputKind.Tick ? "yes" : options[Flag(i)]);
        var (inputs, wrong) = CalcInputs.Read(calculator, typed, unit);
        if (inputs is null)
            throw new UsageException(string.Join(" ", wrong.Select(w => $"--{w.Field}: {w.Text}")));
        var worked = calculator.Answer(inputs);
        if (worked.Refusal is { } refusal)
            throw new UsageException(refusal.Field is null ? refusal.Text : $"--{refusal.Field}: {refusal.Text}");
        if (options.Has("--json"))
            Console.WriteLine(JsonSerializer.Serialize(Document(worked.Value), Json));
        else
            Print(worked.Value);
        return 0;
    }

    private static string Flag(CalcInput input) => $"--{input.Name}";

    private static string Usage(Calculator calculator) =>
        $"vg calc {calculator.Name} "
        + string.Join(
            " ",
            calculator.Inputs.Select(i =>
                i.Kind == InputKind.Tick ? $"[--{i.Name}]"
                : i.Needed ? $"--{i.Name} \"{i.Example}\""
                : $"[--{i.Name} \"{i.Example}\"]"
            )
        );

    private static Dictionary<string, object?> Document(CalcAnswer answer)
    {
        var document = answer.Values.ToDictionary(v => v.Name, v => v.Value);
        if (answer.Standing is { } standing)
            document.TryAdd("standing", standing);
        document["says"] = answer.Says ?? [];
        document["working"] = answer.Working;
        return document;
    }

    private static void Print(CalcAnswer answer)
    {
        foreach (var value in answer.Values)
            Console.WriteLine($"{value.Label}: {value.Shown}");
        foreach (var step in answer.Working)
            Console.WriteLine($"  {step}");
        foreach (var words in answer.Says ?? [])
            Console.WriteLine(words);
    }
}
