using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Froe.Core.Routing;

/// <summary>The reusable pattern of steps a package follows: a series-parallel tree, so that it cannot deadlock by shape.</summary>
/// <param name="Name">What people call the plan.</param>
/// <param name="Purpose">One sentence saying when to choose it.</param>
/// <param name="Root">The blocks in order; release follows the last of them.</param>
public sealed record Plan(string Name, string Purpose, Sequence Root)
{
    /// <summary>Every step of the plan, in reading order (left to right, top to bottom).</summary>
    public IEnumerable<Step> Steps() => StepsOf(Root);

    /// <summary>Every seat of the plan with the step it stands in, in reading order.</summary>
    public IEnumerable<(Step Step, Seat Seat)> Seats() =>
        from step in Steps() from seat in step.Seats select (step, seat);

    private static IEnumerable<Step> StepsOf(Block block) => block switch
    {
        Step step => [step],
        Sequence sequence => sequence.Blocks.SelectMany(StepsOf),
        Parallel parallel => parallel.Branches.SelectMany(StepsOf),
        _ => throw new NotSupportedException($"A block of kind {block.GetType().Name} is not known."),
    };
}

/// <summary>A part of a plan: a step, blocks one after another, or branches side by side.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "block")]
[JsonDerivedType(typeof(Step), "step")]
[JsonDerivedType(typeof(Sequence), "sequence")]
[JsonDerivedType(typeof(Parallel), "parallel")]
public abstract record Block;

/// <summary>Blocks that follow one another; the next opens when the one before has passed.</summary>
public sealed record Sequence(ImmutableArray<Block> Blocks) : Block;

/// <summary>Branches that run side by side; the block has passed when all of them have.</summary>
public sealed record Parallel(ImmutableArray<Sequence> Branches) : Block;

/// <summary>One stop on the slip.</summary>
/// <param name="Key">Unique within the plan; what the ledger names.</param>
/// <param name="Name">What people call the step.</param>
/// <param name="Instruction">What the step asks of its signers, plain text.</param>
/// <param name="WorkingDays">Working time allowed from opening, in working days; greater than 0.</param>
/// <param name="Seats">Signature places; all of them must be signed.</param>
public sealed record Step(string Key, string Name, string Instruction, decimal WorkingDays, ImmutableArray<Seat> Seats) : Block;

/// <summary>A signature place in a step.</summary>
/// <param name="Key">Unique within the plan.</param>
/// <param name="Role">The role it is for, as the strip prints it.</param>
/// <param name="Holder">Who may fill it.</param>
public sealed record Seat(string Key, string Role, Holder Holder);

/// <summary>Who may sign in a seat.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "holder")]
[JsonDerivedType(typeof(PersonHolder), "person")]
[JsonDerivedType(typeof(GroupHolder), "group")]
[JsonDerivedType(typeof(OriginatorHolder), "originator")]
public abstract record Holder;

/// <summary>One named person.</summary>
public sealed record PersonHolder(Guid Person) : Holder;

/// <summary>Any <paramref name="Needed"/> members of a group.</summary>
public sealed record GroupHolder(Guid Group, int Needed) : Holder;

/// <summary>Whoever sent the package.</summary>
public sealed record OriginatorHolder : Holder;
