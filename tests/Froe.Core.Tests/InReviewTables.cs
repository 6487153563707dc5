using System.Collections.Immutable;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>What is done to a package on its way, and what bars one from being sent, worked by hand.</summary>
public class InReviewTables
{
    private static readonly Guid Author = Id(1), Checker = Id(2), Lead = Id(3), Third = Id(4), Fourth = Id(5), Coordinator = Id(8), Crew = Id(20), Other = Id(21), Document = Id(9);
    private static readonly SlipItem Item = new(Document, Id(10), new string('a', 64)), NewItem = new(Document, Id(11), new string('b', 64));

    private static Guid Id(int n) => new(n, 0, 0, new byte[8]);

    private static Step Step(string key, params Seat[] seats) => new(key, key.ToUpperInvariant(), "Sign.", 1, [.. seats]);

    private static Seat Seat(string key, Guid person) => new(key, key, new PersonHolder(person));

    private static Plan Plan(params Block[] blocks) => new("P", "", new Sequence([.. blocks]));

    private static readonly Plan TwoSteps = Plan(Step("check", Seat("c", Checker)), Step("lead", Seat("l", Lead)));

    private static readonly SlipContext Office = new(new Dictionary<Guid, ImmutableArray<Guid>> { [Crew] = [Checker, Lead, Third], [Other] = [Author] }, []) { MayCoordinate = true };

    private static Slip Do(Slip slip, SlipCommand command, SlipContext? context = null)
    {
        var decision = SlipRules.Decide(slip, command, context ?? Office);
        Assert.Null(decision.Refusal);
        return SlipRules.Replay(slip, decision.Events);
    }

    private static string? Refused(Slip slip, SlipCommand command, SlipContext? context = null) => SlipRules.Decide(slip, command, context ?? Office).Refusal?.Code;

    private static Slip Sent(Plan plan) => Do(Slip.Blank, new Send(Author, plan, [Item]));

    private static SignOff Sign(Guid who, string seat, Verdict verdict = Verdict.Approve) => new(who, seat, [new ItemVerdict(Item.Draft, Item.Sha256, verdict, "")]);

    private static SlipContext Asking(params OpenRequest[] requests) => new(Office.Groups, requests) { MayCoordinate = true };

    private static Slip Returned(Plan plan, Guid by, string seat) => Do(Sent(plan), Sign(by, seat, Verdict.ReturnForChanges), Asking(new OpenRequest(1, Document, 1, by, false)));

    // ---- another plan under a running package ----

    [Fact]
    public void AStepIsAddedBehindTheOpenOneAndNotBeforeIt()
    {
        var slip = Sent(TwoSteps);
        var behind = Do(slip, new Amend(Coordinator, Plan(TwoSteps.Root.Blocks[0], Step("more", Seat("m", Third)), TwoSteps.Root.Blocks[1])));
        Assert.Equal(["check"], behind.Open);
        Assert.Equal(["more"], Do(behind, Sign(Checker, "c")).Open);
        Assert.Equal("does-not-fit", Refused(slip, new Amend(Coordinator, Plan(Step("more", Seat("m", Third)), TwoSteps.Root.Blocks[0], TwoSteps.Root.Blocks[1]))));
    }

    [Fact]
    public void AStepBesideTheOpenOneOpensAtOnce()
    {
        var slip = Do(Sent(TwoSteps), new Amend(Coordinator, Plan(new Parallel([new Sequence([TwoSteps.Root.Blocks[0]]), new Sequence([Step("more", Seat("m", Third))])]), TwoSteps.Root.Blocks[1])));
        Assert.Equal(["check", "more"], slip.Open.Order());
    }

    [Fact]
    public void WhatWasReachedSignedOrTakenMustBeInTheNewPlanAsItWas()
    {
        var slip = Do(Sent(TwoSteps), Sign(Checker, "c"));
        foreach (var (plan, missing) in new (Plan, string)[]
        {
            (Plan(TwoSteps.Root.Blocks[1]), "CHECK"), // passed, and gone
            (Plan(Step("check", Seat("c", Third)), TwoSteps.Root.Blocks[1]), "CHECK"), // passed with another holder
            (Plan(TwoSteps.Root.Blocks[0]), "LEAD"), // open, and gone
        })
        {
            var refusal = SlipRules.Decide(slip, new Amend(Coordinator, plan), Office).Refusal;
            Assert.Equal("does-not-fit", refusal?.Code);
            Assert.Contains($"“{missing}”", refusal!.Reason, StringComparison.Ordinal);
        }
        var half = Do(Sent(Plan(Step("both", Seat("c", Checker), Seat("l", Lead)))), Sign(Checker, "c"));
        Assert.Equal("does-not-fit", Refused(half, new Amend(Coordinator, Plan(Step("both", Seat("c", Third), Seat("l", Lead))))));
        // The other seat is nobody's signature yet: it may change hands.
        Assert.Equal([Third], Do(half, new Amend(Coordinator, Plan(Step("both", Seat("c", Checker), Seat("l", Third))))).SeatOf("l")!.People);
    }

    [Fact]
    public void AChoiceThatWasMadeStaysInThePlan()
    {
        Plan Choosing(params string[] ways) => Plan(TwoSteps.Root.Blocks[0], new Choice("k", "Heavy?", [.. ways.Select((w, i) => new Way(w, w, i == ways.Length - 1 ? null : new Rule(false, [new Condition(Subject.Size, "", Comparison.Is, $"{5 + i}")]), new Sequence([Step(w, Seat(w, Lead))])))]));
        var slip = Do(Sent(Choosing("heavy", "light")), Sign(Checker, "c"));
        Assert.Equal("light", slip.Taken.Single().Way);
        Assert.Equal("does-not-fit", Refused(slip, new Amend(Coordinator, Choosing("heavy", "other"))));
        Assert.Null(Refused(slip, new Amend(Coordinator, Choosing("heavy", "odd", "light"))));
    }

    [Fact]
    public void AnAmendedPlanKeepsWhoHoldsASeatThatStaysAndFillsTheOthersAnew()
    {
        var slip = Do(Sent(TwoSteps), new HandOver(Lead, "l", Lead, Third));
        var amended = Do(slip, new Amend(Coordinator, Plan(TwoSteps.Root.Blocks[0], TwoSteps.Root.Blocks[1], Step("crew", new Seat("x", "Crew", new GroupHolder(Crew, 2))))));
        Assert.Equal([Third], amended.SeatOf("l")!.People);
        Assert.Equal(2, amended.SeatOf("x")!.Needed);
        Assert.Equal([Checker, Lead, Third], amended.SeatOf("x")!.People.Order());
    }

    [Fact]
    public void OnlyACoordinatorAmendsAndOnlyWhatIsOnItsWay()
    {
        var slip = Sent(TwoSteps);
        Assert.NotNull(Refused(slip, new Amend(Author, TwoSteps), Office with { MayCoordinate = false }));
        var done = Do(Do(slip, Sign(Checker, "c")), Sign(Lead, "l"));
        Assert.Equal("not-in-review", Refused(done, new Amend(Coordinator, TwoSteps)));
        // A plan that could not be sent cannot be amended to, either.
        Assert.NotNull(Refused(slip, new Amend(Coordinator, Plan(TwoSteps.Root.Blocks[0], Step("nobody")))));
        var amended = Do(Returned(TwoSteps, Checker, "c"), new Amend(Coordinator, Plan(TwoSteps.Root.Blocks[0], TwoSteps.Root.Blocks[1], Step("more", Seat("m", Third)))));
        Assert.Equal(SlipStanding.Returned, amended.Standing);
    }

    // ---- recall, pull back, stop ----

    [Fact]
    public void APackageIsRecalledOnlyByItsOriginatorAndOnlyUnsigned()
    {
        var slip = Sent(TwoSteps);
        Assert.Equal("not-originator", Refused(slip, new Recall(Lead)));
        Assert.Equal("signed", Refused(Do(slip, Sign(Checker, "c")), new Recall(Author)));
        var stopped = Do(slip, new Recall(Author));
        Assert.Equal(SlipStanding.Stopped, stopped.Standing);
        // Again changes nothing.
        Assert.Empty(SlipRules.Decide(stopped, new Recall(Author), Office).Events);
        Assert.Equal("not-in-review", Refused(Returned(TwoSteps, Checker, "c"), new Recall(Author)));
    }

    [Fact]
    public void FromTheSecondRoundOnRecallingGivesItBackInsteadOfEndingIt()
    {
        var second = Do(Returned(TwoSteps, Checker, "c"), new SendAgain(Author, [NewItem]));
        Assert.Equal((2, SlipStanding.InReview), (second.Round, second.Standing));
        Assert.Equal(SlipStanding.Returned, Do(second, new Recall(Author)).Standing);
    }

    [Fact]
    public void PullingBackAndStoppingAreTheCoordinatorsAndHarmlessTwice()
    {
        var slip = Sent(TwoSteps);
        foreach (var command in new SlipCommand[] { new PullBack(Coordinator), new Stop(Coordinator) })
        {
            Assert.NotNull(Refused(slip, command, Office with { MayCoordinate = false }));
            var after = Do(slip, command);
            Assert.Equal(command is Stop ? SlipStanding.Stopped : SlipStanding.Returned, after.Standing);
            Assert.Empty(SlipRules.Decide(after, command, Office).Events);
            Assert.Equal("not-in-review", Refused(Do(Do(slip, Sign(Checker, "c")), Sign(Lead, "l")), command));
        }
        Assert.Equal("not-in-review", Refused(Do(slip, new Stop(Coordinator)), new PullBack(Coordinator)));
    }

    // ---- seats ----

    [Fact]
    public void ASeatIsHandedOverByItsHolderOrACoordinatorToSomebodyWhoMaySignThere()
    {
        var slip = Sent(TwoSteps with { Root = new Sequence([((Step)TwoSteps.Root.Blocks[0]) with { BarsOriginator = true }, TwoSteps.Root.Blocks[1]]) });
        Assert.NotNull(Refused(slip, new HandOver(Lead, "c", Checker, Third), Office with { MayCoordinate = false }));
        Assert.NotNull(Refused(slip, new HandOver(Checker, "c", Checker, Author)));
        Assert.NotNull(Refused(slip, new HandOver(Checker, "c", Third, Fourth)));
        Assert.NotNull(Refused(slip, new HandOver(Checker, "c", Checker, Fourth), Office with { Signers = new HashSet<Guid> { Checker, Lead } }));
        var over = Do(slip, new HandOver(Checker, "c", Checker, Third), Office with { MayCoordinate = false });
        Assert.Equal("not-your-seat", Refused(over, Sign(Checker, "c")));
        Assert.Equal(["lead"], Do(over, Sign(Third, "c")).Open);
    }

    [Fact]
    public void ASkippedSeatIsWaitedForNoMore()
    {
        var slip = Sent(Plan(Step("both", Seat("c", Checker), Seat("l", Lead)), Step("end", Seat("e", Third))));
        Assert.NotNull(Refused(slip, new Skip(Lead, "l"), Office with { MayCoordinate = false }));
        var skipped = Do(slip, new Skip(Coordinator, "l"));
        Assert.Equal(["end"], Do(skipped, Sign(Checker, "c")).Open);
        Assert.DoesNotContain(skipped.Awaited(), a => a.Person == Lead);
    }

    [Fact]
    public void ARefilledSeatKeepsWhoHasSigned()
    {
        var slip = Do(Sent(Plan(Step("crew", new Seat("x", "Crew", new GroupHolder(Crew, 2))))), Sign(Checker, "x"));
        var refilled = Do(slip, new Refill(Coordinator, "x", [Checker, Fourth], 2));
        Assert.Equal(SlipStanding.Released, Do(refilled, Sign(Fourth, "x")).Standing);
        Assert.NotNull(Refused(slip, new Refill(Coordinator, "x", [Fourth], 2)));
    }

    // ---- sending ----

    public static TheoryData<string, string?, FieldKind, string> Answers => new()
    {
        { "", "form-missing", FieldKind.Text, "must" },
        { " ", "form-missing", FieldKind.Text, "must" },
        { "12,5", null, FieldKind.Number, "" },
        { "twelve", "form-wrong", FieldKind.Number, "" },
        { "2026-02-29", "form-wrong", FieldKind.Date, "" },
        { "2028-02-29", null, FieldKind.Date, "" },
        { "29.02.2028", "form-wrong", FieldKind.Date, "" },
        { "yes", null, FieldKind.YesNo, "" },
        { "Yes", "form-wrong", FieldKind.YesNo, "" },
        { "steel", null, FieldKind.Choice, "steel" },
        { "wood", "form-wrong", FieldKind.Choice, "steel" },
        { "Ida", "form-wrong", FieldKind.Person, "" },
        { "00000002-0000-0000-0000-000000000000", null, FieldKind.Person, "" },
        { new string('x', 4001), "form-wrong", FieldKind.Text, "" },
    };

    [Theory]
    [MemberData(nameof(Answers))]
    public void AnIntakeFormIsCheckedFieldByField(string answer, string? code, FieldKind kind, string option)
    {
        var plan = TwoSteps with { Form = [new FormField("f", "Load", kind, "kN", "", option == "must", [option])] };
        var facts = new PackageFacts(new Dictionary<string, string> { ["f"] = answer }.ToImmutableSortedDictionary(), []);
        var fault = SlipRules.FormFault(plan, facts);
        Assert.Equal(code, fault?.Code);
        if (fault is not null) Assert.Contains("“Load”", fault.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void ASeatThatNobodyCouldSignKeepsThePackageFromBeingSent()
    {
        string? Sending(Step step, SlipContext? context = null) => Refused(Slip.Blank, new Send(Author, Plan(step), [Item]), context);
        var crew = new Seat("x", "Crew", new GroupHolder(Crew, 2));
        Assert.Null(Sending(Step("s", crew)));
        Assert.Equal("seat-unfillable", Sending(Step("s", crew with { Holder = new GroupHolder(Crew, 4) })));
        Assert.Equal("seat-unfillable", Sending(Step("s", crew with { Holder = new GroupHolder(Id(99), 1) })));
        Assert.Equal("seat-unfillable", Sending(Step("s", crew), Office with { Signers = new HashSet<Guid> { Checker } }));
        Assert.Equal("seat-barred", Sending(Step("s", new Seat("o", "Own", new OriginatorHolder())) with { BarsOriginator = true }));
        Assert.Equal("seat-not-chosen", Sending(Step("s", new Seat("p", "Picked", new ChosenHolder(Crew)))));
        // Three seats of a crew of three, each its own person: it just fits; four do not.
        Seat[] three = [.. Enumerable.Range(0, 3).Select(i => new Seat($"s{i}", "One", new GroupHolder(Crew, 1)))];
        Assert.Null(Sending(Step("s", three) with { OneSeatEach = true }));
        Assert.Equal("seats-overlap", Sending(Step("s", [.. three, new Seat("s4", "Four", new GroupHolder(Crew, 1))]) with { OneSeatEach = true }));
    }

    [Fact]
    public void ADeputyWithAPlaceOfTheirOwnDoesNotUseItUpForAnother()
    {
        var all = Sent(Plan(Step("s", new Seat("crew", "Crew", new GroupHolder(Crew, 0)))) with { ItemByItem = true });
        var away = Asking(new OpenRequest(1, Document, 1, Lead, false)) with { Deputies = new Dictionary<Guid, Guid> { [Checker] = Lead } };
        foreach (var verdict in new[] { Verdict.Approve, Verdict.ReturnForChanges })
            Assert.Equal("seat-stranded", Refused(all, Sign(Lead, "crew", verdict) with { For = Checker }, away with { OpenRequests = verdict == Verdict.Approve ? [] : away.OpenRequests }));
        Assert.Null(Refused(all, Sign(Lead, "crew"), away with { OpenRequests = [] }));
        // Where one of three is enough, no place is lost.
        var one = Sent(Plan(Step("s", new Seat("crew", "Crew", new GroupHolder(Crew, 1)))));
        Assert.Null(Refused(one, Sign(Lead, "crew") with { For = Checker }, away with { OpenRequests = [] }));
    }

    /// <summary>Seat a wants both of Checker and Lead, seat b one of Lead and Third; nobody may sign in both.</summary>
    private static Slip TwoAndOne(bool oneSeatEach)
    {
        var step = Step("s", new Seat("a", "Pair", new GroupHolder(Crew, 2)), new Seat("b", "Single", new GroupHolder(Crew, 1))) with { OneSeatEach = oneSeatEach };
        return Do(Do(Sent(Plan(step)), new Refill(Coordinator, "b", [Lead, Third], 1)), new Refill(Coordinator, "a", [Checker, Lead], 2));
    }

    [Fact]
    public void AReturnThatEndsASeatLeavesItItsPeopleForTheNextRound()
    {
        var back = Do(TwoAndOne(oneSeatEach: true), Sign(Checker, "a", Verdict.ReturnForChanges), Asking(new OpenRequest(1, Document, 1, Checker, false)));
        Assert.Equal(["b", "b"], back.Awaited().Select(a => a.Seat.Key));
        var mine = Asking(new OpenRequest(1, Document, 1, Checker, false));
        Assert.Equal("seat-stranded", Refused(back, Sign(Lead, "b"), mine));
        Assert.Equal("seat-stranded", Refused(back, new Refill(Coordinator, "b", [Lead], 1), mine));
        Assert.Null(Refused(back, Sign(Third, "b"), mine));
    }

    [Fact]
    public void ANewRuleOfOneSeatEachMustStillBeKeepable()
    {
        var slip = Do(TwoAndOne(oneSeatEach: false), Sign(Lead, "b"));
        var strict = slip.Plan.WithSteps(s => s with { OneSeatEach = true });
        Assert.Equal("seat-stranded", Refused(slip, new Amend(Coordinator, strict)));
        Assert.Null(Refused(TwoAndOne(oneSeatEach: false), new Amend(Coordinator, strict)));
    }

    [Fact]
    public void APackageHoldsItsDocumentsOnceAndByTheirBytes()
    {
        string? Sending(params SlipItem[] items) => Refused(Slip.Blank, new Send(Author, TwoSteps, [.. items]));
        Assert.Equal("package-empty", Sending());
        Assert.Equal("document-twice", Sending(Item, NewItem));
        Assert.Equal("hash-missing", Sending(Item with { Sha256 = "abc" }));
        var returned = Returned(TwoSteps, Checker, "c");
        Assert.Null(Refused(returned, new SendAgain(Author, [NewItem, new SlipItem(Id(77), Id(78), new string('c', 64))])));
        Assert.Equal("document-twice", Refused(returned, new SendAgain(Author, [NewItem, NewItem])));
        Assert.Equal("package-empty", Refused(returned, new SendAgain(Author, [])));
        Assert.Equal("same-bytes", Refused(returned, new SendAgain(Author, [Item])));
    }
}
