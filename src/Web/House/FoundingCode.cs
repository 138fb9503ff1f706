using System.Security.Cryptography;
using System.Text;
using VelvetGate.Store.Founding;

namespace VelvetGate.Web.House;

/// <summary>
/// The one-time code that founds an empty house. It is written on the console only: whoever comes first over the network is not therefore
/// the keeper.
/// </summary>
public sealed class FoundingCode(IConfiguration config, FoundingOfHouse founding) : IHostedService
{
    private const string Letters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";

    // One from outside lets a script that starts the server print it.
    private readonly string _code = config["VELVETGATE_FOUNDING_CODE"] is { Length: > 0 } given
        ? given
        : $"{RandomNumberGenerator.GetString(Letters, 4)}-{RandomNumberGenerator.GetString(Letters, 4)}";

    public bool Opens(string? code) =>
        CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(Tidy(code ?? "")), Encoding.UTF8.GetBytes(Tidy(_code)));

    private static string Tidy(string code) => new([.. code.Where(char.IsAsciiLetterOrDigit).Select(char.ToUpperInvariant)]);

    public async Task StartAsync(CancellationToken cancellationToken)
    {
        try
        {
            if (await founding.IsEmpty(cancellationToken))
                await Console.Out.WriteLineAsync($"This house is empty. The code that founds it: {_code}");
        }
        catch (Exception e) when (e is Npgsql.NpgsqlException or TimeoutException)
        {
            // The database is away: nobody founds a house on it either; the next start writes the code.
        }
    }

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;
}
