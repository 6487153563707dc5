using Froe.Core.Routing;

namespace Froe.Core.Tests;

/// <summary>Who may sit where.</summary>
internal sealed partial class NaiveRouting
{
    private Step StepOf(string seat) => plan.Steps().First(s => s.Seats.Any(x => x.Key == seat));

    private static bool Returned(Sig s) => s.Says.Exists(x => x.Returned);

    private bool Settled(string seat) => seats[seat].Skipped || signatures.Count(s => s.Seat == seat) >= seats[seat].Needed ||
        (signatures.Exists(s => s.Seat == seat && Returned(s)) && !plan.Seats().First(x => x.Seat.Key == seat).Seat.WaitsForRest);

    private bool Free(Step step, string seat, Guid who) =>
        !signatures.Exists(s => s.Seat == seat && (s.Who == who || s.Holder == who)) &&
        !(step.OneSeatEach && signatures.Exists(s => s.Seat != seat && step.Seats.Any(x => x.Key == s.Seat) && (s.Who == who || s.Holder == who)));

    /// <summary>Tries every way to seat people in what is left of a step, and would be left if a return had not ended a seat early.</summary>
    private bool Fillable(Step step)
    {
        var left = step.Seats.Where(s => !seats[s.Key].Skipped && signatures.Count(x => x.Seat == s.Key) < seats[s.Key].Needed && seats[s.Key].People.Count > 0)
            .Select(s => (People: seats[s.Key].People.Where(p => Free(step, s.Key, p)).ToList(), Needed: seats[s.Key].Needed - signatures.Count(x => x.Seat == s.Key))).ToList();
        if (!step.OneSeatEach) return left.TrueForAll(s => s.People.Count >= s.Needed);
        return Try([.. left.SelectMany(s => Enumerable.Repeat(s.People, s.Needed))], []);

        static bool Try(List<List<Guid>> places, HashSet<Guid> used) =>
            places.Count == 0 || places[0].Exists(p => !used.Contains(p) && Try(places[1..], [.. used, p]));
    }

    private bool Change(string key, out (List<Guid> People, int Needed, bool Skipped) seat, out Step step)
    {
        step = null!;
        if (!seats.TryGetValue(key, out seat)) return false;
        step = StepOf(key);
        return !passed.Contains(step.Key);
    }

    private bool Replace(string key, Step step, (List<Guid>, int, bool) next)
    {
        var old = seats[key];
        seats[key] = next;
        if (Fillable(step)) return true;
        seats[key] = old;
        return false;
    }

    private bool Barred(Step step, List<Guid> people) =>
        (step.BarsOriginator && people.Contains(originator)) ||
        (step.OneSeatEach && people.Count == 1 && signatures.Exists(s => s.Holder == people[0] && step.Seats.Any(x => x.Key == s.Seat)));

    private (List<Guid> People, int Needed, bool Skipped) Fill(Step step, Seat seat, Guid sender)
    {
        List<Guid> people = seat.Holder switch
        {
            PersonHolder p => [p.Person],
            GroupHolder g => [.. RandomRouting.Groups[g.Group]],
            OriginatorHolder => [sender],
            OwnersHolder => [.. facts.Documents.Select(d => d.Owner).Distinct()],
            _ => [],
        };
        if (step.BarsOriginator) people.Remove(sender);
        return (people, seat.Holder is GroupHolder { Needed: > 0 } k ? k.Needed : seat.Holder is GroupHolder or OwnersHolder ? people.Count : 1, false);
    }
}
