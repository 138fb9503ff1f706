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
    /// <param name="booking">A standing booking that is decided again: what it holds itself does not stand against it.</param>
    /// <param name="ahead">Facts of the coming weeks too, for the soonest way.</param>
    /// <param name="askedBy">Drawings of this person are seen too; null sees only the member's own.</param>
    public async Task<Result<GateFacts>> Load(
        GateQuestion ask,
        Instant now,
        Instant? knownAt,
        PersonId? askedBy,
        CancellationToken cancel,
        Guid? booking = null,
        bool ahead = false
    )
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        return await Load(Memory.Of(db), connection, null, ask, now, knownAt, askedBy, cancel, booking, ahead);
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
        Guid? booking = null,
        bool ahead = false
    )
    {
        var first = Instant.Min(now, ask.Start);
        // No length yet: what the job needs is known only once the facts are.
        var last =
            ahead ? Instant.Max(ask.End, Instant.Max(now, ask.Start) + Duration.FromDays(SoonestWay.HorizonDays + 1))
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
            Booking: booking
        );
        var rows = await FactQueries.Ask(connection, transaction, question, memory, cancel);
        var facts = new FactReading(rows, ask, now).Build();
        return ahead && facts.Refusal is null ? await WithWays(connection, transaction, facts.Value, ask, now) : facts;
    }

    /// <summary>For the soonest way: what the paths to missing certificates still ask.</summary>
    private static async Task<GateFacts> WithWays(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        GateFacts facts,
        GateQuestion ask,
        Instant now
    )
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
        var paths = await PathStore.All(connection, transaction, facts.Rules, now);
        var progress = await PathStore.ProgressOf(connection, transaction, ask.MemberId, paths, now);
        var failed = (await QuizStore.Standing(connection, transaction, ask.MemberId, ModuleRules.SafetyQuiz)).Failed;
        var ways = paths
            .Where(p => missing.Contains(p.Path.Authority))
            .Select(p => new WayFacts(p.Path.Authority, Ladder.StillToDo(p.Path, progress, failed, facts.Rules, now)));
        return facts with { Training = facts.Training with { Ways = [.. ways] } };
    }
}
