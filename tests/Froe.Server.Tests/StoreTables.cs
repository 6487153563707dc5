using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The store's pure parts, worked by hand.</summary>
public class StoreTables
{
    [Fact]
    public void ConditionsNumberTheirValuesInTheOrderTheyCame()
    {
        var asked = new Conditions();
        Assert.Equal("true", asked.ToString());
        asked.Add("a = @1 OR b = @2 OR c = @1", 1, "two");
        asked.AddWords(" gear  50%_x\\ gear ", "t ILIKE @1 OR n ILIKE @1");
        asked.Add("d = ANY (@1)", [new[] { 3, 4 }]);
        asked.Add("no value");
        Assert.Equal("(a = $1 OR b = $2 OR c = $1) AND (t ILIKE $3 OR n ILIKE $3) AND (t ILIKE $4 OR n ILIKE $4) AND (d = ANY ($5)) AND (no value)", asked.ToString());
        Assert.Equal([1, "two", "%gear%", "%50\\%\\_x\\\\%", new[] { 3, 4 }], asked.Values);
    }

    [Fact]
    public void TheTenthValueIsNotTheFirstWithANoughtBehindIt()
    {
        var asked = new Conditions();
        asked.Add("k = @1", "before");
        asked.Add(string.Join(" OR ", Enumerable.Range(1, 12).Select(i => $"c{i} = @{i}")), [.. Enumerable.Range(1, 12).Cast<object?>()]);
        Assert.Equal("(k = $1) AND (" + string.Join(" OR ", Enumerable.Range(1, 12).Select(i => $"c{i} = ${i + 1}")) + ")", asked.ToString());
        Assert.Equal(13, asked.Values.Length);
    }

    [Theory]
    [InlineData(null, 0)]
    [InlineData("", 0)]
    [InlineData(" \t\n ", 0)]
    [InlineData("one", 1)]
    [InlineData("a b c d e f g h i j k l m n o p", 12)]
    public void OnlySoManyWordsAreLookedFor(string? typed, int words) => Assert.Equal(words, Conditions.Patterns(typed).Length);

    [Fact]
    public async Task WorkThatFailsIsTriedAgainAndStopsWhenItIsToldTo()
    {
        using var stop = new CancellationTokenSource();
        var (runs, log) = (0, new List<string>());
        await Steadily.RepeatAsync(
            "Counting",
            _ =>
            {
                if (++runs == 3) stop.Cancel();
                if (runs == 2) throw new FormatException("not a number");
                stop.Token.ThrowIfCancellationRequested();
                return Task.CompletedTask;
            },
            TimeSpan.FromMilliseconds(1), new Kept(log), stop.Token);
        Assert.Equal(3, runs);
        Assert.Equal(["Counting failed and is tried again: not a number"], log);
    }

    private sealed class Kept(List<string> lines) : Microsoft.Extensions.Logging.ILogger
    {
        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(Microsoft.Extensions.Logging.LogLevel level) => true;

        public void Log<TState>(Microsoft.Extensions.Logging.LogLevel level, Microsoft.Extensions.Logging.EventId id, TState state, Exception? e, Func<TState, Exception?, string> words) =>
            lines.Add($"{words(state, e)}: {e?.Message}");
    }
}
