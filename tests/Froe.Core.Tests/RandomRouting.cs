using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using CsCheck;
using Froe.Core.Routing;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>Random plans of every kind of block, seat and rule, and random runs over them.</summary>
internal static class RandomRouting
{
    public static readonly Guid[] People = [.. Enumerable.Range(1, 7).Select(i => new Guid(i, 0, 0, new byte[8]))];
    private static readonly Guid Crew = new(99, 0, 0, new byte[8]);
    public static readonly Dictionary<Guid, ImmutableArray<Guid>> Groups = new() { [Crew] = [People[2], People[3], People[4]] };

    /// <summary>Person 4 is away and person 6 stands in.</summary>
    private static readonly Dictionary<Guid, Guid> Deputies = new() { [People[3]] = People[5] };

    private static readonly ImmutableArray<FormField> Form = [new("mass", "Lifted mass", FieldKind.Number, "kg", "", false, [])];

    /// <summary>A run: a plan, a form's answer, how many items, and numbers that each pick who does what.</summary>
    public static readonly Gen<(Plan Plan, int Mass, int Items, int[] Moves)> GenRun = Gen.Select(GenPlan(), Gen.Int[0, 40], Gen.Int[1, 3], Gen.Int[0, 1_000_000].Array[0, 60]);

    /// <summary>A run that broke a law, in full, so that it can be looked into from a log alone.</summary>
    public static string Say((Plan Plan, int Mass, int Items, int[] Moves) run) =>
        $"{JsonSerializer.Serialize(run.Plan)} mass {run.Mass}, {run.Items} items, moves {string.Join(' ', run.Moves)}";

    private static Gen<Plan> GenPlan()
    {
        var holder = Gen.OneOf(
            Gen.Int[0, 5].Select(i => (Holder)new PersonHolder(People[i])),
            Gen.Int[0, 3].Select(k => (Holder)new GroupHolder(Crew, k)),
            Gen.Const((Holder)new OriginatorHolder()),
            Gen.Const((Holder)new OwnersHolder()),
            Gen.Int[0, 9].Select(i => (Holder)new SignerOfHolder(i.ToString(CultureInfo.InvariantCulture))));
        var seat = Gen.Select(holder, Gen.Bool, (h, wait) => new Seat("", "Seat", h) { WaitsForRest = wait });
        var rule = Gen.Select(Gen.Bool, Gen.Int[0, 40], (more, mass) => new Rule(false, [new(Subject.Form, "mass", more ? Comparison.MoreThan : Comparison.AtMost, mass.ToString(CultureInfo.InvariantCulture))]));
        var step = Gen.Select(seat.Array[1, 3], Gen.Int[0, 9], Gen.Int[0, 2], Gen.Int[0, 5], rule, (s, traits, again, back, r) => (Block)new Step("", "Step", "Look.", 1, [.. s])
        {
            BarsOriginator = traits == 1,
            OneSeatEach = traits is 2 or 3,
            PassesWhen = traits == 4 ? r : null,
            SignAgain = (SignAgain)again,
            // Numbers stand for "the so-many-th step that surely comes before", set when the keys are given.
            ReturnsTo = back < 2 ? back.ToString(CultureInfo.InvariantCulture) : null,
        });
        return Gen.Select(Blocks(2).Array[1, 4], Gen.Int[0, 7], (b, rules) => Keyed(new Plan("Plan", "", new Sequence([.. b])) { Form = Form, ItemByItem = rules % 2 == 1, HoldsNoted = rules / 2 % 2 == 1, SignersReopen = rules > 3 }));

        Gen<Block> Blocks(int depth) => depth == 0 ? step : Gen.Frequency(
            (4, step),
            (1, Blocks(depth - 1).Array[1, 3].Select(b => (Block)new Sequence([.. b]))),
            (2, Blocks(depth - 1).Array[1, 2].Select(b => new Sequence([.. b])).Array[2, 3].Select(b => (Block)new Parallel([.. b]))),
            (1, Gen.Select(Blocks(depth - 1).Array[0, 2].Array[2, 3], rule, Gen.Int[0, 2], (ways, r, pick) => (Block)new Choice("", "Which?", [.. ways.Select((w, i) => new Way("", "Way", i == ways.Length - 1 || pick == 0 ? null : r, new Sequence([.. w])))])
            {
                PickedAt = pick == 0 ? "0" : null,
            })));
    }

    /// <summary>Gives keys in reading order, and turns numbers into keys of steps that surely come before; what has none is dropped.</summary>
    private static Plan Keyed(Plan plan)
    {
        var next = 0;
        plan = plan with { Root = (Sequence)Number(plan.Root) };
        return plan with { Root = (Sequence)Refer(plan.Root) };

        Block Number(Block block) => block switch
        {
            Step s => s with { Key = $"step{next++}", Seats = [.. s.Seats.Select(x => x with { Key = $"seat{next++}" })] },
            Sequence s => new Sequence([.. s.Blocks.Select(Number)]),
            Parallel p => new Parallel([.. p.Branches.Select(b => (Sequence)Number(b))]),
            Choice c => c with { Key = $"choice{next++}", Ways = [.. c.Ways.Select(w => w with { Key = $"way{next++}", Blocks = (Sequence)Number(w.Blocks) })] },
            _ => block,
        };

        string? Earlier(string at, string which, bool signed)
        {
            var before = plan.Steps().Where(s => PlanShape.SurelyBefore(plan, s.Key, at) && !(signed && s.PassesWhen is not null)).Select(s => s.Key).ToList();
            return before.Count == 0 ? null : before[int.Parse(which, CultureInfo.InvariantCulture) % before.Count];
        }

        Block Refer(Block block) => block switch
        {
            Step s => s with
            {
                ReturnsTo = s.ReturnsTo is { } to && !plan.ItemByItem ? Earlier(s.Key, to, false) : null,
                OneSeatEach = s.OneSeatEach && !s.Seats.Any(x => x.Holder is SignerOfHolder),
                BarsOriginator = s.BarsOriginator && s.Seats.All(x => x.Holder is GroupHolder),
                Seats = [.. s.Seats.Select(x => x.Holder is SignerOfHolder of ? x with { Holder = Earlier(s.Key, of.Step, true) is { } key ? new SignerOfHolder(key) : new OriginatorHolder() } : x)],
            },
            Sequence s => new Sequence([.. s.Blocks.Select(Refer)]),
            Parallel p => new Parallel([.. p.Branches.Select(b => (Sequence)Refer(b))]),
            Choice c => Earlier(c.Key, "0", true) is var at && c.PickedAt is not null && at is null
                ? c with { PickedAt = null, Ways = [.. c.Ways.Select((w, i) => w with { Rule = i == c.Ways.Length - 1 ? null : new Rule(false, [new(Subject.Form, "mass", Comparison.MoreThan, "20")]), Blocks = (Sequence)Refer(w.Blocks) })] }
                : c with { PickedAt = c.PickedAt is null ? null : at, Ways = [.. c.Ways.Select(w => w with { Blocks = (Sequence)Refer(w.Blocks) })] },
            _ => block,
        };
    }

    public static string Hash(int n) => n.ToString("x64", CultureInfo.InvariantCulture);

    /// <summary>Items of a round: document 0 changes every round, the others stay; two of these are the same file.</summary>
    public static ImmutableArray<SlipItem> Items(int count, int round) =>
        [.. Enumerable.Range(0, count).Select(i => new SlipItem(new Guid(i, 1, 0, new byte[8]), new Guid(i, 2, (short)(i == 0 ? round : 1), new byte[8]), Hash(i == 0 ? round * 100 : Math.Max(i, 2))))];

    /// <summary>The document of a draft: the same number.</summary>
    public static Guid DocumentOf(Guid draft) => new(BitConverter.ToInt32(draft.ToByteArray()), 1, 0, new byte[8]);

    /// <summary>The items of a slip for its next round: the first of them changes.</summary>
    public static ImmutableArray<SlipItem> Again(Slip slip, int round) =>
        [.. slip.Items.Select((i, n) => n > 0 ? i : i with { Draft = new Guid(BitConverter.ToInt32(i.Document.ToByteArray()), 2, (short)round, new byte[8]), Sha256 = Hash((round * 100) + BitConverter.ToInt32(i.Document.ToByteArray())) })];

    /// <summary>The next round's items as its originator may choose them: some left out, another taken in.</summary>
    private static ImmutableArray<SlipItem> Changed(Slip slip, ImmutableArray<SlipItem> next, int move) => (move / 41 % 5) switch
    {
        0 when next.Length > 1 => next.RemoveAt(move % next.Length),
        1 when !next.Any(i => i.Document == new Guid(8, 1, 0, new byte[8])) => next.Add(new SlipItem(new Guid(8, 1, 0, new byte[8]), new Guid(8, 2, (short)slip.Round, new byte[8]), Hash(8))),
        _ => next,
    };

    public static Send Sending((Plan Plan, int Mass, int Items, int[] Moves) run) => new(People[0], run.Plan, Items(run.Items, 1))
    {
        Facts = new(
            ImmutableSortedDictionary<string, string>.Empty.Add("mass", run.Mass.ToString(CultureInfo.InvariantCulture)),
            [.. Items(run.Items, 1).Select((x, i) => new DocumentFacts(x.Document, $"D-{i}", "drawing", "", "dxf", People[i % 2]))]),
    };

    /// <summary>The command a number stands for, given where the slip is: mostly sensible, sometimes anything.</summary>
    public static (SlipCommand Command, SlipContext Context) Move(Slip slip, int move)
    {
        var who = People[move % 6];
        var seats = slip.Plan.Seats().ToList();
        var seat = seats[move / 6 % seats.Count].Seat.Key;
        var kind = move / 1000 % 40;
        // At times the originator is away as well.
        var deputies = move / 3 % 4 == 0 && slip.Originator != People[3] ? new Dictionary<Guid, Guid>(Deputies) { [slip.Originator] = People[4] } : Deputies;
        var context = new SlipContext(Groups, Requests(slip, move)) { Deputies = deputies, MayCoordinate = kind % 3 != 1, EarlierDrafts = slip.JudgedEarlier().ToDictionary(d => d, DocumentOf) };
        switch (kind)
        {
            case 0: return (new HandOver(who, seat, who, People[move / 7 % 7]), context);
            case 1: return (new HandOver(People[6], seat, who, People[move / 7 % 7]), context);
            case 2: return (new Refill(who, seat, [who, People[move / 7 % 6]], 1 + (move % 2)), context);
            case 3: return (new Skip(who, seat) { WithoutSignatures = move % 2 == 0 }, context);
            case 4: return (new TakeBack(who, seat) { Of = move % 3 == 0 ? People[move / 7 % 6] : null }, context);
            // The signature given last, by whoever gave it.
            case 9 when slip.Signatures.Length > 0: return (new TakeBack(slip.Signatures[^1].Person, slip.Signatures[^1].Seat), context);
            case 5 when move % 5 == 0: return (new PullBack(who, move % 15 == 0), context);
            case 12 when slip.Signatures.Length > 0: return (new ReopenSeat(slip.Signatures[move / 9 % slip.Signatures.Length].Person, slip.Signatures[move / 9 % slip.Signatures.Length].Seat), context);
            case 10 when move % 3 == 0: return (new HandPackage(who, People[move / 7 % 6]), context);
            case 11 when move % 4 == 0 && slip.Items.Length > 0: return (new TakeOut(who, slip.Items[move / 9 % slip.Items.Length].Document), context);
            case 6 when move % 5 == 0: return (new Recall(move % 4 == 0 ? People[4] : slip.Originator), context with { SignedThisRound = slip.Round > 1 && move % 15 == 0 ? false : null });
            case 7: return (new Amend(who, Amended(slip.Plan, move)), context);
        }
        if (slip.Standing == SlipStanding.Returned) return (new SendAgain(move % 9 == 0 ? People[4] : slip.Originator, Changed(slip, Again(slip, slip.Round + (move % 8 == 0 ? 0 : 1)), move)), context);
        if ((slip.IsHeld || kind == 8) && slip.UnansweredNoted().ToList() is [var noted, ..])
            return (new AnswerNoted(move % 7 == 0 ? People[4] : slip.Originator, noted.Signature.Seat, noted.Signature.Person, noted.Verdict.Draft, "Seen."), context);
        var awaited = slip.Awaited().ToList();
        Guid? absent = null;
        if (kind > 12 && awaited.Count > 0) (seat, who) = (awaited[move / 11 % awaited.Count].Seat.Key, awaited[move / 11 % awaited.Count].Person);
        if (deputies.TryGetValue(who, out var deputy) && move % 2 == 0) (absent, who) = (who, deputy);
        var returns = move / 13 % 6 == 0;
        var judged = slip.ToJudge(seat, absent ?? who).Select(x => new ItemVerdict(x.Draft, move % 53 == 0 ? Hash(7) : x.Sha256, returns && x.Document == slip.Items[0].Document ? Verdict.ReturnForChanges : move % 5 == 0 ? Verdict.ApproveAsNoted : Verdict.Approve, "Noted.")).ToImmutableArray();
        // Whoever returns an item has mostly asked for something on it.
        var requests = judged.Any(v => v.Verdict == Verdict.ReturnForChanges) && move % 37 != 0 ? context.OpenRequests.Append(new OpenRequest(1, slip.Items[0].Document, slip.Round, who, false)).ToArray() : context.OpenRequests;
        return (new SignOff(who, seat, judged)
        {
            For = absent,
            Picks = [.. slip.Plan.Choices().Where(c => c.PickedAt is not null && move % 17 != 0).Select(c => new WayPick(c.Key, c.Ways[move / 3 % c.Ways.Length].Key))],
        }, context with { OpenRequests = requests });
    }

    /// <summary>Requests that are open while a command is decided: none, mostly; else one or two by anybody, of this round or the one before, answered or not.</summary>
    private static OpenRequest[] Requests(Slip slip, int move) => move / 17 % 4 != 0 || slip.Items.IsEmpty ? [] :
    [
        .. Enumerable.Range(0, 1 + (move / 51 % 2)).Select(n => new OpenRequest(
            10 + n, slip.Items[((move / 7) + n) % slip.Items.Length].Document, Math.Max(1, slip.Round - (move / 23 % 2)), People[((move / 29) + n) % 6], move / 31 % 2 == 0) { ChangesNothing = move / 37 % 3 > 0 }),
    ];

    /// <summary>A newer edition: a step more somewhere among the plan's outermost blocks, or another rule of who may hold several seats of a step.</summary>
    private static Plan Amended(Plan plan, int move)
    {
        if (move % 3 == 0)
        {
            var steps = plan.Steps().Where(s => !s.Seats.Any(x => x.Holder is SignerOfHolder)).Select(s => s.Key).ToList();
            return steps.Count == 0 ? plan : plan.WithSteps(s => s.Key == steps[move / 3 % steps.Count] ? s with { OneSeatEach = !s.OneSeatEach } : s);
        }
        var step = new Step($"added{move}", "Added", "Look.", 1, [new Seat($"addedseat{move}", "Added", new PersonHolder(People[1]))]);
        return plan with { Root = new Sequence(plan.Root.Blocks.Insert(move % (plan.Root.Blocks.Length + 1), step)) };
    }
}
