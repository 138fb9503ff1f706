using System.Diagnostics;
using Dapper;
using Npgsql;
using Shouldly;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.House;

/// <summary>
/// Backups as a keeper makes them with <c>vg</c>, and the demo house as it was before rules version 2, carried up by every later version.
/// </summary>
public sealed class BackupTests : IDisposable
{
    private readonly string _file = Path.Combine(Path.GetTempPath(), $"vg-{Guid.NewGuid():N}.backup");

    private static string Fixture => Repo.Path("tests", "Web.Tests", "Fixtures", "demo-before-rules-2.dump");

    public void Dispose() => File.Delete(_file);

    [Fact]
    public async Task Backup_RestoredElsewhere_IsTheSameHouseAndNothingIsWrittenOver()
    {
        await using var db = await TestDatabase.Demo();
        Vg(db.OwnerConnection, "backup", _file).Exit.ShouldBe(0);
        var again = Vg(db.OwnerConnection, "backup", _file);
        (again.Exit, again.Error).ShouldBe((2, $"{_file} is there already. Give another name: nothing is written over.\n"));
        var check = Vg(null, "check-backup", _file);
        check.Out.ShouldStartWith("The backup restores, and its record is whole");
        check.Exit.ShouldBe(0);
        var name = $"vgt_{Guid.NewGuid():N}";
        try
        {
            Vg(null, "restore", _file, "--database", name).Exit.ShouldBe(0);
            var filled = Vg(null, "restore", _file, "--database", name);
            (filled.Exit, filled.Error).ShouldBe((2, $"The database {name} is not empty. Give another name: nothing is written over.\n"));
            await using var restored = Database.Open(Owner(db, name));
            (await Counts(restored)).ShouldBe(await Counts(db.Owner));
        }
        finally
        {
            await Database.Drop(TestDatabase.Admin, name);
        }
    }

    [Fact]
    public void CheckBackup_OfWhatIsNone_SaysSo()
    {
        File.WriteAllText(_file, "no backup at all");
        var check = Vg(null, "check-backup", _file);
        check.Exit.ShouldBe(2);
        check.Error.ShouldContain("pg_restore failed");
        Vg(null, "check-backup", _file + ".gone").Error.ShouldContain("There is no file");
    }

    /// <summary>
    /// A house of before rules version 2: it migrates, its record is whole, and every decision in it is proved and differs from today's
    /// rules only where they changed since.
    /// </summary>
    [Fact]
    public async Task HouseOfBefore_CarriedUp_IsWholeAndItsDecisionsAreExplained()
    {
        await using var admin = await TestDatabase.Empty();
        var name = $"vgt_{Guid.NewGuid():N}";
        try
        {
            var restored = Vg(null, "restore", Fixture, "--database", name);
            restored.Exit.ShouldBe(0, restored.Error);
            var verified = Vg(Owner(admin, name), "verify-ledger");
            verified.Exit.ShouldBe(0, verified.Error);
            verified.Out.ShouldContain("Whole: 2559 entries");
            await using var db = Database.Open(Owner(admin, name));
            await using var connection = await db.OpenConnectionAsync(TestContext.Current.CancellationToken);
            var ids = (await connection.QueryAsync<Guid>("select id from gate.decision")).ToList();
            ids.Count.ShouldBe(721);
            var differences = new HashSet<string>();
            foreach (var id in ids)
            {
                var (decision, hashHolds) = (await new DecisionStore(db).Find(id, TestContext.Current.CancellationToken))!.Value;
                hashHolds.ShouldBeTrue();
                var replay = decision.Replay();
                replay.Explained.ShouldBeTrue(string.Join('\n', replay.Differences));
                differences.UnionWith(replay.Differences.Select(d => d.Code));
            }
            differences.ShouldContain("machine.readings");
            var printed = Vg(Owner(admin, name), "replay", ids[0].ToString());
            printed.Exit.ShouldBe(0, printed.Out);
            printed.Out.ShouldContain("Decided by rules version 1");
            printed.Out.ShouldContain("the rule changed in version 2");
            // What was written by hand in the old practical is said rightly in a version of its own.
            var steps = await connection.QueryAsync<string>(
                "select distinct on (id) steps::text from training.practical order by id, version desc"
            );
            steps.ShouldAllBe(s =>
                !s.Contains("air off, and from where", StringComparison.Ordinal)
                && s.Contains("extraction stays on", StringComparison.Ordinal)
            );
            (
                await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from training.question where not retired and body::text like any(array['%Stop or "
                        + "pause%', '%or you stop, wait, and then go%', '%As long as the gate says%'])"
                )
            ).ShouldBe(0);
            (
                await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from training.page p join training.module m on m.id = p.module_id and m.version = "
                        + "p.version where p.body like any(array['%Press stop or pause%', '%pause or stop, wait, then go%'])"
                )
            ).ShouldBe(0);
            (
                await connection.ExecuteScalarAsync<int>(
                    "select count(*)::int from run.log where not counts and booking_id is not null and outcome <> 'abandoned'"
                )
            ).ShouldBe(0);
        }
        finally
        {
            await Database.Drop(TestDatabase.Admin, name);
        }
    }

    /// <summary>A database that a newer version migrated is left alone, by the server and by vg, in words.</summary>
    [Fact]
    public async Task Server_OnASchemaItDoesNotKnow_RefusesInWords()
    {
        await using var db = await TestDatabase.Empty();
        await db.Tamper(
            "insert into public.schema_version (scriptname, applied) values ('VelvetGate.Store.Db.Migrations.9999_tomorrow.sql', now())"
        );
        var migrated = Vg(db.OwnerConnection, "migrate");
        (migrated.Exit, migrated.Error).ShouldBe(
            (
                3,
                "This database was migrated by a newer version: 9999_tomorrow is not known here, the newest known is "
                    + $"{Schema.Newest}. Start that version, or restore a backup made before it. Nothing was changed.\n"
            )
        );
        var (exit, error) = await Serve(db.AppConnection);
        exit.ShouldBe(3);
        error.ShouldContain("was migrated by a newer version");
    }

    [Fact]
    public async Task Server_OnADatabaseThatIsOlder_SaysWhatToRun()
    {
        await using var db = await TestDatabase.Empty();
        await db.Tamper($"delete from public.schema_version where scriptname like '%{Schema.Newest}%'");
        var (exit, error) = await Serve(db.AppConnection);
        exit.ShouldBe(3);
        error.ShouldContain($"{Schema.Newest} has not run. Make a backup, then run ./vg migrate.");
    }

    /// <summary>The server runs with the rights it needs and no more.</summary>
    [Fact]
    public async Task Server_WithTheOwnersRights_Refuses()
    {
        await using var db = await TestDatabase.Empty();
        var (exit, error) = await Serve(db.OwnerConnection);
        exit.ShouldBe(3);
        error.ShouldContain("owns the record");
    }

    [Fact]
    public async Task MakeKeeper_GivesTheRoleAndStandsInTheRecord()
    {
        await using var db = await TestDatabase.Demo();
        Vg(db.OwnerConnection, "make-keeper", "m-4").Exit.ShouldBe(0);
        Vg(db.OwnerConnection, "make-keeper", "nobody").Exit.ShouldBe(2);
        await using var connection = await db.Owner.OpenConnectionAsync(TestContext.Current.CancellationToken);
        (await connection.ExecuteScalarAsync<string>("select body from ledger.entry order by seq desc limit 1"))!.ShouldContain(
            "\"console\":true"
        );
        (
            await connection.ExecuteScalarAsync<int>("select count(*)::int from people.role where person_id = 'm-4' and role = 'keeper'")
        ).ShouldBe(1);
    }

    private static string Owner(TestDatabase like, string name) =>
        new NpgsqlConnectionStringBuilder(like.OwnerConnection) { Database = name, Pooling = false }.ConnectionString;

    private static async Task<string> Counts(NpgsqlDataSource db)
    {
        await using var connection = await db.OpenConnectionAsync();
        return await connection.ExecuteScalarAsync<string>(
            "select concat_ws(' ', (select count(*) from ledger.entry), (select hash from ledger.head), (select count(*) from "
                + "booking.claim), (select count(*) from run.log), (select count(*) from people.person))"
        ) ?? "";
    }

    private static (int Exit, string Out, string Error) Vg(string? owner, params string[] args) =>
        Run("cli/vg.dll", owner is null ? [] : [("VELVETGATE_OWNER_DB", owner)], args);

    private static async Task<(int Exit, string Error)> Serve(string connection)
    {
        var (exit, _, error) = await Task.Run(() =>
            Run(
                "VelvetGate.Web.dll",
                [("VELVETGATE_DB", connection), ("ASPNETCORE_URLS", "http://127.0.0.1:0"), ("Serilog__MinimumLevel__Default", "Fatal")],
                []
            )
        );
        return (exit, error);
    }

    private static (int Exit, string Out, string Error) Run(string program, (string Name, string Value)[] settings, string[] args)
    {
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")
            ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test web.");
        var start = new ProcessStartInfo("dotnet", [Path.Combine(app, program), .. args])
        {
            WorkingDirectory = app,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (var (name, value) in settings)
            start.Environment[name] = value;
        using var process = Process.Start(start)!;
        var error = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        if (!process.WaitForExit(TimeSpan.FromMinutes(2)))
            process.Kill(entireProcessTree: true);
        return (process.ExitCode, output, error.Result);
    }
}
