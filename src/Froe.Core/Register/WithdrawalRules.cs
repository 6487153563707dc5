using System.Collections.Immutable;
using Froe.Core.Draft;
using Froe.Core.Routing;

namespace Froe.Core.Register;

/// <summary>Taking documents and revisions out of use.</summary>
public static class WithdrawalRules
{
    /// <summary>
    /// Which of a document's revisions a withdrawal takes out of use: the one named, or all that are not out of use already;
    /// none when it was done before.
    /// </summary>
    /// <param name="revisions">Label and standing of each.</param>
    /// <param name="label">The revision; null for the whole document.</param>
    public static (ImmutableArray<string> Withdrawn, Refusal? Refusal) Withdraw(ImmutableArray<(string Label, Standing Standing)> revisions, string? label)
    {
        if (label is null) return ([.. revisions.Where(r => RevisionRules.IsActive(r.Standing) || r.Standing == Standing.Released).Select(r => r.Label)], null);
        var found = revisions.Where(r => r.Label == label).ToList();
        return found switch
        {
            [] => ([], new Refusal("no-such-revision", $"The document has no revision {label}.")),
            [{ Standing: Standing.Withdrawn }] => ([], null),
            [{ Standing: Standing.Superseded }] => ([], new Refusal("superseded", $"Revision {label} is superseded: it is out of use already.")),
            _ => ([label], null),
        };
    }
}
