using Microsoft.AspNetCore.Http.HttpResults;
using VelvetGate.Core.Gating;

namespace VelvetGate.Web.Shared;

/// <summary>Problem details (RFC 9457) with a stable code.</summary>
public static class Problems
{
    /// <param name="extra">What a client needs beside the words; each property stands in the answer by its name.</param>
    /// <param name="status">The status that the server has chosen already, if it has.</param>
    public static ProblemHttpResult Of(Refusal refusal, object? extra = null, int? status = null)
    {
        var extensions = new Dictionary<string, object?> { ["code"] = refusal.Code };
        if (refusal.Field is { } field)
            extensions["errors"] = new Dictionary<string, string[]> { [field] = [refusal.Text] };
        foreach (var property in extra?.GetType().GetProperties() ?? [])
            extensions[char.ToLowerInvariant(property.Name[0]) + property.Name[1..]] = property.GetValue(extra);
        var code = status ?? Status(refusal.Problem.Kind);
        return TypedResults.Problem(detail: refusal.Text, statusCode: code, title: Title(code), extensions: extensions);
    }

    /// <summary>Fields at fault: <c>errors</c> names them.</summary>
    public static ProblemHttpResult Fields(IReadOnlyDictionary<string, string[]> errors) =>
        Of(new Refusal(RequestProblems.RequestInvalid, string.Join(" ", errors.SelectMany(e => e.Value))), new { errors });

    public static ProblemHttpResult NotFound(string what) => Of(CommonProblems.NotFound.Refuse(null, what));

    /// <summary>Nobody has founded the house yet.</summary>
    public static ProblemHttpResult NoRules() => Of(GateProblems.HouseNoRulesYet.Refuse());

    /// <summary>The one mapping from what sort of refusal it is to a status of HTTP (RFC 9110; 429 RFC 6585, 507 RFC 4918).</summary>
    public static int Status(ProblemKind kind) =>
        kind switch
        {
            ProblemKind.Invalid => 400,
            ProblemKind.Unauthenticated => 401,
            ProblemKind.Forbidden => 403,
            ProblemKind.NotFound => 404,
            ProblemKind.Gone => 410,
            ProblemKind.Method => 405,
            ProblemKind.Conflict or ProblemKind.Stale => 409,
            ProblemKind.TooLarge => 413,
            ProblemKind.Unsupported => 415,
            ProblemKind.Unprocessable => 422,
            ProblemKind.TooMany => 429,
            ProblemKind.Away => 503,
            ProblemKind.Full => 507,
            ProblemKind.Unexpected => 500,
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "Not a kind of refusal."),
        };

    public static string Title(int status) =>
        status switch
        {
            400 => "The request cannot be read",
            401 => "Sign in first",
            403 => "Not yours to do",
            404 => "Not found",
            405 => "Not here",
            410 => "Not any more",
            409 => "Somebody was faster",
            413 => "Too large",
            415 => "Not this kind of content",
            422 => "The gate does not open",
            429 => "Too many tries",
            507 => "No room left",
            503 => "The house is away for a moment",
            _ => "Something went wrong",
        };
}
