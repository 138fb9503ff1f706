using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using VelvetGate.Core.People;

namespace VelvetGate.Web.Shared;

/// <summary>
/// What a password has to be, and how it is kept. Long, and not among those that are tried first: NIST SP 800-63B, section 5.1.1, asks for
/// length and a list of
/// common ones, and for no rules of composition (from memory). Kept with PBKDF2, SHA-512, 210,000 rounds: OWASP's figure for it (from
/// memory).
/// </summary>
public static class Passwords
{
    public const int Shortest = 10;
    private const int Rounds = 210_000;

    /// <summary>
    /// Bits that a password has to hold against whoever tries words people use, keyboards, dates and repeats first: some eight million
    /// tries.
    /// </summary>
    private const double LeastBits = 23;

    private static readonly PasswordHasher<string> Hasher = new(Options.Create(new PasswordHasherOptions { IterationCount = Rounds }));

    /// <summary>A password nobody has, so that an unknown name takes as long to refuse as a wrong password.</summary>
    private static readonly string Nobodys = Hash(Guid.NewGuid().ToString());

    public static string Hash(string password) => Hasher.HashPassword("", password);

    /// <param name="hash">Null compares with a password that nobody has, and fails.</param>
    public static PasswordVerificationResult Verify(string? hash, string password)
    {
        var found = Hasher.VerifyHashedPassword("", hash ?? Nobodys, password);
        return hash is null ? PasswordVerificationResult.Failed : found;
    }

    /// <param name="own">Names and addresses of the one who chooses it: the first that others try.</param>
    /// <returns>What is wrong; null when it serves.</returns>
    public static string? Check(string? password, params string?[] own)
    {
        if (password is null || password.Length < Shortest)
            return $"At least {Shortest} characters; a few words serve well.";
        if (password.Length > SignInLimits.LongestPassword)
            return $"At most {SignInLimits.LongestPassword} characters.";
        var names = own.OfType<string>()
            .SelectMany(o => o.Split(['@', '.', ' ', '-'], StringSplitOptions.RemoveEmptyEntries))
            .Where(o => o.Length > 2)
            .ToList();
        // Its cost grows with the square of the length, and nobody guesses the fiftieth character first.
        var bits = global::Zxcvbn.Zxcvbn.MatchPassword(password.Length > 50 ? password[..50] : password, names).Entropy;
        return bits < LeastBits
            ? "That one is tried first by whoever guesses: it is a common password, your name, a row of keys or a repeat. Take a few "
                + "words that do not go together."
            : null;
    }
}
