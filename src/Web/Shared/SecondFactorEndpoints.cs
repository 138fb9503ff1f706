using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using QRCoder;
using VelvetGate.Core.People;
using VelvetGate.Store.House;

namespace VelvetGate.Web.Shared;

/// <param name="Since">Null while none is set up.</param>
/// <param name="Spare">Spare codes left.</param>
public sealed record SecondFactorResponse(Instant? Since, int Spare);

/// <param name="Secret">To type into the phone where its camera cannot read.</param>
/// <param name="Uri">For a phone's app, as the picture holds it.</param>
/// <param name="Picture">A PNG as a data address.</param>
public sealed record SecondFactorBegun(string Secret, string Uri, string Picture);

public sealed record SecondFactorCode(string? Code = null);

/// <param name="Codes">Each good once; shown this one time.</param>
public sealed record SpareCodes(IReadOnlyList<string> Codes);

/// <summary>One's own code from a phone: set up, confirmed, taken off; and taken off by a keeper for somebody who lost it.</summary>
public static class SecondFactorEndpoints
{
    public static void MapSecondFactor(this IEndpointRouteBuilder app)
    {
        var mine = app.MapGroup("/api/me/second-factor").WithTags("My account").RequireAuthorization(Policy.SignedIn);
        mine.MapGet("/", Look).WithName("MySecondFactor");
        mine.MapPost("/", Begin).WithName("BeginSecondFactor").RequireRecentSignIn().ProducesProblem(409);
        mine.MapPost("/confirm", Confirm).WithName("ConfirmSecondFactor").ProducesProblem(400);
        mine.MapDelete("/", Remove).WithName("RemoveSecondFactor").RequireRecentSignIn().ProducesProblem(404);
        app.MapDelete("/api/people/{id}/second-factor", TakeOff)
            .WithTags("People")
            .WithName("TakeOffSecondFactor")
            .RequireRecentSignIn()
            .RequireAuthorization(Policy.Keeper)
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    /// <summary>Whoever owes a second factor sets it up first: all but what is urgent is refused, and says so.</summary>
    public static void UseSecondFactor(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                var owed =
                    context.Request.Path.StartsWithSegments("/api")
                    && context.User.Identity is { IsAuthenticated: true }
                    && context.RequestServices.GetRequiredService<CurrentUser>().FactorOwed;
                if (owed && !Open(context.Request))
                {
                    await Problems.Of(RequestProblems.SecondFactorSetUp.Refuse()).ExecuteAsync(context);
                    return;
                }
                await next(context);
            }
        );

    /// <summary>
    /// What setting up takes, signing out, and what nobody may be kept from: the emergency card, stopping a machine, reporting a sheet.
    /// </summary>
    private static bool Open(HttpRequest request) =>
        request.Path.Value is "/api/me" or "/api/house" or "/api/sign-in" or "/api/sign-out" or "/api/me/password/again"
        || request.Path.StartsWithSegments("/api/me/second-factor")
        || (HttpMethods.IsGet(request.Method) && (request.Path.Value == "/api/machines" || EndsWith(request, "/emergency")))
        || (
            HttpMethods.IsPost(request.Method)
            && (EndsWith(request, "/stops") || EndsWith(request, "/stop") || EndsWith(request, "/report"))
        );

    private static bool EndsWith(HttpRequest request, string end) => request.Path.Value?.EndsWith(end, StringComparison.Ordinal) == true;

    private static async Task<Ok<SecondFactorResponse>> Look(CurrentUser user, SecondFactors factors, CancellationToken cancel) =>
        TypedResults.Ok(
            await factors.Of(user.Id, cancel) is { Confirmed: { } since, Spare: var spare }
                ? new SecondFactorResponse(since, spare)
                : new SecondFactorResponse(null, 0)
        );

    private static async Task<Results<Ok<SecondFactorBegun>, ProblemHttpResult>> Begin(
        CurrentUser user,
        SecondFactors factors,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await factors.Begin(user.Id, cancel) is not { } secret)
            return Problems.Of(RequestProblems.SecondFactorSet.Refuse());
        var name = (await house.Rules(clock.GetCurrentInstant(), cancel))?.HouseName ?? "Velvet Gate";
        var uri = $"otpauth://totp/{Uri.EscapeDataString(name)}?secret={secret}&issuer={Uri.EscapeDataString("Velvet Gate")}";
        using var data = QRCodeGenerator.GenerateQrCode(uri, QRCodeGenerator.ECCLevel.M);
        using var picture = new PngByteQRCode(data);
        return TypedResults.Ok(
            new SecondFactorBegun(secret, uri, $"data:image/png;base64,{Convert.ToBase64String(picture.GetGraphic(4))}")
        );
    }

    private static async Task<Results<Ok<SpareCodes>, ProblemHttpResult>> Confirm(
        SecondFactorCode request,
        CurrentUser user,
        SecondFactors factors,
        SignInGuard guard,
        SecurityLog log,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await guard.AddressClosedUntil(http, cancel) is { } until)
            return SignInEndpoints.TooMany(http, until);
        if (
            request.Code is not { Length: > 0 and < 40 } code
            || await factors.Confirm(user.Id, code, user.Session, cancel) is not { } spare
        )
        {
            await guard.AddressFailed(http, cancel);
            return Problems.Of(RequestProblems.SecondFactorCode.Refuse("code"));
        }
        log.SecondFactor(user.Id, "set up");
        return TypedResults.Ok(new SpareCodes(spare));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        CurrentUser user,
        SecondFactors factors,
        SecurityLog log,
        CancellationToken cancel
    )
    {
        if (!await factors.Remove(user.Id, user.Id, cancel))
            return Problems.NotFound("second factor of yours");
        log.SecondFactor(user.Id, "taken off by themselves");
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeOff(
        string id,
        CurrentUser user,
        SecondFactors factors,
        SecurityLog log,
        CancellationToken cancel
    )
    {
        if (SecondFactor.MayTakeOff(id, user.Id) is { } refusal)
            return Problems.Of(refusal);
        if (!await factors.Remove(id, user.Id, cancel))
            return Problems.NotFound("second factor of theirs");
        log.SecondFactor(id, $"taken off by {user.Id}");
        return TypedResults.NoContent();
    }
}
