using System.IO.Compression;
using Froe.Core.Draft;
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

    protected override (ReadModel? Model, ReadFault? Fault) Model(Stream stream)
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
        var file = new ExchangeFile(bytes);
        var facts = ExchangeFacts.Of(file);
        using var memory = new MemoryStream(bytes);
        var outcome = LibraryModel.Read(memory, isIges: false);
        if (outcome.Scene is null) return (null, new ReadFault(null, outcome.Fault));
        var scene = Numbered(outcome.Scene, facts.Products);
        scene = scene with { Dimensions = ExchangeDimensions.Of(file, scene) };
        return (new ReadModel(scene, InUnit(facts.Schema, facts.Unit), CountsOf(scene), [.. Losses(facts, outcome), .. ExchangeChecks.Of(file, scene)]), null);
    }

    /// <summary>What the file says it holds and the library did not give, and what else is missing.</summary>
    private static List<NotShown> Losses(ExchangeFacts facts, LibraryModel.Outcome outcome)
    {
        var losses = new List<NotShown>();
        if (outcome.WithoutMesh > 0) losses.Add(new NotShown("face", outcome.WithoutMesh, "It could not be meshed, and is a hole in what is shown."));
        if (facts.Faces > outcome.Faces) losses.Add(new NotShown("face in the file", facts.Faces - outcome.Faces, "The file has it, but it could not be taken over: the file may be damaged."));
        if (facts.Uses > 0 && outcome.Uses == 0) losses.Add(new NotShown("use of a part", facts.Uses, "The file says that parts are used in others, but none could be placed."));
        losses.AddRange(facts.Outside.Select(name => new NotShown(name, 1, "A part of the assembly is in this other file, which is not with it.")));
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
