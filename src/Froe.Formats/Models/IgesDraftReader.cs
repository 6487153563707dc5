using Froe.Core.Draft;

namespace Froe.Formats.Models;

/// <summary>Reads IGES files (version 5.3 and earlier) into models.</summary>
internal sealed class IgesDraftReader : ModelDraftReader
{
    public override string Name => "iges";

    public override string Words => "IGES models";

    public override IReadOnlyList<string> Extensions { get; } = [".igs", ".iges"];

    public override string MediaType => "model/iges";

    protected override string Format => "IGES";

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside)
    {
        using var library = LibraryModel.Begin(Whole(stream), isIges: true);
        var outcome = library.End(new HashSet<string>());
        if (outcome.Scene is null) return (null, new ReadFault(null, outcome.Fault));
        var losses = outcome.WithoutMesh > 0 ? new List<NotShown> { new("face", outcome.WithoutMesh, "It could not be meshed, and is a hole in what is shown.") } : [];
        return (new ReadModel(outcome.Scene, "", CountsOf(outcome.Scene), losses), null);
    }
}
