using System.Text.Json;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Formats;

/// <summary>How forms that are JSON are written.</summary>
public static class FormJson
{
    /// <summary>As the web has it.</summary>
    public static JsonSerializerOptions Options { get; } = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };
}

/// <summary>
/// The form “text” of a sheet: UTF-8 JSON, an array of lines, each an array of its words and six numbers in the sheet's own coordinates:
/// x, y where it begins; x, y from there to its end; x, y across it, as high as its letters.
/// </summary>
public static class WrittenForm
{
    /// <summary>Writes the lines of a sheet.</summary>
    public static void Write(IEnumerable<WrittenRun> lines, Stream to)
    {
        ArgumentNullException.ThrowIfNull(lines);
        using var json = new Utf8JsonWriter(to);
        json.WriteStartArray();
        foreach (var line in lines)
        {
            // What stands nowhere cannot be found there.
            if (!double.IsFinite(line.At.X + line.At.Y + line.Along.X + line.Along.Y + line.Up.X + line.Up.Y)) continue;
            json.WriteStartArray();
            json.WriteStringValue(line.Text);
            foreach (var number in (double[])[line.At.X, line.At.Y, line.Along.X, line.Along.Y, line.Up.X, line.Up.Y]) json.WriteNumberValue(Math.Round(number, 4));
            json.WriteEndArray();
        }
        json.WriteEndArray();
    }

    /// <summary>The lines of a form.</summary>
    public static IReadOnlyList<WrittenRun> Read(Stream from)
    {
        using var json = JsonDocument.Parse(from);
        return [.. json.RootElement.EnumerateArray().Select(l => new WrittenRun(
            l[0].GetString() ?? "", new(l[1].GetDouble(), l[2].GetDouble()), new(l[3].GetDouble(), l[4].GetDouble()), new(l[5].GetDouble(), l[6].GetDouble())))];
    }

    /// <summary>The lines of a drawing's sheet.</summary>
    public static IEnumerable<WrittenRun> Of(Sheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        foreach (var text in sheet.Texts)
        {
            var corners = text.Corners();
            yield return new WrittenRun(text.Text, corners[0], new(corners[1].X - corners[0].X, corners[1].Y - corners[0].Y), new(corners[2].X - corners[0].X, corners[2].Y - corners[0].Y));
        }
    }
}
