using System.Text.RegularExpressions;

namespace Froe.Core.Calendar;

/// <summary>How many hours a clock counts.</summary>
public enum ClockHours
{
    /// <summary>As the language of the dates has it.</summary>
    ByLanguage,

    /// <summary>Twelve, twice a day.</summary>
    Twelve,

    /// <summary>Twenty-four.</summary>
    TwentyFour,
}

/// <summary>The day that a calendar's rows begin with.</summary>
public enum WeekBegins
{
    /// <summary>As the language of the dates has it.</summary>
    ByLanguage,

    /// <summary>As ISO 8601 has it.</summary>
    Monday,

    /// <summary>Saturday.</summary>
    Saturday,

    /// <summary>Sunday.</summary>
    Sunday,
}

/// <summary>How somebody reads dates and times of day.</summary>
/// <param name="Language">A language tag (RFC 5646), as in “de-CH”; empty for the words of the pages themselves.</param>
public sealed partial record DateManner(string Language, ClockHours Hours, WeekBegins WeekBegins)
{
    /// <summary>The longest language tag (RFC 5646, 4.4.1).</summary>
    public const int LongestTag = 35;

    /// <summary>Everybody's until they choose.</summary>
    public static DateManner Usual { get; } = new("", ClockHours.ByLanguage, WeekBegins.ByLanguage);

    /// <summary>Whether its tag has the form of one: a language, and whatever narrows it down (RFC 5646, 2.1).</summary>
    public static bool IsWellFormed(DateManner manner)
    {
        ArgumentNullException.ThrowIfNull(manner);
        return manner.Language.Length <= LongestTag && (manner.Language.Length == 0 || Tag().IsMatch(manner.Language));
    }

    [GeneratedRegex(@"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*\z", RegexOptions.CultureInvariant)]
    private static partial Regex Tag();
}
