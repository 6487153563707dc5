using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Formats;

/// <summary>A drawing file as Froe sees it.</summary>
/// <param name="Format">The format, such as "DXF".</param>
/// <param name="Version">The format's version as the file states it, in words.</param>
/// <param name="Encoding">How its text is encoded.</param>
/// <param name="Sheets">The sheets, the one to open first in front.</param>
/// <param name="EntityCounts">How many entities of each type the file holds, blocks counted once.</param>
/// <param name="NotShown">What could not be shown, and why.</param>
public sealed record DrawingFile(
    string Format, string Version, string Encoding, IReadOnlyList<Sheet> Sheets,
    IReadOnlyDictionary<string, int> EntityCounts, IReadOnlyList<NotShown> NotShown);

/// <summary>What a drawing file holds, nothing of it drawn.</summary>
/// <param name="Unit">What one unit of length stands for.</param>
/// <param name="Layers">Names of the layers its table declares.</param>
/// <param name="Blocks">How many blocks it defines.</param>
/// <param name="EntityCounts">How many entities of each type, blocks counted once.</param>
public sealed record DrawingSurvey(
    string Format, string Version, string Encoding, LengthUnit Unit, IReadOnlyList<string> Layers, int Blocks, IReadOnlyDictionary<string, int> EntityCounts);

/// <summary>Why a file could not be read.</summary>
/// <param name="Line">Line of the file, from 1; null when no one line is to blame.</param>
/// <param name="What">What is wrong and what to do, for a person.</param>
public sealed record ReadFault(long? Line, string What)
{
    /// <summary>One line: where, and what.</summary>
    public override string ToString() => Line is { } line ? $"Line {line:N0}: {What}" : What;
}

/// <summary>A drawing or the reason there is none: reading never throws on what a file contains.</summary>
public readonly record struct ReadResult(DrawingFile? Drawing, ReadFault? Fault);

/// <summary>What a reader may spend on one file.</summary>
/// <param name="MostBytes">Longest file.</param>
/// <param name="MostSegments">Most strokes and triangles on all sheets together.</param>
/// <param name="MostDepth">Deepest nesting of blocks.</param>
/// <param name="MostInserts">Most block insertions drawn, arrays counted cell by cell.</param>
/// <param name="MostLeaves">Most sheets.</param>
/// <param name="PageSeconds">Longest that the picture of a page, or its lines, may take.</param>
public sealed record ReadLimits(
    long MostBytes = 1L << 30, int MostSegments = SheetBuilder.UsualMost, int MostDepth = 24, int MostInserts = 2_000_000, int MostLeaves = 500, int PageSeconds = 9);
