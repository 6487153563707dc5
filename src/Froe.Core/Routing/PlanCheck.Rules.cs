using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>Proofs on choices and rules.</summary>
public static partial class PlanCheck
{
    private static void ChoiceFindings(Plan plan, Choice choice, List<Finding> found)
    {
        if (string.IsNullOrWhiteSpace(choice.Name)) found.Add(new("choice-without-name", true, choice.Key, "A choice says not what it asks.", "Name it."));
        if (choice.Ways.Length < 2 || choice.Otherwise.Rule is not null)
        {
            found.Add(new("choice-incomplete", true, choice.Key, $"The choice “{choice.Name}” has no otherwise-way, so some packages would have nowhere to go.", "Add a last way without a rule."));
            return;
        }
        if (choice.Ways.Select(w => w.Key).Distinct().Count() < choice.Ways.Length)
            found.Add(new("way-key-twice", true, choice.Key, $"Two ways of “{choice.Name}” have the same key.", "Rename one of them."));
        if (choice.PickedAt is { } at)
        {
            if (plan.Steps().FirstOrDefault(s => s.Key == at) is not { } step || !PlanShape.SurelyBefore(plan, at, choice.Key))
                found.Add(new("pick-not-before", true, choice.Key, $"The choice “{choice.Name}” is made at a step that does not surely come before it.", "Choose an earlier step."));
            else if (step.PassesWhen is not null)
                found.Add(new("pick-automatic", true, choice.Key, $"The choice “{choice.Name}” is made at “{step.Name}”, which may pass unsigned.", "Choose a step that is always signed."));
            return;
        }
        for (var i = 0; i < choice.Ways.Length - 1; i++)
        {
            var way = choice.Ways[i];
            if (way.Rule is not { Conditions.Length: > 0 } rule)
            {
                found.Add(new("way-without-rule", true, way.Key, $"The way “{way.Name}” of “{choice.Name}” has no rule, so it would never be taken.", "Give it a rule."));
                continue;
            }
            RuleFindings(plan, way.Key, $"the way “{way.Name}”", rule, found);
            if (Clauses(rule).TrueForAll(c => choice.Ways[..i].Where(w => w.Rule is not null).Any(w => Clauses(w.Rule!).Exists(e => Implies(c, e)))))
                found.Add(new("rule-shadowed", true, way.Key, $"The way “{way.Name}” of “{choice.Name}” is never taken: a way before it takes all its packages.", "Move it up, or change its rule."));
        }
    }

    private static void RuleFindings(Plan plan, string cell, string where, Rule rule, List<Finding> found)
    {
        if (rule.Conditions.Length == 0) found.Add(new("rule-empty", true, cell, $"The rule of {where} says nothing.", "Add a condition."));
        foreach (var c in rule.Conditions)
        {
            var field = plan.Form.FirstOrDefault(f => f.Key == c.Field);
            var unknown = c.Subject switch
            {
                Subject.Form => field is null,
                Subject.Size => false,
                _ => c.Field is not ("number" or "kind" or "discipline" or "fileType"),
            };
            if (unknown) found.Add(new("rule-field-unknown", true, cell, $"The rule of {where} looks at a field that does not exist.", "Choose another field."));
            var ordered = c.Comparison is Comparison.MoreThan or Comparison.AtLeast or Comparison.LessThan or Comparison.AtMost;
            if (ordered && !Condition.Number(c.Value, out _)) found.Add(new("rule-value-not-number", true, cell, $"The rule of {where} compares with “{c.Value}”, which is no number.", "Write a number."));
            if (ordered && !(c.Subject == Subject.Size || field?.Kind == FieldKind.Number)) found.Add(new("rule-field-not-number", true, cell, $"The rule of {where} asks for more or less of something that is no number.", "Choose a number, or compare otherwise."));
            if (c.Comparison == Comparison.Is && field?.Kind == FieldKind.Choice && !field.Options.Contains(c.Value))
                found.Add(new("rule-value-no-option", true, cell, $"The rule of {where} waits for “{c.Value}”, which “{field.Label}” does not offer.", "Choose one of its options."));
        }
        if (rule.Conditions.Length > 0 && Clauses(rule).TrueForAll(Impossible))
            found.Add(new("rule-impossible", true, cell, $"The rule of {where} can never hold: its conditions exclude one another.", "Change one of them, or ask for any instead of all."));
    }

    /// <summary>A rule as alternatives, each of conditions that must all hold.</summary>
    private static List<ImmutableArray<Condition>> Clauses(Rule rule) => rule.Any ? [.. rule.Conditions.Select(c => ImmutableArray.Create(c))] : [rule.Conditions];

    /// <summary>Whether whenever all of <paramref name="a"/> hold, all of <paramref name="b"/> do. Sound, not complete: a proof found is right, one not found says nothing.</summary>
    private static bool Implies(ImmutableArray<Condition> a, ImmutableArray<Condition> b) => b.All(c => a.Any(x => Implies(x, c)));

    private static bool Implies(Condition a, Condition b)
    {
        if (a == b) return true;
        if (a.Subject != b.Subject || a.Field != b.Field) return false;
        // What every document is, some document is; but this compares one subject, so it is left to equality.
        switch (b.Comparison)
        {
            case Comparison.IsEmpty: return false;
            // 25 and 25.0 are the same number and not the same text.
            case Comparison.Contains or Comparison.Matches when Condition.Number(a.Value, out _): return false;
            case var _ when a.Comparison == Comparison.Is && a.Subject is Subject.Form or Subject.EveryDocument or Subject.Size: return b.Compare(a.Value);
            case Comparison.Matches when a.Comparison == Comparison.Matches: return b.Value.Trim('*').Length == 0;
        }
        if (a.Subject is Subject.AnyDocument or Subject.EveryDocument || !Condition.Number(a.Value, out var x) || !Condition.Number(b.Value, out var y)) return false;
        return (a.Comparison, b.Comparison) switch
        {
            (Comparison.MoreThan, Comparison.MoreThan or Comparison.AtLeast) => x >= y,
            (Comparison.AtLeast, Comparison.AtLeast) => x >= y,
            (Comparison.AtLeast, Comparison.MoreThan) => x > y,
            (Comparison.LessThan, Comparison.LessThan or Comparison.AtMost) => x <= y,
            (Comparison.AtMost, Comparison.AtMost) => x <= y,
            (Comparison.AtMost, Comparison.LessThan) => x < y,
            _ => false,
        };
    }

    /// <summary>Whether conditions that must all hold exclude one another.</summary>
    private static bool Impossible(ImmutableArray<Condition> clause)
    {
        foreach (var a in clause)
            foreach (var b in clause)
            {
                if (a == b || a.Subject != b.Subject || a.Field != b.Field || a.Subject is Subject.AnyDocument) continue;
                if (a.Comparison == Comparison.Is && !b.Compare(a.Value)) return true;
                if (a.Comparison is not (Comparison.MoreThan or Comparison.AtLeast) || b.Comparison is not (Comparison.LessThan or Comparison.AtMost)) continue;
                if (!Condition.Number(a.Value, out var low) || !Condition.Number(b.Value, out var high)) continue;
                if (low > high || (low == high && (a.Comparison == Comparison.MoreThan || b.Comparison == Comparison.LessThan))) return true;
            }
        return false;
    }
}
