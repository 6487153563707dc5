using System.Text.Json;
using CsCheck;
using Froe.Core.Routing;
using Xunit;
using static Froe.Core.Tests.RandomRouting;

namespace Froe.Core.Tests;

/// <summary>The engine's laws over random plans and random commands; their numbers are those on <see cref="SlipRules"/>.</summary>
public class RoutingProperties
{
    private static (Slip Slip, List<SlipEvent> Log) Run((Plan Plan, int Mass, int Items, int[] Moves) run, Action<Slip, SlipCommand, SlipContext, Decision>? look = null)
    {
        var log = new List<SlipEvent>();
        var slip = Do(Slip.Blank, Sending(run), new SlipContext(Groups, []));
        if (slip.Standing == SlipStanding.Unsent) return (slip, log);
        foreach (var move in run.Moves)
        {
            var (command, context) = Move(slip, move);
            slip = Do(slip, command, context);
        }
        return (slip, log);

        Slip Do(Slip at, SlipCommand command, SlipContext context)
        {
            var decision = SlipRules.Decide(at, command, context);
            look?.Invoke(at, command, context, decision);
            if (decision.IsRefused) return at;
            log.AddRange(decision.Events);
            return SlipRules.Replay(at, decision.Events);
        }
    }

    /// <summary>Signs whatever is awaited until the package is released.</summary>
    private static Slip Finish(Slip slip, List<SlipEvent> log)
    {
        for (var guard = 0; slip.Standing is SlipStanding.InReview or SlipStanding.Returned; guard++)
        {
            Assert.True(guard < 500, "the slip did not finish");
            var decisions = slip.Standing == SlipStanding.Returned
                ? [Try(new SendAgain(slip.Originator, Again(slip, slip.Round + 1000 + guard)))]
                // Who picked otherwise takes their signature back, and signs again with the first way.
                : !slip.Awaited().Any() && slip.Differing().SelectMany(d => d.Picked.Where(p => p.Way != slip.Plan.Choices().First(c => c.Key == d.Choice).Ways[0].Key)).ToList() is [var other, ..]
                    ? [Try(new TakeBack(other.Person, other.Seat))]
                : slip.IsHeld ? [.. slip.UnansweredNoted().Select(n => Try(new AnswerNoted(slip.Originator, n.Signature.Seat, n.Signature.Person, n.Verdict.Draft, "Seen.")))]
                : slip.Awaited().Select(a => Try(new SignOff(a.Person, a.Seat.Key, [.. slip.ToJudge(a.Seat.Key, a.Person).Select(i => new ItemVerdict(i.Draft, i.Sha256, Verdict.Approve, ""))])
                {
                    Picks = [.. slip.Plan.Choices().Where(c => c.PickedAt == a.Step.Key).Select(c => new WayPick(c.Key, c.Ways[0].Key))],
                })).ToList();
            var done = decisions.Find(d => !d.IsRefused);
            Assert.True(done.Events is { IsDefaultOrEmpty: false }, decisions.Count == 0 ? "nobody is awaited" : decisions[0].Refusal?.Reason);
            log.AddRange(done.Events);
            slip = SlipRules.Replay(slip, done.Events);
        }
        return slip;

        Decision Try(SlipCommand command) => SlipRules.Decide(slip, command, new SlipContext(Groups, []));
    }

    [Fact]
    public void NeverReleasedWithoutEveryNeededSignatureOnTheVeryBytesReleased() => GenRun.Sample(run =>
    {
        var (slip, log) = Run(run);
        slip = Finish(slip, log);
        if (slip.Standing != SlipStanding.Released) return;
        var released = log.OfType<PackageReleased>().Single().Items;
        // Which signatures may stand for an earlier draft: none unless a step with that rule returned.
        var lenient = run.Plan.Steps().Any(s => s.SignAgain == SignAgain.ReturnedAndAfter);
        var unsigned = log.OfType<StepPassed>().Where(p => p.ByRule.Length > 0).Select(p => p.Step).ToHashSet();
        foreach (var step in slip.Plan.Steps().Where(s => slip.Passed.Contains(s.Key) && !unsigned.Contains(s.Key)))
            foreach (var seat in step.Seats.Select(s => slip.SeatOf(s.Key)!).Where(s => !s.Skipped))
            {
                var signed = slip.SignaturesIn(seat.Key).ToList();
                Assert.Equal(seat.Needed, signed.Count);
                Assert.All(signed, s => Assert.False(s.Returns));
                Assert.Equal(signed.Count, signed.Select(s => s.Person).Distinct().Count());
                if (!lenient) Assert.All(signed, s => Assert.Equal(released.Select(i => i.Sha256).Order(), s.Verdicts.Select(v => v.Sha256).Order()));
                if (step.BarsOriginator) Assert.DoesNotContain(signed, s => s.Person == slip.Originator);
                if (step.OneSeatEach) Assert.DoesNotContain(signed, s => step.Seats.Any(o => o.Key != seat.Key && slip.SignaturesIn(o.Key).Any(x => x.Person == s.Person)));
            }
        // Item by item, what was sent back is not among what is released; and what holds the release was answered.
        Assert.Empty(log.OfType<ItemsSplitOff>().SelectMany(e => e.Items).Select(i => i.Document).Intersect(released.Select(i => i.Document)));
        if (run.Plan.HoldsNoted) Assert.Empty(slip.UnansweredNoted());
        // Every way taken was gone to its end, every step outside the ways not taken has passed.
        foreach (var step in slip.Plan.Steps().Where(s => !slip.Passed.Contains(s.Key)))
            Assert.Contains(PlanShape.PathTo(slip.Plan, step.Key)!, p => p.Parent is Choice c && slip.WayOf(c) != c.Ways[p.Index]);
    }, iter: 3000, print: Say);

    [Fact]
    public void NobodySignsForASeatThatIsNotTheirs() => GenRun.Sample(
        run => Run(run, (slip, command, context, decision) =>
        {
            if (command is not SignOff sign || decision.IsRefused || decision.Events.Length == 0) return;
            Assert.Contains(sign.For ?? sign.Person, slip.SeatOf(sign.Seat)!.People);
            if (sign.For is { } absent) Assert.Equal(sign.Person, context.Deputies[absent]);
            Assert.Contains(slip.StepOf(sign.Seat).Key, slip.Open);
        }), iter: 2000, print: Say);

    [Fact]
    public void ReplayingTheEventsGivesTheSameState() => GenRun.Sample(run =>
    {
        var (slip, log) = Run(run);
        Assert.Equal(JsonSerializer.Serialize(slip), JsonSerializer.Serialize(SlipRules.Replay(Slip.Blank, log)));
        // And so does a slip written down and read again.
        Assert.Equal(JsonSerializer.Serialize(slip), JsonSerializer.Serialize(JsonSerializer.Deserialize<Slip>(JsonSerializer.Serialize(slip))));
    }, iter: 2000, print: Say);

    [Fact]
    public void ARepeatedCommandChangesNothing() => GenRun.Sample(
        run => Run(run, (slip, command, context, decision) =>
        {
            // Pulling back and amending mean something else the second time; they carry a request's key instead.
            if (decision.IsRefused || command is Amend or TakeBack) return;
            var after = SlipRules.Replay(slip, decision.Events);
            // A sign-off whose return led straight to an earlier step may come again: that is a new signature in the same round.
            if (decision.Events.Any(e => e is StepReturned)) return;
            Assert.Empty(SlipRules.Decide(after, command, context).Events);
        }), iter: 2000, print: Say);

    [Fact]
    public void FromEveryReachableStateSomeSequenceFinishes() => GenRun.Sample(run =>
    {
        var (slip, log) = Run(run);
        Finish(slip, log);
    }, iter: 2000, print: Say);

    /// <summary>Item by item, no item is lost: each is in the package, or in the one split off with the verdict that sent it back.</summary>
    [Fact]
    public void WhatIsSplitOffCarriesItsVerdictsAndCanBeSentAgain() => GenRun.Sample(
        run => Run(run, (slip, _, _, decision) =>
        {
            var at = slip;
            foreach (var happened in decision.Events)
            {
                if (happened is ItemsSplitOff split)
                {
                    var off = SlipRules.SplitOff(at, split);
                    var stays = SlipRules.Evolve(at, split);
                    Assert.Equal(at.Items.ToHashSet(), [.. off.Items, .. stays.Items]);
                    Assert.NotEmpty(stays.Items);
                    Assert.All(off.Items, i => Assert.Contains(off.Signatures, s => s.Verdicts.Any(v => v.Draft == i.Draft && v.Verdict == Verdict.ReturnForChanges)));
                    Assert.DoesNotContain(stays.Signatures, s => s.Returns);
                    Assert.All(stays.Signatures, s => Assert.All(s.Verdicts, v => Assert.NotNull(stays.ItemOf(v.Draft))));
                    // Its originator answers it as any other returned package.
                    Assert.True(SlipRules.Decide(off, new SendAgain(off.Originator, [.. off.Items.Select((x, n) => x with { Draft = new Guid(n, 9, 0, new byte[8]), Sha256 = Hash(900 + n) })]), new SlipContext(Groups, [])) is { IsRefused: false });
                }
                at = SlipRules.Evolve(at, happened);
            }
        }), iter: 2000, print: Say);

    [Fact]
    public void NoStepOpensBeforeTheOneBeforeItHasPassed() => GenRun.Sample(run =>
    {
        var (slip, _) = Run(run);
        if (slip.Standing != SlipStanding.InReview) return;
        foreach (var late in slip.Open)
            foreach (var early in slip.Plan.Steps().Where(s => PlanShape.SurelyBefore(slip.Plan, s.Key, late)))
                Assert.Contains(early.Key, slip.Passed);
    }, iter: 2000, print: Say);

    /// <summary>Checked plans are sent or refused for their people, never for their shape; and a refusal says why.</summary>
    [Fact]
    public void EveryRefusalHasAReason() => GenRun.Sample(
        run => Run(run, (_, _, _, decision) =>
        {
            if (decision.Refusal is { } refusal) Assert.True(refusal.Reason.Length > 20 && refusal.Code.Length > 3);
        }), iter: 1000, print: Say);
}
