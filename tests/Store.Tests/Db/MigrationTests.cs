using System.Security.Cryptography;
using System.Text;
using Dapper;
using Npgsql;
using Shouldly;
using VelvetGate.Store.Db;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

public class MigrationTests
{
    /// <summary>A script that has landed is never edited: houses have run it. A new step is a new script, and a new line here.</summary>
    [Fact]
    public void Scripts_ThatHaveLanded_AreUnchanged()
    {
        var pinned = File.ReadAllLines(Repo.Path("tests", "Store.Tests", "Db", "landed-scripts.txt"));
        var now = Database
            .Scripts()
            .Select(s => $"{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(s.Text)))} {s.Name}")
            .ToList();
        now.ShouldBe(pinned);
    }

    [Fact]
    public async Task Migrate_TwiceAndAtOnce_RunsEachScriptOnce()
    {
        await using var db = await TestDatabase.Empty();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Task.Run(() => Database.Migrate(db.OwnerConnection))));
        await using var connection = await db.Owner.OpenConnectionAsync();
        (await connection.ExecuteScalarAsync<int>("select count(*)::int from public.schema_version")).ShouldBe(Database.Scripts().Count());
    }

    /// <summary>The role the server runs as can neither rewrite the record nor a dated fact, whatever the code above it does.</summary>
    [Theory]
    [InlineData("update ledger.entry set body = '{}'")]
    [InlineData("delete from ledger.entry")]
    [InlineData("insert into ledger.entry values (1, '', 'a.b', '{}', '', '')")]
    [InlineData("update ledger.head set seq = 0")]
    [InlineData("update ledger.text set body = ''")]
    [InlineData("update materials.ruling set standing = 'permitted'")]
    [InlineData("delete from materials.ruling")]
    [InlineData("update training.certificate set held = tstzrange('2020-01-01', null)")]
    [InlineData("update house.rules set body = '{}'")]
    [InlineData("update house.stop set held = tstzrange('2020-01-01', '2020-01-02')")]
    [InlineData("update people.pause set set_by = person_id")]
    [InlineData("update booking.booking set made_by = 'm-1'")]
    [InlineData("delete from booking.claim")]
    [InlineData("update gate.decision set facts = '{}'")]
    [InlineData("create table house.mine (id int)")]
    public async Task AppRole_CannotRewriteWhatWasRecorded(string sql)
    {
        await using var db = await TestDatabase.Empty();
        await using var connection = await db.App.OpenConnectionAsync();
        (await Should.ThrowAsync<PostgresException>(() => connection.ExecuteAsync(sql))).SqlState.ShouldBe(
            PostgresErrorCodes.InsufficientPrivilege
        );
    }
}
