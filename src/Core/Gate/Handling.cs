namespace VelvetGate.Core.Gating;

/// <summary>
/// What the rulings that serve an ask say of handling its materials. It conditions nothing; whoever runs the sheet reads it.
/// </summary>
public static class Handling
{
    /// <returns>Each note once for each item, in the order of the items.</returns>
    public static IEnumerable<(int Item, string Material, string Text)> Of(GateQuestion ask, GateFacts facts) =>
        ask.Items.SelectMany(
            (item, i) =>
                facts.Sheets[i].Rulings.IsKnown
                    ? facts
                        .Sheets[i]
                        .Rulings.Value.Where(r =>
                            item.Operations.Contains(r.Ruling.Operation)
                            && r.Ruling.Covers(item.ThicknessMm)
                            && r.Held.Overlaps(ask.Start, ask.End)
                            && !string.IsNullOrWhiteSpace(r.Ruling.Handling)
                        )
                        .Select(r => r.Ruling.Handling)
                        .Distinct()
                        .Select(text => (i, facts.Sheets[i].MaterialName, text))
                    : []
        );
}
