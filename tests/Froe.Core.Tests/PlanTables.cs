using System.Collections.Immutable;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>Rules, and what the plan check finds, worked by hand.</summary>
public class PlanTables
{
    private static readonly Guid Author = new(1, 0, 0, new byte[8]), Checker = new(2, 0, 0, new byte[8]), Crew = new(9, 0, 0, new byte[8]), Nobody = new(10, 0, 0, new byte[8]);
    private static readonly Dictionary<Guid, ImmutableArray<Guid>> Groups = new() { [Crew] = [Author, Checker], [Nobody] = [] };
    private static readonly ImmutableArray<FormField> Form =
    [
        new("mass", "Lifted mass", FieldKind.Number, "kg", "", false, []), new("site", "Used on site", FieldKind.YesNo, "", "", true, []), new("why", "Reason", FieldKind.Choice, "", "", false, ["repair", "new"]),
    ];

    private static readonly PackageFacts Facts = new(
        ImmutableSortedDictionary<string, string>.Empty.Add("mass", "25,5").Add("site", "yes"),
        [new(Author, "TO-3301", "drawing", "Mechanical", "dxf", Author), new(Checker, "TO-9000", "supporting file", "Civil", "pdf", Checker)]);

    private static Step Step(string key, params Seat[] seats) => new(key, $"Step {key}", "", 1, [.. seats]);

    private static Seat Seat(string key, Holder? holder = null) => new(key, $"Role {key}", holder ?? new PersonHolder(Checker));

    private static Rule Rule(params Condition[] all) => new(false, [.. all]);

    [Theory]
    [InlineData(Subject.Form, "mass", Comparison.MoreThan, "25", true, "lifted mass is more than 25 kg")]
    [InlineData(Subject.Form, "mass", Comparison.AtMost, "25", false, "lifted mass is at most 25 kg")]
    [InlineData(Subject.Form, "mass", Comparison.Is, "25.50", true, "lifted mass is 25.50 kg")]
    [InlineData(Subject.Form, "why", Comparison.IsEmpty, "", true, "reason is left empty")]
    [InlineData(Subject.Form, "why", Comparison.MoreThan, "1", false, "reason is more than 1")]
    [InlineData(Subject.Size, "", Comparison.AtLeast, "2", true, "the number of documents is at least 2")]
    [InlineData(Subject.AnyDocument, "number", Comparison.Matches, "TO-33*", true, "the number of any document reads like TO-33*")]
    [InlineData(Subject.EveryDocument, "number", Comparison.Matches, "TO-33*", false, "the number of every document reads like TO-33*")]
    [InlineData(Subject.EveryDocument, "number", Comparison.Matches, "to-?3?1", false, "the number of every document reads like to-?3?1")]
    [InlineData(Subject.AnyDocument, "fileType", Comparison.Is, "PDF", true, "the file type of any document is PDF")]
    [InlineData(Subject.EveryDocument, "kind", Comparison.IsNot, "model", true, "the kind of every document is not model")]
    [InlineData(Subject.AnyDocument, "discipline", Comparison.Contains, "mech", true, "the discipline of any document contains “mech”")]
    public void AConditionHoldsAndReadsAsWritten(Subject subject, string field, Comparison comparison, string value, bool holds, string words)
    {
        var condition = new Condition(subject, field, comparison, value);
        Assert.Equal(holds, condition.Holds(Facts));
        Assert.Equal(words, RuleWords.Say(condition, Form));
    }

    [Fact]
    public void NoPatternTakesLong()
    {
        var pattern = string.Concat(Enumerable.Repeat("*a", 2000));
        Assert.False(new Condition(Subject.Form, "x", Comparison.Matches, pattern + "b").Compare(new string('a', 5000)));
    }

    private static ImmutableArray<Finding> Check(params Block[] blocks) => PlanCheck.Check(new Plan("P", "", new Sequence([.. blocks])) { Form = Form }, Groups);

    private static void Finds(string code, string cell, params Block[] blocks)
    {
        var found = Check(blocks);
        Assert.Contains(found, f => f.Code == code && f.Cell == cell);
        Assert.All(found, f => Assert.True(f.Remedy.Length > 5));
    }

    private static Choice Choice(string? at, params Rule?[] rules) => new("which", "Which?", [.. rules.Select((r, i) => new Way($"w{i}", $"Way {i}", r, new Sequence([Step($"s{i}", Seat($"x{i}"))])))]) { PickedAt = at };

    [Fact]
    public void EachFindingNamesItsCell()
    {
        Finds("plan-empty", "");
        Finds("branch-empty", "a", new Parallel([new Sequence([Step("a", Seat("s"))]), new Sequence([])]));
        Finds("step-key-twice", "a", Step("a", Seat("s")), Step("a", Seat("t")));
        Finds("seat-key-twice", "s", Step("a", Seat("s")), Step("b", Seat("s")));
        Finds("step-without-seat", "a", Step("a"));
        Finds("step-without-time", "a", Step("a", Seat("s")) with { WorkingDays = 0 });
        Finds("seat-unfillable", "s", Step("a", Seat("s", new PersonHolder(Guid.Empty))));
        Finds("seat-unfillable", "s", Step("a", Seat("s", new GroupHolder(Crew, 3))));
        Finds("seat-unfillable", "s", Step("a", Seat("s", new GroupHolder(Nobody, 0))));
        Finds("seat-unfillable", "s", Step("a", Seat("s", new ChosenHolder(Nobody))));
        Finds("seat-barred", "s", Step("a", Seat("s", new OriginatorHolder())) with { BarsOriginator = true });
        Finds("seat-unfillable-for-member", "s", Step("a", Seat("s", new GroupHolder(Crew, 2))) with { BarsOriginator = true });
        Finds("signer-not-before", "t", Step("a", Seat("s")), Step("b", Seat("t", new SignerOfHolder("b"))));
        Finds("signer-automatic", "t", Step("a", Seat("s")) with { PassesWhen = Rule(new Condition(Subject.Size, "", Comparison.AtMost, "1")) }, Step("b", Seat("t", new SignerOfHolder("a"))));
        Finds("seats-overlap", "a", Step("a", Seat("s", new GroupHolder(Crew, 2)), Seat("t")) with { OneSeatEach = true });
        Finds("person-twice", "a", Step("a", Seat("s"), Seat("t")));
        Finds("return-not-back", "a", Step("a", Seat("s")) with { ReturnsTo = "b" }, Step("b", Seat("t")));
        Finds("return-not-back", "b", new Parallel([new Sequence([Step("a", Seat("s"))]), new Sequence([Step("b", Seat("t")) with { ReturnsTo = "a" }])]));
        Finds("choice-incomplete", "which", Choice(null, Rule(new Condition(Subject.Size, "", Comparison.Is, "1")), Rule(new Condition(Subject.Size, "", Comparison.Is, "2"))));
        Finds("pick-not-before", "which", Choice("later", null, null), Step("later", Seat("s")));
        Finds("way-without-rule", "w0", Choice(null, null, null));
        Finds("rule-field-unknown", "w0", Choice(null, Rule(new Condition(Subject.Form, "weight", Comparison.Is, "1")), null));
        Finds("rule-value-not-number", "w0", Choice(null, Rule(new Condition(Subject.Form, "mass", Comparison.MoreThan, "heavy")), null));
        Finds("rule-field-not-number", "w0", Choice(null, Rule(new Condition(Subject.Form, "site", Comparison.MoreThan, "1")), null));
        Finds("rule-value-no-option", "w0", Choice(null, Rule(new Condition(Subject.Form, "why", Comparison.Is, "other")), null));
        Finds("rule-impossible", "w0", Choice(null, Rule(new Condition(Subject.Form, "mass", Comparison.MoreThan, "25"), new Condition(Subject.Form, "mass", Comparison.AtMost, "25")), null));
    }

    [Theory]
    [InlineData(Comparison.AtLeast, "20", Comparison.MoreThan, "25", true)]
    [InlineData(Comparison.MoreThan, "25", Comparison.AtLeast, "25", false)]
    [InlineData(Comparison.LessThan, "30", Comparison.Is, "29.5", true)]
    [InlineData(Comparison.AtMost, "30", Comparison.AtLeast, "10", false)]
    public void ARuleIsShadowedWhenAnEarlierOneTakesAllItsPackages(Comparison first, string a, Comparison second, string b, bool shadowed) => Assert.Equal(
        shadowed,
        Check(Choice(null, Rule(new Condition(Subject.Form, "mass", first, a)), Rule(new Condition(Subject.Form, "mass", second, b)), null)).Any(f => f is { Code: "rule-shadowed", Cell: "w1" }));

    [Fact]
    public void AStepIsSurelyBeforeOnlyWhereNoChoiceLeadsPastIt()
    {
        var plan = new Plan("P", "", new Sequence([Step("a", Seat("s")), Choice("a", null, null), Step("z", Seat("t"))]));
        Assert.Empty(PlanCheck.Check(plan, Groups));
        Assert.True(PlanShape.SurelyBefore(plan, "a", "z"));
        Assert.False(PlanShape.SurelyBefore(plan, "s0", "z"));
        Assert.Equal(PlanShape.Order.Beside, PlanShape.Between(plan, "s0", "s1"));
        Assert.Equal(PlanShape.Order.Before, PlanShape.Between(plan, "which", "s1"));
    }

    [Fact]
    public void TheFormSaysWhichFieldIsWrong()
    {
        var plan = new Plan("P", "", new Sequence([])) { Form = Form };
        PackageFacts With(string key, string value) => new(ImmutableSortedDictionary<string, string>.Empty.Add("site", "yes").SetItem(key, value), []);
        Assert.Null(SlipRules.FormFault(plan, With("mass", "-3.5")));
        Assert.Contains("Used on site", SlipRules.FormFault(plan, PackageFacts.None)!.Reason, StringComparison.Ordinal);
        Assert.Contains("number in kg", SlipRules.FormFault(plan, With("mass", "heavy"))!.Reason, StringComparison.Ordinal);
        Assert.Equal("form-wrong", SlipRules.FormFault(plan, With("why", "fun"))?.Code);
        Assert.Equal("form-wrong", SlipRules.FormFault(plan, With("site", "maybe"))?.Code);
    }
}
