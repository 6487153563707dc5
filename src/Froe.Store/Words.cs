using System.Text.Json;

namespace Froe.Store;

/// <summary>Names of enumerations as the database keeps them and people read them: in lower case, with spaces.</summary>
public static class Words
{
    /// <summary>The word for a value.</summary>
    public static string Of<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.KebabCaseLower.ConvertName(value.ToString()).Replace('-', ' ');

    /// <summary>The value that a word is for.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public static T Parse<T>(string word)
        where T : struct, Enum => Enum.Parse<T>(word.Replace(" ", "", StringComparison.Ordinal), ignoreCase: true);
}
