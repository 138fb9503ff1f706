using System.Text.RegularExpressions;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Materials;

/// <summary>Where a sheet stands on its way. Quarantine comes on top of any of them.</summary>
public enum SheetState
{
    Waiting,

    /// <summary>A steward asked for more evidence.</summary>
    MoreWanted,
    Cleared,
    Refused,

    /// <summary>Cleared once, on evidence that turned out to be doubtful.</summary>
    Recheck,
    Retired,
}

/// <summary>Numbers on tags: letters, a number, and for an offcut one more number.</summary>
public static partial class SheetTags
{
    /// <summary>Digits a number is written with at least.</summary>
    private const int Digits = 4;

    /// <summary>Reads what a person types or a camera reads: “s97”, “S-0097-2” or the address in a QR code.</summary>
    /// <returns>Null when it is no tag.</returns>
    public static SheetTag? Read(string? text)
    {
        var match = Pattern().Match(text ?? "");
        if (!match.Success)
            return null;
        var offcut = match.Groups["offcut"].Value;
        var number = match.Groups["number"].Value.TrimStart('0').PadLeft(Digits, '0');
        return $"{match.Groups["letters"].Value.ToUpperInvariant()}-{number}{(offcut.Length > 0 ? $"-{offcut}" : "")}";
    }

    public static SheetTag Of(long number) =>
        $"S-{number.ToString(System.Globalization.CultureInfo.InvariantCulture).PadLeft(Digits, '0')}";

    /// <summary>The tag of the whole sheet that a piece came from; its own for a whole sheet.</summary>
    public static SheetTag Root(SheetTag tag) => string.Join('-', tag.Value.Split('-').Take(2));

    [GeneratedRegex(@"(?:^|/)\s*(?<letters>[A-Za-z]{1,3})[-\s]?(?<number>[0-9]{1,7})(?:-(?<offcut>[0-9]{1,4}))?\s*$")]
    private static partial Regex Pattern();
}

/// <summary>The rules of clearing sheets. Source: house practice; houses that work well clear each brought-in sheet before use.</summary>
public static class SheetDesk
{
    /// <summary>Most sheets of one batch registered at once.</summary>
    public const int MostAtOnce = 200;

    /// <summary>Most files of evidence for one sheet.</summary>
    public const int MostFiles = 12;

    /// <summary>Largest file of evidence, in bytes.</summary>
    public const int LargestFile = 25 * 1024 * 1024;

    /// <summary>Largest side of a sheet, in mm.</summary>
    public const decimal LargestMm = 4000;

    /// <summary>Of a picture sent as evidence: more than any camera in use takes.</summary>
    public const long MostPixels = 200_000_000;

    /// <summary>Kinds of file taken as evidence, told from their first bytes; what a name or a sender says counts for nothing.</summary>
    /// <returns>The media type; null for any other file.</returns>
    public static string? FileType(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith("%PDF-"u8) ? "application/pdf"
        : bytes.StartsWith<byte>([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png"
        : bytes.StartsWith<byte>([0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : null;

    /// <summary>
    /// The last day a clearance may reach: house stock and brought-in sheets by a rule each. For one project means as long as its time may
    /// be booked ahead: shorter would never be clear where nobody books for the same day.
    /// </summary>
    public static LastDay LastDay(LocalDate today, bool houseStock, HouseRules rules) =>
        new(
            houseStock ? today.PlusMonths(rules.HouseStockMonths)
            : rules.BroughtInMonths > 0 ? today.PlusMonths(rules.BroughtInMonths)
            : today.PlusDays(rules.BookAheadDays)
        );

    /// <summary>Whether this steward may say that the sheet is what it claims to be.</summary>
    /// <param name="broughtBy">Null for house stock.</param>
    /// <param name="standings">What the house says of the material for each operation on each kind of laser asked for.</param>
    public static Refusal? MayClear(
        PersonId? broughtBy,
        PersonId by,
        SheetState state,
        bool quarantined,
        IReadOnlyCollection<RulingStatus> standings
    )
    {
        if (broughtBy == by)
            return MaterialsProblems.SheetSelf.Refuse();
        if (quarantined)
            return MaterialsProblems.SheetQuarantined.Refuse();
        if (state == SheetState.Retired)
            return MaterialsProblems.SheetRetired.Refuse();
        if (standings.Contains(RulingStatus.Never))
            return MaterialsProblems.SheetNever.Refuse();
        if (standings.Count > 0 && standings.All(s => s is RulingStatus.Banned or RulingStatus.Cannot))
            return MaterialsProblems.SheetBanned.Refuse("operations");
        return null;
    }

    /// <summary>An offcut is smaller than what it was cut from, on one side at least, and fits into it.</summary>
    public static Refusal? MayCutOff(
        SheetState state,
        bool quarantined,
        decimal widthMm,
        decimal heightMm,
        decimal newWidthMm,
        decimal newHeightMm
    )
    {
        if (quarantined)
            return new Refusal(MaterialsProblems.SheetQuarantined, "It is in quarantine: leave it where it is.");
        if (state == SheetState.Retired)
            return MaterialsProblems.SheetRetired.Refuse();
        var (longer, shorter) = (Math.Max(widthMm, heightMm), Math.Min(widthMm, heightMm));
        var fits = Math.Max(newWidthMm, newHeightMm) <= longer && Math.Min(newWidthMm, newHeightMm) <= shorter;
        return fits && newWidthMm * newHeightMm < widthMm * heightMm ? null : MaterialsProblems.SheetOffcut.Refuse("width");
    }

    /// <param name="broughtBy">Null for house stock.</param>
    /// <param name="to">What becomes of it: whoever brought a sheet may say that it is used up, and nothing else.</param>
    /// <returns>Null when this person may say so.</returns>
    public static Refusal? MayMove(PersonId? broughtBy, PersonId by, SheetState now, SheetState to) =>
        now == SheetState.Retired ? MaterialsProblems.SheetRetired.Refuse()
        : to != SheetState.Retired && broughtBy == by ? MaterialsProblems.SheetSelfDecided.Refuse()
        : null;

    /// <param name="kept">Files that the sheet has.</param>
    public static Refusal? MayKeepFile(int kept) => kept >= MostFiles ? MaterialsProblems.SheetFiles.Refuse("file", MostFiles) : null;

    /// <returns>Null when this person may register such a sheet.</returns>
    public static Refusal? MayRegister(bool houseStock, bool steward) =>
        houseStock && !steward ? MaterialsProblems.SheetStock.Refuse() : null;
}
