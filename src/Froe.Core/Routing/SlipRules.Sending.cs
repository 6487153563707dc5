using System.Collections.Immutable;
using System.Globalization;

namespace Froe.Core.Routing;

/// <summary>Sending a package, first and again.</summary>
public static partial class SlipRules
{
    private static Decision DecideSend(Slip slip, Send send, SlipContext context)
    {
        if (slip.Standing != SlipStanding.Unsent)
        {
            var repeated = slip.Round == 1 && slip.Originator == send.Person && SameItems(slip.Items, send.Items);
            return repeated ? Decision.Of() : Decision.Refuse("already-sent", "This package has been sent already.");
        }
        if (PlanCheck.Check(send.Plan, context.Groups).FirstOrDefault(f => f.Stops) is { } fault) return Decision.Refuse(fault.Code, fault.Says);
        if (ItemFault(send.Items) is { } bad) return new Decision([], bad);
        if (FitFault(send.Plan, send.Facts) is { } misfit) return new Decision([], misfit);
        if (FormFault(send.Plan, send.Facts) is { } form) return new Decision([], form);
        if (Fill(send.Plan, send, context, out var seats) is { } unfilled) return new Decision([], unfilled);
        return Follow(slip, [new PackageSent(send.Person, Telling(send.Plan, send.Told), send.Items, seats) { Facts = send.Facts }], context);
    }

    /// <summary>Why a plan is not for these documents; null when it is.</summary>
    public static Refusal? FitFault(Plan plan, PackageFacts facts)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return plan.Fits is { Conditions.Length: > 0 } rule && !rule.Holds(facts)
            ? new Refusal("plan-does-not-fit", $"“{plan.Name}” is for packages where {RuleWords.Say(rule, plan.Form)}. Choose another plan.")
            : null;
    }

    /// <summary>This slip's copy of the plan with the people whom the sender named, where the plan asks.</summary>
    private static Plan Telling(Plan plan, ImmutableArray<ToldPeople> told) => told.IsEmpty ? plan : plan.WithSteps(step => step with
    {
        Tells = [.. step.Tells.Select(t => t.AsksSender ? t with { People = [.. t.People.Union(told.Where(x => x.Step == step.Key && x.At == t.At).SelectMany(x => x.People))] } : t)],
    });

    /// <summary>Every seat that nobody, or too few, could fill.</summary>
    public static IEnumerable<(Step Step, Seat Seat, Refusal Why)> Unfilled(Plan plan, Send send, SlipContext context)
    {
        ArgumentNullException.ThrowIfNull(plan);
        foreach (var (step, seat) in plan.Seats())
            if (seat.Holder is not SignerOfHolder && FillSeat(step, seat, send, context, out var fault) is null) yield return (step, seat, fault!);
    }

    /// <summary>Fills every seat for a sending; a refusal names the first that nobody could fill.</summary>
    public static Refusal? Fill(Plan plan, Send send, SlipContext context, out ImmutableArray<FilledSeat> seats)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var filled = ImmutableArray.CreateBuilder<FilledSeat>();
        seats = [];
        foreach (var (step, seat) in plan.Seats())
        {
            if (seat.Holder is SignerOfHolder)
            {
                filled.Add(new FilledSeat(seat.Key, [], 1));
                continue;
            }
            if (FillSeat(step, seat, send, context, out var fault) is not { } made) return fault;
            filled.Add(made);
        }
        seats = filled.ToImmutable();
        foreach (var step in plan.Steps().Where(s => s.OneSeatEach))
            if (!SeatMatching.Fits([.. step.Seats.Select(s => filled.First(f => f.Key == s.Key)).Where(f => f.People.Length > 0)]))
                return new Refusal("seat-unfillable", $"Step “{step.Name}” wants a different person in every seat, and there are too few people for that. Add people to its groups or give up the rule.");
        return null;
    }

    private static FilledSeat? FillSeat(Step step, Seat seat, Send send, SlipContext context, out Refusal? fault)
    {
        fault = null;
        var chosen = send.Chosen.FirstOrDefault(c => c.Seat == seat.Key)?.Person;
        ImmutableArray<Guid> Members(Guid group) => context.Groups.TryGetValue(group, out var found) ? [.. found.Distinct()] : [];
        ImmutableArray<Guid> people = seat.Holder switch
        {
            PersonHolder person => [person.Person],
            GroupHolder group => Members(group.Group),
            OriginatorHolder => [send.Person],
            OwnersHolder => [.. send.Facts.Documents.Select(d => d.Owner).Distinct()],
            ChosenHolder group when chosen is { } one && Members(group.Group).Contains(one) => [one],
            _ => [],
        };
        if (seat.Holder is ChosenHolder && people.IsEmpty)
        {
            fault = new Refusal("seat-not-chosen", $"Choose who signs as {seat.Role} in step “{step.Name}”.");
            return null;
        }
        if (step.BarsOriginator) people = people.Remove(send.Person);
        var named = people.Length;
        if (context.Signers is { } signers) people = [.. people.Where(signers.Contains)];
        var needed = seat.Holder is GroupHolder { Needed: > 0 } k ? k.Needed : seat.Holder is GroupHolder or OwnersHolder ? people.Length : 1;
        if (people.IsEmpty || people.Length < needed)
        {
            var why = (step.BarsOriginator ? " The originator may not sign here." : "") + (people.Length < named ? " Others lack the right to sign for these documents." : "");
            fault = new Refusal("seat-unfillable", $"Seat “{seat.Role}” of step “{step.Name}” needs {Math.Max(needed, 1)} and has {people.Length} who may sign.{why} Add people to its group, or choose another plan.");
            return null;
        }
        return new FilledSeat(seat.Key, people, needed);
    }

    private static Decision DecideSendAgain(Slip slip, SendAgain again, SlipContext context)
    {
        if (!IsOriginator(slip, again.Person, context.Deputies))
            return Decision.Refuse("not-originator", "Only the originator can send the next round.");
        if (slip.Standing == SlipStanding.InReview && slip.Round > 1 && SameItems(slip.Items, again.Items)) return Decision.Of();
        if (slip.Standing != SlipStanding.Returned)
            return Decision.Refuse("not-returned", "Only a returned package can be sent again; this one is " + Words(slip.Standing) + ".");
        if (ItemFault(again.Items) is { } bad) return new Decision([], bad);
        var returned = ReturnedDocuments(slip);
        var facts = again.Facts ?? slip.Facts;
        if (FitFault(slip.Plan, facts) is { } misfit) return new Decision([], misfit);
        if (FormFault(slip.Plan, facts) is { } form) return new Decision([], form);
        foreach (var item in again.Items.Where(i => returned.Contains(i.Document)))
            if (slip.Items.Any(i => i.Document == item.Document && i.Sha256 == item.Sha256) && !ChangesNothing(item.Document, context))
                return Decision.Refuse("same-bytes", "A returned document has not changed since. Upload its next draft first; or answer every request on it with “cannot, because” or “already so, see”, and the same draft goes out again.");
        // What is asked of a document that is left out stays with it, and comes with the next package that holds it.
        var unanswered = context.OpenRequests.Where(r => !r.Answered && again.Items.Any(i => i.Document == r.Document)).Select(r => r.Number).Distinct().Order().ToList();
        if (unanswered.Count > 0)
            return Decision.Refuse("requests-unanswered", $"{Listed("Request", unanswered)} still {(unanswered.Count == 1 ? "wants" : "want")} an answer: done, done differently, or cannot, because.");
        var (kept, carried) = Standing(slip, again.Items, context);
        return Follow(slip, [new PackageSentAgain(slip.Round + 1, again.Items) { Kept = kept, Carried = carried, Facts = again.Facts, Answers = AnswersNext(slip, kept.Concat(carried), again.Items, context), For = For(slip, again.Person) }, .. OwnersNow(slip, facts, context)], context);
    }

    /// <summary>The owners' seats with the originators of documents that the round takes in.</summary>
    private static IEnumerable<SlipEvent> OwnersNow(Slip slip, PackageFacts facts, SlipContext context)
    {
        foreach (var (step, seat) in slip.Plan.Seats().Where(s => s.Seat.Holder is OwnersHolder))
        {
            var now = slip.SeatOf(seat.Key)!;
            var more = facts.Documents.Where(d => !slip.Facts.Documents.Any(o => o.Document == d.Document)).Select(d => d.Owner).Distinct()
                .Where(p => !now.People.Contains(p) && !(step.BarsOriginator && p == slip.Originator) && context.Signers?.Contains(p) != false).ToList();
            if (more.Count > 0 && !now.Skipped) yield return new SeatFilled(now with { People = now.People.AddRange(more), Needed = now.Needed + more.Count });
        }
    }

    /// <summary>Whether everything asked for on a document was answered, and with nothing that changes it: then the same bytes may go out again.</summary>
    private static bool ChangesNothing(Guid document, SlipContext context)
    {
        var asked = context.OpenRequests.Where(r => r.Document == document).ToList();
        return asked.Count > 0 && asked.TrueForAll(r => r is { Answered: true, ChangesNothing: true });
    }

    /// <summary>
    /// Of a package that is back, whose signatures would stand in the next round while a document stays as it is, and fall if it got other
    /// bytes: people by document.
    /// </summary>
    public static ILookup<Guid, Guid> WouldFall(Slip slip)
    {
        ArgumentNullException.ThrowIfNull(slip);
        var documents = slip.Items.ToDictionary(i => i.Draft, i => i.Document);
        IEnumerable<(Guid Document, Guid Person)> Stand(ImmutableArray<SlipItem> next)
        {
            var (kept, carried) = Standing(slip, next, SlipContext.Empty);
            return from s in kept.Concat(carried)
                   from v in s.Verdicts
                   where documents.ContainsKey(v.Draft)
                   select (documents[v.Draft], s.Person);
        }
        // What stands whatever the bytes are is lost by none.
        var falling = slip.Standing == SlipStanding.Returned ? Stand(slip.Items).Except(Stand([.. slip.Items.Select(i => i with { Sha256 = "" })])) : [];
        return falling.ToLookup(f => f.Document, f => f.Person);
    }

    /// <summary>Which signatures stand in the next round, by the strictest rule of the steps that returned.</summary>
    private static (ImmutableArray<Signature> Kept, ImmutableArray<Signature> Carried) Standing(Slip slip, ImmutableArray<SlipItem> next, SlipContext context)
    {
        var from = slip.Signatures.Where(s => s.Returns).Select(s => slip.StepOf(s.Seat)).Distinct().ToList();
        // Of a package pulled back, which nobody returned, signatures on what does not change stand.
        if (from.Exists(s => s.SignAgain == SignAgain.All)) return ([], []);
        // What was taken in anew has been seen by nobody: then no signature stands whole.
        var takesIn = next.Any(i => !slip.Items.Any(o => o.Document == i.Document));
        if (from.Exists(s => s.SignAgain == SignAgain.ReturnedAndAfter) && !takesIn)
        {
            // What was judged of a document that is left out goes with it.
            var leftOut = DraftsOf(slip, [.. slip.Items.Where(i => !next.Any(n => n.Document == i.Document))], context);
            var whole = slip.Signatures.Where(s => !s.Returns && !from.Exists(f => PlanShape.Between(slip.Plan, slip.StepOf(s.Seat).Key, f.Key) == PlanShape.Order.After));
            return ([.. whole.Select(s => s with { Verdicts = s.Verdicts.RemoveAll(v => leftOut.Contains(v.Draft)) })], []);
        }
        var unchanged = next.Where(i => slip.Items.Any(o => o.Document == i.Document && o.Sha256 == i.Sha256)).ToDictionary(i => i.Document);
        var documents = slip.Items.ToDictionary(i => i.Draft, i => i.Document);
        var standing = slip.Signatures.Select(s => s with
        {
            Verdicts =
            [
                .. from v in s.Verdicts
                   where v.Verdict != Verdict.ReturnForChanges
                   let now = documents.TryGetValue(v.Draft, out var document) || context.EarlierDrafts.TryGetValue(v.Draft, out document) ? unchanged.GetValueOrDefault(document) : null
                   where now?.Sha256 == v.Sha256
                   select v with { Draft = now.Draft },
            ],
        }).Where(s => s.Verdicts.Length > 0).ToList();
        return ([.. standing.Where(s => s.Verdicts.Length == next.Length)], [.. standing.Where(s => s.Verdicts.Length < next.Length)]);
    }

    private static Refusal? ItemFault(ImmutableArray<SlipItem> items)
    {
        if (items.Length == 0) return new Refusal("package-empty", "The package holds no document. Choose at least one.");
        if (items.Select(i => i.Document).Distinct().Count() != items.Length)
            return new Refusal("document-twice", "A document is in the package twice.");
        return items.Any(i => i.Sha256.Length != 64) ? new Refusal("hash-missing", "A draft has no hash, so it cannot be signed.") : null;
    }

    /// <summary>What keeps an intake form, or the change order that is named with it, from being taken; names the field.</summary>
    public static Refusal? FormFault(Plan plan, PackageFacts facts)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(facts);
        if (facts.ChangeOrder.Length > PackageFacts.LongestChangeOrder || facts.ChangeOrder.Any(char.IsControl))
            return new Refusal("change-order-wrong", $"A change order's number is one line of at most {PackageFacts.LongestChangeOrder} characters; what it asks for goes into the covering note.");
        foreach (var field in plan.Form)
        {
            var value = facts.Answers.GetValueOrDefault(field.Key, "").Trim();
            if (value.Length == 0)
            {
                if (field.Must) return new Refusal("form-missing", $"The form's field “{field.Label}” must be filled in.");
                continue;
            }
            var fault = field.Kind switch
            {
                FieldKind.Number when !Condition.Number(value, out _) => $"wants a number{(field.Unit.Length > 0 ? " in " + field.Unit : "")}",
                FieldKind.Date when !DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _) => "wants a date",
                FieldKind.YesNo when value is not ("yes" or "no") => "wants yes or no",
                FieldKind.Choice when !field.Options.Contains(value) => "wants one of its options",
                FieldKind.Person or FieldKind.Document when !Guid.TryParse(value, out _) => "wants a choice from the list",
                _ when value.Length > 4000 => "holds more than 4,000 characters",
                _ => null,
            };
            if (fault is not null) return new Refusal("form-wrong", $"The form's field “{field.Label}” {fault}.");
        }
        return null;
    }
}
