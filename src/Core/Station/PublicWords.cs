using VelvetGate.Core.Gating;

namespace VelvetGate.Core.Station;

/// <summary>
/// What a screen at a machine says where anybody looks on: that the gate is shut, and never what it has against a person. They see it on
/// their own phone.
/// </summary>
public static class PublicWords
{
    public const string Personal = "Something about whoever is tapped in: they see it on their own phone, or ask a steward.";

    private static readonly IReadOnlySet<string> Persons = Codes
        .All.Where(r => r.Post is Post.Person or Post.Training)
        .Select(r => r.Code)
        .ToHashSet();

    public static bool IsPersonal(string code) => Persons.Contains(code);

    /// <param name="atScreen">Anybody looks on.</param>
    public static string Of(IReadOnlyList<Reason> against, bool atScreen) =>
        string.Join(" ", against.Select(r => atScreen && IsPersonal(r.Code) ? Personal : r.Text).Distinct());

    /// <param name="name">As anybody may see it.</param>
    public static Refusal Of(Refusal refusal, string name) =>
        refusal.Problem == StationProblems.StationShut || refusal.Problem == StationProblems.HandOverShut
            ? StationProblems.StationShutHere.Refuse(null, name)
            : refusal;
}
