using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What becomes of annotations that come back, case by case.</summary>
public class BringingTables
{
    private static readonly Leaf Sheet = new(0, "Sheet 1", new SheetFrame(LengthUnit.Millimetre, new Extents(0, 0, 420, 297)));
    private static readonly Guid Note = Guid.NewGuid(), Mark = Guid.NewGuid(), Plain = Guid.NewGuid();
    private static readonly Dictionary<Guid, KnownMark> Marks = new() { [Mark] = new(Mark, Note, "Bore to Ø 52"), [Plain] = new(Plain, null, "") };
    private static readonly Dictionary<Guid, KnownNote> Notes = new() { [Note] = new(Note, "Bore to Ø 52") };

    private static BroughtAnnotation Words(string id, string contents, string? to = null, string? state = null, string author = "Kai Ohm") => new(0, new Annotation(
        id, AnnotationKind.Text, [], new Extents(10, 10, 20, 20), author, new DateTimeOffset(2026, 11, 26, 12, 0, 0, TimeSpan.Zero), contents)
    { ReplyTo = to, State = state });

    private static BroughtAnnotation Box(string id, string contents, double at = 10) => new(0, new Annotation(id, AnnotationKind.Square, [[new(at, 30), new(at + 20, 10)]], new Extents(at, 10, at + 20, 30), "Kai Ohm", null, contents));

    private static BroughtIn Plan(IReadOnlyList<BroughtAnnotation> annotations, IEnumerable<KnownBrought>? before = null, int longest = 4000) =>
        Bringing.Plan(annotations, [Sheet], Marks, Notes, before ?? [], longest, Guid.NewGuid);

    [Fact]
    public void WhatWasSentOutIsHereAlready()
    {
        var plan = Plan([Words(Mark.ToString(), "Bore to\r\nØ 52"), Words(Plain.ToString(), ""), Words($"{Note}:1", "done", Mark.ToString()), Words($"{Note}:state", "Completed by Odalys", Mark.ToString(), "Completed"), Words(Note.ToString(), "Bore to Ø 52")]);
        Assert.Empty(plan.Taken);
        Assert.Equal((5, 0), (plan.Already, plan.LeftOut));
    }

    [Fact]
    public void AnAnswerGoesUnderTheNoteItAnswersHoweverDeep()
    {
        // The answer to an answer comes first in the file.
        var plan = Plan([Words("b", "Agreed then", "a"), Words("a", "Only with new bolts", Mark.ToString()), Words("c", "Fine", $"{Note}:1"), Words("d", "Accepted set by Kai Ohm", Mark.ToString(), "Accepted")]);
        Assert.All(plan.Taken, t => Assert.Equal((Note, true, 0), (t.Note!.Value, t.IsReply, t.Shapes.Count)));
        Assert.Equal(["a", "c", "d", "b"], plan.Taken.Select(t => t.Id));
        Assert.Equal("Kai Ohm, from outside, 26 November 2026: Only with new bolts", plan.Taken[0].Words);
        Assert.Equal("Kai Ohm, from outside, 26 November 2026: marks it as “Accepted”", plan.Taken[2].Words);
    }

    [Fact]
    public void ChangedWordsAreAddedAndNothingIsWrittenOver()
    {
        var one = Assert.Single(Plan([Words(Mark.ToString(), "Bore to Ø 54")]).Taken);
        Assert.Equal((Note, true, "Kai Ohm, from outside, 26 November 2026: changes the words to: Bore to Ø 54"), (one.Note!.Value, one.IsReply, one.Words));
    }

    [Fact]
    public void TheRestBecomesRemarksWithTheirPlacesAndMarkups()
    {
        var plan = Plan([Box("x", "Sharp edge"), Box("y", ""), Box("far", "Off the sheet", 5000), Box("nowhere", "", 5000), Words("z", "To all of it", author: "")]);
        Assert.Equal(["x", "y", "far", "z"], plan.Taken.Select(t => t.Id));
        Assert.Equal((1, true, 1), (plan.LeftOut, plan.Taken[0].Note is not null, plan.Taken[0].Shapes.Count));
        Assert.Equal((null, "", new Box(new(10, 30), new(30, 10))), (plan.Taken[1].Note, plan.Taken[1].Words, plan.Taken[1].Shapes[0].Shape));
        Assert.Equal("Kai Ohm, from outside: Off the sheet", plan.Taken[2].Words);
        Assert.Empty(plan.Taken[2].Shapes);
        Assert.StartsWith("Somebody, from outside", plan.Taken[3].Words, StringComparison.Ordinal);
    }

    [Fact]
    public void NothingComesTwiceHoweverOftenItIsBroughtAndWhatIsNewInItDoes()
    {
        BroughtAnnotation[] file = [Box("x", "Sharp edge"), Words("a", "Only with new bolts", Mark.ToString()), Words("", "No name", Mark.ToString()), Box("", "No name either")];
        var first = Plan(file);
        Assert.Equal(4, first.Taken.Count);
        var before = first.Taken.Select(t => new KnownBrought(t.Id, t.Digest, t.Note)).ToList();
        var again = Plan(file, before);
        Assert.Equal((0, 4), (again.Taken.Count, again.Already));
        // The same file with an answer to the remark that it became, and that remark with other words.
        var more = Plan([.. file, Words("e", "Deburred", "x"), Box("x", "Sharp edge here")], before);
        Assert.Equal(["x", "e"], more.Taken.Select(t => t.Id).OrderDescending());
        Assert.All(more.Taken, t => Assert.Equal((first.Taken[0].Note, true), (t.Note, t.IsReply)));
        // Twice in one file is once.
        Assert.Single(Plan([file[0], file[0]]).Taken);
    }

    [Fact]
    public void AnswersThatAnswerEachOtherInACircleEnd()
    {
        var plan = Plan([Words("a", "One", "b"), Words("b", "Two", "a"), Words("s", "Itself", "s")]);
        Assert.Equal(3, plan.Taken.Count);
    }

    [Fact]
    public void LongWordsAreCutToWhatANoteHolds()
    {
        var words = Assert.Single(Plan([Words("a", new string('x', 4000), Mark.ToString())], longest: 100).Taken).Words;
        Assert.Equal(100, words.Length);
        Assert.EndsWith("…", words, StringComparison.Ordinal);
    }

    [Fact]
    public void WhatASettledNoteSaidIsHereAlreadyAndWhatAnswersItIsKeptByItself()
    {
        var (note, mark) = (Guid.NewGuid(), Guid.NewGuid());
        var plan = Bringing.Plan(
            [Words(mark.ToString(), "Gone"), Words(note.ToString(), "Gone"), Words($"{note}:1", "done", mark.ToString()), Words("a", "Too late", mark.ToString()), Words("b", "Quite", $"{note}:1")], [Sheet],
            new Dictionary<Guid, KnownMark> { [mark] = new(mark, null, "Gone") }, new Dictionary<Guid, KnownNote> { [note] = new(note, "Gone", TakesWords: false) }, [], 4000, Guid.NewGuid);
        Assert.Equal(3, plan.Already);
        Assert.Equal(["a", "b"], plan.Taken.Select(t => t.Id));
        Assert.All(plan.Taken, t => Assert.False(t.IsReply || t.Note == note));
    }
}
