using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>Whether the seats of a step can be filled with a different person in each place.</summary>
public static class SeatMatching
{
    /// <summary>True when every seat can have as many people as it needs, nobody twice (Kuhn's augmenting paths).</summary>
    public static bool Fits(ImmutableArray<FilledSeat> seats)
    {
        var places = seats.SelectMany(s => Enumerable.Repeat(s.People, s.Needed)).ToList();
        var holder = new Dictionary<Guid, int>();
        for (var place = 0; place < places.Count; place++)
            if (!Seat(place, [])) return false;
        return true;

        bool Seat(int place, HashSet<Guid> tried)
        {
            foreach (var person in places[place])
            {
                if (!tried.Add(person)) continue;
                if (holder.TryGetValue(person, out var other) && !Seat(other, tried)) continue;
                holder[person] = place;
                return true;
            }
            return false;
        }
    }
}
