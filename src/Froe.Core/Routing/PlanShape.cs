using System.Collections.Immutable;
using System.Text.Json;

namespace Froe.Core.Routing;

/// <summary>Where the steps of a plan stand to one another.</summary>
public static class PlanShape
{
    /// <summary>How two blocks of a plan stand to one another.</summary>
    public enum Order
    {
        Same,
        Before,
        After,

        /// <summary>In parallel branches, or in different ways of a choice.</summary>
        Beside,
    }

    /// <summary>Whether two plans say the same.</summary>
    public static bool Same(Plan a, Plan b) => JsonSerializer.Serialize(a) == JsonSerializer.Serialize(b);

    /// <summary>How a stands to b; both are keys of steps or choices.</summary>
    public static Order Between(Plan plan, string a, string b)
    {
        ArgumentNullException.ThrowIfNull(plan);
        if (a == b) return Order.Same;
        List<(Block Parent, int Index)> pa = PathTo(plan, a) ?? [], pb = PathTo(plan, b) ?? [];
        for (var i = 0; i < Math.Min(pa.Count, pb.Count); i++)
        {
            if (pa[i].Index == pb[i].Index) continue;
            if (pa[i].Parent is not Sequence) return Order.Beside;
            return pa[i].Index < pb[i].Index ? Order.Before : Order.After;
        }
        // One holds the other: a choice comes before what stands in its ways.
        return pa.Count < pb.Count ? Order.Before : Order.After;
    }

    /// <summary>Whether every package that reaches <paramref name="at"/> has gone through <paramref name="earlier"/> before.</summary>
    public static bool SurelyBefore(Plan plan, string earlier, string at)
    {
        if (Between(plan, earlier, at) != Order.Before) return false;
        var pe = PathTo(plan, earlier)!;
        var pa = PathTo(plan, at)!;
        // Where both still share the way it does not matter; beyond that the earlier one must not hang on a choice.
        var shared = 0;
        while (shared < Math.Min(pe.Count, pa.Count) && pe[shared].Index == pa[shared].Index) shared++;
        return !pe.Skip(shared).Any(p => p.Parent is Choice);
    }

    /// <summary>The way down to a step or choice: every block that holds it with the index taken; null when there is no such key.</summary>
    public static List<(Block Parent, int Index)>? PathTo(Plan plan, string key)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var path = new List<(Block, int)>();
        return Find(plan.Root) ? path : null;

        bool Find(Block block)
        {
            switch (block)
            {
                case Step step: return step.Key == key;
                case Choice choice when choice.Key == key: return true;
            }
            var children = Children(block);
            for (var i = 0; i < children.Length; i++)
            {
                path.Add((block, i));
                if (Find(children[i])) return true;
                path.RemoveAt(path.Count - 1);
            }
            return false;
        }
    }

    /// <summary>Whether some way through a block meets no step that somebody must sign: rules pass its steps, or a choice leads round them.</summary>
    public static bool MayPassUnsigned(Block block) => block switch
    {
        Step step => step.PassesWhen is not null,
        Choice choice => choice.Ways.Any(w => MayPassUnsigned(w.Blocks)),
        _ => Children(block).All(MayPassUnsigned),
    };

    /// <summary>The blocks a block holds.</summary>
    public static ImmutableArray<Block> Children(Block block) => block switch
    {
        Sequence s => s.Blocks,
        Parallel p => [.. p.Branches],
        Choice c => [.. c.Ways.Select(w => w.Blocks)],
        _ => [],
    };
}
