using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Register;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Title blocks laid out by hand: where their values stand, in which language, and how they lie.</summary>
public class TitleBlockTables
{
    private static WrittenRun Line(string text, double x, double y, double high = 2.5) => new(text, new(x, y), new(text.Length * high * 0.6, 0), new(0, high));

    /// <summary>Words all over the sheet, so that the block is a part of it.</summary>
    private static readonly WrittenRun[] Rest = [Line("PLAN OF LEVEL 2", 100, 500, 5), Line("9420", 300, 400), Line("GENERAL NOTES", 20, 60), Line("Date of concrete cores is unknown", 20, 40), Line("C1", 700, 560)];

    private static TitleBlock? Read(params WrittenRun[] lines) => TitleBlocks.Of([.. Rest, .. lines]);

    private static readonly string[] Words = ["Scale", "Title", "Rev", "Date", "No.", "TO-1", "1:50", "B", "Sheet: 2", "Pier", ""];

    private static string All(TitleBlock? block) => string.Join(" | ", block?.Fields.Select(f => $"{f.Kind} {f.Words}") ?? []);

    private static readonly WrittenRun[] Below =
    [
        Line("Drawn", 650, 60, 1.8), Line("GA", 650, 55), Line("Scale", 690, 60, 1.8), Line("1 : 50", 690, 55), Line("Date", 730, 60, 1.8), Line("19 Oct 2026", 730, 55),
        Line("Title", 650, 48, 1.8), Line("Pier, survey of cracks", 650, 42, 3.5), Line("Drawing no.", 650, 34, 1.8), Line("TO-1106", 650, 27, 5), Line("Rev.", 760, 34, 1.8), Line("B", 760, 27, 5),
    ];

    [Fact]
    public void ValuesStandBelowTheirLabels() => Assert.Equal("Number TO-1106 | Title Pier, survey of cracks | Revision B | Scale 1 : 50 | Date 19 Oct 2026 | Drawn GA", All(Read(Below)));

    [Fact]
    public void ValuesStandRightOfTheirLabels() => Assert.Equal("Number 4711-02 | Title Stahlbau Halle 3 | Revision C | Sheet 2/7 | Scale 1:100", All(Read(
        Line("Benennung:", 600, 60), Line("Stahlbau Halle 3", 640, 60, 3.5), Line("Zeichnungs-Nr.", 600, 50), Line("4711-02", 640, 50), Line("Maßstab", 600, 40), Line("1:100", 640, 40), Line("Änderung", 600, 30), Line("C", 640, 30), Line("Blatt", 700, 30), Line("2/7", 720, 30))));

    [Fact]
    public void ValuesStandInTheLinesOfTheirLabels() => Assert.Equal("Number P 12-7 | Title Coffrage du radier | Revision 3 | Scale 1/50", All(Read(
        Line("Titre : Coffrage du radier", 600, 60), Line("No plan : P 12-7", 600, 50), Line("Échelle : 1/50", 600, 40), Line("Indice : 3", 600, 30))));

    [Fact]
    public void WhereNumberAndTitleHaveNoLabelsTheirPlaceAndSizeTell()
    {
        var block = Read(
            Line("TALLOWMERE OBSERVATORY", 650, 80, 3), Line("Drawn", 650, 72, 1.5), Line("GA 10-19", 650, 66), Line("Scale", 700, 72, 1.5), Line("1 : 50", 700, 66), Line("Sheet", 760, 72, 1.5), Line("1 / 2", 760, 66),
            Line("PIER, SURVEY OF CRACKS", 650, 54, 3), Line("TO-1106", 650, 44, 3.5), Line("Revision", 760, 47, 1.5), Line("A.1", 760, 42));
        Assert.Equal("Number TO-1106 | Title PIER, SURVEY OF CRACKS | Revision A.1 | Sheet 1 / 2 | Scale 1 : 50 | Drawn GA 10-19", All(block));
        Assert.False(block![TitleFieldKind.Number]!.IsLabelled);
        Assert.Contains("TALLOWMERE OBSERVATORY", block.Lines);
        Assert.DoesNotContain("PLAN OF LEVEL 2", block.Lines);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void ABlockOnItsSideIsReadAsItLies(int quarters)
    {
        PointXY Turned(PointXY p) => Enumerable.Range(0, quarters).Aggregate(p, (q, _) => new PointXY(-q.Y, q.X));
        Assert.Equal(All(Read(Below)), All(TitleBlocks.Of([.. Rest, .. Below.Select(l => new WrittenRun(l.Text, Turned(l.At), Turned(l.Along), Turned(l.Up)))])));
    }

    [Fact]
    public void ATableOfRevisionsIsNotTakenForTheBlock() => Assert.Equal("B", Read([.. Below, Line("Rev", 700, 590, 1.8), Line("Change", 720, 590, 1.8), Line("Date", 780, 590, 1.8), Line("A", 700, 585), Line("Survey of 19 October", 720, 585), Line("10-20", 780, 585)])![TitleFieldKind.Revision]!.Words);

    [Fact]
    public void AListOfPartsBesideTheBlockIsNotTakenForIt() =>
        Assert.Equal(All(Read(Below)), All(Read([.. Below, Line("No.", 20, 90, 1.8), Line("19", 20, 85), Line("20", 20, 80), Line("Designation", 60, 90, 1.8), Line("Bar, bent", 60, 85)])));

    [Fact]
    public void ASmallSheetsBlockIsAsWideAsTheSheet() => Assert.Equal("Number P-7 | Title Bracket | Revision 2 | Scale 1:5 | Date 3 May", All(TitleBlocks.Of(
    [
        Line("9420", 20, 250), Line("120", 180, 280), Line("Scale", 20, 30, 2), Line("1:5", 20, 24), Line("Date", 60, 30, 2), Line("3 May", 60, 24), Line("Title", 95, 30, 2), Line("Bracket", 95, 24), Line("Drawing number", 140, 30, 2),
        Line("P-7", 140, 24), Line("Revision", 180, 30, 2), Line("2", 180, 24),
    ])));

    [Fact]
    public void WordsAloneAreNoBlock()
    {
        Assert.Null(Read());
        Assert.Null(Read(Line("Scale", 700, 60), Line("1:50", 700, 50)));
        Assert.Null(TitleBlocks.Of([]));
    }

    [Fact]
    public void NothingIsFoundThatIsNotWritten() => Gen.Select(Gen.Int[0, 10].Select(i => Words[i]), Gen.Double[-1e3, 1e3], Gen.Double[-1e3, 1e3], Gen.Double[-9, 9], Gen.Double[-9, 9]).Array[0, 30].Sample(some =>
    {
        var written = some.Select(s => new WrittenRun(s.Item1, new(s.Item2, s.Item3), new(s.Item4 * 5, s.Item5), new(-s.Item5, s.Item4))).ToArray();
        var block = TitleBlocks.Of(written);
        Assert.All(block?.Fields ?? [], f => Assert.Contains(written, w => w.Text.EndsWith(f.Words, StringComparison.Ordinal)));
    });
}

/// <summary>What a file that arrives tells of its document.</summary>
public class ArrivingFileTables
{
    private static TitleBlock Block(string? number = null, string? title = null, string? revision = null, bool isLabelled = true) => new(
        [.. new (TitleFieldKind Kind, string? Words)[] { (TitleFieldKind.Number, number), (TitleFieldKind.Title, title), (TitleFieldKind.Revision, revision) }.Where(f => f.Words is not null).Select(f => new TitleField(f.Kind, f.Words!, isLabelled))], []);

    [Theory]
    [InlineData("TO-1_A2 Bracket.dxf", null, null, true, "TO-1", "Bracket")]
    // What is called a number and a title goes before the file's name; what only looks like them, behind it.
    [InlineData("scan0004.pdf", "TO-9", "Pier", true, "TO-9", "Pier")]
    [InlineData("TO-1 Bracket.dxf", "TO-9", "Pier", true, "TO-9", "Pier")]
    [InlineData("TO-1 Bracket.dxf", "TO-9", "Pier", false, "TO-1", "Bracket")]
    [InlineData("final.dxf", "TO-9", "Pier", false, "TO-9", "final")]
    public void NumberAndTitleAreSuggested(string file, string? number, string? title, bool isLabelled, string ofNumber, string ofTitle) =>
        Assert.Equal(new NamedFile(ofNumber, ofTitle), ArrivingFiles.Suggest(file, Block(number, title, isLabelled: isLabelled)));

    [Fact]
    public void WhatTheBlockCallsANumberIsSurest()
    {
        Assert.Equal(["TO-9-B", "TO-9", "TO-1"], ArrivingFiles.Numbers("TO-1.dxf", Block("TO-9-B")).Where(n => n.Contains('-', StringComparison.Ordinal)));
        Assert.Equal(["TO-1", "TO-9"], ArrivingFiles.Numbers("TO-1.dxf", Block("TO-9", isLabelled: false)).Where(n => n.Contains('-', StringComparison.Ordinal)));
        Assert.Equal("TO-1", ArrivingFiles.Numbers("TO-1.dxf", null)[0]);
    }

    [Theory]
    [InlineData("TO-9", "A", "TO-9", "A", 2, null)]
    [InlineData("TO-9", "A.2", "TO-9", "A", 2, null)]
    [InlineData("TO-9", "Rev. a", "TO-9", "A", 2, null)]
    [InlineData("TO-9/1", "A", "TO-9", "A", 2, null)]
    [InlineData("TO-8", "A", "TO-9", "A", 2, "Its title block says TO-8.")]
    [InlineData("TO-9", "B", "TO-9", "A", 2, "Its title block says revision B.")]
    [InlineData("TO-9", "A.1", "TO-9", "A", 2, "Its title block says revision A.1.")]
    [InlineData(null, null, "TO-9", "A", 2, null)]
    public void WhatDoesNotGoTogetherIsSaid(string? number, string? revision, string of, string label, int ordinal, string? doubt) => Assert.Equal(doubt, ArrivingFiles.Doubt(Block(number, null, revision), of, label, ordinal));

    [Theory]
    [InlineData("TO-1107", "TO-11")]
    [InlineData("M-07", "M-")]
    [InlineData("STR-2201-A", "STR-22")]
    [InlineData("P7", "P")]
    [InlineData("Ä-2200", "Ä-22")]
    [InlineData("12", "")]
    [InlineData("7", "")]
    [InlineData("notes", "")]
    [InlineData("", "")]
    public void ASeriesIsANumberWithoutItsLastDigits(string number, string series) => Assert.Equal(series, ArrivingFiles.Series(number));

    [Fact]
    public void ANewDocumentIsLikeThoseNextToItInItsSeriesWhereTheyAgree()
    {
        Neighbour Of(string number, string kind = "drawing", string discipline = "Civil") => new(number, kind, discipline);
        Assert.Equal(("drawing", "Civil"), ArrivingFiles.Alike("TO-1107", [Of("TO-1106"), Of("TO-1108"), Of("TO-1201", "model", "Mount")]));
        Assert.Equal(("drawing", null), ArrivingFiles.Alike("TO-1107", [Of("TO-1106"), Of("TO-1108", discipline: "Mount")]));
        Assert.Equal((null, "Civil"), ArrivingFiles.Alike("TO-1107", [Of("TO-1106"), Of("TO-1108", "model")]));
        Assert.Equal((null, null), ArrivingFiles.Alike("TO-1107", [Of("TO-1201")]));
        Assert.Equal((null, null), ArrivingFiles.Alike("notes", [Of("notes")]));
    }
}
