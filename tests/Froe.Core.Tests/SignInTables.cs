using Froe.Core.SignIn;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Guesses and passwords, by hand.</summary>
public class SignInTables
{
    private static readonly DateTimeOffset Noon = new(2026, 11, 25, 12, 0, 0, TimeSpan.Zero);

    /// <summary>Wrong guesses so far, seconds since the last, and seconds still to wait: five are free, then 2, 4, 8 … up to a quarter of an hour.</summary>
    [Theory]
    [InlineData(0, 0, 0)]
    [InlineData(4, 0, 0)]
    [InlineData(5, 0, 2)]
    [InlineData(5, 1, 1)]
    [InlineData(5, 2, 0)]
    [InlineData(6, 0, 4)]
    [InlineData(8, 3, 13)]
    [InlineData(13, 0, 512)]
    [InlineData(14, 0, 900)]
    [InlineData(40, 60, 840)]
    [InlineData(int.MaxValue, 0, 900)]
    [InlineData(14, 3601, 0)]
    public void AGuessWaits(int wrong, int ago, int wait) =>
        Assert.Equal(TimeSpan.FromSeconds(wait), Guessing.Wait(new Guesses(wrong, Noon.AddSeconds(-ago)), GuessLimit.Account(5), Noon));

    [Fact]
    public void WhoeverWaitsLongEnoughBeginsAnew()
    {
        var limit = GuessLimit.Account(5);
        Assert.Equal(new Guesses(8, Noon), Guessing.Another(new Guesses(7, Noon.AddMinutes(-59)), limit, Noon));
        Assert.Equal(new Guesses(1, Noon), Guessing.Another(new Guesses(7, Noon.AddMinutes(-61)), limit, Noon));
    }

    /// <summary>However guesses come, those looked at within an hour are few: what an attacker gains by patience is bounded.</summary>
    [Fact]
    public void AnHourOfGuessingLooksAtFew()
    {
        var limit = GuessLimit.Account(5);
        var (made, looked) = (new Guesses(0, Noon), 0);
        for (var at = Noon; at < Noon.AddHours(1); at = at.AddSeconds(1))
            if (Guessing.Wait(made, limit, at) == TimeSpan.Zero) (made, looked) = (Guessing.Another(made, limit, at), looked + 1);
        Assert.InRange(looked, 10, 20);
    }

    [Theory]
    [InlineData("correct otter battery", "odalys", null)]
    [InlineData("tallowmere refit", "koa", null)]
    [InlineData("Grünkohl mit Pinkel", "x", null)]
    [InlineData("爱因斯坦相对论与量子力学之争", "x", null)]
    [InlineData("elevenchars", "x", "short-password")]
    [InlineData("password12345", "x", "common-password")]
    [InlineData("P@ssw0rd!2026", "x", "common-password")]
    [InlineData("passwordpassword", "x", "common-password")]
    [InlineData("Welcome2Password", "x", "common-password")]
    [InlineData("aaaaaaaaaaaaa", "x", "common-password")]
    [InlineData("abcabcabcabcabc", "x", "common-password")]
    [InlineData("qwertyuiopasdf", "x", "common-password")]
    [InlineData("123456789012", "x", "common-password")]
    [InlineData("1qaz2wsx3edc4rfv", "x", "common-password")]
    [InlineData("iloveyou-1234567", "x", "common-password")]
    [InlineData("odalysbrandvold", "odalysbrandvold", "password-of-login")]
    [InlineData("odalys-odalys1", "odalys", "password-of-login")]
    public void APasswordIsTakenOrRefused(string password, string login, string? code) => Assert.Equal(code, PasswordRules.Fault(password, login)?.Code);

    [Fact]
    public void AVeryLongPasswordIsRefusedAndNotCutOff() => Assert.Equal("long-password", PasswordRules.Fault(new string('x', 129), "x")?.Code);
}
