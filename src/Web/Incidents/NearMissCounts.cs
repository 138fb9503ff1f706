using System.Net;
using System.Security.Cryptography;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Web.Incidents;

/// <summary>
/// How many near misses one address told in this hour. Kept in memory alone, under a hash whose salt is thrown away with the hour, so that
/// nobody can say afterwards which address it was.
/// </summary>
public sealed class NearMissCounts(TimeProvider time)
{
    private readonly Lock _gate = new();
    private byte[] _salt = RandomNumberGenerator.GetBytes(32);
    private long _hour;
    private readonly Dictionary<string, int> _counts = [];

    /// <returns>False when this address has told as many as are taken in an hour.</returns>
    public bool Takes(IPAddress? address)
    {
        lock (_gate)
        {
            var hour = time.GetUtcNow().ToUnixTimeSeconds() / 3600;
            if (hour != _hour)
            {
                _hour = hour;
                _salt = RandomNumberGenerator.GetBytes(32);
                _counts.Clear();
            }
            var key = Convert.ToHexString(HMACSHA256.HashData(_salt, address?.GetAddressBytes() ?? []));
            return (_counts[key] = _counts.GetValueOrDefault(key) + 1) <= NearMisses.MostAnHour;
        }
    }
}
