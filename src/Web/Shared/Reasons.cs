using Microsoft.AspNetCore.Http.HttpResults;

namespace VelvetGate.Web.Shared;

/// <summary>What was made, by its id.</summary>
public sealed record Made(Guid Id);

public sealed record ReasonRequest(string? Reason = null);

/// <summary>A steward's word to end a hold was noted; it still holds.</summary>
public sealed record HoldResponse(string Text)
{
    public static readonly HoldResponse Noted = new("Noted. A steward set this: it holds until they, or one more steward, say so too.");
}

/// <summary>The written reason that every act on somebody needs.</summary>
internal static class Reasons
{
    public static ProblemHttpResult? Check(string? reason) => WrittenReason.Wrong(reason) is { } wrong ? Problems.Of(wrong) : null;

    /// <returns>What is wrong with it; null when it serves.</returns>
    public static string? Wrong(string? reason) => WrittenReason.Wrong(reason)?.Text;
}
