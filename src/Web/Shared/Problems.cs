using Microsoft.AspNetCore.Http.HttpResults;

namespace VelvetGate.Web.Shared;

/// <summary>Problem details (RFC 9457) with a stable code.</summary>
public static class Problems
{
    public static ProblemHttpResult Of(int status, string code, string text, object? extra = null)
    {
        var extensions = new Dictionary<string, object?> { ["code"] = code };
        if (extra is not null)
        {
            foreach (var property in extra.GetType().GetProperties())
                extensions[char.ToLowerInvariant(property.Name[0]) + property.Name[1..]] = property.GetValue(extra);
        }
        return TypedResults.Problem(detail: text, statusCode: status, title: Title(status), extensions: extensions);
    }

    /// <summary>A field at fault: <c>errors</c> names it.</summary>
    public static ProblemHttpResult Field(string code, IReadOnlyDictionary<string, string[]> errors) =>
        Of(StatusCodes.Status400BadRequest, code, string.Join(" ", errors.SelectMany(e => e.Value)), new { errors });

    public static ProblemHttpResult Of(Refusal refusal, int status = StatusCodes.Status400BadRequest) =>
        refusal.Field is { } field
            ? Of(status, refusal.Code, refusal.Text, new { errors = new Dictionary<string, string[]> { [field] = [refusal.Text] } })
            : Of(status, refusal.Code, refusal.Text);

    public static ProblemHttpResult NotFound(string what) => Of(StatusCodes.Status404NotFound, "notFound", $"There is no such {what}.");

    public static string Title(int status) =>
        status switch
        {
            400 => "The request cannot be read",
            401 => "Sign in first",
            403 => "Not yours to do",
            404 => "Not found",
            405 => "Not here",
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

/// <summary>Collects what is wrong with each field.</summary>
public sealed class FieldErrors
{
    private readonly Dictionary<string, List<string>> _errors = [];

    public bool Any => _errors.Count > 0;

    public void Add(string field, string text)
    {
        if (!_errors.TryGetValue(field, out var list))
            _errors[field] = list = [];
        list.Add(text);
    }

    public void Add(IEnumerable<Refusal> refusals)
    {
        foreach (var refusal in refusals)
            Add(refusal.Field ?? "form", refusal.Text);
    }

    public ProblemHttpResult Answer(string code = "request.invalid") =>
        Problems.Field(code, _errors.ToDictionary(e => e.Key, e => e.Value.ToArray()));
}
