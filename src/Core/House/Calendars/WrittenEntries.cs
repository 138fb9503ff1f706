using System.Collections.Concurrent;

namespace VelvetGate.Core.House.Calendars;

/// <summary>
/// Entries of feeds as they were written: calendars elsewhere ask for the same ones every half hour, and few have
/// changed since. An entry that differs in anything is another one, so nothing that was erased or renamed is ever given out again.
/// </summary>
/// <param name="most">So many are kept; then it begins anew.</param>
public sealed class WrittenEntries(int most = WrittenEntries.Usual)
{
    /// <summary>About 20 MB.</summary>
    public const int Usual = 50_000;

    private readonly ConcurrentDictionary<(string Zone, FeedEntry Entry), string> _texts = new();

    public int Count => _texts.Count;

    public string Of(string zone, FeedEntry entry, Func<FeedEntry, string> write)
    {
        if (_texts.TryGetValue((zone, entry), out var text))
            return text;
        if (_texts.Count >= most)
            _texts.Clear();
        return _texts[(zone, entry)] = write(entry);
    }
}
