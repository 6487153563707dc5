using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using BitMiracle.LibTiff.Classic;
using Froe.Core.Draft;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.Tests;

/// <summary>
/// Files made to harm: good ones of every format, each changed in a way that its number alone decides, so that whoever meets a fault can
/// make the same file again.
/// </summary>
internal static partial class Hostile
{
    private static readonly string[] Extremes =
        ["-2147483648", "2147483647", "4294967296", "9223372036854775807", "-1", "0", "1e308", "-1e308", "1e-308", "NaN", "1e17", "999999", "0.0000001", "65536", "-0", "1e400", ""];

    private static readonly Lazy<IReadOnlyList<(string Name, byte[] File)>> Good = new(() => [.. MakeSeeds()]);

    /// <summary>The good files.</summary>
    public static IReadOnlyList<(string Name, byte[] File)> Seeds => Good.Value;

    /// <summary>From this number on, files are models.</summary>
    public const int Models = 1_000_000_000;

    /// <summary>The file of a number.</summary>
    public static (string Name, byte[] File) Make(int number)
    {
        var random = new Random(unchecked((number * 7919) + 17));
        var seeds = number < Models ? Seeds : HostileModels.Seeds;
        var (name, file) = seeds[number % seeds.Count];
        for (var times = 1 + random.Next(3); times > 0; times--) file = random.Next(4) == 0 ? Changed(file, random) : Path.GetExtension(name) switch { ".xlsx" or ".3mf" => InZip(file, random), ".glb" => HostileMore.InGlb(file, random), _ => Changed(file, random) };
        return (name, file);
    }

    /// <summary>Reads a file as a child of the server's does, all of its forms with it; what is refused in words is well.</summary>
    public static void Read(string name, byte[] file)
    {
        var (content, _) = Readers.For(name).Read(new MemoryStream(file), new ReadLimits());
        if (content is null) return;
        try
        {
            foreach (var leaf in content.Leaves)
            {
                var (texts, picture) = ((IReadOnlyList<WrittenRun>)[], (byte[]?)null);
                foreach (var form in leaf.Forms)
                {
                    using var to = new MemoryStream();
                    form.Write(to);
                    to.Position = 0;
                    if (form.Name == LeafForms.Text) _ = TitleBlocks.Of(texts = WrittenForm.Read(to));
                    if (form.Name == LeafForms.Picture) picture = to.ToArray();
                }
                if (picture is not null && leaf.Leaf.Frame is SheetFrame frame && SheetPatches.Of(frame, picture, texts) is { } grid) SheetPatches.Write(grid, Stream.Null);
            }
            _ = JsonSerializer.Serialize(content.Leaves.Select(l => l.Leaf), FormJson.Options) + JsonSerializer.Serialize(content.Report(), FormJson.Options);
        }
        catch (UnreadableException)
        {
            // Said in words, as it should be.
        }
    }

    /// <summary>A file changed in one way or another.</summary>
    public static byte[] Changed(byte[] file, Random random)
    {
        if (file.Length < 8) return file;
        var (from, length) = (random.Next(file.Length), 1 + random.Next(Math.Min(file.Length, 400)));
        var end = Math.Min(file.Length, from + length);
        var part = file[from..end];
        switch (random.Next(9))
        {
            case 0:
                var flipped = (byte[])file.Clone();
                for (var i = random.Next(1, 24); i > 0; i--) flipped[random.Next(flipped.Length)] ^= (byte)(1 << random.Next(8));
                return flipped;
            case 1: return file[..from];
            case 2: return [.. file[..from], .. file[end..]];
            case 3: return [.. file[..from], .. Enumerable.Repeat(part, 1 + random.Next(40)).SelectMany(p => p), .. file[from..]];
            case 4:
                var noise = new byte[length];
                random.NextBytes(noise);
                return [.. file[..from], .. noise, .. file[from..]];
            case 5:
                var other = Seeds[random.Next(Seeds.Count)].File;
                var at = random.Next(other.Length);
                return [.. file[..from], .. other[at..Math.Min(other.Length, at + length)], .. file[end..]];
            case 6:
                var same = (byte[])file.Clone();
                Array.Fill(same, (byte)random.Next(256), from, end - from);
                return same;
            default: return OtherNumbers(file, random);
        }
    }

    /// <summary>Some numbers that are written out become ones that nobody counts on.</summary>
    private static byte[] OtherNumbers(byte[] file, Random random)
    {
        var text = Encoding.Latin1.GetString(file);
        var found = Numbers().Matches(text);
        if (found.Count == 0) return file;
        var chosen = Enumerable.Range(0, 1 + random.Next(4)).Select(_ => random.Next(found.Count)).ToHashSet();
        var nth = 0;
        return Encoding.Latin1.GetBytes(Numbers().Replace(text, m => chosen.Contains(nth++) ? Extremes[random.Next(Extremes.Length)] : m.Value));
    }

    [GeneratedRegex(@"(?<![\w.])-?\d+(\.\d+)?")]
    private static partial Regex Numbers();

    /// <summary>One part of a package is changed, and the package put together well.</summary>
    private static byte[] InZip(byte[] file, Random random)
    {
        try
        {
            using var from = new ZipArchive(new MemoryStream(file));
            var to = new MemoryStream();
            using (var zip = new ZipArchive(to, ZipArchiveMode.Create, true))
            {
                var chosen = random.Next(from.Entries.Count);
                for (var i = 0; i < from.Entries.Count; i++)
                {
                    using var part = new MemoryStream();
                    using (var read = from.Entries[i].Open()) read.CopyTo(part);
                    using var write = zip.CreateEntry(from.Entries[i].FullName).Open();
                    write.Write(i == chosen ? Changed(part.ToArray(), random) : part.ToArray());
                }
            }
            return to.ToArray();
        }
        catch (InvalidDataException)
        {
            // It is no package any more.
            return Changed(file, random);
        }
    }

    private static IEnumerable<(string Name, byte[] File)> MakeSeeds()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Froe.slnx"))) folder = folder.Parent!;
        foreach (var name in (string[])["TO-3305_A1.dxf", "TO-2207_A1.dxf", "TO-1106_A1.pdf", "TO-1107_A1.xlsx"]) yield return (name, File.ReadAllBytes(Path.Combine(folder.FullName, "demo", "drawings", name)));
        yield return ("kinds.dxf", SmallDxf.FileOf(
            "0 INSERT\n8 0\n2 A\n10 5\n20 5\n66 1\n0 ATTRIB\n8 0\n10 1\n20 1\n40 2\n1 TAG\n2 T\n70 0\n0 SEQEND\n0 POLYLINE\n8 0\n66 1\n70 1\n0 VERTEX\n8 0\n10 0\n20 0\n42 0.5\n0 VERTEX\n8 0\n10 5\n20 0\n0 SEQEND\n0 HATCH\n8 0\n70 0\n91 1\n92 1\n93 2\n72 1\n10 0\n20 0\n11 5\n21 5\n72 2\n10 1\n20 1\n40 3\n50 0\n51 180\n73 1\n97 0\n75 0\n76 1\n78 1\n53 45\n43 0\n44 0\n45 0\n46 1\n79 2\n49 1\n49 -1\n"
            + "0 ARC\n8 0\n10 5\n20 5\n40 3\n50 10\n51 350\n0 ELLIPSE\n8 0\n10 0\n20 0\n11 4\n21 0\n40 0.5\n41 0\n42 6\n0 SPLINE\n8 0\n70 8\n71 3\n72 8\n73 4\n40 0\n40 0\n40 0\n40 0\n40 1\n40 1\n40 1\n40 1\n10 0\n20 0\n10 1\n20 2\n10 3\n20 2\n10 4\n20 0\n0 MTEXT\n8 0\n10 5\n20 5\n40 3\n41 40\n71 1\n1 Words \\H2x;and \\S1/2; more\\Pline\n"
            + "0 DIMENSION\n8 0\n70 0\n10 10\n20 10\n13 0\n23 0\n14 10\n24 0\n0 LEADER\n8 0\n76 2\n10 0\n20 0\n10 5\n20 5\n0 MLINE\n8 0\n40 1\n72 2\n73 1\n10 0\n20 0\n11 0\n21 0\n12 1\n22 0\n13 0\n23 1\n74 2\n41 0\n41 1\n75 0\n0 XLINE\n8 0\n10 0\n20 0\n11 1\n21 1\n0 3DFACE\n8 0\n10 0\n20 0\n11 1\n21 0\n12 1\n22 1\n13 0\n23 1\n"
            + "0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 40\n12 0\n22 0\n90 65536\n340 A1\n0 CIRCLE\n5 A1\n67 1\n8 0\n10 50\n20 50\n40 10\n"
            + "0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 3\n69 3\n1001 ACAD\n1000 MVIEW\n1002 {\n1070 16\n1010 0\n1020 0\n1030 0\n1010 0\n1020 0\n1030 1\n1040 0\n1040 40\n1040 5\n1040 5\n1040 50\n1040 0\n1040 0\n1002 }",
            "9 $EXTMIN\n10 0\n20 0\n9 $EXTMAX\n10 10\n20 10\n9 $INSUNITS\n70 4", "0 TABLE\n2 LAYER\n0 LAYER\n2 0\n62 7\n0 ENDTAB", "0 BLOCK\n2 A\n10 0\n20 0\n0 CIRCLE\n8 0\n10 0\n20 0\n40 3\n0 INSERT\n8 0\n2 B\n10 0\n20 0\n0 ENDBLK\n0 BLOCK\n2 B\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 1\n21 1\n0 ENDBLK"));
        const string Square = "92 3\n72 0\n73 1\n93 4\n10 0\n20 0\n10 32\n20 0\n10 32\n20 32\n10 0\n20 32\n97 0\n";
        yield return ("fills.dxf", SmallDxf.FileOf(
            $"0 HATCH\n8 0\n62 3\n2 SOLID\n70 1\n91 2\n{Square}{Square}75 1\n98 0\n450 1\n460 0.6\n461 0.5\n452 1\n462 0.7\n453 2\n463 0\n63 5\n421 255\n463 1\n421 16711680\n470 SPHERICAL\n0 HATCH\n8 0\n2 SOLID\n70 1\n91 2\n{Square}{Square}75 2\n98 0\n450 1\n460 2\n421 99\n421 9999\n470 CYLINDER\n"
            + "0 MTEXT\n8 0\n10 0\n20 100\n40 3\n41 20\n71 5\n1 A\\PB\\NC and more words\\PD\n101 Embedded Object\n70 1\n40 20\n41 9\n71 2\n72 2\n44 20\n45 5\n73 0\n74 1\n46 20\n46 9\n0 LINE\n8 0\n6 DASH\n10 -300\n20 0\n11 150\n21 0\n0 LWPOLYLINE\n8 0\n6 DASH\n90 3\n70 1\n10 0\n20 0\n10 50\n20 0\n10 50\n20 50\n"
            + "0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 400\n12 0\n22 0\n51 30",
            "9 $PSLTSCALE\n70 1", "0 TABLE\n2 LTYPE\n0 LTYPE\n2 DASH\n49 10\n49 -10\n0 ENDTAB"));
        yield return ("page.pdf", SmallPdf.Page("q 1 0 0 1 5 5 cm 1 w 10 10 m 50 10 l 60 40 80 40 90 10 c S Q BT /F 12 Tf 20 40 Td (Pump house) Tj ET 0.5 g 10 60 30 20 re f*"));
        yield return ("plan.svg", Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='60mm' viewBox='0 0 120 60'><defs><g id='a'><path d='M0 0 L10 10 C20 20 30 0 40 10 Z'/></g></defs><use href='#a' x='5'/><line x1='10' y1='50' x2='110' y2='50' stroke='black' stroke-dasharray='3 2'/><text x='10' y='30' font-size='8'>Pump house</text></svg>"));
        yield return ("list.csv", Encoding.UTF8.GetBytes(string.Concat(Enumerable.Range(0, 60).Select(i => $"{i};\"Bolt; M{i}\";{i * 1.5:0.0};2026-11-{1 + (i % 28):00}\n"))));
        yield return ("notes.md", Encoding.UTF8.GetBytes("# Notes\n\nA *line* of words, `code`, and\n\n- one\n- two\n\n| a | b |\n|---|---|\n| 1 | 2 |\n"));
        using var drawn = new SKBitmap(new SKImageInfo(64, 48, SKColorType.Bgra8888, SKAlphaType.Opaque));
        for (var i = 0; i < 64 * 48; i++) drawn.SetPixel(i % 64, i / 64, new SKColor((byte)(i * 4), (byte)(i / 16), (byte)(i % 7 * 30)));
        foreach (var (ending, format) in new[] { ("png", SKEncodedImageFormat.Png), ("jpg", SKEncodedImageFormat.Jpeg), ("webp", SKEncodedImageFormat.Webp) })
        {
            using var data = drawn.Encode(format, 90);
            yield return ($"picture.{ending}", data.ToArray());
        }
        yield return ("picture.bmp", Bmp());
        yield return ("scan.tif", Tif(Compression.LZW));
        yield return ("fax.tif", Tif(Compression.CCITTFAX4));
        foreach (var seed in HostileMore.Seeds()) yield return seed;
    }

    private static byte[] Bmp()
    {
        var file = new MemoryStream();
        using var to = new BinaryWriter(file);
        to.Write("BM"u8);
        foreach (var number in (int[])[54 + (16 * 12 * 3), 0, 54, 40, 16, 12, 1 | (24 << 16), 0, 16 * 12 * 3, 2835, 2835, 0, 0]) to.Write(number);
        for (var i = 0; i < 16 * 12 * 3; i++) to.Write((byte)(i * 7));
        return file.ToArray();
    }

    private static byte[] Tif(Compression compression)
    {
        var file = new MemoryStream();
        using (var tiff = Tiff.ClientOpen("t", "w", file, new KeptOpen()))
        {
            foreach (var (tag, value) in new (TiffTag, object)[]
            {
                (TiffTag.IMAGEWIDTH, 96), (TiffTag.IMAGELENGTH, 64), (TiffTag.BITSPERSAMPLE, 1), (TiffTag.SAMPLESPERPIXEL, 1), (TiffTag.ROWSPERSTRIP, 16), (TiffTag.PHOTOMETRIC, Photometric.MINISWHITE),
                (TiffTag.COMPRESSION, compression), (TiffTag.XRESOLUTION, 300.0), (TiffTag.YRESOLUTION, 300.0), (TiffTag.RESOLUTIONUNIT, ResUnit.INCH),
            }) tiff.SetField(tag, value);
            for (var y = 0; y < 64; y++) tiff.WriteScanline([.. Enumerable.Range(0, 12).Select(x => (byte)((x * 31) ^ (y * 3)))], y);
            tiff.WriteDirectory();
        }
        return file.ToArray();
    }

    /// <summary>A stream that stays open when its picture is closed.</summary>
    private sealed class KeptOpen : TiffStream
    {
        public override void Close(object clientData)
        {
        }
    }
}
