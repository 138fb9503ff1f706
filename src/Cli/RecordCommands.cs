using System.Globalization;
using Npgsql;
using VelvetGate.Store.Db;
using VelvetGate.Store.Gate;
using VelvetGate.Store.Ledger;

namespace VelvetGate.Cli;

/// <summary>Proves the record, and decides again what was decided.</summary>
internal static class RecordCommands
{
    /// <summary>Exit 0 whole, 1 the first bad number, 2 unreadable.</summary>
    public static async Task<int> Verify(IReadOnlyList<string> args)
    {
        try
        {
            var options = Options.Parse(args, ["--anchor"], []);
            await using var db = Database.Open(DatabaseCommands.Need("VELVETGATE_OWNER_DB"));
            var result = await new LedgerVerifier(db).Verify(Anchor(options["--anchor"]), default);
            if (!result.Whole)
            {
                Console.Out.WriteLine($"Broken at {result.FirstBad}: {result.Why}.");
                return 1;
            }
            Console.Out.WriteLine($"Whole: {result.Entries} entries, {result.Erased} texts erased. Anchor {result.Entries}:{result.Head}");
            return 0;
        }
        catch (Exception e) when (e is UsageException or NpgsqlException or FormatException or System.Text.Json.JsonException)
        {
            Console.Error.WriteLine($"The record cannot be read: {e.Message}");
            return 2;
        }
    }

    /// <summary>Exit 0 the same answer, 1 another answer or a changed decision, 2 not found.</summary>
    public static async Task<int> Replay(IReadOnlyList<string> args)
    {
        try
        {
            if (args is not [var text] || !Guid.TryParse(text, out var id)) throw new UsageException("Give the id of a decision or a booking.");
            await using var db = Database.Open(DatabaseCommands.Need("VELVETGATE_OWNER_DB"));
            if (await new DecisionStore(db).Find(id, default) is not { } found) throw new UsageException($"There is no decision or booking {id}.");
            var (decision, same) = found.Decision.Replay();
            foreach (var post in decision.Posts)
            {
                Console.Out.WriteLine($"{post.Post,-9} {post.Standing}");
                foreach (var reason in post.Reasons) Console.Out.WriteLine($"            {reason.Code}: {reason.Text}");
            }
            Console.Out.WriteLine($"Verdict {decision.Verdict}; {(same ? "the same as then" : "NOT the same as then")}{(found.HashHolds ? "" : "; the stored facts were CHANGED")}.");
            return same && found.HashHolds ? 0 : 1;
        }
        catch (Exception e) when (e is UsageException or NpgsqlException)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }

    private static (long, string)? Anchor(string? text)
    {
        if (text is null) return null;
        var halves = text.Split(':', 2);
        return halves.Length == 2 && long.TryParse(halves[0], NumberStyles.None, CultureInfo.InvariantCulture, out var seq)
            ? (seq, halves[1])
            : throw new UsageException("--anchor: write it like 120:3fa9…, as an earlier verification printed it.");
    }
}
