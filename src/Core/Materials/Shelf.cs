using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>What the shelf shows for one material on one machine.</summary>
/// <param name="Standing">The mildest standing of its three operations: what can be done at all.</param>
/// <param name="Words">A few words for the cell, such as “Cut to 6.35”.</param>
public sealed record ShelfCell(string MachineId, RulingStanding Standing, string Words, IReadOnlyList<ShelfOperation> Operations);

/// <param name="MaxMm">Greatest thickness in mm, the ruling's and the machine's together; null where thickness does not matter.</param>
public sealed record ShelfOperation(Operation Operation, RulingStanding Standing, decimal? MaxMm);

/// <summary>Reads rulings and machines together. The gate asks the same rulings; this only shows them.</summary>
public static class Shelf
{
    public static ShelfCell Cell(MachineSpec machine, IEnumerable<Ruling> rulingsOfMaterial, LengthUnit unit = LengthUnit.Mm)
    {
        var rulings = rulingsOfMaterial.Where(r => r.Kind == machine.Kind).ToList();
        var operations = Enum.GetValues<Operation>().Select(o => Read(machine, o, rulings)).ToList();
        var standing = operations.Min(o => o.Standing);
        // Never outranks what a machine cannot do: it has to be said on every machine.
        if (operations.Any(o => o.Standing == RulingStanding.Never))
            standing = RulingStanding.Never;
        else if (operations.Any(o => o.Standing == RulingStanding.Banned) && standing == RulingStanding.Banned)
            standing = RulingStanding.Banned;
        return new ShelfCell(machine.Id, standing, Words(standing, operations, unit), operations);
    }

    /// <summary>One word for a material over all machines: the strictest thing that is said of it anywhere, else the mildest.</summary>
    /// <param name="ruled">False when nobody ruled on it: it is shut like a banned one, and never called merely impossible.</param>
    public static RulingStanding Overall(IEnumerable<ShelfCell> cells, bool ruled)
    {
        var standings = cells.Select(c => c.Standing).DefaultIfEmpty(RulingStanding.Cannot).ToList();
        return !ruled ? RulingStanding.Banned
            : standings.Contains(RulingStanding.Never) ? RulingStanding.Never
            : standings.Contains(RulingStanding.Banned) ? RulingStanding.Banned
            : standings.Min();
    }

    /// <summary>
    /// What the house and the machine together say of one operation at one thickness; no ruling reads as banned, for the gate is shut.
    /// </summary>
    public static RulingStanding At(MachineSpec machine, IEnumerable<Ruling> rulingsOfMaterial, Operation operation, decimal thicknessMm)
    {
        var ruling = rulingsOfMaterial.FirstOrDefault(r => r.Kind == machine.Kind && r.Operation == operation && r.Covers(thicknessMm));
        if (ruling is null)
            return RulingStanding.Banned;
        var fits =
            operation == Operation.Cut ? machine.MaxCutMm > 0 && thicknessMm <= machine.MaxCutMm : thicknessMm <= machine.MaxHeightMm;
        return !fits && ruling.Standing <= RulingStanding.ByArrangement ? RulingStanding.Cannot : ruling.Standing;
    }

    private static ShelfOperation Read(MachineSpec machine, Operation operation, List<Ruling> rulings)
    {
        var own = rulings.Where(r => r.Operation == operation).ToList();
        if (own.Count == 0)
            return new ShelfOperation(operation, RulingStanding.Cannot, null);
        var mildest = own.MinBy(r => r.Standing)!;
        if (operation == Operation.Cut && machine.MaxCutMm <= 0 && mildest.Standing < RulingStanding.Banned)
            return new ShelfOperation(operation, RulingStanding.Cannot, null);
        decimal? max =
            operation == Operation.Cut && mildest.Standing <= RulingStanding.ByArrangement
                ? Math.Min(mildest.MaxMm ?? machine.MaxCutMm, machine.MaxCutMm)
                : mildest.MaxMm;
        return new ShelfOperation(operation, mildest.Standing, max);
    }

    private static string Words(RulingStanding standing, List<ShelfOperation> operations, LengthUnit unit)
    {
        return standing switch
        {
            RulingStanding.Never => "Never",
            RulingStanding.Banned => "Banned",
            RulingStanding.Cannot => "Cannot",
            _ => operations[0].Standing switch
            {
                RulingStanding.Permitted => $"Cut to {Limit()}",
                RulingStanding.ByArrangement => $"Ask, cut to {Limit()}",
                _ when operations.Any(o => o.Standing == RulingStanding.Permitted) => "No cut",
                _ => "Ask, no cut",
            },
        };

        string Limit() => Length.Limit(operations[0].MaxMm ?? 0, unit);
    }
}
