using Froe.Core.Routing;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>
/// The rules of routing written a second time, as naively as possible: no tree walks and no events, but flat lists of cells with
/// what must come before each, gone through again and again until nothing changes.
/// </summary>
internal sealed partial class NaiveRouting
{
    private sealed class Cell
    {
        public string Key = "";
        public Step? Step;
        public Choice? Choice;
        public List<string> Before = [];
        public List<(string Choice, string Way)> Only = [];
        public int Order;
    }

    private sealed record Sig(string Seat, Guid Who, Guid Holder, List<(Guid Document, string Hash, bool Returned, bool Noted)> Says, List<WayPick> Picks);

    private Plan plan = new("", "", new Sequence([]));
    private List<Cell> cells = [];
    private Dictionary<string, string> way = [];
    private List<Sig> signatures = [];
    private List<Sig> carried = [];
    private List<(string Seat, Guid Who, Guid Document)> answered = [];
    private Dictionary<string, (List<Guid> People, int Needed, bool Skipped)> seats = [];
    private HashSet<string> passed = [];
    private HashSet<string> open = [];
    private List<SlipItem> items = [];
    private PackageFacts facts = PackageFacts.None;
    private Guid originator;
    private int round;

    /// <summary>Who returned in this round, by the step that looks again.</summary>
    private Dictionary<string, HashSet<Guid>> back = [];
    private IReadOnlyList<OpenRequest> requests = [];

    /// <summary>Each place in a seat that was handed on, with everybody who had it, in turn.</summary>
    private List<(string Seat, List<Guid> Line)> places = [];

    public string Standing { get; private set; } = "Unsent";

    public string Summary() =>
        $"{Standing} round {round} open [{string.Join(' ', open.Order())}] passed [{string.Join(' ', passed.Order())}] signed [{string.Join(' ', signatures.Concat(carried).Select(s => $"{s.Seat}:{s.Who}:{s.Holder}:{Listed(s.Says.Select(x => x.Document))}").Order())}] ways [{string.Join(' ', way.Select(w => w.Key + w.Value).Order())}] items [{string.Join(' ', items.Select(i => i.Draft))}]";

    public static string Summary(Slip s) =>
        $"{s.Standing} round {s.Round} open [{string.Join(' ', s.Open.Order())}] passed [{string.Join(' ', s.Passed.Order())}] signed [{string.Join(' ', s.Signatures.Concat(s.Carried).Select(x => $"{x.Seat}:{x.Person}:{x.Holder}:{Listed(x.Verdicts.Select(v => RandomRouting.DocumentOf(v.Draft)))}").Order())}] ways [{string.Join(' ', s.Taken.Select(w => w.Choice + w.Way).Order())}] items [{string.Join(' ', s.Items.Select(i => i.Draft))}]";

    private static string Listed(IEnumerable<Guid> documents) => string.Join(',', documents.Order());

    /// <summary>Does a command; false when it is refused, and then nothing has changed.</summary>
    public bool Do(SlipCommand command, SlipContext context)
    {
        requests = context.OpenRequests;
        var was = (NaiveRouting)MemberwiseClone();
        (was.way, was.signatures, was.carried, was.answered) = (new(way), [.. signatures.Select(s => s with { Says = [.. s.Says] })], [.. carried.Select(s => s with { Says = [.. s.Says] })], [.. answered]);
        was.back = new(back);
        (was.seats, was.passed, was.open, was.items, was.places) = (new(seats), [.. passed], [.. open], [.. items], [.. places.Select(p => (p.Seat, p.Line.ToList()))]);
        // Nothing is released while a request on it is open.
        if (Done(command, context) && !(Standing == "Released" && was.Standing != "Released" && requests.Any(r => items.Exists(i => i.Document == r.Document)))) return true;
        (plan, cells, way, signatures, carried, answered, seats, passed, open, items, facts, originator, round, Standing, places) =
            (was.plan, was.cells, was.way, was.signatures, was.carried, was.answered, was.seats, was.passed, was.open, was.items, was.facts, was.originator, was.round, was.Standing, was.places);
        back = was.back;
        return false;
    }

    private bool Done(SlipCommand command, SlipContext context)
    {
        switch (command)
        {
            case Send c:
                (originator, items, facts, round, Standing) = (c.Person, [.. c.Items], c.Facts, 1, "InReview");
                Lay(c.Plan);
                foreach (var (st, se) in c.Plan.Seats()) seats[se.Key] = Fill(st, se, c.Person);
                break;
            case SignOff c when signatures.Find(s => s.Seat == c.Seat && s.Who == c.Person && s.Holder == (c.For ?? c.Person)) is { } given:
                return c.Verdicts.All(v => given.Says.Exists(x => x.Document == RandomRouting.DocumentOf(v.Draft) && x.Hash == v.Sha256 && x.Returned == (v.Verdict == Verdict.ReturnForChanges) && x.Noted == (v.Verdict == Verdict.ApproveAsNoted)));
            case SignOff c when Standing == "InReview":
                var holder = c.For ?? c.Person;
                if (!seats.TryGetValue(c.Seat, out var at) || !at.People.Contains(holder) || (c.For is { } f && (!context.Deputies.TryGetValue(f, out var d) || d != c.Person))) return false;
                var step = StepOf(c.Seat);
                if (!open.Contains(step.Key) || Settled(c.Seat) || !Free(step, c.Seat, holder) || signatures.Any(s => s.Seat == c.Seat && s.Who == c.Person)) return false;
                if (step.BarsOriginator && c.Person == originator) return false;
                if (c.For is not null && step.OneSeatEach && signatures.Any(s => s.Who == c.Person && step.Seats.Any(x => x.Key == s.Seat))) return false;
                var keeps = carried.Where(k => k.Seat == c.Seat && k.Holder == holder).SelectMany(k => k.Says).ToList();
                var judge = items.Where(i => !keeps.Exists(k => k.Document == i.Document)).ToList();
                if (judge.Count != c.Verdicts.Length || c.Verdicts.Any(v => !judge.Exists(i => i.Draft == v.Draft && i.Sha256 == v.Sha256))) return false;
                var returns = c.Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges);
                foreach (var v in c.Verdicts)
                {
                    var on = requests.Where(r => r.Document == judge.Find(i => i.Draft == v.Draft)!.Document).ToList();
                    if (v.Verdict == Verdict.ReturnForChanges ? !on.Exists(r => !r.Answered && (r.Round < round || Own(r, c) || (back.TryGetValue(step.Key, out var by) && by.Contains(r.By)))) : on.Exists(r => Own(r, c) || (!(returns && !plan.ItemByItem) && !AnotherAnswersFor(r, c, holder)))) return false;
                }
                foreach (var cell in cells.Where(x => x.Choice?.PickedAt == step.Key))
                    if (!returns && !c.Picks.Any(p => p.Choice == cell.Key) && !signatures.Any(s => step.Seats.Any(x => x.Key == s.Seat) && s.Picks.Exists(p => p.Choice == cell.Key))) return false;
                var mine = new Sig(c.Seat, c.Person, holder, [.. keeps, .. c.Verdicts.Select(v => (items.Find(i => i.Draft == v.Draft)!.Document, v.Sha256, v.Verdict == Verdict.ReturnForChanges, v.Verdict == Verdict.ApproveAsNoted))], [.. c.Picks]);
                signatures.Add(mine);
                if (!Fillable(step))
                {
                    signatures.Remove(mine);
                    return false;
                }
                break;
            case TakeBack c when Standing == "InReview":
                var whose = c.Of ?? c.Person;
                if (whose != c.Person && !context.MayCoordinate) return false;
                if (!signatures.Exists(s => s.Seat == c.Seat && s.Who == whose)) return false;
                var taken = StepOf(c.Seat).Key;
                if (open.Contains(taken))
                {
                    if (whose != c.Person && !Differ(StepOf(c.Seat))) return false;
                    signatures.RemoveAll(s => s.Seat == c.Seat && s.Who == whose);
                    Forget();
                    break;
                }
                var later = cells.Where(x => x.Before.Contains(taken)).Select(x => x.Key).Append(taken).ToHashSet();
                if (signatures.Exists(s => StepOf(s.Seat).Key is var key && key != taken && later.Contains(key))) return false;
                if (signatures.Last(s => StepOf(s.Seat).Key == taken) is var final && (final.Seat != c.Seat || final.Who != whose)) return false;
                signatures.Remove(signatures.Last(s => s.Seat == c.Seat && s.Who == whose));
                Forget();
                foreach (var key in later)
                {
                    open.Remove(key);
                    passed.Remove(key);
                    way.Remove(key);
                }
                break;
            case ReopenSeat c when Standing == "InReview":
                if (!signatures.Exists(s => s.Seat == c.Seat && s.Who == c.Person)) return false;
                var mineAgain = StepOf(c.Seat).Key;
                if (!open.Contains(mineAgain) && !plan.SignersReopen) return false;
                signatures.Remove(signatures.Last(s => s.Seat == c.Seat && s.Who == c.Person));
                Forget();
                if (!open.Contains(mineAgain))
                    foreach (var key in cells.Where(x => x.Before.Contains(mineAgain)).Select(x => x.Key).Append(mineAgain))
                    {
                        open.Remove(key);
                        passed.Remove(key);
                        way.Remove(key);
                    }
                break;
            case AnswerNoted c when Standing == "InReview" && Originates(c.Person, context):
                var about = RandomRouting.DocumentOf(c.Draft);
                if (!InForce().Exists(s => s.Seat == c.Seat && s.Who == c.Signer && s.Says.Exists(x => x.Noted && x.Document == about))) return false;
                answered.Add((c.Seat, c.Signer, about));
                break;
            case HandPackage c when Standing is "InReview" or "Returned":
                if (!context.MayCoordinate) return false;
                if (originator == c.To) return true;
                foreach (var (barring, held) in plan.Seats().Where(s => s.Step.BarsOriginator))
                    if (signatures.Exists(s => s.Seat == held.Key && (s.Who == c.To || s.Holder == c.To)) || (!passed.Contains(barring.Key) && seats[held.Key].People.Contains(c.To))) return false;
                foreach (var (own, theirs) in plan.Seats().Where(s => s.Seat.Holder is OriginatorHolder && !passed.Contains(s.Step.Key)))
                {
                    var place = seats[theirs.Key];
                    if (!place.People.Contains(originator) || place.People.Contains(c.To) || signatures.Exists(s => s.Seat == theirs.Key && s.Holder == originator)) continue;
                    seats[theirs.Key] = ([.. place.People.Select(p => p == originator ? c.To : p)], place.Needed, place.Skipped);
                    if (!places.Exists(p => p.Seat == theirs.Key && p.Line.Last() == originator)) places.Add((theirs.Key, [originator]));
                    places.First(p => p.Seat == theirs.Key && p.Line.Last() == originator).Line.Add(c.To);
                }
                if (!plan.Steps().Where(s => !passed.Contains(s.Key)).All(Fillable)) return false;
                originator = c.To;
                break;
            case TakeOut c when Standing is "InReview" or "Returned" && items.Exists(i => i.Document == c.Document):
                if (items.Count == 1)
                {
                    (Standing, open) = ("Stopped", []);
                    return true;
                }
                Leave([c.Document]);
                break;
            case TakeOut: return true;
            case SendAgain c when Standing == "Returned" && Originates(c.Person, context):
                var bad = signatures.SelectMany(s => s.Says).Where(x => x.Returned).Select(x => x.Document).ToHashSet();
                if (c.Items.Any(i => bad.Contains(i.Document) && items.Exists(o => o.Document == i.Document && o.Sha256 == i.Sha256)
                    && !(requests.Any(r => r.Document == i.Document) && requests.Where(r => r.Document == i.Document).All(r => r.ChangesNothing)))) return false;
                if (requests.Any(r => !r.Answered && c.Items.Any(i => i.Document == r.Document))) return false;
                NextRound(c);
                break;
            case SendAgain c when Standing == "InReview" && round > 1 && Originates(c.Person, context): return c.Items.ToHashSet().SetEquals(items);
            case HandOver c when Standing is "InReview" or "Returned":
                if (c.Person != c.From && !context.MayCoordinate) return false;
                if (!Change(c.Seat, out var seat, out var inStep)) return false;
                if (!seat.People.Contains(c.From)) return seat.People.Contains(c.To);
                if (c.From == c.To) return true;
                if (seat.People.Contains(c.To) || signatures.Exists(s => s.Seat == c.Seat && s.Holder == c.From) || Barred(inStep, [c.To])) return false;
                if (!Replace(c.Seat, inStep, ([.. seat.People.Select(p => p == c.From ? c.To : p)], seat.Needed, seat.Skipped))) return false;
                if (!places.Exists(p => p.Seat == c.Seat && p.Line.Last() == c.From)) places.Add((c.Seat, [c.From]));
                places.First(p => p.Seat == c.Seat && p.Line.Last() == c.From).Line.Add(c.To);
                break;
            case Refill c when Standing is "InReview" or "Returned":
                if (!context.MayCoordinate || !Change(c.Seat, out var old, out var there)) return false;
                var people = c.People.Distinct().ToList();
                var signed = signatures.Where(s => s.Seat == c.Seat).Select(s => s.Holder).ToList();
                if (old.People.ToHashSet().SetEquals(people) && old.Needed == c.Needed && !old.Skipped) return true;
                if (!signed.TrueForAll(people.Contains) || c.Needed < 1 || c.Needed > people.Count || c.Needed < signed.Count || Barred(there, people)) return false;
                if (!Replace(c.Seat, there, (people, c.Needed, false))) return false;
                break;
            case Skip c when context.MayCoordinate && seats.TryGetValue(c.Seat, out var gone) && gone.Skipped: return true;
            case Skip c when Standing is "InReview" or "Returned":
                if (!context.MayCoordinate) return false;
                if (!Change(c.Seat, out var skip, out _) || signatures.Exists(s => s.Seat == c.Seat && Returned(s))) return false;
                seats[c.Seat] = skip with { Skipped = true };
                break;
            case Amend c when Standing is "InReview" or "Returned":
                if (!context.MayCoordinate || PlanCheck.Check(c.Plan, context.Groups).Any(f => f.Stops)) return false;
                var was = (plan, cells, seats.Keys.ToList());
                Lay(c.Plan);
                foreach (var (added, place) in c.Plan.Seats())
                    if (!seats.ContainsKey(place.Key)) seats[place.Key] = Fill(added, place, originator);
                if (open.Any(o => cells.Find(x => x.Key == o)!.Before.Exists(b => !Done(b))) // something new stands before an open step
                    || !c.Plan.Steps().Where(s => !passed.Contains(s.Key)).All(Fillable))
                {
                    (plan, cells) = (was.plan, was.cells);
                    foreach (var added in seats.Keys.Except(was.Item3).ToList()) seats.Remove(added);
                    return false;
                }
                break;
            case Recall c when Standing == "InReview" && Originates(c.Person, context) && !(context.SignedThisRound ?? (signatures.Count > 0 || carried.Count > 0)):
                (Standing, open) = (round == 1 ? "Stopped" : "Returned", []);
                return true;
            case Recall c when Standing == "Stopped": return Originates(c.Person, context);
            case PullBack c when Standing is "InReview" or "Returned" && context.MayCoordinate:
                if (Standing == "InReview" && c.SignAgain) (signatures, carried, answered) = ([], [], []);
                (Standing, open) = ("Returned", []);
                return true;
            default: return false;
        }
        if (Standing == "InReview") Settle();
        return !(command is Skip { WithoutSignatures: false } && Standing == "Released" && signatures.Count == 0);
    }

    private bool Originates(Guid who, SlipContext context) => who == originator || (context.Deputies.TryGetValue(originator, out var deputy) && deputy == who);

    /// <summary>Whether a request was written by who signs, by whom they sign for, or by anybody who had that place before.</summary>
    private bool Own(OpenRequest r, SignOff c) =>
        r.By == c.Person || r.By == c.For || (r.By != (c.For ?? c.Person) && places.Exists(p => p.Seat == c.Seat && p.Line.Last() == (c.For ?? c.Person) && p.Line.Contains(r.By)));

    /// <summary>Whether somebody else will surely have to close a request, or has returned with it: then who approves may leave it.</summary>
    private bool AnotherAnswersFor(OpenRequest r, SignOff c, Guid holder)
    {
        if (signatures.Exists(s => s.Who == r.By && s.Says.Exists(x => x.Returned && x.Document == r.Document))) return true;
        var given = new Sig(c.Seat, c.Person, holder, [.. c.Verdicts.Select(v => (Guid.Empty, v.Sha256, v.Verdict == Verdict.ReturnForChanges, false))], []);
        signatures.Add(given);
        var surely = false;
        foreach (var cell in cells.Where(x => x.Step is not null))
        {
            // A step still to come is sure only where no choice lies before it that might go another way, and no rule passes it.
            if (!open.Contains(cell.Key) && (passed.Contains(cell.Key) || cell.Step!.PassesWhen is not null || !cell.Only.TrueForAll(o => way.TryGetValue(o.Choice, out var w) && w == o.Way))) continue;
            foreach (var seat in cell.Step!.Seats.Where(x => !Settled(x.Key)))
            {
                var left = seats[seat.Key].People.FindAll(p => Free(cell.Step, seat.Key, p));
                surely |= left.Contains(r.By) && left.Count == seats[seat.Key].Needed - signatures.Count(x => x.Seat == seat.Key);
            }
        }
        signatures.Remove(given);
        return surely;
    }

    // ---- the plan as a flat list ----

    private void Lay(Plan next)
    {
        plan = next;
        cells = [];
        Walk(next.Root, [], []);
        for (var i = 0; i < cells.Count; i++) cells[i].Order = i;
    }

    /// <summary>Lists cells; gives the keys that whatever follows must wait for.</summary>
    private List<string> Walk(Block block, List<string> before, List<(string, string)> only)
    {
        switch (block)
        {
            case Step s:
                cells.Add(new Cell { Key = s.Key, Step = s, Before = [.. before], Only = [.. only] });
                return [.. before, s.Key];
            case Sequence s:
                foreach (var b in s.Blocks) before = Walk(b, before, only);
                return before;
            case Parallel p: return [.. p.Branches.SelectMany(b => Walk(b, before, only)).Distinct()];
            case Choice c:
                cells.Add(new Cell { Key = c.Key, Choice = c, Before = [.. before], Only = [.. only] });
                List<string> through = [.. before, c.Key];
                return [.. through.Concat(c.Ways.SelectMany(w => Walk(w.Blocks, through, [.. only, (c.Key, w.Key)]))).Distinct()];
            default: return before;
        }
    }

    private bool OffTheWay(Cell cell) => cell.Only.Exists(o => (way.TryGetValue(o.Choice, out var w) && w != o.Way) || OffTheWay(cells.Find(c => c.Key == o.Choice)!));

    private bool Done(string key) => cells.Find(c => c.Key == key)! is var cell && (OffTheWay(cell) || passed.Contains(key) || way.ContainsKey(key));

    // ---- what follows by itself ----

    private void Settle()
    {
        for (var changed = true; changed;)
        {
            changed = false;
            foreach (var cell in cells.Where(c => !OffTheWay(c) && !passed.Contains(c.Key) && !way.ContainsKey(c.Key)))
            {
                if (open.Contains(cell.Key))
                {
                    if (!cell.Step!.Seats.All(s => Settled(s.Key)) || Differ(cell.Step) || signatures.Exists(s => cell.Step.Seats.Any(x => x.Key == s.Seat) && Returned(s))) continue;
                    open.Remove(cell.Key);
                    passed.Add(cell.Key);
                    changed = true;
                    continue;
                }
                if (signatures.Exists(Returned) || cell.Only.Exists(o => !way.ContainsKey(o.Choice)) || cell.Before.Exists(b => !Done(b))) continue;
                changed = true;
                if (cell.Choice is { } choice) way[choice.Key] = WayFor(choice);
                else if (cell.Step!.PassesWhen?.Holds(facts) == true) passed.Add(cell.Key);
                else Open(cell.Step);
                break;
            }
        }
        if (signatures.Exists(Returned))
        {
            if (Anybody()) return;
            GoBack();
        }
        else if (cells.TrueForAll(c => Done(c.Key)) && !(plan.HoldsNoted && InForce().Exists(s => s.Says.Exists(x => x.Noted && !answered.Contains((s.Seat, s.Who, x.Document)))))) (Standing, open) = ("Released", []);
    }

    private bool Anybody() => open.Any(k => cells.Find(c => c.Key == k)!.Step is { } step && step.Seats.Any(s => !Settled(s.Key) && seats[s.Key].People.Any(p => Free(step, s.Key, p))));

    private void Open(Step step)
    {
        foreach (var seat in step.Seats.Where(s => s.Holder is SignerOfHolder && !seats[s.Key].Skipped && seats[s.Key].People.Count == 0))
        {
            var source = plan.Steps().First(s => s.Key == ((SignerOfHolder)seat.Holder).Step).Seats.Select(s => s.Key).ToHashSet();
            var who = signatures.Where(s => source.Contains(s.Seat)).Select(s => s.Who).Distinct().ToList();
            if (who.Count == 0) who = [.. source.SelectMany(s => seats[s].People).Distinct()];
            if (who.Count == 0) who = [originator];
            seats[seat.Key] = (who, who.Count, false);
        }
        open.Add(step.Key);
    }

    private string WayFor(Choice choice)
    {
        if (choice.PickedAt is { } at)
            return signatures.Where(s => StepOf(s.Seat).Key == at).SelectMany(s => s.Picks).LastOrDefault(p => p.Choice == choice.Key)?.Way ?? choice.Ways[^1].Key;
        return (choice.Ways.FirstOrDefault(w => w.Rule?.Holds(facts) == true) ?? choice.Ways[^1]).Key;
    }

    private void GoBack()
    {
        var from = signatures.Where(Returned).Select(s => StepOf(s.Seat)).ToList();
        var bad = signatures.SelectMany(s => s.Says).Where(x => x.Returned).Select(x => x.Document).ToHashSet();
        if (plan.ItemByItem && items.Exists(i => !bad.Contains(i.Document)))
        {
            Leave(bad);
            Settle();
            return;
        }
        if (from.Exists(s => s.ReturnsTo is null))
        {
            (Standing, open) = ("Returned", []);
            return;
        }
        var to = from.Select(s => s.ReturnsTo!).ToHashSet();
        var all = from.Exists(s => s.SignAgain == SignAgain.All);
        // Everything that has to wait for one of the targets, and the targets themselves.
        var again = cells.Where(c => to.Contains(c.Key) || c.Before.Exists(to.Contains)).Select(c => c.Key).ToHashSet();
        var sources = signatures.Where(Returned).SelectMany(s => new[] { s.Who, s.Holder }).ToHashSet();
        foreach (var first in to.Where(First)) back[first] = sources;
        signatures.RemoveAll(s => StepOf(s.Seat).Key is var key && again.Contains(key) && (all || Returned(s) || First(key)));
        foreach (var key in again)
        {
            open.Remove(key);
            passed.Remove(key);
            way.Remove(key);
        }
        Forget();
        Settle();

        bool First(string key) => to.Contains(key) && !to.Any(t => cells.Find(c => c.Key == key)!.Before.Contains(t));
    }

    /// <summary>Documents leave, and all that was ever said of them.</summary>
    private void Leave(HashSet<Guid> documents)
    {
        items.RemoveAll(i => documents.Contains(i.Document));
        foreach (var list in new[] { signatures, carried })
        {
            list.ForEach(s => s.Says.RemoveAll(x => documents.Contains(x.Document)));
            list.RemoveAll(s => s.Says.Count == 0);
        }
        Forget();
    }

    private void NextRound(SendAgain c)
    {
        var from = signatures.Where(Returned).Select(s => StepOf(s.Seat)).ToList();
        List<Sig> kept = [];
        carried = [];
        if (!from.Exists(s => s.SignAgain == SignAgain.All))
        {
            if (from.Exists(s => s.SignAgain == SignAgain.ReturnedAndAfter) && c.Items.All(i => items.Exists(o => o.Document == i.Document)))
                kept = signatures.FindAll(s => !Returned(s) && !cells.Find(x => x.Key == StepOf(s.Seat).Key)!.Before.Exists(b => from.Exists(f => f.Key == b)))
                    .ConvertAll(s => s with { Says = s.Says.FindAll(x => c.Items.Any(i => i.Document == x.Document)) });
            else
                foreach (var s in signatures)
                {
                    var says = s.Says.FindAll(x => !x.Returned && c.Items.Any(i => i.Document == x.Document && i.Sha256 == x.Hash && items.Exists(o => o.Document == i.Document && o.Sha256 == i.Sha256)));
                    if (says.Count == c.Items.Length) kept.Add(s with { Says = says });
                    else if (says.Count > 0) carried.Add(s with { Says = says });
                }
        }
        (signatures, items, round, Standing) = (kept, [.. c.Items], round + 1, "InReview");
        (open, passed, way, back) = ([], [], [], []);
        Forget();
    }

    /// <summary>An answer to what a signature noted goes with the signature.</summary>
    private void Forget() => answered.RemoveAll(a => !signatures.Concat(carried).Any(s => s.Seat == a.Seat && s.Who == a.Who && s.Says.Exists(x => x.Noted && x.Document == a.Document)));

    /// <summary>Signatures, and what stands of the last round's while its people have not signed again.</summary>
    private List<Sig> InForce() => [.. signatures, .. carried.Where(c => !signatures.Exists(s => s.Seat == c.Seat && s.Holder == c.Holder))];

    /// <summary>Whether those who signed in a step picked two ways for one choice.</summary>
    private bool Differ(Step step) => cells.Exists(c => c.Choice?.PickedAt == step.Key &&
        signatures.Where(s => StepOf(s.Seat).Key == step.Key).Select(s => s.Picks.LastOrDefault(p => p.Choice == c.Key)?.Way).Where(w => w is not null).Distinct().Count() > 1);
}
