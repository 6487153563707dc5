namespace Froe.Core.Routing;

/// <summary>For whom or what a package waits, in the words that lists and files show.</summary>
public static class WaitingWords
{
    /// <summary>The words; empty when it waits for nothing any more.</summary>
    public static string Of(Slip slip)
    {
        ArgumentNullException.ThrowIfNull(slip);
        if (slip.Standing == SlipStanding.Returned) return "the originator";
        if (slip.Standing != SlipStanding.InReview) return "";
        if (slip.IsHeld) return "the originator's answers";
        var open = slip.Plan.Steps().Where(s => slip.Open.Contains(s.Key)).Select(s => slip.Differing().Any(d => d.Step == s.Key) ? $"{s.Name} (its signers differ)" : s.Name).ToList();
        return open.Count switch { 0 => "", 1 => open[0], _ => $"{open.Count} steps: {string.Join(", ", open)}" };
    }
}
