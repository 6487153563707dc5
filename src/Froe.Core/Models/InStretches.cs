using System.Runtime.ExceptionServices;

namespace Froe.Core.Models;

/// <summary>Work on long tables by all processors, a stretch for each; short ones are done at once, for waking others takes longer than they do.</summary>
internal static class InStretches
{
    /// <summary>More processors than this wait for memory, not for one another.</summary>
    private const int MostStretches = 8;

    /// <summary>Fewer entries than this are one stretch.</summary>
    private const int Worthwhile = 20_000;

    /// <summary>How many stretches a table of so many entries is worth.</summary>
    public static int Of(int length) => length < Worthwhile ? 1 : Math.Min(Environment.ProcessorCount, MostStretches);

    /// <param name="length">How many entries there are.</param>
    /// <param name="work">Does those from the first number up to, and without, the second; stretches touch nothing of one another.</param>
    public static void Do(int length, Action<int, int> work)
    {
        var stretches = Of(length);
        Shared(stretches, s => work((int)((long)length * s / stretches), (int)((long)length * (s + 1) / stretches)));
    }

    /// <summary>Each share of some work at once.</summary>
    /// <param name="shares">How many.</param>
    /// <param name="work">Does the one of that number. What it throws is thrown as it is.</param>
    public static void Shared(int shares, Action<int> work)
    {
        if (shares == 1)
        {
            work(0);
            return;
        }
        try
        {
            Parallel.For(0, shares, work);
        }
        catch (AggregateException e)
        {
            ExceptionDispatchInfo.Throw(e.InnerExceptions[0]);
        }
    }
}
