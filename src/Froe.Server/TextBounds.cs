using System.ComponentModel.DataAnnotations;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Froe.Server;

/// <summary>
/// Every text that a request brings has a bound: what its property states, or <see cref="Usual"/>. It is kept at the one place where
/// requests are read, and told in the server's description of itself.
/// </summary>
internal static class TextBounds
{
    /// <summary>Most characters where nothing else is stated.</summary>
    public const int Usual = 4000;

    /// <summary>Most characters of anything after the question mark of an address.</summary>
    public const int InAddress = 2000;

    /// <summary>Looks at the texts of everything that is read from a request.</summary>
    public static void Keep(JsonTypeInfo type)
    {
        var before = type.OnDeserialized;
        if (type.Kind == JsonTypeInfoKind.Object && type.Properties.Where(p => p.PropertyType == typeof(string) && p.Get is not null).Select(p => (p.Name, p.Get, Most: BoundOf(p))).ToArray() is { Length: > 0 } texts)
            type.OnDeserialized = value =>
            {
                before?.Invoke(value);
                foreach (var (name, get, most) in texts) Demand(name, get!(value) as string, most);
            };
        else if (type.Kind == JsonTypeInfoKind.Enumerable && type.ElementType == typeof(string))
            type.OnDeserialized = value =>
            {
                before?.Invoke(value);
                foreach (var text in (IEnumerable<string?>)value) Demand("", text, Usual);
            };
        else if (type.Kind == JsonTypeInfoKind.Dictionary && type.ElementType == typeof(string))
            type.OnDeserialized = value =>
            {
                before?.Invoke(value);
                foreach (var (name, text) in (IEnumerable<KeyValuePair<string, string?>>)value)
                {
                    Demand("", name, Usual);
                    Demand(name, text, Usual);
                }
            };
    }

    /// <summary>States the bounds of all texts that requests can bring.</summary>
    public static Task DescribeAsync(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken stop)
    {
        var seen = new HashSet<IOpenApiSchema>();
        foreach (var operation in document.Paths.Values.Where(p => p.Operations is not null).SelectMany(p => p.Operations!.Values))
        {
            foreach (var media in operation.RequestBody?.Content?.Values ?? []) State(media.Schema, seen);
            foreach (var parameter in operation.Parameters ?? [])
                if (parameter.Schema is OpenApiSchema { Type: { } type, Format: null, MaxLength: null } schema && type.HasFlag(JsonSchemaType.String)) schema.MaxLength = InAddress;
        }
        return Task.CompletedTask;
    }

    /// <summary>Refuses an address with more after its question mark than anything here asks for.</summary>
    public static Task DemandAddress(HttpContext context, RequestDelegate next)
    {
        foreach (var (name, values) in context.Request.Query)
            if (name.Length > InAddress || values.Any(v => v?.Length > InAddress)) throw Refused.Invalid("too-long", string.Create(CultureInfo.InvariantCulture, $"What is asked for may have {InAddress:N0} characters."));
        return next(context);
    }

    private static int BoundOf(JsonPropertyInfo property) =>
        property.AttributeProvider?.GetCustomAttributes(typeof(MaxLengthAttribute), true).OfType<MaxLengthAttribute>().FirstOrDefault()?.Length ?? Usual;

    private static void Demand(string name, string? text, int most)
    {
        if (text is null || text.Length <= most) return;
        var fault = new JsonException();
        fault.Data["why"] = string.Create(CultureInfo.InvariantCulture, $"{(name.Length > 0 ? $"“{name}”" : "This text")} may have {most:N0} characters and has {text.Length:N0}. Shorten it and try again.");
        throw fault;
    }

    private static void State(IOpenApiSchema? given, HashSet<IOpenApiSchema> seen)
    {
        var schema = given is OpenApiSchemaReference reference ? reference.RecursiveTarget : given as OpenApiSchema;
        if (schema is null || !seen.Add(schema)) return;
        if (schema.Type?.HasFlag(JsonSchemaType.String) == true && schema.Format is null && schema.Enum is not { Count: > 0 } && schema.Const is null) schema.MaxLength ??= Usual;
        foreach (var inner in (schema.Properties?.Values ?? []).Concat(schema.AnyOf ?? []).Concat(schema.OneOf ?? []).Concat(schema.AllOf ?? []).Append(schema.Items).Append(schema.AdditionalProperties)) State(inner, seen);
    }
}
