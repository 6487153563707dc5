using System.Collections.Immutable;
using Froe.Core.Routing;

namespace Froe.Core.Review;

/// <summary>A seat that waits for a person, and for whom they would sign in it.</summary>
public sealed record SeatToSign(string Seat, string Step, Guid For);

/// <summary>A person's place in a seat.</summary>
public sealed record SeatHeld(string Seat, Guid Person);

/// <summary>What a person may do with a package as it stands. It says what is offered; the rules decide again when it is done.</summary>
/// <param name="Seats">Seats that wait for them, their own first.</param>
/// <param name="Write">Whether they may write notes on its drafts.</param>
/// <param name="Request">Whether they may request changes; it opens the seat again of somebody who has signed.</param>
/// <param name="AskAdvice">Whether they may ask a colleague without a seat.</param>
/// <param name="SendAgain">Whether the next round is theirs to send, once every request is answered.</param>
/// <param name="AnswerNoted">Whether what was noted when approving is theirs to answer.</param>
/// <param name="TakeBack">Seats in which they may take their signature back.</param>
/// <param name="Reopen">Last signatures of steps that have passed, which they may take back for others.</param>
/// <param name="HandOver">Places in seats that they may hand to somebody else.</param>
/// <param name="Refill">Seats that they may fill anew.</param>
/// <param name="Skip">Seats in which they may ask for no further signature.</param>
/// <param name="Extend">Steps that they may give more time, and after which they may add one.</param>
/// <param name="HandPackage">Whether they may give it to another originator.</param>
/// <param name="Recall">Whether they may recall it.</param>
/// <param name="PullBack">Whether they may pull it back.</param>
/// <param name="Stop">Whether they may stop it.</param>
public sealed record PackageMay(
    ImmutableArray<SeatToSign> Seats, bool Write, bool Request, bool AskAdvice, bool SendAgain, bool AnswerNoted,
    ImmutableArray<string> TakeBack, ImmutableArray<SeatHeld> Reopen, ImmutableArray<SeatHeld> HandOver, ImmutableArray<string> Refill, ImmutableArray<string> Skip, ImmutableArray<string> Extend,
    bool HandPackage, bool Recall, bool PullBack, bool Stop)
{
    /// <summary>Whether they may take in what others wrote and drew on its drafts elsewhere.</summary>
    public required bool BringIn { get; init; }
}

/// <summary>What a person may do, found by asking the rules themselves, so that what is offered and what is done cannot differ.</summary>
public static class Possible
{
    /// <summary>Somebody whom no package knows: to whom a seat could be handed, whoever it will be.</summary>
    private static readonly Guid Anybody = Guid.AllBitsSet;

    /// <summary>What a person may do with a package.</summary>
    /// <param name="context">Who stands in for whom, and whether they may coordinate; whom the documents' folders let sign does not matter here.</param>
    public static PackageMay Of(Slip slip, Guid person, SlipContext context)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(context);
        var asked = context with { Signers = null, Opened = null };
        var seats = Reviewing.SeatsOf(slip, person, context.Deputies).Select(s => new SeatToSign(s.Seat.Key, s.Step.Key, s.Holder)).OrderBy(s => s.For != person).ToImmutableArray();
        var (inReview, isOriginator) = (slip.Standing == SlipStanding.InReview, SlipRules.IsOriginator(slip, person, context.Deputies));
        bool May(SlipCommand command) => SlipRules.Decide(slip, command, asked) is { IsRefused: false, Events.IsEmpty: false };
        var signed = slip.Signatures.ToLookup(s => s.Seat, s => s.Holder);
        var left = slip.Plan.Steps().Where(s => !slip.Passed.Contains(s.Key)).ToList();
        var open = left.SelectMany(s => s.Seats).Select(s => slip.SeatOf(s.Key)!).ToList();
        return new PackageMay(
            seats, Write: inReview || slip.Standing == SlipStanding.Returned,
            Request: seats.Length > 0 || slip.Signatures.Any(s => s.Person == person && May(new ReopenSeat(person, s.Seat))), AskAdvice: seats.Length > 0,
            SendAgain: isOriginator && slip.Standing == SlipStanding.Returned,
            AnswerNoted: isOriginator && inReview && slip.UnansweredNoted().Any(),
            TakeBack: [.. slip.Signatures.Where(s => s.Person == person && May(new TakeBack(person, s.Seat))).Select(s => s.Seat)],
            Reopen: [.. slip.Signatures.Where(s => s.Person != person && May(new TakeBack(person, s.Seat) { Of = s.Person })).Select(s => new SeatHeld(s.Seat, s.Person))],
            HandOver: [.. open.SelectMany(s => s.People.Where(p => May(new HandOver(person, s.Key, p, Anybody))).Select(p => new SeatHeld(s.Key, p)))],
            Refill: [.. open.Where(s => May(new Refill(person, s.Key, [.. signed[s.Key], Anybody], signed[s.Key].Count() + 1))).Select(s => s.Key)],
            Skip: [.. open.Where(s => May(new Skip(person, s.Key) { WithoutSignatures = true })).Select(s => s.Key)],
            Extend: [.. left.Where(s => May(new Amend(person, slip.Plan.WithSteps(x => x.Key == s.Key ? x with { WorkingDays = x.WorkingDays + 1 } : x)))).Select(s => s.Key)],
            HandPackage: May(new HandPackage(person, Anybody)), Recall: May(new Recall(person)), PullBack: May(new PullBack(person)), Stop: May(new Stop(person)))
        {
            BringIn = Reviewing.TakesIn(slip, person, context.Deputies),
        };
    }

    /// <summary>The acts on a note that are a person's to do, and would change it; an answer may be given anew.</summary>
    public static ImmutableArray<NoteAct> Of(NoteKind kind, NoteStanding standing, NoteActor actor) =>
        [.. Enum.GetValues<NoteAct>().Where(act => NoteRules.Apply(kind, standing, act, actor) is { Refusal: null } done && (done.Standing != standing || act is NoteAct.Answer or NoteAct.Reply or NoteAct.Edit || (act == NoteAct.Leave && !actor.IsLeft)))];
}

/// <summary>How a note comes to lie on a draft.</summary>
public enum Carriage
{
    /// <summary>It was written on this draft.</summary>
    Own,

    /// <summary>It was written on an earlier draft and lies where it lay there.</summary>
    Carried,
}

/// <summary>
/// Which notes lie on a draft: those written on it; and on the draft under review, the requests of earlier rounds, which whoever reviews
/// has to look for again.
/// </summary>
public static class Carrying
{
    /// <summary>How a note lies on a draft of its document; null when it does not.</summary>
    /// <param name="kind">The note's kind.</param>
    /// <param name="written">The draft it was written on.</param>
    /// <param name="round">The round it was written in.</param>
    /// <param name="draft">The draft that is looked at.</param>
    /// <param name="slip">The package as it stands.</param>
    public static Carriage? On(NoteKind kind, Guid written, int round, Guid draft, Slip slip)
    {
        ArgumentNullException.ThrowIfNull(slip);
        if (written == draft) return Carriage.Own;
        return kind == NoteKind.Request && round < slip.Round && slip.ItemOf(draft) is not null ? Carriage.Carried : null;
    }
}
