using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.Files;
using Froe.Server.Notes;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Exchange;

/// <summary>What came of a marked file.</summary>
/// <param name="Replies">Words added to notes that were there.</param>
/// <param name="Remarks">New remarks, with their places.</param>
/// <param name="Markups">Markups drawn, those of the remarks too.</param>
/// <param name="Already">Annotations that were here: sent out from here, or brought in before.</param>
/// <param name="LeftOut">Annotations that say nothing and lie nowhere on the draft.</param>
public sealed record MarkedFileTaken(int Replies, int Remarks, int Markups, int Already, int LeftOut);

/// <summary>Takes in what others wrote and drew on a draft in a reader of their own.</summary>
public sealed class Incoming(
    Database database, Access access, Errands errands, Spool spool, Transfers transfers, Announcements changes, TimeProvider clock, IOptions<Settings> settings)
{
    /// <summary>Takes in a file that was marked.</summary>
    /// <param name="file">The PDF or XFDF; null for what lay on the draft's own file when it came.</param>
    /// <param name="key">Made by the page once for this file.</param>
    public async Task<MarkedFileTaken> TakeAsync(Who who, Guid draft, Stream? file, Guid? key, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        if (!await database.AnyAsync("SELECT 1 FROM draft WHERE id = $1", [draft], stop)) throw Refused.Missing("draft");
        var leaves = await Drafts.LeavesAsync(database, draft, stop);
        if (!leaves.Exists(l => l.Frame is SheetFrame)) throw Refused.Invalid("no-sheets", "Only sheets are marked in files. Write what was found as notes.");
        var package = (await database.ListAsync(OverlayView.PackageSql, r => (Guid?)r.GetGuid(0), [draft], stop)).FirstOrDefault()
            ?? throw new Refused(new Refusal("not-sent", "This draft was not sent for review; there is no package for the notes."));
        await access.DemandPackageAsync(who, package, stop);
        var annotations = await ReadAsync(who, draft, leaves, file, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<MarkedFileTaken>(key, stop) is { } done) return done;
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        if (held.Slip.ItemOf(draft) is not { } item)
            throw new Refused(new Refusal("not-under-review", "This draft is not under review any more. Open the draft that is, and bring the file in there."));
        if (!Reviewing.TakesIn(held.Slip, who.Id, held.Deputies))
            throw new Refused(new Refusal("no-part", "A marked file is brought in by somebody who has a part in the package, and before it ends."));
        var plan = await PlanAsync(act, package, held.Slip.Standing, item.Document, leaves, annotations, stop);
        var taken = await WriteAsync(act, who, package, held, draft, item, plan, stop);
        act.Remember(key, taken);
        await act.CommitAsync(stop);
        changes.Announce(act, "notes", package);
        if (taken.Markups > 0) changes.Announce("overlay", draft);
        return taken;
    }

    private async Task<IReadOnlyList<BroughtAnnotation>> ReadAsync(Who who, Guid draft, List<Leaf> leaves, Stream? file, CancellationToken stop)
    {
        using var place = transfers.Begin(who.Id);
        await using var received = file is null ? null : await spool.ReceiveAsync(file, settings.Value.MostUploadBytes, stop);
        var folder = await errands.FolderAsync(draft, leaves, stop);
        try
        {
            if (received is not null)
            {
                await using var to = File.Create(Path.Combine(folder.FullName, ErrandFiles.File));
                await received.CopyToAsync(to, stop);
            }
            return await errands.RunAsync<BringInErrand, List<BroughtAnnotation>>("bring-in", folder, new BringInErrand(leaves, received is null), stop);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>Compares the file with what is here, under the package's lock.</summary>
    private static async Task<BroughtIn> PlanAsync(Act act, Guid package, SlipStanding standing, Guid document, List<Leaf> leaves, IReadOnlyList<BroughtAnnotation> annotations, CancellationToken stop)
    {
        // What was said to a note that takes no more words is kept in a note of its own.
        var brings = new NoteActor(false, false, false, standing);
        var notes = (await act.ListAsync("SELECT id, body, kind, standing FROM note WHERE package_id = $1", r => new KnownNote(
                r.GetGuid(0), r.GetString(1), NoteRules.Apply(Words.Parse<NoteKind>(r.GetString(2)), Words.Parse<NoteStanding>(r.GetString(3)), NoteAct.Reply, brings).Refusal is null), [package], stop)).ToDictionary(n => n.Id);
        // Places of notes lie with the note they were drawn for first, in whichever package that was.
        var origins = (await act.ListAsync("SELECT coalesce(origin, id), id FROM note WHERE package_id = $1", r => (r.GetGuid(0), r.GetGuid(1)), [package], stop)).ToDictionary(o => o.Item1, o => o.Item2);
        var ids = annotations.SelectMany(a => new[] { a.Annotation.Id, a.Annotation.ReplyTo ?? "" }).Distinct().Select(i => Guid.TryParse(i, out var id) ? id : Guid.Empty).Where(i => i != Guid.Empty).ToArray();
        var marks = (await OverlayRows.MarkupsAsync(act, ids, stop)).Select(m => m.Markup).ToDictionary(m => m.Id, m =>
        {
            var note = m.Note is { } of && origins.TryGetValue(of, out var here) ? notes.GetValueOrDefault(here) : null;
            return new KnownMark(m.Id, note is { TakesWords: true } ? note.Id : null, note?.Words ?? m.Shape switch { WrittenWords w => w.Text, Leader l => l.Text, Stamp s => s.Text, Count c => c.Number.ToString(CultureInfo.InvariantCulture), _ => "" });
        });
        var before = await act.ListAsync("SELECT foreign_id, digest, note_id FROM brought_in WHERE document_id = $1", r => new KnownBrought(r.GetString(0), r.GetString(1), r.IdOrNull(2)), [document], stop);
        // What went to a note that is withdrawn by now, or in another package, becomes a note of its own.
        return Bringing.Plan(annotations, leaves, marks, notes, before.Select(b => b.Note is { } n && notes.GetValueOrDefault(n) is not { TakesWords: true } ? b with { Note = null } : b), NoteRules.LongestText, Guid.CreateVersion7);
    }

    private static async Task<MarkedFileTaken> WriteAsync(Act act, Who who, Guid package, HeldPackage held, Guid draft, SlipItem item, BroughtIn plan, CancellationToken stop)
    {
        var overlays = await OverlaysAsync(act, draft, held.Slip, who.Id, plan, stop);
        var puts = plan.Taken.SelectMany(t => t.Shapes.Select(s => new PutMarkup(Guid.CreateVersion7(), overlays[t.From], new OnSheet(s.Leaf), s.Shape, t.Note))).ToList();
        var remarks = plan.Taken.Where(t => t is { IsReply: false, Note: not null }).ToList();
        var numbers = new Dictionary<Guid, int>();
        foreach (var remark in remarks)
        {
            numbers[remark.Note!.Value] = held.LastNote + 1;
            Noting.Insert(act, package, new NotedNow(remark.Note.Value, held.LastNote + 1, NoteKind.Remark, item.Document, draft, held.Slip.Round, remark.Words, held.Originator, null, NoteTerms.None));
            held = held with { LastNote = held.LastNote + 1 };
        }
        var drawn = await Marking.PlaceAsync(act, draft, held.Slip, remarks.ToDictionary(r => r.Note!.Value, _ => (NoteKind.Remark, NoteStanding.Open)), puts, stop);
        foreach (var remark in remarks)
            await Noting.AppendAsync(act, package, new NotedNow(remark.Note!.Value, numbers[remark.Note.Value], NoteKind.Remark, item.Document, draft, held.Slip.Round, remark.Words, held.Originator, null, NoteTerms.None), drawn.Where(m => m.Markup.Note == remark.Note), stop);
        var replies = plan.Taken.Where(t => t.IsReply).ToList();
        await ReplyAsync(act, who, package, held, replies, numbers, stop);
        foreach (var one in plan.Taken)
            act.Write("INSERT INTO brought_in (document_id, foreign_id, digest, note_id, person_id, at) VALUES ($1, $2, $3, $4, $5, $6)", item.Document, one.Id, one.Digest, one.Note, who.Id, act.At.UtcDateTime);
        if (remarks.Count > 0)
            foreach (var person in held.Slip.Awaited().Select(a => a.Person).Append(held.Originator).Distinct())
                act.Tell(Message.OfPackage(package, person, $"{held.Number}: {who.Name} brings in a marked file: {held.Title}", $"{remarks.Count} remarks from outside", numbers[remarks[0].Note!.Value]));
        return new MarkedFileTaken(replies.Count, remarks.Count, drawn.Count, plan.Already, plan.LeftOut);
    }

    /// <summary>Adds words to notes; who wrote them, who is asked and the originator are told.</summary>
    private static async Task ReplyAsync(Act act, Who who, Guid package, HeldPackage held, List<TakenIn> replies, Dictionary<Guid, int> written, CancellationToken stop)
    {
        var found = (await act.ListAsync(
            "SELECT n.id, n.number, n.kind, n.author, n.asked_of, (SELECT count(*)::int FROM note_act a WHERE a.note_id = n.id) FROM note n WHERE n.id = ANY ($1)",
            r => (Id: r.GetGuid(0), Number: r.GetInt32(1), Kind: r.GetString(2), Author: r.GetGuid(3), Of: r.GetGuid(4), Acts: r.GetInt32(5)), [replies.Select(r => r.Note!.Value).Distinct().ToArray()], stop)).ToDictionary(n => n.Id);
        // To remarks that come with the same file, too.
        foreach (var (id, number) in written) found.TryAdd(id, (id, number, Words.Of(NoteKind.Remark), who.Id, held.Originator, 0));
        foreach (var reply in replies)
        {
            var note = found[reply.Note!.Value];
            found[note.Id] = note with { Acts = note.Acts + 1 };
            act.Write("INSERT INTO note_act (note_id, sequence, person_id, at, act, body) VALUES ($1, $2, $3, $4, $5, $6)", note.Id, note.Acts + 1, who.Id, act.At.UtcDateTime, Words.Of(NoteAct.Reply), reply.Words);
            await act.AppendAsync(package, $"{note.Kind} replied", reply.Words, new { Note = note.Number, Answer = (string?)null, For = (Guid?)null }, stop);
            foreach (var person in new[] { note.Author, note.Of, held.Originator }.Distinct())
                act.Tell(Message.OfPackage(package, person, $"{held.Number}: {who.Name} brings in a reply on {note.Kind} {note.Number}: {held.Title}", reply.Words, note.Number));
        }
    }

    /// <summary>An overlay of who brings it in for each name in the file; one for all others when there are too many.</summary>
    private static async Task<Dictionary<string, Guid>> OverlaysAsync(Act act, Guid draft, Slip slip, Guid person, BroughtIn plan, CancellationToken stop)
    {
        const string Others = "From outside";
        var own = await OverlayRows.HoldAsync(act, draft, person, stop);
        var overlays = new Dictionary<string, Guid>();
        foreach (var from in plan.Taken.Where(t => t.Shapes.Count > 0).Select(t => t.From).Distinct())
        {
            var name = from.Trim().Length == 0 ? Others : $"From {from.Trim()}";
            if (name.Length > OverlayRules.LongestName) name = name[..OverlayRules.LongestName].TrimEnd();
            if (own.Find(o => string.Equals(o.Name, name, StringComparison.OrdinalIgnoreCase)) is null && own.Count >= OverlayRules.MostOverlays - 1) name = Others;
            if (own.Find(o => string.Equals(o.Name, name, StringComparison.OrdinalIgnoreCase)) is not { } overlay)
            {
                if (own.Count >= OverlayRules.MostOverlays) overlay = own[^1];
                else
                {
                    await Overlaying.MakeAsync(act, Guid.CreateVersion7(), draft, slip, name, null, stop);
                    own = await OverlayRows.HoldAsync(act, draft, person, stop);
                    overlay = own.Find(o => string.Equals(o.Name, name, StringComparison.OrdinalIgnoreCase)) ?? own[^1];
                }
            }
            overlays[from] = overlay.Id;
        }
        return overlays;
    }
}
