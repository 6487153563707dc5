using System.Buffers.Binary;
using System.Text;
using Wasmtime;

namespace Froe.Formats.Pdf;

/// <summary>How the page engine comes by fonts that a file leaves out: it asks (FPDF_SYSFONTINFO), and is given the bytes of one of ours.</summary>
internal sealed partial class PageEngine
{
    /// <summary>A struct of the version and eight functions, each a place in the engine's table.</summary>
    private const int AskedFor = 8, Version = 1;

    /// <summary>Most letters of a font's name that are read: a name that is not ended ends here.</summary>
    private const int LongestFace = 256;

    /// <summary>Fonts that were asked for, by their number from 1, and the files they are in.</summary>
    private readonly List<(string File, byte[] Bytes)> lent = [];

    /// <summary>Tells the engine whom to ask for fonts.</summary>
    private void LendFonts()
    {
        var whole = ValueKind.Int32;
        (int Parameters, bool Answers, Function.UntypedCallbackDelegate Do)[] functions =
        [
            (1, false, (_, _, _) => { }), // it will ask no more
            (2, false, (_, _, _) => { }), // it would list fonts: none is listed, each is asked for
            (7, true, (_, asked, answer) => answer[0] = Lent(asked[5].AsInt32(), asked[3].AsInt32(), asked[1].AsInt32(), asked[2].AsInt32() != 0)),
            (2, true, (_, _, answer) => answer[0] = 0), // a font by its name alone
            (5, true, (_, asked, answer) => answer[0] = Give(asked[1].AsInt32(), (uint)asked[2].AsInt32(), asked[3].AsInt32(), asked[4].AsInt32())),
            (4, true, (_, asked, answer) => answer[0] = GiveName(asked[1].AsInt32(), asked[2].AsInt32(), asked[3].AsInt32())),
            (2, true, (_, _, answer) => answer[0] = 0), // of Western letters: the engine knows what it asked for
            (2, false, (_, _, _) => { }), // it is done with one
        ];
        var first = (uint)table.Grow((uint)functions.Length, null);
        var told = Allocate((AskedFor + 1) * sizeof(int));
        memory.WriteInt32(told, Version);
        for (var i = 0; i < functions.Length; i++)
        {
            var (parameters, answers, act) = functions[i];
            table.SetElement(first + (uint)i, Function.FromCallback(store, act, [.. Enumerable.Repeat(whole, parameters)], answers ? [whole] : []));
            memory.WriteInt32(told + ((i + 1) * sizeof(int)), (int)first + i);
        }
        Call("FPDF_SetSystemFontInfo", told);
    }

    /// <summary>The number of a font that stands in; 0 for none.</summary>
    private int Lent(int face, int charset, int weight, bool isItalic)
    {
        if (PageFonts.FileFor(Latin1(face), charset, weight, isItalic) is not { } file) return 0;
        var known = lent.FindIndex(f => f.File == file);
        if (known >= 0) return known + 1;
        lent.Add((file, File.ReadAllBytes(PageFonts.PathOf(file))));
        return lent.Count;
    }

    /// <summary>Writes a font, or one of its tables, where there is room for it.</summary>
    /// <param name="tag">The table's; 0 for all of it.</param>
    /// <returns>How long it is; 0 where there is none.</returns>
    private int Give(int number, uint tag, int at, int room)
    {
        if (number < 1 || number > lent.Count) return 0;
        var bytes = lent[number - 1].Bytes.AsSpan();
        if (tag != 0) bytes = TableOf(bytes, tag);
        if (at != 0 && room >= bytes.Length) bytes.CopyTo(memory.GetSpan((uint)at, bytes.Length));
        return bytes.Length;
    }

    /// <summary>A table of a font (ISO/IEC 14496-22, 4.3); empty where it has none of that name.</summary>
    private static Span<byte> TableOf(Span<byte> font, uint tag)
    {
        const int Head = 12, Entry = 16;
        var count = BinaryPrimitives.ReadUInt16BigEndian(font[4..]);
        for (var i = 0; i < count; i++)
        {
            var entry = font[(Head + (i * Entry))..];
            if (BinaryPrimitives.ReadUInt32BigEndian(entry) == tag) return font.Slice((int)BinaryPrimitives.ReadUInt32BigEndian(entry[8..]), (int)BinaryPrimitives.ReadUInt32BigEndian(entry[12..]));
        }
        return [];
    }

    /// <summary>Writes a font's name: by it the engine knows the font again.</summary>
    private int GiveName(int number, int at, int room)
    {
        if (number < 1 || number > lent.Count) return 0;
        var name = lent[number - 1].File + "\0";
        if (at != 0 && room >= name.Length) Encoding.Latin1.GetBytes(name, memory.GetSpan((uint)at, name.Length));
        return name.Length;
    }

    private string Latin1(int at)
    {
        var letters = memory.GetSpan((uint)at, (int)Math.Min(LongestFace, memory.GetLength() - (uint)at));
        return Encoding.Latin1.GetString(letters[..Math.Max(0, letters.IndexOf((byte)0))]);
    }
}
