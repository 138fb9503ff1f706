using System.Text;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Materials;

/// <summary>What the stewards say to something that is not on the list.</summary>
public enum RequestAnswer
{
    /// <summary>It is a material of the list, under another name.</summary>
    Known,

    /// <summary>It comes on the list with a ruling of its own.</summary>
    Added,

    /// <summary>This one sheet may be used, by arrangement; the list does not change.</summary>
    Cleared,

    /// <summary>It stays out.</summary>
    Refused,
}

/// <summary>Asking for a ruling. Source: common practice; what nobody has ruled on stays out until somebody asks.</summary>
public static class RulingRequests
{
    /// <summary>Longest name, supplier or link, in characters.</summary>
    public const int LongestWord = 200;

    /// <summary>Open requests of one person at a time: more is a list for a meeting.</summary>
    public const int MostOpen = 10;

    /// <summary>Whether this steward may answer.</summary>
    public static Refusal? MayAnswer(PersonId askedBy, PersonId by) => askedBy == by ? MaterialsProblems.RequestSelf.Refuse() : null;

    /// <param name="open">Requests of this person that wait.</param>
    /// <returns>Null when they may put up another.</returns>
    public static Refusal? MayAsk(int open) => open >= MostOpen ? MaterialsProblems.RequestMany.Refuse("name", MostOpen) : null;

    /// <summary>The address of a new material, refused when its name has none.</summary>
    public static Result<MaterialId> Named(string name) =>
        IdOf(name) is { Length: > 0 } id ? new MaterialId(id) : MaterialsProblems.RequestName.Refuse("name");

    /// <summary>The address a new material gets: small letters, digits and hyphens.</summary>
    /// <returns>Empty when the name holds no letter or digit of the alphabet.</returns>
    public static string IdOf(string name)
    {
        var id = new StringBuilder();
        foreach (var c in PlainLetters.Of(name))
        {
            if (char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c))
                id.Append(c);
            else if (id.Length > 0 && id[^1] != '-')
                id.Append('-');
        }
        var text = id.ToString().Trim('-');
        return text.Length > 40 ? text[..40].Trim('-') : text;
    }

    /// <summary>
    /// The same ruling for every kind of laser and operation: the careful start of a material that the house does not know yet.
    /// </summary>
    /// <param name="standing">Never, banned or by arrangement; what is permitted is ruled cell by cell afterwards.</param>
    public static IReadOnlyList<Ruling> Everywhere(
        MaterialId materialId,
        RulingStatus standing,
        IReadOnlyList<string> reasons,
        string hazard
    ) =>
        [
            .. Enum.GetValues<LaserKind>()
                .SelectMany(kind =>
                    Enum.GetValues<Operation>()
                        .Select(operation => new Ruling(
                            MaterialId: materialId,
                            Kind: kind,
                            Operation: operation,
                            MinMm: 0,
                            MaxMm: null,
                            Standing: standing,
                            Evidence: Evidence.ClearedTag,
                            Reasons: reasons,
                            Hazard: hazard,
                            Handling: "",
                            FilteredNeedsArrangement: false
                        ))
                ),
        ];
}
