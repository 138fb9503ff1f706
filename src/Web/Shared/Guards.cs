using Microsoft.AspNetCore.Antiforgery;
using Npgsql;
using VelvetGate.Core.Drawings;

namespace VelvetGate.Web.Shared;

/// <summary>What stands before every endpoint: security headers, antiforgery, and errors as problem details.</summary>
public static class Guards
{
    private const string Csp =
        "default-src 'self'; img-src 'self' data: blob:; style-src 'self'; script-src 'self'; font-src 'self'; connect-src 'self'; "
        + "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public static void UseSecurityHeaders(this WebApplication app)
    {
        var address = app.Services.GetRequiredService<HouseAddress>();
        app.Use((context, next) => Headed(address, context, next));
    }

    private static Task Headed(HouseAddress address, HttpContext context, RequestDelegate next)
    {
        var headers = context.Response.Headers;
        if (
            context.Request.Path.Value?.Contains('\0') == true
            || context.Request.QueryString.Value?.Contains("%00", StringComparison.Ordinal) == true
        )
            return Problems.Of(RequestProblems.AddressNul.Refuse()).ExecuteAsync(context);
        // As the answer starts: one that failed halfway has lost what was set before.
        context.Response.OnStarting(() =>
        {
            // A file from outside has a stricter one of its own.
            if (headers.ContentSecurityPolicy.Count == 0)
                headers.ContentSecurityPolicy = Csp;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "same-origin";
            headers["Permissions-Policy"] = "camera=(self), geolocation=(), microphone=(), payment=(), usb=()";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            if (address.IsSecure)
                headers.StrictTransportSecurity = "max-age=31536000";
            if (headers.CacheControl.Count == 0 && context.Request.Path.StartsWithSegments("/api"))
                headers.CacheControl = "no-store";
            return Task.CompletedTask;
        });
        return next(context);
    }

    /// <summary>Every state-changing request of a signed-in person carries the token that <c>sign-in</c> and <c>me</c> give out.</summary>
    public static void UseAntiforgeryHeader(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                var changes = !HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method);
                var open =
                    context.Request.Path.StartsWithSegments("/api/sign-in") || context.User.Identity is not { IsAuthenticated: true };
                if (changes && !open && !await context.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context))
                {
                    await Problems.Of(RequestProblems.Antiforgery.Refuse()).ExecuteAsync(context);
                    return;
                }
                await next(context);
            }
        );

    /// <summary>Expected failures become their problem; anything else a plain 500 with a trace id.</summary>
    public static void UseProblems(this WebApplication app)
    {
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                // What a caller got wrong is no failure of the server: it is answered, and not logged as one.
                SuppressDiagnosticsCallback = failed =>
                    failed.Exception
                        is BadHttpRequestException
                            or InvalidDataException
                            or DrawingsBusyException
                            or OperationCanceledException,
                ExceptionHandler = async context =>
                {
                    var error = context.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>()?.Error;
                    var problem = error switch
                    {
                        _ when IsTooLarge(error) => TooLarge(),
                        BadHttpRequestException bad => Problems.Of(RequestProblems.RequestMalformed.Refuse(null, Malformed(bad))),
                        InvalidDataException => Problems.Of(RequestProblems.RequestFormMalformed.Refuse()),
                        NpgsqlException or TimeoutException when IsAway(error) => Problems.Of(RequestProblems.DatabaseAway.Refuse()),
                        PostgresException
                        {
                            SqlState: PostgresErrorCodes.ExclusionViolation
                                or PostgresErrorCodes.UniqueViolation
                                or PostgresErrorCodes.DeadlockDetected
                                or PostgresErrorCodes.SerializationFailure
                        } => Problems.Of(CommonProblems.StaleAtOnce.Refuse()),
                        PostgresException { SqlState: PostgresErrorCodes.DiskFull } => Problems.Of(RequestProblems.DiskFull.Refuse()),
                        DrawingsBusyException busy => Problems.Of(RequestProblems.BenchBusy.Refuse(null, busy.Message)),
                        PostgresException { SqlState: ['2', '2', ..] } => Problems.Of(RequestProblems.RequestValue.Refuse()),
                        _ => Problems.Of(RequestProblems.Unexpected.Refuse(null, context.TraceIdentifier)),
                    };
                    if (problem.StatusCode == 503)
                        context.Response.Headers.RetryAfter = "5";
                    if (problem.StatusCode == 429)
                        context.Response.Headers.RetryAfter = DrawingsBusyException.RetryAfterSeconds.ToString(
                            System.Globalization.CultureInfo.InvariantCulture
                        );
                    await problem.ExecuteAsync(context);
                },
            }
        );
        app.UseStatusCodePages(async pages =>
        {
            var status = pages.HttpContext.Response.StatusCode;
            if (!pages.HttpContext.Request.Path.StartsWithSegments("/api"))
                return;
            var refusal = status switch
            {
                401 => RequestProblems.SignInNeeded.Refuse(),
                403 => RequestProblems.Forbidden.Refuse(),
                404 => RequestProblems.NothingHere.Refuse(),
                405 => RequestProblems.Method.Refuse(),
                413 => DrawingsProblems.UploadTooLarge.Refuse(null, DrawingLimits.Bytes / 1024 / 1024),
                415 => RequestProblems.ContentType.Refuse(),
                _ => RequestProblems.Error.Refuse(),
            };
            if (status == 403)
                pages
                    .HttpContext.RequestServices.GetRequiredService<SecurityLog>()
                    .Forbidden(
                        pages.HttpContext.User.FindFirst(System.Security.Claims.ClaimTypes.NameIdentifier)?.Value,
                        pages.HttpContext
                    );
            await Problems.Of(refusal, status: status).ExecuteAsync(pages.HttpContext);
        });
    }

    private static Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult TooLarge() =>
        Problems.Of(DrawingsProblems.UploadTooLarge.Refuse(null, DrawingLimits.Bytes / 1024 / 1024));

    /// <summary>Kestrel's own limit, or the form reader's, which comes wrapped in a 400.</summary>
    private static bool IsTooLarge(Exception? error) =>
        error switch
        {
            null => false,
            BadHttpRequestException { StatusCode: 413 } => true,
            InvalidDataException data when data.Message.Contains("length limit", StringComparison.OrdinalIgnoreCase) => true,
            _ => IsTooLarge(error.InnerException),
        };

    private static string Malformed(BadHttpRequestException bad)
    {
        var json = bad.InnerException as System.Text.Json.JsonException;
        return json?.Path is { Length: > 1 } path
            ? $"The field {path.TrimStart('$', '.')} cannot be read."
            : "The request body cannot be read as JSON. Check it and send it again.";
    }

    private static bool IsAway(Exception error) =>
        error is TimeoutException
        || error
            is NpgsqlException
            {
                InnerException: System.Net.Sockets.SocketException or IOException or TimeoutException or System.IO.EndOfStreamException
            }
        || error
            is PostgresException
            {
                SqlState: PostgresErrorCodes.AdminShutdown
                    or PostgresErrorCodes.CrashShutdown
                    or PostgresErrorCodes.CannotConnectNow
                    or PostgresErrorCodes.TooManyConnections
                    or PostgresErrorCodes.ObjectNotInPrerequisiteState
            }
        || (error is NpgsqlException and not PostgresException);
}
