using System.Collections.Immutable;
using System.Diagnostics;
using System.Text.RegularExpressions;
using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Formats.In;
using Froe.Formats.Out;
using SkiaSharp;
using Xunit;
using Polyline = Froe.Core.Overlays.Polyline;

namespace Froe.Formats.Tests;

/// <summary>Drafts go out with what lies on them, and what comes back lies where it lay.</summary>
public sealed class OutTables : IDisposable
{
    private static readonly DateTimeOffset At = new(2026, 11, 27, 9, 30, 0, TimeSpan.Zero);
    private readonly string folder = Directory.CreateTempSubdirectory("froe-out-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private static SentMark Mark(Shape shape, SentNote? note = null, string? value = null) => new(Guid.NewGuid(), shape, value, "Maren Aas", At, "First look", note, OverlayLook.Usual);

    private static SentNote Note(int number, string body, NoteStanding standing = NoteStanding.Open, params SentReply[] replies) =>
        new(Guid.NewGuid(), number, NoteKind.Request, standing, standing == NoteStanding.Answered ? AnswerKind.Done : null, "Maren Aas", At, body, replies);

    private static MarkedDraft Draft(Leaf leaf, params SentMark[] marks) => new("TM-1 Bearing, draft A.1", [new MarkedLeaf(leaf, marks, [])]);

    private byte[] Written(MarkedDraft draft, OutForm form, out MarkedOut how)
    {
        using var to = new MemoryStream();
        how = MarkedFile.Write(draft, form, folder, "bearing.pdf", to);
        return to.ToArray();
    }

    private IReadOnlyList<BroughtAnnotation> Read(MarkedDraft draft, byte[] file)
    {
        using var from = new MemoryStream(file);
        var (found, fault) = BroughtFile.Read([.. draft.Leaves.Select(l => l.Leaf)], folder, from);
        Assert.True(found is not null, fault);
        return found!;
    }

    /// <summary>A page of A5, or how a page is written otherwise, as the file that the sheets are drawn from.</summary>
    private Leaf PageOf(byte[] pdf)
    {
        File.WriteAllBytes(Path.Combine(folder, "source.pdf"), pdf);
        return SmallPdf.Open(pdf).Leaf(0);
    }

    private Leaf StrokesOf(LengthUnit unit = LengthUnit.Millimetre, double from = 0)
    {
        var builder = new SheetBuilder { Tolerance = 0.1 };
        builder.Begin(new EntityLook(0x2A, 0, 0, 25, [], "LINE"));
        builder.Line(new(from, from), new(from + 200, from + 100));
        builder.Begin(new EntityLook(0x2E, 0, 0, 25, [], "TEXT"));
        builder.Text(new TextRun("Ø 20 h6", new(from + 60, from + 40), new(3, 0), new(0, 3), 0, 0, 0));
        var sheet = builder.Build("Model", unit, [new Layer("0", true, 0)]);
        using (var to = File.Create(Path.Combine(folder, "0.geometry"))) PreparedSheet.WriteGeometry(sheet, to);
        return new Leaf(0, "Model", new SheetFrame(unit, sheet.Extents));
    }

    private static readonly Gen<PointXY> Places = Gen.Select(Gen.Double[1, 199], Gen.Double[1, 99], (x, y) => new PointXY(Math.Round(x, 2), Math.Round(y, 2)));

    private static readonly Gen<Shape> Shapes = Gen.Select(Places, Places, Places, Gen.Int[0, 15]).Where(t => Math.Abs(t.Item1.X - t.Item2.X) > 2 && Math.Abs(t.Item1.Y - t.Item2.Y) > 2 && t.Item3 != t.Item1 && t.Item3 != t.Item2).Select(t =>
    {
        var (a, b, c, kind) = t;
        ImmutableArray<PointXY> three = [a, b, c];
        return (Shape)(kind switch
        {
            0 => new Cloud(a, b),
            1 => new CloudPath(three),
            2 => new Box(a, b),
            3 => new Ellipse(a, b),
            4 => new Highlight(a, b),
            5 => new Strike(a, b),
            6 => new Arrow(a, b),
            7 => new Line(a, b),
            8 => new Dimension(a, b, 7.5, null, "", 3.5),
            9 => new Polyline(three),
            10 => new Freehand(three),
            11 => new WrittenWords(a, "Is this the\nØ 50 of 図面?", 3.5),
            13 => new Stamp(a, "SEEN\nMaren Aas, 27 November 2026", 3.5),
            14 => new WrittenWords(a, "The bore is to be 62 H7, as on the sheet before", 3.5, 40.3),
            12 => new Leader(a, b, "M10, not M8", 3.5),
            _ => new Area(three, null, 3.5),
        });
    });

    /// <summary>Two shapes are drawn alike: corners may be told from the other side.</summary>
    private static void AssertAlike(IEnumerable<SentMark> sent, IEnumerable<BroughtAnnotation> back)
    {
        var (was, now) = (sent.ToList(), back.ToList());
        Assert.Equal(was.Select(m => m.Id.ToString()), now.Select(b => b.Annotation.Id));
        foreach (var (mark, brought) in was.Zip(now))
        {
            var shape = Assert.Single(Annotations.Shapes(brought.Annotation, 3.5));
            Assert.Equal(mark.Shape.GetType(), shape.GetType());
            var (a, b) = (Numbers(mark.Shape), Numbers(shape));
            Assert.Equal(a.Words, b.Words);
            Assert.All(a.Numbers.Zip(b.Numbers), n => Assert.InRange(n.Second - n.First, -0.005, 0.005));
        }

        static (string? Words, double[] Numbers) Numbers(Shape shape)
        {
            // A cloud by what it is drawn about: how many scallops a side has depends on its last digit.
            var outline = (shape switch
            {
                Cloud cloud => new Box(cloud.From, cloud.To),
                CloudPath cloud => new Polyline(cloud.Points),
                _ => shape,
            }).Outline(1);
            var points = outline.Lines.SelectMany(l => l).Append(outline.Anchor).ToList();
            var box = points.Aggregate(Extents.Empty, (e, p) => e.With(p.X, p.Y));
            return (outline.Words?.Text, [points.Count, box.MinX, box.MinY, box.MaxX, box.MaxY, outline.Words?.Height ?? 0]);
        }
    }

    [Theory]
    [InlineData("/MediaBox [0 0 600 300]")]
    [InlineData("/MediaBox [0 0 600 300] /Rotate 90")]
    [InlineData("/MediaBox [-20 -10 900 700] /CropBox [10 20 650 330] /Rotate 180")]
    [InlineData("/MediaBox [0 0 300 600] /UserUnit 2 /Rotate 270")]
    public void WhatGoesOutOnAPageComesBackAsItWas(string page)
    {
        var leaf = PageOf(SmallPdf.Page("10 10 m 100 50 l S", page));
        Shapes.Array[1, 12].Sample(
            shapes =>
            {
                var draft = Draft(leaf, [.. shapes.Select(s => Mark(s))]);
                foreach (var form in new[] { OutForm.Pdf, OutForm.Xfdf }) AssertAlike(draft.Leaves[0].Marks, Read(draft, Written(draft, form, out _)));
            },
            iter: 25);
    }

    [Theory]
    [InlineData(LengthUnit.Millimetre, 0)]
    [InlineData(LengthUnit.Metre, 4_000_000)]
    public void WhatGoesOutOnADrawingComesBackAsItWas(LengthUnit unit, double from)
    {
        var leaf = StrokesOf(unit, from);
        Shape Moved(Shape s) => s switch
        {
            Box b => new Box(new(b.From.X + from, b.From.Y + from), new(b.To.X + from, b.To.Y + from)),
            Polyline p => new Polyline([.. p.Points.Select(q => new PointXY(q.X + from, q.Y + from))]),
            _ => new Arrow(new(from + 10, from + 10), new(from + 90, from + 50)),
        };
        Shapes.Array[1, 8].Sample(
            shapes =>
            {
                var draft = Draft(leaf, [.. shapes.Select(s => Mark(Moved(s)))]);
                foreach (var form in new[] { OutForm.Pdf, OutForm.Xfdf }) AssertAlike(draft.Leaves[0].Marks, Read(draft, Written(draft, form, out _)));
            },
            iter: 10);
    }

    [Fact]
    public void TheFileStaysAPrefixAndItsOwnMarksStay()
    {
        var file = SmallPdf.Page("10 10 m 100 50 l S", "/MediaBox [0 0 200 100] /Annots [<< /Type /Annot /Subtype /Text /Rect [5 5 15 15] /NM (theirs) /T (Somebody) /Contents (Look here) >>]");
        var leaf = PageOf(file);
        var note = Note(7, "Bore to Ø 52 H7", NoteStanding.Answered, new SentReply(1, "Odalys Brandt", At.AddHours(1), "done", "Changed in A.2"));
        var draft = Draft(leaf, Mark(new Cloud(new(10, 10), new(30, 20)), note), Mark(new Arrow(new(40, 20), new(20, 12)), note));
        var written = Written(draft, OutForm.Pdf, out var how);
        Assert.False(how.IsOfPictures);
        Assert.Equal(file, written[..file.Length]);
        Assert.Contains($"<{Convert.ToHexString("theirs"u8)}>", System.Text.Encoding.Latin1.GetString(written[file.Length..]), StringComparison.Ordinal);
        // What lay on the file when it came is not brought in as new; it can be taken up by itself.
        Assert.Equal(("theirs", "Look here", "Somebody"), Assert.Single(BroughtFile.OwnOf([leaf], folder)).Annotation is var own ? (own.Id, own.Contents, own.Author) : default);
        var back = Read(draft, written);
        Assert.Equal([draft.Leaves[0].Marks[0].Id.ToString(), $"{note.Id}:1", $"{note.Id}:state", draft.Leaves[0].Marks[1].Id.ToString()], back.Select(b => b.Annotation.Id));
        var reply = back[1].Annotation;
        Assert.Equal((draft.Leaves[0].Marks[0].Id.ToString(), "Odalys Brandt", "Changed in A.2", At.AddHours(1)), (reply.ReplyTo, reply.Author, reply.Contents, reply.At!.Value));
        Assert.Equal("Completed", back[2].Annotation.State);
        Assert.Equal(("Bore to Ø 52 H7", "Maren Aas", "Request 7", At), (back[0].Annotation.Contents, back[0].Annotation.Author, back[0].Annotation.Subject, back[0].Annotation.At!.Value));
    }

    [Fact]
    public void DrawnIntoThePageNothingIsLeftToBeChanged()
    {
        var leaf = PageOf(SmallPdf.Page("10 10 m 100 50 l S", "/MediaBox [0 0 200 100]"));
        var draft = Draft(leaf, Mark(new Box(new(20, 10), new(50, 30)), Note(1, "Look")));
        var written = Written(draft, OutForm.FlatPdf, out _);
        Assert.Empty(Read(draft, written));
        // The box is drawn: there is rust ink along its upper side, and none in the file itself.
        Assert.True(Rust(written) > 100 && Rust(File.ReadAllBytes(Path.Combine(folder, "source.pdf"))) == 0, $"{Rust(written)} pixels");

        static int Rust(byte[] pdf)
        {
            using var picture = SKBitmap.Decode(SmallPdf.Open(pdf).Picture(0, 800));
            return picture.Pixels.Count(p => p.Red > 140 && p.Green is > 40 and < 110 && p.Blue < 80);
        }
    }

    /// <summary>Runs another program; what it prints.</summary>
    private static string Run(string program, params string[] arguments)
    {
        var start = new ProcessStartInfo(program) { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        using var child = Process.Start(start)!;
        var faults = child.StandardError.ReadToEndAsync();
        var said = child.StandardOutput.ReadToEnd();
        child.WaitForExit();
        Assert.True(child.ExitCode == 0, $"{program}: {faults.Result}{said}");
        return said + faults.Result;
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void OtherReadersFindEveryAnnotationAndNoFault(bool isDrawing)
    {
        var leaf = isDrawing ? StrokesOf() : PageOf(SmallPdf.Page("10 10 m 100 50 l S", "/MediaBox [0 0 600 300] /Rotate 90"));
        PointXY a = new(20, 10), b = new(60, 40), c = new(90, 20);
        Shape[] shapes =
        [
            new Cloud(a, b), new CloudPath([a, b, c]), new Box(a, b), new Ellipse(a, b), new Highlight(a, b), new Strike(a, b), new Arrow(a, b), new Line(a, b), new Dimension(a, b, 5, null, "", 3),
            new Radius(a, b, null, 3), new Angle(a, b, c, 3), new Area([a, b, c], null, 3), new Polyline([a, b, c]), new Freehand([a, b, c]), new Leader(a, b, "図面 Ø", 3), new WrittenWords(a, "Words", 3), new Stamp(a, "SEEN", 3), new Count(b, 12, 3),
            new PathLength([a, b, c], null, 3), new Coordinate(c, a, null, 3),
        ];
        var draft = Draft(leaf, [.. shapes.Select((s, i) => Mark(s, i % 3 == 0 ? Note(i + 1, "See", NoteStanding.Closed, new SentReply(1, "Odalys", At, "done", "")) : null, "12.5 mm"))]);
        var (file, flat) = (Path.Combine(folder, "out.pdf"), Path.Combine(folder, "flat.pdf"));
        File.WriteAllBytes(file, Written(draft, OutForm.Pdf, out _));
        File.WriteAllBytes(flat, Written(draft, OutForm.FlatPdf, out _));
        foreach (var one in new[] { file, flat })
        {
            Assert.Contains("No syntax or stream encoding errors found", Run("qpdf", "--check", one), StringComparison.Ordinal);
            Assert.DoesNotContain("rror", Run("pdftoppm", "-r", "40", "-png", one, Path.Combine(folder, "page")), StringComparison.Ordinal);
        }
        var listed = Run("qpdf", "--json", file);
        foreach (var mark in draft.Leaves[0].Marks) Assert.Contains($"u:{mark.Id}", listed, StringComparison.Ordinal);
        Assert.Equal(20 + 14, Regex.Count(listed, "\"/Type\": \"/Annot\""));
        Assert.DoesNotContain("\"/Annot\"", Run("qpdf", "--json", flat), StringComparison.Ordinal);
    }

    [Fact]
    public void ADamagedFileGoesOutAsPicturesOfItsPages()
    {
        var file = SmallPdf.Page("10 10 m 100 50 l S", "/MediaBox [0 0 200 100]");
        // Its cross-references are not where it says; readers find its objects by looking for them.
        var text = System.Text.Encoding.Latin1.GetString(file);
        var broken = System.Text.Encoding.Latin1.GetBytes(text[..(text.LastIndexOf("startxref", StringComparison.Ordinal) + 9)] + "\n999999\n%%EOF\n");
        var leaf = PageOf(broken);
        var draft = Draft(leaf, Mark(new Box(new(20, 10), new(50, 30))));
        var written = Written(draft, OutForm.Pdf, out var how);
        Assert.True(how.IsOfPictures);
        AssertAlike(draft.Leaves[0].Marks, Read(draft, written));
    }

    [Fact]
    public void AReviewSheetHasEverySheetAndEveryWordAndPicturesOfPlaces()
    {
        var leaf = StrokesOf();
        Directory.CreateDirectory(ReviewSheetFile.FolderOf(folder, 0));
        File.Move(Path.Combine(folder, "0.geometry"), Path.Combine(ReviewSheetFile.FolderOf(folder, 0), "0.geometry"));
        var mark = Mark(new Cloud(new(50, 30), new(90, 60)), Note(1, "See"));
        var said = Enumerable.Range(1, 90).Select(i => $"line {i} of what was said").ToList();
        var words = string.Join(' ', Enumerable.Repeat("a very long matter 図面 Größe", 60)) + "\nlast of it";
        var sheet = new ReviewSheet(
            "PK-1", "Bearing", ["Sent by Odalys"], [new ReviewedItem("TM-1 A.1", "Bearing", "bearing.step", new string('a', 64), [new MarkedLeaf(leaf, [mark], [])])],
            [new SignedLine("Teodor, Check", false), new SignedLine("TM-1 A.1: approve", true)],
            [new ReviewedNote(1, "Request 1, open", "TM-1 A.1, B2", "Maren", words, said, 0, mark.Id), new ReviewedNote(2, "Remark 2, open", "TM-1 A.1", "Maren", new string('x', 3000), [], null, null)]);
        var file = Path.Combine(folder, "review.pdf");
        using (var to = File.Create(file)) ReviewSheetFile.Write(sheet, folder, to);
        Assert.Contains("No syntax or stream encoding errors found", Run("qpdf", "--check", file), StringComparison.Ordinal);
        var text = Regex.Replace(Run("pdftotext", "-layout", file, "-"), @"\s+", " ");
        foreach (var wanted in new[] { "PK-1", "SHA-256 aaaa", "approve", "Request 1, open", "last of it", "line 1 of", "line 90 of", "Remark 2, open" }) Assert.Contains(wanted, text, StringComparison.Ordinal);
        Assert.Equal(3000, text.Count(c => c == 'x'));
        var pages = int.Parse(Regex.Match(Run("pdfinfo", file), @"Pages:\s+(\d+)").Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
        Assert.True(pages >= 4, $"{pages} pages");
        Assert.Matches($"{pages} ?/ ?{pages}", text);
        Assert.Matches($"1 ?/ ?{pages}", text);
        // The picture of the place is cut from the sheet: one for the note that has one.
        Assert.Equal(1, Run("pdfimages", "-list", file).Split('\n').Count(l => l.Contains("image", StringComparison.Ordinal)));
    }

    [Fact]
    public void APictureThatLiesOnASheetGoesOutWithIt()
    {
        var leaf = StrokesOf();
        // Its left half is red, its right half blue; it stands on its side, and only its upper half, as it was drawn, is shown.
        using (var bitmap = new SKBitmap(40, 20))
        {
            for (var x = 0; x < 40; x++)
                for (var y = 0; y < 20; y++) bitmap.SetPixel(x, y, x < 20 ? SKColors.Red : SKColors.Blue);
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
            File.WriteAllBytes(Path.Combine(folder, MarkedFile.Placed([Placing(leaf)])["view.png"]), data.ToArray());
        }
        using var png = SKBitmap.Decode(Written(Draft(Placing(leaf)), OutForm.Png, out _));
        // 4000 pixels for 200 units: it lies from (140, 10) to (160, 50), turned by a quarter to the left, cut to its upper half, which is its left one now.
        SKColor At(double x, double y) => png.GetPixel((int)(x * 20), (int)((100 - y) * 20));
        Assert.Equal(SKColors.Red, At(145, 15));
        Assert.Equal(SKColors.Blue, At(145, 45));
        Assert.Equal(SKColors.White, At(155, 15));
        Assert.Equal(SKColors.White, At(130, 15));
        // Where its file is not at hand there is nothing, and nothing fails.
        File.Delete(Path.Combine(folder, MarkedFile.Placed([Placing(leaf)])["view.png"]));
        using var without = SKBitmap.Decode(Written(Draft(Placing(leaf)), OutForm.Png, out _));
        Assert.Equal(SKColors.White, without.GetPixel(145 * 20, 85 * 20));

        static Leaf Placing(Leaf leaf) => leaf with
        {
            Frame = (SheetFrame)leaf.Frame with
            {
                Pictures = [new PlacedPicture("View.PNG", new(160, 10), new(0, 40), new(-20, 0), 0, [new(0, 0), new(1, 0), new(1, 0.5), new(0, 0.5)])],
            },
        };
    }

    [Theory]
    [InlineData(OutForm.Pdf)]
    [InlineData(OutForm.FlatPdf)]
    public void APictureThatSomebodyPutThereGoesOutWithTheSheet(OutForm form)
    {
        var leaf = StrokesOf();
        using var half = new SKBitmap(new SKImageInfo(40, 20, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        for (var x = 0; x < 40; x++)
            for (var y = 0; y < 20; y++) half.SetPixel(x, y, x < 20 ? SKColors.Red : y < 10 ? SKColors.Blue : SKColors.Transparent);
        using var data = half.Encode(SKEncodedImageFormat.Png, 90);
        using var from = new MemoryStream(data.ToArray());
        var (png, size, fault) = PastedFile.Read(from);
        Assert.Null(fault);
        Assert.Equal(new PastedSize(40, 20), size);
        var name = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(png!));
        File.WriteAllBytes(Path.Combine(folder, MarkedFile.PastedName(name)), png!);
        var draft = Draft(leaf, Mark(new PastedPicture(new(120, 10), new(160, 30), name)), Mark(new PastedPicture(new(10, 60), new(30, 70), new string('0', 64))));
        var file = Path.Combine(folder, "out.pdf");
        File.WriteAllBytes(file, Written(draft, form, out _));
        Assert.Contains("No syntax or stream encoding errors", Run("qpdf", "--check", file), StringComparison.Ordinal);
        Run("pdftoppm", "-r", "72", "-png", "-singlefile", file, Path.Combine(folder, "out"));
        using var page = SKBitmap.Decode(Path.Combine(folder, "out.png"));
        // A millimetre is 72 / 25.4 dots; the sheet is 200 by 100 millimetres.
        SKColor At(double x, double y) => page.GetPixel((int)(x * page.Width / 200), (int)((100 - y) * page.Height / 100));
        Assert.Equal(SKColors.Red, At(130, 20));
        Assert.Equal(SKColors.Blue, At(150, 26));
        Assert.Equal(SKColors.White, At(150, 14));
        using var drawn = SKBitmap.Decode(Written(draft, OutForm.Png, out _));
        Assert.Equal(SKColors.Blue, drawn.GetPixel(150 * 20, 74 * 20));
    }

    [Fact]
    public void WhatIsNoPictureIsRefusedInWordsAndALargeOneIsKeptSmaller()
    {
        static (byte[]? Png, PastedSize Size, string? Fault) Read(byte[] file)
        {
            using var from = new MemoryStream(file);
            return PastedFile.Read(from);
        }
        Assert.NotNull(Read("no picture"u8.ToArray()).Fault);
        Assert.NotNull(Read([]).Fault);
        Assert.NotNull(Read(System.Text.Encoding.ASCII.GetBytes("<svg xmlns='http://www.w3.org/2000/svg'/>")).Fault);
        using var wide = new SKBitmap(5000, 100);
        using var data = wide.Encode(SKEncodedImageFormat.Jpeg, 80);
        Assert.Equal(new PastedSize(2000, 40), Read(data.ToArray()).Size);
        // What was cut off is as much of a picture as there is of it, or none; it never ends the reader.
        for (var length = 1; length < data.Size; length += 97) _ = Read(data.ToArray()[..length]);
    }

    [Fact]
    public void LinesGoOutAsTheirOverlayDrawsThemAndWhatWasCarriedIsDashed()
    {
        var leaf = StrokesOf();
        var box = new Box(new(20, 20), new(120, 80));
        string Written(OverlayLook look, bool isCarried = false)
        {
            var pdf = this.Written(Draft(leaf, Mark(box) with { Look = look, IsCarried = isCarried }), OutForm.Pdf, out _);
            using var document = UglyToad.PdfPig.PdfDocument.Open(pdf);
            var stream = document.Structure.CrossReferenceTable.ObjectOffsets.Keys.Select(k => document.Structure.GetObject(k).Data).OfType<UglyToad.PdfPig.Tokens.StreamToken>()
                .Single(t => t.StreamDictionary.Data.ContainsKey("BBox"));
            var data = stream.Data.ToArray();
            using var packed = new System.IO.Compression.ZLibStream(new MemoryStream(data), System.IO.Compression.CompressionMode.Decompress);
            using var reader = new StreamReader(stream.StreamDictionary.Data.ContainsKey("Filter") ? packed : new MemoryStream(data));
            return reader.ReadToEnd();
        }
        double Width(string content) => double.Parse(Regex.Match(content, @"([\d.]+) w \[").Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
        var usual = Written(OverlayLook.Usual);
        Assert.Contains("[] 0 d", usual, StringComparison.Ordinal);
        Assert.Contains("f\n", usual, StringComparison.Ordinal);
        var other = Written(new OverlayLook(Ink.Plum, PenLine.Dotted, PenWidth.Bold, false, LetterSize.Medium));
        Assert.Matches(@"0\.478\d* 0\.18\d* 0\.388\d* RG", other);
        Assert.Matches(@"\[[\d.]+ [\d.]+\] 0 d", other);
        Assert.DoesNotContain("f\n", other, StringComparison.Ordinal);
        Assert.Equal(1.75, Width(other) / Width(usual), 2);
        Assert.Matches(@"\[[\d.]+ [\d.]+\] 0 d", Written(OverlayLook.Usual, isCarried: true));
    }

    [Fact]
    public void PicturesShowTheSheetAndWhatLiesOnIt()
    {
        var draft = Draft(StrokesOf(), Mark(new Box(new(20, 10), new(50, 30)), Note(12, "Look")));
        using var png = SKBitmap.Decode(Written(draft, OutForm.Png, out _));
        Assert.Equal((4000, 2000), (png.Width, png.Height));
        // On the box's left side, and on the line from corner to corner.
        Assert.Contains(Enumerable.Range(380, 40), x => png.GetPixel(x, 1600) is { Red: > 140, Green: < 110, Blue: < 80 });
        Assert.Contains(Enumerable.Range(1980, 40), y => png.GetPixel(2000, 1000 + y - 2000).Red < 100);
        var svg = System.Text.Encoding.UTF8.GetString(Written(draft, OutForm.Svg, out _));
        Assert.Contains("<svg", svg, StringComparison.Ordinal);
        // Letters are shapes: no reader needs the lettering.
        Assert.DoesNotContain("<text", svg, StringComparison.Ordinal);
        Assert.DoesNotContain("href", svg, StringComparison.Ordinal);
    }

    [Fact]
    public void APreparedSheetIsReadAsItWasWritten()
    {
        var builder = new SheetBuilder { Tolerance = 0.1 };
        builder.Begin(new EntityLook(0x2A, 0, 0xFF0000, 25, [], "LINE"));
        builder.Line(new(1000, 0), new(1100, 50));
        builder.Triangle(new(1080, 0), new(1090, 0), new(1080, 10));
        builder.Begin(new EntityLook(0x2E, 0, 0, 25, [], "TEXT"));
        builder.Text(new TextRun("Ø 20", new(1060, 40), new(3, 0), new(0, 3), 0.5f, 1, 0));
        var sheet = builder.Build("Model", LengthUnit.Inch, [new Layer("0", true, 0)]);
        using var form = new MemoryStream();
        PreparedSheet.WriteGeometry(sheet, form);
        var read = PreparedSheet.ReadGeometry(form.ToArray());
        using var again = new MemoryStream();
        PreparedSheet.WriteGeometry(read, again);
        Assert.Equal(form.ToArray(), again.ToArray());
        for (var cut = 0; cut < form.Length; cut += 7) Assert.Throws<InvalidDataException>(() => PreparedSheet.ReadGeometry(form.ToArray().AsSpan(0, cut)));
    }

    [Theory]
    [InlineData("not a file at all", "neither PDF nor XFDF")]
    [InlineData("<xfdf><annots>", "line 1")]
    [InlineData("<html/>", "no annotations")]
    [InlineData("<!DOCTYPE x [<!ENTITY a \"b\">]><xfdf>&a;</xfdf>", "cannot be read")]
    [InlineData("%PDF-1.7\n1 0 obj\n<<", "damaged")]
    public void WhatIsNoMarkedFileIsRefusedInWords(string file, string words)
    {
        using var from = new MemoryStream(System.Text.Encoding.UTF8.GetBytes(file));
        var (found, fault) = BroughtFile.Read([StrokesOf()], folder, from);
        Assert.Null(found);
        Assert.Contains(words, fault, StringComparison.Ordinal);
    }

    /// <summary>A marked file is a stranger's: whatever it holds, there is an answer, and nothing else happens.</summary>
    [Fact]
    public void MarkedFilesThatWereMadeToHarmGiveAnAnswer()
    {
        var leaf = PageOf(SmallPdf.Page("10 10 m 100 50 l S", "/MediaBox [0 0 200 100]"));
        PointXY a = new(20, 10), b = new(50, 30);
        var draft = Draft(leaf, Mark(new Cloud(a, b), Note(1, "Look", NoteStanding.Answered, new SentReply(1, "Odalys", At, "done", "yes"))), Mark(new Freehand([a, b, new(60, 12)])), Mark(new WrittenWords(a, "Words", 3)), Mark(new Highlight(a, b)));
        byte[][] seeds = [Written(draft, OutForm.Pdf, out _), Written(draft, OutForm.Xfdf, out _)];
        var random = new Random(20261127);
        foreach (var seed in seeds)
            for (var i = 0; i < 150; i++)
            {
                var file = Hostile.Changed(seed, random);
                using var from = new MemoryStream(file);
                var (found, fault) = BroughtFile.Read([leaf], folder, from);
                Assert.True(found is not null || fault is { Length: > 10 });
                // And whatever was found can be planned and drawn, or is left out.
                if (found is not null)
                    foreach (var one in Bringing.Plan(found, [leaf], new Dictionary<Guid, KnownMark>(), new Dictionary<Guid, KnownNote>(), [], 4000, Guid.NewGuid).Taken.SelectMany(t => t.Shapes)) _ = one.Shape.Outline(1);
            }
        // A draft's own file that was made to harm goes out with what lies on it all the same, or is refused in words.
        for (var i = 0; i < 60; i++)
        {
            File.WriteAllBytes(Path.Combine(folder, "source.pdf"), Hostile.Changed(seeds[0], random));
            try
            {
                Assert.Contains("%PDF", System.Text.Encoding.Latin1.GetString(Written(draft, OutForm.Pdf, out _).AsSpan(0, 200)), StringComparison.Ordinal);
            }
            catch (UnreadableException e)
            {
                Assert.True(e.Message.Length > 10);
            }
        }
    }
}
