using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using NodaTime;
using VelvetGate.Core.People;
using VelvetGate.Store.People;

namespace VelvetGate.Web.Shared;

/// <summary>
/// Slows down guessing: by account with a rising pause, and by address. A device that signed in to the account before is counted by itself,
/// so that a
/// stranger who guesses locks nobody out of their own device. Hashing takes a few cores' time at most.
/// </summary>
public sealed class SignInGuard(SignInGuardStore store, IDataProtectionProvider protection) : IDisposable
{
    private const string DeviceCookie = "velvetgate-device";
    private static readonly TimeSpan DeviceKept = TimeSpan.FromDays(180);
    private static readonly TimeSpan HashPatience = TimeSpan.FromSeconds(5);

    private readonly IDataProtector _protector = protection.CreateProtector("velvetgate.device");
    private readonly SemaphoreSlim _hashing = new(Math.Max(1, Environment.ProcessorCount));

    private static Instant Now => SystemClock.Instance.GetCurrentInstant();

    public void Dispose() => _hashing.Dispose();

    /// <returns>Null when a try is allowed; else until when it is not.</returns>
    public Task<Instant?> ClosedUntil(HttpContext http, string name, CancellationToken cancel) =>
        store.ClosedUntil([Key(http, name), Address(http)], Now, cancel);

    /// <summary>Compares a password with a hash, or with one that nobody has.</summary>
    /// <returns>Null when too many are being compared already.</returns>
    public async Task<PasswordVerificationResult?> Verify(string? hash, string password, CancellationToken cancel)
    {
        if (!await _hashing.WaitAsync(HashPatience, cancel))
            return null;
        try
        {
            return await Task.Run(() => Passwords.Verify(hash, password), cancel);
        }
        finally
        {
            _hashing.Release();
        }
    }

    /// <summary>For what is no account: a code that was typed.</summary>
    public Task<Instant?> AddressClosedUntil(HttpContext http, CancellationToken cancel) => store.ClosedUntil([Address(http)], Now, cancel);

    public Task AddressFailed(HttpContext http, CancellationToken cancel) =>
        store.Failed(Address(http), SignInLimits.FreeForAddress, Now, cancel);

    public async Task Failed(HttpContext http, string name, CancellationToken cancel)
    {
        await store.Failed(Key(http, name), SignInLimits.FreeForAccount, Now, cancel);
        await store.Failed(Address(http), SignInLimits.FreeForAddress, Now, cancel);
    }

    /// <summary>Forgets the failures of this account and device, and marks the device.</summary>
    public async Task Succeeded(HttpContext http, string name, CancellationToken cancel)
    {
        await store.Forget([Key(http, name), AccountKey(name)], cancel);
        http.Response.Cookies.Append(
            DeviceCookie,
            _protector.Protect($"{Guid.NewGuid():N}|{name}"),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = http.Request.IsHttps,
                MaxAge = DeviceKept,
                IsEssential = true,
            }
        );
    }

    public Task Unlock(string name, CancellationToken cancel) => store.Forget([AccountKey(name)], cancel);

    /// <summary>The device, where it signed in to this account before; else the account.</summary>
    private string Key(HttpContext http, string name)
    {
        if (http.Request.Cookies[DeviceCookie] is not { Length: > 0 and < 1000 } cookie)
            return AccountKey(name);
        try
        {
            return _protector.Unprotect(cookie).Split('|', 2) is [var device, var known] && known == name
                ? $"device:{device}"
                : AccountKey(name);
        }
        catch (CryptographicException)
        {
            return AccountKey(name);
        }
    }

    /// <summary>Names are hashed: a mistyped one may be a password.</summary>
    private static string AccountKey(string name) => "account:" + Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(name)));

    private static string Address(HttpContext http) => $"address:{http.Connection.RemoteIpAddress}";
}
