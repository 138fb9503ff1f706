using VelvetGate.Core.House;
using VelvetGate.Core.Materials;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;

namespace VelvetGate.Cli;

/// <summary>Makes a test piece as SVG, with its card, without a database.</summary>
internal static class TestPieceCommand
{
    private const string Usage =
        "vg testpiece cut|engrave|kerf|focus|joint --machine ID --material ID --thickness MM --out FILE.svg [--json]";

    public static int Run(string[] args)
    {
        var options = Options.Parse(args, ["--machine", "--material", "--thickness", "--out"], ["--json"]);
        if (options.Plain is not [var word] || Typed.Word<TestPieceKind>(word) is not { } kind)
            throw new UsageException(Usage);
        var to = options["--out"] ?? throw new UsageException($"--out: name the file to write. {Usage}");
        var machine = CheckCommand.Machine(options);
        var material = MaterialTable.Find(options["--material"] ?? "")
            ?? throw new UsageException($"There is no material “{options["--material"]}”.");
        var thickness = Length.Parse(options["--thickness"]);
        if (thickness.Refusal is { } refusal)
            throw new UsageException($"--thickness: {refusal.Text}");
        var rulings = MaterialTable.Rulings.Where(r => r.MaterialId == material.Id);
        if (SettingRules.Ruled(machine, rulings, OperationOf(kind), thickness.Value) is { } ruled)
            throw new UsageException(ruled.Text);
        var guess = FirstGuess.Of(
            new SettingWish(machine.Id, material.Id, thickness.Value, Operation.Cut),
            [],
            new Dictionary<MachineId, Core.Machines.MachineSpec> { [machine.Id] = machine },
            material.CutEnergyJPerMm2
        );
        var piece = TestPieceMaker.Make(new TestPieceWish(kind, thickness.Value, guess, machine.TopSpeedMmS, machine.KerfMm));
        try
        {
            File.WriteAllText(to, piece.Svg);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or ArgumentException)
        {
            throw new UsageException($"--out: {e.Message}");
        }
        if (options.Has("--json"))
            Console.WriteLine(
                GateJson.Write(
                    new
                    {
                        file = to,
                        piece.WidthMm,
                        piece.HeightMm,
                        piece.Cells,
                        piece.Card,
                    }
                )
            );
        else
            foreach (var line in piece.Card)
                Console.WriteLine(line);
        return 0;
    }

    private static Operation OperationOf(TestPieceKind kind) =>
        kind switch
        {
            TestPieceKind.Engrave => Operation.Engrave,
            TestPieceKind.Focus => Operation.Score,
            _ => Operation.Cut,
        };
}
