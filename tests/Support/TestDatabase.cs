using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;
using VelvetGate.Store.Demo;

namespace VelvetGate.Tests.Support;

/// <summary>A database of one test's own, copied from a template that is made once in the cluster of <c>./test</c>.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    /// <summary>The demo's present in the tests: a Tuesday morning in winter time.</summary>
    public static readonly Instant Now = Instant.FromUtc(2026, 11, 24, 10, 15);

    private const long TemplateLock = 730_009;
    private readonly string _name;

    private TestDatabase(string name)
    {
        _name = name;
        OwnerConnection = As("vg_owner", Need("VELVETGATE_OWNER_PASSWORD"), name);
        AppConnection = As("vg_app", Need("VELVETGATE_APP_PASSWORD"), name);
        Owner = Database.Open(OwnerConnection);
        App = Database.Open(AppConnection);
    }

    public string OwnerConnection { get; }

    public string AppConnection { get; }

    /// <summary>As the role that owns the tables: for tampering.</summary>
    public NpgsqlDataSource Owner { get; }

    /// <summary>As the role the server runs as.</summary>
    public NpgsqlDataSource App { get; }

    public static string Admin => Need("VELVETGATE_ADMIN_DB");

    /// <summary>Migrated, without a row.</summary>
    public static Task<TestDatabase> Empty() => Copy("vgt_empty", _ => Task.CompletedTask);

    /// <summary>The demo house as of <see cref="Now"/>.</summary>
    public static Task<TestDatabase> Demo() => Copy("vgt_demo", async db => await new DemoSeed(db, Now).Run(default));

    /// <summary>Runs SQL as the owner.</summary>
    public async Task Tamper(string sql)
    {
        await using var command = Owner.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await App.DisposeAsync();
        await Owner.DisposeAsync();
        await Database.Drop(Admin, _name);
    }

    private static async Task<TestDatabase> Copy(string template, Func<NpgsqlDataSource, Task> fill)
    {
        var name = $"vgt_{Guid.NewGuid():N}";
        await using var admin = NpgsqlDataSource.Create(Admin + ";Command Timeout=0");
        await using var connection = await admin.OpenConnectionAsync();
        // One at a time: a template may have no other session while it is copied.
        await Run($"select pg_advisory_lock({TemplateLock})");
        if (!await Exists(template))
        {
            var making = template + "_making";
            await Database.Drop(Admin, making);
            await Database.Create(Admin, making, Need("VELVETGATE_OWNER_PASSWORD"), Need("VELVETGATE_APP_PASSWORD"));
            var owner = As("vg_owner", Need("VELVETGATE_OWNER_PASSWORD"), making);
            Database.Migrate(owner + ";Pooling=false");
            await using (var db = Database.Open(owner))
                await fill(db);
            NpgsqlConnection.ClearAllPools();
            await Run($"alter database {making} rename to {template}");
        }
        await Run($"create database {name} template {template} owner vg_owner");
        await Run($"select pg_advisory_unlock({TemplateLock})");
        return new TestDatabase(name);

        async Task Run(string sql)
        {
            await using var command = new NpgsqlCommand(sql, connection);
            await command.ExecuteNonQueryAsync();
        }

        async Task<bool> Exists(string database)
        {
            await using var command = new NpgsqlCommand("select 1 from pg_database where datname = $1", connection)
            {
                Parameters = { new() { Value = database } },
            };
            return await command.ExecuteScalarAsync() is not null;
        }
    }

    private static string As(string user, string password, string database) =>
        new NpgsqlConnectionStringBuilder(Admin)
        {
            Username = user,
            Password = password,
            Database = database,
        }.ConnectionString;

    private static string Need(string variable) =>
        Environment.GetEnvironmentVariable(variable) is { Length: > 0 } value
            ? value
            : throw new InvalidOperationException($"{variable} is not set: run ./test, which starts a cluster.");
}
