using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>Whose request it is, and whom it bars: by hand, on a small plan.</summary>
public class AskingTables
{
    private static Guid Person(byte n) => new(n, 0, 0, new byte[8]);

    private static readonly Guid Author = Person(1), Ann = Person(2), Ben = Person(3), Lead = Person(4), Cid = Person(5), Dee = Person(6), Koa = Person(7);
    private static readonly Dictionary<Guid, Guid> Nobody = [];
    private static readonly SlipItem One = Item(10), Two = Item(20);

    private static SlipItem Item(byte n) => new(Person(n), Person((byte)(n + 1)), new string((char)('a' + (n % 6)), 64));

    /// <summary>A seat that one of two must sign, beside the lead's, then the last one's.</summary>
    private static Plan Beside(bool itemByItem = false) => new("Beside", "", new Sequence(
    [
        new Step("look", "Look", "", 1, [new Seat("pair", "Pair", new GroupHolder(Koa, 1)), new Seat("lead", "Lead", new PersonHolder(Lead))]),
        new Step("last", "Last", "", 1, [new Seat("end", "End", new PersonHolder(Cid))]),
    ]))
    { ItemByItem = itemByItem };

    private static Slip Sent(bool itemByItem = false) => Do(Slip.Blank, new Send(Author, Beside(itemByItem), [One, Two]), With());

    private static SlipContext With(params OpenRequest[] open) => new(new Dictionary<Guid, System.Collections.Immutable.ImmutableArray<Guid>> { [Koa] = [Ann, Ben] }, open) { MayCoordinate = true };

    private static Slip Do(Slip slip, SlipCommand command, SlipContext context)
    {
        var decision = SlipRules.Decide(slip, command, context);
        Assert.Null(decision.Refusal);
        return SlipRules.Replay(slip, decision.Events);
    }

    private static SignOff Sign(Guid person, string seat, Verdict one = Verdict.Approve, Verdict two = Verdict.Approve) =>
        new(person, seat, [new(One.Draft, One.Sha256, one, ""), new(Two.Draft, Two.Sha256, two, "")]);

    private static string? Code(Slip slip, SignOff sign, params OpenRequest[] open) => SlipRules.Decide(slip, sign, With(open)).Refusal?.Code;

    [Fact]
    public void ARequestBarsItsAuthorAndNobodyWhoSignsBesideThem()
    {
        var slip = Sent() with { Round = 2 };
        // The lead's, of an earlier round, answered or reopened: the lead will surely sign, so it bars the lead only.
        foreach (var request in new[] { new OpenRequest(1, One.Document, 1, Lead, true), new OpenRequest(1, One.Document, 1, Lead, false), new OpenRequest(1, One.Document, 2, Lead, false) })
        {
            Assert.Null(Code(slip, Sign(Ann, "pair"), request));
            Assert.Equal("request-open", Code(slip, Sign(Lead, "lead"), request));
        }
        // One of two in a seat may never have to sign: theirs bars whoever would settle the seat, and the lead as well.
        Assert.Equal("request-open", Code(slip, Sign(Ben, "pair"), new OpenRequest(1, One.Document, 1, Ann, true)));
        Assert.Equal("request-open", Code(slip, Sign(Lead, "lead"), new OpenRequest(1, One.Document, 1, Ann, true)));
    }

    [Fact]
    public void WhoReturnsOneItemIsNotHeldUpByRequestsOnAnother()
    {
        var requests = new[] { new OpenRequest(1, One.Document, 1, Lead, false), new OpenRequest(2, Two.Document, 1, Ann, false) };
        Assert.Null(Code(Sent(), Sign(Lead, "lead", Verdict.ReturnForChanges), requests));
        // Item by item the other one would go on, with what is asked for on it.
        Assert.Equal("request-open", Code(Sent(itemByItem: true), Sign(Lead, "lead", Verdict.ReturnForChanges), requests));
    }

    [Fact]
    public void AReturnAsksForSomething()
    {
        Assert.Equal("return-without-request", Code(Sent(), Sign(Lead, "lead", Verdict.ReturnForChanges)));
        Assert.Equal("return-without-request", Code(Sent() with { Round = 2 }, Sign(Lead, "lead", Verdict.ReturnForChanges), new OpenRequest(1, One.Document, 1, Lead, true)));
        Assert.Equal("return-without-request", Code(Sent(), Sign(Lead, "lead", Verdict.ReturnForChanges), new OpenRequest(1, One.Document, 1, Ann, false)));
        Assert.Null(Code(Sent() with { Round = 2 }, Sign(Lead, "lead", Verdict.ReturnForChanges), new OpenRequest(1, One.Document, 1, Ann, false)));
    }

    [Fact]
    public void ARequestGoesOnWithThePlaceOfWhoWroteIt()
    {
        var request = new OpenRequest(1, One.Document, 1, Lead, false);
        var slip = Do(Do(Sent(), new HandOver(Lead, "lead", Lead, Dee), With(request)), new HandOver(Dee, "lead", Dee, Koa), With(request));
        Assert.Equal("request-open", Code(slip, Sign(Koa, "lead"), request));
        Assert.Null(Code(slip, Sign(Koa, "lead", Verdict.ReturnForChanges), request));
        Assert.True(Reviewing.SettlesFor(slip, Lead, Koa, Nobody, false, false, false));
        Assert.False(Reviewing.SettlesFor(slip, Lead, Ann, Nobody, false, false, false));
        // Who has the place now, or stands in for them, takes back what nobody answered; who shares a seat does not.
        Assert.True(Reviewing.WithdrawsFor(slip, Lead, Koa, Nobody, false, false, false));
        Assert.True(Reviewing.WithdrawsFor(slip, Lead, Cid, new Dictionary<Guid, Guid> { [Koa] = Cid }, false, false, false));
        Assert.False(Reviewing.WithdrawsFor(slip, Lead, Dee, Nobody, false, false, false));
        Assert.False(Reviewing.WithdrawsFor(slip, Ann, Ben, Nobody, true, true, false));
        Assert.True(Reviewing.WithdrawsFor(slip, Ann, Author, Nobody, true, false, true));
        var seat = slip.SeatOf("lead")!;
        Assert.Equal((true, true, false), (seat.CameFrom(Lead, Koa), seat.CameFrom(Dee, Koa), seat.CameFrom(Koa, Koa)));
        Assert.Equal((true, true, false), (seat.Held(Lead), seat.Held(Koa), seat.Held(Ann)));
    }

    [Fact]
    public void OthersSettleARequestWhenItsAuthorCannot()
    {
        var slip = Sent();
        bool Settles(Guid author, Guid person, bool away = false, bool left = false, bool coordinates = false, Dictionary<Guid, Guid>? deputies = null) =>
            Reviewing.SettlesFor(slip, author, person, deputies ?? Nobody, away, left, coordinates);
        // Whoever shares the seat, or stands in for somebody who does.
        Assert.True(Settles(Ann, Ben));
        Assert.True(Settles(Ann, Dee, deputies: new() { [Ben] = Dee }));
        Assert.False(Settles(Ann, Lead));
        // A coordinator when the author is away, has left it, or holds no seat.
        Assert.False(Settles(Ann, Koa, coordinates: true));
        Assert.True(Settles(Ann, Koa, away: true, coordinates: true));
        Assert.True(Settles(Ann, Koa, left: true, coordinates: true));
        Assert.True(Settles(Dee, Koa, coordinates: true));
        Assert.False(Settles(Dee, Lead, away: true, left: true));
        // Whose it is: a deputy writes for the person who is away, and acts as they do.
        Assert.True(Reviewing.IsAsker(Dee, Ann, Ann, Nobody));
        Assert.True(Reviewing.IsAsker(Dee, Ann, Dee, Nobody));
        Assert.True(Reviewing.IsAsker(Ann, null, Dee, new Dictionary<Guid, Guid> { [Ann] = Dee }));
        Assert.False(Reviewing.IsAsker(Ann, null, Ben, new Dictionary<Guid, Guid> { [Ann] = Dee }));
    }

    /// <summary>The lead returns the first item; Ann has approved both, by a step whose signatures stand on what does not change.</summary>
    private static Slip Back()
    {
        var plan = Beside().WithSteps(s => s with { SignAgain = SignAgain.ChangedItems });
        var request = With(new OpenRequest(1, One.Document, 1, Lead, false));
        var slip = Do(Slip.Blank, new Send(Author, plan, [One, Two]), With());
        return Do(Do(slip, Sign(Ann, "pair"), With()), Sign(Lead, "lead", Verdict.ReturnForChanges), request);
    }

    [Fact]
    public void TheSameBytesGoOutAgainWhenNothingAskedForChangesThem()
    {
        var back = Back();
        Assert.Equal(SlipStanding.Returned, back.Standing);
        string? Sent(params OpenRequest[] open) => SlipRules.Decide(back, new SendAgain(Author, [One, Two]), With(open)).Refusal?.Code;
        var cannot = new OpenRequest(1, One.Document, 1, Lead, true) { ChangesNothing = true };
        Assert.Null(Sent(cannot));
        Assert.Equal("same-bytes", Sent(cannot with { ChangesNothing = false }));
        Assert.Equal("same-bytes", Sent(cannot, new OpenRequest(2, One.Document, 1, Ann, true)));
        Assert.Equal("same-bytes", Sent(cannot with { Document = Two.Document }));
        Assert.Equal("same-bytes", Sent());
        Assert.Equal("requests-unanswered", Sent(cannot, new OpenRequest(2, Two.Document, 1, Ann, false)));
        // What was approved stands; the lead, who returned it, looks again.
        var again = Do(back, new SendAgain(Author, [One, Two]), With(cannot));
        Assert.Equal([Ann], again.Signatures.Select(s => s.Person));
        Assert.Equal([Lead], again.Awaited().Select(a => a.Person));
    }

    [Fact]
    public void TheOriginatorLearnsWhoseSignatureFallsWithAnotherDraft()
    {
        // Ann's stands on the second item; the lead approved it as well.
        Assert.Equal([Ann, Lead], SlipRules.WouldFall(Back())[Two.Document].Order());
        Assert.Equal([Ann], SlipRules.WouldFall(Back())[One.Document]);
        Assert.Empty(SlipRules.WouldFall(Sent()));
        var all = Back() with { Plan = Beside() };
        Assert.Empty(SlipRules.WouldFall(all));
    }

    [Theory]
    [InlineData(Froe.Core.Draft.Standing.InWork, false, true)]
    [InlineData(Froe.Core.Draft.Standing.Returned, true, true)]
    [InlineData(Froe.Core.Draft.Standing.InReview, false, false)]
    [InlineData(Froe.Core.Draft.Standing.InReview, true, true)]
    [InlineData(Froe.Core.Draft.Standing.Released, true, false)]
    public void ARevisionTakesDraftsWhileItIsTheOriginators(Froe.Core.Draft.Standing standing, bool isBack, bool takes)
    {
        Assert.Equal(takes, Froe.Core.Draft.RevisionRules.TakesDrafts(standing, isBack));
        Assert.Equal(standing == Froe.Core.Draft.Standing.Released, Froe.Core.Draft.RevisionRules.IsLocked(standing));
    }

    [Fact]
    public void AStepThatHasJustPassedIsOpenedAgainWhileNobodyHasSignedAfterIt()
    {
        var slip = Do(Do(Sent(), Sign(Ann, "pair"), With()), Sign(Lead, "lead"), With());
        Assert.Equal(["last"], slip.Open);
        string? Taken(Slip at, TakeBack back, bool coordinates = false) => SlipRules.Decide(at, back, With() with { MayCoordinate = coordinates }).Refusal?.Code;
        Assert.Equal("not-last", Taken(slip, new TakeBack(Ann, "pair")));
        Assert.Equal("not-signed", Taken(slip, new TakeBack(Cid, "end")));
        Assert.Equal("not-coordinator", Taken(slip, new TakeBack(Koa, "lead") { Of = Lead }));
        Assert.Equal("not-last", Taken(slip, new TakeBack(Koa, "pair") { Of = Ann }, coordinates: true));
        foreach (var back in new[] { new TakeBack(Lead, "lead"), new TakeBack(Koa, "lead") { Of = Lead } })
        {
            var again = Do(slip, back, With());
            Assert.Equal(["look"], again.Open);
            Assert.Equal([Ann], again.Signatures.Select(s => s.Person));
            Assert.Equal([Lead], again.Awaited().Select(a => a.Person));
            Assert.Equal(slip.Signatures.Select(s => s.Person), Do(again, Sign(Lead, "lead"), With()).Signatures.Select(s => s.Person));
        }
        // Of an open step everybody takes back their own; a coordinator nobody's.
        var open = Do(Sent(), Sign(Ann, "pair"), With());
        Assert.Equal("step-open", Taken(open, new TakeBack(Koa, "pair") { Of = Ann }, coordinates: true));
        Assert.Null(Taken(open, new TakeBack(Ann, "pair")));
        Assert.Equal("signed-after", Taken(SignedBeforeAThird(), new TakeBack(Lead, "lead")));

        // A third step behind, so that the second one's signature does not release it.
        static Slip SignedBeforeAThird()
        {
            var plan = Beside() with { Root = new Sequence([.. Beside().Root.Blocks, new Step("after", "After", "", 1, [new Seat("x", "X", new PersonHolder(Dee))])]) };
            var at = Do(Slip.Blank, new Send(Author, plan, [One, Two]), With());
            return Do(Do(Do(at, Sign(Ann, "pair"), With()), Sign(Lead, "lead"), With()), Sign(Cid, "end"), With());
        }
    }

    [Fact]
    public void NothingIsReleasedWithoutASignatureUnlessItIsSaidInSoManyWords()
    {
        var always = new Rule(true, [new Condition(Subject.Size, "", Comparison.AtLeast, "0")]);
        Step Look(string key, bool byRule) => new(key, key, "", 1, [new Seat(key + "-seat", "Seat", new PersonHolder(Lead))]) { PassesWhen = byRule ? always : null };
        Plan Of(params Block[] blocks) => new("P", "", new Sequence([.. blocks]));
        bool Found(Plan plan) => PlanCheck.Check(plan, With().Groups).Any(f => f is { Code: "no-signature", Stops: true });
        Choice RoundIt(string key, Step step) => new(key, "Which", [new Way("a", "Over it", always, new Sequence([step])), new Way("b", "Round it", null, new Sequence([]))]);
        Assert.False(Found(Of(Look("a", false))));
        Assert.True(Found(Of(Look("a", true))));
        Assert.False(Found(Of(Look("a", true), Look("b", false))));
        Assert.True(Found(Of(Look("a", true), RoundIt("c", Look("b", false)))));
        Assert.False(Found(Of(Look("a", false), RoundIt("c", Look("b", false)))));
        Assert.True(Found(Of(new Parallel([new Sequence([Look("a", true)]), new Sequence([Look("b", true)])]))));
        Assert.False(Found(Of(new Parallel([new Sequence([Look("a", true)]), new Sequence([Look("b", false)])]))));
        Assert.False(Found(Of(Look("a", true)) with { NeedsNoSignature = "For information only." }));

        // A coordinator who skips every seat is told, and says so.
        var slip = Do(Slip.Blank, new Send(Author, Of(Look("a", false)), [One]), With());
        Assert.Equal("releases-unsigned", SlipRules.Decide(slip, new Skip(Koa, "a-seat"), With()).Refusal?.Code);
        var released = Do(slip, new Skip(Koa, "a-seat") { WithoutSignatures = true }, With());
        Assert.Equal(SlipStanding.Released, released.Standing);
        var told = Consequences.Of(new SlipChange("PK-1", "Shaft", slip, SlipRules.Decide(slip, new Skip(Koa, "a-seat") { WithoutSignatures = true }, With()).Events, "Overtaken.", Nobody)).OfType<Told>();
        Assert.Contains(told, t => t.Body.StartsWith("Released without signatures. Overtaken.", StringComparison.Ordinal));
    }

    [Fact]
    public void TheLastRequestOfAReturnStaysWhileItIsUnderWay()
    {
        OpenRequest first = new(1, One.Document, 1, Lead, false), second = new(2, One.Document, 1, Ann, false), other = new(3, Two.Document, 1, Ann, false);
        var slip = Do(Sent(), Sign(Lead, "lead", Verdict.ReturnForChanges), With(first, second, other));
        Assert.Equal(SlipStanding.InReview, slip.Standing);
        Assert.False(Reviewing.HoldsReturn(slip, 1, [One.Document], [first, second, other]));
        Assert.True(Reviewing.HoldsReturn(slip, 1, [One.Document], [first, other]));
        Assert.True(Reviewing.HoldsReturn(slip, 1, [Two.Document, One.Document], [first, second with { Answered = true }]));
        Assert.False(Reviewing.HoldsReturn(slip, 3, [Two.Document], [first, other]));
        Assert.False(Reviewing.HoldsReturn(Sent(), 1, [One.Document], [first]));
        Assert.False(Reviewing.HoldsReturn(slip with { Standing = SlipStanding.Returned }, 1, [One.Document], [first]));
    }
}
