using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using NodaTime;
using VelvetGate.Core.Drawings;

namespace VelvetGate.Web.Shared;

/// <summary>NodaTime's types and ids in the OpenAPI document as the strings, places as the numbers that they are sent as.</summary>
public static class OpenApi
{
    public static void Configure(OpenApiOptions options)
    {
        options.CreateSchemaReferenceId = type =>
            Is(Bare(type.Type), typeof(IId<>)) || Is(Bare(type.Type), typeof(INumbers<>))
                ? null
                : OpenApiOptions.CreateDefaultSchemaReferenceId(type);
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                Describe(schema, context.JsonTypeInfo.Type);
                // What a list holds is left out where its type is written by a converter.
                if (context.JsonTypeInfo is { Kind: JsonTypeInfoKind.Enumerable, ElementType: { } of } && schema.Items is null)
                {
                    var item = new OpenApiSchema();
                    if (Describe(item, of))
                        schema.Items = item;
                }
                return Task.CompletedTask;
            }
        );
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info = new OpenApiInfo { Title = "Velvet Gate", Version = "1" };
                document.Servers?.Clear();
                return Task.CompletedTask;
            }
        );
    }

    /// <returns>False for a type that describes itself.</returns>
    private static bool Describe(OpenApiSchema schema, Type type)
    {
        var bare = Bare(type);
        var format =
            bare == typeof(Instant) ? "date-time"
            : bare == typeof(LocalDate) ? "date"
            : bare == typeof(LocalTime) ? "time"
            : null;
        var numbers = Is(bare, typeof(INumbers<>));
        if (format is null && !numbers && !Is(bare, typeof(IId<>)))
            return false;
        schema.Type = (numbers ? JsonSchemaType.Array : JsonSchemaType.String) | (bare == type ? 0 : JsonSchemaType.Null);
        schema.Format = format;
        if (numbers)
            schema.Items = new OpenApiSchema { Type = JsonSchemaType.Number, Format = "double" };
        schema.Properties?.Clear();
        schema.Required?.Clear();
        return true;
    }

    private static Type Bare(Type type) => Nullable.GetUnderlyingType(type) ?? type;

    private static bool Is(Type type, Type generic) =>
        type.IsValueType && type.GetInterfaces().Any(i => i.IsGenericType && i.GetGenericTypeDefinition() == generic);
}
