using System.Reflection;
using DbUp;
using DbUp.Engine;
using Npgsql;

namespace VelvetGate.Store.Db;

/// <summary>Makes, migrates and opens the database of a house. <c>vg_owner</c> migrates and owns, <c>vg_app</c> runs.</summary>
public static class Database
{
    private const long MigrationLock = 730_000;

    /// <summary>A pool that speaks NodaTime and JSON.</summary>
    public static NpgsqlDataSource Open(string connection)
    {
        DapperTypes.Register();
        var builder = new NpgsqlDataSourceBuilder(connection);
        builder.UseNodaTime();
        // The statements of one ask are always the same thirty: planning them once halves the time of an answer.
        builder.ConnectionStringBuilder.MaxAutoPrepare = 200;
        builder.ConnectionStringBuilder.AutoPrepareMinUsages = 2;
        // Compiling a plan pays for reports; here it turned a statement of half a millisecond into one of a hundred.
        builder.ConnectionStringBuilder.Options = "-c jit=off";
        // Locks and settings end with their transaction here: there is nothing to reset between two users of a connection.
        builder.ConnectionStringBuilder.NoResetOnClose = true;
        return builder.Build();
    }

    /// <summary>As a server's administrator: makes the two roles and an empty database, where they are missing.</summary>
    public static async Task Create(
        string adminConnection,
        string name,
        string ownerPassword,
        string appPassword,
        CancellationToken cancel = default
    )
    {
        await using var db = NpgsqlDataSource.Create(adminConnection);
        await Role("vg_owner", ownerPassword);
        await Role("vg_app", appPassword);
        await using var exists = db.CreateCommand("select 1 from pg_database where datname = $1");
        exists.Parameters.AddWithValue(name);
        if (await exists.ExecuteScalarAsync(cancel) is not null)
            return;
        await Run(
            $"create database {Quote(name)} owner vg_owner template template0 encoding 'UTF8' lc_collate 'C.UTF-8' lc_ctype 'C.UTF-8'"
        );

        async Task Role(string role, string password)
        {
            await using var have = db.CreateCommand("select 1 from pg_roles where rolname = $1");
            have.Parameters.AddWithValue(role);
            var verb = await have.ExecuteScalarAsync(cancel) is null ? "create" : "alter";
            await Run($"{verb} role {role} login password '{password.Replace("'", "''", StringComparison.Ordinal)}'");
        }

        async Task Run(string sql)
        {
            await using var command = db.CreateCommand(sql);
            await command.ExecuteNonQueryAsync(cancel);
        }
    }

    /// <summary>As administrator: removes a database and everything in it.</summary>
    public static async Task Drop(string adminConnection, string name, CancellationToken cancel = default)
    {
        await using var db = NpgsqlDataSource.Create(adminConnection);
        await using var command = db.CreateCommand($"drop database if exists {Quote(name)} with (force)");
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Runs the scripts that have not run yet, one instance at a time.</summary>
    /// <param name="ownerConnection">As <c>vg_owner</c>.</param>
    /// <exception cref="InvalidOperationException">A script failed; the database stays at the one before.</exception>
    /// <exception cref="SchemaException">A newer version has migrated it.</exception>
    public static void Migrate(string ownerConnection)
    {
        using var connection = new NpgsqlConnection(ownerConnection);
        connection.Open();
        Execute($"select pg_advisory_lock({MigrationLock})");
        try
        {
            Execute("do $$ begin if not exists (select from pg_roles where rolname = 'vg_app') then create role vg_app; end if; end $$");
            Schema.RefuseNewer(connection);
            var result = DeployChanges
                .To.PostgresqlDatabase(ownerConnection)
                .WithScripts(Scripts().Select(s => new SqlScript(s.Name, s.Text)))
                .WithTransactionPerScript()
                .WithVariablesDisabled()
                .JournalToPostgresqlTable("public", "schema_version")
                .LogToNowhere()
                .Build()
                .PerformUpgrade();
            if (!result.Successful)
                throw new InvalidOperationException($"Migration {result.ErrorScript?.Name} failed.", result.Error);
            DapperTypes.Register();
            Training.StartingCourse.Write(connection);
        }
        finally
        {
            Execute($"select pg_advisory_unlock({MigrationLock})");
        }

        void Execute(string sql)
        {
            using var command = new NpgsqlCommand(sql, connection);
            command.ExecuteNonQuery();
        }
    }

    /// <summary>The migration scripts in order.</summary>
    public static IEnumerable<(string Name, string Text)> Scripts()
    {
        var assembly = Assembly.GetExecutingAssembly();
        foreach (
            var name in assembly
                .GetManifestResourceNames()
                .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
        )
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
            yield return (name, reader.ReadToEnd());
        }
    }

    private static string Quote(string name) => "\"" + name.Replace("\"", "\"\"", StringComparison.Ordinal) + "\"";
}
