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
}
