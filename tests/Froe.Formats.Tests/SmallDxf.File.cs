using System.Text;

namespace Froe.Formats.Tests;

/// <summary>Writing drawings of a few lines.</summary>
internal static partial class SmallDxf
{
    public static byte[] FileOf(string entities, string header = "", string tables = "", string blocks = "", string? objects = null) => Encoding.Latin1.GetBytes(
        Section("HEADER", header) + Section("TABLES", tables) + Section("BLOCKS", blocks) + Section("ENTITIES", entities) + (objects is null ? "" : Section("OBJECTS", objects)) + "0\nEOF\n");

    private static string Section(string name, string pairs) =>
        $"0\nSECTION\n2\n{name}\n{string.Concat(pairs.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(l => l.Split(' ', 2)).Select(p => $"{p[0]}\n{(p.Length > 1 ? p[1] : "")}\n"))}0\nENDSEC\n";
}
