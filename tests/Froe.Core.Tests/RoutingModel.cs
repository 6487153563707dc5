using CsCheck;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>The engine beside its naive model; `./froe bench model N` runs as many commands as asked for.</summary>
public class RoutingModel
{
    /// <summary>At least 100,000 commands, of which none may be decided or end differently.</summary>
    [Fact]
    public void TheEngineAgreesWithTheNaiveModel()
    {
        var commands = 0L;
        while (Interlocked.Read(ref commands) < 100_000) RandomRouting.GenRun.Sample(run => Interlocked.Add(ref commands, SideBySide.Compare(run)), iter: 2000);
    }
}
