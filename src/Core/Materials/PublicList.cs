using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>One line of the list that hangs at a machine.</summary>
/// <param name="Words">What may be done where, such as “Cut to 6.35”; empty for what stays out.</param>
/// <param name="Hints">Evidence wanted, and how to handle it.</param>
public sealed record ListedMaterial(
    MaterialId Id,
    string Name,
    IReadOnlyList<string> AlsoCalled,
    string Hazard,
    string Words,
    string Hints
);

/// <param name="Standing">Never and banned first: whoever reads one line reads these.</param>
public sealed record ListSection(RulingStatus Standing, string Title, IReadOnlyList<ListedMaterial> Items);

/// <summary>
/// The house's list as everybody may read it: what stays out first. What is not on it stays out too. Source: common practice of posted
/// lists.
/// </summary>
public static class PublicList
{
    private static readonly (RulingStatus Standing, string Title)[] Order =
    [
        (RulingStatus.Never, "Never"),
        (RulingStatus.Banned, "Banned here"),
        (RulingStatus.ByArrangement, "Ask a steward first"),
        (RulingStatus.Permitted, "Permitted"),
        (RulingStatus.Cannot, "This machine cannot"),
    ];

    /// <param name="machines">One machine for its own list, or all of a house.</param>
    public static IReadOnlyList<ListSection> Of(
        IReadOnlyList<Material> materials,
        ILookup<MaterialId, Ruling> rulings,
        IReadOnlyList<MachineSpec> machines,
        LengthUnit unit
    )
    {
        var lines = materials.Select(m => Line(m, [.. rulings[m.Id]], machines, unit)).ToLookup(l => l.Standing, l => l.Line);
        return
        [
            .. Order
                .Where(o => lines[o.Standing].Any())
                .Select(o => new ListSection(
                    o.Standing,
                    machines.Count > 1 && o.Standing == RulingStatus.Cannot ? "No machine here can" : o.Title,
                    [.. lines[o.Standing]]
                )),
        ];
    }

    private static (RulingStatus Standing, ListedMaterial Line) Line(
        Material material,
        List<Ruling> rulings,
        IReadOnlyList<MachineSpec> machines,
        LengthUnit unit
    )
    {
        var cells = machines.Select(m => (Machine: m, Cell: Shelf.Cell(m, rulings, unit))).ToList();
        var standing = Shelf.Overall(cells.Select(c => c.Cell), rulings.Count > 0);
        var open = standing is RulingStatus.Permitted or RulingStatus.ByArrangement;
        var words = open
            ? string.Join(
                "; ",
                cells
                    .Where(c => c.Cell.Standing <= RulingStatus.ByArrangement)
                    .Select(c => machines.Count > 1 ? $"{c.Machine.Name}: {Lower(Say(c.Cell))}" : Say(c.Cell))
            )
            : "";
        var evidence = rulings
            .Where(r => r.Standing <= RulingStatus.ByArrangement)
            .Select(r => r.Evidence)
            .DefaultIfEmpty(Evidence.None)
            .Max();
        var hints = open
            ? string.Join(
                " ",
                new[]
                {
                    evidence switch
                    {
                        Evidence.ClearedTag => "Needs the tag of a cleared sheet.",
                        Evidence.Declared => "Say where it comes from.",
                        _ => "",
                    },
                    rulings.FirstOrDefault()?.Handling ?? "",
                }.Where(t => t.Length > 0)
            )
            : "";
        return (
            standing,
            new ListedMaterial(
                material.Id,
                material.Name,
                material.Synonyms,
                rulings.FirstOrDefault()?.Hazard ?? "Nobody has ruled on it.",
                words,
                hints
            )
        );
    }

    private static string Say(ShelfCell cell)
    {
        var others = cell
            .Operations.Where(o => o.Operation != Operation.Cut && o.Standing <= RulingStatus.ByArrangement)
            .Select(o =>
                (o.Standing == RulingStatus.ByArrangement && cell.Standing == RulingStatus.Permitted ? "ask to " : "")
                + o.Operation.ToString().ToLowerInvariant()
            );
        return string.Join(", ", others.Prepend(cell.Words));
    }

    private static string Lower(string text) => text.Length > 0 ? char.ToLowerInvariant(text[0]) + text[1..] : text;
}
