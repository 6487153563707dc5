using System.Globalization;
using System.IO.Compression;
using System.Text;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>
/// An incremental update (ISO 32000-2, 7.5.6): the file stays as it is to the byte, new objects and their cross-references follow.
/// </summary>
internal sealed class PdfUpdate : IDisposable
{
    private readonly MemoryStream to = new();
    private readonly SortedDictionary<int, (long At, int Generation)> written = [];
    private readonly long previous;
    private readonly bool isTable;
    private readonly string common;
    private int next;

    private PdfUpdate(ReadOnlySpan<byte> file, long previous, PdfDocument document)
    {
        this.previous = previous;
        isTable = file[(int)previous] == 'x';
        next = document.Structure.Trailer.Size;
        to.Write(file);
        if (file[^1] != '\n') to.WriteByte((byte)'\n');
        var trailer = document.Structure.Trailer;
        var said = new StringBuilder(Invariant($"/Root {trailer.Root.ObjectNumber} {trailer.Root.Generation} R"));
        if (trailer.Info is { } info) PdfTokens.Write(said.Append(" /Info "), info, 0);
        if (trailer.Identifier is { Count: 2 } id)
        {
            said.Append(" /ID [");
            foreach (var part in id) PdfTokens.Write(said, (IToken)part, 0);
            said.Append(']');
        }
        common = said.ToString();
    }

    /// <summary>Begins an update; null for what cannot be gone on with: it is encrypted, or its cross-references are broken.</summary>
    public static PdfUpdate? Begin(ReadOnlySpan<byte> file, PdfDocument document) =>
        document.IsEncrypted || LayerSwitching.Previous(file) is not { } previous ? null : new PdfUpdate(file, previous, document);

    /// <summary>Adds an object.</summary>
    /// <returns>How it is referred to.</returns>
    public string Add(string body)
    {
        Put(next, 0, body);
        return Invariant($"{next++} 0 R");
    }

    /// <summary>Writes an object of the file anew.</summary>
    public void Put(int number, int generation, string body)
    {
        written[number] = (to.Position, generation);
        Write(Invariant($"{number} {generation} obj\n{body}\nendobj\n"));
    }

    /// <summary>Adds a stream, compressed.</summary>
    /// <param name="dictionary">What its dictionary says besides its length and filter.</param>
    public string AddStream(string dictionary, string content) => AddStream(dictionary, Encoding.Latin1.GetBytes(content));

    /// <summary>Adds a stream of bytes, compressed.</summary>
    /// <param name="dictionary">What its dictionary says besides its length and filter.</param>
    /// <returns>How it is referred to.</returns>
    public string AddStream(string dictionary, byte[] content)
    {
        using var packed = new MemoryStream();
        using (var zip = new ZLibStream(packed, CompressionLevel.Optimal, leaveOpen: true)) zip.Write(content);
        written[next] = (to.Position, 0);
        Write(Invariant($"{next} 0 obj\n<< {dictionary} /Filter /FlateDecode /Length {packed.Length} >>\nstream\n"));
        packed.WriteTo(to);
        Write("\nendstream\nendobj\n");
        return Invariant($"{next++} 0 R");
    }

    /// <summary>The file with the update behind it.</summary>
    public byte[] Finish()
    {
        var start = to.Position;
        // A cross-reference stream is an object too, and lists itself.
        if (!isTable) written[next++] = (start, 0);
        var rows = new StringBuilder();
        var index = new StringBuilder();
        foreach (var (from, count) in Groups())
        {
            index.Append(Invariant($"{from} {count} "));
            if (isTable) rows.Append(Invariant($"{from} {count}\n"));
            for (var i = from; i < from + count; i++)
                rows.Append(isTable ? Invariant($"{written[i].At:0000000000} {written[i].Generation:00000} n \n") : Invariant($"01{written[i].At:X16}{written[i].Generation:X4}"));
        }
        var trailer = Invariant($"/Size {next} {common} /Prev {previous}");
        if (isTable) Write($"xref\n{rows}trailer\n<< {trailer} >>\n");
        else Write(Invariant($"{next - 1} 0 obj\n<< /Type /XRef /W [1 8 2] /Index [{index}] {trailer} /Filter /ASCIIHexDecode /Length {rows.Length + 1} >>\nstream\n{rows}>\nendstream\nendobj\n"));
        Write(Invariant($"startxref\n{start}\n%%EOF\n"));
        return to.ToArray();
    }

    /// <inheritdoc/>
    public void Dispose() => to.Dispose();

    private IEnumerable<(int From, int Count)> Groups()
    {
        (int From, int Count) group = (-1, 0);
        foreach (var number in written.Keys)
        {
            if (group.From >= 0 && group.From + group.Count == number)
            {
                group.Count++;
                continue;
            }
            if (group.From >= 0) yield return group;
            group = (number, 1);
        }
        if (group.From >= 0) yield return group;
    }

    private void Write(string text) => to.Write(Encoding.Latin1.GetBytes(text));

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
