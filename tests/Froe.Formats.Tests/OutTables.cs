using System.Collections.Immutable;
using System.Text.RegularExpressions;
using CsCheck;
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
public sealed class OutTables : SentOut
{
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
        Assert.Equal(("theirs", "Look here", "Somebody"), Assert.Single(BroughtFile.OwnOf([leaf], Folder)).Annotation is var own ? (own.Id, own.Contents, own.Author) : default);
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
        Assert.True(Rust(written) > 100 && Rust(File.ReadAllBytes(Path.Combine(Folder, "source.pdf"))) == 0, $"{Rust(written)} pixels");

        static int Rust(byte[] pdf)
        {
            using var picture = SKBitmap.Decode(SmallPdf.Open(pdf).Picture(0, 800));
            return picture.Pixels.Count(p => p.Red > 140 && p.Green is > 40 and < 110 && p.Blue < 80);
        }
    }

    /// <summary>Runs another program; what it prints.</summary>
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
        var (file, flat) = (Path.Combine(Folder, "out.pdf"), Path.Combine(Folder, "flat.pdf"));
        File.WriteAllBytes(file, Written(draft, OutForm.Pdf, out _));
        File.WriteAllBytes(flat, Written(draft, OutForm.FlatPdf, out _));
        foreach (var one in new[] { file, flat })
        {
            Assert.Contains("No syntax or stream encoding errors found", Run("qpdf", "--check", one), StringComparison.Ordinal);
            Assert.DoesNotContain("rror", Run("pdftoppm", "-r", "40", "-png", one, Path.Combine(Folder, "page")), StringComparison.Ordinal);
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
        Directory.CreateDirectory(ReviewSheetFile.FolderOf(Folder, 0));
        File.Move(Path.Combine(Folder, "0.geometry"), Path.Combine(ReviewSheetFile.FolderOf(Folder, 0), "0.geometry"));
        var mark = Mark(new Cloud(new(50, 30), new(90, 60)), Note(1, "See"));
        var said = Enumerable.Range(1, 90).Select(i => $"line {i} of what was said").ToList();
        var words = string.Join(' ', Enumerable.Repeat("a very long matter 図面 Größe", 60)) + "\nlast of it";
        var sheet = new ReviewSheet(
            "PK-1", "Bearing", ["Sent by Odalys"], [new ReviewedItem("TM-1 A.1", "Bearing", "bearing.step", new string('a', 64), [new MarkedLeaf(leaf, [mark], [])])],
            [new SignedLine("Teodor, Check", false), new SignedLine("TM-1 A.1: approve", true)],
            [new ReviewedNote(1, "Request 1, open", "TM-1 A.1, B2", "Maren", words, said, 0, mark.Id), new ReviewedNote(2, "Remark 2, open", "TM-1 A.1", "Maren", new string('x', 3000), [], null, null)]);
        var file = Path.Combine(Folder, "review.pdf");
        using (var to = File.Create(file)) ReviewSheetFile.Write(sheet, Folder, to);
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
        var (found, fault) = BroughtFile.Read([StrokesOf()], Folder, from);
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
                var (found, fault) = BroughtFile.Read([leaf], Folder, from);
                Assert.True(found is not null || fault is { Length: > 10 });
                // And whatever was found can be planned and drawn, or is left out.
                if (found is not null)
                    foreach (var one in Bringing.Plan(found, [leaf], new Dictionary<Guid, KnownMark>(), new Dictionary<Guid, KnownNote>(), [], 4000, Guid.NewGuid).Taken.SelectMany(t => t.Shapes)) _ = one.Shape.Outline(1);
            }
        // A draft's own file that was made to harm goes out with what lies on it all the same, or is refused in words.
        for (var i = 0; i < 60; i++)
        {
            File.WriteAllBytes(Path.Combine(Folder, "source.pdf"), Hostile.Changed(seeds[0], random));
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
