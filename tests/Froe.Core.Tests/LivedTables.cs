using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>How people meet at the edges of a round, by hand on small plans.</summary>
public class LivedTables
{
    private static Guid Id(byte n) => new(n, 0, 0, new byte[8]);

    private static readonly Guid Author = Id(1), Ann = Id(2), Ben = Id(3), Cid = Id(4), Koa = Id(5), Dee = Id(6);

    private static SlipItem Item(byte n, int draft = 1) => new(Id(n), new Guid(n, (short)draft, 0, new byte[8]), new string((char)('a' + ((n + draft) % 6)), 64));

    private static Step Step(string key, params Guid[] people) => new(key, key, "", 1, [.. people.Select((p, i) => new Seat($"{key}{i}", key, new PersonHolder(p)))]);

    private static Plan Of(params Block[] blocks) => new("Plan", "", new Sequence([.. blocks]));

    private static readonly SlipContext Coordinates = SlipContext.Empty with { MayCoordinate = true };

    private static Slip Do(Slip slip, SlipCommand command, SlipContext? context = null)
    {
        var decision = SlipRules.Decide(slip, command, context ?? SlipContext.Empty);
        Assert.Null(decision.Refusal);
        return SlipRules.Replay(slip, decision.Events);
    }

    private static string? Refused(Slip slip, SlipCommand command, SlipContext? context = null) => SlipRules.Decide(slip, command, context ?? SlipContext.Empty).Refusal?.Code;

    private static Slip Sent(Plan plan, params SlipItem[] items) => Do(Slip.Blank, new Send(Author, plan, [.. items]));

    private static SignOff Sign(Slip slip, Guid person, string seat, Verdict verdict = Verdict.Approve, string? way = null, string reason = "Noted.") =>
        new(person, seat, [.. slip.ToJudge(seat, person).Select(i => new ItemVerdict(i.Draft, i.Sha256, verdict, reason))]) { Picks = way is null ? [] : [new WayPick("how", way)] };

    private static SlipContext Asking(params OpenRequest[] requests) => SlipContext.Empty with { OpenRequests = requests };

    [Fact]
    public void SignersWhoPickDifferentWaysWaitAndAreWaitedFor()
    {
        var how = new Choice("how", "How?", [new Way("long", "Long", null, new Sequence([Step("more", Cid)])), new Way("short", "Short", null, new Sequence([]))]) { PickedAt = "one" };
        var slip = Sent(Of(Step("one", Ann, Ben), how), Item(10));
        slip = Do(slip, Sign(slip, Ann, "one0", way: "long"));
        Assert.Empty(slip.Differing());
        slip = Do(slip, Sign(slip, Ben, "one1", way: "short"));
        Assert.Equal((SlipStanding.InReview, "one"), (slip.Standing, Assert.Single(slip.Open)));
        Assert.Equal([(Ann, "long"), (Ben, "short")], Assert.Single(slip.Differing()).Picked.Select(p => (p.Person, p.Way)));
        Assert.Equal("one (its signers differ)", WaitingWords.Of(slip));
        Assert.Equal("not-coordinator", Refused(slip, new TakeBack(Cid, "one0") { Of = Ann }));
        // Whoever changes their mind, or a coordinator for them; then it goes on as they agree.
        Assert.Equal("more", Assert.Single(Do(Do(slip, new TakeBack(Ben, "one1")), Sign(slip, Ben, "one1", way: "long") with { Verdicts = [new(Item(10).Draft, Item(10).Sha256, Verdict.Approve, "")] }).Open));
        var taken = Do(slip, new TakeBack(Koa, "one0") { Of = Ann }, Coordinates);
        Assert.Equal(SlipStanding.Released, Do(taken, Sign(taken, Ann, "one0", way: "short")).Standing);
    }

    [Fact]
    public void WhatCameBackToAStepIsPassedOnWithItsRequests()
    {
        var slip = Sent(Of(Step("one", Ann), Step("two", Ben) with { ReturnsTo = "one" }), Item(10));
        slip = Do(slip, Sign(slip, Ann, "one0"));
        var asked = new OpenRequest(1, Item(10).Document, 1, Ben, false);
        Assert.Equal("return-without-request", Refused(Sent(Of(Step("one", Ann)), Item(10)), Sign(Sent(Of(Step("one", Ann)), Item(10)), Ann, "one0", Verdict.ReturnForChanges), Asking(asked)));
        slip = Do(slip, Sign(slip, Ben, "two0", Verdict.ReturnForChanges, reason: "Too thin."), Asking(asked));
        var back = Assert.Single(slip.CameBack);
        Assert.Equal(("one", "two", Ben, "Too thin."), (back.To, back.From.Single(), back.By.Single(), back.Because));
        var passed = Do(slip, Sign(slip, Ann, "one0", Verdict.ReturnForChanges), Asking(asked));
        Assert.Equal(SlipStanding.Returned, passed.Standing);
        Assert.Empty(Do(passed, new SendAgain(Author, [Item(10, 2)])).CameBack);
    }

    [Fact]
    public void WhatIsTakenInIsSignedByEverybodyAndWhatIsLeftOutTakesItsVerdictsAlong()
    {
        var slip = Sent(Of(Step("one", Ann), Step("two", Ben) with { SignAgain = SignAgain.ReturnedAndAfter }), Item(10), Item(20));
        slip = Do(slip, Sign(slip, Ann, "one0"));
        slip = Do(slip, Sign(slip, Ben, "two0", Verdict.ReturnForChanges), Asking(new OpenRequest(1, Item(10).Document, 1, Ben, false), new OpenRequest(2, Item(20).Document, 1, Ben, false)));
        // As it was, Ann's signature stands; with another document she has that to judge, and keeps what she gave on what did not change.
        Assert.Equal([Ann], Do(slip, new SendAgain(Author, [Item(10, 2), Item(20, 2)])).Signatures.Select(s => s.Person));
        var cannot = Asking(new OpenRequest(1, Item(20).Document, 1, Ben, true) { ChangesNothing = true }, new OpenRequest(2, Item(10).Document, 1, Ben, false));
        var taken = Do(slip, new SendAgain(Author, [Item(20), Item(30)]), cannot);
        Assert.Empty(taken.Signatures);
        Assert.Equal([Item(30).Document], taken.ToJudge("one0", Ann).Select(i => i.Document));
    }

    [Fact]
    public void ANotedVerdictThatIsCarriedOverWaitsForItsAnswerAndKeepsIt()
    {
        var slip = Sent(Of(Step("one", Ann), Step("two", Ben) with { SignAgain = SignAgain.ChangedItems }) with { HoldsNoted = true }, Item(10), Item(20));
        slip = Do(slip, Sign(slip, Ann, "one0", Verdict.ApproveAsNoted));
        var back = Sign(slip, Ben, "two0") with { Verdicts = [new(Item(10).Draft, Item(10).Sha256, Verdict.ReturnForChanges, ""), new(Item(20).Draft, Item(20).Sha256, Verdict.Approve, "")] };
        slip = Do(slip, back, Asking(new OpenRequest(1, Item(10).Document, 1, Ben, false)));
        slip = Do(slip, new SendAgain(Author, [Item(10, 2), Item(20)]));
        Assert.Equal([Item(20).Draft], slip.UnansweredNoted().Select(n => n.Verdict.Draft));
        slip = Do(slip, new AnswerNoted(Author, "one0", Ann, Item(20).Draft, "So it is."));
        slip = Do(slip, Sign(slip, Ann, "one0"));
        Assert.Empty(slip.UnansweredNoted());
        Assert.Equal(SlipStanding.Released, Do(slip, Sign(slip, Ben, "two0")).Standing);
    }

    [Fact]
    public void AStandInAndAnHeirActAsTheOriginator()
    {
        var slip = Sent(Of(Step("one", Ann), new Step("own", "own", "", 1, [new Seat("own", "Author", new OriginatorHolder())]), Step("two", Ben) with { BarsOriginator = true }), Item(10));
        var away = SlipContext.Empty with { Deputies = new Dictionary<Guid, Guid> { [Author] = Dee } };
        Assert.Equal("not-originator", Refused(slip, new Recall(Dee)));
        Assert.Equal(Author, Assert.IsType<PackageStopped>(SlipRules.Decide(slip, new Recall(Dee), away).Events.Single()).For);
        Assert.Equal("not-coordinator", Refused(slip, new HandPackage(Author, Dee)));
        Assert.Equal("own-work", Refused(slip, new HandPackage(Koa, Ben), Coordinates));
        var handed = Do(slip, new HandPackage(Koa, Dee), Coordinates);
        Assert.Equal((Dee, Dee), (handed.Originator, handed.SeatOf("own")!.People.Single()));
        Assert.Empty(SlipRules.Decide(handed, new HandPackage(Koa, Dee), Coordinates).Events);
    }

    [Fact]
    public void AWithdrawnDocumentLeavesAndTheLastOneEndsThePackage()
    {
        var slip = Sent(Of(Step("one", Ann), Step("two", Ben)), Item(10), Item(20));
        slip = Do(slip, Sign(slip, Ann, "one0"));
        slip = Do(slip, new TakeOut(Koa, Item(10).Document));
        Assert.Equal((Item(20), "two"), (Assert.Single(slip.Items), Assert.Single(slip.Open)));
        Assert.Equal([Item(20).Draft], Assert.Single(slip.Signatures).Verdicts.Select(v => v.Draft));
        Assert.Empty(SlipRules.Decide(slip, new TakeOut(Koa, Item(10).Document), SlipContext.Empty).Events);
        Assert.Equal(SlipStanding.Stopped, Do(slip, new TakeOut(Koa, Item(20).Document)).Standing);
    }

    [Fact]
    public void ASignerOpensTheirSeatAgainWhereThePlanLetsThem()
    {
        Plan Two(bool reopen) => Of(Step("one", Ann), Step("two", Ben, Cid)) with { SignersReopen = reopen };
        Slip Signed(Plan plan)
        {
            var slip = Sent(plan, Item(10));
            slip = Do(slip, Sign(slip, Ann, "one0"));
            return Do(slip, Sign(slip, Ben, "two0"));
        }
        Assert.Equal("seat-closed", Refused(Signed(Two(false)), new ReopenSeat(Ann, "one0")));
        var open = Do(Signed(Two(true)), new ReopenSeat(Ann, "one0"));
        // What Ben signed after it stands: the bytes are the same.
        Assert.Equal(("one", Ben), (open.Open.Single(), open.Signatures.Single().Person));
        open = Do(open, Sign(open, Ann, "one0"));
        Assert.Equal([Cid], open.Awaited().Select(a => a.Person));
    }

    [Theory]
    [InlineData(null, "released in work", "")]
    [InlineData("B", "in work", "")]
    [InlineData("A", "released", "")]
    [InlineData("0", "", "superseded")]
    [InlineData("9", "", "")]
    [InlineData("Z", "", "no-such-revision")]
    public void AWithdrawalTakesOutOfUseWhatIsInUse(string? label, string withdrawn, string refused)
    {
        (string Label, Standing Standing)[] all = [("9", Standing.Withdrawn), ("0", Standing.Superseded), ("A", Standing.Released), ("B", Standing.InWork)];
        var (found, refusal) = WithdrawalRules.Withdraw([.. all], label);
        Assert.Equal((withdrawn, refused), (string.Join(" ", found.Select(l => all.First(a => a.Label == l).Standing.Word())), refusal?.Code ?? ""));
    }

    [Fact]
    public void ARequestFromAnEarlierPackageIsAnsweredAtOnceAndSettledByWhoeverReviews()
    {
        var reviewer = new NoteActor(false, false, true, SlipStanding.InReview);
        Assert.Equal("not-yours-to-close", NoteRules.Apply(NoteKind.Request, NoteStanding.Open, NoteAct.Close, reviewer).Refusal?.Code);
        Assert.Equal(NoteStanding.Closed, NoteRules.Apply(NoteKind.Request, NoteStanding.Open, NoteAct.Close, reviewer with { IsCarriedOver = true }).Standing);
        var originator = new NoteActor(false, true, false, SlipStanding.InReview);
        Assert.Equal("not-returned", NoteRules.Apply(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, originator).Refusal?.Code);
        Assert.Equal(NoteStanding.Answered, NoteRules.Apply(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, originator with { IsCarriedOver = true }).Standing);
        Assert.All(Enum.GetValues<NoteAct>(), act => Assert.NotNull(NoteRules.Apply(NoteKind.Request, NoteStanding.CarriedOver, act, reviewer with { IsCarriedOver = true }).Refusal));
        // A question of the originator's is for whom they asked.
        var asked = new NoteActor(false, false, false, SlipStanding.Returned) { AsksAnother = true, IsAsked = true };
        Assert.Equal(NoteStanding.Answered, NoteRules.Apply(NoteKind.Question, NoteStanding.Open, NoteAct.Answer, asked).Standing);
        Assert.Equal("not-asked", NoteRules.Apply(NoteKind.Question, NoteStanding.Open, NoteAct.Answer, originator with { AsksAnother = true }).Refusal?.Code);
        // Whoever sees a note has a word to add; of what was withdrawn nothing more is said.
        Assert.Null(NoteRules.Apply(NoteKind.Request, NoteStanding.Open, NoteAct.Reply, new NoteActor(false, false, false, SlipStanding.InReview)).Refusal);
        Assert.Equal("note-ended", NoteRules.Apply(NoteKind.Request, NoteStanding.Withdrawn, NoteAct.Reply, new NoteActor(false, false, false, SlipStanding.InReview)).Refusal?.Code);
    }

    [Fact]
    public void ListsSayForWhatAPackageWaits()
    {
        var slip = Sent(Of(new Core.Routing.Parallel([new Sequence([Step("left", Ann)]), new Sequence([Step("right", Ben)])])) with { HoldsNoted = true }, Item(10));
        Assert.Equal("2 steps: left, right", WaitingWords.Of(slip));
        slip = Do(slip, Sign(slip, Ann, "left0", Verdict.ApproveAsNoted));
        Assert.Equal("right", WaitingWords.Of(slip));
        slip = Do(slip, Sign(slip, Ben, "right0"));
        Assert.True(slip.IsHeld);
        Assert.Equal("the originator's answers", WaitingWords.Of(slip));
        Assert.Equal("", WaitingWords.Of(Do(slip, new AnswerNoted(Author, "left0", Ann, Item(10).Draft, "Yes."))));
    }
}
