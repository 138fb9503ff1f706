namespace VelvetGate.Core.Kernel;

/// <summary>Why something was refused, in words a person can act on.</summary>
/// <param name="Problem">Under which code, and of what kind.</param>
/// <param name="Text">One plain sentence that says what to do.</param>
/// <param name="Field">The input field at fault, as the API names it; null when it is not one field.</param>
public sealed record Refusal(Problem Problem, string Text, string? Field = null)
{
    /// <summary>Stable, dotted, lower camel case: <c>signOff.self</c>.</summary>
    public string Code => Problem.Code;
}

/// <summary>A value, or the reason there is none. Expected failures are values; exceptions are for bugs.</summary>
public readonly struct Result<T>
{
    private readonly T? _value;

    private Result(T? value, Refusal? refusal)
    {
        _value = value;
        Refusal = refusal;
    }

    /// <summary>Null when there is a value.</summary>
    public Refusal? Refusal { get; }

    public bool IsOk => Refusal is null;

    /// <exception cref="InvalidOperationException">There is a refusal instead: the caller did not look.</exception>
    public T Value => Refusal is null ? _value! : throw new InvalidOperationException(Refusal.Text);

    public static implicit operator Result<T>(T value) => new(value, null);

    public static implicit operator Result<T>(Refusal refusal) => new(default, refusal);
}
