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
            foreach (var note in result.Notes)
                Console.Out.WriteLine($"Note: {note}.");
            Console.Out.WriteLine($"Whole: {result.Entries} entries, {result.Erased} texts erased. Anchor {result.Entries}:{result.Head}");
            return 0;
        }
        catch (Exception e) when (e is UsageException or NpgsqlException or FormatException or System.Text.Json.JsonException)
        {
            Console.Error.WriteLine($"The record cannot be read: {e.Message}");
            return 2;
        }
    }

    /// <summary>
    /// The outcome as it was stored, and today's rules on the same facts. Exit 0 the stored decision is proved and every difference comes
    /// from a rule that changed since, 1 not, 2 not found.
    /// </summary>
    public static async Task<int> Replay(IReadOnlyList<string> args)
    {
        try
        {
            if (args is not [var text] || !Guid.TryParse(text, out var id))
                throw new UsageException("Give the id of a decision or a booking.");
            await using var db = Database.Open(DatabaseCommands.Need("VELVETGATE_OWNER_DB"));
            if (await new DecisionStore(db).Find(id, default) is not { } found)
                throw new UsageException($"There is no decision or booking {id}.");
            var replay = found.Decision.Replay();
            Console.Out.WriteLine(
                $"Decided by rules version {replay.Version}: {replay.Then.Verdict}; "
                    + $"{(found.HashHolds ? "proved by its hash" : "the stored facts were CHANGED")}."
            );
            for (var i = 0; i < replay.Then.Posts.Count; i++)
                WriteStored(replay.Then.Posts[i], replay.Words?.Posts.ElementAtOrDefault(i));
            Console.Out.WriteLine();
            Console.Out.WriteLine(
                $"Today’s rules, version {Core.Gating.Gate.RulesVersion}, on the same facts: {replay.Today.Verdict}. This permits "
                    + "nothing today."
            );
            foreach (var post in replay.Today.Posts)
            {
                Console.Out.WriteLine($"  {post.Post, -9} {post.Standing}");
                foreach (var reason in post.Reasons)
                    Console.Out.WriteLine($"            {reason.Code}: {reason.Text}");
            }
            Console.Out.WriteLine();
            foreach (var d in replay.Differences)
                Console.Out.WriteLine(
                    $"Differs: {d.Code}{(d.Item is { } item ? $" of item {item + 1}" : "")}: {Said(d.Then)} then, {Said(d.Now)} "
                        + $"now; {(d.Explained ? $"the rule changed in version {d.ChangedIn}" : "NOT explained by a changed rule")}."
                );
            Console.Out.WriteLine(
                replay.Same ? "The same as then."
                : replay.Explained ? "Every difference comes from a rule that changed since."
                : "NOT the same as then."
            );
            return found.HashHolds && (replay.Same || replay.Explained) ? 0 : 1;
        }
        catch (Exception e) when (e is UsageException or NpgsqlException or System.Text.Json.JsonException)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }

    private static void WriteStored(Core.Gating.StoredPost post, Core.Gating.StoredPostWords? words)
    {
        Console.Out.WriteLine($"  {post.Post, -9} {post.Standing}");
        for (var i = 0; i < post.Codes.Count; i++)
        {
            var said = words?.Reasons.ElementAtOrDefault(i);
            Console.Out.WriteLine($"            {post.Codes[i].Code}{(said is null ? "" : $": {said.Text} ({said.Source})")}");
        }
    }

    private static string Said(Standing? standing) => standing?.ToString().ToLowerInvariant() ?? "not given";

    private static (long, string)? Anchor(string? text)
    {
        if (text is null)
            return null;
        var halves = text.Split(':', 2);
        return halves.Length == 2 && long.TryParse(halves[0], NumberStyles.None, CultureInfo.InvariantCulture, out var seq)
            ? (seq, halves[1])
            : throw new UsageException("--anchor: write it like 120:3fa9…, as an earlier verification printed it.");
    }
}
