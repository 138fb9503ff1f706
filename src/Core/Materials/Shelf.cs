using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>What the shelf shows for one material on one machine.</summary>
/// <param name="Standing">The mildest standing of its three operations: what can be done at all.</param>
/// <param name="Words">A few words for the cell, such as “Cut to 6.35”.</param>
public sealed record ShelfCell(MachineId MachineId, RulingStatus Standing, string Words, IReadOnlyList<ShelfOperation> Operations);

/// <param name="MaxMm">Greatest thickness in mm, the ruling's and the machine's together; null where thickness does not matter.</param>
public sealed record ShelfOperation(Operation Operation, RulingStatus Standing, decimal? MaxMm);

/// <summary>Reads rulings and machines together. The gate asks the same rulings; this only shows them.</summary>
public static class Shelf
{
    public static ShelfCell Cell(MachineSpec machine, IEnumerable<Ruling> rulingsOfMaterial, LengthUnit unit = LengthUnit.Mm)
    {
        var rulings = rulingsOfMaterial.Where(r => r.Kind == machine.Kind).ToList();
        var operations = Enum.GetValues<Operation>().Select(o => Read(machine, o, rulings)).ToList();
        var standing = operations.Min(o => o.Standing);
        // Never outranks what a machine cannot do: it has to be said on every machine.
        if (operations.Any(o => o.Standing == RulingStatus.Never))
            standing = RulingStatus.Never;
        else if (operations.Any(o => o.Standing == RulingStatus.Banned) && standing == RulingStatus.Banned)
            standing = RulingStatus.Banned;
        return new ShelfCell(machine.Id, standing, Words(standing, operations, unit), operations);
    }

    /// <summary>One word for a material over all machines: the strictest thing that is said of it anywhere, else the mildest.</summary>
    /// <param name="ruled">False when nobody ruled on it: it is shut like a banned one, and never called merely impossible.</param>
    public static RulingStatus Overall(IEnumerable<ShelfCell> cells, bool ruled)
    {
        var standings = cells.Select(c => c.Standing).DefaultIfEmpty(RulingStatus.Cannot).ToList();
        return !ruled ? RulingStatus.Banned
            : standings.Contains(RulingStatus.Never) ? RulingStatus.Never
            : standings.Contains(RulingStatus.Banned) ? RulingStatus.Banned
            : standings.Min();
    }

    /// <summary>
    /// What the house and the machine together say of one operation at one thickness; no ruling reads as banned, for the gate is shut.
    /// </summary>
    public static RulingStatus At(MachineSpec machine, IEnumerable<Ruling> rulingsOfMaterial, Operation operation, decimal thicknessMm)
    {
        var ruling = rulingsOfMaterial.FirstOrDefault(r => r.Kind == machine.Kind && r.Operation == operation && r.Covers(thicknessMm));
        if (ruling is null)
            return RulingStatus.Banned;
        var fits =
            operation == Operation.Cut ? machine.MaxCutMm > 0 && thicknessMm <= machine.MaxCutMm : thicknessMm <= machine.MaxHeightMm;
        return !fits && ruling.Standing <= RulingStatus.ByArrangement ? RulingStatus.Cannot : ruling.Standing;
    }

    private static ShelfOperation Read(MachineSpec machine, Operation operation, List<Ruling> rulings)
    {
        var own = rulings.Where(r => r.Operation == operation).ToList();
        if (own.Count == 0)
            return new ShelfOperation(operation, RulingStatus.Cannot, null);
        var mildest = own.MinBy(r => r.Standing)!;
        if (operation == Operation.Cut && machine.MaxCutMm <= 0 && mildest.Standing < RulingStatus.Banned)
            return new ShelfOperation(operation, RulingStatus.Cannot, null);
        decimal? max =
            operation == Operation.Cut && mildest.Standing <= RulingStatus.ByArrangement
                ? Math.Min(mildest.MaxMm ?? machine.MaxCutMm, machine.MaxCutMm)
                : mildest.MaxMm;
        return new ShelfOperation(operation, mildest.Standing, max);
    }

    private static string Words(RulingStatus standing, List<ShelfOperation> operations, LengthUnit unit)
    {
        return standing switch
        {
            RulingStatus.Never => "Never",
            RulingStatus.Banned => "Banned",
            RulingStatus.Cannot => "Cannot",
            _ => operations[0].Standing switch
            {
                RulingStatus.Permitted => $"Cut to {Limit()}",
                RulingStatus.ByArrangement => $"Ask, cut to {Limit()}",
                _ when operations.Any(o => o.Standing == RulingStatus.Permitted) => "No cut",
                _ => "Ask, no cut",
            },
        };

        string Limit() => Length.Limit(operations[0].MaxMm ?? 0, unit);
    }
}
