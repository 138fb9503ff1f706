using Dapper;
using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Store.Gate;
using VelvetGate.Tests.Support;

namespace VelvetGate.Store.Tests;

/// <summary>Asks about the demo house that the gate opens for.</summary>
internal static class Questions
{
    public const string Member = "m-4";

    public static GateQuestion OnHeron(Instant start, int minutes = 75) =>
        new(
            MemberId: Member,
            MachineId: "heron",
            Items: [new GateItem("birch-ply-laser", 3, [Operation.Cut], "S-0097", null, 18)],
            Fixture: null,
            SupervisorId: null,
            Start: start,
            Minutes: minutes
        );

    /// <summary>The first ask in the coming days that is open.</summary>
    public static async Task<GateQuestion> FreeOnHeron(TestDatabase db, string? alsoFree = null)
    {
        for (var at = TestDatabase.Now + Duration.FromHours(20); ; at += Duration.FromMinutes(15))
        {
            var ask = OnHeron(Instant.FromUnixTimeSeconds(at.ToUnixTimeSeconds() / 900 * 900));
            if (
                await Verdict(db, ask) <= Core.Gating.Verdict.Conditions
                && (alsoFree is null || await Verdict(db, ask with { MachineId = alsoFree }) <= Core.Gating.Verdict.Conditions)
            )
                return ask;
        }
    }

    public static async Task<Decision> Decide(TestDatabase db, GateQuestion ask, Instant? now = null, Instant? knownAt = null)
    {
        var facts = await new FactLoader(db.App).Load(ask, now ?? TestDatabase.Now, knownAt, null, default);
        return Core.Gating.Gate.Decide(ask, facts.Value);
    }

    public static async Task<Verdict> Verdict(TestDatabase db, GateQuestion ask) => (await Decide(db, ask)).Verdict;

    /// <summary>Others for whom the same ask is open.</summary>
    public static async Task<IReadOnlyList<string>> CertifiedOn(TestDatabase db, string machine, GateQuestion ask)
    {
        await using var connection = await db.App.OpenConnectionAsync();
        var people = await connection.QueryAsync<string>(
            "select distinct person_id from training.certificate where authority = @machine and person_id <> @Member",
            new { machine, Member }
        );
        var open = new List<string>();
        foreach (var person in people)
        {
            if (await Verdict(db, ask with { MemberId = person }) <= Core.Gating.Verdict.Conditions)
                open.Add(person);
        }
        return open;
    }
}
