using System.ComponentModel.DataAnnotations;
using Froe.Core.Overlays;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Notes;

/// <summary>A note on a draft.</summary>
/// <param name="Marks">Its places: markups of the writer's own on that draft, drawn with it or before. None when it is about the whole; more are drawn on any draft afterwards.</param>
/// <param name="Key">Made by the page once for this note, so that writing it twice writes it once.</param>
/// <param name="Of">Whom a question of the originator's asks; every other question asks the originator.</param>
/// <param name="Terms">What it says besides its words.</param>
/// <param name="Mentions">Whom it names: they are told, where they take part in the package.</param>
public sealed record NewNote(
    Guid Draft, NoteKind Kind, string Body, IReadOnlyList<PutMarkup> Marks, Guid? Key = null, Guid? Of = null, NoteTerms? Terms = null, [property: MaxLength(50)] Guid[]? Mentions = null);

/// <summary>An act on a note.</summary>
/// <param name="Answer">With <see cref="NoteAct.Answer"/> on a request.</param>
/// <param name="Body">Words, for the record.</param>
/// <param name="Key">Made by the page once for this act.</param>
/// <param name="Mentions">Whom the words name: they are told, where they take part in the package.</param>
/// <param name="Terms">With <see cref="NoteAct.Edit"/>, what it says besides its words from now on; null leaves that as it is. Whether it is on the package stays.</param>
public sealed record NewNoteAct(NoteAct Act, AnswerKind? Answer, string Body, Guid? Key = null, [property: MaxLength(50)] Guid[]? Mentions = null, NoteTerms? Terms = null);

/// <summary>An act on a note was done.</summary>
public sealed record NoteActDone(NoteStanding Standing);

/// <summary>A note that was added.</summary>
public sealed record AddedNote(Guid Id, int Number);

/// <summary>A note as it is being written.</summary>
/// <param name="For">The absent person for whom a deputy writes it.</param>
internal sealed record NotedNow(Guid Id, int Number, NoteKind Kind, Guid Document, Guid Draft, int Round, string Body, Guid AskedOf, Guid? For, NoteTerms Terms);

/// <summary>Writing notes and acting on them.</summary>
public sealed class Noting(Database database, Recording recording, Announcements changes, TimeProvider clock)
{
    /// <summary>Adds a note to a draft of a package's running round.</summary>
    public async Task<AddedNote> AddAsync(Who who, Guid package, NewNote wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var body = Bounded(wanted.Body);
        if (body.Length == 0) throw Refused.Invalid("note-empty", "Write what the note is about.");
        var terms = (wanted.Terms ?? NoteTerms.None).Tidied();
        if (terms.Fault(wanted.Kind, Today) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        if (terms.OnPackage && wanted.Marks.Count > 0) throw Refused.Invalid("note-has-place", "A note on the whole package has no place on a sheet.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<AddedNote>(wanted.Key, stop) is { } before) return before;
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        if (held.Slip.ItemOf(wanted.Draft) is not { } item)
            throw new Refused(new Refusal("other-draft", "This draft is not under review any more. Your words stay in the note; go to the draft that is, and write it there."));
        if (held.Slip.Standing != SlipStanding.InReview && (held.Slip.Standing != SlipStanding.Returned || wanted.Kind == NoteKind.Request))
            throw new Refused(new Refusal("not-in-review", "Requests can be written while the package is in review, questions and remarks while it is back as well."));
        var askedOf = await AskedOfAsync(act, who, held, wanted, stop);
        // Whoever has signed may have more to ask for: where the plan lets them, that opens their seat again.
        if (wanted.Kind == NoteKind.Request && Reviewing.ActsFor(held.Slip, who.Id, held.Deputies) is null) held = await ReopenAsync(act, who, package, held, body, stop);
        var actsFor = Reviewing.ActsFor(held.Slip, who.Id, held.Deputies);
        if (wanted.Kind == NoteKind.Request && actsFor is null)
            throw new Refused(new Refusal("not-reviewing", "Only someone whose signature is awaited now can request a change. Leave a remark or a question instead."));
        var absent = wanted.Kind == NoteKind.Request && actsFor != who.Id ? actsFor : null;
        var added = new AddedNote(Guid.CreateVersion7(), held.LastNote + 1);
        var noted = new NotedNow(added.Id, added.Number, wanted.Kind, item.Document, wanted.Draft, held.Slip.Round, body, askedOf, absent, terms);
        Insert(act, package, noted);
        var marks = await Marking.PlaceAsync(act, wanted.Draft, held.Slip, added.Id, wanted.Kind, wanted.Marks, stop);
        await AppendAsync(act, package, noted, marks, stop);
        act.Remember(wanted.Key, added);
        await TellAsync(act, who, package, held, wanted, added.Number, askedOf, body, stop);
        await TellMentionedAsync(act, who, package, held, Words.Of(wanted.Kind), added.Number, wanted.Mentions, body, stop);
        await act.CommitAsync(stop);
        // A request of somebody who has signed takes their signature back.
        changes.Announce(act, wanted.Kind == NoteKind.Request ? "package" : "notes", package);
        if (marks.Count > 0) changes.Announce("overlay", wanted.Draft);
        return added;
    }

    /// <summary>The day; where the earth turns last it is still the day before.</summary>
    private DateOnly Today => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime.AddHours(-12));

    /// <summary>Writes a note's row, and counts it; the package is held.</summary>
    internal static void Insert(Act act, Guid package, NotedNow note)
    {
        act.Write("UPDATE package SET last_note = $2 WHERE id = $1", package, note.Number);
        act.Write(
            """
            INSERT INTO note (id, package_id, number, document_id, draft_id, round, kind, standing, author, at, body, asked_of, for_person, urgent, due, tags, on_package, subject)
            SELECT $1, $2, $3, $4, $5, $6, $7, 'open', $8, $9, $10, $11, $12::uuid, $13, $14::date, $15, $16, number || ' ' || title FROM document WHERE id = $4
            """,
            note.Id, package, note.Number, note.Document, note.Draft, note.Round, Words.Of(note.Kind), act.Person, act.At.UtcDateTime, note.Body, note.AskedOf, note.For,
            note.Terms.Urgent, note.Terms.Due, note.Terms.Tags.ToArray(), note.Terms.OnPackage);
    }

    /// <summary>Tells the ledger of a new note, with its places.</summary>
    internal static Task AppendAsync(Act act, Guid package, NotedNow note, IEnumerable<MarkupRow> marks, CancellationToken stop) => act.AppendAsync(
        package, Words.Of(note.Kind) + " written", note.Body, new
        {
            Note = note.Number,
            note.Document,
            note.Draft,
            Marks = marks.Select(m => new { m.Markup.Id, m.Markup.Place, m.Markup.Shape }),
            note.For,
            Of = note.AskedOf,
            Terms = note.Terms.Written(),
        }, stop);

    /// <summary>Tells those whom words name that they do, if they take part in the package.</summary>
    private static async Task TellMentionedAsync(Act act, Who who, Guid package, HeldPackage held, string kind, int number, Guid[]? mentions, string body, CancellationToken stop)
    {
        if (mentions is not { Length: > 0 }) return;
        var informed = await act.ListAsync("SELECT person_id FROM package_informed WHERE package_id = $1", r => r.GetGuid(0), [package], stop);
        foreach (var person in mentions.Distinct().Where(p => p != who.Id && (informed.Contains(p) || Reviewing.HasPart(held.Slip, p, held.Deputies))))
            act.Tell(Message.OfPackage(package, person, $"{held.Number}: {who.Name} names you in {kind} {number}: {held.Title}", body, number));
    }

    /// <summary>Whom a note asks: the originator, or, of an originator's question, whom they name.</summary>
    private static async Task<Guid> AskedOfAsync(Act act, Who who, HeldPackage held, NewNote wanted, CancellationToken stop)
    {
        if (wanted.Kind != NoteKind.Question || !SlipRules.IsOriginator(held.Slip, who.Id, held.Deputies)) return held.Originator;
        if (wanted.Of is not { } of || of == who.Id || of == held.Originator) throw Refused.Invalid("missing-person", "Say whom you ask: your question waits for their answer.");
        if (!await act.AnyAsync("SELECT 1 FROM person WHERE id = $1 AND barred_at IS NULL", [of], stop)) throw Refused.Missing("person");
        return of;
    }

    /// <summary>Opens the seat again in which a person has signed; refused where the plan does not let them.</summary>
    private async Task<HeldPackage> ReopenAsync(Act act, Who who, Guid package, HeldPackage held, string body, CancellationToken stop)
    {
        if (held.Slip.Signatures.LastOrDefault(s => s.Person == who.Id) is not { } signature) return held;
        var decision = SlipRules.Decide(held.Slip, new ReopenSeat(who.Id, signature.Seat), held.Context);
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        var change = held.After(decision, body);
        await recording.RecordAsync(act, package, held.Plan, change, stop);
        return held with { Slip = change.After };
    }

    /// <summary>
    /// Who hears of a new note: whom a question asks; the signers of a remark on the whole; and when somebody has a matter who has signed already,
    /// whoever is to sign and whoever coordinates, for they can act on it.
    /// </summary>
    private static async Task TellAsync(Act act, Who who, Guid package, HeldPackage held, NewNote wanted, int number, Guid askedOf, string body, CancellationToken stop)
    {
        void Tell(IEnumerable<Guid> people, string subject)
        {
            foreach (var person in people.Distinct()) act.Tell(Message.OfPackage(package, person, $"{held.Number}: {subject}: {held.Title}", body, number));
        }
        if (wanted.Kind == NoteKind.Question) Tell(held.Deputies.TryGetValue(askedOf, out var deputy) ? [askedOf, deputy] : [askedOf], $"{who.Name} asks");
        var awaited = held.Slip.Awaited().Select(a => a.Person).ToList();
        var hasSigned = held.Slip.Signatures.Any(s => s.Person == who.Id) && !awaited.Contains(who.Id);
        if (hasSigned && wanted.Kind != NoteKind.Request)
        {
            var folders = await act.ListAsync("SELECT DISTINCT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1)", r => r.GetString(0), [held.Slip.Items.Select(i => i.Document).ToArray()], stop);
            var coordinators = (await RightHolders.ReadAsync(act, Right.Coordinate, stop)).ForAll(folders) ?? new HashSet<Guid>();
            Tell(awaited.Concat(coordinators), $"{who.Name}, who has signed, has a matter");
        }
        else if (wanted is { Kind: NoteKind.Remark, Marks.Count: 0 })
        {
            Tell(awaited.Concat(held.Slip.Signatures.Select(s => s.Person)), $"{who.Name} remarks");
        }
    }

    /// <summary>Answers, closes, reopens or withdraws a note, or adds words to it.</summary>
    public async Task ActAsync(Who who, Guid note, NewNoteAct wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var body = Bounded(wanted.Body);
        // A return may split the note's item off into another package between the look and the lock; then it is looked for again.
        while (!await TryActAsync(who, note, wanted, body, stop))
        {
        }
    }

    private async Task<bool> TryActAsync(Who who, Guid note, NewNoteAct wanted, string body, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<NoteActDone>(wanted.Key, stop) is not null) return true;
        if (await SlipStore.PackageOfAsync(act, who, note, stop) is not { } package) throw Refused.Missing("note");
        // The package's row is the lock for its notes as well: a sign-off and a note's act never pass each other unseen.
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("note");
        var found = (await act.ListAsync(
            """
            SELECT n.number, n.kind, n.standing, n.author, (SELECT count(*)::int FROM note_act WHERE note_id = $1), n.package_id, n.answer IS NOT NULL, n.document_id,
                   (SELECT person_id FROM note_act WHERE note_id = $1 AND act = 'reopen' ORDER BY sequence DESC LIMIT 1), EXISTS (SELECT 1 FROM note_act WHERE note_id = $1 AND act = 'leave'), n.for_person, n.asked_of, n.round, n.body,
                   n.urgent, n.due, n.tags, n.on_package
            FROM note n WHERE n.id = $1
            """,
            r => new FoundNote(r.GetInt32(0), Words.Parse<NoteKind>(r.GetString(1)), Words.Parse<NoteStanding>(r.GetString(2)), r.GetGuid(3), r.GetInt32(4), r.GetGuid(5), r.GetBoolean(6), r.GetGuid(7), r.IdOrNull(8), r.GetBoolean(9), r.IdOrNull(10), r.GetGuid(11), r.GetInt32(12), r.GetString(13), NoteTermsRows.Read(r, 14)), [note], stop))[0];
        if (found.Package != package) return false;
        var actsFor = Reviewing.ActsFor(held.Slip, who.Id, held.Deputies);
        var actor = await ActorAsync(act, who, held, found, actsFor is not null, stop);
        var (standing, refusal) = NoteRules.Apply(found.Kind, found.Standing, wanted.Act, actor);
        var answer = wanted.Act == NoteAct.Answer && found.Kind == NoteKind.Request ? wanted.Answer ?? AnswerKind.Done : (AnswerKind?)null;
        refusal ??= NoteRules.CheckWords(found.Kind, found.Standing, wanted.Act, answer ?? AnswerKind.Done, body, actor.IsAuthor);
        if (refusal is not null) throw new Refused(refusal);
        if (standing == found.Standing && wanted.Act is (NoteAct.Close or NoteAct.Withdraw)) return true;
        var terms = wanted.Act == NoteAct.Edit ? TermsAnew(found, wanted.Terms) : null;
        if (wanted.Act == NoteAct.Edit && body == found.Body && terms is null) return true;
        act.Write("UPDATE note SET standing = $2, answer = coalesce($3, answer) WHERE id = $1", note, Words.Of(standing), answer is null ? null : Words.Of(answer.Value));
        act.Write(
            "INSERT INTO note_act (note_id, sequence, person_id, at, act, body) VALUES ($1, $2, $3, $4, $5, $6)",
            note, found.Acts + 1, who.Id, act.At.UtcDateTime, answer is null ? Words.Of(wanted.Act) : Words.Of(answer.Value), wanted.Act == NoteAct.Edit ? found.Body : body);
        // The thread keeps what it said before.
        if (wanted.Act == NoteAct.Edit) act.Write("UPDATE note SET body = $2 WHERE id = $1", note, body);
        if (terms is not null) act.Write("UPDATE note SET urgent = $2, due = $3::date, tags = $4 WHERE id = $1", note, terms.Urgent, terms.Due, terms.Tags.ToArray());
        var drafts = standing == NoteStanding.Withdrawn ? await Marking.WithdrawAsync(act, note, stop) : [];
        var absent = found.Author == who.Id || found.For == who.Id ? null
            : Reviewing.IsAsker(found.Author, found.For, who.Id, held.Deputies) ? found.Asker
            : wanted.Act is NoteAct.Close or NoteAct.Reopen && actsFor != who.Id ? actsFor
            : wanted.Act == NoteAct.Answer && found.AskedOf != who.Id && held.Originator != who.Id ? found.AskedOf : (Guid?)null;
        await act.AppendAsync(
            package, $"{Words.Of(found.Kind)} {Past(wanted.Act)}", body,
            terms is not null ? (object)new { Note = found.Number, For = absent, Terms = terms.Written() } : new { Note = found.Number, Answer = answer is null ? null : Words.Of(answer.Value), For = absent }, stop);
        if (found.Kind == NoteKind.Question && wanted.Act == NoteAct.Answer)
            act.Tell(Message.OfPackage(package, found.Author, $"{held.Number}: your question {found.Number} is answered", body, found.Number));
        if (found.Kind == NoteKind.Question && wanted.Act == NoteAct.Edit)
            act.Tell(Message.OfPackage(package, found.AskedOf, $"{held.Number}: {who.Name} words question {found.Number} anew: {held.Title}", body, found.Number));
        if (wanted.Act == NoteAct.Reply)
            foreach (var person in new[] { found.Author, found.Asker, found.AskedOf, held.Originator }.Distinct())
                act.Tell(Message.OfPackage(package, person, $"{held.Number}: {who.Name} replies on {Words.Of(found.Kind)} {found.Number}: {held.Title}", body, found.Number));
        // Whoever asked, and whoever made the change, learn what was found.
        if (found.Kind == NoteKind.Request && (wanted.Act == NoteAct.Close || (wanted.Act == NoteAct.Withdraw && !actor.IsAuthor)))
            foreach (var person in new[] { found.Author, found.Asker, held.Originator })
                act.Tell(Message.OfPackage(package, person, $"{held.Number}: request {found.Number} is {Past(wanted.Act)}: {held.Title}", $"{who.Name}: {body}", found.Number));
        await TellMentionedAsync(act, who, package, held, Words.Of(found.Kind), found.Number, wanted.Mentions, body, stop);
        act.Remember(wanted.Key, new NoteActDone(standing));
        await act.CommitAsync(stop);
        changes.Announce(act, "notes", package);
        foreach (var draft in drafts) changes.Announce("overlay", draft);
        return true;
    }

    /// <summary>What a note says besides its words from now on; null when that is what it said before.</summary>
    private NoteTerms? TermsAnew(FoundNote found, NoteTerms? wanted)
    {
        if (wanted is null) return null;
        var terms = wanted.Tidied() with { OnPackage = found.Terms.OnPackage };
        if (terms.Written() == found.Terms.Written()) return null;
        // A day that has passed since may stay; a new one may not have passed.
        if ((terms with { Due = terms.Due == found.Terms.Due ? null : terms.Due }).Fault(found.Kind, Today) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        return terms;
    }

    private sealed record FoundNote(int Number, NoteKind Kind, NoteStanding Standing, Guid Author, int Acts, Guid Package, bool WasAnswered, Guid Document, Guid? Reopener, bool IsLeft, Guid? For, Guid AskedOf, int Round, string Body, NoteTerms Terms)
    {
        /// <summary>Whose request it is: a deputy writes for the person who is away.</summary>
        public Guid Asker => For ?? Author;
    }

    /// <summary>Who acts, as the rules of the note see them.</summary>
    private static async Task<NoteActor> ActorAsync(Act act, Who who, HeldPackage held, FoundNote found, bool isAwaited, CancellationToken stop)
    {
        var folders = await act.ListAsync("SELECT DISTINCT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1)", r => r.GetString(0), [held.Slip.Items.Select(i => i.Document).ToArray()], stop);
        var away = await Schedules.AwayAsync(act, [found.Asker], act.At, stop);
        Guid[] documents = [.. held.Requests.Where(r => r.Number == found.Number).Select(r => r.Document), found.Document];
        var (isAway, coordinates) = (away.Contains(found.Asker), who.Rights.ForAll(Right.Coordinate, folders));
        return new NoteActor(Reviewing.IsAsker(found.Author, found.For, who.Id, held.Deputies), SlipRules.IsOriginator(held.Slip, who.Id, held.Deputies), isAwaited, held.Slip.Standing)
        {
            IsCarriedOver = found.Round == 0,
            AsksAnother = found.Kind == NoteKind.Question && found.AskedOf != held.Originator,
            IsAsked = found.AskedOf == who.Id || held.Deputies.GetValueOrDefault(found.AskedOf) == who.Id,
            HasSigned = Reviewing.HasSignedWith(held.Slip, found.Asker, documents),
            WasAnswered = found.WasAnswered,
            IsLeft = found.IsLeft,
            Settles = found.Reopener == who.Id || Reviewing.SettlesFor(held.Slip, found.Asker, who.Id, held.Deputies, isAway, found.IsLeft, coordinates),
            Withdraws = Reviewing.WithdrawsFor(held.Slip, found.Asker, who.Id, held.Deputies, isAway, found.IsLeft, coordinates),
            HoldsReturn = Reviewing.HoldsReturn(held.Slip, found.Number, documents, held.Requests),
        };
    }

    private static string Bounded(string text)
    {
        var trimmed = text.Trim();
        return trimmed.Length <= NoteRules.LongestText ? trimmed : throw Refused.Invalid("too-long", $"A note may have {NoteRules.LongestText:N0} characters; this one has {trimmed.Length:N0}.");
    }

    private static string Past(NoteAct act) => act switch
    {
        NoteAct.Answer => "answered",
        NoteAct.Close => "closed",
        NoteAct.Reopen => "reopened",
        NoteAct.Leave => "left",
        NoteAct.Reply => "replied",
        NoteAct.Edit => "edited",
        _ => "withdrawn",
    };
}
