using Froe.Core.Review;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What a note says besides its words, by tables worked by hand.</summary>
public class NoteTermsTables
{
    private static readonly DateOnly Today = new(2026, 11, 27);

    private static NoteTerms Of(bool urgent = false, int? due = null, bool onPackage = false, params string[] tags) => new(urgent, due is { } days ? Today.AddDays(days) : null, [.. tags], onPackage);

    [Theory]
    [InlineData(NoteKind.Request, true, 0, false, null)]
    [InlineData(NoteKind.Request, true, 1, true, "request-needs-item")]
    [InlineData(NoteKind.Question, true, 5, true, null)]
    [InlineData(NoteKind.Question, false, -1, false, "due-passed")]
    [InlineData(NoteKind.Question, false, 2000, false, "due-far")]
    [InlineData(NoteKind.Remark, false, null, true, null)]
    [InlineData(NoteKind.Remark, true, null, false, "remark-waits")]
    [InlineData(NoteKind.Remark, false, 3, false, "remark-waits")]
    public void WhatAKindOfNoteCannotHaveIsSaid(NoteKind kind, bool urgent, int? due, bool onPackage, string? code) => Assert.Equal(code, Of(urgent, due, onPackage).Fault(kind, Today)?.Code);

    [Fact]
    public void TagsAreKeptInOneWayAndWithinBounds()
    {
        Assert.Equal(["weld seams", "größe"], Of(tags: ["  Weld   Seams ", "", "weld seams", "GRÖSSE".Replace("SS", "ß", StringComparison.Ordinal)]).Tidied().Tags);
        Assert.Null(Of(tags: [.. Enumerable.Range(0, 8).Select(i => new string('x', 29) + i)]).Fault(NoteKind.Remark, Today));
        Assert.Equal("too-many-tags", Of(tags: [.. Enumerable.Range(0, 9).Select(i => $"t{i}")]).Fault(NoteKind.Remark, Today)?.Code);
        Assert.Equal("too-long", Of(tags: [new string('x', 31)]).Fault(NoteKind.Remark, Today)?.Code);
        Assert.Empty(new NoteTerms(false, null, default, false).Tidied().Tags);
    }

    [Theory]
    [InlineData(true, null, NoteStanding.Open, true)]
    [InlineData(true, null, NoteStanding.Closed, false)]
    [InlineData(false, 0, NoteStanding.Open, false)]
    [InlineData(false, -1, NoteStanding.Answered, true)]
    [InlineData(false, -1, NoteStanding.Withdrawn, false)]
    [InlineData(false, null, NoteStanding.Open, false)]
    public void WhatIsDueTodayIsNotLate(bool urgent, int? due, NoteStanding standing, bool presses) => Assert.Equal(presses, Of(urgent, due).Presses(standing, Today));

    [Fact]
    public void TheLedgerTellsThemInOneLine()
    {
        Assert.Null(NoteTerms.None.Written());
        Assert.Equal("urgent; due 2026-11-30; on the package; tags a | b c", Of(true, 3, true, "a", "b c").Written());
    }
}
