using System.Collections.Concurrent;
using System.Net;
using System.Net.Http.Headers;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>A house whose roles stay signed in: a thousand requests need no thousand passwords.</summary>
public sealed class RolesHouse : WebHouse
{
    private readonly ConcurrentDictionary<string, Lazy<Task<Api>>> roles = new();

    public Task<Api> Role(string role, bool fresh) =>
        fresh ? SignIn(role) : roles.GetOrAdd(role, r => new Lazy<Task<Api>>(() => SignIn(r))).Value;

    private Task<Api> SignIn(string role) => As(role == "visitor" ? null : role);
}

/// <summary>Every endpoint, and who may use it. An endpoint without a row fails; so does a row without an endpoint.</summary>
public class EndpointRolesTests(RolesHouse house) : IClassFixture<RolesHouse>
{
    private static readonly string[] Everybody = ["visitor", "newcomer", "member", "trainer", "steward", "keeper"];
    private static readonly string[] SignedIn = ["newcomer", "member", "trainer", "steward", "keeper"];
    private static readonly string[] Stewards = ["steward"];
    private static readonly string[] Trainers = ["trainer"];
    private static readonly string[] Staff = ["trainer", "steward", "keeper"];
    private static readonly string[] Teaching = ["trainer", "steward"];
    private static readonly string[] Keepers = ["keeper"];
    private static readonly string[] KeepersAndStewards = ["steward", "keeper"];
    private static readonly string[] Granting = ["trainer", "keeper"];
    private static readonly string[] Records = ["steward", "keeper"];

    private static readonly Dictionary<string, string[]> Table = new()
    {
        ["GET /healthz"] = Everybody,
        ["GET /api/fixtures"] = SignedIn,
        ["POST /api/fixtures/{id}/out"] = SignedIn,
        ["POST /api/fixtures/{id}/back"] = SignedIn,
        ["POST /api/fixtures/{id}/right"] = Stewards,
        ["POST /api/feeds"] = SignedIn,
        ["GET /api/feeds"] = SignedIn,
        ["DELETE /api/feeds/{id:guid}"] = SignedIn,
        ["GET /feeds/{secret}.ics"] = Everybody,
        ["GET /wall/{secret}"] = Everybody,
        ["POST /api/calendar/file"] = KeepersAndStewards,
        ["GET /api/use"] = SignedIn,
        ["GET /api/use/file"] = SignedIn,
        ["POST /api/use/what-if"] = KeepersAndStewards,
        ["POST /api/use/what-if/steps"] = KeepersAndStewards,
        ["GET /readyz"] = Everybody,
        ["GET /livez"] = Everybody,
        ["GET /emergency/{id}"] = Everybody,
        ["GET /emergency"] = Everybody,
        ["GET /near-miss/{machine?}"] = Everybody,
        ["GET /offline.json"] = Everybody,
        ["POST /api/near-misses"] = Everybody,
        ["GET /api/near-misses"] = Records,
        ["POST /api/near-misses/{id:guid}/strike"] = Stewards,
        ["POST /api/machines/{id}/looked"] = Stewards,
        ["GET /api/machines/{id}/near-miss-code.pdf"] = SignedIn,
        ["POST /api/incidents"] = SignedIn,
        ["GET /api/incidents"] = SignedIn,
        ["GET /api/incidents/choices"] = SignedIn,
        ["GET /api/incidents/{id:guid}"] = SignedIn,
        ["GET /api/incidents/{id:guid}.pdf"] = SignedIn,
        ["POST /api/incidents/{id:guid}/change"] = Stewards,
        ["POST /api/incidents/{id:guid}/words"] = SignedIn,
        ["POST /api/incidents/{id:guid}/holds"] = Stewards,
        ["POST /api/incidents/{id:guid}/holds/refuse"] = Stewards,
        ["POST /api/incidents/{id:guid}/holds/{hold:guid}/end"] = SignedIn,
        ["POST /api/incidents/{id:guid}/watch"] = SignedIn,
        ["POST /api/incidents/{id:guid}/looks"] = SignedIn,
        ["POST /api/incidents/{id:guid}/causes"] = Stewards,
        ["POST /api/incidents/{id:guid}/actions"] = Stewards,
        ["POST /api/incidents/{id:guid}/actions/{action:guid}/end"] = SignedIn,
        ["POST /api/incidents/{id:guid}/close"] = Stewards,
        ["POST /api/incidents/{id:guid}/reopen"] = Stewards,
        ["POST /api/incidents/{id:guid}/lesson"] = Stewards,
        ["POST /api/incidents/{id:guid}/photos"] = SignedIn,
        ["GET /api/incidents/{id:guid}/photos/{photo:guid}"] = SignedIn,
        ["POST /api/incidents/{id:guid}/photos/{photo:guid}/remove"] = SignedIn,
        ["POST /api/incidents/{id:guid}/injuries"] = Stewards,
        ["GET /api/incidents/{id:guid}/injuries/{injury:guid}.pdf"] = SignedIn,
        ["GET /api/settings"] = SignedIn,
        ["POST /api/settings"] = SignedIn,
        ["POST /api/settings/{id:guid}/end"] = SignedIn,
        ["GET /api/test-pieces"] = SignedIn,
        ["POST /api/test-pieces"] = SignedIn,
        ["GET /api/test-pieces/{id:guid}"] = SignedIn,
        ["GET /api/test-pieces/{id:guid}.svg"] = SignedIn,
        ["POST /api/test-pieces/{id:guid}/results"] = SignedIn,
        ["GET /api/machines/{id}/run-times"] = SignedIn,
        ["POST /api/machines/{id}/run-times"] = Stewards,
        ["GET /api/calculators"] = SignedIn,
        ["POST /api/calculators/{calculator}"] = SignedIn,
        ["GET /api/head-count"] = Staff,
        ["GET /api/head-count.pdf"] = Staff,
        ["GET /api/incidents/rates"] = SignedIn,
        ["GET /api/incidents/figures"] = Records,
        ["GET /api/incidents-file"] = Records,
        ["POST /api/incidents-file"] = Stewards,
        ["GET /list/{machine?}"] = Everybody,
        ["GET /at/{machine}"] = Everybody,
        ["GET /verify/{id}"] = Everybody,
        ["POST /api/runs/{id:guid}/look"] = Stewards,
        ["POST /api/people/{id}/unlock"] = Keepers,
        ["POST /api/parked/{subject}/done"] = KeepersAndStewards,
        ["GET /openapi/{documentName}.json"] = Everybody,
        ["GET /api/house"] = Everybody,
        ["POST /api/sign-in"] = Everybody,
        ["POST /api/sign-out"] = SignedIn,
        ["GET /api/me"] = SignedIn,
        ["GET /api/events"] = SignedIn,
        ["GET /api/house/day"] = SignedIn,
        ["GET /api/watch"] = SignedIn,
        ["POST /api/gate/ask"] = SignedIn,
        ["POST /api/asks"] = SignedIn,
        ["GET /api/asks"] = SignedIn,
        ["GET /api/asks/{id:guid}"] = SignedIn,
        ["POST /api/asks/{id:guid}/withdraw"] = SignedIn,
        ["POST /api/asks/{id:guid}/lift"] = Stewards,
        ["POST /api/asks/{id:guid}/refuse"] = Stewards,
        ["POST /api/asks/{id:guid}/take-back"] = Stewards,
        ["GET /api/messages"] = SignedIn,
        ["POST /api/messages/{id:guid}/read"] = SignedIn,
        ["GET /api/materials"] = SignedIn,
        ["GET /api/sheets"] = SignedIn,
        ["GET /api/rulings-file"] = SignedIn,
        ["GET /api/sheets-file"] = SignedIn,
        ["POST /api/rulings-file"] = Stewards,
        ["POST /api/sheets-file"] = Stewards,
        ["GET /api/ruling-requests/"] = SignedIn,
        ["POST /api/ruling-requests/"] = SignedIn,
        ["POST /api/ruling-requests/{id:guid}/file"] = SignedIn,
        ["GET /api/ruling-requests/{id:guid}/file"] = SignedIn,
        ["POST /api/ruling-requests/{id:guid}/withdraw"] = SignedIn,
        ["POST /api/ruling-requests/{id:guid}/answer"] = Stewards,
        ["GET /api/identification"] = Stewards,
        ["POST /api/identification"] = Stewards,
        ["GET /api/chloride"] = SignedIn,
        ["GET /api/list"] = Everybody,
        ["GET /api/list.pdf"] = Everybody,
        ["GET /api/sheets/{tag}"] = Everybody,
        ["GET /api/sheets/{tag}/code.svg"] = Everybody,
        ["GET /api/sheet-labels.pdf"] = SignedIn,
        ["POST /api/sheets/"] = SignedIn,
        ["POST /api/sheets/{tag}/evidence"] = SignedIn,
        ["GET /api/sheets/{tag}/evidence/{id:guid}"] = SignedIn,
        ["POST /api/sheets/{tag}/clear"] = Stewards,
        ["POST /api/sheets/{tag}/more"] = Stewards,
        ["POST /api/sheets/{tag}/refuse"] = Stewards,
        ["POST /api/sheets/{tag}/release"] = Stewards,
        ["POST /api/sheets/{tag}/retire"] = SignedIn,
        ["POST /api/sheets/{tag}/offcut"] = SignedIn,
        ["POST /api/sheets/{tag}/report"] = SignedIn,
        ["GET /api/ruling-reasons"] = SignedIn,
        ["GET /api/materials/{id}/rulings"] = SignedIn,
        ["POST /api/materials/{id}/rulings"] = Stewards,
        ["POST /api/materials/{id}/rulings/preview"] = Stewards,
        ["GET /api/ruling-proposals"] = Stewards,
        ["POST /api/ruling-proposals/{id:guid}/agree"] = Stewards,
        ["POST /api/ruling-proposals/{id:guid}/refuse"] = Stewards,
        ["GET /api/people"] = SignedIn,
        ["POST /api/people/{id}/pauses"] = Stewards,
        ["POST /api/pauses/{id:guid}/release"] = Stewards,
        ["GET /api/training/ladder"] = SignedIn,
        ["GET /api/training/readings/{id}"] = SignedIn,
        ["POST /api/training/readings/{id}/done"] = SignedIn,
        ["GET /api/training/readings/{id}/draft"] = Stewards,
        ["POST /api/training/readings/{id}/versions/preview"] = Stewards,
        ["POST /api/training/readings/{id}/versions"] = Stewards,
        ["POST /api/training/quizzes/{id}/attempts"] = SignedIn,
        ["GET /api/training/quizzes/{id}/statistics"] = Trainers,
        ["GET /api/training/attempts/{id:guid}"] = SignedIn,
        ["PUT /api/training/attempts/{id:guid}/answers/{question}"] = SignedIn,
        ["POST /api/training/attempts/{id:guid}/end"] = SignedIn,
        ["POST /api/sign-offs"] = Trainers,
        ["POST /api/paper-sign-offs"] = Stewards,
        ["POST /api/training/readings"] = Stewards,
        ["POST /api/training/questions"] = Teaching,
        ["POST /api/training/questions/{id}/retire"] = Teaching,
        ["GET /api/training/practical-sheets"] = SignedIn,
        ["POST /api/training/practical-sheets"] = Stewards,
        ["POST /api/training/quizzes/{id}/renew"] = Stewards,
        ["GET /api/training/paths"] = SignedIn,
        ["POST /api/training/paths"] = Stewards,
        ["POST /api/training/paths/preview"] = Stewards,
        ["GET /api/training/matrix"] = Staff,
        ["GET /api/training/matrix-file"] = Staff,
        ["GET /api/practicals"] = SignedIn,
        ["POST /api/practicals"] = Trainers,
        ["GET /api/practicals/{id:guid}"] = SignedIn,
        ["GET /api/practicals/{id:guid}/sheet.pdf"] = SignedIn,
        ["POST /api/practicals/{id:guid}/marks"] = Trainers,
        ["POST /api/practicals/{id:guid}/agree"] = SignedIn,
        ["POST /api/practicals/{id:guid}/drop"] = Trainers,
        ["GET /api/inductions"] = SignedIn,
        ["POST /api/inductions"] = Teaching,
        ["POST /api/inductions/{id:guid}/place"] = SignedIn,
        ["POST /api/inductions/{id:guid}/leave"] = SignedIn,
        ["POST /api/inductions/{id:guid}/roll"] = Teaching,
        ["POST /api/inductions/{id:guid}/cancel"] = Teaching,
        ["GET /api/people/{id}/outside"] = Staff,
        ["POST /api/people/{id}/outside"] = Stewards,
        ["GET /api/certificate-holds"] = Staff,
        ["POST /api/certificate-holds"] = Stewards,
        ["POST /api/certificate-holds/review"] = Stewards,
        ["POST /api/certificate-holds/{id:guid}/end"] = Stewards,
        ["GET /api/verify/{id:guid}"] = Everybody,
        ["GET /api/certificates/{id:guid}/certificate.pdf"] = SignedIn,
        ["GET /api/certificates/{id:guid}/card.pdf"] = SignedIn,
        ["GET /api/people/{id}/conduct"] = Stewards,
        ["GET /api/people/{id}/conduct/next"] = Stewards,
        ["POST /api/people/{id}/conduct"] = Stewards,
        ["GET /api/appeals"] = Stewards,
        ["POST /api/conduct/{id:guid}/appeal"] = SignedIn,
        ["POST /api/conduct/{id:guid}/hear"] = Stewards,
        ["POST /api/drawings/"] = SignedIn,
        ["GET /api/drawings"] = SignedIn,
        ["GET /api/drawings/{id:guid}/check"] = SignedIn,
        ["GET /api/drawings/{id:guid}/lines"] = SignedIn,
        ["GET /api/drawings/{id:guid}/parts.svg"] = SignedIn,
        ["GET /api/drawings/{id:guid}/file"] = SignedIn,
        ["GET /api/machines/{id}/page-code.pdf"] = SignedIn,
        ["GET /api/machines/{id}/place-code"] = Keepers,
        ["POST /api/machines/{id}/place-code"] = Keepers,
        ["DELETE /api/machines/{id}/place-code"] = Keepers,
        ["GET /api/machines/{id}/place-code.pdf"] = Keepers,
        ["GET /api/machines/{id}/papers"] = Keepers,
        ["POST /api/machines/{id}/papers"] = Keepers,
        ["DELETE /api/machines/{id}/papers/{paper:guid}"] = Keepers,
        ["GET /at/{machine}/papers/{paper:guid}"] = Everybody,
        ["GET /api/stations/{machine}"] = SignedIn,
        ["POST /api/stations/{machine}/tap"] = SignedIn,
        ["POST /api/stations/{machine}/act"] = SignedIn,
        ["POST /api/stations/{machine}/stop"] = Everybody,
        ["GET /api/stations/{machine}/devices"] = Keepers,
        ["POST /api/stations/{machine}/devices"] = Keepers,
        ["DELETE /api/stations/{machine}/devices/{id:guid}"] = Keepers,
        ["GET /api/fobs"] = SignedIn,
        ["GET /api/machines/{id}/without-screen.pdf"] = SignedIn,
        ["GET /api/who-may-run.pdf"] = Staff,
        ["POST /api/fobs"] = Stewards,
        ["DELETE /api/fobs/{id:guid}"] = SignedIn,
        ["POST /api/me/tap-in-code"] = SignedIn,
        ["PUT /api/me/pin"] = SignedIn,
        ["GET /api/controllers"] = Keepers,
        ["POST /api/controllers"] = Keepers,
        ["DELETE /api/controllers/{serial}"] = Keepers,
        ["GET /api/drawings/{id:guid}/timeline"] = SignedIn,
        ["GET /api/drawings/{id:guid}/pieces"] = SignedIn,
        ["POST /api/drawings/{id:guid}/place"] = SignedIn,
        ["POST /api/drawings/box"] = SignedIn,
        ["GET /api/drawings/{id:guid}/pictures/{number:int}"] = SignedIn,
        ["GET /api/upkeep"] = SignedIn,
        ["GET /api/calendar/month"] = SignedIn,
        ["GET /api/me/sessions"] = SignedIn,
        ["DELETE /api/me/sessions/{id:guid}"] = SignedIn,
        ["POST /api/me/sessions/end-others"] = SignedIn,
        ["POST /api/me/password/again"] = SignedIn,
        ["GET /api/me/second-factor"] = SignedIn,
        ["POST /api/me/second-factor"] = SignedIn,
        ["POST /api/me/second-factor/confirm"] = SignedIn,
        ["DELETE /api/me/second-factor"] = SignedIn,
        ["DELETE /api/people/{id}/second-factor"] = Keepers,
        ["POST /api/upkeep/{id}/done"] = SignedIn,
        ["GET /api/upkeep/{id}/done"] = SignedIn,
        ["GET /api/upkeep/methods"] = SignedIn,
        ["GET /api/machines/{id}/trends"] = SignedIn,
        ["POST /api/upkeep"] = Stewards,
        ["PUT /api/upkeep/{id}"] = Stewards,
        ["DELETE /api/upkeep/{id}"] = Stewards,
        ["POST /api/machines/{id}/upkeep"] = Stewards,
        ["POST /api/machines/{id}/readings"] = SignedIn,
        ["GET /api/upkeep/breaks"] = SignedIn,
        ["POST /api/machines/{id}/after-break"] = SignedIn,
        ["GET /api/upkeep/round"] = SignedIn,
        ["POST /api/upkeep/round/kit/{id}"] = SignedIn,
        ["POST /api/upkeep/round/eyewear/{id}"] = SignedIn,
        ["GET /api/upkeep/round/codes.pdf"] = Stewards,
        ["GET /api/upkeep/stock"] = SignedIn,
        ["POST /api/upkeep/stock"] = Stewards,
        ["PUT /api/upkeep/stock/{id:guid}"] = Stewards,
        ["DELETE /api/upkeep/stock/{id:guid}"] = Stewards,
        ["POST /api/upkeep/stock/{id:guid}/changes"] = SignedIn,
        ["POST /api/upkeep/{id:guid}/photos"] = SignedIn,
        ["GET /api/upkeep/photos/{photo:guid}"] = SignedIn,
        ["POST /api/upkeep/photos/{photo:guid}/remove"] = SignedIn,
        ["GET /api/locks"] = SignedIn,
        ["POST /api/machines/{id}/locks"] = SignedIn,
        ["POST /api/locks/{id:guid}/off"] = SignedIn,
        ["GET /api/machines/{id}/tag.pdf"] = SignedIn,
        ["GET /api/house/papers"] = Staff,
        ["POST /api/house/papers"] = Keepers,
        ["GET /api/commissioning"] = SignedIn,
        ["PUT /api/machines/{id}/commissioning"] = Keepers,
        ["POST /api/machines/{id}/service"] = SignedIn,
        ["GET /api/machines/{id}/service"] = SignedIn,
        ["GET /api/symptoms"] = SignedIn,
        ["GET /api/faults"] = SignedIn,
        ["POST /api/faults"] = SignedIn,
        ["POST /api/faults/{id:guid}/standing"] = SignedIn,
        ["POST /api/faults/{id:guid}/close"] = SignedIn,
        ["PUT /api/drawings/{id:guid}/clamps"] = SignedIn,
        ["DELETE /api/drawings/{id:guid}"] = SignedIn,
        ["PUT /api/drawings/{id:guid}/colours/"] = SignedIn,
        ["GET /api/drawings/{id:guid}/colours/file"] = SignedIn,
        ["POST /api/drawings/{id:guid}/mend/"] = SignedIn,
        ["POST /api/drawings/{id:guid}/mend/file"] = SignedIn,
        ["POST /api/drawings/{id:guid}/mend/keep"] = SignedIn,
        ["POST /api/bookings/"] = SignedIn,
        ["GET /api/bookings"] = SignedIn,
        ["GET /api/jobs"] = SignedIn,
        ["POST /api/jobs"] = SignedIn,
        ["DELETE /api/jobs/{id:guid}"] = SignedIn,
        ["POST /api/bookings/{id:guid}/cancel"] = SignedIn,
        ["POST /api/bookings/{id:guid}/move"] = SignedIn,
        ["POST /api/bookings/{id:guid}/extend"] = SignedIn,
        ["POST /api/bookings/{id:guid}/hand-over"] = SignedIn,
        ["POST /api/bookings/{id:guid}/swap"] = SignedIn,
        ["POST /api/bookings/{id:guid}/swap/agree"] = SignedIn,
        ["GET /api/jobs/typical"] = SignedIn,
        ["GET /api/swaps"] = SignedIn,
        ["POST /api/machines/soonest"] = SignedIn,
        ["POST /api/waiting"] = SignedIn,
        ["GET /api/waiting"] = SignedIn,
        ["DELETE /api/waiting/{id:guid}"] = SignedIn,
        ["POST /api/offers/{id:guid}/take"] = SignedIn,
        ["POST /api/offers/{id:guid}/decline"] = SignedIn,
        ["POST /api/bookings/{id:guid}/arrive"] = SignedIn,
        ["POST /api/runs/"] = SignedIn,
        ["GET /api/runs"] = SignedIn,
        ["GET /api/machines"] = SignedIn,
        ["GET /api/machines/{id}/trainers"] = SignedIn,
        ["POST /api/machines/{id}/stops"] = SignedIn,
        ["POST /api/stops/{id:guid}/return"] = SignedIn,
        ["POST /api/machines/{id}/return"] = SignedIn,
        ["GET /api/ledger"] = Records,
        ["GET /api/set-up"] = Everybody,
        ["POST /api/set-up"] = Everybody,
        ["GET /api/machines/{id}/emergency"] = Everybody,
        ["GET /api/house/local"] = SignedIn,
        ["GET /api/house/forms"] = SignedIn,
        ["GET /api/house/sheets"] = SignedIn,
        ["POST /api/machines"] = Keepers,
        ["PUT /api/machines/{id}"] = Keepers,
        ["PUT /api/house/room"] = Keepers,
        ["DELETE /api/house/kit/{id}"] = Keepers,
        ["PUT /api/house/kit/{id}"] = Keepers,
        ["PUT /api/house/eyewear/{id}"] = Keepers,
        ["GET /api/house/rules"] = SignedIn,
        ["GET /api/house/rules/compare"] = SignedIn,
        ["POST /api/house/rules"] = Keepers,
        ["GET /api/house/packs/{pack}"] = SignedIn,
        ["GET /api/calendar"] = SignedIn,
        ["POST /api/calendar"] = KeepersAndStewards,
        ["POST /api/calendar/preview"] = KeepersAndStewards,
        ["POST /api/calendar/{id:guid}/end"] = KeepersAndStewards,
        ["POST /api/people"] = Keepers,
        ["POST /api/people/import"] = Keepers,
        ["GET /api/people/{id}/account"] = KeepersAndStewards,
        ["PUT /api/people/{id}/end"] = Keepers,
        ["POST /api/people/{id}/invite"] = Keepers,
        ["GET /api/people/{id}/mentions"] = Keepers,
        ["DELETE /api/texts/{id:guid}"] = Keepers,
        ["GET /api/invites"] = Keepers,
        ["POST /api/invites/{id:guid}/agree"] = Keepers,
        ["POST /api/invites/{code}"] = Everybody,
        ["POST /api/people/{id}/roles"] = Granting,
        ["POST /api/roles/{id:long}/end"] = Keepers,
        ["POST /api/people/{id}/consents"] = Keepers,
        ["POST /api/consents/{id:guid}/end"] = Keepers,
        ["POST /api/people/{id}/legal-hold"] = Keepers,
        ["POST /api/people/{id}/erase"] = Keepers,
        ["GET /api/me/account"] = SignedIn,
        ["GET /api/me/data"] = SignedIn,
        ["POST /api/me/agreement"] = SignedIn,
        ["PUT /api/me/password"] = SignedIn,
        ["GET /api/founding-sign-offs"] = SignedIn,
        ["POST /api/founding-sign-offs"] = Keepers,
        ["POST /api/founding-sign-offs/{id:guid}/confirm"] = Stewards,
        ["POST /api/runs/{id:guid}/confirm"] = SignedIn,
        ["POST /api/bookings/{id:guid}/release"] = Stewards,
    };

    private static string Key(string row) => row.TrimEnd('/');

    [Fact]
    public void Endpoints_AndTable_AreTheSame()
    {
        var mapped = house
            .Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Where(e =>
                e.RoutePattern.RawText is { } text
                && !text.Contains("**", StringComparison.Ordinal)
                && !text.Contains("{*path", StringComparison.Ordinal)
            )
            .SelectMany(e =>
                (e.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? ["GET"]).Select(m =>
                    Key($"{m} /{e.RoutePattern.RawText!.Trim('/')}")
                )
            )
            .Distinct()
            .Order(StringComparer.Ordinal);
        mapped.ShouldBe(Table.Keys.Select(Key).Order(StringComparer.Ordinal));
    }

    public static TheoryData<string> Rows => [.. Table.Keys];

    [Theory]
    [MemberData(nameof(Rows))]
    public async Task Endpoint_TriedByEveryRole_LetsInExactlyThoseOfItsRow(string row)
    {
        var (method, path) = (row.Split(' ')[0], row.Split(' ')[1]);
        path = path.Replace("{id:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{hold:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{action:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{injury:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{paper:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{photo:guid}", Guid.Empty.ToString(), StringComparison.Ordinal)
            .Replace("{id:long}", "0", StringComparison.Ordinal)
            .Replace("{number:int}", "0", StringComparison.Ordinal)
            .Replace("{tag}", "S-9999", StringComparison.Ordinal)
            .Replace("{calculator}", "none", StringComparison.Ordinal)
            .Replace("{code}", "NONE", StringComparison.Ordinal)
            .Replace("{subject}", "nothing", StringComparison.Ordinal)
            .Replace("{pack}", "school", StringComparison.Ordinal)
            .Replace("{id}", "nobody", StringComparison.Ordinal)
            .Replace("{documentName}", "v1", StringComparison.Ordinal);
        foreach (var role in Everybody)
        {
            var api = await house.Role(role, fresh: path == "/api/sign-out");
            using var request = new HttpRequestMessage(new HttpMethod(method), path);
            if (method is "POST" or "PUT")
                request.Content =
                    path == "/api/drawings/"
                    || path.EndsWith("/evidence", StringComparison.Ordinal)
                    || path.EndsWith("/photos", StringComparison.Ordinal)
                    || (path.EndsWith("/papers", StringComparison.Ordinal) && path.StartsWith("/api/machines/", StringComparison.Ordinal))
                    || (
                        path.EndsWith("/file", StringComparison.Ordinal)
                        && !path.Contains("/mend/", StringComparison.Ordinal)
                        && !path.Contains("/calendar/", StringComparison.Ordinal)
                    )
                        ? new MultipartFormDataContent { { new ByteArrayContent([]), "file", "x.svg" } }
                        : new StringContent("{}", MediaTypeHeaderValue.Parse("application/json"));
            using var answer = await api.Http.SendAsync(
                request,
                HttpCompletionOption.ResponseHeadersRead,
                TestContext.Current.CancellationToken
            );
            var kept = answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
            kept.ShouldBe(!Table[row].Contains(role), $"{role} on {row} got {answer.StatusCode}");
            ((int)answer.StatusCode).ShouldBeLessThan(500);
            if (kept)
                answer.StatusCode.ShouldBe(role == "visitor" ? HttpStatusCode.Unauthorized : HttpStatusCode.Forbidden);
        }
    }

    /// <summary>The table of roles in docs/rules.md is this one. VELVETGATE_WRITE=1 writes it anew after a wanted change.</summary>
    [Fact]
    public async Task RulesPage_HasTheSameTable()
    {
        var file = Repo.Path("docs", "rules.md");
        var page = await File.ReadAllTextAsync(file, TestContext.Current.CancellationToken);
        const string first = "<!-- roles -->\n",
            last = "<!-- /roles -->";
        var (from, to) = (page.IndexOf(first, StringComparison.Ordinal) + first.Length, page.IndexOf(last, StringComparison.Ordinal));
        from.ShouldBeGreaterThan(first.Length);
        var wanted = RolesTable();
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            await File.WriteAllTextAsync(file, page = page[..from] + wanted + page[to..], TestContext.Current.CancellationToken);
        page[from..page.IndexOf(last, StringComparison.Ordinal)].ShouldBe(wanted);
    }

    private string RolesTable()
    {
        string[] roles = ["visitor", "member", "trainer", "steward", "keeper"];
        var named = house
            .Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.Metadata.GetMetadata<IEndpointNameMetadata>() is not null)
            .ToDictionary(e => Key($"{e.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0]} /{e.RoutePattern.RawText!.Trim('/')}"));
        var options = house
            .Services.GetRequiredService<Microsoft.Extensions.Options.IOptions<Microsoft.AspNetCore.Authorization.AuthorizationOptions>>()
            .Value;
        var rows = Table
            .Select(t => (Row: Key(t.Key), Roles: t.Value))
            .Where(t => named.ContainsKey(t.Row))
            .OrderBy(t => t.Row.Split(' ')[1], StringComparer.Ordinal)
            .ThenBy(t => t.Row, StringComparer.Ordinal)
            .Select(t =>
            {
                var name = named[t.Row].Metadata.GetMetadata<IEndpointNameMetadata>()!.EndpointName;
                var words = System.Text.RegularExpressions.Regex.Replace(name, "(?<=[a-z])(?=[A-Z])", " ").ToLowerInvariant();
                var required = named[t.Row]
                    .Metadata.GetOrderedMetadata<Microsoft.AspNetCore.Authorization.IAuthorizeData>()
                    .Select(a => a.Policy)
                    .OfType<string>()
                    .SelectMany(p => options.GetPolicy(p)!.Requirements.OfType<VelvetGate.Web.Shared.RoleRequirement>())
                    .ToList();
                var countersigner =
                    t.Roles.Contains("visitor") || required.All(r => r.Roles.Contains(VelvetGate.Core.People.Role.Countersigner));
                return $"| {words} | `{t.Row}` | {string.Join(" | ", roles.Select(r => t.Roles.Contains(r) ? "yes" : ""))} | "
                    + $"{(countersigner ? "yes" : "")} |\n";
            });
        return "| what | request "
            + $"| {string.Join(" | ", roles)} | countersigner |\n|---|---|---|---|---|---|---|---|\n{string.Concat(rows)}";
    }

    [Theory]
    [InlineData("POST /api/gate/ask")]
    [InlineData("POST /api/bookings")]
    public async Task Member_ForSomebodyElse_IsRefused(string row)
    {
        using var member = await house.As("member");
        (await member.Post(row.Split(' ')[1], Questions.Open(WebHouse.At(1, 14)).With("memberId", "m-2"))).Status.ShouldBe(
            HttpStatusCode.Forbidden
        );
    }

    [Fact]
    public async Task ChangingRequest_WithoutTheToken_IsRefused()
    {
        using var api = await house.As("member");
        api.Http.DefaultRequestHeaders.Remove("X-Velvet-Gate");
        var answer = await api.Post("/api/machines/swift/stops", new { reason = "x" });
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Code.ShouldBe("antiforgery");
        (await api.PutIn("<svg/>")).Code.ShouldBe("antiforgery");
    }

    [Fact]
    public async Task Token_OfAnotherPerson_IsRefused()
    {
        using var member = await house.As("member");
        using var steward = await house.As("steward");
        var foreign = (await steward.Get("/api/me")).Body.GetProperty("antiforgeryToken").GetString();
        member.Http.DefaultRequestHeaders.Remove("X-Velvet-Gate");
        member.Http.DefaultRequestHeaders.Add("X-Velvet-Gate", foreign);
        (await member.Post("/api/machines/swift/stops", new { reason = "x" })).Code.ShouldBe("antiforgery");
    }
}
