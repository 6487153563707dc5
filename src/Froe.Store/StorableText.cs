using System.Text.Json;
using System.Text.Json.Serialization;

namespace Froe.Store;

/// <summary>Raised before anything is sent: PostgreSQL keeps no U+0000, and what it refuses only when a statement is bound costs the connection.</summary>
public sealed class UnstorableTextException() : Exception("A text holds a character that cannot be kept (U+0000). Take it out and try again.");

/// <summary>The one look at text on its way into the database.</summary>
/// <param name="replaces">Whether U+FFFD stands where something cannot be kept, as for what a file says: nobody can take it out of that.</param>
internal sealed class StorableText(bool replaces = false) : JsonConverter<string>
{
    /// <summary>The value, unless it is text that cannot be kept.</summary>
    /// <exception cref="UnstorableTextException">It cannot.</exception>
    public static object? Checked(object? value)
    {
        if (value is string text) Demand(text);
        else if (value is string[] texts)
            foreach (var one in texts) Demand(one);
        return value;
    }

    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String ? reader.GetString() : throw new JsonException();

    public override string ReadAsPropertyName(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.GetString()!;

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options)
    {
        writer.WriteStringValue(Kept(value));
    }

    public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options)
    {
        writer.WritePropertyName(Kept(value));
    }

    private string Kept(string value)
    {
        if (replaces) return value.Replace('\0', '\uFFFD');
        Demand(value);
        return value;
    }

    private static void Demand(string? text)
    {
        if (text?.Contains('\0', StringComparison.Ordinal) == true) throw new UnstorableTextException();
    }
}
