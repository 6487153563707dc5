using System.Globalization;

namespace Froe.Store;

/// <summary>
/// The conditions of a statement with their values. Only what is asked for stands in the statement, so that each question is
/// answered by its own index.
/// </summary>
public sealed class Conditions
{
    private const int MostWords = 12;
    private readonly List<string> all = [];
    private readonly List<object?> values = [];

    /// <summary>The values, for $1 and on.</summary>
    public object?[] Values => [.. values];

    /// <summary>Everything that must hold, as a condition of its own.</summary>
    public override string ToString() => all.Count == 0 ? "true" : string.Join(" AND ", all);

    /// <summary>Adds a condition; @1 and on stand for the values given.</summary>
    public void Add(string condition, params object?[] given)
    {
        ArgumentNullException.ThrowIfNull(condition);
        ArgumentNullException.ThrowIfNull(given);
        // From the last to the first, so that @1 is not found in @10.
        for (var i = given.Length; i >= 1; i--)
            condition = condition.Replace(string.Create(CultureInfo.InvariantCulture, $"@{i}"), string.Create(CultureInfo.InvariantCulture, $"${values.Count + i}"), StringComparison.Ordinal);
        values.AddRange(given);
        all.Add("(" + condition + ")");
    }

    /// <summary>A value that the statement names besides its conditions.</summary>
    /// <returns>What stands for it, such as $3.</returns>
    public string Value(object? value)
    {
        values.Add(value);
        return string.Create(CultureInfo.InvariantCulture, $"${values.Count}");
    }

    /// <summary>
    /// Adds a condition for each word typed, in whatever order they stand; @1 stands for its ILIKE pattern. Words apart let the
    /// database look up the rare one and leave the common one to be compared. The letters typed are meant: % and _ are letters too.
    /// </summary>
    public void AddWords(string? typed, string condition)
    {
        foreach (var pattern in Patterns(typed)) Add(condition, pattern);
    }

    /// <summary>The words typed, each once.</summary>
    public static string[] Words(string? typed) => [.. (typed ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Distinct().Take(MostWords)];

    /// <summary>The ILIKE pattern of each word typed.</summary>
    public static string[] Patterns(string? typed) =>
    [
        .. Words(typed)
            .Select(word => "%" + word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal) + "%"),
    ];
}
