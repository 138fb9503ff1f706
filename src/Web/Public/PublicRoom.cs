using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Booking;
using VelvetGate.Core.Incidents;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Station;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Store.People;
using VelvetGate.Store.Station;
using VelvetGate.Store.Training;
using VelvetGate.Web.Machines;
using VelvetGate.Web.Materials;
using VelvetGate.Web.Shared;
using VelvetGate.Web.Training;

namespace VelvetGate.Web.Public;

/// <summary>
/// Pages that anybody may read, as whole HTML: the emergency card, the list of what may go in, and what a certificate's code leads to. They
/// say what the endpoints of the same things say.
/// </summary>
public static partial class PublicRoom
{
    public static IServiceCollection AddPublic(this IServiceCollection services)
    {
        services.AddRazorComponents();
        return services.AddSingleton<PublicFiles>();
    }

    public static void MapPublicRoom(this IEndpointRouteBuilder app)
    {
        var pages = app.MapGroup("").AllowAnonymous().ExcludeFromDescription();
        pages
            .MapGet("/emergency/{id}", Emergency)
            .WithMetadata(
                new SafeWords(
                    "Stop the machine. Alarm. Everybody out. Call the fire service.",
                    "The card of this machine is not here. The one at the machine says more."
                )
            );
        pages
            .MapGet("/emergency", FirstCard)
            .WithMetadata(
                new SafeWords(
                    "Stop the machine. Alarm. Everybody out. Call the fire service.",
                    "The cards of this house are not here. The one at the machine says more."
                )
            );
        pages
            .MapGet("/near-miss/{machine?}", NearMiss)
            .WithMetadata(
                new SafeWords("Near miss", "It cannot be told here just now. Tell a steward, or write it on the paper at the desk.")
            );
        pages
            .MapGet("/at/{machine}", Guide)
            .WithMetadata(new SafeWords("This machine’s page is not here", "Go by the maker’s manual, and ask a steward."));
        pages
            .MapGet("/wall/{secret}", Wall)
            .WithMetadata(new SafeWords("This screen shows nothing now", "Ask at the desk who has which machine."));
        pages.MapGet("/offline.json", Offline);
        pages
            .MapGet("/list/{machine?}", List)
            .WithMetadata(
                new SafeWords("No list, no laser", "The list cannot be shown. What you do not find on it stays out of the machine.")
            );
        pages
            .MapGet("/verify/{id}", Verify)
            .WithMetadata(new SafeWords("Not a certificate of this house", "Nobody runs a laser on this paper. Ask a steward."));
    }

    /// <summary>Where a page fails, whatever failed and for whomever, the safe thing stands in its place.</summary>
    public static void UseSafeWords(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                try
                {
                    await next(context);
                }
                catch (Exception e)
                    when (context.GetEndpoint()?.Metadata.GetMetadata<SafeWords>() is not null
                        && !context.Response.HasStarted
                        && !context.RequestAborted.IsCancellationRequested
                    )
                {
                    Failed(app.Logger, e);
                    var away = e is NpgsqlException or TimeoutException;
                    if (away)
                        context.Response.Headers.RetryAfter = "5";
                    var why = away
                        ? RequestProblems.DatabaseAway.Refuse()
                        : RequestProblems.Unexpected.Refuse(null, context.TraceIdentifier);
                    await None(context, Problems.Of(why)).ExecuteAsync(context);
                }
            }
        );

    private static async Task<IResult> Emergency(
        string id,
        SheetStore sheets,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var (card, problem) = await EmergencyEndpoints.Read(id, sheets, house, clock, cancel);
        return card is null
            ? None(http, problem!)
            : Page<EmergencyCardPage>(
                http,
                new
                {
                    card.Card,
                    card.Others,
                    Machine = id,
                }
            );
    }

    /// <summary>Where nobody said which machine: the first one’s card, which leads to the others.</summary>
    private static async Task<IResult> FirstCard(
        SheetStore sheets,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var first = (await house.MachinesHere(clock.GetCurrentInstant(), cancel)).Select(m => m.Spec.Id.Value).FirstOrDefault();
        return await Emergency(first ?? "none", sheets, house, clock, http, cancel);
    }

    private static async Task<IResult> Guide(
        string machine,
        HouseStore house,
        CommissioningStore commissioning,
        MachinePaperStore papers,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return None(http, Problems.NoRules());
        if ((await house.MachinesHere(now, cancel)).FirstOrDefault(m => m.Spec.Id == machine) is not { } found)
            return None(http, Problems.NotFound($"machine as “{machine}”"));
        var setUp = (await commissioning.SetUps([found.Spec], rules, now, cancel))[found.Spec.Id];
        return Page<MachineGuidePage>(
            http,
            new
            {
                Guide = MachineGuide.Of(found.Spec, rules, ClassInUse.WhyFour(found.Spec, setUp, rules, now)),
                Machine = machine,
                Papers = await papers.Of(found.Spec.Id, cancel),
            }
        );
    }

    /// <summary>The room today, for whoever has the address of its screen.</summary>
    private static async Task<IResult> Wall(
        string secret,
        FeedStore feeds,
        HouseStore house,
        BookingStore bookings,
        CalendarStore calendar,
        PeopleStore people,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return None(http, Problems.NoRules());
        if (await feeds.Find(secret, now, cancel) is not { Kind: FeedKind.Wall } feed)
            return None(http, Problems.NotFound("screen at this address"));
        if (Feeds.MayRead(feed.EndedAt) is { } revoked)
            return None(http, Problems.Of(revoked));
        return Page<WallPage>(
            http,
            new
            {
                Wall = await WallReading.Read(rules, house, bookings, calendar, people, now, cancel),
                Time = (Func<Instant, string>)(at => $"{rules.Clock.At(at):HH:mm}"),
            }
        );
    }

    private static async Task<IResult> NearMiss(string? machine, HouseStore house, IClock clock, HttpContext http, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return None(http, Problems.NoRules());
        var machines = (await house.MachinesHere(now, cancel)).Select(m => new OtherCard(m.Spec.Id, m.Spec.Name)).ToList();
        return Page<NearMissPage>(
            http,
            new
            {
                House = rules.HouseName,
                Machines = (IReadOnlyList<OtherCard>)machines,
                Machine = machines.Any(m => m.Id.Value == machine) || machine == "room" ? machine! : "",
                Now = NearMissTime.At(rules.Clock.At(now).LocalDateTime, few: false).Says,
                Zone = rules.ZoneId,
            }
        );
    }

    /// <summary>What a browser keeps for when the network is gone: every card, the page for near misses, and the files they need.</summary>
    private static async Task<IResult> Offline(
        PublicFiles files,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        http.Response.Headers.CacheControl = "no-cache";
        var now = clock.GetCurrentInstant();
        var machines = await house.Rules(now, cancel) is null ? [] : await house.MachinesHere(now, cancel);
        return TypedResults.Ok(
            new OfflineList(
                [
                    "/emergency",
                    .. machines.Select(m => $"/emergency/{m.Spec.Id}"),
                    .. machines.Select(m => $"/at/{m.Spec.Id}"),
                    "/near-miss",
                    "/station",
                ],
                [.. files.Styles, files.Script, .. files.Others, .. files.Station, "/mark.svg"]
            )
        );
    }

    private static async Task<IResult> List(
        string? machine,
        string? unit,
        MaterialStore materials,
        RulingStore rulings,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var (list, problem) = await PublicListEndpoints.Read(machine, unit, materials, rulings, house, clock, cancel);
        return list is null ? None(http, problem!) : Page<ListPage>(http, new { List = list, Unit = unit == "in" ? "in" : "mm" });
    }

    private static async Task<IResult> Verify(
        string id,
        MatrixStore certificates,
        HouseStore house,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var known = Guid.TryParse(id, out var number) ? number : Guid.Empty;
        var (shown, problem) = await CertificateEndpoints.Read(known, certificates, house, clock, cancel);
        if (shown is null)
            return None(http, problem!);
        var rules = (await house.Rules(shown.CheckedAt, cancel))!;
        var at = rules.Clock.At(shown.CheckedAt).ToString("d MMMM uuuu 'at' HH:mm", CultureInfo.InvariantCulture);
        return Page<VerifyPage>(http, new { Shown = shown, CheckedAt = at });
    }

    private static RazorComponentResult<T> Page<T>(HttpContext http, object parameters)
        where T : Microsoft.AspNetCore.Components.IComponent
    {
        http.Response.Headers.CacheControl = "no-cache";
        return new RazorComponentResult<T>(parameters);
    }

    private static RazorComponentResult<NoPage> None(HttpContext http, ProblemHttpResult problem)
    {
        var safe = http.GetEndpoint()!.Metadata.GetRequiredMetadata<SafeWords>();
        http.Response.Headers.CacheControl = "no-cache";
        return new RazorComponentResult<NoPage>(
            new
            {
                safe.Heading,
                safe.Text,
                Why = problem.ProblemDetails.Detail ?? problem.ProblemDetails.Title ?? "",
                Again = $"{http.Request.Path}{http.Request.QueryString}",
            }
        )
        {
            StatusCode = problem.StatusCode,
        };
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "A page that anybody may read failed")]
    private static partial void Failed(ILogger logger, Exception error);

    private sealed record OfflineList(IReadOnlyList<string> Pages, IReadOnlyList<string> Files);

    /// <summary>The safe thing, where there is no page.</summary>
    private sealed record SafeWords(string Heading, string Text);
}
