using System.Globalization;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads the colours of a file of materials that OBJ files refer to.</summary>
internal static class ObjMaterials
{
    private const int Most = 10_000;
    private const long MostBytes = 16L << 20;

    /// <summary>Adds the colours of a file by the names of their materials; what is damaged of it is passed over.</summary>
    public static void Read(Stream file, Dictionary<string, ModelColour> to)
    {
        if (file.Length > MostBytes) return;
        using var reader = new StreamReader(file, leaveOpen: true);
        var name = "";
        while (reader.ReadLine() is { } line && to.Count < Most)
        {
            var words = line.Split((char[])[' ', '\t'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
            if (words is ["newmtl", ..]) name = line.Trim()[6..].Trim();
            else if (words is ["Kd", var red, var green, var blue, ..] && Share(red) is { } r && Share(green) is { } g && Share(blue) is { } b)
                to[name] = new ModelColour(Byte(r), Byte(g), Byte(b), to.TryGetValue(name, out var known) ? known.Opacity : 1);
            else if (words is ["d", var covers, ..] && Share(covers) is { } opacity)
                to[name] = (to.TryGetValue(name, out var known) ? known : new ModelColour(200, 200, 200)) with { Opacity = opacity };
        }
    }

    private static double? Share(string word) => double.TryParse(word, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) && double.IsFinite(value) ? Math.Clamp(value, 0, 1) : null;

    private static byte Byte(double share) => (byte)Math.Round(share * 255);
}
