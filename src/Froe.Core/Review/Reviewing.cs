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

    /// <summary>For whom a person acts who reviews a package now: themselves where they can, else whom they stand in for; null when they do not review.</summary>
    public static Guid? ActsFor(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        var holders = SeatsOf(slip, person, deputies).Select(s => s.Holder).ToList();
        return holders.Count == 0 ? null : holders.Contains(person) ? person : holders[0];
    }

    private static bool MayStandIn(Slip slip, Step step, FilledSeat seat, Guid person) =>
        !(step.BarsOriginator && person == slip.Originator)
        && !slip.SignaturesIn(seat.Key).Any(s => s.Person == person)
        && !(step.OneSeatEach && slip.Signatures.Any(s => s.Person == person && step.Seats.Any(x => x.Key == s.Seat)));
}
