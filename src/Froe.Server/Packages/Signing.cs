using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A sign-off as its person gives it.</summary>
/// <param name="Key">Made by the page once for this sign-off, so that a double click signs once.</param>
/// <param name="Grant">From confirming the password.</param>
/// <param name="Remark">Closing remark, for the record.</param>
/// <param name="For">The absent person a deputy signs for.</param>
/// <param name="Answers">To the step's checkpoints.</param>
/// <param name="Picks">Ways picked.</param>
/// <param name="Folder">Where the documents are filed on release, in the step that picks it.</param>
public sealed record NewSignOff(
    Guid Key, string Grant, string Seat, ImmutableArray<ItemVerdict> Verdicts, string Remark, Guid? For = null, CheckpointAnswer[]? Answers = null, WayPick[]? Picks = null, string? Folder = null, Saying? Say = null);

/// <summary>An answer to what a signer noted when approving.</summary>
public sealed record NewNotedAnswer(string Seat, Guid Signer, Guid Draft, string Words);

/// <summary>What a sign-off came to.</summary>
/// <param name="Standing">The package's standing after it.</param>
public sealed record SignOffOutcome(Guid SignOff, SlipStanding Standing);

/// <summary>Signing: one transaction from lock to commit.</summary>
public sealed class Signing(Database database, Recording recording, Passwords passwords, Announcements changes, TimeProvider clock)
{
    /// <summary>Signs in a seat.</summary>
    public async Task<SignOffOutcome> SignAsync(Who who, Guid package, NewSignOff wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        passwords.Demand(who.Id, wanted.Grant);
        if (wanted.Remark.Length > 4000) throw Refused.Invalid("too-long", "The remark may have 4,000 characters.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var outcome = await RunAsync(act, who, package, wanted, stop);
        changes.Announce(act, "package", package);
        return outcome;
    }

    /// <summary>Who would be told of a sign-off; no password is asked for, for nothing is signed.</summary>
    public async Task<IReadOnlyCollection<Guid>> ToldAsync(Who who, Guid package, NewSignOff wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), true, stop);
        await RunAsync(act, who, package, wanted, stop);
        return act.Told;
    }

    private async Task<SignOffOutcome> RunAsync(Act act, Who who, Guid package, NewSignOff wanted, CancellationToken stop)
    {
        var held = await SlipStore.LockAsync(act, package, wanted.Key, stop) ?? throw Refused.Missing("package");
        if (held.Answer is { } answer) return JsonSerializer.Deserialize<SignOffOutcome>(answer, Act.Json)!;
        var drafts = wanted.Verdicts.Select(v => v.Draft).ToArray();
        var (opened, overlays) = (new HashSet<Guid>(), new List<OverlayRow>());
        await act.ReadAsync(
            [
                ("SELECT draft_id FROM draft_opened WHERE person_id = $1 AND draft_id = ANY ($2)", [who.Id, drafts], r => opened.Add(r.GetGuid(0))),
                (OverlayRows.OfDraftsSql, [drafts], r => overlays.Add(OverlayRows.Overlay(r))),
            ],
            stop);
        var context = held.Context with { Opened = opened };
        if (held.Slip.SeatOf(wanted.Seat) is not null && held.Slip.StepOf(wanted.Seat).SeenShare > 0) context = context with { Seen = await SeenRows.SharesAsync(act, who.Id, drafts, stop) };
        // Most may sign anywhere; for the others it matters where the documents are filed.
        if (!who.Rights.For(Right.Sign, Folders.Root))
        {
            var folders = await act.ListAsync("SELECT DISTINCT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1)", r => r.GetString(0), [held.Slip.Items.Select(i => i.Document).ToArray()], stop);
            context = context with { Signers = who.Rights.ForAll(Right.Sign, folders) ? new HashSet<Guid> { who.Id } : new HashSet<Guid>() };
        }
        if (wanted.Folder is { } place) context = context with { Folders = await FilableAsync(act, who, place, stop) };
        var decision = SlipRules.Decide(held.Slip, new SignOff(who.Id, wanted.Seat, wanted.Verdicts) { For = wanted.For, Answers = [.. wanted.Answers ?? []], Picks = [.. wanted.Picks ?? []], Folder = wanted.Folder, Overlays = OverlayRows.Signed(overlays.Where(o => o.IsSeenBy(who.Id))) }, context);
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        var change = held.After(decision, wanted.Remark.Trim());
        var outcome = new SignOffOutcome(Guid.CreateVersion7(), change.After.Standing);
        // The same verdicts under another key: the person signed from a second window. Nothing more to write.
        if (decision.Events.Length == 0) return outcome;
        act.Write(
            "INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark, for_person, answers) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9::uuid, $10::jsonb)",
            outcome.SignOff, package, held.Slip.Round, wanted.Seat, who.Id, act.At.UtcDateTime, Signature.Statement, change.Reason, wanted.For, JsonSerializer.Serialize(wanted.Answers ?? [], Act.Json));
        var given = decision.Events.OfType<SignedOff>().Single().Signature.Verdicts.Where(v => drafts.Contains(v.Draft)).ToList();
        act.Write(
            "INSERT INTO verdict (sign_off_id, draft_id, sha256, verdict, reason, seen) SELECT $1, * FROM unnest($2::uuid[], $3::bytea[], $4::text[], $5::text[], $6::smallint[])",
            outcome.SignOff, given.Select(v => v.Draft).ToArray(), given.Select(v => Convert.FromHexString(v.Sha256)).ToArray(),
            given.Select(v => Words.Of(v.Verdict)).ToArray(), given.Select(v => v.Reason.Trim()).ToArray(), given.Select(v => (short?)v.Seen).ToArray());
        if (overlays.Exists(o => o.Owner == who.Id)) OverlayRows.Sign(act, who.Id, drafts);
        await recording.RecordAsync(act, package, held.Plan, change, stop);
        if (wanted.Say is { } say)
            await say.AddAsync(act, who, package, $"{held.Number}: {who.Name} {(decision.Events.OfType<SignedOff>().Any(e => e.Signature.Returns) ? "returned it" : "signed")}: {held.Title}", change.Reason, stop);
        act.Remember(wanted.Key, outcome);
        await act.CommitAsync(stop);
        return outcome;
    }

    /// <summary>The folder that is asked for, if it is there and somebody may file into it.</summary>
    private static async Task<IReadOnlySet<string>> FilableAsync(Act act, Who who, string folder, CancellationToken stop) =>
        who.Rights.For(Right.Send, folder) && await act.AnyAsync("SELECT 1 FROM folder WHERE path = $1", [folder], stop) ? new HashSet<string> { folder } : [];

    /// <summary>Answers what a signer noted when approving.</summary>
    public async Task AnswerNotedAsync(Who who, Guid package, NewNotedAnswer wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        var decision = SlipRules.Decide(held.Slip, new AnswerNoted(who.Id, wanted.Seat, wanted.Signer, wanted.Draft, wanted.Words), held.Context);
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        if (decision.Events.Length == 0) return;
        await recording.RecordAsync(act, package, held.Plan, held.After(decision, wanted.Words.Trim()), stop);
        act.Tell(Message.OfPackage(package, wanted.Signer, $"{held.Number}: what you noted is answered: {held.Title}", wanted.Words.Trim()));
        await act.CommitAsync(stop);
        changes.Announce(act, "package", package);
    }
}
