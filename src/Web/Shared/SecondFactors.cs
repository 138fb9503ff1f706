using Microsoft.AspNetCore.DataProtection;
using NodaTime;
using OtpNet;
using VelvetGate.Core.People;
using VelvetGate.Store.House;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

public enum FactorCheck
{
    /// <summary>This account has none set up.</summary>
    None,

    /// <summary>It has one, and no code was given.</summary>
    Missing,
    Wrong,
    Right,
}

/// <summary>
/// Codes from a phone (RFC 6238: SHA-1, six digits, 30 s, one step to either side). Secrets are kept sealed; real time counts, whatever the
/// demo's clock says.
/// </summary>
public sealed class SecondFactors(
    SecondFactorStore store,
    HouseStore house,
    PeopleStore people,
    IClock clock,
    IDataProtectionProvider protection
)
{
    private const int SecretBytes = 20;

    private readonly IDataProtector _seal = protection.CreateProtector("velvetgate.secondFactor");

    private static Instant Real => SystemClock.Instance.GetCurrentInstant();

    public Task<KeptFactor?> Of(PersonId personId, CancellationToken cancel) => store.Of(personId, cancel);

    public async Task<FactorCheck> Check(PersonId personId, string? code, CancellationToken cancel)
    {
        if (await store.Of(personId, cancel) is not { Confirmed: not null } kept)
            return FactorCheck.None;
        if (string.IsNullOrWhiteSpace(code))
            return FactorCheck.Missing;
        if (Step(kept.Secret, code) is { } step)
            return await store.Take(personId, step, cancel) ? FactorCheck.Right : FactorCheck.Wrong;
        return await store.TakeSpare(personId, Invites.Hash(code), cancel) ? FactorCheck.Right : FactorCheck.Wrong;
    }

    public async Task<bool> Owes(PersonId personId, bool has, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        return await people.Find(personId, now, cancel) is { } person
            && SecondFactor.Owed(await house.Rules(now, cancel), person.Roles.Select(r => r.Role), has);
    }

    /// <returns>The new secret, as phones take it; null when one is set up already.</returns>
    public async Task<string?> Begin(PersonId personId, CancellationToken cancel)
    {
        var secret = KeyGeneration.GenerateRandomKey(SecretBytes);
        return await store.Begin(personId, _seal.Protect(secret), Real, cancel) ? Base32Encoding.ToString(secret) : null;
    }

    /// <returns>Spare codes to be written down; null when the code is not right, or nothing was begun within the hour.</returns>
    public async Task<IReadOnlyList<string>?> Confirm(PersonId personId, string code, Guid session, CancellationToken cancel)
    {
        if (await store.Of(personId, cancel) is not { Confirmed: null } kept || Step(kept.Secret, code) is not { } step)
            return null;
        var spare = SecondFactor.NewSpareCodes();
        return await store.Confirm(personId, step, [.. spare.Select(Invites.Hash)], session, Real, clock.GetCurrentInstant(), cancel)
            ? spare
            : null;
    }

    public async Task<bool> Remove(PersonId personId, PersonId by, CancellationToken cancel) =>
        await store.Remove(personId, by, await Owes(personId, has: false, cancel), clock.GetCurrentInstant(), cancel);

    private long? Step(byte[] secret, string code)
    {
        var digits = new string([.. code.Where(char.IsAsciiDigit)]);
        return
            digits.Length == 6
            && new Totp(_seal.Unprotect(secret)).VerifyTotp(
                Real.ToDateTimeUtc(),
                digits,
                out var step,
                VerificationWindow.RfcSpecifiedNetworkDelay
            )
            ? step
            : null;
    }
}
