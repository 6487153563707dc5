using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Shapes as they are drawn, and who may change a markup until when.</summary>
public class OverlayTables
{
    private static readonly Guid Overlay = Guid.Parse("00000000-0000-0000-0000-0000000000aa"), Id = Guid.Parse("00000000-0000-0000-0000-000000000001"), Note = Guid.Parse("00000000-0000-0000-0000-0000000000cc");
    private static readonly Cloud Drawn = new(new(10, 10), new(60, 40));
    private static readonly Leaf[] A3 = [new(0, "Model", new SheetFrame(LengthUnit.Millimetre, new(0, 0, 420, 297)))];

    private static MarkupContext On(DraftStanding draft, bool signed = false, NoteStanding? note = null, NoteKind kind = NoteKind.Request, Guid? newNote = null) =>
        new(draft, signed, A3, note is { } standing ? new Dictionary<Guid, (NoteKind, NoteStanding)> { [Note] = (kind, standing) } : [], newNote);

    private static PutMarkup Put(Shape? shape = null, Guid? note = null, long version = 0, int leaf = 0) => new(Id, Overlay, new OnSheet(leaf), shape ?? Drawn, note, version);

    private static Markup Lying(long version = 3, Guid? note = null, bool erased = false) => new(Id, Overlay, new OnSheet(0), Drawn, note, version, erased);

    private static string Said(MarkupOutcome outcome) =>
        outcome.Refusal?.Code ?? (outcome.IsStale ? "stale" : outcome.After is null ? "nothing" : outcome.After.IsErased ? "erased" : "put");

    private static string Apply(Markup? before, MarkupChange change, MarkupContext context, bool isOwner = true, long signed = 0) => Said(MarkupRules.Apply(before, change, Overlay, isOwner, signed, context));

    [Fact]
    public void OnlyTheOwnerDrawsAndOnlyOnADraftThatIsNotThroughWithItsReview()
    {
        foreach (var (draft, said) in new[] { (DraftStanding.Unsent, "put"), (DraftStanding.UnderReview, "put"), (DraftStanding.Reviewed, "not-under-review") })
        {
            Assert.Equal(said, Apply(null, Put(), On(draft)));
            Assert.Equal(said, Apply(Lying(), Put(new Arrow(new(1, 1), new(9, 9)), version: 3), On(draft)));
            Assert.Equal(said == "put" ? "erased" : said, Apply(Lying(), new EraseMarkup(Id, 3), On(draft)));
            Assert.Equal("not-your-overlay", Apply(null, Put(), On(draft), isOwner: false));
            Assert.Equal("not-your-overlay", Apply(Lying(), new EraseMarkup(Id, 3), On(draft), isOwner: false));
        }
    }

    [Fact]
    public void WhatIsAskedAgainDoesNothingAndWhatIsStaleIsRefused()
    {
        var here = On(DraftStanding.UnderReview);
        Assert.Equal("nothing", Apply(Lying(), Put(), here));
        Assert.Equal("nothing", Apply(Lying(), Put(version: 2), here));
        Assert.Equal("stale", Apply(Lying(), Put(new Cloud(new(10, 10), new(60, 41)), version: 2), here));
        Assert.Equal("stale", Apply(null, Put(version: 2), here));
        Assert.Equal("stale", Apply(Lying(), new EraseMarkup(Id, 2), here));
        Assert.Equal("nothing", Apply(Lying(erased: true), new EraseMarkup(Id, 2), here));
        Assert.Equal("nothing", Apply(null, new EraseMarkup(Id, 2), here));
        // Undone: put back as it was.
        Assert.Equal("put", Apply(Lying(erased: true), Put(version: 3), here));
        Assert.Equal("other-overlay", Said(MarkupRules.Apply(Lying(), Put(version: 3), Guid.NewGuid(), true, 0, here)));
    }

    [Fact]
    public void WhatWasSignedWithStaysAndWhatIsDrawnAfterwardsDoesNot()
    {
        var signed = On(DraftStanding.UnderReview, signed: true);
        Assert.Equal("already-signed", Apply(Lying(3), new EraseMarkup(Id, 3), signed, signed: 3));
        Assert.Equal("erased", Apply(Lying(4), new EraseMarkup(Id, 4), signed, signed: 3));
        Assert.Equal("put", Apply(null, Put(), signed, signed: 3));
        // The signature was taken back, or fell.
        Assert.Equal("erased", Apply(Lying(3), new EraseMarkup(Id, 3), On(DraftStanding.UnderReview), signed: 3));
    }

    [Theory]
    [InlineData(NoteStanding.Open, NoteKind.Request, false, "put", "erased")]
    [InlineData(NoteStanding.Answered, NoteKind.Request, false, "note-answered", "note-answered")]
    [InlineData(NoteStanding.Closed, NoteKind.Remark, false, "note-answered", "note-answered")]
    [InlineData(NoteStanding.Withdrawn, NoteKind.Question, false, "note-answered", "note-answered")]
    [InlineData(null, NoteKind.Request, false, "not-your-note", "note-answered")]
    [InlineData(NoteStanding.Open, NoteKind.Request, true, "already-signed", "erased")]
    [InlineData(NoteStanding.Open, NoteKind.Question, true, "put", "erased")]
    public void TheNoteSaysWhetherItsPlacesCanChange(NoteStanding? standing, NoteKind kind, bool signed, string placed, string erased)
    {
        var context = On(DraftStanding.UnderReview, signed, standing, kind);
        Assert.Equal(placed, Apply(null, Put(note: Note), context));
        Assert.Equal(placed, Apply(Lying(), Put(note: Note, version: 3), context));
        // Undone after the note had its answer: it is put back no more.
        Assert.Equal(placed, Apply(Lying(note: Note, erased: true), Put(note: Note, version: 3), context));
        // Its own place, drawn after signing.
        Assert.Equal(erased, Apply(Lying(note: Note), new EraseMarkup(Id, 3), context, signed: 2));
        if (placed == "already-signed") Assert.Equal("put", Apply(null, Put(note: Note), context with { NewNote = Note }));
    }

    [Fact]
    public void AMarkupLiesOnASheetOfItsDraft()
    {
        var here = On(DraftStanding.Unsent);
        Assert.Equal("markup-off-sheet", Apply(null, Put(leaf: 1), here));
        Assert.Equal("markup-off-sheet", Apply(null, Put(new Arrow(new(5, 5), new(5, 5))), here));
        Assert.Equal("markup-off-sheet", Apply(null, Put(new Cloud(new(double.NaN, 1), new(3, 3))), here));
    }

    [Fact]
    public void ADraftStandsAsItsPackageSays()
    {
        var (draft, person, other) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var verdicts = new ItemVerdict(draft, "x", Verdict.Approve, "");
        var slip = Slip.Blank with { Standing = SlipStanding.InReview, Items = [new(Guid.NewGuid(), draft, "x")], Signatures = [new("seat", person, [verdicts])] };
        Assert.Equal(DraftStanding.Unsent, MarkupRules.Standing(null, draft));
        Assert.Equal(DraftStanding.UnderReview, MarkupRules.Standing(slip, draft));
        Assert.Equal(DraftStanding.Reviewed, MarkupRules.Standing(slip, other));
        foreach (var standing in new[] { SlipStanding.Returned, SlipStanding.Released, SlipStanding.Stopped })
            Assert.Equal(DraftStanding.Reviewed, MarkupRules.Standing(slip with { Standing = standing }, draft));
        Assert.True(Reviewing.HasSigned(slip, person, draft));
        Assert.False(Reviewing.HasSigned(slip, person, other));
        Assert.False(Reviewing.HasSigned(slip, other, draft));
        Assert.True(Reviewing.HasSigned(slip with { Signatures = [], Carried = slip.Signatures }, person, draft));
    }

    [Fact]
    public void ADigestIsOfTheIdsAndWhatIsWrittenInTheirOrder()
    {
        byte[] Hash(string words) => SHA256.HashData(Encoding.UTF8.GetBytes(words));
        // By hand: 00…01 before 10…00, each its sixteen bytes and the hash.
        var (first, second) = (Guid.Parse("00000000-0000-0000-0000-000000000001"), Guid.Parse("10000000-0000-0000-0000-000000000000"));
        var bytes = Convert.FromHexString("00000000000000000000000000000001").Concat(Hash("a")).Concat(Convert.FromHexString("10000000000000000000000000000000")).Concat(Hash("b")).ToArray();
        Assert.Equal(SHA256.HashData(bytes), OverlayRules.Digest([(second, Hash("b")), (first, Hash("a"))]));
        Assert.Equal("e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855", Convert.ToHexStringLower(OverlayRules.Digest([])));
    }

    private static readonly Gen<PointXY> Points = Gen.Select(Gen.Double[-1e4, 1e4], Gen.Double[-1e4, 1e4]).Select(p => new PointXY(p.Item1, p.Item2));

    [Fact]
    public void ACloudGoesRoundItsRectangleAndBulgesOutwardsOnly() => Gen.Select(Points, Points, Gen.Double[0.1, 1000]).Where(c => c.Item1.X != c.Item2.X && c.Item1.Y != c.Item2.Y).Sample((from, to, detail) =>
    {
        var line = new Cloud(from, to).Outline(detail).Lines.Single();
        var box = Extents.Empty.With(from.X, from.Y).With(to.X, to.Y);
        // Within a millionth, not rounded to it: two numbers either side of a half round apart.
        Assert.Equal(line[0].X, line[^1].X, 1e-6);
        Assert.Equal(line[0].Y, line[^1].Y, 1e-6);
        var slack = 1e-9 * (1 + box.Diagonal);
        foreach (var p in line)
            Assert.False(p.X > box.MinX + slack && p.X < box.MaxX - slack && p.Y > box.MinY + slack && p.Y < box.MaxY - slack, $"{p} lies inside");
        // No scallop rises higher than it is wide; with sides of many scallops none is wider than half as much again.
        var widest = Math.Max(Math.Min(Math.Max(box.Width, box.Height), detail * 1.5), Math.Max(box.Width, box.Height) / 400);
        Assert.All(line, p => Assert.True(p.X >= box.MinX - widest && p.X <= box.MaxX + widest && p.Y >= box.MinY - widest && p.Y <= box.MaxY + widest));
        // Either corner pair makes the same cloud.
        Assert.Equal(line, new Cloud(new(from.X, to.Y), new(to.X, from.Y)).Outline(detail).Lines.Single());
    });

    [Fact]
    public void AnArrowHasTwoWingsOfTheLengthAskedFor() => Gen.Select(Points, Points, Gen.Double[0.1, 1000]).Where(c => c.Item1 != c.Item2).Sample((from, to, detail) =>
    {
        var outline = new Arrow(from, to).Outline(detail);
        Assert.Equal([from, to], outline.Lines[0]);
        foreach (var wing in new[] { outline.Lines[1][0], outline.Lines[1][2] }) Assert.Equal(detail, Math.Sqrt(Math.Pow(wing.X - to.X, 2) + Math.Pow(wing.Y - to.Y, 2)), 6);
    });

    [Theory]
    [InlineData(1, 11, 1, 11, "B12")]
    [InlineData(1, 11, 3, 13, "B12:D14")]
    [InlineData(0, 11, 4, 13, "rows 12 to 14")]
    [InlineData(0, 4, 4, 4, "row 5")]
    [InlineData(1, 0, 2, 19, "columns B to C")]
    [InlineData(3, 0, 3, 19, "column D")]
    [InlineData(0, 0, 4, 19, "rows 1 to 20")]
    public void ARangeOfCellsIsCalledByItsPlace(int left, int top, int right, int bottom, string words) =>
        Assert.Equal(words, new CellRange(new(left, top), new(right, bottom)).Words(new TableFrame(20, 5)));

    [Fact]
    public void ARangeLiesOnATableWithinItsCellsAndNothingElseDoes()
    {
        var (table, sheet) = (new TableFrame(20, 5), new SheetFrame(LengthUnit.Millimetre, new Extents(0, 0, 420, 297)));
        CellRange Range(double left, double top, double right, double bottom) => new(new(left, top), new(right, bottom));
        Assert.True(Range(0, 0, 4, 19).Fits(new OnCells(0), table));
        Assert.False(Range(0, 0, 5, 19).Fits(new OnCells(0), table));
        Assert.False(Range(0, 0, 4, 20).Fits(new OnCells(0), table));
        Assert.False(Range(2, 3, 1, 3).Fits(new OnCells(0), table));
        Assert.False(Range(0.5, 0, 1, 1).Fits(new OnCells(0), table));
        Assert.False(Range(double.NaN, 0, 1, 1).Fits(new OnCells(0), table));
        Assert.False(Range(-1, 0, 1, 1).Fits(new OnCells(0), table));
        Assert.False(Range(0, 0, 1, 1).Fits(new OnSheet(0), sheet));
        Assert.False(Range(0, 0, 1, 1).Fits(new OnCells(0), sheet));
        Assert.False(new Cloud(new(0, 0), new(3, 3)).Fits(new OnCells(0), table));
        Assert.False(new Cloud(new(0, 0), new(3, 3)).Fits(new OnSheet(0), table));
        Assert.True(new Cloud(new(0, 0), new(3, 3)).Fits(new OnSheet(0), sheet));
    }

    [Fact]
    public void APinStandsOnAModelAndComesBackAsItWasWritten()
    {
        Pin Of(double x, params string[] path) => new(3, [.. path], 4, new(x, -62, 330), new(1, 0, 0), new PinEye(new(150, -20, 330), 0.95, 0.3, 340, false, [1, 2]));
        var frame = new SceneFrame(LengthUnit.Millimetre, [0, 0, 0, 1, 1, 1], 1, 1, 12);
        Assert.True(Of(20, "Mount", "Arm").Fits(new OnScene(0), frame));
        Assert.False(Of(20).Fits(new OnScene(0), frame));
        Assert.False(Of(double.NaN, "Arm").Fits(new OnScene(0), frame));
        Assert.False(Of(20, new string('a', 700)).Fits(new OnScene(0), frame));
        Assert.False((Of(20, "Arm") with { Component = -1 }).Fits(new OnScene(0), frame));
        Assert.False((Of(20, "Arm") with { Path = default }).Fits(new OnScene(0), frame));
        Assert.False((Of(20, "Arm") with { Eye = null! }).Fits(new OnScene(0), frame));
        Assert.False(Of(20, "Arm").Fits(new OnSheet(0), frame));
        Assert.False(new Cloud(new(0, 0), new(3, 3)).Fits(new OnScene(0), frame));
        Assert.Equal("Arm", Of(20, "Mount", "Arm").Words());
        Shape pin = Of(20.5, "Mount", "Arm");
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web) { AllowOutOfOrderMetadataProperties = true };
        var back = JsonSerializer.Deserialize<Shape>(JsonSerializer.Serialize(pin, options), options);
        Assert.Equal(pin, back);
        Assert.Equal(pin.GetHashCode(), back!.GetHashCode());
        Assert.NotEqual(pin, Of(20.5, "Mount", "Base"));
    }

    [Theory]
    [InlineData(0, "A")]
    [InlineData(25, "Z")]
    [InlineData(26, "AA")]
    [InlineData(701, "ZZ")]
    [InlineData(702, "AAA")]
    [InlineData(16_383, "XFD")]
    public void ColumnsAreCountedInLetters(int column, string letters) => Assert.Equal(letters, CellRange.Letters(column));

    public static TheoryData<string, Shape> Fitting => new()
    {
        { "put", new CloudPath([new(10, 10), new(60, 10), new(60, 40)]) },
        { "put", new Box(new(10, 10), new(60, 40)) },
        { "put", new Ellipse(new(60, 40), new(10, 10)) },
        { "put", new Highlight(new(10, 10), new(60, 40)) },
        { "put", new Line(new(10, 10), new(60, 10)) },
        { "put", new Strike(new(10, 10), new(10, 40)) },
        { "put", new Polyline([new(10, 10), new(60, 10)]) },
        { "put", new Freehand([new(10, 10), new(60, 10), new(10, 10)]) },
        { "put", new Leader(new(10, 10), new(60, 40), "M10", 3.5) },
        { "put", new WrittenWords(new(10, 10), "M10", 3.5) },
        { "put", new Dimension(new(10, 10), new(60, 10), -20, 50, "2500", 3.5) },
        { "put", new Dimension(new(10, 10), new(60, 10), 0, null, "", 3.5) },
        { "put", new Area([new(10, 10), new(60, 10), new(60, 40)], 20, 3.5) },
        { "put", new Angle(new(40, 10), new(20, 50), new(10, 10), 3.5) },
        { "put", new Radius(new(10, 10), new(40, 50), null, 3.5) },
        { "put", new PathLength([new(10, 10), new(60, 10)], null, 3.5) },
        { "put", new Coordinate(new(10, 10), new(-1e6, 1e6), null, 3.5) },
        { "markup-off-sheet", new PathLength([new(10, 10), new(60, 10)], 20, 0) },
        { "markup-off-sheet", new Coordinate(new(10, 10), new(double.NaN, 0), null, 3.5) },
        { "markup-off-sheet", new Coordinate(new(1e9, 10), new(0, 0), null, 3.5) },
        { "markup-off-sheet", new Area([new(10, 10), new(60, 10), new(35, 10)], 20, 3.5) },
        { "markup-off-sheet", new Area([new(10, 10), new(60, 10), new(60, 40)], -1, 3.5) },
        { "markup-off-sheet", new Angle(new(10, 10), new(20, 50), new(10, 10), 3.5) },
        { "markup-off-sheet", new Angle(new(40, 10), new(20, 50), new(10, 10_000), 3.5) },
        { "markup-off-sheet", new Radius(new(10, 10), new(10, 10), null, 3.5) },
        { "markup-off-sheet", new Radius(new(10, 10), new(40, 50), null, double.NaN) },
        // No size, nothing to be read, or more than is taken.
        { "markup-off-sheet", new Box(new(10, 10), new(60, 10)) },
        { "markup-off-sheet", new Ellipse(new(10, 10), new(10, 40)) },
        { "markup-off-sheet", new Line(new(10, 10), new(10, 10)) },
        { "markup-off-sheet", new Polyline([]) },
        { "markup-off-sheet", new Polyline(default) },
        { "markup-off-sheet", new Polyline([new(10, 10)]) },
        { "markup-off-sheet", new Polyline([new(10, 10), new(10, 10)]) },
        { "markup-off-sheet", new CloudPath([new(10, 10), new(60, 10)]) },
        { "markup-off-sheet", new Freehand([.. Enumerable.Range(0, PointPath.Most + 1).Select(i => new PointXY(i % 100, i % 90))]) },
        { "markup-off-sheet", new WrittenWords(new(10, 10), " \n ", 3.5) },
        { "markup-off-sheet", new WrittenWords(new(10, 10), new string('x', WrittenWords.Longest + 1), 3.5) },
        { "markup-off-sheet", new WrittenWords(new(10, 10), "M10", 0) },
        { "markup-off-sheet", new Leader(new(10, 10), new(10, 10), "M10", 3.5) },
        { "markup-off-sheet", new Leader(new(10, 10), new(60, 40), "", 3.5) },
        { "markup-off-sheet", new Dimension(new(10, 10), new(10, 10), 5, 50, "", 3.5) },
        { "markup-off-sheet", new Dimension(new(10, 10), new(60, 10), 5, 0, "", 3.5) },
        { "markup-off-sheet", new Dimension(new(10, 10), new(60, 10), 5, 50, new string('9', Dimension.LongestWanted + 1), 3.5) },
        // Far off, or nowhere.
        { "markup-off-sheet", new Polyline([new(10, 10), new(60, 5000)]) },
        { "markup-off-sheet", new Polyline([new(10, 10), new(double.NaN, 10)]) },
        { "markup-off-sheet", new CloudPath([new(10, 10), new(60, 10), new(double.PositiveInfinity, 40)]) },
        { "markup-off-sheet", new WrittenWords(new(-5000, 10), "M10", 3.5) },
        { "markup-off-sheet", new Dimension(new(10, 10), new(60, 10), 50_000, 50, "", 3.5) },
        { "markup-off-sheet", new Dimension(new(10, 10), new(60, 10), double.NaN, 50, "", 3.5) },
    };

    [Theory]
    [MemberData(nameof(Fitting))]
    public void AShapeOfEveryKindLiesOnItsSheetOrIsRefused(string said, Shape shape) => Assert.Equal(said, Apply(null, Put(shape), On(DraftStanding.UnderReview)));

    [Fact]
    public void WhatIsDrawnThroughPointsIsTheSameWhenItsPointsAre()
    {
        static Polyline Drawn(params PointXY[] points) => new([.. points]);
        Assert.Equal(Drawn(new(1, 2), new(3, 4)), Drawn(new(1, 2), new(3, 4)));
        Assert.Equal(Drawn(new(1, 2), new(3, 4)).GetHashCode(), Drawn(new(1, 2), new(3, 4)).GetHashCode());
        Assert.NotEqual(Drawn(new(1, 2), new(3, 4)), Drawn(new(1, 2), new(3, 5)));
        Assert.NotEqual(Drawn(new(1, 2), new(3, 4)), Drawn(new(1, 2), new(3, 4), new(5, 6)));
        Assert.NotEqual<PointPath>(Drawn(new(1, 2), new(3, 4)), new Freehand([new(1, 2), new(3, 4)]));
        // Asked again, it does nothing.
        var lies = Lying() with { Shape = Drawn(new(10, 20), new(30, 40)) };
        Assert.Equal("nothing", Apply(lies, Put(Drawn(new(10, 20), new(30, 40))), On(DraftStanding.UnderReview)));
    }

    [Fact]
    public void ACloudByPointsBulgesOutwardsWhicheverWayTheyGoRound() => Gen.Select(Gen.Int[3, 12], Gen.Double[5, 100], Gen.Double[0.5, 9], Gen.Bool).Sample((count, radius, detail, isClockwise) =>
    {
        var corners = Enumerable.Range(0, count).Select(i => 2 * Math.PI * i / count * (isClockwise ? -1 : 1)).Select(a => new PointXY(300 + (radius * Math.Cos(a)), 200 + (radius * Math.Sin(a)))).ToArray();
        var line = new CloudPath([.. corners]).Outline(detail).Lines.Single();
        Assert.Equal(line[0], line[^1]);
        // Of a round of corners no scallop's point lies nearer to the middle than the side it stands on.
        var least = radius * Math.Cos(Math.PI / count);
        Assert.All(line, p => Assert.True(Math.Sqrt(((p.X - 300) * (p.X - 300)) + ((p.Y - 200) * (p.Y - 200))) >= least - 1e-9));
        Assert.All(corners, c => Assert.Contains(line, p => Math.Abs(p.X - c.X) < 1e-9 && Math.Abs(p.Y - c.Y) < 1e-9));
    });

    [Fact]
    public void AnAreaAndAnAngleAreTheSameHoweverTheyAreTurnedAndMoved() => Gen.Select(Gen.Double[1, 200], Gen.Double[1, 200], Gen.Double[0, 7], Gen.Double[-1e6, 1e6], Gen.Double[0.05, 3]).Sample((width, height, turn, far, angle) =>
    {
        PointXY At(double x, double y) => new(far + (x * Math.Cos(turn)) - (y * Math.Sin(turn)), -far + (x * Math.Sin(turn)) + (y * Math.Cos(turn)));
        // A rectangle with a triangle cut out of its side, by hand: less half of a half.
        var area = new Area([At(0, 0), At(width, 0), At(width, height), At(width / 2, height / 2), At(0, height)], null, 3);
        Assert.Equal(width * height * 0.75, area.Size, 1e-6 * width * height * (1 + (Math.Abs(far) / 1000)));
        Assert.Equal(angle, new Angle(At(width, 0), At(height * Math.Cos(angle), height * Math.Sin(angle)), At(0, 0), 3).Turn, 1e-6 * (1 + (Math.Abs(far) / Math.Min(width, height))));
    });

    [Fact]
    public void ALengthIsTheSameHoweverItIsTurnedAndMoved() => Gen.Select(Gen.Double[-400, 400], Gen.Double[1, 400], Gen.Double[0, 7], Gen.Double[-50, 50]).Sample((x, length, turn, offset) =>
    {
        var shape = new Dimension(new(x, -x), new(x + (length * Math.Cos(turn)), -x + (length * Math.Sin(turn))), offset, null, "", 3);
        Assert.Equal(length, shape.Length, 1e-9);
        // Its line is as long, and lies as far beside.
        var (a, b) = (shape.Outline(1).Lines[2][0], shape.Outline(1).Lines[2][1]);
        Assert.Equal(length, Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y))), 1e-9);
        Assert.Equal(Math.Abs(offset), Math.Sqrt(((a.X - x) * (a.X - x)) + ((a.Y + x) * (a.Y + x))), 1e-9);
    });
}
