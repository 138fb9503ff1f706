using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using VelvetGate.Core.House;
using VelvetGate.Store.House;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="What">Title, or who is on duty.</param>
/// <param name="From">On the house's wall clock; empty for a whole day.</param>
public sealed record MonthLine(PlanKind Kind, string What, string From, string Until);

/// <param name="Hours">Such as 10:00 to 21:00; null when closed.</param>
public sealed record MonthDay(string Date, int Number, bool Today, string? Hours, IReadOnlyList<MonthLine> Lines);

/// <param name="Before">Days of the week, from Monday, before its first.</param>
public sealed record MonthResponse(string Month, string Label, string Previous, string Next, int Before, IReadOnlyList<MonthDay> Days);

/// <summary>One month of the calendar, day by day.</summary>
public static class MonthEndpoints
{
    public static void MapMonth(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/calendar/month", Month)
            .WithTags("Calendar")
            .WithName("CalendarMonth")
            .RequireAuthorization(Policy.SignedIn)
            .ProducesProblem(400);

    private static async Task<Results<Ok<MonthResponse>, ProblemHttpResult>> Month(
        string? month,
        CurrentUser user,
        CalendarStore calendar,
        PeopleStore people,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var today = rules.Clock.DateOf(now);
        var first = today.With(DateAdjusters.StartOfMonth);
        if (!string.IsNullOrWhiteSpace(month))
        {
            var read = YearMonthPattern.Iso.Parse(month);
            if (!read.Success || read.Value.Year is < 2000 or > 2200)
                return Problems.Of(HouseProblems.MonthBad.Refuse("month"));
            first = read.Value.OnDayOfMonth(1);
        }
        var last = first.With(DateAdjusters.EndOfMonth);
        var span = new Interval(rules.Clock.Day(first).Start, rules.Clock.Day(last).End);
        var times = await calendar.Within(span, cancel);
        var names = await PeopleNames.Of(times.Select(t => t.PersonId).OfType<PersonId>(), people, await user.SeesNames(), clock, cancel);
        var days = Enumerable
            .Range(0, last.Day)
            .Select(d => first.PlusDays(d))
            .Select(date =>
            {
                var day = rules.Clock.Day(date);
                return new MonthDay(
                    Iso(date),
                    date.Day,
                    date == today,
                    rules.OpenOn(date) is { } open ? $"{At(open.Start)} to {At(open.End)}" : null,
                    [
                        .. times
                            .Where(t => t.During.Start < day.End && t.During.End > day.Start)
                            .Select(t => new MonthLine(
                                t.Kind,
                                t.Kind == PlanKind.Duty ? names.GetValueOrDefault(t.PersonId ?? default, "somebody") : t.Title,
                                t.During.Start <= day.Start && t.During.End >= day.End ? "" : At(Instant.Max(t.During.Start, day.Start)),
                                t.During.End >= day.End ? "" : At(t.During.End)
                            )),
                    ]
                );
            });
        return TypedResults.Ok(
            new MonthResponse(
                first.ToString("uuuu-MM", null),
                first.ToString("MMMM uuuu", CultureInfo.InvariantCulture),
                first.PlusMonths(-1).ToString("uuuu-MM", null),
                first.PlusMonths(1).ToString("uuuu-MM", null),
                (int)first.DayOfWeek - 1,
                [.. days]
            )
        );

        string At(Instant at) => rules.Clock.At(at).ToString("HH:mm", CultureInfo.InvariantCulture);
    }

    private static string Iso(LocalDate date) => date.ToString("uuuu-MM-dd", null);
}
