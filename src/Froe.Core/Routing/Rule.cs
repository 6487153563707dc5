using System.Collections.Immutable;
using System.Globalization;

namespace Froe.Core.Routing;

/// <summary>A rule on a package: all of its conditions, or any of them.</summary>
/// <param name="Any">True when one condition is enough.</param>
/// <param name="Conditions">At least one.</param>
public sealed record Rule(bool Any, ImmutableArray<Condition> Conditions)
{
    /// <summary>Whether the rule holds for a package.</summary>
    public bool Holds(PackageFacts facts) => Any ? Conditions.Any(c => c.Holds(facts)) : Conditions.All(c => c.Holds(facts));
}

/// <summary>What a condition looks at.</summary>
public enum Subject
{
    /// <summary>A field of the intake form.</summary>
    Form,

    /// <summary>Holds when a property of at least one document does.</summary>
    AnyDocument,

    /// <summary>Holds when a property of every document does.</summary>
    EveryDocument,

    /// <summary>The number of documents in the package.</summary>
    Size,
}

/// <summary>How a condition compares.</summary>
public enum Comparison
{
    Is,
    IsNot,
    MoreThan,
    AtLeast,
    LessThan,
    AtMost,
    Contains,

    /// <summary>Ordinary wildcards over the whole text: * for any run, ? for one character.</summary>
    Matches,
    IsEmpty,
}

/// <summary>One comparison.</summary>
/// <param name="Subject">What is looked at.</param>
/// <param name="Field">Key of a form field, or number, kind, discipline or fileType of a document; empty for the size.</param>
/// <param name="Comparison">How.</param>
/// <param name="Value">With what; numbers with a decimal point. Texts compare without regard to case.</param>
public sealed record Condition(Subject Subject, string Field, Comparison Comparison, string Value)
{
    /// <summary>Whether the condition holds for a package.</summary>
    public bool Holds(PackageFacts facts)
    {
        ArgumentNullException.ThrowIfNull(facts);
        return Subject switch
        {
            Subject.Form => Compare(facts.Answers.GetValueOrDefault(Field, "")),
            Subject.Size => Compare(facts.Documents.Length.ToString(CultureInfo.InvariantCulture)),
            Subject.AnyDocument => facts.Documents.Any(d => Compare(d.Property(Field))),
            // Of no documents nothing is said.
            _ => facts.Documents.Length > 0 && facts.Documents.All(d => Compare(d.Property(Field))),
        };
    }

    /// <summary>Whether a text stands in the comparison to the condition's value. A comparison of numbers fails when either is none.</summary>
    public bool Compare(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        switch (Comparison)
        {
            case Comparison.IsEmpty: return string.IsNullOrWhiteSpace(text);
            case Comparison.Contains: return text.Contains(Value, StringComparison.OrdinalIgnoreCase);
            case Comparison.Matches: return Matches(Value, text);
            case Comparison.Is: return Same(text);
            case Comparison.IsNot: return !Same(text);
        }
        if (!Number(text, out var a) || !Number(Value, out var b)) return false;
        return Comparison switch
        {
            Comparison.MoreThan => a > b,
            Comparison.AtLeast => a >= b,
            Comparison.LessThan => a < b,
            _ => a <= b,
        };
    }

    /// <summary>Reads a number as people and files write it.</summary>
    public static bool Number(string text, out decimal number) =>
        decimal.TryParse(text.Trim().Replace(',', '.'), NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out number);

    private bool Same(string text) => Number(text, out var a) && Number(Value, out var b) ? a == b : text.Trim().Equals(Value.Trim(), StringComparison.OrdinalIgnoreCase);

    /// <summary>Matches by going back to the last star only, so that no pattern takes longer than its length times the text's.</summary>
    private static bool Matches(string pattern, string text)
    {
        int p = 0, t = 0, star = -1, from = 0;
        while (t < text.Length)
        {
            if (p < pattern.Length && pattern[p] == '*') (star, from) = (p++, t);
            else if (p < pattern.Length && (pattern[p] == '?' || char.ToUpperInvariant(pattern[p]) == char.ToUpperInvariant(text[t]))) (p, t) = (p + 1, t + 1);
            else if (star >= 0) (p, t) = (star + 1, ++from);
            else return false;
        }
        return pattern.AsSpan(p).TrimStart('*').IsEmpty;
    }
}

/// <summary>What rules know of a package.</summary>
/// <param name="Answers">The intake form, by field key; yes and no as such, dates as yyyy-mm-dd.</param>
/// <param name="Documents">The documents of the round.</param>
public sealed record PackageFacts(ImmutableSortedDictionary<string, string> Answers, ImmutableArray<DocumentFacts> Documents)
{
    /// <summary>A package of which nothing is known.</summary>
    public static PackageFacts None { get; } = new(ImmutableSortedDictionary<string, string>.Empty, []);

    /// <summary>How many letters a change order's number may have.</summary>
    public const int LongestChangeOrder = 60;

    /// <summary>What the sender called it; empty for packages that were sent before it was kept with them.</summary>
    public string Title { get; init; } = "";

    /// <summary>Number of the change order that it carries out; empty where it carries out none.</summary>
    public string ChangeOrder { get; init; } = "";
}

/// <summary>What rules know of a document.</summary>
/// <param name="FileType">Extension of the draft's file, lower case, without a dot.</param>
/// <param name="Owner">Its originator.</param>
public sealed record DocumentFacts(Guid Document, string Number, string Kind, string Discipline, string FileType, Guid Owner)
{
    /// <summary>A property by the name conditions use; empty when there is no such.</summary>
    public string Property(string field) => field switch
    {
        "number" => Number,
        "kind" => Kind,
        "discipline" => Discipline,
        "fileType" => FileType,
        _ => "",
    };
}

/// <summary>Rules in plain words.</summary>
public static class RuleWords
{
    /// <summary>A rule as a person reads it, such as "lifted mass is more than 25 kg".</summary>
    public static string Say(Rule rule, ImmutableArray<FormField> form)
    {
        ArgumentNullException.ThrowIfNull(rule);
        return string.Join(rule.Any ? " or " : " and ", rule.Conditions.Select(c => Say(c, form)));
    }

    /// <summary>A condition as a person reads it.</summary>
    public static string Say(Condition condition, ImmutableArray<FormField> form)
    {
        ArgumentNullException.ThrowIfNull(condition);
        var field = form.FirstOrDefault(f => f.Key == condition.Field);
        var subject = condition.Subject switch
        {
            Subject.Size => "the number of documents",
            Subject.Form => field is null ? $"the form's field “{condition.Field}”" : Lower(field.Label),
            Subject.AnyDocument => $"the {Property(condition.Field)} of any document",
            _ => $"the {Property(condition.Field)} of every document",
        };
        var value = field is { Unit.Length: > 0 } ? $"{condition.Value} {field.Unit}" : condition.Value;
        return condition.Comparison switch
        {
            Comparison.Is => $"{subject} is {value}",
            Comparison.IsNot => $"{subject} is not {value}",
            Comparison.MoreThan => $"{subject} is more than {value}",
            Comparison.AtLeast => $"{subject} is at least {value}",
            Comparison.LessThan => $"{subject} is less than {value}",
            Comparison.AtMost => $"{subject} is at most {value}",
            Comparison.Contains => $"{subject} contains “{condition.Value}”",
            Comparison.Matches => $"{subject} reads like {condition.Value}",
            _ => $"{subject} is left empty",
        };
    }

    private static string Property(string field) => field == "fileType" ? "file type" : field;

    /// <summary>Lower case at the start of a label inside a sentence, unless it is an abbreviation.</summary>
    private static string Lower(string label) => label.Length > 1 && char.IsLower(label[1]) ? char.ToLowerInvariant(label[0]) + label[1..] : label;
}
