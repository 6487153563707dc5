using System.Collections.Immutable;
using System.IO.Compression;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads STEP files (ISO 10303-21 of AP203, AP214, AP242) into models with exact faces and edges; packed ones too.</summary>
internal sealed class StepDraftReader : ModelDraftReader
{
    public override string Name => "step";

    public override string Words => "STEP models";

    public override IReadOnlyList<string> Extensions { get; } = [".stp", ".step", ".p21", ".stpz"];

    public override string MediaType => "model/step";

    protected override string Format => "STEP";

    public override bool HasFilesBeside => true;

    public override IReadOnlyList<string> NamesBeside(Stream stream)
    {
        try
        {
            return [.. ExchangeOutside.Of(new ExchangeFile(Unpacked(Whole(stream)))).Select(o => o.File).Distinct(StringComparer.OrdinalIgnoreCase)];
        }
        catch (InvalidDataException)
        {
            return [];
        }
    }

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside) => Model(stream, beside, [], new Dictionary<string, (ReadModel?, ReadFault?)>(StringComparer.OrdinalIgnoreCase));

    /// <param name="above">The files that this one is read for, the outermost first: one that contains itself is not read without end.</param>
    /// <param name="known">What was made of the others that were read already: each is read once, wherever it is used.</param>
    private (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside, ImmutableList<string> above, Dictionary<string, (ReadModel? Model, ReadFault? Fault)> known)
    {
        byte[] bytes;
        try
        {
            bytes = Unpacked(Whole(stream));
        }
        catch (InvalidDataException)
        {
            return (null, new ReadFault(null, "The packed file is damaged, or longer than a model may be. Send it unpacked."));
        }
        if (bytes.AsSpan(0, Math.Min(bytes.Length, 4096)).IndexOf("ISO-10303-21"u8) < 0)
            return (null, new ReadFault(1, "This is no STEP file: it does not begin with ISO-10303-21. Export it as STEP (AP242, AP214 or AP203)."));
        using var library = LibraryModel.Begin(bytes, isIges: false);
        var file = new ExchangeFile(bytes);
        var facts = ExchangeFacts.Of(file);
        var outcome = library.End(facts.Outside.Select(o => o.Product).ToHashSet());
        if (outcome.Scene is null) return (null, new ReadFault(null, outcome.Fault));
        var scene = Numbered(outcome.Scene, facts.Products);
        scene = scene with { Dimensions = ExchangeDimensions.Of(file, scene, out var lost) };
        List<NotShown> losses = [.. Losses(facts, outcome), .. ExchangeChecks.Of(file, scene)];
        if (lost > 0) losses.Add(new NotShown("drawn dimension or note", lost, "It leads to no part of the model."));
        var (whole, others) = Whole(scene, facts.Outside, beside, above, known, losses);
        if (whole is null) return (null, new ReadFault(null, $"The model has more than {PuttingTogether.MostComponents:N0} components. Export it in parts."));
        return (new ReadModel(whole, InUnit(facts.Schema, facts.Unit), CountsOf(whole), losses) { Beside = others }, null);
    }

    /// <summary>An assembly with what of it is in other files, as far as they are there and can be read.</summary>
    private (Scene? Scene, IReadOnlyList<FileBeside> Others) Whole(
        Scene own, IReadOnlyList<OutsideProduct> outside, FilesBeside beside, ImmutableList<string> above, Dictionary<string, (ReadModel? Model, ReadFault? Fault)> known, List<NotShown> losses)
    {
        var others = new Dictionary<string, Scene>(StringComparer.OrdinalIgnoreCase);
        var told = new Dictionary<string, bool>(StringComparer.OrdinalIgnoreCase);
        foreach (var name in outside.Select(o => o.File).Distinct(StringComparer.OrdinalIgnoreCase))
        {
            var isAbove = above.Contains(name, StringComparer.OrdinalIgnoreCase);
            told[name] = !isAbove && above.Count < Deepest && known.Count < FilesBeside.Most && beside.Has(name);
            if (!told[name])
            {
                losses.Add(new NotShown(name, 1, isAbove ? "This file is a part of itself." : "A part of the assembly is in this other file, which is neither with it nor in the register."));
                continue;
            }
            if (!known.TryGetValue(name, out var made)) made = known[name] = Other(name);
            var (read, fault) = made;
            if (read is null)
            {
                losses.Add(new NotShown(name, 1, $"A part of the assembly is in this other file, which cannot be read: {fault}"));
                continue;
            }
            others[name] = read.Scene;
            losses.AddRange(read.NotShown.Select(n => n with { Why = n.Why.StartsWith($"{name}: ", StringComparison.Ordinal) ? n.Why : $"{name}: {n.Why}" }));
            foreach (var deeper in read.Beside) told.TryAdd(deeper.Name, deeper.IsThere);
            if (read.Scene.Unit == LengthUnit.Unknown) losses.Add(new NotShown(name, 1, "It does not say what it is counted in: millimetres were taken."));
        }
        var places = new Dictionary<int, string>();
        for (var p = 0; p < own.Parts.Count; p++)
        {
            if (own.Parts[p].Mesh.Triangles > 0) continue;
            var called = outside.Where(o => o.Product == own.Parts[p].Name).ToList();
            if (called.Count > 1 && called.Where(o => o.Number == own.Parts[p].Number).ToList() is { Count: > 0 } numbered) called = numbered;
            if (called.Count > 0) places[p] = called[0].File;
        }
        return (PuttingTogether.Of(own, places, others), [.. told.Select(t => new FileBeside(t.Key, t.Value))]);

        (ReadModel?, ReadFault?) Other(string name)
        {
            using var stream = beside.Open(name)!;
            var reader = (ModelDraftReader)Readers.For(name);
            return stream.Length > MostBytes ? (null, new ReadFault(null, "It is longer than a model may be."))
                : reader is StepDraftReader step ? step.Model(stream, beside, above.Add(name), known) : reader.Model(stream, beside);
        }
    }

    /// <summary>What the file says it holds and the library did not give, and what else is missing.</summary>
    private static List<NotShown> Losses(ExchangeFacts facts, LibraryModel.Outcome outcome)
    {
        var losses = new List<NotShown>();
        if (outcome.WithoutMesh > 0) losses.Add(new NotShown("face", outcome.WithoutMesh, "It could not be meshed, and is a hole in what is shown."));
        if (facts.Faces > outcome.Faces) losses.Add(new NotShown("face in the file", facts.Faces - outcome.Faces, "The file has it, but it could not be taken over: the file may be damaged."));
        if (facts.Uses > 0 && outcome.Uses == 0) losses.Add(new NotShown("use of a part", facts.Uses, "The file says that parts are used in others, but none could be placed."));
        return losses;
    }

    /// <summary>Components and parts with the numbers of their products, which the library drops.</summary>
    private static Scene Numbered(Scene scene, IReadOnlyDictionary<string, string> numbers)
    {
        return scene with
        {
            Components = [.. scene.Components.Select(c => c with { Number = Of(c.Name) })],
            Parts = [.. scene.Parts.Select(p => p with { Number = Of(p.Name) })],
        };

        string Of(string name) => numbers.TryGetValue(name, out var number) && number != name ? number : "";
    }

    /// <summary>How deep files lie in files.</summary>
    private const int Deepest = 16;

    /// <summary>The longest that a file may be once it is unpacked.</summary>
    private const long MostUnpacked = 512L << 20;

    /// <summary>A file packed by gzip or into a zip archive (of which the first model counts), or the file as it is.</summary>
    private static byte[] Unpacked(byte[] bytes)
    {
        if (bytes is [0x1F, 0x8B, ..])
        {
            using var packed = new GZipStream(new MemoryStream(bytes), CompressionMode.Decompress);
            return Bounded(packed);
        }
        if (bytes is not [(byte)'P', (byte)'K', 3, 4, ..]) return bytes;
        using var archive = new ZipArchive(new MemoryStream(bytes));
        var entry = archive.Entries.FirstOrDefault(e => e.Name.EndsWith(".stp", StringComparison.OrdinalIgnoreCase) || e.Name.EndsWith(".step", StringComparison.OrdinalIgnoreCase) || e.Name.EndsWith(".p21", StringComparison.OrdinalIgnoreCase))
            ?? throw new InvalidDataException("no model in the archive");
        using var inside = entry.Open();
        return Bounded(inside);
    }

    private static byte[] Bounded(Stream from)
    {
        var all = new MemoryStream();
        var some = new byte[1 << 16];
        for (int read; (read = from.Read(some)) > 0;)
        {
            if (all.Length + read > MostUnpacked) throw new InvalidDataException("too long");
            all.Write(some, 0, read);
        }
        return all.ToArray();
    }
}
