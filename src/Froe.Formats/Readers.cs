using Froe.Core.Draft;
using Froe.Formats.Dxf;
using Froe.Formats.Models;
using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using Froe.Formats.Svg;
using Froe.Formats.Tables;
using Froe.Formats.Texts;

namespace Froe.Formats;

/// <summary>A leaf that was read, with what makes its forms.</summary>
/// <param name="Shown">Adds to a sheet's frame what only its forms showed, once they are made; null where the leaf says all.</param>
public sealed record ReadLeaf(Leaf Leaf, IReadOnlyList<ReadForm> Forms, Func<SheetFrame, SheetFrame>? Shown = null);

/// <summary>A form of a leaf.</summary>
/// <param name="Name">One of <see cref="LeafForms"/>.</param>
/// <param name="MediaType">What its bytes are.</param>
/// <param name="Write">Writes them; nothing where it turns out that the leaf has no such form.</param>
public sealed record ReadForm(string Name, string MediaType, Action<Stream> Write);

/// <summary>What a draft holds, and what its reader says of the file.</summary>
/// <param name="Leaves">Its leaves; a form may be made only as it is written, so that a thousand pages are not held at once.</param>
/// <param name="Report">To be asked for when the forms are written: what they met is said in it.</param>
public sealed record DraftContent(IReadOnlyList<ReadLeaf> Leaves, Func<ReaderReport> Report);

/// <summary>Raised as a form is written, when only then it shows that the file cannot be read; the message is for its owner.</summary>
public sealed class UnreadableException(string message) : Exception(message);

/// <summary>
/// A reader of one format. Everything that asks which files Froe reads, and how, asks the table of them (<see cref="Readers"/>): uploading,
/// preparing, <c>froe read</c> and the words on the page.
/// </summary>
public interface IReader
{
    /// <summary>Short and lasting: it stands beside every form that it made.</summary>
    string Name { get; }

    /// <summary>Rises whenever it makes other forms of the same file; then those of drafts that are there are made anew.</summary>
    int Version { get; }

    /// <summary>What people call such files.</summary>
    string Words { get; }

    /// <summary>Endings of its files' names, with the dot.</summary>
    IReadOnlyList<string> Extensions { get; }

    /// <summary>The media type that such a file is kept as.</summary>
    string MediaType { get; }

    /// <summary>
    /// Reads a file; a fault instead of content when that cannot be done. Never throws on what the stream contains, but for
    /// <see cref="UnreadableException"/> as a form is written, when only then it shows that the file breaks off.
    /// </summary>
    (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits);

    /// <summary>Reads a file that consists of others too, as far as those are there.</summary>
    /// <param name="beside">The others.</param>
    (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits, FilesBeside beside) => Read(stream, limits);

    /// <summary>Whether files of the format may consist of others.</summary>
    bool HasFilesBeside => false;

    /// <summary>The names of the other files that a file consists of (<see cref="FilesBeside.NameOf"/>). Never throws on what the stream contains.</summary>
    IReadOnlyList<string> NamesBeside(Stream stream) => [];

    /// <summary>Says what a file holds and draws nothing. Never throws on what the stream contains.</summary>
    (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits);
}

/// <summary>The table of readers.</summary>
public static class Readers
{
    /// <summary>All of them.</summary>
    public static IReadOnlyList<IReader> All { get; } =
    [
        new DxfDraftReader(), new PdfDraftReader(), new PictureDraftReader(), new SvgDraftReader(), new WorkbookDraftReader(), new ListDraftReader(), new TextDraftReader(),
        new StepDraftReader(), new IgesDraftReader(), new GltfDraftReader(), new StlDraftReader(), new ThreeMfDraftReader(), new ObjDraftReader(),
    ];

    /// <summary>Name of the reader of files that are carried along and not shown.</summary>
    public const string SupportingName = "supporting";

    /// <summary>The reader of files of every other kind.</summary>
    public static IReader Supporting { get; } = new SupportingFileReader();

    /// <summary>The reader for files of a name; what nobody reads is a supporting file.</summary>
    public static IReader For(string fileName)
    {
        ArgumentNullException.ThrowIfNull(fileName);
        return All.FirstOrDefault(r => r.Extensions.Any(e => fileName.EndsWith(e, StringComparison.OrdinalIgnoreCase))) ?? Supporting;
    }

    /// <summary>What can be read, as an answer to somebody who came with something else.</summary>
    public static string Words => string.Join(", ", All.Select(r => $"{r.Words} ({string.Join(' ', r.Extensions)})"));
}
