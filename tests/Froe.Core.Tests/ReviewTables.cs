using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>The life of notes, revision letters and shapes on an overlay.</summary>
public class ReviewTables
{
    private static readonly NoteActor Originator = new(false, true, false, SlipStanding.Returned), Reviewer = new(false, false, true, SlipStanding.InReview), Author = new(true, false, true, SlipStanding.InReview),
        Reopener = new(false, false, true, SlipStanding.InReview) { Settles = true, WasAnswered = true }, Past = new(true, false, false, SlipStanding.InReview) { HasSigned = true }, Nobody = new(false, false, false, SlipStanding.InReview);

    private static IEnumerable<(NoteKind Kind, NoteStanding Standing, NoteAct Act, NoteActor Actor)> Everything() =>
        from kind in Enum.GetValues<NoteKind>()
        from standing in Enum.GetValues<NoteStanding>()
        from act in Enum.GetValues<NoteAct>()
        from bits in Enumerable.Range(0, 128)
        from package in Enum.GetValues<SlipStanding>()
        select (kind, standing, act, new NoteActor((bits & 1) != 0, (bits & 2) != 0, (bits & 4) != 0, package) { Settles = (bits & 8) != 0, WasAnswered = (bits & 16) != 0, HoldsReturn = (bits & 32) != 0, HasSigned = (bits & 64) != 0 });

    [Fact]
    public void NothingAskedForGetsLost()
    {
        foreach (var (kind, standing, act, actor) in Everything())
        {
            var (after, refusal) = NoteRules.Apply(kind, standing, act, actor);
            var said = $"{kind} {standing} {act} {actor}: {after} {refusal?.Code}";
            // What is refused changes nothing, and says why and in whose hands it lies.
            if (refusal is not null) Assert.True(after == standing && refusal.Reason.EndsWith('.'), said);
            // A request is settled by who asked, or in their stead, once it was answered and unless a return rests on it; its author may take it back before they sign.
            if (kind == NoteKind.Request && after != standing && after is NoteStanding.Closed)
                Assert.True(actor is { HoldsReturn: false, Package: SlipStanding.InReview } && (actor.IsAuthor || actor.Settles) && (standing == NoteStanding.Answered || actor.WasAnswered), said);
            if (kind == NoteKind.Request && after != standing && after == NoteStanding.Withdrawn) Assert.True(actor is { IsAuthor: true, HasSigned: false, HoldsReturn: false, Package: SlipStanding.InReview } && standing == NoteStanding.Open, said);
            // Answering is the originator's, and settles nothing by itself.
            if (act == NoteAct.Answer && after != standing) Assert.True(actor.IsOriginator && kind != NoteKind.Remark && (standing, after) == (NoteStanding.Open, NoteStanding.Answered), said);
            // In a package that has ended nothing moves; a request is answered only when the package is back.
            if (actor.Package is not (SlipStanding.InReview or SlipStanding.Returned)) Assert.Equal((standing, "package-ended"), (after, refusal?.Code));
            if (act == NoteAct.Answer && kind == NoteKind.Request && after != standing) Assert.True(actor.Package == SlipStanding.Returned, said);
            // What was withdrawn stays withdrawn.
            if (standing == NoteStanding.Withdrawn) Assert.Equal(NoteStanding.Withdrawn, after);
            // A second click changes nothing more.
            Assert.True(refusal is not null || NoteRules.Apply(kind, after, act, actor) == (after, null), said);
            // Somebody with no part in it changes nothing.
            if (actor with { Package = SlipStanding.InReview, WasAnswered = false, HoldsReturn = false, HasSigned = false } == Nobody) Assert.Equal(standing, after);
        }
    }

    [Fact]
    public void ARequestIsAnsweredReopenedAnsweredAndClosed()
    {
        var standing = NoteStanding.Open;
        foreach (var (act, actor, next) in new[]
        {
            (NoteAct.Close, Originator, NoteStanding.Open), (NoteAct.Answer, Originator, NoteStanding.Answered), (NoteAct.Withdraw, Author, NoteStanding.Answered), (NoteAct.Close, Reviewer, NoteStanding.Answered),
            (NoteAct.Reopen, Reviewer, NoteStanding.Open), (NoteAct.Close, Author, NoteStanding.Open), (NoteAct.Answer, Originator, NoteStanding.Answered), (NoteAct.Leave, Author, NoteStanding.Answered),
            (NoteAct.Close, Past, NoteStanding.Closed), (NoteAct.Answer, Originator, NoteStanding.Closed), (NoteAct.Reopen, Reviewer, NoteStanding.Open), (NoteAct.Close, Reopener, NoteStanding.Closed),
        })
        {
            standing = NoteRules.Apply(NoteKind.Request, standing, act, actor).Standing;
            Assert.Equal((act, next), (act, standing));
        }
    }

    [Theory]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Withdraw, "already-signed")]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Withdraw, "note-answered")]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Close, "not-answered")]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Close, null)]
    [InlineData(NoteKind.Remark, NoteStanding.Open, NoteAct.Leave, "nothing-to-leave")]
    [InlineData(NoteKind.Request, NoteStanding.Closed, NoteAct.Leave, "note-ended")]
    [InlineData(NoteKind.Question, NoteStanding.Open, NoteAct.Close, null)]
    [InlineData(NoteKind.Question, NoteStanding.Open, NoteAct.Answer, "not-originator")]
    [InlineData(NoteKind.Remark, NoteStanding.Open, NoteAct.Withdraw, null)]
    public void WhoHasSignedIsHeldToTheirRequests(NoteKind kind, NoteStanding standing, NoteAct act, string? code) => Assert.Equal(code, NoteRules.Apply(kind, standing, act, Past).Refusal?.Code);

    [Theory]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, AnswerKind.Done, "", null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, AnswerKind.DoneDifferently, " ", "answer-without-words")]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, AnswerKind.Cannot, "", "answer-without-words")]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, AnswerKind.Cannot, "The casting is poured.", null)]
    [InlineData(NoteKind.Question, NoteStanding.Open, NoteAct.Answer, AnswerKind.Done, "", "answer-without-words")]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Reopen, AnswerKind.Done, "\n", "reopened-without-words")]
    [InlineData(NoteKind.Request, NoteStanding.Closed, NoteAct.Reopen, AnswerKind.Done, "The key still has no tolerance.", null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Reopen, AnswerKind.Done, "", null)]
    [InlineData(NoteKind.Question, NoteStanding.Answered, NoteAct.Reopen, AnswerKind.Done, "", null)]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Close, AnswerKind.Done, "", "closed-without-words")]
    [InlineData(NoteKind.Question, NoteStanding.Answered, NoteAct.Close, AnswerKind.Done, "", null)]
    public void WhoeverHasToActOnItIsToldWhy(NoteKind kind, NoteStanding standing, NoteAct act, AnswerKind answer, string words, string? code) =>
        Assert.Equal(code, NoteRules.CheckWords(kind, standing, act, answer, words)?.Code);

    [Theory]
    [InlineData(NoteKind.Request, NoteStanding.Open, SlipStanding.Returned, NoteWait.Originator)]
    [InlineData(NoteKind.Request, NoteStanding.Answered, SlipStanding.Returned, NoteWait.Originator)]
    [InlineData(NoteKind.Request, NoteStanding.Open, SlipStanding.InReview, NoteWait.Reviewers)]
    [InlineData(NoteKind.Request, NoteStanding.Answered, SlipStanding.InReview, NoteWait.Author)]
    [InlineData(NoteKind.Question, NoteStanding.Open, SlipStanding.InReview, NoteWait.Originator)]
    [InlineData(NoteKind.Question, NoteStanding.Answered, SlipStanding.Returned, NoteWait.Author)]
    [InlineData(NoteKind.Request, NoteStanding.Closed, SlipStanding.InReview, NoteWait.Nobody)]
    [InlineData(NoteKind.Request, NoteStanding.Open, SlipStanding.Stopped, NoteWait.Nobody)]
    [InlineData(NoteKind.Question, NoteStanding.Open, SlipStanding.Released, NoteWait.Nobody)]
    [InlineData(NoteKind.Remark, NoteStanding.Open, SlipStanding.InReview, NoteWait.Nobody)]
    public void ANoteWaitsForOneSide(NoteKind kind, NoteStanding standing, SlipStanding package, NoteWait turn) => Assert.Equal(turn, NoteRules.WaitsFor(kind, standing, package));

    [Fact]
    public void WhoeverANoteWaitsForCanMoveIt()
    {
        foreach (var kind in Enum.GetValues<NoteKind>())
            foreach (var standing in Enum.GetValues<NoteStanding>())
                foreach (var package in new[] { SlipStanding.InReview, SlipStanding.Returned })
                {
                    (NoteAct, NoteActor)? turn = NoteRules.WaitsFor(kind, standing, package) switch
                    {
                        NoteWait.Originator => (NoteAct.Answer, Originator),
                        NoteWait.Reviewers => (NoteAct.Withdraw, Author),
                        NoteWait.Author => (NoteAct.Close, Past),
                        _ => null,
                    };
                    if (turn is var (act, actor)) Assert.Null(NoteRules.Apply(kind, standing, act, actor with { Package = package }).Refusal);
                }
    }

    [Theory]
    [InlineData("A", "B")]
    [InlineData("H", "J")]
    [InlineData("N", "P")]
    [InlineData("P", "R")]
    [InlineData("R", "T")]
    [InlineData("W", "Y")]
    [InlineData("Y", "AA")]
    [InlineData("AY", "BA")]
    [InlineData("YY", "AAA")]
    [InlineData("9", "10")]
    [InlineData("0", "1")]
    public void TheNextRevisionFollowsTheScheme(string label, string next) => Assert.Equal(next, RevisionLabel.Next(label));

    [Theory]
    [InlineData("I")]
    [InlineData("a")]
    [InlineData("A1")]
    [InlineData("-")]
    public void WhatIsNoRevisionHasNoNext(string label)
    {
        Assert.False(RevisionLabel.IsValid(label));
        Assert.Throws<ArgumentException>(() => RevisionLabel.Next(label));
    }

    [Fact]
    public void LettersRunOnWithoutAGapOrARepetition()
    {
        // Twenty letters: 20 of one, 400 of two, 8,000 of three.
        var seen = new HashSet<string>();
        for (var (label, n) = (RevisionLabel.First, 0); n < 20 + 400 + 8000; n++, label = RevisionLabel.Next(label))
        {
            Assert.True(RevisionLabel.IsValid(label) && seen.Add(label), label);
            Assert.DoesNotContain(label, c => "IOQSXZ".Contains(c, StringComparison.Ordinal));
        }
        Assert.Contains("YYY", seen);
    }

    private static readonly Extents A3 = new(0, 0, 420, 297);

    [Fact]
    public void AShapeHasASizeAndLiesOnOrNearItsSheet()
    {
        Assert.True(new Cloud(new(10, 10), new(60, 40)).Fits(A3));
        Assert.True(new Arrow(new(-400, 700), new(0, 0)).Fits(A3));
        Assert.False(new Cloud(new(10, 10), new(10, 40)).Fits(A3));
        Assert.False(new Arrow(new(5, 5), new(5, 5)).Fits(A3));
        Assert.False(new Arrow(new(5, 5), new(841, 5)).Fits(A3));
        foreach (var stray in new[] { double.NaN, double.PositiveInfinity, -1e300 })
        {
            Assert.False(new Cloud(new(stray, 1), new(3, 3)).Fits(A3));
            Assert.False(new Arrow(new(1, 1), new(3, stray)).Fits(A3));
        }
        Assert.Equal(new PointXY(35, 25), new Cloud(new(60, 40), new(10, 10)).Outline(1).Anchor);
        Assert.Equal(new PointXY(3, 4), new Arrow(new(1, 2), new(3, 4)).Outline(1).Anchor);
    }

    [Fact]
    public void ASheetKeepsEveryStrokeWhateverTheirOrder() =>
        Gen.Select(Gen.Double[-1e6, 1e6], Gen.Double[-1e6, 1e6], Gen.Double[-50, 50], Gen.Double[-50, 50]).Array[1, 200].Sample(strokes =>
        {
            var builder = new SheetBuilder();
            foreach (var (i, (x, y, dx, dy)) in strokes.Index())
            {
                builder.Begin(new EntityLook((ulong)i + 1, 0, 0, 25, [], "LINE"));
                builder.Line(new(x, y), new(x + dx, y + dy));
            }
            var sheet = builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0)]);
            var kept = Enumerable.Range(0, sheet.SegmentEntity.Length).ToDictionary(s => sheet.EntityHandle[sheet.SegmentEntity[s]], s => sheet.Segments.AsSpan(4 * s, 4).ToArray());
            // Offsets are of 32 bits: as near as a stroke can lie to what was drawn on a sheet of two kilometres.
            return kept.Count == strokes.Length && kept.All(k =>
            {
                var (x, y, dx, dy) = strokes[(int)k.Key - 1];
                return Close(k.Value[0] + sheet.Origin.X, x) && Close(k.Value[1] + sheet.Origin.Y, y) && Close(k.Value[2] + sheet.Origin.X, x + dx) && Close(k.Value[3] + sheet.Origin.Y, y + dy);
            });

            static bool Close(double a, double b) => Math.Abs(a - b) <= 0.25;
        });

    [Fact]
    public void DashesFollowTheirPatternRoundCorners()
    {
        var builder = new SheetBuilder();
        builder.Begin(new EntityLook(1, 0, 0, 25, [6, -2], "LINE"));
        builder.Path([new(0, 0), new(10, 0), new(10, 10)], closed: false);
        var sheet = builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0)]);
        var strokes = sheet.Segments.Chunk(4).Select(s => (Math.Round(s[0] + sheet.Origin.X, 3), Math.Round(s[1] + sheet.Origin.Y, 3), Math.Round(s[2] + sheet.Origin.X, 3), Math.Round(s[3] + sheet.Origin.Y, 3))).Order().ToList();
        // 6 on, 2 off: from 8 to 14 runs round the corner at 10; then 16 to 20.
        Assert.Equal([(0, 0, 6, 0), (8, 0, 10, 0), (10, 0, 10, 4), (10, 6, 10, 10)], strokes);
    }

    [Fact]
    public void ASheetThatUnfoldsTooFarIsRefusedNotKept()
    {
        var builder = new SheetBuilder(100);
        builder.Begin(new EntityLook(1, 0, 0, 25, [], "LINE"));
        Assert.Throws<SheetTooLargeException>(() =>
        {
            for (var i = 0; i < 200; i++) builder.Line(new(i, 0), new(i + 1, 1));
        });
    }

    [Fact]
    public void ANoteIsWordedAnewByItsAuthorUntilItIsAnsweredOrSignedWith()
    {
        var author = new NoteActor(true, false, true, SlipStanding.InReview);
        string? Refused(NoteKind kind, NoteStanding standing, NoteActor actor) => NoteRules.Apply(kind, standing, NoteAct.Edit, actor).Refusal?.Code;
        foreach (var kind in Enum.GetValues<NoteKind>())
        {
            Assert.Null(Refused(kind, NoteStanding.Open, author));
            Assert.Equal("not-author", Refused(kind, NoteStanding.Open, author with { IsAuthor = false }));
            Assert.All(new[] { NoteStanding.Answered, NoteStanding.Closed, NoteStanding.Withdrawn }, s => Assert.Equal("note-answered", Refused(kind, s, author)));
            // Reopened after an answer: what was answered stays as it was read.
            Assert.Equal("note-answered", Refused(kind, NoteStanding.Open, author with { WasAnswered = true }));
            Assert.Equal("package-ended", Refused(kind, NoteStanding.Open, author with { Package = SlipStanding.Released }));
            Assert.Equal("note-empty", NoteRules.CheckWords(kind, NoteStanding.Open, NoteAct.Edit, AnswerKind.Done, "  ")?.Code);
        }
        Assert.Equal("already-signed", Refused(NoteKind.Request, NoteStanding.Open, author with { HasSigned = true }));
        Assert.Null(Refused(NoteKind.Remark, NoteStanding.Open, author with { HasSigned = true }));
        Assert.Equal("with-originator", Refused(NoteKind.Request, NoteStanding.Open, author with { Package = SlipStanding.Returned }));
        Assert.Contains(NoteAct.Edit, Possible.Of(NoteKind.Request, NoteStanding.Open, author));
        Assert.DoesNotContain(NoteAct.Edit, Possible.Of(NoteKind.Request, NoteStanding.Answered, author));
    }
}
