using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Jovitar.Server.Platform;

/// <summary>Writes typed identities as plain UUID strings.</summary>
internal sealed class TypedIdConverters : JsonConverterFactory
{
    public static bool IsTypedId(Type type) => type.IsValueType && Array.Exists(type.GetInterfaces(), i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(ITypedId<>));

    public override bool CanConvert(Type typeToConvert) => IsTypedId(typeToConvert);

    public override JsonConverter CreateConverter(Type typeToConvert, JsonSerializerOptions options) =>
        (JsonConverter)Activator.CreateInstance(typeof(Converter<>).MakeGenericType(typeToConvert))!;

    sealed class Converter<T> : JsonConverter<T>
        where T : struct, ITypedId<T>
    {
        public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => T.From(reader.GetGuid());

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => writer.WriteStringValue(value.Value);
    }
}

/// <summary>Describes typed identities as UUID strings, and marks what is always there as required, so the client generated from it is exact.</summary>
internal sealed class TypedIdSchemas : IOpenApiSchemaTransformer
{
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
        if (TypedIdConverters.IsTypedId(type))
        {
            schema.Type = JsonSchemaType.String;
            schema.Format = "uuid";
            schema.Properties = null;
            schema.Required = null;
        }
        else if (context.JsonTypeInfo.ElementType is { } element && TypedIdConverters.IsTypedId(element))
        {
            schema.Items = new OpenApiSchema { Type = JsonSchemaType.String, Format = "uuid" };
        }
        else if (schema.Type is { } number && (number.HasFlag(JsonSchemaType.Integer) || number.HasFlag(JsonSchemaType.Number)) && number.HasFlag(JsonSchemaType.String))
        {
            // Numbers may be read from strings, but are never written so.
            schema.Type = number & ~JsonSchemaType.String;
            schema.Pattern = null;
        }

        return Task.CompletedTask;
    }
}

/// <summary>What says of which kind a thing is, is always there.</summary>
internal static class Discriminators
{
    public static void Require(OpenApiDocument document)
    {
        var schemas = document.Components?.Schemas ?? new Dictionary<string, IOpenApiSchema>();
        foreach (var (kind, mapping) in schemas.Values.Select(s => s.Discriminator).Where(d => d is { PropertyName: not null, Mapping: not null }).Select(d => (d!.PropertyName!, d.Mapping!)))
        {
            foreach (var named in mapping.Values.Select(reference => reference.Reference.Id).OfType<string>())
            {
                (schemas[named] as OpenApiSchema)?.Required?.Add(kind);
            }
        }
    }
}
