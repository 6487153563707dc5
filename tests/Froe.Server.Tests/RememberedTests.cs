using Xunit;

namespace Froe.Server.Tests;

public class RememberedTests
{
    [Fact]
    public void WhatIsForgottenWhileItIsReadIsNotKept()
    {
        var remembered = new Remembered<string, int>();
        var before = remembered.Before;
        remembered.Keep("a", 1, before);
        Assert.True(remembered.TryGet("a", out var kept));
        Assert.Equal(1, kept);
        // Begun before the change, and done after all was forgotten for it.
        remembered.Forget();
        Assert.False(remembered.TryGet("a", out _));
        remembered.Keep("a", 1, before);
        Assert.False(remembered.TryGet("a", out _));
        remembered.Keep("a", 2, remembered.Before);
        Assert.True(remembered.TryGet("a", out kept));
        Assert.Equal(2, kept);
    }

    /// <summary>The truth changes and all is forgotten for it, while others read and keep: whoever looks after that finds nothing older.</summary>
    [Fact]
    public async Task NothingOlderThanWhatWasForgottenForIsEverFoundAgain()
    {
        var remembered = new Remembered<int, int>();
        var (truth, isOver) = (0, false);
        var readers = Enumerable.Range(0, 4).Select(_ => Task.Run(() =>
        {
            while (!Volatile.Read(ref isOver))
            {
                var before = remembered.Before;
                var read = Volatile.Read(ref truth);
                if (read % 3 == 0) Thread.Yield();
                remembered.Keep(0, read, before);
            }
        })).ToArray();
        for (var n = 1; n <= 20_000; n++)
        {
            Volatile.Write(ref truth, n);
            remembered.Forget();
            for (var look = 0; look < 3; look++)
                if (remembered.TryGet(0, out var found)) Assert.Equal(n, found);
        }
        Volatile.Write(ref isOver, true);
        await Task.WhenAll(readers);
    }
}
