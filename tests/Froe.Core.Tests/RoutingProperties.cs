using System.Collections.Immutable;
using CsCheck;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>The engine's laws over random plans and random commands.</summary>
public class RoutingProperties
{
    private static readonly Guid[] People = [.. Enumerable.Range(1, 6).Select(i => new Guid(i, 0, 0, new byte[8]))];
    private static readonly Guid Crew = new(99, 0, 0, new byte[8]);
    private static readonly Dictionary<Guid, ImmutableArray<Guid>> Groups = new() { [Crew] = [People[2], People[3], People[4]] };

    private static readonly Gen<Holder> GenHolder = Gen.OneOf<Holder>(
        Gen.Int[0, 5].Select(i => (Holder)new PersonHolder(People[i])),
        Gen.Int[1, 3].Select(k => (Holder)new GroupHolder(Crew, k)),
        Gen.Const((Holder)new OriginatorHolder()));

    private static readonly Gen<Block> GenStep = GenHolder.Array[1, 3].Select(h => (Block)new Step("", "Step", "Look.", 1, [.. h.Select(x => new Seat("", "Seat", x))]));

    private static Gen<Block> GenBlock(int depth) => depth == 0 ? GenStep : Gen.Frequency(
        (3, GenStep),
        (1, GenBlock(depth - 1).Array[1, 3].Select(b => (Block)new Sequence([.. b]))),
        (2, GenBlock(depth - 1).Array[1, 2].Select(b => new Sequence([.. b])).Array[2, 3].Select(b => (Block)new Parallel([.. b]))));

    private static readonly Gen<Plan> GenPlan = GenBlock(2).Array[1, 4].Select(b => new Plan("Plan", "", (Sequence)Numbered(new Sequence([.. b]), new Counter())));

    private sealed class Counter
    {
        public int Next { get; set; }
    }

    /// <summary>Keys must be unique; they are given in reading order.</summary>
    private static Block Numbered(Block block, Counter counter) => block switch
    {
        Step s => s with { Key = $"step{counter.Next++}", Seats = [.. s.Seats.Select(x => x with { Key = $"seat{counter.Next++}" })] },
        Sequence s => new Sequence([.. s.Blocks.Select(b => Numbered(b, counter))]),
        Parallel p => new Parallel([.. p.Branches.Select(b => (Sequence)Numbered(b, counter))]),
        _ => block,
    };

    private static string Hash(int n) => n.ToString("x64", System.Globalization.CultureInfo.InvariantCulture);

    private static ImmutableArray<SlipItem> Items(int count, int round) =>
        [.. Enumerable.Range(0, count).Select(i => new SlipItem(new Guid(i, 1, 0, new byte[8]), new Guid(i, 2, (short)round, new byte[8]), Hash((round * 100) + i)))];

    /// <summary>A run of random commands; each number picks who, where, and what.</summary>
    private static readonly Gen<(Plan Plan, int Items, int[] Moves)> GenRun = Gen.Select(GenPlan, Gen.Int[1, 3], Gen.Int[0, 100_000].Array[0, 60]);

    private static (Slip Slip, List<SlipEvent> Log) Run(Plan plan, int items, int[] moves, Action<Slip, SlipCommand, Decision>? look = null)
    {
        var log = new List<SlipEvent>();
        var slip = Do(Slip.Blank, new Send(People[0], plan, Items(items, 1)), []);
        foreach (var move in moves)
        {
            var person = People[move % 6];
            var seats = plan.Seats().ToList();
            var seat = seats[move / 6 % seats.Count].Seat.Key;
            var returned = move / 600 % 5 == 0;
            var requests = returned && slip.Items.Length > 0 ? new[] { new OpenRequest(1, slip.Items[0].Document, slip.Round, person, true) } : [];
            SlipCommand command = slip.Standing == SlipStanding.Returned
                ? new SendAgain(People[move / 7 % 3], Items(items, slip.Round + (move % 4 == 0 ? 0 : 1)))
                : new SignOff(person, seat, [.. slip.Items.Select((x, i) => new ItemVerdict(x.Draft, move % 41 == 0 ? Hash(7) : x.Sha256, returned && i == 0 ? Verdict.ReturnForChanges : Verdict.Approve, ""))]);
            slip = Do(slip, command, requests);
        }
        return (slip, log);

        Slip Do(Slip at, SlipCommand command, OpenRequest[] requests)
        {
            var decision = SlipRules.Decide(at, command, new SlipContext(Groups, requests));
            look?.Invoke(at, command, decision);
            if (decision.IsRefused) return at;
            log.AddRange(decision.Events);
            return SlipRules.Replay(at, decision.Events);
        }
    }

    [Fact]
    public void NeverReleasedWithoutEveryNeededSignatureOnTheVeryBytesReleased() => GenRun.Sample(run =>
    {
        var (slip, log) = Run(run.Plan, run.Items, run.Moves);
        if (slip.Standing != SlipStanding.Released) return;
        var released = log.OfType<PackageReleased>().Single().Items;
        foreach (var seat in slip.Seats)
        {
            var signed = slip.SignaturesIn(seat.Key).ToList();
            Assert.Equal(seat.Needed, signed.Count);
            Assert.All(signed, s => Assert.Equal(released.Select(i => i.Sha256).Order(), s.Verdicts.Select(v => v.Sha256).Order()));
            Assert.All(signed, s => Assert.False(s.Returns));
        }
    }, iter: 3000);

    [Fact]
    public void NobodySignsForASeatThatIsNotTheirs() => GenRun.Sample(
        run => Run(run.Plan, run.Items, run.Moves, (slip, command, decision) =>
        {
            if (command is SignOff sign && !decision.IsRefused && decision.Events.Length > 0)
                Assert.Contains(sign.Person, slip.SeatOf(sign.Seat)!.People);
        }), iter: 2000);

    [Fact]
    public void ReplayingTheEventsGivesTheSameState() => GenRun.Sample(run =>
    {
        var (slip, log) = Run(run.Plan, run.Items, run.Moves);
        Assert.Equal(System.Text.Json.JsonSerializer.Serialize(slip), System.Text.Json.JsonSerializer.Serialize(SlipRules.Replay(Slip.Blank, log)));
    }, iter: 2000);

    [Fact]
    public void ARepeatedCommandChangesNothing() => GenRun.Sample(
        run => Run(run.Plan, run.Items, run.Moves, (slip, command, decision) =>
        {
            if (decision.IsRefused) return;
            var after = SlipRules.Replay(slip, decision.Events);
            var again = SlipRules.Decide(after, command, new SlipContext(Groups, []));
            // After a release or a return the repeat may be refused; it must never add an event.
            Assert.Empty(again.Events);
        }), iter: 2000);

    [Fact]
    public void FromEveryReachableStateSomeSequenceFinishes() => GenRun.Sample(run =>
    {
        var (slip, _) = Run(run.Plan, run.Items, run.Moves);
        for (var guard = 0; slip.Standing != SlipStanding.Released; guard++)
        {
            Assert.True(guard < 500, "the slip did not finish");
            SlipCommand next = slip.Standing == SlipStanding.Returned
                ? new SendAgain(slip.Originator, Items(run.Items, slip.Round + 1000 + guard))
                : slip.Awaited().Select(a => new SignOff(a.Person, a.Seat.Key, [.. slip.Items.Select(i => new ItemVerdict(i.Draft, i.Sha256, Verdict.Approve, ""))])).First();
            var decision = SlipRules.Decide(slip, next, new SlipContext(Groups, []));
            Assert.False(decision.IsRefused, decision.Refusal?.Reason);
            slip = SlipRules.Replay(slip, decision.Events);
        }
    }, iter: 2000);

    [Fact]
    public void NoStepOpensBeforeTheOneBeforeItHasPassed() => GenRun.Sample(run =>
    {
        var (slip, _) = Run(run.Plan, run.Items, run.Moves);
        foreach (var block in run.Plan.Root.Blocks.Zip(run.Plan.Root.Blocks.Skip(1)))
        {
            var earlier = new Plan("", "", new Sequence([block.First])).Steps().Select(s => s.Key).ToList();
            var later = new Plan("", "", new Sequence([block.Second])).Steps().Select(s => s.Key).ToList();
            if (slip.Open.Concat(slip.Passed).Intersect(later).Any()) Assert.All(earlier, s => Assert.Contains(s, slip.Passed));
        }
    }, iter: 2000);
}
