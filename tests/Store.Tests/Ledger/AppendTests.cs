using Dapper;
using Npgsql;
using Shouldly;
using VelvetGate.Store.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Ledger;

/// <summary>The record takes canonical JSON and a real instant; a clock that was set back is kept and said.</summary>
public class AppendTests
{
    [Theory]
    [InlineData("2026-11-24T10:15:00.000000Z", "no JSON")]
    [InlineData("2026-11-24T10:15:00.000000Z", "[1]")]
    [InlineData("2026-11-24T10:15:00.000000Z", "7")]
    [InlineData("yesterday", "{}")]
    [InlineData("2026-11-24T10:15:00Z", "{}")]
    [InlineData("2026-02-31T10:15:00.000000Z", "{}")]
    public async Task Append_OfWhatNobodyCouldRead_IsRefused(string at, string body)
    {
        await using var db = await TestDatabase.Empty();
        await using var connection = await db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        await Should.ThrowAsync<PostgresException>(() =>
            connection.ExecuteAsync("select ledger.append(@at, 'a.b', @body)", new { at, body })
        );
        (await new LedgerStore(db.App).LastSeq(default)).ShouldBe(0);
    }

    [Fact]
    public async Task Append_BeforeTheLastInstant_IsKeptAndNoted()
    {
        await using var db = await TestDatabase.Empty();
        await using var connection = await db.App.OpenConnectionAsync(TestContext.Current.CancellationToken);
        foreach (var at in new[] { "2026-11-24T10:15:00.000000Z", "2026-11-24T09:00:00.000000Z", "2026-11-24T10:16:00.000000Z" })
            await connection.ExecuteAsync("select ledger.append(@at, 'a.b', '{}')", new { at });
        var verified = await new LedgerVerifier(db.Owner).Verify(null, default);
        verified.Whole.ShouldBeTrue();
        verified.Notes.ShouldBe(["entry 2 is dated before the one it follows: a clock was set back"]);
    }
}
