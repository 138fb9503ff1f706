using NodaTime;
using NodaTime.Text;

namespace VelvetGate.Core.Kernel;

/// <summary>Instants as people and scripts type them.</summary>
public static class Instants
{
    private static readonly OffsetDateTimePattern Minutes = OffsetDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mmo<G>");

    /// <summary>Takes <c>2026-11-24T10:15Z</c>, and RFC 3339 with seconds; an offset is needed.</summary>
    public static Result<Instant> Parse(string text)
    {
        if (Minutes.Parse(text) is { Success: true } short_)
            return short_.Value.ToInstant();
        return OffsetDateTimePattern.Rfc3339.Parse(text) is { Success: true } full
            ? full.Value.ToInstant()
            : CommonProblems.InstantBad.Refuse(null, text);
    }
}
