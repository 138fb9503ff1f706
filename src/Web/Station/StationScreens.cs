using System.Security.Cryptography;
using Microsoft.AspNetCore.Authorization;
using VelvetGate.Store.Station;

namespace VelvetGate.Web.Station;

/// <summary>Whether this request comes from a screen that a keeper enrolled at the machine it asks about.</summary>
public sealed class StationScreens(IHttpContextAccessor http, DeviceStore devices)
{
    private const string Cookie = "velvetgate-screen";
    private static readonly TimeSpan Kept = TimeSpan.FromDays(400);
    private bool? _stands;

    public async Task<bool> StandsHere()
    {
        if (_stands is { } known)
            return known;
        var context = http.HttpContext;
        return (
            _stands =
                context?.Request.RouteValues["machine"] is string machine
                && context.Request.Cookies[Cookie]?.Split('.', 2) is [var id, { Length: > 0 and < 200 } secret]
                && Guid.TryParseExact(id, "N", out var device)
                && await devices.StandsAt(machine, device, secret, context.RequestAborted)
        ).Value;
    }

    public static string NewSecret() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));

    /// <summary>From now on this browser is that screen.</summary>
    public static void Mark(HttpContext context, Guid device, string secret) =>
        context.Response.Cookies.Append(
            Cookie,
            $"{device:N}.{secret}",
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = context.Request.IsHttps,
                MaxAge = Kept,
                IsEssential = true,
            }
        );
}

/// <summary>Somebody who is signed in, or a screen that stands at the machine.</summary>
public sealed class AtMachineRequirement : IAuthorizationRequirement;

public sealed class AtMachineHandler(StationScreens screens) : AuthorizationHandler<AtMachineRequirement>
{
    protected override async Task HandleRequirementAsync(AuthorizationHandlerContext context, AtMachineRequirement requirement)
    {
        if (context.User.Identity is { IsAuthenticated: true } || await screens.StandsHere())
            context.Succeed(requirement);
    }
}
