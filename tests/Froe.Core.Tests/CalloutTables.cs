using CsCheck;
using Froe.Core.Register;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Numbers of documents in what is written on a leaf.</summary>
public class CalloutTables
{
    private static readonly HashSet<string> Register = ["TO-1107", "TO-1107-2", "TO-11", "TO 2201", "A/12.3", "4711", "PD_100_A", "QX"];

    [Theory]
    [InlineData("see TO-1107", "TO-1107@4")]
    [InlineData("(TO-1107)", "TO-1107@1")]
    [InlineData("TO-1107, TO-11", "TO-1107@0 TO-11@9")]
    // The longer number of two that begin at one place.
    [InlineData("TO-1107-2", "TO-1107-2@0")]
    // A sheet or a revision that follows.
    [InlineData("TO-1107-3", "TO-1107@0")]
    [InlineData("TO-1107/B", "TO-1107@0")]
    [InlineData("TO-1107.", "TO-1107@0")]
    [InlineData("TO–1107", "TO-1107@0")]
    [InlineData("to TO 2201 as", "TO 2201@3")]
    [InlineData("TO\u00a02201", "TO 2201@0")]
    [InlineData("detail A/12.3: 4711", "A/12.3@7 4711@15")]
    [InlineData("PD_100_A", "PD_100_A@0")]
    // Stands apart from what is before and behind it.
    [InlineData("XTO-1107", "")]
    [InlineData("TO-11071", "")]
    [InlineData("47110", "")]
    [InlineData("1.4711", "")]
    // A number has a digit.
    [InlineData("QX", "")]
    [InlineData("TO  2201", "")]
    [InlineData("", "")]
    [InlineData("---", "")]
    public void NumbersOfTheRegisterAreFoundInALine(string line, string found) =>
        Assert.Equal(found, string.Join(' ', Callouts.Among(line, Register).Select(c => $"{c.Number}@{c.From}")));

    [Fact]
    public void WhatIsFoundStandsThereAndNothingLiesOverAnother() => Gen.Char["TO-1107. /2A\u2013"].Array[0, 40].Sample(letters =>
    {
        var line = new string(letters);
        var end = 0;
        foreach (var c in Callouts.Among(line, Register))
        {
            Assert.True(c.From >= end);
            end = c.End;
            Assert.Equal(c.Number, line[c.From..c.End].Replace('\u2013', '-'));
        }
        Assert.All(Callouts.In(line), c => Assert.InRange(c.Number.Length, 3, 40));
    });
}
