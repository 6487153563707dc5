using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Routing;
using Xunit;
using static Froe.Core.Tests.RandomRouting;

namespace Froe.Core.Tests;

/// <summary>What follows from what happened to a slip, as values.</summary>
public class ConsequenceTables
{
    private static readonly Guid Author = new(1, 0, 0, new byte[8]), Checker = new(2, 0, 0, new byte[8]), Lead = new(3, 0, 0, new byte[8]), Deputy = new(4, 0, 0, new byte[8]);
    private static readonly Guid Crew = new(5, 0, 0, new byte[8]), Follow = new(6, 0, 0, new byte[8]);
    private static readonly Dictionary<Guid, Guid> Nobody = [];

    private static readonly Plan TwoSteps = new("Two", "", new Sequence(
    [
        new Step("check", "Check", "Check it.", 2, [new Seat("c", "Check", new PersonHolder(Checker))])
        {
            Tells = [new Telling(Moment.Arrival, [Lead], [], false), new Telling(Moment.Passage, [], [Crew], true), new Telling(Moment.Return, [], [], false) { LastEditor = true }],
        },
        new Step("lead", "Lead", "Sign it.", 1, [new Seat("l", "Lead", new PersonHolder(Lead))]),
    ]));

    private static SlipItem Item(int n) => new(new Guid(n, 1, 0, new byte[8]), new Guid(n, 2, 0, new byte[8]), Hash(n));

    private static SlipChange Change(Slip slip, SlipCommand command, SlipContext? context = null, Dictionary<Guid, Guid>? deputies = null, string reason = "Because.")
    {
        var decision = SlipRules.Decide(slip, command, context ?? SlipContext.Empty);
        Assert.Null(decision.Refusal);
        return new SlipChange("PK-1", "Shaft", slip, decision.Events, reason, deputies ?? Nobody);
    }

    private static SlipChange Send(Plan plan, params SlipItem[] items) => Change(Slip.Blank, new Send(Author, plan, [.. items]));

    private static SignOff Sign(Slip slip, Guid who, string seat, Verdict verdict = Verdict.Approve) => new(who, seat, [.. slip.Items.Select(i => new ItemVerdict(i.Draft, i.Sha256, verdict, ""))]);

    private static SlipContext Asked(Slip slip) => new(SlipContext.Empty.Groups, [new OpenRequest(1, slip.Items[0].Document, 1, Checker, false)]);

    private static string[] Words(SlipChange change) => [.. Consequences.Of(change).OfType<Told>().Select(t => t.Subject)];

    [Fact]
    public void SendingIsEnteredAndWhoeverMustSignIsToldAndTheirDeputy()
    {
        var change = Send(TwoSteps, Item(1)) with { Deputies = new Dictionary<Guid, Guid> { [Checker] = Deputy } };
        var all = Consequences.Of(change);
        Assert.Equal(["package sent", "step opened"], all.OfType<Entered>().Select(e => e.Action));
        Assert.Equal(["Because.", ""], all.OfType<Entered>().Select(e => e.Reason));
        Assert.Equal([Checker, Lead], Assert.Single(all.OfType<SeatsChanged>()).People);
        var awaited = Assert.Single(all.OfType<NowAwaited>());
        Assert.Equal([("c", Checker)], awaited.All);
        Assert.Equal([("check", "c", Checker)], awaited.Anew.Select(a => (a.Step.Key, a.Seat, a.Person)));
        Assert.Equal(["check"], Assert.Single(all.OfType<StepsMoved>()).Opened);
        Assert.Equal(
            [("PK-1: step “Check” is open: Shaft", Lead), ("PK-1 waits for your signature: Shaft", Checker), ("PK-1 waits for your signature as deputy: Shaft", Deputy)],
            all.OfType<Told>().Select(t => (t.Subject, t.To.People.Single())));
    }

    [Fact]
    public void ASignatureThatPassesAStepTellsWhomThePlanNames()
    {
        var slip = Send(TwoSteps, Item(1)).After;
        var all = Consequences.Of(Change(slip, Sign(slip, Checker, "c")));
        Assert.Equal(["signed", "step passed", "step opened"], all.OfType<Entered>().Select(e => e.Action));
        var passed = all.OfType<Told>().Single(t => t.Subject == "PK-1: step “Check” passed: Shaft");
        Assert.Equal([Author], passed.To.People);
        Assert.Equal([Crew], passed.To.Groups);
        Assert.Equal(["check"], Assert.Single(all.OfType<StepsMoved>()).Passed);
        Assert.Equal(["lead"], all.OfType<StepsMoved>().Single().Opened);
        Assert.Empty(all.OfType<RevisionsStand>());
    }

    [Fact]
    public void AReturnPutsTheRevisionsBackAndTellsTheOriginator()
    {
        var slip = Send(TwoSteps, Item(1)).After;
        var all = Consequences.Of(Change(slip, Sign(slip, Checker, "c", Verdict.ReturnForChanges), Asked(slip)));
        Assert.Equal(["signed, returning", "package returned"], all.OfType<Entered>().Select(e => e.Action));
        var stand = Assert.Single(all.OfType<RevisionsStand>());
        Assert.Equal(Standing.Returned, stand.Standing);
        Assert.Equal([Item(1).Document], stand.Documents);
        Assert.True(all.OfType<Told>().Single(t => t.Subject == "PK-1: step “Check” was returned: Shaft").To.LastEditors);
        // The originator first, with what to do; then whoever had a part, and who was to be kept informed.
        var told = all.OfType<Told>().Where(t => t.Subject == "PK-1 came back: Shaft").ToList();
        Assert.Equal([Author], told[0].To.People);
        Assert.Equal([Checker, Author], told[1].To.People);
        Assert.True(told[1].To.Informed);
        Assert.Empty(Assert.Single(all.OfType<NowAwaited>()).All);
    }

    [Fact]
    public void AReleaseLocksTheRevisionsFirstAndThenClosesAsThePlanSays()
    {
        var plan = TwoSteps with { Closing = [new FileUnder("Works / Lifting") { Copy = true }, new InformGroup(Crew), new OpenFollowUp(Follow, " ")] };
        var slip = Send(plan, Item(1), Item(2)).After;
        slip = Change(slip, Sign(slip, Checker, "c")).After;
        var all = Consequences.Of(Change(slip, Sign(slip, Lead, "l"))).ToList();
        Assert.Equal([Item(1), Item(2)], Assert.Single(all.OfType<RevisionsReleased>()).Items);
        Assert.True(all.FindIndex(c => c is RevisionsReleased) < all.FindIndex(c => c is DocumentsFiled));
        var filed = Assert.Single(all.OfType<DocumentsFiled>());
        Assert.Equal(("Works / Lifting", true, 2), (filed.Folder, filed.IsCopy, filed.Documents.Length));
        // A follow-up without a title of its own takes the package's.
        Assert.Equal(("Shaft", Follow), (Assert.Single(all.OfType<FollowUpPrepared>()).Title, all.OfType<FollowUpPrepared>().Single().Next.Plan));
        var told = all.OfType<Told>().Single(t => t.Subject == "PK-1 is released: Shaft");
        Assert.Equal([Author, Checker, Lead], told.To.People);
        Assert.Equal([Crew], told.To.Groups);
        Assert.True(told.To.Informed);
    }

    [Fact]
    public void ItemByItemTheReturnedOnesLeaveWithASlipOfTheirOwn()
    {
        var slip = Send(TwoSteps with { ItemByItem = true }, Item(1), Item(2)).After;
        var command = new SignOff(Checker, "c", [new ItemVerdict(Item(1).Draft, Item(1).Sha256, Verdict.ReturnForChanges, ""), new ItemVerdict(Item(2).Draft, Item(2).Sha256, Verdict.Approve, "")]);
        var change = Change(slip, command, Asked(slip));
        var left = Assert.Single(Consequences.Of(change).OfType<ItemsLeave>());
        Assert.Equal(SlipStanding.Returned, left.Slip.Standing);
        Assert.Equal([Item(1)], left.Items);
        Assert.StartsWith("An item of PK-1 came back", Consequences.CameBack(change, left, "PK-2").Body, StringComparison.Ordinal);
        Assert.DoesNotContain("PK-1 came back: Shaft", Words(change));
    }

    [Fact]
    public void WhoseSeatIsHandedOverIsToldAndWhoTakesItOnlyOnce()
    {
        var slip = Send(TwoSteps, Item(1)).After;
        // The step is open: they are told that it waits for them, and not once more.
        Assert.Equal(
            ["PK-1 waits for your signature: Shaft", "Your seat in PK-1 was handed over: Shaft"], Words(Change(slip, new HandOver(Checker, "c", Checker, Deputy))));
        Assert.Equal(
            ["Your seat in PK-1 was handed over: Shaft", "You hold a seat in PK-1 now: Shaft"], Words(Change(slip, new HandOver(Lead, "l", Lead, Deputy))));
    }

    [Fact]
    public void StoppingFreesTheRevisionsAndTellsWhoWasToSign()
    {
        var slip = Send(TwoSteps, Item(1)).After;
        var all = Consequences.Of(Change(slip, new Stop(Deputy), SlipContext.Empty with { MayCoordinate = true }));
        Assert.Equal(["package stopped"], all.OfType<Entered>().Select(e => e.Action));
        Assert.Equal(Standing.InWork, Assert.Single(all.OfType<RevisionsStand>()).Standing);
        Assert.Equal([Checker, Author], all.OfType<Told>().Single(t => t.Subject == "PK-1 is stopped: Shaft").To.People);
    }

    /// <summary>Over random plans and commands: each event is entered once and in order, whoever is awaited is told when their time begins, nobody without a reason.</summary>
    [Fact]
    public void WhateverHappensIsEnteredAndNobodyIsAwaitedUntold() => GenRun.Sample(run =>
    {
        var slip = Apply(Slip.Blank, Sending(run), new SlipContext(Groups, []));
        if (slip.Standing == SlipStanding.Unsent) return;
        foreach (var move in run.Moves)
        {
            var (command, context) = Move(slip, move);
            slip = Apply(slip, command, context);
        }

        static Slip Apply(Slip at, SlipCommand command, SlipContext context)
        {
            var decision = SlipRules.Decide(at, command, context);
            if (decision.IsRefused) return at;
            var change = new SlipChange("PK-1", "Shaft", at, decision.Events, "r", context.Deputies);
            var all = Consequences.Of(change);
            Assert.Equal(decision.Events, all.OfType<Entered>().Select(e => e.Happened));
            var awaited = Assert.Single(all.OfType<NowAwaited>());
            // Whoever must agree with the other signers on a way is waited for as well, and told so apart.
            var mustSign = change.After.Awaited().Select(a => (a.Seat.Key, a.Person)).ToList();
            Assert.Equal(mustSign.Union(change.After.Differing().SelectMany(d => d.Picked).Select(p => (p.Seat, p.Person))), awaited.All);
            var waits = all.OfType<Told>().Where(t => t.Subject is "PK-1 waits for your signature: Shaft" or "PK-1 came back to you, and waits for your signature: Shaft").SelectMany(t => t.To.People).ToList();
            Assert.Equal(awaited.Anew.Where(a => mustSign.Contains((a.Seat, a.Person))).Select(a => a.Person), waits);
            Assert.All(change.After.Differing().Where(d => !at.Differing().Any(o => o.Choice == d.Choice)), d => Assert.Contains(all.OfType<Told>(), t => d.Picked.All(p => t.To.People.Contains(p.Person))));
            // Whoever was awaited before in a step that did not open anew is not told again.
            var opened = decision.Events.OfType<StepOpened>().Select(e => e.Step).ToHashSet();
            var before = at.Awaited().Select(a => (a.Seat.Key, a.Person)).ToHashSet();
            Assert.All(awaited.Anew, a => Assert.True(opened.Contains(a.Step.Key) || !before.Contains((a.Seat, a.Person))));
            // What is released, and only that, is released.
            Assert.Equal(
                decision.Events.OfType<PackageReleased>().SelectMany(e => e.Items), all.OfType<RevisionsReleased>().SelectMany(r => r.Items));
            Assert.Equal(
                decision.Events.OfType<ItemsSplitOff>().SelectMany(e => e.Items), all.OfType<ItemsLeave>().SelectMany(r => r.Items));
            return change.After;
        }
    }, print: Say);

    [Fact]
    public void EveryStandingHasItsWordAndEveryWordItsStanding()
    {
        Assert.All(Enum.GetValues<Standing>(), s => Assert.Equal(s, StandingWords.Parse(s.Word())));
        Assert.Equal(["in work", "in review", "returned", "released", "superseded", "withdrawn"], Enum.GetValues<Standing>().Select(s => s.Word()));
        Assert.Throws<ArgumentException>(() => StandingWords.Parse("in Review"));
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void APullBackSaysWhatItIsToWhoeverHadAPart(bool signAgain)
    {
        var slip = Send(TwoSteps, Item(1)).After;
        slip = Change(slip, Sign(slip, Checker, "c")).After;
        var change = Change(slip, new PullBack(Deputy, signAgain), SlipContext.Empty with { MayCoordinate = true });
        var all = Consequences.Of(change);
        Assert.Equal(["package pulled back"], all.OfType<Entered>().Select(e => e.Action));
        Assert.Equal(["PK-1 is pulled back: Shaft"], Words(change).Distinct());
        Assert.All(all.OfType<Told>(), t => Assert.EndsWith("Because.", t.Body, StringComparison.Ordinal));
        Assert.Equal([Author, Checker, Lead], all.OfType<Told>().SelectMany(t => t.To.People).Distinct().Order());
        Assert.Contains(all.OfType<Told>(), t => t.To.Informed);
        Assert.Equal(signAgain, all.OfType<SignaturesKept>().Any(k => k.Kept.IsEmpty));
        // What was signed stands in the next round where the bytes are the same, unless everybody signs again.
        var again = Change(change.After, new SendAgain(Author, [Item(1)])).After;
        Assert.Equal(signAgain ? [] : [Checker], again.Signatures.Select(s => s.Person));
        Assert.Equal(signAgain ? ["check"] : ["lead"], again.Open);
        var other = Change(change.After, new SendAgain(Author, [Item(1) with { Sha256 = Hash(7) }])).After;
        Assert.Empty(other.Signatures);
    }

    [Fact]
    public void ARoundIsRecalledUntilItsFirstSignature()
    {
        var slip = Send(TwoSteps, Item(1)).After;
        slip = Change(slip, Sign(slip, Checker, "c")).After;
        var back = Change(slip, new PullBack(Deputy), SlipContext.Empty with { MayCoordinate = true }).After;
        var second = Change(back, new SendAgain(Author, [Item(1)])).After;
        Assert.NotEmpty(second.Signatures);
        Assert.Equal("signed", SlipRules.Decide(second, new Recall(Author), SlipContext.Empty with { SignedThisRound = true }).Refusal?.Code);
        var change = Change(second, new Recall(Author), SlipContext.Empty with { SignedThisRound = false });
        Assert.Equal(["package recalled"], Consequences.Of(change).OfType<Entered>().Select(e => e.Action));
        Assert.Equal(["PK-1 is recalled: Shaft"], Words(change).Distinct());
        Assert.Equal(SlipStanding.Returned, change.After.Standing);
    }
}
