namespace Froe.Core.SignIn;

/// <summary>Wrong guesses at one thing: an account, an address, a browser known from before, a confirmation.</summary>
/// <param name="Wrong">How many in a row.</param>
/// <param name="Last">When the last one was made.</param>
public readonly record struct Guesses(int Wrong, DateTimeOffset Last);

/// <summary>How many guesses are free, and how long one waits after more.</summary>
/// <param name="Free">Wrong guesses without a wait.</param>
/// <param name="First">The wait after the first that is not free; each further one doubles it.</param>
/// <param name="Longest">It grows no longer than this; four times as long without a guess, and all are forgotten.</param>
public sealed record GuessLimit(int Free, TimeSpan First, TimeSpan Longest)
{
    /// <summary>For an account, from a browser it has not signed in with.</summary>
    public static GuessLimit Account(int free) => new(free, TimeSpan.FromSeconds(2), TimeSpan.FromMinutes(15));

    /// <summary>For an address: a whole office may stand behind one.</summary>
    public static GuessLimit Address(int free) => new(free * 12, TimeSpan.FromSeconds(1), TimeSpan.FromMinutes(5));

    /// <summary>For somebody at their own browser or in their own session: they mistype, and nobody else must wait for it.</summary>
    public static GuessLimit Own(int free) => new(free * 2, TimeSpan.FromSeconds(2), TimeSpan.FromMinutes(15));
}

/// <summary>
/// Guessing is slowed down, never forbidden: an account that locks is an account that anybody can lock. A guess is counted before it
/// is looked at, so that many at once are many.
/// </summary>
public static class Guessing
{
    /// <summary>How long until the next guess is looked at; zero when it is now.</summary>
    public static TimeSpan Wait(Guesses made, GuessLimit limit, DateTimeOffset now)
    {
        ArgumentNullException.ThrowIfNull(limit);
        var over = Remembered(made, limit, now) - limit.Free;
        if (over < 0) return TimeSpan.Zero;
        var wait = over > 30 ? limit.Longest : TimeSpan.FromTicks(Math.Min(limit.First.Ticks << over, limit.Longest.Ticks));
        return made.Last + wait is var until && until > now ? until - now : TimeSpan.Zero;
    }

    /// <summary>The count with one more.</summary>
    public static Guesses Another(Guesses made, GuessLimit limit, DateTimeOffset now) => new(Math.Min(Remembered(made, limit, now), 1_000_000) + 1, now);

    private static int Remembered(Guesses made, GuessLimit limit, DateTimeOffset now) => now - made.Last > limit.Longest * 4 ? 0 : made.Wrong;
}
