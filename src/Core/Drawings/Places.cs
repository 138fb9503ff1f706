using System.Text.Json;
using System.Text.Json.Serialization;

namespace VelvetGate.Core.Drawings;

/// <summary>A few numbers that are stored and sent as a short list, so that thousands of them stay small.</summary>
public interface INumbers<TSelf>
    where TSelf : struct, INumbers<TSelf>
{
    /// <summary>Writes them in their order.</summary>
    void Write(Utf8JsonWriter writer);

    /// <exception cref="JsonException">There are too few.</exception>
    static abstract TSelf Read(IReadOnlyList<double> numbers);
}

/// <summary>A place on a drawing, in mm. Stored and sent as [x, y].</summary>
[JsonConverter(typeof(NumbersJson<Place>))]
public readonly record struct Place(double X, double Y) : INumbers<Place>
{
    void INumbers<Place>.Write(Utf8JsonWriter writer)
    {
        writer.WriteNumberValue(X);
        writer.WriteNumberValue(Y);
    }

    static Place INumbers<Place>.Read(IReadOnlyList<double> n) => new(n[0], n[1]);
}

/// <summary>
/// Where two lines run side by side: a place on each, in mm. Stored and sent as [x, y on the one, x, y on the other, 1 within a part,
/// else 0].
/// </summary>
/// <param name="WithinPart">What lies between the two is part of a piece of work, and no waste.</param>
[JsonConverter(typeof(NumbersJson<Gap>))]
public readonly record struct Gap(Place On, Place Other, bool WithinPart) : INumbers<Gap>
{
    /// <summary>How far apart, in mm.</summary>
    [JsonIgnore]
    public double Mm => Math.Sqrt((Other.X - On.X) * (Other.X - On.X) + (Other.Y - On.Y) * (Other.Y - On.Y));

    [JsonIgnore]
    public Place Middle => new((On.X + Other.X) / 2, (On.Y + Other.Y) / 2);

    void INumbers<Gap>.Write(Utf8JsonWriter writer)
    {
        writer.WriteNumberValue(On.X);
        writer.WriteNumberValue(On.Y);
        writer.WriteNumberValue(Other.X);
        writer.WriteNumberValue(Other.Y);
        writer.WriteNumberValue(WithinPart ? 1 : 0);
    }

    static Gap INumbers<Gap>.Read(IReadOnlyList<double> n) => new(new Place(n[0], n[1]), new Place(n[2], n[3]), n[4] > 0);
}

/// <summary>Such numbers as a list in JSON.</summary>
internal sealed class NumbersJson<T> : JsonConverter<T>
    where T : struct, INumbers<T>
{
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType != JsonTokenType.StartArray)
            throw new JsonException("A list of numbers was wanted.");
        var numbers = new List<double>(8);
        while (reader.Read() && reader.TokenType == JsonTokenType.Number)
            numbers.Add(reader.GetDouble());
        try
        {
            return T.Read(numbers);
        }
        catch (ArgumentOutOfRangeException)
        {
            throw new JsonException("There are too few numbers in a list of them.");
        }
    }

    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options)
    {
        writer.WriteStartArray();
        value.Write(writer);
        writer.WriteEndArray();
    }
}
