using System.Collections.Immutable;
using Froe.Core.Draft;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Refusals and passages worked by hand.</summary>
public class RoutingTables
{
    private static readonly Guid Author = new(1, 0, 0, new byte[8]), Checker = new(2, 0, 0, new byte[8]), Lead = new(3, 0, 0, new byte[8]), Document = new(9, 0, 0, new byte[8]);
    private static readonly string Bytes = new('a', 64), NewBytes = new('b', 64);

    private static readonly Plan TwoSteps = new("Two", "", new Sequence(
    [
        new Step("check", "Check", "Check it.", 2, [new Seat("c", "Check", new PersonHolder(Checker))]),
        new Step("lead", "Lead", "Sign it.", 1, [new Seat("l", "Lead", new PersonHolder(Lead))]),
    ]));

    private static SlipItem Item(string bytes) => new(Document, new Guid(bytes[0], 0, 0, new byte[8]), bytes);

    private static Slip Sent() => SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Author, TwoSteps, [Item(Bytes)]), SlipContext.Empty).Events);

    private static SignOff Sign(Guid who, string seat, Verdict verdict = Verdict.Approve, string bytes = "", string reason = "")
    {
        var item = Item(bytes.Length == 0 ? Bytes : bytes);
        return new SignOff(who, seat, [new ItemVerdict(item.Draft, item.Sha256, verdict, reason)]);
    }

    private static SlipContext With(params OpenRequest[] requests) => new(SlipContext.Empty.Groups, requests);

    private static string? Refused(Slip slip, SlipCommand command, SlipContext? context = null) => SlipRules.Decide(slip, command, context ?? SlipContext.Empty).Refusal?.Code;

    [Fact]
    public void EachRefusalNamesItsReason()
    {
        var slip = Sent();
        Assert.Equal("not-your-seat", Refused(slip, Sign(Lead, "c")));
        Assert.Equal("step-not-open", Refused(slip, Sign(Lead, "l")));
        Assert.Equal("no-such-seat", Refused(slip, Sign(Checker, "x")));
        Assert.Equal("other-bytes", Refused(slip, Sign(Checker, "c", bytes: NewBytes)));
        Assert.Equal("verdict-missing", Refused(slip, new SignOff(Checker, "c", [])));
        Assert.Equal("noted-without-note", Refused(slip, Sign(Checker, "c", Verdict.ApproveAsNoted)));
        Assert.Equal("return-without-request", Refused(slip, Sign(Checker, "c", Verdict.ReturnForChanges)));
        Assert.Equal("request-open", Refused(slip, Sign(Checker, "c"), With(new OpenRequest(1, Document, 1, Checker, false))));
        Assert.Equal("not-originator", Refused(slip, new SendAgain(Lead, [Item(NewBytes)])));
        Assert.Equal("not-returned", Refused(slip, new SendAgain(Author, [Item(NewBytes)])));
        Assert.Null(Refused(slip, Sign(Checker, "c", Verdict.ApproveAsNoted, reason: "Watch the seal.")));
    }

    [Fact]
    public void AReturnedPackageNeedsNewBytesAndAnswersBeforeTheNextRound()
    {
        var slip = Sent();
        var request = new OpenRequest(1, Document, 1, Checker, false);
        slip = SlipRules.Replay(slip, SlipRules.Decide(slip, Sign(Checker, "c", Verdict.ReturnForChanges), With(request)).Events);
        Assert.Equal(SlipStanding.Returned, slip.Standing);
        Assert.Equal("same-bytes", Refused(slip, new SendAgain(Author, [Item(Bytes)])));
        Assert.Equal("requests-unanswered", Refused(slip, new SendAgain(Author, [Item(NewBytes)]), With(request)));
        var answered = request with { Answered = true };
        slip = SlipRules.Replay(slip, SlipRules.Decide(slip, new SendAgain(Author, [Item(NewBytes)]), With(answered)).Events);
        Assert.Equal((2, SlipStanding.InReview), (slip.Round, slip.Standing));
        // The old draft's signature is gone and the carried request bars approval until it is closed.
        Assert.Empty(slip.Signatures);
        Assert.Equal("request-open", Refused(slip, Sign(Checker, "c", bytes: NewBytes), With(answered)));
        Assert.Null(Refused(slip, Sign(Checker, "c", bytes: NewBytes)));
    }

    [Fact]
    public void ARequestOfSomeoneWhoMustStillSignDoesNotBarTheOthers()
    {
        var plan = new Plan("Side by side", "", new Sequence([new Step("s", "Both", "Sign.", 1, [new Seat("c", "Check", new PersonHolder(Checker)), new Seat("l", "Lead", new PersonHolder(Lead))])]));
        var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Author, plan, [Item(Bytes)]), SlipContext.Empty).Events);
        var leads = new OpenRequest(1, Document, 1, Lead, false);
        Assert.Null(Refused(slip, Sign(Checker, "c"), With(leads)));
        Assert.Equal("request-open", Refused(slip, Sign(Lead, "l"), With(leads)));
    }

    [Fact]
    public void ARequestOfAGroupMemberWhoNeedNotSignBarsTheLastNeededSignature()
    {
        Guid crew = new(50, 0, 0, new byte[8]);
        var plan = new Plan("Crew", "", new Sequence([new Step("s", "Crew", "Sign.", 1, [new Seat("q", "Crew", new GroupHolder(crew, 1))])]));
        var context = new SlipContext(new Dictionary<Guid, ImmutableArray<Guid>> { [crew] = [Checker, Lead] }, [new OpenRequest(4, Document, 1, Lead, false)]);
        var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Author, plan, [Item(Bytes)]), context).Events);
        Assert.Equal("request-open", Refused(slip, Sign(Checker, "q"), context));
    }

    [Fact]
    public void AParallelReturnWaitsForTheOthersAndThenGoesBack()
    {
        var plan = new Plan("Side by side", "", new Sequence([new Step("s", "Both", "Sign.", 1, [new Seat("c", "Check", new PersonHolder(Checker)), new Seat("l", "Lead", new PersonHolder(Lead))])]));
        var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Author, plan, [Item(Bytes)]), SlipContext.Empty).Events);
        slip = SlipRules.Replay(slip, SlipRules.Decide(slip, Sign(Checker, "c", Verdict.ReturnForChanges), With(new OpenRequest(1, Document, 1, Checker, false))).Events);
        Assert.Equal(SlipStanding.InReview, slip.Standing);
        slip = SlipRules.Replay(slip, SlipRules.Decide(slip, Sign(Lead, "l"), With(new OpenRequest(1, Document, 1, Checker, false))).Events);
        Assert.Equal(SlipStanding.Returned, slip.Standing);
    }

    [Theory]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, false, true, false, NoteStanding.Answered, null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Answer, false, false, true, NoteStanding.Open, "not-originator")]
    [InlineData(NoteKind.Remark, NoteStanding.Open, NoteAct.Answer, false, true, false, NoteStanding.Open, "remark-needs-none")]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Close, false, false, true, NoteStanding.Answered, "not-yours-to-close")]
    [InlineData(NoteKind.Request, NoteStanding.Answered, NoteAct.Close, true, false, false, NoteStanding.Closed, null)]
    [InlineData(NoteKind.Request, NoteStanding.Closed, NoteAct.Reopen, false, false, true, NoteStanding.Open, null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Withdraw, true, false, true, NoteStanding.Withdrawn, null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Withdraw, true, false, false, NoteStanding.Withdrawn, null)]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Withdraw, true, true, false, NoteStanding.Open, "with-originator")]
    [InlineData(NoteKind.Request, NoteStanding.Open, NoteAct.Withdraw, false, false, true, NoteStanding.Open, "not-author")]
    [InlineData(NoteKind.Request, NoteStanding.Closed, NoteAct.Answer, false, true, false, NoteStanding.Closed, "note-ended")]
    public void NotesLiveByTheirRules(NoteKind kind, NoteStanding standing, NoteAct act, bool author, bool originator, bool awaited, NoteStanding after, string? refusal)
    {
        var (found, why) = NoteRules.Apply(kind, standing, act, new NoteActor(author, originator, awaited, originator ? SlipStanding.Returned : SlipStanding.InReview));
        Assert.Equal((after, refusal), (found, why?.Code));
    }

    [Theory]
    [InlineData("A", "B")]
    [InlineData("H", "J")]
    [InlineData("Y", "AA")]
    [InlineData("AY", "BA")]
    [InlineData("9", "10")]
    public void RevisionLettersSkipThoseThatReadAsDigits(string label, string next) => Assert.Equal(next, RevisionLabel.Next(label));

    [Theory]
    [InlineData("I")]
    [InlineData("a")]
    [InlineData("")]
    [InlineData("ABCD")]
    public void OtherLabelsAreNoRevisions(string label) => Assert.False(RevisionLabel.IsValid(label));

    // ---- item by item, what is noted, who is told ----

    private static readonly Guid Second = new(8, 0, 0, new byte[8]);

    private static SlipItem SecondItem => new(Second, new Guid(80, 0, 0, new byte[8]), new('c', 64));

    private static Slip SentBoth(Plan plan) => SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Author, plan, [Item(Bytes), SecondItem]), SlipContext.Empty).Events);

    private static SignOff SignBoth(Guid who, string seat, Verdict first, Verdict second, string reason = "") =>
        new(who, seat, [new ItemVerdict(Item(Bytes).Draft, Bytes, first, reason), new ItemVerdict(SecondItem.Draft, SecondItem.Sha256, second, reason)]);

    [Fact]
    public void ItemByItemTheRestGoesOnAndIsReleasedWithoutWhatWasReturned()
    {
        var request = new OpenRequest(1, Document, 1, Checker, false);
        var slip = SentBoth(TwoSteps with { ItemByItem = true });
        var decision = SlipRules.Decide(slip, SignBoth(Checker, "c", Verdict.ReturnForChanges, Verdict.Approve), With(request));
        Assert.Equal(["SignedOff", "ItemsSplitOff", "StepPassed", "StepOpened"], decision.Events.Select(e => e.GetType().Name));
        slip = SlipRules.Replay(slip, decision.Events);
        Assert.Equal([Second], slip.Items.Select(i => i.Document));
        // The request went with its item, so it does not hold up the other.
        decision = SlipRules.Decide(slip, new SignOff(Lead, "l", [new ItemVerdict(SecondItem.Draft, SecondItem.Sha256, Verdict.Approve, "")]), SlipContext.Empty);
        Assert.Equal([SecondItem], decision.Events.OfType<PackageReleased>().Single().Items);

        // Together, the same verdicts send both back; and with every item returned there is nothing to go on with.
        var together = SlipRules.Decide(SentBoth(TwoSteps), SignBoth(Checker, "c", Verdict.ReturnForChanges, Verdict.Approve), With(request)).Events;
        Assert.Equal("PackageReturned", together[^1].GetType().Name);
        var all = SlipRules.Decide(SentBoth(TwoSteps with { ItemByItem = true }), SignBoth(Checker, "c", Verdict.ReturnForChanges, Verdict.ReturnForChanges), With(request, request with { Document = Second })).Events;
        Assert.Equal("PackageReturned", all[^1].GetType().Name);
    }

    [Fact]
    public void WhatIsNotedHoldsTheReleaseOnlyWherePlansSaySo()
    {
        Slip Signed(Plan plan)
        {
            var slip = SentBoth(plan);
            slip = SlipRules.Replay(slip, SlipRules.Decide(slip, SignBoth(Checker, "c", Verdict.ApproveAsNoted, Verdict.Approve, "Burr on the edge."), SlipContext.Empty).Events);
            return SlipRules.Replay(slip, SlipRules.Decide(slip, SignBoth(Lead, "l", Verdict.Approve, Verdict.Approve), SlipContext.Empty).Events);
        }

        Assert.Equal(SlipStanding.Released, Signed(TwoSteps).Standing);
        var held = Signed(TwoSteps with { HoldsNoted = true });
        Assert.True(held.IsHeld);
        Assert.Empty(held.Awaited());
        var answer = new AnswerNoted(Author, "c", Checker, Item(Bytes).Draft, "Broken by 0.2.");
        Assert.Equal("not-originator", Refused(held, answer with { Person = Lead }));
        Assert.Equal("nothing-noted", Refused(held, answer with { Seat = "l", Signer = Lead }));
        Assert.Equal("answer-without-words", Refused(held, answer with { Words = " " }));
        Assert.IsType<PackageReleased>(SlipRules.Decide(held, answer, SlipContext.Empty).Events[^1]);
    }

    /// <summary>
    /// Only the lead, who returned both, signs again: the checker's signature goes on naming the drafts of round 1. When the lead then
    /// returns one of them, each package goes on with what was noted on its own document.
    /// </summary>
    [Fact]
    public void WhatWasJudgedInAnEarlierRoundStaysWithItsDocument()
    {
        var plan = TwoSteps with { ItemByItem = true, HoldsNoted = true };
        plan = plan.WithSteps(s => s with { SignAgain = SignAgain.ReturnedAndAfter });
        SlipItem first = Item(NewBytes), second = SecondItem with { Draft = new Guid(77, 0, 0, new byte[8]), Sha256 = new('d', 64) };
        OpenRequest one = new(1, Document, 1, Lead, false), two = new(2, Second, 1, Lead, false);
        var slip = SentBoth(plan);
        Do(SignBoth(Checker, "c", Verdict.ApproveAsNoted, Verdict.ApproveAsNoted, "Burr on the edge."), SlipContext.Empty);
        Do(SignBoth(Lead, "l", Verdict.ReturnForChanges, Verdict.ReturnForChanges), With(one, two));
        Do(new SendAgain(Author, [first, second]), With(one with { Answered = true }, two with { Answered = true }));
        Assert.Equal([Item(Bytes).Draft, SecondItem.Draft], slip.JudgedEarlier());

        var earlier = new Dictionary<Guid, Guid> { [Item(Bytes).Draft] = Document, [SecondItem.Draft] = Second };
        var again = new SignOff(Lead, "l", [new(first.Draft, first.Sha256, Verdict.Approve, ""), new(second.Draft, second.Sha256, Verdict.ReturnForChanges, "")]);
        var events = SlipRules.Decide(slip, again, With(two with { Round = 2 }) with { EarlierDrafts = earlier }).Events;
        var split = events.OfType<ItemsSplitOff>().Single();
        Assert.Equal([second.Draft, SecondItem.Draft], split.Drafts!.Value);
        var stays = SlipRules.Replay(slip, events);
        Assert.True(stays.IsHeld);
        Assert.Equal([("c", Item(Bytes).Draft), ("l", first.Draft)], Judged(stays));
        Assert.Equal([("c", SecondItem.Draft), ("l", second.Draft)], Judged(SlipRules.SplitOff(SlipRules.Replay(slip, events[..events.IndexOf(split)]), split)));
        Assert.IsType<PackageReleased>(SlipRules.Decide(stays, new AnswerNoted(Author, "c", Checker, Item(Bytes).Draft, "Broken by 0.2."), SlipContext.Empty).Events[^1]);
        // As it was told before drafts of earlier rounds were: the ledgers of that time replay as they were written.
        Assert.Equal([("l", first.Draft)], Judged(SlipRules.Evolve(SlipRules.Replay(slip, events[..events.IndexOf(split)]), split with { Drafts = null })));

        // A document that is withdrawn, or left out of the next round, takes with it what was noted on its earlier draft.
        var without = SlipRules.Replay(slip, SlipRules.Decide(slip, new TakeOut(Author, Second), SlipContext.Empty with { EarlierDrafts = earlier }).Events);
        Assert.Equal([("c", Item(Bytes).Draft)], Judged(without));
        var back = SlipRules.Replay(slip, SlipRules.Decide(slip, new SignOff(Lead, "l", [new(first.Draft, first.Sha256, Verdict.ReturnForChanges, ""), new(second.Draft, second.Sha256, Verdict.ReturnForChanges, "")]), With(one with { Round = 2 }, two with { Round = 2 }) with { EarlierDrafts = earlier }).Events);
        Assert.Equal(SlipStanding.Returned, back.Standing);
        var third = first with { Draft = new Guid(78, 0, 0, new byte[8]), Sha256 = new('e', 64) };
        back = SlipRules.Replay(back, SlipRules.Decide(back, new SendAgain(Author, [third]), SlipContext.Empty with { EarlierDrafts = earlier }).Events);
        Assert.Equal([("c", Item(Bytes).Draft)], Judged(back));

        void Do(SlipCommand command, SlipContext context)
        {
            var decision = SlipRules.Decide(slip, command, context);
            Assert.Null(decision.Refusal);
            slip = SlipRules.Replay(slip, decision.Events);
        }

        static IEnumerable<(string, Guid)> Judged(Slip at) => at.Signatures.SelectMany(s => s.Verdicts.Select(v => (s.Seat, v.Draft)));
    }

    [Fact]
    public void APlanForCertainPackagesRefusesOthersInPlainWords()
    {
        var plan = TwoSteps with { Fits = new Rule(false, [new(Subject.Size, "", Comparison.AtLeast, "2")]) };
        var facts = PackageFacts.None with { Documents = [new(Document, "T-1", "drawing", "", "dxf", Author)] };
        var refusal = SlipRules.Decide(Slip.Blank, new Send(Author, plan, [Item(Bytes)]) { Facts = facts }, SlipContext.Empty).Refusal!;
        Assert.Equal("plan-does-not-fit", refusal.Code);
        Assert.Contains("the number of documents is at least 2", refusal.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void WithoutTheRightNobodyIsSeatedNorSigns()
    {
        var nobody = SlipContext.Empty with { Signers = new HashSet<Guid> { Lead } };
        var refusal = SlipRules.Decide(Slip.Blank, new Send(Author, TwoSteps, [Item(Bytes)]), nobody).Refusal!;
        Assert.Equal("seat-unfillable", refusal.Code);
        Assert.Contains("lack the right", refusal.Reason, StringComparison.Ordinal);
        Assert.Equal("no-right", Refused(Sent(), Sign(Checker, "c"), nobody));
        Assert.Equal("no-right", Refused(Sent(), new HandOver(Checker, "c", Checker, Author), nobody));
        var stall = Assert.Single(StallCheck.OfSeats(TwoSteps, new Send(Author, TwoSteps, []), nobody));
        Assert.Equal(("seat-unfillable", "c", RemedyKind.ChoosePlan), (stall.Code, stall.Seat, stall.Remedies[0].Kind));
    }
}
