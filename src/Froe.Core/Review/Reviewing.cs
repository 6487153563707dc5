using Froe.Core.Routing;

namespace Froe.Core.Review;

/// <summary>
/// Who reviews a package now: the one rule for who requests a change, closes and reopens, asks for advice, and is offered a seat.
/// <list type="number">
/// <item>Whoever's signature is awaited reviews, for themselves.</item>
/// <item>Whoever stands in for such a person reviews for them, where they could sign for them: not in a step that bars the originator
/// when they are that, nor in a seat, or a step of one seat each, that bears their signature already.</item>
/// </list>
/// </summary>
public static class Reviewing
{
    /// <summary>The seats that wait for a person, and for whom they would sign in each.</summary>
    /// <param name="deputies">Who stands in for whom: the deputy by the absent person.</param>
    public static IEnumerable<(Step Step, FilledSeat Seat, Guid Holder)> SeatsOf(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(deputies);
        return slip.Awaited().Where(a => a.Person == person || (deputies.TryGetValue(a.Person, out var deputy) && deputy == person && MayStandIn(slip, a.Step, a.Seat, person)));
    }

    /// <summary>Whether a person reviews a package now.</summary>
    public static bool IsAwaited(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies) => SeatsOf(slip, person, deputies).Any();

    /// <summary>Whether what a person draws now is kept from others until they sign: they are awaited in a step that asks for it.</summary>
    public static bool MarksApart(Slip? slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies) =>
        slip is not null && SeatsOf(slip, person, deputies).Any(s => s.Step.MarksApart);

    /// <summary>For whom a person acts who reviews a package now: themselves where they can, else whom they stand in for; null when they do not review.</summary>
    public static Guid? ActsFor(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        var holders = SeatsOf(slip, person, deputies).Select(s => s.Holder).ToList();
        return holders.Count == 0 ? null : holders.Contains(person) ? person : holders[0];
    }

    /// <summary>Whether a person has a part in a package: they sent it, hold or held a seat or stand in for somebody who does.</summary>
    public static bool HasPart(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(deputies);
        return SlipRules.IsOriginator(slip, person, deputies)
            || slip.Seats.Any(s => s.Held(person) || s.People.Any(p => deputies.TryGetValue(p, out var deputy) && deputy == person)) || slip.Signatures.Any(s => s.Person == person);
    }

    /// <summary>Whether a person may take in what others wrote and drew on its drafts elsewhere: they have a part in it, and it is not at its end.</summary>
    public static bool TakesIn(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies) =>
        HasPart(slip, person, deputies) && (slip.Standing is SlipStanding.InReview or SlipStanding.Returned);

    /// <summary>Whether a signature of a person stands on a draft.</summary>
    /// <param name="slip">The package as it stands; null when the draft was not sent.</param>
    public static bool HasSigned(Slip? slip, Guid person, Guid draft) =>
        slip is not null && slip.Signatures.Concat(slip.Carried).Any(s => s.Person == person && s.Verdicts.Any(v => v.Draft == draft));

    /// <summary>Whether they have signed, or somebody for them, on what a request is on, in the round under way.</summary>
    public static bool HasSignedWith(Slip slip, Guid asker, IEnumerable<Guid> documents)
    {
        ArgumentNullException.ThrowIfNull(slip);
        var drafts = slip.Items.Where(i => documents.Contains(i.Document)).Select(i => i.Draft).ToHashSet();
        return slip.Signatures.Any(s => (s.Person == asker || s.Holder == asker) && s.Verdicts.Any(v => drafts.Contains(v.Draft)));
    }

    /// <summary>Whether a note is a person's own: they wrote it, it was written for them while they were away, or they stand in now for who asked.</summary>
    /// <param name="writtenFor">The absent person for whom a deputy wrote it.</param>
    public static bool IsAsker(Guid author, Guid? writtenFor, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        ArgumentNullException.ThrowIfNull(deputies);
        return author == person || writtenFor == person || (deputies.TryGetValue(writtenFor ?? author, out var deputy) && deputy == person);
    }

    /// <summary>
    /// Whether a person settles a request in its author's stead:
    /// <list type="number">
    /// <item>they hold a seat that the author holds, or handed on, or stand in for somebody who does;</item>
    /// <item>they coordinate the package, and the author is away, holds no seat in it any more, or has left the request to others.</item>
    /// </list>
    /// </summary>
    /// <param name="isAway">Whether the author is away now.</param>
    /// <param name="isLeft">Whether the author left it to others.</param>
    /// <param name="coordinates">Whether the person coordinates the package.</param>
    public static bool SettlesFor(Slip slip, Guid author, Guid person, IReadOnlyDictionary<Guid, Guid> deputies, bool isAway, bool isLeft, bool coordinates)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(deputies);
        bool ActsAs(Guid holder) => holder == person || (deputies.TryGetValue(holder, out var deputy) && deputy == person);
        return slip.Seats.Any(s => s.Held(author) && s.People.Any(p => p != author && ActsAs(p))) || Coordinates(slip, author, isAway, isLeft, coordinates);
    }

    /// <summary>
    /// Whether a person withdraws a request that nobody has answered in its author's stead, so that nobody is stuck with it: they have the author's place
    /// now, or stand in for whoever has; or they coordinate the package, and the author cannot. Who merely shares the seat does not.
    /// </summary>
    public static bool WithdrawsFor(Slip slip, Guid author, Guid person, IReadOnlyDictionary<Guid, Guid> deputies, bool isAway, bool isLeft, bool coordinates)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(deputies);
        bool ActsAs(Guid holder) => holder == person || (deputies.TryGetValue(holder, out var deputy) && deputy == person);
        return slip.Seats.Any(s => s.People.Any(p => ActsAs(p) && s.CameFrom(author, p))) || Coordinates(slip, author, isAway, isLeft, coordinates);
    }

    private static bool Coordinates(Slip slip, Guid author, bool isAway, bool isLeft, bool coordinates) =>
        coordinates && (isAway || isLeft || !slip.Seats.Any(s => s.People.Contains(author)));

    /// <summary>Whether some documents were returned in the round under way, and nothing else is asked for on one of them.</summary>
    /// <param name="documents">What a request is on.</param>
    /// <param name="number">Its number.</param>
    /// <param name="open">All requests of the package that are not closed.</param>
    public static bool HoldsReturn(Slip slip, int number, IEnumerable<Guid> documents, IReadOnlyList<OpenRequest> open)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(documents);
        if (slip.Standing != SlipStanding.InReview) return false;
        var returned = slip.Signatures.SelectMany(s => s.Verdicts).Where(v => v.Verdict == Verdict.ReturnForChanges).Select(v => slip.ItemOf(v.Draft)?.Document).ToHashSet();
        return documents.Any(d => returned.Contains(d) && !open.Any(r => r.Document == d && r.Number != number && !r.Answered));
    }

    private static bool MayStandIn(Slip slip, Step step, FilledSeat seat, Guid person) =>
        !(step.BarsOriginator && person == slip.Originator)
        && !slip.SignaturesIn(seat.Key).Any(s => s.Person == person)
        && !(step.OneSeatEach && slip.Signatures.Any(s => s.Person == person && step.Seats.Any(x => x.Key == s.Seat)));
}
