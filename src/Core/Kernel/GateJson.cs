using System.Text.Json;
using System.Text.Json.Serialization;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace VelvetGate.Core.Kernel;

/// <summary>
/// How facts, asks and answers are written as JSON: camel case, enums as camel-case words, NodaTime's ISO forms, strict numbers.
/// </summary>
public static class GateJson
{
    public static JsonSerializerOptions Options { get; } = Configure(new JsonSerializerOptions(JsonSerializerDefaults.Web));

    public static JsonSerializerOptions Configure(JsonSerializerOptions options)
    {
        options.NumberHandling = JsonNumberHandling.Strict;
        options.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull;
        if (!options.Converters.OfType<JsonStringEnumConverter>().Any())
            options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
        return options;
    }

    public static string Write<T>(T value) => JsonSerializer.Serialize(value, Options);

    /// <exception cref="JsonException">The text is not what was written.</exception>
    public static T Read<T>(string json) => JsonSerializer.Deserialize<T>(json, Options) ?? throw new JsonException("null");
}
