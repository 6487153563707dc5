using CsCheck;
using Froe.Core.Register;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Rights, folders and standings in order, worked by hand.</summary>
public class RegisterTables
{
    private static readonly Guid Authors = new(1, 0, 0, new byte[8]), Site = new(2, 0, 0, new byte[8]);

    private static readonly StandingOrder Order = new(
        [new("in work"), new("self-checked", NeedsWholeFile: true), new("shared"), new("fit for use", ForUse: true, NeedsAnswers: true)],
        [new("in work", "self-checked", [Authors]), new("self-checked", "shared", [Authors]), new("self-checked", "in work", [Authors]), new("shared", "fit for use", [Site])]);

    private static MovingDocument Document(string stage = "", string standing = "in work", int open = 0, int notShown = 0) => new("T-1", standing, stage, open, notShown);

    private static string? Refused(MovingDocument document, string to, bool any, params Guid[] groups) => StandingRules.Move(Order, document, to, groups.ToHashSet(), any).Refusal?.Code;

    [Fact]
    public void AJumpPassesThroughEveryStandingBetween()
    {
        Assert.Equal([("in work", "self-checked"), ("self-checked", "shared")], StandingRules.Move(Order, Document(), "shared", new HashSet<Guid> { Authors }, false).Passages);
        Assert.Equal([("shared", "self-checked"), ("self-checked", "in work")], StandingRules.Move(Order, Document("shared"), "in work", new HashSet<Guid>(), true).Passages);
        Assert.Empty(StandingRules.Move(Order, Document("shared"), "shared", new HashSet<Guid>(), false).Passages);
    }

    [Fact]
    public void ARefusedMoveSaysWhatIsMissing()
    {
        Assert.Equal("move-not-yours", Refused(Document(), "self-checked", false, Site));
        // Each passage of a jump must be allowed, not only the last.
        Assert.Equal("move-not-yours", Refused(Document(), "fit for use", false, Site));
        Assert.Null(Refused(Document(), "fit for use", false, Site, Authors));
        Assert.Equal("move-not-yours", Refused(Document("shared"), "self-checked", false, Authors));
        Assert.Equal("requests-open", Refused(Document("shared", open: 2), "fit for use", true));
        Assert.Equal("file-not-whole", Refused(Document(notShown: 3), "self-checked", true));
        Assert.Null(Refused(Document("shared", notShown: 3), "in work", true));
        Assert.Equal("no-such-standing", Refused(Document(), "built", true));
        foreach (var standing in new[] { "in review", "released", "superseded" }) Assert.Equal("not-in-work", Refused(Document(standing: standing), "shared", true));
        Assert.Contains("2 are open", StandingRules.Move(Order, Document("shared", open: 2), "fit for use", new HashSet<Guid>(), true).Refusal!.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("released", "", null)]
    [InlineData("in work", "fit for use", null)]
    [InlineData("in work", "shared", "T-1 is shared, so")]
    [InlineData("in work", "", "T-1 is in work, so")]
    [InlineData("returned", "fit for use", "T-1 is returned, so")]
    [InlineData("superseded", "", "T-1 is superseded, so")]
    public void OnlyWhatIsReleasedOrFitForItGoesToSite(string standing, string stage, string? says)
    {
        var fault = StandingRules.UseFault(Order, Document(stage, standing));
        if (says is null) Assert.Null(fault);
        else Assert.StartsWith(says, fault!.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void AChainIsCheckedBeforeItIsUsed()
    {
        Assert.Null(StandingRules.Check(Order));
        Assert.Equal("order-short", StandingRules.Check(new([new("in work")], []))!.Code);
        Assert.Equal("standing-twice", StandingRules.Check(new([new("in work"), new("In Work")], []))!.Code);
        Assert.Equal("standing-without-name", StandingRules.Check(new([new("in work"), new(" ")], []))!.Code);
        Assert.Equal("first-for-use", StandingRules.Check(new([new("in work", ForUse: true), new("x")], []))!.Code);
        Assert.Equal("move-unknown", StandingRules.Check(Order with { Moves = [new("in work", "elsewhere", [])] })!.Code);
    }

    [Fact]
    public void ARightHoldsForItsFolderAndWhatIsBeneath()
    {
        var rights = new Rights([new(Right.Read, "A"), new(Right.Read, "A / B"), new(Right.Send, "A / B"), new(Right.Sign, "")]);
        Assert.True(rights.For(Right.Read, "A / B / C"));
        Assert.False(rights.For(Right.Read, "AB"));
        Assert.False(rights.For(Right.Send, "A"));
        Assert.True(rights.ForAll(Right.Sign, ["", "A", "Z"]));
        Assert.False(rights.Anywhere(Right.Administer));
        Assert.Equal(["A"], rights.Places(Right.Read)!);
        Assert.Null(rights.Places(Right.Sign));
        Assert.Empty(rights.Places(Right.Coordinate)!);
    }

    [Theory]
    [InlineData(" Mount /  Released ", "Mount / Released")]
    [InlineData("//", "")]
    [InlineData("A/B//C", "A / B / C")]
    public void APathIsKeptInOneForm(string typed, string kept) => Assert.Equal(kept, Folders.Normal(typed));

    /// <summary>Walking upwards meets exactly the folders that hold a path, and ends at the root.</summary>
    [Fact]
    public void UpwardsMeetsExactlyWhatHoldsAFolder() => Gen.String[Gen.Char["ab"], 1, 2].Array[0, 5].Sample(names =>
    {
        var path = string.Join(Folders.Separator, names);
        var up = Folders.Upwards(path).ToList();
        Assert.Equal(names.Length + 1, up.Count);
        Assert.Equal(Folders.Root, up[^1]);
        Assert.All(up, f => Assert.True(Folders.Holds(f, path)));
    });

    /// <summary>Whatever standings and goal: the passages lead without a gap from where the document stands to the goal, or nothing moves and it is said why.</summary>
    [Fact]
    public void PassagesLeadWithoutAGapOrNothingMoves() => Gen.Select(Gen.Int[2, 8], Gen.Int[0, 7], Gen.Int[0, 7], Gen.Int[0, 255], Gen.Bool).Sample(t =>
    {
        var (count, from, to, allowed, any) = t;
        (from, to) = (from % count, to % count);
        string Name(int i) => $"s{i}";
        var order = new StandingOrder(
            [.. Enumerable.Range(0, count).Select(i => new Stage(Name(i)))],
            [.. Enumerable.Range(0, count - 1).Where(i => (allowed >> i & 1) == 1).SelectMany(i => new[] { new StageMove(Name(i), Name(i + 1), [Authors]), new StageMove(Name(i + 1), Name(i), [Authors]) })]);
        var (passages, refusal) = StandingRules.Move(order, Document(Name(from)), Name(to), new HashSet<Guid> { Authors }, any);
        var (low, high) = (Math.Min(from, to), Math.Max(from, to));
        var free = any || Enumerable.Range(low, high - low).All(i => (allowed >> i & 1) == 1);
        Assert.Equal(free, refusal is null);
        if (refusal is not null)
        {
            Assert.Empty(passages);
            return;
        }
        Assert.Equal(high - low, passages.Length);
        if (passages.IsEmpty) return;
        Assert.Equal((Name(from), Name(to)), (passages[0].From, passages[^1].To));
        Assert.All(passages.Zip(passages.Skip(1)), p => Assert.Equal(p.First.To, p.Second.From));
    }, iter: 3000);
}
