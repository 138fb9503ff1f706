namespace VelvetGate.Core.Upkeep;

/// <summary>Of how many days a trend is shown.</summary>
public static class TrendSpan
{
    public const int Usual = 90;

    /// <summary>Five years.</summary>
    public const int Most = 5 * 366;

    /// <param name="days">Null for the usual span.</param>
    /// <returns>Refused below a week and above <see cref="Most"/>.</returns>
    public static Result<int> Of(int? days) => days is < 7 or > Most ? UpkeepProblems.TrendDays.Refuse("days", Most) : days ?? Usual;
}
