using CsCheck;
using Froe.Core.Tests;

namespace Froe.Bench;

/// <summary>The engine and its naive model over as many random commands as asked for; a difference ends the run with the plan and the command.</summary>
internal static class ModelBench
{
    public static Task Run(long wanted)
    {
        var (commands, watch) = (0L, System.Diagnostics.Stopwatch.StartNew());
        while (Interlocked.Read(ref commands) < wanted) RandomRouting.GenRun.Sample(run => Interlocked.Add(ref commands, SideBySide.Compare(run)), iter: 2000);
        Figure.Print($"engine beside its naive model, {commands:N0} commands without a difference", commands / watch.Elapsed.TotalSeconds, 1000, "/s", commands / watch.Elapsed.TotalSeconds / 1000, null);
        return Task.CompletedTask;
    }
}
