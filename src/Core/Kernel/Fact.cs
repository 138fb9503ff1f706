using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Kernel;

/// <summary>How well something is known.</summary>
public enum Knowledge
{
    /// <summary>
    /// Nobody has said, or what was said is stale or contradictory. The default, so that a forgotten fact never reads as clear.
    /// </summary>
    Unknown,
    Known,

    /// <summary>Will be known later, such as a rota not yet written.</summary>
    Foreseeable,

    /// <summary>Can only be read at the machine.</summary>
    OnlyAtMachine,
}

/// <summary>A value with how well it is known. Unknown is a value of its own and never reads as clear.</summary>
[JsonConverter(typeof(FactJson))]
public readonly record struct Fact<T>
{
    private readonly T? _value;

    internal Fact(Knowledge knowledge, T? value)
    {
        Knowledge = knowledge;
        _value = value;
    }

    public Knowledge Knowledge { get; }

    public bool IsKnown => Knowledge == Knowledge.Known;

    /// <exception cref="InvalidOperationException">The fact is not known: the caller did not look.</exception>
    public T Value => IsKnown ? _value! : throw new InvalidOperationException($"A fact that is {Knowledge} was read as known.");

    public static implicit operator Fact<T>(T value) => new(Knowledge.Known, value);
}

public static class Fact
{
    public static Fact<T> Known<T>(T value) => new(Knowledge.Known, value);

    public static Fact<T> Unknown<T>() => default;

    public static Fact<T> OnlyAtMachine<T>() => new(Knowledge.OnlyAtMachine, default);

    public static Fact<T> Foreseeable<T>() => new(Knowledge.Foreseeable, default);
}

/// <summary>Writes a fact as <c>{"known":value}</c> or <c>{"not":"onlyAtMachine"}</c>.</summary>
internal sealed class FactJson : JsonConverterFactory
{
    public override bool CanConvert(Type typeToConvert) =>
        typeToConvert.IsGenericType && typeToConvert.GetGenericTypeDefinition() == typeof(Fact<>);

    public override JsonConverter CreateConverter(Type typeToConvert, JsonSerializerOptions options) =>
        (JsonConverter)Activator.CreateInstance(typeof(Converter<>).MakeGenericType(typeToConvert.GetGenericArguments()))!;

    private sealed class Converter<T> : JsonConverter<Fact<T>>
    {
        public override Fact<T> Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            using var document = JsonDocument.ParseValue(ref reader);
            if (document.RootElement.TryGetProperty("known", out var known))
                return new Fact<T>(Knowledge.Known, known.Deserialize<T>(options));
            return document.RootElement.TryGetProperty("not", out var not)
                ? new Fact<T>(not.Deserialize<Knowledge>(options), default)
                : default;
        }

        public override void Write(Utf8JsonWriter writer, Fact<T> value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            writer.WritePropertyName(value.IsKnown ? "known" : "not");
            if (value.IsKnown)
                JsonSerializer.Serialize(writer, value.Value, options);
            else
                JsonSerializer.Serialize(writer, value.Knowledge, options);
            writer.WriteEndObject();
        }
    }
}
