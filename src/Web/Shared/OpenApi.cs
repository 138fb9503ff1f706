using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using NodaTime;

namespace VelvetGate.Web.Shared;

/// <summary>NodaTime's types in the OpenAPI document as the strings they are sent as.</summary>
public static class OpenApi
{
    public static void Configure(OpenApiOptions options)
    {
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
                var format =
                    type == typeof(Instant) ? "date-time"
                    : type == typeof(LocalDate) ? "date"
                    : type == typeof(LocalTime) ? "time"
                    : null;
                if (format is null)
                    return Task.CompletedTask;
                schema.Type =
                    JsonSchemaType.String | (Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) is null ? 0 : JsonSchemaType.Null);
                schema.Format = format;
                schema.Properties?.Clear();
                schema.Required?.Clear();
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
}
