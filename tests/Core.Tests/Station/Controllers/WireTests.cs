using System.Security.Cryptography;
using System.Text;
using Shouldly;
using VelvetGate.Core.Station.Controllers;
using Xunit;

namespace VelvetGate.Core.Tests.Stations.Controllers;

public class WireTests
{
    private static readonly byte[] Key = Encoding.UTF8.GetBytes("a key of thirty-two bytes, or so.");
    private static readonly WireTopic Up = new("heron", "h-1", true, "want");

    [Fact]
    public void Topic_IsReadAsItIsWritten()
    {
        WireTopic.Read(Up.ToString()).ShouldBe(Up);
        Up.ToString().ShouldBe("velvetgate/heron/h-1/up/want");
        foreach (
            var other in new[]
            {
                "velvetgate/heron/h-1/want",
                "heron/h-1/up/want",
                "velvetgate//h-1/up/want",
                "velvetgate/heron/h-1/in/want",
                "",
            }
        )
            WireTopic.Read(other).ShouldBeNull(other);
    }

    /// <summary>The seal is plain HMAC-SHA256 in hex, which any language has.</summary>
    [Fact]
    public void Payload_IsASealALineAndJson()
    {
        var payload = Encoding.UTF8.GetString(Wire.Write(Key, Up, new Want(3, 1250, "abc")));
        var (seal, json) = (payload.Split('\n')[0], payload.Split('\n')[1]);
        json.ShouldBe("""{"boot":3,"ms":1250,"challenge":"abc"}""");
        seal.ShouldBe(Convert.ToHexStringLower(HMACSHA256.HashData(Key, Encoding.UTF8.GetBytes($"velvetgate/heron/h-1/up/want\n{json}"))));
        Wire.Read<Want>(Key, Up, Encoding.UTF8.GetBytes(payload)).ShouldBe(new Want(3, 1250, "abc"));
    }

    [Fact]
    public void Read_OfWhatNobodyWroteForThisTopic_IsNothing()
    {
        var payload = Wire.Write(Key, Up, new Want(3, 1250, "abc"));
        Wire.Read<Want>(new byte[32], Up, payload).ShouldBeNull();
        Wire.Read<Want>(Key, Up with { Serial = "h-2" }, payload).ShouldBeNull();
        Wire.Read<Want>(Key, Up with { Up = false }, payload).ShouldBeNull();
        for (var i = 0; i < payload.Length; i++)
        {
            var bent = payload.ToArray();
            bent[i] ^= 1;
            Wire.Read<Want>(Key, Up, bent).ShouldBeNull($"byte {i}");
        }
        for (var length = 0; length < payload.Length; length++)
            Wire.Read<Want>(Key, Up, payload.AsSpan(0, length)).ShouldBeNull();
        Wire.Read<Want>(Key, Up, new byte[Wire.Longest + 1]).ShouldBeNull();
        Wire.Read<Want>(Key, Up, Wire.Write(Key, Up, "a text")).ShouldBeNull();
    }

    [Fact]
    public void Keys_FollowFromTheHouseAndTheSalt_AndAFobFromNeither()
    {
        var keys = new StationKeys(Convert.ToBase64String(new byte[32]));
        keys.Controller("h-1", "s").ShouldBe(keys.Controller("h-1", "s"));
        keys.Controller("h-1", "s").ShouldNotBe(keys.Controller("h-1", "t"));
        keys.Controller("h-1", "s").ShouldNotBe(keys.Controller("h-2", "s"));
        keys.Fob(" 04-A2 ").ShouldBe(keys.Fob("04-A2"));
        keys.Fob("04-A2").ShouldNotBe(new StationKeys(Convert.ToBase64String([.. Enumerable.Repeat((byte)1, 32)])).Fob("04-A2"));
        Should.Throw<FormatException>(() => new StationKeys(Convert.ToBase64String(new byte[31])));
    }

    /// <summary>Test case 1 of RFC 5869 holds for the derivation that the keys rest on.</summary>
    [Fact]
    public void Derivation_IsThatOfTheStandard() =>
        Convert
            .ToHexStringLower(
                HKDF.DeriveKey(
                    HashAlgorithmName.SHA256,
                    Convert.FromHexString("0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b0b"),
                    42,
                    Convert.FromHexString("000102030405060708090a0b0c"),
                    Convert.FromHexString("f0f1f2f3f4f5f6f7f8f9")
                )
            )
            .ShouldBe("3cb25f25faacd57a90434f64d0362f2a2d2d0a90cf1a5a4c5db02d56ecc4c5bf34007208d5b887185865");
}
