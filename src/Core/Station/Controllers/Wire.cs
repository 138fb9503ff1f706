using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>Where a message goes: <c>velvetgate/{machine}/{serial}/up/{what}</c> from a controller, <c>…/down/{what}</c> to it.</summary>
/// <param name="Up">From the controller to the house.</param>
public sealed record WireTopic(string Machine, string Serial, bool Up, string What)
{
    private const string Root = "velvetgate";

    /// <summary>What the house listens to.</summary>
    public const string AllUp = $"{Root}/+/+/up/#";

    /// <summary>What one controller listens to.</summary>
    public static string AllDown(string machine, string serial) => $"{Root}/{machine}/{serial}/down/#";

    /// <returns>Null for a topic that is none of ours.</returns>
    public static WireTopic? Read(string topic) =>
        topic.Split('/') is [Root, { Length: > 0 } machine, { Length: > 0 } serial, ("up" or "down") and var way, { Length: > 0 } what]
            ? new WireTopic(machine, serial, way == "up", what)
            : null;

    public override string ToString() => $"{Root}/{Machine}/{Serial}/{(Up ? "up" : "down")}/{What}";
}

/// <summary>
/// A payload is a seal, a line break and JSON. The seal is HMAC-SHA256 (RFC 2104) in lower-case hex over topic, line break and JSON, so
/// that a message can be moved to no other topic.
/// </summary>
public static class Wire
{
    private const int SealLength = 2 * HMACSHA256.HashSizeInBytes;

    /// <summary>Longer payloads are not read.</summary>
    public const int Longest = 4096;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        NumberHandling = JsonNumberHandling.Strict,
    };

    public static byte[] Write<T>(byte[] key, WireTopic topic, T message)
    {
        var json = JsonSerializer.Serialize(message, Json);
        return Encoding.UTF8.GetBytes($"{Convert.ToHexStringLower(Seal(key, topic, json))}\n{json}");
    }

    /// <returns>Null for what the owner of the key did not write for this topic, and for what is no such message.</returns>
    public static T? Read<T>(byte[] key, WireTopic topic, ReadOnlySpan<byte> payload)
        where T : class
    {
        if (payload.Length is <= SealLength or > Longest || payload[SealLength] != '\n')
            return null;
        var json = Encoding.UTF8.GetString(payload[(SealLength + 1)..]);
        Span<byte> seal = stackalloc byte[HMACSHA256.HashSizeInBytes];
        if (
            Convert.FromHexString(payload[..SealLength], seal, out _, out var written) != System.Buffers.OperationStatus.Done
            || written != seal.Length
            || !CryptographicOperations.FixedTimeEquals(Seal(key, topic, json), seal)
        )
            return null;
        try
        {
            return JsonSerializer.Deserialize<T>(json, Json);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static byte[] Seal(byte[] key, WireTopic topic, string json) =>
        HMACSHA256.HashData(key, Encoding.UTF8.GetBytes($"{topic}\n{json}"));
}

/// <summary>
/// Keys that stand outside the database: from one key of the house follow those of its controllers, and what is kept of a fob. Who reads
/// the database can neither speak for a controller nor make a fob.
/// </summary>
/// <remarks>Source: HKDF with SHA-256, RFC 5869.</remarks>
public sealed class StationKeys
{
    private readonly byte[] _house;

    /// <param name="base64">At least 32 bytes.</param>
    /// <exception cref="FormatException">Not base 64, or too short.</exception>
    public StationKeys(string base64)
    {
        _house = Convert.FromBase64String(base64);
        if (_house.Length < 32)
            throw new FormatException("The station key has 32 bytes or more, in base 64.");
    }

    /// <param name="salt">Made when the controller was enrolled: enrolled again, it gets another key.</param>
    public byte[] Controller(string serial, string salt) => Derive($"controller\n{serial}\n{salt}");

    /// <summary>What is kept of a fob: nobody reads its code from it.</summary>
    public string Fob(string code) => Kept("fob", code);

    /// <summary>What is kept of a tap-in code.</summary>
    public string TapInCode(string code) => Kept("tap-in code", code);

    /// <summary>What is kept of a PIN: the same figures of two people look different.</summary>
    public string Pin(PersonId person, string pin) => Kept($"pin\n{person}", pin);

    private string Kept(string what, string code) =>
        Convert.ToHexStringLower(HMACSHA256.HashData(Derive(what), Encoding.UTF8.GetBytes(code.Trim())));

    private byte[] Derive(string what) =>
        HKDF.DeriveKey(HashAlgorithmName.SHA256, _house, outputLength: 32, info: Encoding.UTF8.GetBytes(what));
}
