using Shouldly;
using VelvetGate.Core.Ledger;
using Xunit;

namespace VelvetGate.Core.Tests.Ledger;

public class CanonicalJsonTests
{
    /// <summary>RFC 8785, section 3.2.3: names sorted by UTF-16 code units.</summary>
    [Fact]
    public void Normalise_TheRfcsSortingExample_GivesItsOrder()
    {
        const string input = """
            {"\u20ac":"Euro Sign","\r":"Carriage Return","\ufb33":"Hebrew Letter Dalet With Dagesh","1":"One",
             "\ud83d\ude00":"Emoji: Grinning Face","\u0080":"Control","\u00f6":"Latin Small Letter O With Diaeresis"}
            """;
        var order = new[]
        {
            "Carriage Return",
            "One",
            "Control",
            "Latin Small Letter O With Diaeresis",
            "Euro Sign",
            "Emoji: Grinning Face",
            "Hebrew Letter Dalet With Dagesh",
        };
        var text = CanonicalJson.Normalise(input);
        order.Select(word => text.IndexOf(word, StringComparison.Ordinal)).ShouldBeInOrder();
        text.ShouldStartWith("{\"\\r\":\"Carriage Return\",\"1\":\"One\"");
    }

    /// <summary>RFC 8785, section 3.2.2 example, without its fractions, which this ledger writes as strings.</summary>
    [Fact]
    public void Normalise_TheRfcsStringAndLiterals_AreByteForByteThere() =>
        CanonicalJson
            .Normalise("""{ "string": "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/", "literals": [null, true, false] }""")
            .ShouldBe("""{"literals":[null,true,false],"string":"€$\u000f\nA'B\"\\\\\"/"}""");

    [Theory]
    [InlineData("1.5")]
    [InlineData("9007199254740992")]
    [InlineData("\"\\ud800\"")]
    public void Normalise_WhatNotEveryReaderKeeps_IsRefused(string json) => Should.Throw<Exception>(() => CanonicalJson.Normalise(json));

    [Fact]
    public void Normalise_RepeatedName_IsRefused() => Should.Throw<Exception>(() => CanonicalJson.Normalise("""{"a":1,"a":2}"""));

    [Theory]
    [InlineData("9007199254740991")]
    [InlineData("-0", "0")]
    [InlineData("[]")]
    [InlineData("{}")]
    public void Normalise_Edges(string json, string? expected = null) => CanonicalJson.Normalise(json).ShouldBe(expected ?? json);
}

public class ChainTests
{
    private static List<LedgerEntry> Build(int count)
    {
        var entries = new List<LedgerEntry>();
        var prev = Chain.Genesis;
        for (var seq = 1; seq <= count; seq++)
        {
            var (at, body) = ("2026-11-24T10:15:00.000000Z", $$"""{"n":{{seq}}}""");
            var hash = Chain.Hash(Chain.Envelope(seq, at, "test.made", body, prev));
            entries.Add(new LedgerEntry(seq, at, "test.made", body, prev, hash));
            prev = hash;
        }
        return entries;
    }

    [Fact]
    public void FirstBreak_WholeChain_IsNone() => Chain.FirstBreak(Build(5)).ShouldBeNull();

    [Fact]
    public void FirstBreak_EachKindOfTampering_NamesTheFirstBadNumber()
    {
        var chain = Build(6);
        var edited = chain.Select(e => e.Seq == 3 ? e with { Body = """{"n":99}""" } : e);
        Chain.FirstBreak(edited)!.Seq.ShouldBe(3);
        Chain.FirstBreak(chain.Where(e => e.Seq != 4))!.Seq.ShouldBe(4);
        Chain
            .FirstBreak(
                chain.Select(e =>
                    e.Seq == 2 ? chain[4] with { Seq = 2 }
                    : e.Seq == 5 ? chain[1] with { Seq = 5 }
                    : e
                )
            )!
            .Seq.ShouldBe(2);
        Chain.FirstBreak(chain.Take(2).Append(chain[1] with { Seq = 3 }))!.Seq.ShouldBe(3);
        Chain.FirstBreak(chain.Select(e => e.Seq == 5 ? e with { Body = """{ "n":5}""" } : e))!.Why.ShouldContain("canonical");
    }

    [Fact]
    public void FirstBreak_RewrittenOrCut_IsCaughtByAnAnchor()
    {
        var anchor = (4L, Build(4)[3].Hash);
        Chain.FirstBreak(Build(6), anchor).ShouldBeNull();
        Chain.FirstBreak(Build(3), anchor)!.Why.ShouldContain("anchor");
        var rewritten = Build(6).Select(e => e with { At = "2026-11-25T10:15:00.000000Z" }).ToList();
        for (var i = 0; i < rewritten.Count; i++)
        {
            var prev = i == 0 ? Chain.Genesis : rewritten[i - 1].Hash;
            rewritten[i] = rewritten[i] with
            {
                Prev = prev,
                Hash = Chain.Hash(Chain.Envelope(rewritten[i].Seq, rewritten[i].At, rewritten[i].Kind, rewritten[i].Body, prev)),
            };
        }
        Chain.FirstBreak(rewritten).ShouldBeNull();
        Chain.FirstBreak(rewritten, anchor)!.Seq.ShouldBe(4);
    }

    /// <summary>FIPS 180-4, SHA-256 of "abc".</summary>
    [Fact]
    public void Hash_OfThePublishedExample() =>
        Chain.Hash("abc").ShouldBe("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
}
