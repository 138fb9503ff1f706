namespace VelvetGate.Core.Station;

/// <summary>The maker’s manual, a quick guide, the operating procedure: files that everybody may open at the machine.</summary>
public static class MachinePapers
{
    public const int Largest = 10 * 1024 * 1024;
    private const int NameLongest = 80;

    /// <summary>So many a machine: more is a library, and nobody finds the manual in it.</summary>
    private const int Most = 12;

    /// <summary>PDF alone: it opens on every phone, and prints.</summary>
    public static Refusal? Check(string name, ReadOnlySpan<byte> bytes) =>
        name.Length is 0 or > NameLongest ? StationProblems.PaperName.Refuse("name", NameLongest)
        : !bytes.StartsWith("%PDF-"u8) ? StationProblems.PaperKind.Refuse("file")
        : null;

    /// <param name="length">Bytes; 0 for no file.</param>
    public static Refusal? MayRead(long length) =>
        length is 0 ? StationProblems.PaperMissing.Refuse("file")
        : length > Largest ? StationProblems.PaperLarge.Refuse("file", Largest / 1024 / 1024)
        : null;

    /// <param name="have">Papers of the machine.</param>
    public static Refusal? MayAdd(int have) => have >= Most ? StationProblems.PaperMany.Refuse("file", Most) : null;
}
