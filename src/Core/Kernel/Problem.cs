using System.Globalization;

namespace VelvetGate.Core.Kernel;

/// <summary>What sort of refusal it is. Whoever answers a request has one mapping from here to a status of HTTP.</summary>
public enum ProblemKind
{
    /// <summary>What was sent cannot be so: somebody types it anew.</summary>
    Invalid,

    /// <summary>Somebody else may do it.</summary>
    Forbidden,
    NotFound,

    /// <summary>It was there, and will not be again.</summary>
    Gone,

    /// <summary>Not as things are now.</summary>
    Conflict,

    /// <summary>It was changed since the person read it.</summary>
    Stale,

    /// <summary>It was understood, and cannot be carried out.</summary>
    Unprocessable,

    /// <summary>More often than is taken from one person.</summary>
    TooMany,

    /// <summary>No room is left to keep it.</summary>
    Full,

    /// <summary>Not signed in, or not by all that it takes.</summary>
    Unauthenticated,
    TooLarge,

    /// <summary>A kind of file or content that is not taken.</summary>
    Unsupported,

    /// <summary>An address that does not take that method.</summary>
    Method,

    /// <summary>For a moment.</summary>
    Away,

    /// <summary>A bug.</summary>
    Unexpected,
}

/// <summary>One code under which something is refused. Each room has its list; docs/problems.md holds them all.</summary>
/// <param name="Code">Stable, dotted, lower camel case: <c>signOff.self</c>. Never renamed: others rely on it.</param>
/// <param name="Text">One plain sentence that says what to do; <c>{0}</c> stands for what is named.</param>
public sealed record Problem(string Code, ProblemKind Kind, string Text)
{
    /// <param name="field">The input field at fault, as the API names it; null when it is not one field.</param>
    /// <param name="named">What stands in the sentence for <c>{0}</c>, <c>{1}</c>.</param>
    /// <exception cref="FormatException">The sentence names more than was given: a bug.</exception>
    public Refusal Refuse(string? field = null, params object?[] named) =>
        new(this, string.Format(CultureInfo.InvariantCulture, Text, named), field);
}
