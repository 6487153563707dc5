using System.Collections.Immutable;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Who reviews now, deputies included; and who sees what.</summary>
public class ReviewingTables
{
    private static readonly Guid Originator = new("00000000-0000-0000-0000-000000000001"), Ann = new("00000000-0000-0000-0000-00000000000a"), Bo = new("00000000-0000-0000-0000-00000000000b"), Cy = new("00000000-0000-0000-0000-00000000000c");
    private static readonly SlipItem Item = new(Guid.NewGuid(), Guid.NewGuid(), new string('a', 64));

    private static Slip Sent(params Step[] steps) => SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Originator, new Plan("P", "", new([.. steps])), [Item]), SlipContext.Empty).Events);

    private static Step Step(string key, params (string Seat, Guid Person)[] seats) => new(key, key, "", 1, [.. seats.Select(s => new Seat(s.Seat, s.Seat, new PersonHolder(s.Person)))]);

    private static Dictionary<Guid, Guid> StandsIn(Guid deputy, Guid absent) => new() { [absent] = deputy };

    [Fact]
    public void WhoeverIsAwaitedReviewsAndWhoeverStandsInForThemDoesItForThem()
    {
        var slip = Sent(Step("one", ("a", Ann)), Step("two", ("b", Bo)));
        Assert.Equal(Ann, Reviewing.ActsFor(slip, Ann, new Dictionary<Guid, Guid>()));
        Assert.Null(Reviewing.ActsFor(slip, Bo, new Dictionary<Guid, Guid>()));
        Assert.Equal(Ann, Reviewing.ActsFor(slip, Cy, StandsIn(Cy, Ann)));
        Assert.Null(Reviewing.ActsFor(slip, Cy, StandsIn(Cy, Bo)));
        // For themselves first, when both wait for them.
        Assert.Equal(Bo, Reviewing.ActsFor(Sent(Step("one", ("a", Ann), ("b", Bo))), Bo, StandsIn(Bo, Ann)));
    }

    [Fact]
    public void NobodyStandsInWhereTheyCouldNotSign()
    {
        Assert.False(Reviewing.IsAwaited(Sent(Step("one", ("a", Ann)) with { BarsOriginator = true }), Originator, StandsIn(Originator, Ann)));
        var one = Sent(Step("one", ("a", Ann), ("b", Bo)) with { OneSeatEach = true });
        var signed = SlipRules.Evolve(one, new SignedOff(new Signature("b", Bo, [new ItemVerdict(Item.Draft, Item.Sha256, Verdict.Approve, "")])));
        Assert.True(Reviewing.IsAwaited(one, Bo, StandsIn(Bo, Ann)));
        Assert.False(Reviewing.IsAwaited(signed, Bo, StandsIn(Bo, Ann)));
        Assert.False(SlipRules.Decide(one, new SignOff(Cy, "a", [new ItemVerdict(Item.Draft, Item.Sha256, Verdict.Approve, "")]) { For = Ann }, SlipContext.Empty with { Deputies = StandsIn(Cy, Ann) }).IsRefused);
    }

    /// <summary>Whatever a deputy is offered they can do: no desk shows a seat that signing refuses.</summary>
    [Fact]
    public void WhatIsOfferedCanBeSigned()
    {
        foreach (var (bars, each) in new[] { (false, false), (true, false), (false, true), (true, true) })
            foreach (var deputy in new[] { Originator, Ann, Bo, Cy })
            {
                var slip = Sent(Step("one", ("a", Ann), ("b", Bo)) with { BarsOriginator = bars, OneSeatEach = each });
                foreach (var (_, seat, holder) in Reviewing.SeatsOf(slip, deputy, StandsIn(deputy, Ann)))
                {
                    var decision = SlipRules.Decide(slip, new SignOff(deputy, seat.Key, [new ItemVerdict(Item.Draft, Item.Sha256, Verdict.Approve, "")]) { For = holder == deputy ? null : holder }, SlipContext.Empty with { Deputies = StandsIn(deputy, Ann) });
                    // One seat each may strand the other seat, which is a matter of the colleague, not of the offer.
                    Assert.True(decision.Refusal is null or { Code: "seat-stranded" }, decision.Refusal?.Code);
                }
            }
    }

    [Fact]
    public void ADeputyReturnsWithTheAbsentPersonsRequestAndApprovesOnlyWhenItIsClosed()
    {
        var slip = Sent(Step("one", ("a", Ann)));
        var context = new SlipContext(SlipContext.Empty.Groups, [new OpenRequest(1, Item.Document, 1, Ann, false)]) { Deputies = StandsIn(Cy, Ann) };
        SignOff Sign(Verdict verdict) => new(Cy, "a", [new ItemVerdict(Item.Draft, Item.Sha256, verdict, "")]) { For = Ann };
        Assert.False(SlipRules.Decide(slip, Sign(Verdict.ReturnForChanges), context).IsRefused);
        Assert.Equal("request-open", SlipRules.Decide(slip, Sign(Verdict.Approve), context).Refusal?.Code);
        Assert.False(SlipRules.Decide(slip, Sign(Verdict.Approve), context with { OpenRequests = [] }).IsRefused);
    }

    [Theory]
    [InlineData(false, "drawing", true, "not-opened")]
    [InlineData(true, "drawing", true, "not-opened")]
    [InlineData(false, "supporting file", true, "not-opened")]
    [InlineData(true, "supporting file", true, null)]
    [InlineData(false, "drawing", false, null)]
    public void NobodysNameStandsUnderWhatTheyDidNotOpen(bool waived, string kind, bool asked, string? code)
    {
        var plan = new Plan("P", "", new([Step("one", ("a", Ann))])) { SupportingUnopened = waived };
        var facts = new PackageFacts(ImmutableSortedDictionary<string, string>.Empty, [new DocumentFacts(Item.Document, "N", kind, "d", "dxf", Originator)]);
        var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(Originator, plan, [Item]) { Facts = facts }, SlipContext.Empty).Events);
        var sign = new SignOff(Ann, "a", [new ItemVerdict(Item.Draft, Item.Sha256, Verdict.Approve, "")]);
        Assert.Equal(code, SlipRules.Decide(slip, sign, SlipContext.Empty with { Opened = asked ? new HashSet<Guid>() : null }).Refusal?.Code);
        Assert.False(SlipRules.Decide(slip, sign, SlipContext.Empty with { Opened = new HashSet<Guid> { Item.Draft } }).IsRefused);
    }

    [Fact]
    public void APlanAmendedTwiceAlikeChangesOnce()
    {
        var context = SlipContext.Empty with { MayCoordinate = true };
        var slip = Sent(Step("one", ("a", Ann)), Step("two", ("b", Bo)));
        Plan Longer() => slip.Plan.WithSteps(s => s.Key == "two" ? s with { WorkingDays = 4 } : s);
        var once = SlipRules.Replay(slip, SlipRules.Decide(slip, new Amend(Cy, Longer()), context).Events);
        Assert.Empty(SlipRules.Decide(once, new Amend(Cy, Longer()), context).Events);
        // The same plan read back from where it was kept: other objects, the same words.
        var read = System.Text.Json.JsonSerializer.Deserialize<Plan>(System.Text.Json.JsonSerializer.Serialize(once.Plan))!;
        Assert.Empty(SlipRules.Decide(once, new Amend(Cy, read), context).Events);
        Assert.NotEmpty(SlipRules.Decide(once, new Amend(Cy, Longer().WithSteps(s => s with { WorkingDays = 9 })), context).Events);
    }

    [Theory]
    [InlineData("originator", true)]
    [InlineData("holder", true)]
    [InlineData("deputy", true)]
    [InlineData("informed", true)]
    [InlineData("asked", true)]
    [InlineData("told", true)]
    [InlineData("originator's deputy", true)]
    [InlineData("reader", true)]
    [InlineData("reader of a name that begins alike", false)]
    [InlineData("nobody", false)]
    public void APackageIsSeenByWhoTakesPartInItOrMayReadAFolderOfIt(string who, bool seen)
    {
        var me = Guid.NewGuid();
        Guid[] Me(string kind) => who == kind ? [me] : [];
        var package = new PackageParts(who == "originator" ? me : Originator, who == "holder" ? [me] : [Ann], Me("informed"), Me("asked"), Me("told"), ["Mount / Parts"]);
        var rights = new Rights(who switch { "reader" => [new GrantedRight(Right.Read, "Mount")], "reader of a name that begins alike" => [new GrantedRight(Right.Read, "Mount / Part"), new GrantedRight(Right.Sign, "Mount")], _ => [] });
        Assert.Equal(seen, Visibility.Sees(me, rights, who switch { "deputy" => [Ann], "originator's deputy" => [Originator], _ => [] }, package));
    }
}
