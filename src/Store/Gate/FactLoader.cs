using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Training;
using VelvetGate.Store.Db;
using VelvetGate.Store.Training;

namespace VelvetGate.Store.Gate;

/// <summary>
/// Loads everything one decision rests on, as of any instant and as known at any instant: in one round trip where nothing changed that is
/// remembered.
/// </summary>
/// <param name="db">The pool; bookings pass their own connection instead.</param>
public sealed class FactLoader(NpgsqlDataSource db)
{
    private const int IdleLooksBackDays = 400;

    /// <param name="now">The present of the decision.</param>
    /// <param name="knownAt">Facts as they were known then; null for what is known now.</param>
    /// <param name="apart">Bookings that are decided again: what they hold themselves does not stand against them.</param>
    /// <param name="ahead">Facts until then too, with what the paths to missing certificates still ask: for the soonest way.</param>
    /// <param name="askedBy">Drawings of this person are seen too; null sees only the member's own.</param>
    public async Task<Result<GateFacts>> Load(
        GateQuestion ask,
        Instant now,
        Instant? knownAt,
        PersonId? askedBy,
        CancellationToken cancel,
        IReadOnlyList<Guid>? apart = null,
        Instant? ahead = null
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var facts = await Load(Memory.Of(db), connection, null, ask, now, knownAt, askedBy, cancel, apart, ahead);
        return ahead is not null && facts.Refusal is null ? await new Ways(connection, now).Into(facts.Value, ask) : facts;
    }

    /// <summary>The same job on each of several machines, with the facts of the time ahead.</summary>
    public async Task<IReadOnlyList<Result<GateFacts>>> LoadEach(
        IReadOnlyList<GateQuestion> asks,
        Instant now,
        PersonId askedBy,
        Instant until,
        CancellationToken cancel
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var (memory, ways) = (Memory.Of(db), new Ways(connection, now));
        var all = new List<Result<GateFacts>>();
        foreach (var ask in asks)
        {
            var facts = await Load(memory, connection, null, ask, now, null, askedBy, cancel, ahead: until);
            all.Add(facts.Refusal is null ? await ways.Into(facts.Value, ask) : facts);
        }
        return all;
    }

    internal static async Task<Result<GateFacts>> Load(
        Memory memory,
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        GateQuestion ask,
        Instant now,
        Instant? knownAt,
        PersonId? askedBy,
        CancellationToken cancel,
        IReadOnlyList<Guid>? apart = null,
        Instant? ahead = null
    )
    {
        var first = Instant.Min(now, ask.Start);
        // No length yet: what the job needs is known only once the facts are.
        var last =
            ahead is { } until ? Instant.Max(ask.End, until)
            : ask.Minutes == 0 ? ask.Start + Duration.FromDays(1)
            : ask.End;
        var question = new FactQuestion(
            Person: ask.MemberId,
            Machine: ask.MachineId,
            Supervisor: ask.SupervisorId?.Value ?? "",
            AskedBy: askedBy ?? ask.MemberId,
            Fixture: ask.Fixture is null ? "" : $"fixture:{ask.Fixture}",
            Materials: [.. ask.Items.Select(i => i.MaterialId).Distinct()],
            Tags: [.. ask.Items.Select(i => i.SheetTag).OfType<SheetTag>().Distinct()],
            Drawings: [.. ask.Items.Select(i => i.DrawingId).OfType<Guid>().Distinct()],
            Settings: [.. ask.Items.SelectMany(i => i.SettingIds ?? []).Distinct()],
            From: first - Duration.FromDays(8),
            Until: last + Duration.FromDays(8),
            IdleFrom: first - Duration.FromDays(IdleLooksBackDays),
            First: first,
            Last: last,
            Now: now,
            Start: ask.Start,
            KnownAt: knownAt,
            Apart: [.. apart ?? []],
            BenchFrom: ask.Bench is null ? null : ask.Bench.Start ?? first,
            BenchTo: ask.Bench is { } bench ? (bench.Start ?? last) + Duration.FromMinutes(bench.Minutes ?? Finishing.MostMinutes) : null
        );
        var rows = await FactQueries.Ask(connection, transaction, question, memory, cancel);
        return new FactReading(rows, ask, now).Build();
    }

    /// <summary>What the paths to missing certificates still ask of somebody; paths and progress are read once for all machines.</summary>
    private sealed class Ways(NpgsqlConnection connection, Instant now)
    {
        private (IReadOnlyList<PathNow> Paths, Progress Progress, Instant? Failed)? _read;

        public async Task<Result<GateFacts>> Into(GateFacts facts, GateQuestion ask)
        {
            var missing = NeededAuthorities
                .Of(ask, facts.Training.AddOns!.Select(a => (a.Authority, a.Need)))
                .Where(a =>
                    !Span.Cover(
                        facts.Training.Certificates.Value.Where(c => c.Authority == a).Select(c => c.Held),
                        ask.Start,
                        Instant.Max(ask.End, ask.Start + Duration.FromMinutes(1))
                    )
                )
                .ToList();
            if (missing.Count == 0)
                return facts;
            var (paths, progress, failed) = _read ??= await Read(ask.MemberId, facts.Rules);
            var ways = paths
                .Where(p => missing.Contains(p.Path.Authority))
                .Select(p => new WayFacts(p.Path.Authority, Ladder.StillToDo(p.Path, progress, failed, facts.Rules, now)));
            return facts with { Training = facts.Training with { Ways = [.. ways] } };
        }

        private async Task<(IReadOnlyList<PathNow>, Progress, Instant?)> Read(PersonId person, Core.House.HouseRules rules)
        {
            var paths = await PathStore.All(connection, null, rules, now);
            return (
                paths,
                await PathStore.ProgressOf(connection, null, person, paths, now),
                (await QuizStore.Standing(connection, null, person, ModuleRules.SafetyQuiz)).Failed
            );
        }
    }
}
