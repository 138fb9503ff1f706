namespace VelvetGate.Core.House;

/// <summary>
/// How many of a class may run at one time. Its own number never goes beyond what the house lets one adult teach and supervise. Source:
/// house rules.
/// </summary>
public static class Classes
{
    /// <param name="asked">As the class was planned.</param>
    public static int AtOnce(int asked, HouseRules rules) => Math.Min(asked, Most(rules));

    /// <summary>The most that any class may plan.</summary>
    public static int Most(HouseRules rules) => Math.Max(1, Math.Min(rules.LearnersPerTrainer, rules.MachinesPerAdult));

    /// <returns>Null when a class may plan so many at once.</returns>
    public static Refusal? Refused(int asked, HouseRules rules) =>
        asked <= Most(rules)
            ? null
            : HouseProblems.ClassAtOnce.Refuse("atOnce", Most(rules), rules.MachinesPerAdult, rules.LearnersPerTrainer);

    /// <summary>Which of the three numbers decides, in words.</summary>
    public static string Because(int asked, HouseRules rules) =>
        asked <= Most(rules) ? "as the class was planned"
        : rules.MachinesPerAdult <= rules.LearnersPerTrainer ? $"house rule: one adult supervises {rules.MachinesPerAdult}"
        : $"house rule: {rules.LearnersPerTrainer} learners to a trainer";
}
