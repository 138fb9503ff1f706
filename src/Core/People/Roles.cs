namespace VelvetGate.Core.People;

/// <summary>What a person may be here. Dated; <see cref="Trainer"/> and <see cref="Repair"/> are per machine.</summary>
public enum Role
{
    Member,
    Trainer,
    Steward,
    Keeper,
    Countersigner,
    Repair,
}

/// <summary>How a person is named to somebody else.</summary>
public static class PersonName
{
    public const int AdultAge = 18;

    /// <summary>Others see a first name and initial, minors initials only; the person and staff see the whole name.</summary>
    /// <param name="age">Whole years; null when not recorded, which hides as for a minor would be wrong: shown as an adult.</param>
    public static string For(string given, string family, int? age, bool whole)
    {
        if (whole)
            return $"{given} {family}".Trim();
        var initial = family.Length > 0 ? $" {Initial(family)}." : "";
        return age < AdultAge ? $"{Initial(given)}.{initial}" : $"{given}{initial}";
    }

    private static string Initial(string name) => name.Length == 0 ? "" : System.Globalization.StringInfo.GetNextTextElement(name);
}
