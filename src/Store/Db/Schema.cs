using Dapper;
using Npgsql;

namespace VelvetGate.Store.Db;

/// <summary>The database is not one that this version may work on; the message says what to do.</summary>
public sealed class SchemaException(string message) : Exception(message);

/// <summary>Which scripts a database has run, held against those that this version knows.</summary>
public static class Schema
{
    private const string Journal = "select scriptname from public.schema_version order by scriptname";

    /// <summary>Number and name of the newest script this version knows, such as <c>0015_mends</c>.</summary>
    public static string Newest { get; } = Short(Database.Scripts().Last().Name);

    /// <summary>Looks before anything is read or written.</summary>
    /// <returns>Null when it is the schema of this version; else what is wrong, and what to do.</returns>
    /// <exception cref="NpgsqlException">The database does not answer.</exception>
    public static async Task<string?> Wrong(NpgsqlDataSource db, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        try
        {
            return Wrong([.. await connection.QueryAsync<string>(new CommandDefinition(Journal, cancellationToken: cancel))]);
        }
        catch (PostgresException e)
            when (e.SqlState
                    is PostgresErrorCodes.UndefinedTable
                        or PostgresErrorCodes.InsufficientPrivilege
                        or PostgresErrorCodes.InvalidSchemaName
            )
        {
            return "This database was never migrated by this version. Run ./vg migrate with the owner’s connection, after a backup.";
        }
    }

    /// <summary>
    /// The server runs as a role that cannot rewrite what was recorded; with more rights nothing here would be proof of anything.
    /// </summary>
    /// <returns>Null when the connection has no right it should not have.</returns>
    public static async Task<string?> TooMuch(NpgsqlDataSource db, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var (super, owns) = await connection.QuerySingleAsync<(bool, bool)>(
            new CommandDefinition(
                "select (select rolsuper from pg_roles where rolname = current_user), (select pg_has_role(relowner, 'usage') from "
                    + "pg_class where oid = 'ledger.entry'::regclass)",
                cancellationToken: cancel
            )
        );
        return super || owns
            ? $"The server’s connection {(super ? "is a superuser’s" : "owns the record")}: it could rewrite what was recorded. Give "
                + "VELVETGATE_DB the role vg_app, and VELVETGATE_OWNER_DB the owner’s for migrating alone."
            : null;
    }

    /// <summary>Refuses to migrate what a newer version has migrated.</summary>
    /// <exception cref="SchemaException">It has run scripts that this version does not know.</exception>
    internal static void RefuseNewer(NpgsqlConnection connection)
    {
        if (!connection.ExecuteScalar<bool>("select to_regclass('public.schema_version') is not null"))
            return;
        if (Newer([.. connection.Query<string>(Journal)]) is { } wrong)
            throw new SchemaException(wrong);
    }

    internal static string? Wrong(IReadOnlyCollection<string> run)
    {
        if (Newer(run) is { } newer)
            return newer;
        var missing = Database.Scripts().Select(s => s.Name).Except(run).ToList();
        return missing.Count == 0
            ? null
            : $"This database is older than this version: {Short(missing[0])} has not run. Make a backup, then run ./vg migrate.";
    }

    private static string? Newer(IReadOnlyCollection<string> run)
    {
        var unknown = run.Except(Database.Scripts().Select(s => s.Name)).Order(StringComparer.Ordinal).ToList();
        return unknown.Count == 0
            ? null
            : $"This database was migrated by a newer version: {Short(unknown[^1])} is not known here, the newest known is {Newest}. "
                + "Start that version, or restore a backup made before it. Nothing was changed.";
    }

    private static string Short(string script) =>
        script.Replace("VelvetGate.Store.Db.Migrations.", "", StringComparison.Ordinal).Replace(".sql", "", StringComparison.Ordinal);
}
