using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.People;
using VelvetGate.Store.Founding;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Empty">True while the house has no first keeper: then <c>POST /api/set-up</c> makes one.</param>
public sealed record SetUpResponse(bool Empty, IReadOnlyList<PackResponse> Packs, IReadOnlyList<string> Zones);

public sealed record PackResponse(string Id, string Name, string For)
{
    internal static IReadOnlyList<PackResponse> All { get; } = [.. Packs.All.Select(p => new PackResponse(p.Id, p.Name, p.For))];
}

/// <param name="AlsoSteward">In a house of one the keeper is its steward too.</param>
/// <param name="Colours">What each stroke colour of a drawing means, such as <c>"#8a2252": "cut"</c>.</param>
/// <param name="Code">The one-time code that the server wrote on its console: who can read it may found the house.</param>
public sealed record SetUpRequest(
    string? HouseName = null,
    string? Zone = null,
    string? Pack = null,
    string? GivenName = null,
    string? FamilyName = null,
    string? Email = null,
    string? SignInName = null,
    string? Password = null,
    bool? AlsoSteward = null,
    IReadOnlyDictionary<string, string>? Colours = null,
    string? Code = null
);

public sealed record MadeResponse(string Id);

/// <summary>The first step of an empty house. Open to whoever can read the server's console, until somebody has taken it.</summary>
public static class SetUpEndpoints
{
    public static void MapSetUp(this IEndpointRouteBuilder app)
    {
        var setUp = app.MapGroup("/api/set-up").WithTags("Set-up").AllowAnonymous();
        setUp.MapGet("/", Look).WithName("SetUp");
        setUp.MapPost("/", Found).WithName("FoundHouse").ProducesProblem(400).ProducesProblem(409);
    }

    private static async Task<Ok<SetUpResponse>> Look(FoundingOfHouse founding, CancellationToken cancel) =>
        TypedResults.Ok(
            new SetUpResponse(
                await founding.IsEmpty(cancel),
                PackResponse.All,
                [
                    .. DateTimeZoneProviders.Tzdb.Ids.Where(i =>
                        i.Contains('/', StringComparison.Ordinal) && !i.StartsWith("Etc/", StringComparison.Ordinal)
                    ),
                ]
            )
        );

    private static async Task<Results<Created<MadeResponse>, ProblemHttpResult>> Found(
        SetUpRequest request,
        FoundingOfHouse founding,
        FoundingCode code,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var errors = new FieldErrors();
        if (!code.Opens(request.Code))
            errors.Add("code", "That is not the code. The server wrote it where it was started; it is a new one after each start.");
        if (string.IsNullOrWhiteSpace(request.HouseName) || request.HouseName.Length > 100)
            errors.Add("houseName", "Name the house, in at most 100 characters.");
        if (Packs.All.All(p => p.Id != request.Pack))
            errors.Add("pack", "Choose a pack to start from; every value in it can be changed later.");
        if (request.Zone is null || DateTimeZoneProviders.Tzdb.GetZoneOrNull(request.Zone) is null)
            errors.Add("zone", "Choose the time zone, such as Europe/London.");
        var colours = ColourMap.OfHouse(request.Colours);
        if (colours.Refusal is { } badly)
            errors.Add("colours", badly.Text);
        errors.Need("signInName", request.SignInName, "Choose the name you sign in with.");
        if (
            Passwords.Check(
                request.Password,
                request.SignInName,
                request.GivenName,
                request.FamilyName,
                request.Email,
                request.HouseName
            ) is
            { } weak
        )
            errors.Add("password", weak);
        var (keeper, wrong) = PeopleCsv.Check(
            request.GivenName,
            request.FamilyName,
            null,
            "adult",
            Texts.NullIfBlank(request.Email),
            Texts.NullIfBlank(request.SignInName),
            null,
            now.InUtc().Date
        );
        errors.Add(wrong);
        if (errors.Any)
            return errors.Answer();
        var rules = Packs.Start(request.Pack!, request.HouseName!.Trim(), request.Zone!) with { Colours = colours.Value };
        var made = await founding.Found(rules, keeper!, Passwords.Hash(request.Password!), request.AlsoSteward == true, now, cancel);
        return made.Refusal is { } refusal
            ? Problems.Of(refusal)
            : TypedResults.Created($"/api/people/{made.Value}", new MadeResponse(made.Value.Value));
    }
}
