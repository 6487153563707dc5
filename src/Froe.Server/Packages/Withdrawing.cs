using System.ComponentModel.DataAnnotations;
using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A document, or one of its revisions, to be taken out of use.</summary>
/// <param name="Revision">The revision's label; the whole document when missing.</param>
/// <param name="Reason">For the record, and for whoever has it.</param>
public sealed record WithdrawalWanted([property: MaxLength(4000)] string Reason, string? Revision = null);

/// <summary>A document's next originator.</summary>
public sealed record OriginatorWanted(Guid To, [property: MaxLength(4000)] string Reason);

/// <summary>Withdrawing what must not be used any more, and giving documents to other originators.</summary>
public sealed class Withdrawing(Database database, Recording recording, Announcements changes, TimeProvider clock)
{
    private sealed record Found(Guid Id, string Label, Standing Standing);

    /// <summary>Withdraws a document or a revision; a package on its way goes on without it.</summary>
    public async Task WithdrawAsync(Who who, Guid document, WithdrawalWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        // The document may go into another package between the look and the lock; then it is looked for again.
        while (!await TryWithdrawAsync(who, document, wanted, reason, stop))
        {
        }
    }

    private async Task<bool> TryWithdrawAsync(Who who, Guid document, WithdrawalWanted wanted, string reason, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var package = await PackageOfAsync(act, document, stop);
        var held = package is { } at ? await SlipStore.LockAsync(act, at, null, stop) : null;
        var (number, folder) = await HoldAsync(act, who, document, stop);
        if (await PackageOfAsync(act, document, stop) != package) return false;
        if (!who.Rights.For(Right.Withdraw, folder)) throw Refused.Forbidden($"You have no right to withdraw documents {Shelves.Named(folder)}. Ask your document coordinator.");
        var all = await act.ListAsync("SELECT id, label, standing FROM revision WHERE document_id = $1 ORDER BY ordinal", r => new Found(r.GetGuid(0), r.GetString(1), StandingWords.Parse(r.GetString(2))), [document], stop);
        var (withdrawn, refusal) = WithdrawalRules.Withdraw([.. all.Select(r => (r.Label, r.Standing))], wanted.Revision);
        if (refusal is not null) throw new Refused(refusal);
        if (withdrawn.IsEmpty) return true;
        var revisions = all.FindAll(r => withdrawn.Contains(r.Label));
        if (held is not null && revisions.Exists(r => RevisionRules.IsActive(r.Standing)))
        {
            var decision = SlipRules.Decide(held.Slip, new TakeOut(who.Id, document), held.Context);
            if (decision.Refusal is { } why) throw new Refused(why);
            if (decision.Events.Length > 0) await recording.RecordAsync(act, package!.Value, held.Plan, held.After(decision, $"{number} is withdrawn. {reason}"), stop);
        }
        act.Write("UPDATE revision SET standing = 'withdrawn' WHERE id = ANY ($1)", revisions.Select(r => r.Id).ToArray());
        foreach (var revision in revisions) await act.AppendAsync(document, "revision withdrawn", reason, new { Revision = revision.Label }, stop);
        await TellAsync(act, document, number, held, package, [.. revisions.Select(r => r.Id)], $"Revision {string.Join(", ", revisions.Select(r => r.Label))} must not be used any more. {reason}", stop);
        await act.CommitAsync(stop);
        changes.Announce("document", document);
        if (package is { } changed) changes.Announce(act, "package", changed);
        return true;
    }

    /// <summary>Whoever got it for use, and whoever has it in a package, hears of it; its originator as well.</summary>
    private static async Task TellAsync(Act act, Guid document, string number, HeldPackage? held, Guid? package, Guid[] revisions, string body, CancellationToken stop)
    {
        var users = await act.ListAsync("SELECT person_id FROM revision_use WHERE revision_id = ANY ($1) UNION SELECT originator FROM document WHERE id = $2", r => r.GetGuid(0), [revisions, document], stop);
        foreach (var person in users) act.Tell(new Message(person, $"{number} is withdrawn", body, $"/register/{document}"));
        if (held is null) return;
        var people = held.Slip.Seated().Append(held.Slip.Originator).Distinct().ToList();
        // Whoever hears that the package goes on without it, or ends, is told why there.
        foreach (var person in people.Except(act.Told)) act.Tell(Message.OfPackage(package!.Value, person, $"{number} is withdrawn", body));
    }

    /// <summary>Gives a document that is in no package to another originator.</summary>
    public async Task HandOverAsync(Who who, Guid document, OriginatorWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (number, folder) = await HoldAsync(act, who, document, stop);
        if (!who.Rights.For(Right.Coordinate, folder)) throw Refused.Forbidden($"Only a coordinator of documents {Shelves.Named(folder)} gives them to another originator.");
        if (!await act.AnyAsync("SELECT 1 FROM person WHERE id = $1 AND barred_at IS NULL", [wanted.To], stop)) throw Refused.Missing("person");
        if ((await RightHolders.ReadAsync(act, Right.Send, stop)).ForAll([folder])?.Contains(wanted.To) == false)
            throw new Refused(new Refusal("no-right", $"They have no right to send documents {Shelves.Named(folder)}. Name somebody else, or have them given the right."));
        if (await PackageOfAsync(act, document, stop) is not null)
            throw new Refused(new Refusal("in-other-package", $"{number} is in a package on its way. Give that package to another originator: its documents go along."));
        var from = (await act.ListAsync("SELECT originator FROM document WHERE id = $1", r => r.GetGuid(0), [document], stop))[0];
        if (from == wanted.To) return;
        act.Write("UPDATE document SET originator = $2 WHERE id = $1", document, wanted.To);
        await act.AppendAsync(document, "originator changed", reason, new { From = from, wanted.To }, stop);
        act.Tell(new Message(wanted.To, $"{number} is yours now", $"You are its originator from now on. {reason}", $"/register/{document}"));
        act.Tell(new Message(from, $"{number} is somebody else's now", $"It has another originator from now on. {reason}", $"/register/{document}"));
        await act.CommitAsync(stop);
        changes.Announce("document", document);
    }

    /// <summary>A document's number and folder, held until the act ends; what a person may not see is not there.</summary>
    private static async Task<(string Number, string Folder)> HoldAsync(Act act, Who who, Guid document, CancellationToken stop) =>
        await act.ListAsync("SELECT d.number, f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1 FOR NO KEY UPDATE OF d", r => (r.GetString(0), Folder: r.GetString(1)), [document], stop) is [var found]
        && Visibility.Sees(who.Rights, found.Folder) ? found : throw Refused.Missing("document");

    private static async Task<Guid?> PackageOfAsync(Act act, Guid document, CancellationToken stop) =>
        await act.ListAsync("SELECT k.id FROM package_item i JOIN package k ON k.id = i.package_id AND k.round = i.round WHERE i.document_id = $1 AND k.ended_at IS NULL", r => r.GetGuid(0), [document], stop) is [var found] ? found : null;

    private static string Reason(string reason) => reason.Trim() is { Length: > 0 } said ? said : throw Refused.Invalid("missing-reason", "Say why: the reason goes into the record.");
}
