using VelvetGate.Core.Gating.Posts;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Gating;

/// <summary>The one decision: may this person run this sheet, this drawing, on this machine, at this time?</summary>
public static class Gate
{
    /// <summary>
    /// Raised whenever the same facts could give another answer; the rules concerned say so in <see cref="Rule.ChangedIn"/>.
    /// Stored with every decision acted on. 2: readings that are always taken at the machine are no condition; unknown airflow, run time
    /// and enclosure are no longer clear; what is tested goes by operation and age; eyewear by the exposure limits of more wavelengths.
    /// 3: settings are held against the sheet, and what nobody has tested here says so. 4: eyewear for each person who comes; a duty that
    /// nobody has seen; limits with codes of their own; a drawing may be asked for; changeovers between different stock alone, and the air
    /// wait as it is told. 7: how a machine was set up, and its interlocks lately; a break; idle clocks over long closures; filtered air
    /// without fresh air and an alarm shuts. 8: fire kit that a look found wrong.
    /// </summary>
    public const int RulesVersion = 8;

    /// <summary>Reads the seven posts in order. Pure: the same ask and facts always give the same answer.</summary>
    public static Decision Decide(GateQuestion ask, GateFacts facts)
    {
        facts = AsInUse(ask, facts);
        var length = JobLength.Of(ask, facts);
        PostReading[] posts =
        [
            PersonPost.Read(ask, facts),
            TrainingPost.Read(ask, facts),
            SheetPost.Read(ask, facts),
            DrawingPost.Read(ask, facts),
            MachinePost.Read(ask, facts),
            TimePost.Read(ask, facts, length),
            RoomPost.Read(ask, facts),
        ];
        var serving = Lifts.Serving(ask, facts);
        var used = new List<Guid>();
        for (var i = 0; i < posts.Length; i++)
        {
            var (post, lifted) = Lifts.Apply(posts[i], ask, serving);
            posts[i] = post;
            used.AddRange(lifted);
        }
        return new Decision((Verdict)posts.Max(p => p.Standing), posts, length, [.. used.Distinct()]);
    }

    /// <summary>A machine whose interlocks nobody has shown counts as class 4, whatever its label says.</summary>
    private static GateFacts AsInUse(GateQuestion ask, GateFacts facts)
    {
        var machine = facts.Machine;
        var counts = ClassInUse.Of(machine.Spec, machine.SetUp, facts.Rules, ask.End);
        return ReferenceEquals(counts, machine.Spec)
            ? facts
            : facts with
            {
                Machine = machine with
                {
                    Spec = counts,
                    CountsAsFour = ClassInUse.WhyFour(machine.Spec, machine.SetUp, facts.Rules, ask.End),
                },
            };
    }
}
