using System.Diagnostics;
using System.Globalization;
using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>What a reader of models made of a file.</summary>
/// <param name="Scene">The model.</param>
/// <param name="Version">The format's version as the file states it, in words.</param>
/// <param name="Counts">How many of each thing the file holds.</param>
/// <param name="NotShown">What could not be shown.</param>
internal sealed record ReadModel(Scene Scene, string Version, IReadOnlyDictionary<string, int> Counts, IReadOnlyList<NotShown> NotShown)
{
    /// <summary>The other files that it consists of.</summary>
    public IReadOnlyList<FileBeside> Beside { get; init; } = [];
}

/// <summary>What the readers of models have in common: a file becomes one leaf.</summary>
internal abstract class ModelDraftReader : IReader
{
    /// <summary>Number, name and instance together are one step of a pin's way (<see cref="Core.Overlays.Pin.MostName"/>).</summary>
    private const int LongestName = 180;

    /// <summary>Most triangles of all components together.</summary>
    private const long MostPlaced = 40_000_000;

    public abstract string Name { get; }

    public virtual int Version => 4;

    public abstract string Words { get; }

    public abstract IReadOnlyList<string> Extensions { get; }

    public abstract string MediaType { get; }

    /// <summary>The format in a word or two.</summary>
    protected abstract string Format { get; }

    /// <summary>Longest file that is read.</summary>
    protected virtual long MostBytes => 512L << 20;

    public virtual bool HasFilesBeside => false;

    public virtual IReadOnlyList<string> NamesBeside(Stream stream) => [];

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits) => Read(stream, limits, FilesBeside.None);

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits, FilesBeside beside)
    {
        var (model, fault, length, seconds) = Timed(stream, limits, beside);
        if (model is null) return (null, fault);
        var leaf = ModelLeaf.Of(model.Scene, "Model");
        var report = new ReaderReport(Format, model.Version, "", length, seconds, [ModelLeaf.Report(model.Scene, leaf)], [], model.Counts, model.NotShown) { Beside = model.Beside };
        return (new DraftContent([leaf], () => report), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        var (model, fault, _, _) = Timed(stream, limits, FilesBeside.None);
        return model is null ? (null, fault) : (new DrawingSurvey(Format, model.Version, "", model.Scene.Unit, [], model.Scene.Parts.Count, model.Counts), null);
    }

    /// <summary>Reads the file; a fault instead of a model when that cannot be done.</summary>
    internal abstract (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside);

    /// <summary>How many of each thing a model has.</summary>
    protected static Dictionary<string, int> CountsOf(Scene scene) => new()
    {
        ["component"] = scene.Components.Count,
        ["part"] = scene.Parts.Count,
        ["face"] = scene.Parts.Sum(p => p.Mesh.Faces),
        ["triangle"] = scene.Parts.Sum(p => p.Mesh.Triangles),
    };

    /// <summary>A format's version with the unit that the file is in: its lengths are millimetres from then on.</summary>
    protected static string InUnit(string version, string unit)
    {
        ArgumentNullException.ThrowIfNull(version);
        var many = unit switch { "" => "", "inch" => "inches", "foot" => "feet", _ => unit + "s" };
        return many.Length == 0 ? version : version.Length == 0 ? $"in {many}" : $"{version}, in {many}";
    }

    /// <summary>A part of loose triangles: three corners each, or without them each three of the points.</summary>
    protected static (Part Part, ShapedMesh Shaped) Loose(string name, ModelColour? colour, Point3[] points, int[]? corners = null)
    {
        var shaped = MeshShaping.Of(points, corners);
        return (new Part(name, "", colour, null, shaped.Mesh, [.. Enumerable.Repeat(Face.Unknown, shaped.Mesh.Faces)], shaped.Edges, null, 0), shaped);
    }

    /// <summary>What was left out of some meshes, and what is not closed of them.</summary>
    protected static IReadOnlyList<NotShown> LossesOf(IReadOnlyCollection<ShapedMesh> shaped)
    {
        var losses = new List<NotShown>();
        if (shaped.Sum(s => s.Dropped) is var dropped and > 0) losses.Add(new NotShown("triangle", dropped, "It has no area, or a corner that is nowhere."));
        if (shaped.Sum(s => s.OpenEdges) is var open and > 0) losses.Add(new NotShown("open side", open, "The mesh is not closed there: its volume is not certain."));
        return losses;
    }

    private (ReadModel? Model, ReadFault? Fault, long Length, double Seconds) Timed(Stream stream, ReadLimits limits, FilesBeside beside)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var watch = Stopwatch.StartNew();
        var length = stream.Length;
        if (length == 0) return (null, new ReadFault(null, "The file is empty."), 0, 0);
        var most = Math.Min(limits.MostBytes, MostBytes);
        if (length > most) return (null, new ReadFault(null, $"The file is longer than {most >> 20:N0} MB, the most that is read of a model."), length, 0);
        var (read, fault) = Model(stream, beside);
        var model = read is null ? null : read with { Scene = Named(read.Scene) };
        // A part is read once and may be placed without end: what is drawn is counted as it is placed.
        if (model is not null && model.Scene.Placed().Sum(p => (long)model.Scene.Parts[p.Part].Mesh.Triangles) is var drawn and > MostPlaced)
            return (null, new ReadFault(null, $"The model places {drawn:N0} triangles, more than the {MostPlaced:N0} that are shown. Export it coarser, or in parts."), length, 0);
        if (model is not null && model.Scene.Box().IsEmpty)
            return (null, new ReadFault(null, model.Scene.Components.Select(c => c.MissingFile).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase).ToList() is { Count: > 0 } missing
                ? $"All of the model is in other files that are neither with it nor in the register: {string.Join(", ", missing.Take(5))}{(missing.Count > 5 ? $" and {missing.Count - 5} more" : "")}. Upload them first, or together with it."
                : "The file holds nothing that has a shape. Export it with its bodies or meshes."), length, 0);
        return (model, fault, length, Math.Round(watch.Elapsed.TotalSeconds, 3));
    }

    /// <summary>Three numbers that are written out; what is missing or no number is not a number.</summary>
    protected static Point3 PointOf(ReadOnlySpan<char> words)
    {
        Span<double> values = [double.NaN, double.NaN, double.NaN];
        var at = 0;
        foreach (var range in words.SplitAny(' ', '\t'))
        {
            if (words[range].IsEmpty) continue;
            if (at == 3 || !double.TryParse(words[range], NumberStyles.Float, CultureInfo.InvariantCulture, out values[at])) break;
            at++;
        }
        return new Point3(values[0], values[1], values[2]);
    }

    /// <summary>A scene whose names can be shown in a line, and cannot turn round what stands beside them.</summary>
    private static Scene Named(Scene scene) => scene with
    {
        Components = [.. scene.Components.Select(c => c with { Name = Shown(c.Name), Number = Shown(c.Number), Instance = Shown(c.Instance), MissingFile = c.MissingFile is { } file ? Shown(file) : null })],
        Dimensions = [.. scene.Dimensions.Select(d => d with { Name = Shown(d.Name), Words = Shown(d.Words) })],
        Parts = [.. scene.Parts.Select(p => p with { Name = Shown(p.Name), Number = Shown(p.Number), Material = p.Material is { } m ? m with { Name = Shown(m.Name) } : null })],
    };

    /// <summary>A name without letters that control or direct others (Unicode, Cc and Cf but for joiners), and no longer than a line.</summary>
    private static string Shown(string name)
    {
        var letters = new StringBuilder();
        foreach (var rune in name.EnumerateRunes())
        {
            if (letters.Length >= LongestName) return letters.Append('…').ToString();
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.Control) letters.Append(' ');
            else if (Rune.GetUnicodeCategory(rune) is not (UnicodeCategory.Format or UnicodeCategory.LineSeparator or UnicodeCategory.ParagraphSeparator) || rune.Value is 0x200C or 0x200D) letters.Append(rune);
        }
        return letters.ToString().Trim();
    }

    /// <summary>All bytes of a stream.</summary>
    protected static byte[] Whole(Stream stream)
    {
        ArgumentNullException.ThrowIfNull(stream);
        var bytes = new byte[stream.Length - stream.Position];
        stream.ReadExactly(bytes);
        return bytes;
    }
}
