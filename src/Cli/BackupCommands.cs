using System.Diagnostics;
using Npgsql;
using VelvetGate.Store.Db;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Cli;

/// <summary>
/// Backups with PostgreSQL's own programs (<c>pg_dump</c>, <c>pg_restore</c>), found through <c>VELVETGATE_PG_BIN</c> or the path. A backup
/// is one file in
/// their custom format: all of the house, people's details too, so it is kept as carefully as the house itself.
/// </summary>
internal static class BackupCommands
{
    /// <summary>As owner: writes the whole database into a file that was not there before.</summary>
    public static async Task<int> Backup(IReadOnlyList<string> args)
    {
        if (args is not [var file])
            throw new UsageException("Give the file to write, such as house.backup.");
        if (File.Exists(file))
            throw new UsageException($"{file} is there already. Give another name: nothing is written over.");
        var owner = new NpgsqlConnectionStringBuilder(DatabaseCommands.Need("VELVETGATE_OWNER_DB"));
        var part = file + ".part";
        try
        {
            await Run("pg_dump", owner, ["--format=custom", "--no-owner", "--no-unlogged-table-data", "--file", part, owner.Database!]);
            File.Move(part, file);
        }
        finally
        {
            File.Delete(part);
        }
        Console.Out.WriteLine($"{file}: {new FileInfo(file).Length} bytes. Check it with: vg check-backup {file}");
        return 0;
    }

    /// <summary>
    /// As administrator: restores a backup into a database of its own, proves its record, and removes that database again.
    /// </summary>
    public static async Task<int> Check(IReadOnlyList<string> args)
    {
        if (args is not [var file])
            throw new UsageException("Give the backup’s file.");
        var scratch = $"vg_check_{Guid.NewGuid():N}";
        try
        {
            var connection = await Into(file, scratch);
            await using var db = Database.Open(connection);
            if (await Schema.Wrong(db, default) is { } wrong)
                Console.Out.WriteLine($"Note: {wrong}");
            var result = await new LedgerVerifier(db).Verify(null, default);
            NpgsqlConnection.ClearAllPools();
            Console.Out.WriteLine(
                result.Whole
                    ? $"The backup restores, and its record is whole: {result.Entries} entries. Anchor {result.Entries}:{result.Head}"
                    : $"The backup restores, but its record is broken at {result.FirstBad}: {result.Why}."
            );
            return result.Whole ? 0 : 1;
        }
        finally
        {
            await Database.Drop(DatabaseCommands.Need("VELVETGATE_ADMIN_DB"), scratch);
        }
    }

    /// <summary>As administrator: makes roles and database, and fills it from a backup. One that holds anything is refused.</summary>
    public static async Task<int> Restore(IReadOnlyList<string> args)
    {
        var options = Options.Parse(args, ["--database"], []);
        if (options.Plain is not [var file] || options["--database"] is not { } name)
            throw new UsageException("vg restore FILE --database NAME");
        await Into(file, name);
        Console.Out.WriteLine($"Restored into {name}. Start it with: ./start --database {name}");
        return 0;
    }

    /// <returns>The owner's connection to the filled database, migrated to this version.</returns>
    private static async Task<string> Into(string file, string name)
    {
        if (!File.Exists(file))
            throw new UsageException($"There is no file {file}.");
        var (admin, password) = (DatabaseCommands.Need("VELVETGATE_ADMIN_DB"), DatabaseCommands.Need("VELVETGATE_OWNER_PASSWORD"));
        await Database.Create(admin, name, password, DatabaseCommands.Need("VELVETGATE_APP_PASSWORD"));
        var owner = new NpgsqlConnectionStringBuilder(admin)
        {
            Username = "vg_owner",
            Password = password,
            Database = name,
            Pooling = false,
        };
        await RefuseFilled(owner.ConnectionString, name);
        await Run("pg_restore", owner, ["--no-owner", "--exit-on-error", "--single-transaction", "--dbname", name, file]);
        Database.Migrate(owner.ConnectionString);
        return owner.ConnectionString;
    }

    private static async Task RefuseFilled(string owner, string name)
    {
        await using var db = NpgsqlDataSource.Create(owner);
        await using var command = db.CreateCommand(
            "select count(*) from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname not like 'pg\\_%' and "
                + "n.nspname <> 'information_schema'"
        );
        if ((long)(await command.ExecuteScalarAsync())! > 0)
            throw new UsageException($"The database {name} is not empty. Give another name: nothing is written over.");
    }

    /// <summary>Runs one of PostgreSQL's programs; the password travels in the environment, never on the command line.</summary>
    /// <exception cref="UsageException">It is missing or failed; what it said is in the message.</exception>
    private static async Task Run(string program, NpgsqlConnectionStringBuilder connection, IReadOnlyList<string> args)
    {
        var folder = Environment.GetEnvironmentVariable("VELVETGATE_PG_BIN");
        var start = new ProcessStartInfo(folder is { Length: > 0 } ? Path.Combine(folder, program) : program)
        {
            RedirectStandardError = true,
        };
        foreach (
            var arg in (string[])
                [
                    "--host",
                    connection.Host!,
                    "--port",
                    connection.Port.ToString(System.Globalization.CultureInfo.InvariantCulture),
                    "--username",
                    connection.Username!,
                    "--no-password",
                    .. args,
                ]
        )
            start.ArgumentList.Add(arg);
        start.Environment["PGPASSWORD"] = connection.Password;
        Process process;
        try
        {
            process = Process.Start(start)!;
        }
        catch (System.ComponentModel.Win32Exception)
        {
            throw new UsageException(
                $"{program} is not here. It comes with Debian’s postgresql-client; VELVETGATE_PG_BIN may name its folder."
            );
        }
        using (process)
        {
            var said = await process.StandardError.ReadToEndAsync();
            await process.WaitForExitAsync();
            if (process.ExitCode != 0)
                throw new UsageException($"{program} failed: {said.Trim()}");
        }
    }
}
