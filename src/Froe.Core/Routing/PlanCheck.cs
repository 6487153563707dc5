using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>Something wrong or doubtful in a plan.</summary>
/// <param name="Code">Stable, for programs.</param>
/// <param name="Stops">Whether the plan cannot be used like this.</param>
/// <param name="Cell">Key of the step, seat, choice or way it is about; empty for the whole plan.</param>
/// <param name="Says">What is wrong, for a person.</param>
/// <param name="Remedy">What to do about it.</param>
public sealed record Finding(string Code, bool Stops, string Cell, string Says, string Remedy);

/// <summary>
/// Proves of a plan, before anybody waits for it: every seat can be filled, every choice is complete and none of its rules is
/// shadowed, every return goes back, separation of duties can be kept. By its shape a plan has no loop: only a person's return leads back.
/// </summary>
public static partial class PlanCheck
{
    /// <summary>Everything found, what stops the plan first.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="groups">Members of every group.</param>
    /// <param name="folders">Paths of all folders; null when it does not matter which there are.</param>
    public static ImmutableArray<Finding> Check(Plan plan, IReadOnlyDictionary<Guid, ImmutableArray<Guid>> groups, IReadOnlySet<string>? folders = null)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(groups);
        var found = new List<Finding>();
        Keys(plan, found);
        if (found.Count == 0)
        {
            Shape(plan, found);
            foreach (var step in plan.Steps()) StepFindings(plan, step, groups, found);
            foreach (var choice in plan.Choices()) ChoiceFindings(plan, choice, found);
            FormFindings(plan, found);
            SignatureFindings(plan, found);
            if (plan.Fits is { } fits) RuleFindings(plan, "", "the plan", fits, found);
            foreach (var step in plan.Steps().Where(s => plan.ItemByItem && s.ReturnsTo is not null))
                found.Add(new("item-by-item-return", true, step.Key, $"A return from “{step.Name}” would go to an earlier step, but item by item returned items go to the originator.", "Let it return to the originator, or keep the package together."));
            if (plan.Answering is { WorkingDays: <= 0 }) found.Add(new("answering-without-time", true, "", "The plan allows the originator no working time to answer.", "Allow at least a part of a day, or leave it open."));
            foreach (var action in plan.Closing)
                if (action is FileUnder file && string.IsNullOrWhiteSpace(file.Folder)) found.Add(new("closing-incomplete", true, "closing", "The plan files under a place that is not named.", "Choose a folder, or remove the action."));
                else if (action is FileUnder { Folder: var place } && folders?.Contains(Register.Folders.Normal(place)) == false)
                    found.Add(new("closing-folder-missing", true, "closing", $"The plan files under “{place}”, which is not in the register.", "Choose a folder that is there, or have it made first."));
                else if (action is FileWherePicked { Step: var at } && plan.Steps().All(s => s.Key != at))
                    found.Add(new("closing-incomplete", true, "closing", "The plan files where a signer picks, and says not of which step.", "Choose the step, or remove the action."));
                else if (action is FileWherePicked { Step: var asked } && PlanShape.PathTo(plan, asked)!.Any(p => p.Parent is Choice))
                    found.Add(new("closing-maybe-unpicked", false, "closing", "The plan files where a signer of a step picks, and some packages do not come to that step: they stay where they are.", "Choose a step that every package comes to."));
                else if (action is InformGroup { Group: var group } && (!groups.TryGetValue(group, out var members) || members.IsEmpty)) found.Add(new("closing-incomplete", false, "closing", "The plan informs a group without members.", "Choose another group, or add people to it."));
                else if (action is OpenFollowUp { Plan: var next } && next == Guid.Empty) found.Add(new("closing-incomplete", true, "closing", "The plan prepares a next package along a plan that is not chosen.", "Choose the plan, or remove the action."));
        }
        return [.. found.OrderBy(f => !f.Stops)];
    }

    private static void Keys(Plan plan, List<Finding> found)
    {
        Twice(plan.Steps().Select(s => s.Key).Concat(plan.Choices().Select(c => c.Key)), "step-key-twice", "Two cells of the plan have the same key.");
        Twice(plan.Seats().Select(s => s.Seat.Key), "seat-key-twice", "Two seats of the plan have the same key.");
        Twice(plan.Form.Select(f => f.Key), "field-key-twice", "Two fields of the form have the same key.");

        void Twice(IEnumerable<string> keys, string code, string says)
        {
            foreach (var key in keys.GroupBy(k => k).Where(g => g.Count() > 1).Select(g => g.Key)) found.Add(new(code, true, key, says, "Rename one of them."));
        }
    }

    private static void Shape(Plan plan, List<Finding> found)
    {
        if (!plan.Steps().Any()) found.Add(new("plan-empty", true, "", "The plan has no step. Add one before sending.", "Add a step."));
        foreach (var parallel in plan.Blocks().OfType<Parallel>())
            if (parallel.Branches.Length == 0 || parallel.Branches.Any(b => !StepsIn(b).Any()))
                found.Add(new("branch-empty", true, StepsIn(parallel).FirstOrDefault()?.Key ?? "", "A branch of the plan has no step. Add one or remove the branch.", "Remove the branch."));
    }

    /// <summary>Nothing is released without a signature, unless the plan says so in so many words.</summary>
    private static void SignatureFindings(Plan plan, List<Finding> found)
    {
        if (plan.Steps().Any() && PlanShape.MayPassUnsigned(plan.Root) && string.IsNullOrWhiteSpace(plan.NeedsNoSignature))
            found.Add(new("no-signature", true, "", "Some way through this plan meets no step that somebody signs: a package could be released without a signature.", "Add a step without a rule that passes it on every way; or say in the plan that it needs no signature, and why."));
    }

    private static IEnumerable<Step> StepsIn(Block block) => block is Step step ? [step] : PlanShape.Children(block).SelectMany(StepsIn);

    private static void StepFindings(Plan plan, Step step, IReadOnlyDictionary<Guid, ImmutableArray<Guid>> groups, List<Finding> found)
    {
        if (string.IsNullOrWhiteSpace(step.Name)) found.Add(new("step-without-name", true, step.Key, "A step has no name.", "Name it."));
        if (step.Seats.Length == 0) found.Add(new("step-without-seat", true, step.Key, $"Step “{step.Name}” has no seat, so nobody could sign it.", "Add a seat."));
        if (step.WorkingDays <= 0) found.Add(new("step-without-time", true, step.Key, $"Step “{step.Name}” allows no working time.", "Allow at least a part of a day."));
        if (step.SeenShare is < 0 or > 100) found.Add(new("seen-share-wrong", true, step.Key, $"Step “{step.Name}” asks that {step.SeenShare} % of each item was seen.", "Ask for 1 to 100 %, or for nothing."));
        if (step.ReturnsTo is { } to && (plan.Steps().All(s => s.Key != to) || !PlanShape.SurelyBefore(plan, to, step.Key)))
            found.Add(new("return-not-back", true, step.Key, $"A return from “{step.Name}” would go to a step that does not surely come before it.", "Let it return to the originator, or to an earlier step."));
        if (step.PassesWhen is { } rule)
        {
            RuleFindings(plan, step.Key, $"step “{step.Name}”", rule, found);
            if (plan.Steps().Any(s => s.ReturnsTo == step.Key))
                found.Add(new("return-to-automatic", false, step.Key, $"Returns go to “{step.Name}”, which may pass by itself without anybody looking.", "Let them return to another step."));
        }
        var originatorFits = true;
        var filled = ImmutableArray.CreateBuilder<FilledSeat>();
        foreach (var seat in step.Seats)
        {
            if (string.IsNullOrWhiteSpace(seat.Role)) found.Add(new("seat-without-role", true, seat.Key, $"A seat of “{step.Name}” says for which role it is not.", "Name its role."));
            var (people, needed) = seat.Holder switch
            {
                PersonHolder p => (ImmutableArray.Create(p.Person), 1),
                GroupHolder g => (Members(g.Group), g.Needed),
                ChosenHolder g => (Members(g.Group), 1),
                _ => ([], 0),
            };
            switch (seat.Holder)
            {
                case PersonHolder { Person: var person } when person == Guid.Empty:
                    found.Add(new("seat-unfillable", true, seat.Key, $"Nobody is named for seat “{seat.Role}” of step “{step.Name}”.", "Name a person, or choose a group."));
                    break;
                case GroupHolder or ChosenHolder when people.Length == 0:
                    found.Add(new("seat-unfillable", true, seat.Key, $"Seat “{seat.Role}” of step “{step.Name}” is for a group without members.", "Add people to the group."));
                    break;
                case GroupHolder { Needed: var k } when k < 0 || k > people.Length:
                    found.Add(new("seat-unfillable", true, seat.Key, $"Seat “{seat.Role}” needs {k} of a group of {people.Length}. Add people to the group or ask for fewer.", "Add people to the group, or ask for fewer."));
                    break;
                case GroupHolder { Needed: var k } when step.BarsOriginator && k == people.Length:
                    found.Add(new("seat-unfillable-for-member", false, seat.Key, $"When a member of the group sends, seat “{seat.Role}” of “{step.Name}” lacks one, for the originator may not sign there.", "Ask for one fewer, or for all."));
                    break;
                case OriginatorHolder when step.BarsOriginator:
                    found.Add(new("seat-barred", true, seat.Key, $"Seat “{seat.Role}” is the originator's, and step “{step.Name}” bars the originator.", "Give the seat to someone else, or lift the rule."));
                    break;
                case SignerOfHolder { Step: var source }:
                    if (plan.Steps().FirstOrDefault(s => s.Key == source) is not { } earlier || !PlanShape.SurelyBefore(plan, source, step.Key))
                        found.Add(new("signer-not-before", true, seat.Key, $"Seat “{seat.Role}” of “{step.Name}” is for who signed a step that does not surely come before it.", "Choose an earlier step."));
                    else if (earlier.PassesWhen is not null)
                        found.Add(new("signer-automatic", true, seat.Key, $"Seat “{seat.Role}” of “{step.Name}” is for who signed “{earlier.Name}”, which may pass unsigned.", "Choose a step that is always signed."));
                    break;
            }
            if (seat.Holder is OriginatorHolder && originatorFits) filled.Add(new(seat.Key, [Guid.Empty], 1));
            else if (people.Length > 0) filled.Add(new(seat.Key, people, needed <= 0 ? people.Length : Math.Min(needed, people.Length)));
        }
        if (step.OneSeatEach && !SeatMatching.Fits(filled.ToImmutable()))
            found.Add(new("seats-overlap", true, step.Key, $"Step “{step.Name}” wants a different person in every seat, and there are too few people for that.", "Add people to its groups, or lift the rule."));
        if (step.OneSeatEach && step.Seats.Length > 1 && step.Seats.Any(s => s.Holder is SignerOfHolder))
            found.Add(new("signer-may-hold-two", true, step.Key, $"Step “{step.Name}” wants a different person in every seat, and who signed an earlier step is not known before.", "Give that seat a step of its own, or lift the rule."));
        Twice(step, found);

        ImmutableArray<Guid> Members(Guid group) => groups.TryGetValue(group, out var members) ? [.. members.Distinct()] : [];
    }

    private static void Twice(Step step, List<Finding> found)
    {
        if (step.Checkpoints.Select(c => c.Key).Distinct().Count() < step.Checkpoints.Length)
            found.Add(new("checkpoint-key-twice", true, step.Key, $"Two checkpoints of “{step.Name}” have the same key.", "Rename one of them."));
        if (step.Checkpoints.Any(c => string.IsNullOrWhiteSpace(c.Text)))
            found.Add(new("checkpoint-empty", true, step.Key, $"A checkpoint of “{step.Name}” asks nothing.", "Write the question, or remove it."));
        var persons = step.Seats.Select(s => s.Holder).OfType<PersonHolder>().Where(p => p.Person != Guid.Empty).ToList();
        if (!step.OneSeatEach && persons.Distinct().Count() < persons.Count)
            found.Add(new("person-twice", false, step.Key, $"One person holds two seats of “{step.Name}”.", "Name two persons, or remove a seat."));
    }

    private static void FormFindings(Plan plan, List<Finding> found)
    {
        foreach (var field in plan.Form)
        {
            if (string.IsNullOrWhiteSpace(field.Label)) found.Add(new("field-without-label", true, field.Key, "A field of the form has no label.", "Name it."));
            if (field.Kind == FieldKind.Choice && field.Options.Length < 2) found.Add(new("field-without-options", true, field.Key, $"The form's field “{field.Label}” leaves nothing to choose.", "Give it two options or more."));
        }
    }
}
