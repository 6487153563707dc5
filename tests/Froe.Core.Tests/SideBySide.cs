using Froe.Core.Routing;

namespace Froe.Core.Tests;

/// <summary>The engine and the naive model side by side.</summary>
internal static class SideBySide
{
    /// <summary>Runs random commands through both; gives how many there were.</summary>
    internal static int Compare((Plan Plan, int Mass, int Items, int[] Moves) run)
    {
        var send = RandomRouting.Sending(run);
        var decision = SlipRules.Decide(Slip.Blank, send, new SlipContext(RandomRouting.Groups, []));
        if (decision.IsRefused) return 1;
        var naive = new NaiveRouting();
        naive.Do(send, SlipContext.Empty);
        var slip = SlipRules.Replay(Slip.Blank, decision.Events);
        Same(naive, slip, "send");
        foreach (var move in run.Moves)
        {
            var (command, context) = RandomRouting.Move(slip, move);
            decision = SlipRules.Decide(slip, command, context);
            var agreed = naive.Do(command, context);
            if (agreed == decision.IsRefused) throw new InvalidOperationException($"{command}: the engine {(decision.IsRefused ? $"refuses ({decision.Refusal!.Code})" : "accepts")}, the model does not. Before: {NaiveRouting.Summary(slip)}");
            slip = SlipRules.Replay(slip, decision.Events);
            Same(naive, slip, command.ToString());
        }
        return run.Moves.Length + 1;
    }

    private static void Same(NaiveRouting naive, Slip slip, string after)
    {
        if (naive.Summary() != NaiveRouting.Summary(slip)) throw new InvalidOperationException($"After {after}\nengine: {NaiveRouting.Summary(slip)}\nmodel:  {naive.Summary()}");
    }
}
