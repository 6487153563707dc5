using System.Text;
using Froe.Formats.Dxf;

namespace Froe.Formats.Texts;

/// <summary>Files that are text and nothing else.</summary>
internal static class TextFile
{
    /// <summary>Reads a text and guesses how it is encoded; the fault instead when it is longer than <paramref name="most"/> bytes or no text.</summary>
    public static (string? Text, string Encoding, long Length, ReadFault? Fault) Read(Stream stream, long most)
    {
        var (file, fault) = WholeFile.Read(stream, most);
        if (file is null) return (null, "", 0, fault);
        if (file.AsSpan().StartsWith((ReadOnlySpan<byte>)[0xFF, 0xFE]) || file.AsSpan().StartsWith((ReadOnlySpan<byte>)[0xFE, 0xFF]))
            return ((file[0] == 0xFF ? Encoding.Unicode : Encoding.BigEndianUnicode).GetString(file, 2, file.Length - 2), "UTF-16", file.Length, null);
        if (file.AsSpan().Contains((byte)0)) return (null, "", 0, new ReadFault(null, "This is no text: it holds bytes that no text has. If it is a file of another kind, give its name the ending of that kind."));
        var decoder = new DxfText();
        var text = decoder.Decode(file.AsSpan().StartsWith(Encoding.UTF8.Preamble) ? file.AsSpan(3) : file);
        return (text, decoder.Name, file.Length, null);
    }
}
