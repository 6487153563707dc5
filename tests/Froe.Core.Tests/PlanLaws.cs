using System.Collections.Immutable;
using CsCheck;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>Plans as no editor makes them: keys that stand twice, seats without people, numbers below nothing, choices without ways.</summary>
public class PlanLaws
{
    private static readonly Guid Group = new(99, 0, 0, new byte[8]), Nobody = new(98, 0, 0, new byte[8]);
    private static readonly Dictionary<Guid, ImmutableArray<Guid>> Groups = new() { [Group] = [.. RandomRouting.People.Take(3)], [Nobody] = [] };

    private static Gen<T> OneOf<T>(params T[] any) => Gen.Int[0, any.Length - 1].Select(i => any[i]);

    private static readonly Gen<string> Key = Gen.Int[-1, 40].Select(i => i < 0 ? "" : $"k{i}");

    private static readonly Gen<Rule?> AnyRule = Gen.Select(
        Gen.Bool,
        Gen.Select(Gen.Enum<Subject>(), OneOf("k1", "kind", ""), Gen.Enum<Comparison>(), OneOf("", "1", "x", "(", "[a-"), (s, f, c, v) => new Condition(s, f, c, v)).Array[0, 2],
        (any, conditions) => new Rule(any, [.. conditions])).Null(0.7);

    private static readonly Gen<Holder> AnyHolder = Gen.OneOf(
        OneOf(Guid.Empty, RandomRouting.People[0], RandomRouting.People[1], RandomRouting.People[2], RandomRouting.People[3]).Select(p => (Holder)new PersonHolder(p)),
        Gen.Select(OneOf(Group, Nobody, Guid.Empty), Gen.Int[-2, 5], (g, n) => (Holder)new GroupHolder(g, n)),
        Gen.Const((Holder)new OriginatorHolder()),
        Gen.Const((Holder)new OwnersHolder()),
        Key.Select(k => (Holder)new SignerOfHolder(k)),
        OneOf(Group, Nobody).Select(g => (Holder)new ChosenHolder(g)));

    private static readonly Gen<Block> AnyStep = Gen.Select(
        Key, Gen.Int[-1, 9], Gen.Select(Key, AnyHolder, (k, h) => new Seat(k, k, h)).Array[0, 3], AnyRule, Key.Null(0.9), Gen.Int[0, 15],
        (key, days, seats, passes, back, traits) => (Block)new Step(key, key, "Look.", days, [.. seats])
        {
            PassesWhen = traits % 3 == 0 ? passes : null,
            ReturnsTo = back,
            BarsOriginator = traits % 4 == 0,
            OneSeatEach = traits > 7,
            SeenShare = traits == 9 ? 101 : traits == 10 ? -1 : 0,
            Checkpoints = traits == 11 ? [new(key, "", CheckpointKind.YesNo, "", true), new(key, "So?", CheckpointKind.YesNo, "", true)] : [],
        });

    private static Gen<Block> Any(int depth) => depth == 0 ? AnyStep : Gen.Frequency(
        (4, AnyStep),
        (1, Any(depth - 1).Array[0, 2].Select(b => (Block)new Sequence([.. b]))),
        (1, Any(depth - 1).Array[0, 2].Select(b => new Sequence([.. b])).Array[0, 3].Select(b => (Block)new Parallel([.. b]))),
        (2, Gen.Select(Key, Gen.Select(Key, AnyRule, Any(depth - 1).Array[0, 2], (k, r, b) => new Way(k, k, r, new Sequence([.. b]))).Array[0, 3], Key.Null(0.5), (k, ways, at) => (Block)new Choice(k, k, [.. ways]) { PickedAt = at })));

    private static readonly Gen<Plan> AnyPlan = Gen.Select(
        Any(2).Array[0, 3], Gen.Select(Key, Gen.Enum<FieldKind>(), OneOf("", "x").Array[0, 2], (k, kind, options) => new FormField(k, k, kind, "", "", true, [.. options])).Array[0, 1], AnyRule, Gen.Int[0, 7],
        (blocks, form, fits, traits) => new Plan("Plan", "", new Sequence([.. blocks]))
        {
            Form = [.. form],
            Fits = fits,
            ItemByItem = traits % 2 == 1,
            Closing = traits == 7 ? [new FileWherePicked("a"), new FileUnder("///"), new InformGroup(Nobody), new OpenFollowUp(Guid.Empty, "")] : [],
            Answering = traits == 3 ? new Answering(-1) { Reminders = [-1, 0] } : null,
        });

    /// <summary>Whatever a plan is, its check says so in words; and what it lets through is sent, or refused in words.</summary>
    [Fact]
    public void EveryPlanIsCheckedAndWhatPassesCanBeDecided()
    {
        var sent = 0;
        AnyPlan.Sample(
            plan =>
            {
                var findings = PlanCheck.Check(plan, Groups, new HashSet<string>());
                Assert.All(findings, f => Assert.False(string.IsNullOrWhiteSpace(f.Says)));
                var items = RandomRouting.Items(2, 1);
                var facts = PackageFacts.None with { Documents = [.. items.Select(i => new DocumentFacts(i.Document, "D", "drawing", "", "dxf", RandomRouting.People[5]))] };
                var decision = SlipRules.Decide(Slip.Blank, new Send(RandomRouting.People[5], plan, items) { Facts = facts }, new SlipContext(Groups, []));
                if (findings.Any(f => f.Stops)) Assert.True(decision.IsRefused);
                if (!decision.IsRefused && SlipRules.Replay(Slip.Blank, decision.Events).Standing is SlipStanding.InReview or SlipStanding.Released) Interlocked.Increment(ref sent);
            },
            iter: 20_000);
        Assert.True(sent > 20, $"{sent} of the plans could be sent");
    }
}
