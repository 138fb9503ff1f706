using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Kernel;

/// <summary>An id of any kind.</summary>
public interface IId
{
    /// <summary>As it is stored and sent.</summary>
    string Value { get; }
}

/// <summary>
/// An id of one kind of thing. Text becomes an id where its kind is named, by a parameter or a property; an id of one
/// kind is never taken for one of another, nor for any text: <see cref="IId.Value"/> says where it is meant as text.
/// </summary>
public interface IId<TSelf> : IId
    where TSelf : struct, IId<TSelf>
{
    static abstract TSelf From(string value);
}

/// <summary>A person of the house, such as <c>m-4</c>.</summary>
[JsonConverter(typeof(IdJson<PersonId>))]
public readonly record struct PersonId(string Value) : IId<PersonId>, IComparable<PersonId>
{
    public static PersonId From(string value) => new(value);

    public static implicit operator PersonId(string value) => new(value);

    public int CompareTo(PersonId other) => string.CompareOrdinal(Value, other.Value);

    public override string ToString() => Value;
}

/// <summary>A laser cutter, such as <c>heron</c>.</summary>
[JsonConverter(typeof(IdJson<MachineId>))]
public readonly record struct MachineId(string Value) : IId<MachineId>, IComparable<MachineId>
{
    public static MachineId From(string value) => new(value);

    public static implicit operator MachineId(string value) => new(value);

    public int CompareTo(MachineId other) => string.CompareOrdinal(Value, other.Value);

    public override string ToString() => Value;
}

/// <summary>A material of the house's lists, such as <c>birch-ply-laser</c>.</summary>
[JsonConverter(typeof(IdJson<MaterialId>))]
public readonly record struct MaterialId(string Value) : IId<MaterialId>, IComparable<MaterialId>
{
    public static MaterialId From(string value) => new(value);

    public static implicit operator MaterialId(string value) => new(value);

    public int CompareTo(MaterialId other) => string.CompareOrdinal(Value, other.Value);

    public override string ToString() => Value;
}

/// <summary>What is written on the tag of one sheet, such as <c>S-0097</c>.</summary>
[JsonConverter(typeof(IdJson<SheetTag>))]
public readonly record struct SheetTag(string Value) : IId<SheetTag>, IComparable<SheetTag>
{
    public static SheetTag From(string value) => new(value);

    public static implicit operator SheetTag(string value) => new(value);

    public int CompareTo(SheetTag other) => string.CompareOrdinal(Value, other.Value);

    public override string ToString() => Value;
}

/// <summary>Ids out of text that may be missing.</summary>
public static class Ids
{
    /// <returns>Null where there is no text.</returns>
    public static T? From<T>(string? value)
        where T : struct, IId<T> => value is null ? null : T.From(value);
}

/// <summary>An id is a plain string in JSON.</summary>
public sealed class IdJson<T> : JsonConverter<T>
    where T : struct, IId<T>
{
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        T.From(reader.GetString() ?? throw new JsonException("An id is text."));

    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteStringValue(value.Value);

    public override T ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        T.From(reader.GetString()!);

    public override void WriteAsPropertyName(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
        writer.WritePropertyName(value.Value);
}
