using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Upkeep;

/// <summary>Something that upkeep uses up: a lens, carbon, distilled water.</summary>
/// <param name="Unit">In which it is counted, such as “pieces” or “l”.</param>
/// <param name="Part">Tasks about this offer it; null for none.</param>
/// <param name="MachineId">Null: for any machine.</param>
/// <param name="Place">Where it is kept.</param>
/// <param name="Reorder">At so much or less, it is ordered anew.</param>
/// <param name="Waste">Where the used one goes.</param>
public sealed record Consumable(
    string Name,
    string Unit,
    UpkeepPart? Part,
    MachineId? MachineId,
    string Place,
    string Supplier,
    decimal Reorder,
    string Waste
)
{
    public const int NameLongest = 80;
    public const int UnitLongest = 20;
    public const int WordsLongest = 200;

    /// <summary>More than this is a slip of the pen.</summary>
    public const decimal Most = 10_000;

    public static bool IsLow(decimal stock, decimal reorder) => stock <= reorder;

    /// <param name="taken">Another one has this name.</param>
    public static Refusal? Twice(bool taken) => taken ? UpkeepProblems.StockTwice.Refuse("name") : null;

    public IEnumerable<Refusal> Wrong()
    {
        if (string.IsNullOrWhiteSpace(Name) || Name.Length > NameLongest)
            yield return UpkeepProblems.StockName.Refuse("name", NameLongest);
        if (string.IsNullOrWhiteSpace(Unit) || Unit.Length > UnitLongest)
            yield return UpkeepProblems.StockUnit.Refuse("unit", UnitLongest);
        if (Reorder is < 0 or > Most)
            yield return UpkeepProblems.StockReorder.Refuse("reorder", Most);
        foreach (var (field, text) in new[] { ("place", Place), ("supplier", Supplier), ("waste", Waste) })
            if (text.Length > WordsLongest)
                yield return UpkeepProblems.PlanWords.Refuse(field, WordsLongest);
        // What comes out of a tube, a filter or a bath may poison: where it goes is said before the first one is used.
        if (string.IsNullOrWhiteSpace(Waste))
            yield return UpkeepProblems.StockWaste.Refuse("waste");
    }

    public static Refusal? MayChange(UpkeepHands hands) =>
        UpkeepDone.MayDo(UpkeepWho.Trainer, hands) ? null : UpkeepProblems.StockStaff.Refuse();

    /// <summary>What came in, or was used up.</summary>
    /// <param name="amount">Above zero.</param>
    /// <param name="stock">There now.</param>
    /// <param name="used">Used up; else it came in.</param>
    public static Refusal? WrongChange(decimal? amount, decimal stock, bool used) =>
        amount is null or <= 0 or > Most ? UpkeepProblems.StockAmount.Refuse("amount", Most)
        : used && amount > stock
            ? UpkeepProblems.StockShort.Refuse("amount", stock.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture))
        : null;

    /// <summary>The shelf was counted.</summary>
    public static Refusal? WrongCount(decimal? counted, decimal stock) =>
        counted is null or < 0 or > Most ? UpkeepProblems.StockCounted.Refuse("amount", Most)
        : counted == stock ? UpkeepProblems.StockSame.Refuse("amount")
        : null;
}
