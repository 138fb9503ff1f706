using System.Security.Cryptography;
using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.People;

/// <summary>
/// A code from a phone at sign-in, beside the password: six digits that change every half minute (RFC 6238). A house rule asks it of
/// everybody whose word others rely on;
/// anybody else may set one up, and is asked for it from then on.
/// </summary>
public static class SecondFactor
{
    /// <summary>Codes on paper, each good once, for a phone that was lost.</summary>
    public const int SpareCodes = 8;

    /// <summary>A secret that nobody confirmed with a first code is forgotten.</summary>
    public static readonly Duration Unconfirmed = Duration.FromHours(1);

    private static readonly Role[] Asked = [Role.Keeper, Role.Steward, Role.Trainer, Role.Countersigner];

    /// <summary>Whether this person has to set one up before they do anything else.</summary>
    public static bool Owed(HouseRules? rules, IEnumerable<Role> roles, bool has) =>
        !has && rules is { SecondFactor: true } && roles.Any(Asked.Contains);

    /// <summary>50 bits each, in two groups for reading.</summary>
    public static IReadOnlyList<string> NewSpareCodes() =>
        [
            .. Enumerable
                .Range(0, SpareCodes)
                .Select(_ => string.Join('-', RandomNumberGenerator.GetString(Invites.Letters, 10).Chunk(5).Select(c => new string(c)))),
        ];

    /// <summary>A keeper takes it off somebody whose phone and paper are lost; their own they take off like everybody.</summary>
    public static Refusal? MayTakeOff(PersonId personId, PersonId by) => personId == by ? PeopleProblems.SecondFactorSelf.Refuse() : null;
}
