using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Froe.Core.Routing;

/// <summary>The reusable pattern of steps a package follows: a series-parallel tree, so that it cannot deadlock by shape.</summary>
/// <param name="Name">What people call the plan.</param>
/// <param name="Purpose">One sentence saying when to choose it.</param>
/// <param name="Root">The blocks in order; release follows the last of them.</param>
public sealed record Plan(string Name, string Purpose, Sequence Root)
{
    /// <summary>What the sender fills in; shown to everyone who signs.</summary>
    public ImmutableArray<FormField> Form { get; init; } = [];

    /// <summary>What happens on release besides locking and superseding, in order.</summary>
    public ImmutableArray<ClosingAction> Closing { get; init; } = [];

    /// <summary>Which packages the plan is for; null when it is for all.</summary>
    public Rule? Fits { get; init; }

    /// <summary>Items approved go on while returned ones go back as a package of their own; otherwise the package stays together.</summary>
    public bool ItemByItem { get; init; }

    /// <summary>Whoever has signed may request a change still: it takes their signature back and opens their seat again, whatever was signed after it.</summary>
    public bool SignersReopen { get; init; }

    /// <summary>How long the originator has while the package is back with them, or waits for their answers; null when the plan says nothing of it.</summary>
    public Answering? Answering { get; init; }

    /// <summary>What was approved as noted holds the release until the originator has answered each note; otherwise it is released with the note.</summary>
    public bool HoldsNoted { get; init; }

    /// <summary>Why packages of this plan may be released though nobody signs them, in so many words; empty when somebody must.</summary>
    public string NeedsNoSignature { get; init; } = "";

    /// <summary>Whether supporting files may be signed for by somebody who has not had them open. Drawings and models never may.</summary>
    public bool SupportingUnopened { get; init; }

    /// <summary>Every step of the plan, in reading order (left to right, top to bottom).</summary>
    public IEnumerable<Step> Steps() => Blocks().OfType<Step>();

    /// <summary>Every choice of the plan, in reading order.</summary>
    public IEnumerable<Choice> Choices() => Blocks().OfType<Choice>();

    /// <summary>Every seat of the plan with the step it stands in, in reading order.</summary>
    public IEnumerable<(Step Step, Seat Seat)> Seats() =>
        from step in Steps() from seat in step.Seats select (step, seat);

    /// <summary>Every block, each before what it holds.</summary>
    public IEnumerable<Block> Blocks() => Within(Root);

    /// <summary>The same plan with each step replaced.</summary>
    public Plan WithSteps(Func<Step, Step> map)
    {
        ArgumentNullException.ThrowIfNull(map);
        return this with { Root = (Sequence)Map(Root) };

        Block Map(Block block) => block switch
        {
            Step s => map(s),
            Sequence s => new Sequence([.. s.Blocks.Select(Map)]),
            Parallel p => new Parallel([.. p.Branches.Select(b => (Sequence)Map(b))]),
            Choice c => c with { Ways = [.. c.Ways.Select(w => w with { Blocks = (Sequence)Map(w.Blocks) })] },
            _ => block,
        };
    }

    private static IEnumerable<Block> Within(Block block) => block switch
    {
        Sequence sequence => sequence.Blocks.SelectMany(Within).Prepend(block),
        Parallel parallel => parallel.Branches.SelectMany(Within).Prepend(block),
        Choice choice => choice.Ways.SelectMany(w => Within(w.Blocks)).Prepend(block),
        _ => [block],
    };
}

/// <summary>A part of a plan: a step, blocks one after another, branches side by side, or ways to choose from.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "block")]
[JsonDerivedType(typeof(Step), "step")]
[JsonDerivedType(typeof(Sequence), "sequence")]
[JsonDerivedType(typeof(Parallel), "parallel")]
[JsonDerivedType(typeof(Choice), "choice")]
public abstract record Block;

/// <summary>Blocks that follow one another; the next opens when the one before has passed.</summary>
public sealed record Sequence(ImmutableArray<Block> Blocks) : Block;

/// <summary>Branches that run side by side; the block has passed when all of them have.</summary>
public sealed record Parallel(ImmutableArray<Sequence> Branches) : Block;

/// <summary>
/// Sends the package down one of several ways: the first whose rule holds when the choice is reached, or the one a
/// signer of an earlier step picked. The last way is the otherwise-way; it has no rule and may be empty.
/// </summary>
/// <param name="Key">Unique within the plan.</param>
/// <param name="Name">The question it answers.</param>
/// <param name="Ways">At least two; the last without a rule.</param>
public sealed record Choice(string Key, string Name, ImmutableArray<Way> Ways) : Block
{
    /// <summary>Key of the earlier step whose signer picks the way; null when rules decide.</summary>
    public string? PickedAt { get; init; }

    /// <summary>The way taken when no rule holds and nobody picked.</summary>
    [JsonIgnore]
    public Way Otherwise => Ways[^1];
}

/// <summary>One way of a choice.</summary>
/// <param name="Key">Unique within the plan.</param>
/// <param name="Name">What stands on its cell.</param>
/// <param name="Rule">When it is taken; null for the otherwise-way and where a person picks.</param>
/// <param name="Blocks">What follows; may be empty.</param>
public sealed record Way(string Key, string Name, Rule? Rule, Sequence Blocks);

/// <summary>The originator's time to answer, in the working time of whoever that is.</summary>
/// <param name="WorkingDays">Greater than 0.</param>
public sealed record Answering(decimal WorkingDays)
{
    /// <summary>Whole working days before the due time on which the originator is reminded.</summary>
    public ImmutableArray<int> Reminders { get; init; } = [];

    /// <summary>Who is told when it is late, and how long after; only <see cref="Moment.Late"/> counts.</summary>
    public ImmutableArray<Telling> Tells { get; init; } = [];
}

/// <summary>What happens to signatures given in a round when the package comes back for the next.</summary>
public enum SignAgain
{
    /// <summary>Everyone signs again.</summary>
    All,

    /// <summary>Who returned the package signs again, and whoever comes after; the others' signatures stand for the drafts they name.</summary>
    ReturnedAndAfter,

    /// <summary>Everyone signs again, for the items that changed; their verdicts on untouched items stand.</summary>
    ChangedItems,
}

/// <summary>One stop on the slip.</summary>
/// <param name="Key">Unique within the plan; what the ledger names.</param>
/// <param name="Name">What people call the step.</param>
/// <param name="Instruction">What the step asks of its signers; plain text with **bold**, - lists and [links](address).</param>
/// <param name="WorkingDays">Working time allowed from opening, in working days; greater than 0.</param>
/// <param name="Seats">Signature places; all of them must be signed.</param>
public sealed record Step(string Key, string Name, string Instruction, decimal WorkingDays, ImmutableArray<Seat> Seats) : Block
{
    /// <summary>What a signer must or may answer.</summary>
    public ImmutableArray<Checkpoint> Checkpoints { get; init; } = [];

    /// <summary>Passes by itself, unsigned, when this holds as the step is reached.</summary>
    public Rule? PassesWhen { get; init; }

    /// <summary>Key of the earlier step a return goes to; null for the originator.</summary>
    public string? ReturnsTo { get; init; }

    /// <summary>Which signatures are asked for again after a return from this step.</summary>
    public SignAgain SignAgain { get; init; }

    /// <summary>The originator may not sign here.</summary>
    public bool BarsOriginator { get; init; }

    /// <summary>One person may not sign in two seats of this step.</summary>
    public bool OneSeatEach { get; init; }

    /// <summary>
    /// How much of each item's sheets whoever approves here must have seen at a legible size (<see cref="Draft.Seeing"/>), in hundredths;
    /// 0 when the plan does not ask. What was seen is then recorded with the signature.
    /// </summary>
    public int SeenShare { get; init; }

    /// <summary>What a signer draws here, and no note speaks of, is seen by nobody else until they have signed: nobody looks with another's eyes.</summary>
    public bool MarksApart { get; init; }

    /// <summary>Whole working days before the due time on which signers are reminded.</summary>
    public ImmutableArray<int> Reminders { get; init; } = [];

    /// <summary>Who is told what happens here.</summary>
    public ImmutableArray<Telling> Tells { get; init; } = [];
}

/// <summary>What a signer is asked to answer.</summary>
/// <param name="Key">Unique within the step.</param>
/// <param name="Text">The question.</param>
/// <param name="Kind">What answers it.</param>
/// <param name="Unit">Of a number; empty otherwise.</param>
/// <param name="Must">Whether nobody may sign without it.</param>
public sealed record Checkpoint(string Key, string Text, CheckpointKind Kind, string Unit, bool Must);

/// <summary>What answers a checkpoint.</summary>
public enum CheckpointKind
{
    YesNo,
    Number,
    Text,
}

/// <summary>When people are told.</summary>
public enum Moment
{
    Arrival,
    Passage,
    Return,
    Late,
}

/// <summary>Who is told at a moment of a step.</summary>
/// <param name="At">The moment.</param>
/// <param name="People">Persons by name.</param>
/// <param name="Groups">Groups.</param>
/// <param name="Originator">Whether the originator is told.</param>
public sealed record Telling(Moment At, ImmutableArray<Guid> People, ImmutableArray<Guid> Groups, bool Originator)
{
    /// <summary>Whether whoever uploaded the newest drafts is told.</summary>
    public bool LastEditor { get; init; }

    /// <summary>Whether the sender is asked whom to tell besides.</summary>
    public bool AsksSender { get; init; }

    /// <summary>For <see cref="Moment.Late"/>: working days after the due time; 0 for as soon as it is late.</summary>
    public int AfterDays { get; init; }
}

/// <summary>A signature place in a step.</summary>
/// <param name="Key">Unique within the plan.</param>
/// <param name="Role">The role it is for, as the strip prints it.</param>
/// <param name="Holder">Who may fill it.</param>
public sealed record Seat(string Key, string Role, Holder Holder)
{
    /// <summary>After a return in this seat its other signatures are still waited for; otherwise a return ends the seat at once.</summary>
    public bool WaitsForRest { get; init; }
}

/// <summary>Who may sign in a seat.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "holder")]
[JsonDerivedType(typeof(PersonHolder), "person")]
[JsonDerivedType(typeof(GroupHolder), "group")]
[JsonDerivedType(typeof(OriginatorHolder), "originator")]
[JsonDerivedType(typeof(OwnersHolder), "owners")]
[JsonDerivedType(typeof(SignerOfHolder), "signerOf")]
[JsonDerivedType(typeof(ChosenHolder), "chosen")]
public abstract record Holder;

/// <summary>One named person.</summary>
public sealed record PersonHolder(Guid Person) : Holder;

/// <summary>Any <paramref name="Needed"/> members of a group; 0 for all of them.</summary>
public sealed record GroupHolder(Guid Group, int Needed) : Holder;

/// <summary>Whoever sent the package.</summary>
public sealed record OriginatorHolder : Holder;

/// <summary>The originators of the documents in the package, all of them.</summary>
public sealed record OwnersHolder : Holder;

/// <summary>Whoever signed an earlier step, all of them.</summary>
public sealed record SignerOfHolder(string Step) : Holder;

/// <summary>Someone the sender chooses from a group.</summary>
public sealed record ChosenHolder(Guid Group) : Holder;

/// <summary>A field of the intake form.</summary>
/// <param name="Key">Unique within the form; what rules name.</param>
/// <param name="Label">What people read.</param>
/// <param name="Kind">What is filled in.</param>
/// <param name="Unit">Of a number; empty otherwise.</param>
/// <param name="Help">A sentence of help; may be empty.</param>
/// <param name="Must">Whether the package cannot be sent without it.</param>
/// <param name="Options">What a choice chooses from.</param>
public sealed record FormField(string Key, string Label, FieldKind Kind, string Unit, string Help, bool Must, ImmutableArray<string> Options);

/// <summary>What a field of the intake form holds.</summary>
public enum FieldKind
{
    Text,
    LongText,
    Number,
    Date,
    Choice,
    YesNo,
    Person,
    Document,
}

/// <summary>Something that happens on release, after the revisions are locked and the earlier ones superseded.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "action")]
[JsonDerivedType(typeof(InformGroup), "informGroup")]
[JsonDerivedType(typeof(FileUnder), "fileUnder")]
[JsonDerivedType(typeof(FileWherePicked), "fileWherePicked")]
[JsonDerivedType(typeof(OpenFollowUp), "openFollowUp")]
public abstract record ClosingAction;

/// <summary>Tells the members of a group.</summary>
public sealed record InformGroup(Guid Group) : ClosingAction;

/// <summary>Files the documents at a place in the register's folder tree, names separated by " / ".</summary>
public sealed record FileUnder(string Folder) : ClosingAction
{
    /// <summary>The documents stay where they are and are found here as well; otherwise they move.</summary>
    public bool Copy { get; init; }
}

/// <summary>Files the documents where a signer of a step picked, among the folders they may file into.</summary>
/// <param name="Step">Key of the step.</param>
public sealed record FileWherePicked(string Step) : ClosingAction
{
    /// <summary>The documents stay where they are and are found there as well; otherwise they move.</summary>
    public bool Copy { get; init; }
}

/// <summary>Prepares a package for the originator to send, along a plan, with the same note and form.</summary>
/// <param name="Plan">The plan proposed.</param>
/// <param name="Title">The title proposed.</param>
public sealed record OpenFollowUp(Guid Plan, string Title) : ClosingAction;
