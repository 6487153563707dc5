using Froe.Core.Routing;

namespace Froe.Core.SignIn;

/// <summary>What a new password must be: long, and not one of those that are tried first (NIST SP 800-63B clause 3.1.1.2).</summary>
public static class PasswordRules
{
    /// <summary>Fewest and most characters.</summary>
    public const int Shortest = 12, Longest = 128;

    /// <summary>Words and runs that lists of common passwords are made of, as they stand when digits and signs are taken off and read as letters.</summary>
    private static readonly HashSet<string> Common =
    [
        "password", "passwort", "passord", "motdepasse", "contrasena", "wachtwoord", "senha", "parola", "haslo", "losenord", "adgangskode", "pass", "passw", "pwd",
        "admin", "administrator", "root", "user", "guest", "test", "testing", "tester", "login", "default", "changeme", "letmein", "letmeinnow", "secret", "master", "access", "welcome", "hello", "helloworld",
        "iloveyou", "loveyou", "love", "lovely", "sunshine", "princess", "dragon", "monkey", "football", "baseball", "basketball", "soccer", "hockey", "superman", "batman", "spiderman", "starwars", "pokemon", "trustno", "whatever", "freedom", "shadow", "michael", "jordan", "jennifer", "jessica", "ashley", "charlie", "daniel", "thomas", "computer", "internet", "samsung", "summer", "winter", "spring", "autumn", "monday", "friday", "january", "december", "chocolate", "cheese", "butterfly", "flower", "cookie", "killer", "hunter", "ranger", "buster", "mustang", "corvette", "ferrari", "mercedes", "liverpool", "arsenal", "chelsea", "barcelona", "juventus", "matrix", "ninja", "azerty", "qwerty", "qwertz", "qwertyuiop", "qwertzuiop", "azertyuiop", "asdf", "asdfgh", "asdfghjkl", "zxcv", "zxcvbn", "zxcvbnm", "yxcvbnm", "qazwsx", "qazwsxedc", "abc", "abcd", "abcdef", "correcthorsebatterystaple", "incorrect", "mypassword", "yourpassword", "thisisapassword", "office", "company", "review", "drawing", "froe", "question", "nothing", "everything", "forever", "jesus", "blessed", "angel", "baby", "babygirl", "family", "friends", "google", "linkedin", "mynoob", "solo", "zaq", "donald", "maggie", "pepper", "ginger", "bailey", "harley", "george", "andrew", "joshua", "matthew", "robert", "nicole", "hannah", "amanda",
    ];

    private static readonly string[] Rows = ["abcdefghijklmnopqrstuvwxyz", "01234567890", "qwertyuiop", "qwertzuiop", "azertyuiop", "asdfghjkl", "zxcvbnm", "yxcvbnm", "1qaz2wsx3edc4rfv5tgb6yhn7ujm", "!@#$%^&*()"];

    /// <summary>Why a password cannot be taken; null when it can.</summary>
    /// <param name="login">The name its person signs in with.</param>
    public static Refusal? Fault(string password, string login)
    {
        ArgumentNullException.ThrowIfNull(password);
        ArgumentNullException.ThrowIfNull(login);
        if (password.Length < Shortest) return new("short-password", $"A password has at least {Shortest} characters. A few words in a row are easy to keep in mind.");
        if (password.Length > Longest) return new("long-password", $"A password has at most {Longest} characters.");
        var lower = password.ToLowerInvariant();
        if (login.Length >= 3 && lower.Replace(login.ToLowerInvariant(), "", StringComparison.Ordinal) is var rest && rest.Length < lower.Length && rest.Length < 8)
            return new("password-of-login", "The password must not be made of the name you sign in with.");
        return IsCommon(lower) ? new("common-password", "This password is among those that are tried first. Choose other words.") : null;
    }

    private static bool IsCommon(string lower)
    {
        if (lower.Distinct().Count() < 5 || IsRepeated(lower) || Run(lower) * 4 >= lower.Length * 3) return true;
        // With what stands before and after it taken off, and with and without signs and digits read as the letters they stand for.
        var core = lower.Trim([.. lower.Where(c => !char.IsLetter(c))]);
        string[] readings = [Letters(core), Letters(AsLetters(core)), Letters(AsLetters(lower))];
        return readings[0].Length < 4 || readings.Any(IsMadeOfCommon);
    }

    private static string AsLetters(string text) =>
        new([.. text.Select(c => c switch { '0' => 'o', '1' => 'i', '3' => 'e', '4' => 'a', '5' => 's', '7' => 't', '@' => 'a', '$' => 's', '!' => 'i', _ => c })]);

    private static string Letters(string text) => new([.. text.Where(char.IsLetter)]);

    /// <summary>Whether a word is one common word, or two.</summary>
    private static bool IsMadeOfCommon(string word) => Common.Contains(word) || Enumerable.Range(1, Math.Max(0, word.Length - 1)).Any(i => Common.Contains(word[..i]) && Common.Contains(word[i..]));

    private static bool IsRepeated(string text) => Enumerable.Range(1, text.Length / 2).Any(n => Enumerable.Range(n, text.Length - n).All(i => text[i] == text[i - n]));

    /// <summary>How many characters stand beside the one before them in an alphabet or on a keyboard, either way.</summary>
    private static int Run(string text) => 1 + text.Zip(text.Skip(1)).Count(p => p.First == p.Second || Rows.Any(r => r.Contains($"{p.First}{p.Second}", StringComparison.Ordinal) || r.Contains($"{p.Second}{p.First}", StringComparison.Ordinal)));
}
