using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Formats;

/// <summary>Files of every other kind: they travel with a package and are downloaded. There is nothing of them to look at here, which is said.</summary>
internal sealed class SupportingFileReader : IReader
{
    public string Name => Readers.SupportingName;

    public int Version => 1;

    public string Words => "supporting files of any other kind";

    public IReadOnlyList<string> Extensions { get; } = [];

    public string MediaType => "application/octet-stream";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var (length, fault) = Length(stream, limits);
        return fault is not null ? (null, fault) : (new DraftContent([], () => new ReaderReport("supporting file", "", "", length, 0, [], [], new Dictionary<string, int>(), [])), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var (_, fault) = Length(stream, limits);
        return fault is not null ? (null, fault) : (new DrawingSurvey("supporting file", "", "", LengthUnit.Unknown, [], 0, new Dictionary<string, int>()), null);
    }

    private static (long Length, ReadFault? Fault) Length(Stream stream, ReadLimits limits)
    {
        var length = stream.Length;
        return length == 0 ? (0, new ReadFault(null, "The file is empty."))
            : length > limits.MostBytes ? (0, new ReadFault(null, $"The file is longer than {limits.MostBytes >> 20:N0} MB, the most that can be taken."))
            : (length, null);
    }
}
