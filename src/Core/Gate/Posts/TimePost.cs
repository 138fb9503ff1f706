using NodaTime;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Free, in opening hours, within house limits, long enough for the job.</summary>
internal static class TimePost
{
    public static PostReading Read(GateQuestion ask, GateFacts facts, BookingLength length)
    {
        var post = new PostWriter(Post.Time, ask.Phase);
        var rules = facts.Rules;
        var other = Remedies.TimeOther.Says("Choose another time.");
        if (ask.Start < facts.Now)
            post.Add(Codes.TimePast, $"{HouseDates.Moment(ask.Start, rules)} is past.", remedy: other);
        ReadOpening(ask, facts, post, length, other);
        ReadCalendar(ask, facts, post, other);
        ReadTaken(ask, facts, post, other);
        ReadBench(ask, facts, post);
        if (ask.Minutes < length.NeededMinutes)
        {
            var parts = string.Join(", ", length.Parts.Select(p => $"{Name(p.Part)} {p.Says ?? Say.Minutes(p.Minutes)}"));
            post.Add(
                Codes.TimeTooShort,
                $"The job needs {length.SlotMinutes} min: {parts}.",
                remedy: Remedies.TimeLonger.Says($"Book {length.SlotMinutes} min.")
            );
        }
        foreach (var i in JobLength.UnknownRuns(ask, facts))
            post.Add(
                Codes.TimeUnknownRun,
                "How long this runs is not known, and so neither is the time it needs.",
                i,
                Remedies.AskRun.Says("Say how long it runs, or add its drawing.")
            );
        if (!rules.SameDayBooking && rules.Clock.DateOf(ask.Start) == rules.Clock.DateOf(facts.Now))
            post.Add(Codes.TimeSameDay, "This house takes no bookings for the same day.", remedy: other);
        if (!rules.WalkUp && ask.Start - facts.Now < HouseRules.WalkUpWithin)
            post.Add(
                Codes.TimeWalkUp,
                $"This house takes no walk-ups: book {HouseRules.WalkUpWithin.TotalMinutes:0} min before it starts, or earlier.",
                remedy: other
            );
        TimeLimits.Read(ask, facts, post);
        return post.Done($"{HouseDates.Moment(ask.Start, rules)} to {rules.Clock.At(ask.End):HH:mm}");
    }

    private static void ReadOpening(GateQuestion ask, GateFacts facts, PostWriter post, BookingLength length, Remedy other)
    {
        var rules = facts.Rules;
        var open = rules.OpenOn(rules.Clock.DateOf(ask.Start));
        if (open is not { } hours || ask.Start < hours.Start || ask.End > hours.End)
        {
            post.Add(Codes.TimeClosed, "The house is not open for the whole time.", remedy: other);
            return;
        }
        var cleanDown = length.Parts[^1].Minutes;
        var lastRunEnds = ask.End - Duration.FromMinutes((double)cleanDown);
        var latest = hours.End - Duration.FromMinutes(rules.LastRunBeforeCloseMinutes);
        if (lastRunEnds > latest)
            post.Add(
                Codes.TimeLastRun,
                $"The last run ends by {rules.Clock.At(latest):HH:mm}, {rules.LastRunBeforeCloseMinutes} min before the room is locked.",
                remedy: other
            );
    }

    private static void ReadCalendar(GateQuestion ask, GateFacts facts, PostWriter post, Remedy other)
    {
        foreach (var closure in (facts.Time.Closures ?? []).Where(c => c.During.Overlaps(ask.Start, ask.End)))
            post.Add(
                Codes.TimeClosure,
                $"Closed from {HouseDates.Moment(closure.During.Start, facts.Rules)}: {closure.Title}.",
                remedy: other
            );
        foreach (var lesson in (facts.Time.Classes ?? []).Where(c => c.During.Overlaps(ask.Start, ask.End)))
        {
            if (!lesson.OnRoster)
                post.Add(
                    Codes.TimeClass,
                    $"{facts.Machine.Spec.Name} is kept for {lesson.Title} from {HouseDates.Moment(lesson.During.Start, facts.Rules)} to "
                        + $"{facts.Rules.Clock.At(lesson.During.End!.Value):HH:mm}.",
                    remedy: other
                );
            else if (Span.MostAtOnce(lesson.Running, ask.Start, ask.End) >= Classes.AtOnce(lesson.AtOnce, facts.Rules))
                post.Add(
                    Codes.TimeClassFull,
                    $"{Classes.AtOnce(lesson.AtOnce, facts.Rules)} of {lesson.Title} may run at once "
                        + $"({Classes.Because(lesson.AtOnce, facts.Rules)}), and that many do.",
                    remedy: other
                );
        }
    }

    private static void ReadTaken(GateQuestion ask, GateFacts facts, PostWriter post, Remedy other)
    {
        if (!facts.Time.MachineTaken.IsKnown || !facts.Time.FixtureTaken.IsKnown || !facts.Time.PersonBooked.IsKnown)
        {
            post.Add(Codes.TimeUnknown, "The bookings are not known.", remedy: Remedies.HouseLook.Says("Look again, or ask a steward."));
            return;
        }
        foreach (var taken in facts.Time.MachineTaken.Value.Where(t => t.Overlaps(ask.Start, ask.End)))
            post.Add(
                Codes.TimeTaken,
                $"{facts.Machine.Spec.Name} is taken from {HouseDates.Moment(taken.Start, facts.Rules)} to "
                    + $"{facts.Rules.Clock.At(taken.End ?? taken.Start):HH:mm}.",
                remedy: other
            );
        foreach (var taken in facts.Time.FixtureTaken.Value.Where(t => t.Overlaps(ask.Start, ask.End)))
            post.Add(Codes.TimeTaken, $"The {ask.Fixture} is taken from {HouseDates.Moment(taken.Start, facts.Rules)}.", remedy: other);
    }

    private static void ReadBench(GateQuestion ask, GateFacts facts, PostWriter post)
    {
        if (ask.Bench is not { } wish)
            return;
        var rules = facts.Rules;
        var at = wish.At(ask.End, rules);
        if (rules.FinishingBenches == 0)
        {
            post.Add(
                Codes.BenchTaken,
                "No finishing bench is booked here: take one that is free.",
                remedy: Remedies.BenchOther.Says("Leave the bench out."),
                setting: nameof(HouseRules.FinishingBenches)
            );
            return;
        }
        if (wish.Start is not null && at.Start < ask.End)
            post.Add(
                Codes.BenchTaken,
                "The finishing bench would come before the run is over.",
                remedy: Remedies.BenchOther.Says($"Take it from {HouseDates.Moment(ask.End, rules)} on.")
            );
        else if (Finishing.Free(facts.Time.Benches ?? [], rules.FinishingBenches, at) is null)
            post.Add(
                Codes.BenchTaken,
                $"No finishing bench is free from {HouseDates.Moment(at.Start, rules)} to {rules.Clock.At(at.End):HH:mm}.",
                remedy: Remedies.BenchOther.Says("Take the bench at another time, or leave it out.")
            );
        else if (rules.OpenOn(rules.Clock.DateOf(at.Start)) is not { } hours || at.Start < hours.Start || at.End > hours.End)
            post.Add(
                Codes.BenchTaken,
                "The house is not open for the whole time at the finishing bench.",
                remedy: Remedies.BenchOther.Says("Take the bench at another time, or leave it out.")
            );
    }

    private static string Name(PartKind part) =>
        part switch
        {
            PartKind.Checks => "checks",
            PartKind.ExtractionLead => "extraction lead",
            PartKind.TestPiece => "test piece",
            PartKind.Run => "runs",
            PartKind.Changeover => "changeover",
            PartKind.Clearing => "air clearing",
            PartKind.CleanDown => "clean-down",
            _ => "spare",
        };
}
