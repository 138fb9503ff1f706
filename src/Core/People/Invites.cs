using System.Security.Cryptography;
using System.Text;
using NodaTime;

namespace VelvetGate.Core.People;

/// <summary>
/// Links that let a person set a password, once. Nobody sets somebody else's: a keeper hands out the link, and for those who may act for
/// others
/// (keepers, stewards) a second keeper or the countersigner agrees first. Source: house practice, after OWASP ASVS 4.0.3, 2.3.1.
/// </summary>
public static class Invites
{
    public static readonly Duration Lasts = Duration.FromDays(7);

    /// <summary>
    /// A house with no second keeper and no countersigner waits so long, and the record says that one person decided alone.
    /// </summary>
    public static readonly Duration SingleHandedWait = Duration.FromHours(24);

    private const int CodeLength = 20;

    // No 0, 1, I, L, O: the code may be read out from paper.
    internal const string Letters = "23456789ABCDEFGHJKMNPQRSTUVWXYZ";

    /// <summary>97 bits, in groups of five for reading.</summary>
    public static string NewCode() =>
        string.Join('-', RandomNumberGenerator.GetString(Letters, CodeLength).Chunk(5).Select(c => new string(c)));

    /// <summary>How a code is kept: hyphens, spaces and case are nobody's to remember.</summary>
    public static string Hash(string code) =>
        Convert.ToHexStringLower(
            SHA256.HashData(Encoding.UTF8.GetBytes(new string([.. code.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit)])))
        );

    /// <param name="otherKeepers">Keepers besides who made it and whom it is for.</param>
    /// <param name="countersigners">Countersigners besides those two.</param>
    /// <returns>Null when this person may agree.</returns>
    public static Refusal? MayAgree(
        PersonId personId,
        PersonId madeBy,
        PersonId by,
        int otherKeepers,
        int countersigners,
        Instant at,
        Instant now
    )
    {
        if (by == personId)
            return PeopleProblems.InviteSelf.Refuse();
        if (by != madeBy)
            return null;
        if (otherKeepers + countersigners > 0)
            return new Refusal(PeopleProblems.InviteSelf, "You made this link. Another keeper, or the countersigner, agrees to it.");
        return now < at + SingleHandedWait ? PeopleProblems.InviteSingleHanded.Refuse(null, SingleHandedWait.TotalHours) : null;
    }

    /// <param name="good">It is there, the newest of its person, unused and in time.</param>
    /// <param name="waits">A second person has yet to agree.</param>
    /// <returns>Null when a password may be set by it.</returns>
    public static Refusal? MayUse(bool good, bool waits) =>
        !good ? PeopleProblems.InviteOver.Refuse("code")
        : waits ? PeopleProblems.InviteWaits.Refuse("code")
        : null;
}
