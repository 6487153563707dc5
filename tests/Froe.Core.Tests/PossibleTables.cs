using CsCheck;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;
using static Froe.Core.Tests.RandomRouting;

namespace Froe.Core.Tests;

/// <summary>What is offered is what the rules let be done, and nothing else.</summary>
public class PossibleTables
{
    private static readonly Guid Author = new(1, 0, 0, new byte[8]), Checker = new(2, 0, 0, new byte[8]), Lead = new(3, 0, 0, new byte[8]), Deputy = new(4, 0, 0, new byte[8]);

    private static readonly Plan TwoSteps = new("Two", "", new Sequence(
    [
        new Step("check", "Check", "Check it.", 2, [new Seat("c", "Check", new PersonHolder(Checker))]),
        new Step("lead", "Lead", "Sign it.", 1, [new Seat("l", "Lead", new PersonHolder(Lead))]),
    ]));

    private static readonly SlipItem Item = new(new Guid(9, 1, 0, new byte[8]), new Guid(9, 2, 0, new byte[8]), Hash(9));

    private static Slip Do(Slip slip, SlipCommand command, SlipContext? context = null) => SlipRules.Replay(slip, SlipRules.Decide(slip, command, context ?? SlipContext.Empty).Events);

    private static Slip Sent() => Do(Slip.Blank, new Send(Author, TwoSteps, [Item]));

    [Fact]
    public void WhoseSignatureIsAwaitedMaySignRequestAndAsk()
    {
        var may = Possible.Of(Sent(), Checker, SlipContext.Empty);
        Assert.Equal([new SeatToSign("c", "check", Checker)], may.Seats);
        Assert.True(may is { Write: true, Request: true, AskAdvice: true, SendAgain: false, Recall: false, Stop: false });
        Assert.Equal([new SeatHeld("c", Checker)], may.HandOver);
        Assert.Empty(may.Extend);
        Assert.True(Possible.Of(Sent(), Lead, SlipContext.Empty) is { Seats.IsEmpty: true, Request: false, Write: true });
    }

    [Fact]
    public void ADeputyMaySignForTheAbsentPersonAndTheOriginatorRecall()
    {
        var context = SlipContext.Empty with { Deputies = new Dictionary<Guid, Guid> { [Checker] = Deputy } };
        Assert.Equal([new SeatToSign("c", "check", Checker)], Possible.Of(Sent(), Deputy, context).Seats);
        Assert.True(Possible.Of(Sent(), Author, context).Recall);
        var signed = Do(Sent(), new SignOff(Checker, "c", [new ItemVerdict(Item.Draft, Item.Sha256, Verdict.Approve, "")]));
        Assert.False(Possible.Of(signed, Author, context).Recall);
    }

    [Fact]
    public void ACoordinatorMayChangeWhatIsStillToCome()
    {
        var may = Possible.Of(Sent(), Deputy, SlipContext.Empty with { MayCoordinate = true });
        Assert.Equal(["check", "lead"], may.Extend);
        Assert.Equal(["c", "l"], may.Refill);
        Assert.Equal(["c", "l"], may.Skip);
        Assert.Equal([new SeatHeld("c", Checker), new SeatHeld("l", Lead)], may.HandOver);
        Assert.True(may is { PullBack: true, Stop: true, Recall: false });
        var stopped = Do(Sent(), new Stop(Deputy), SlipContext.Empty with { MayCoordinate = true });
        var after = Possible.Of(stopped, Deputy, SlipContext.Empty with { MayCoordinate = true });
        Assert.True(after is { Write: false, Stop: false, PullBack: false } && after.Extend.IsEmpty && after.HandOver.IsEmpty);
    }

    /// <summary>Over random runs: who is offered a seat is not told that it is not theirs, and nobody else can sign; who is offered an act can do it.</summary>
    [Fact]
    public void WhatIsOfferedIsAcceptedAndWhatIsAcceptedIsOffered() => GenRun.Sample(run =>
    {
        var slip = Do(Slip.Blank, Sending(run), new SlipContext(Groups, []));
        if (slip.Standing == SlipStanding.Unsent) return;
        foreach (var move in run.Moves.Take(12))
        {
            var (command, context) = Move(slip, move);
            var decision = SlipRules.Decide(slip, command, context);
            var may = Possible.Of(slip, command.Person, context);
            if (decision is { IsRefused: false, Events.IsEmpty: false })
            {
                var offered = command switch
                {
                    SignOff sign => may.Seats.Any(s => s.Seat == sign.Seat && s.For == (sign.For ?? sign.Person)),
                    TakeBack { Of: { } whose } back when whose != back.Person => may.Reopen.Contains(new SeatHeld(back.Seat, whose)),
                    TakeBack back => may.TakeBack.Contains(back.Seat),
                    HandOver over => may.HandOver.Contains(new SeatHeld(over.Seat, over.From)),
                    Skip skip => may.Skip.Contains(skip.Seat),
                    Recall => may.Recall,
                    PullBack => may.PullBack,
                    SendAgain => may.SendAgain,
                    AnswerNoted => may.AnswerNoted,
                    _ => true,
                };
                Assert.True(offered, $"{command} was done and had not been offered");
            }
            foreach (var seat in may.Seats)
            {
                var sign = new SignOff(command.Person, seat.Seat, []) { For = seat.For == command.Person ? null : seat.For };
                Assert.DoesNotContain(SlipRules.Decide(slip, sign, context with { Signers = null }).Refusal?.Code, new[] { "not-your-seat", "not-deputy", "step-not-open", "seat-settled", "own-work", "one-seat-each", "not-in-review" });
            }
            slip = SlipRules.Replay(slip, decision.Events);
        }
    }, print: Say);

    [Fact]
    public void ANotesActsAreThoseThatItsRulesAllow()
    {
        static NoteAct[] Of(NoteKind kind, NoteStanding standing, bool author, bool originator, bool awaited, SlipStanding package) => [.. Possible.Of(kind, standing, new NoteActor(author, originator, awaited, package))];
        Assert.Equal([NoteAct.Withdraw, NoteAct.Leave, NoteAct.Reply, NoteAct.Edit], Of(NoteKind.Request, NoteStanding.Open, true, false, true, SlipStanding.InReview));
        Assert.Equal([NoteAct.Answer, NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Open, false, true, false, SlipStanding.Returned));
        Assert.Equal([NoteAct.Answer, NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Answered, false, true, false, SlipStanding.Returned));
        Assert.Equal([NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Open, false, true, false, SlipStanding.InReview));
        Assert.Equal([NoteAct.Close, NoteAct.Leave, NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Answered, true, false, false, SlipStanding.InReview));
        Assert.Equal([NoteAct.Reopen, NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Answered, false, false, true, SlipStanding.InReview));
        Assert.Equal([NoteAct.Reopen, NoteAct.Reply], Of(NoteKind.Request, NoteStanding.Closed, false, false, true, SlipStanding.InReview));
        Assert.Empty(Of(NoteKind.Request, NoteStanding.Open, true, true, true, SlipStanding.Released));
    }

    [Fact]
    public void RequestsOfEarlierRoundsLieOnTheDraftUnderReview()
    {
        var (earlier, later) = (new Guid(9, 2, 0, new byte[8]), new Guid(9, 3, 0, new byte[8]));
        var slip = Sent() with { Round = 2, Items = [Item with { Draft = later }] };
        Assert.Equal(Carriage.Own, Carrying.On(NoteKind.Request, later, 2, later, slip));
        Assert.Equal(Carriage.Own, Carrying.On(NoteKind.Remark, earlier, 1, earlier, slip));
        Assert.Equal(Carriage.Carried, Carrying.On(NoteKind.Request, earlier, 1, later, slip));
        Assert.Null(Carrying.On(NoteKind.Remark, earlier, 1, later, slip));
        Assert.Null(Carrying.On(NoteKind.Request, later, 2, earlier, slip));
    }
}
