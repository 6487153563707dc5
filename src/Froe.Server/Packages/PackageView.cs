using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Calendar;
using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A document of a package, with the draft under review.</summary>
/// <param name="EarlierDrafts">Drafts of earlier rounds of this package, oldest first.</param>
public sealed record PackageItem(
    Guid Document, string Number, string Title, string Revision, Guid Draft, int Ordinal, string Sha256, string FileName, string Standing,
    IReadOnlyList<EarlierDraft> EarlierDrafts, IReadOnlyList<NotShown> NotShown)
{
    /// <summary>Whose signatures on it would stand in the next round, and fall if it got another draft; while the package is back.</summary>
    public required IReadOnlyList<Guid> WouldFall { get; init; }

    /// <summary>What is drawn on the draft; null for nothing.</summary>
    public FirstMarkup? Marked { get; init; }

    /// <summary>Why it came again as it was, though it had been returned: the answers; empty when it did not.</summary>
    public required IReadOnlyList<string> Unchanged { get; init; }
}

/// <summary>A draft that an earlier round looked at.</summary>
public sealed record EarlierDraft(Guid Draft, int Ordinal, int Round);

/// <summary>A sign-off of any round.</summary>
public sealed record SignOffRow(Guid Id, int Round, string Seat, Guid Person, string Name, string Initials, DateTimeOffset At, string Remark, IReadOnlyList<VerdictRow> Verdicts, bool Stands, Guid? For, IReadOnlyList<CheckpointAnswer> Answers);

/// <summary>A verdict of a sign-off.</summary>
public sealed record VerdictRow(Guid Document, Guid Draft, string Sha256, Verdict Verdict, string Reason)
{
    /// <summary>The draft under which it stands now: in a later round another may have the same bytes, and an answer to what was noted names that one. Null where it stands no more.</summary>
    public Guid? StandsUnder { get; init; }

    /// <summary>Whether it stands now: with its signature, or carried over while its person has not signed again; in what is released, for good.</summary>
    public bool Stands { get; init; }

    /// <summary>How much of the item's sheets the signer had seen at a legible size, in hundredths, where the step asked for it.</summary>
    public int? Seen { get; init; }

    /// <summary>What the originator answered to what was noted; null when nothing was, or not yet.</summary>
    public string? Answer { get; init; }

    /// <summary>Whether what was noted waits for an answer here.</summary>
    public bool WantsAnswer { get; init; }
}

/// <summary>A note with its thread.</summary>
/// <param name="Draft">The draft it was written on.</param>
public sealed record NoteRow(
    Guid Id, int Number, Guid Document, Guid Draft, int Round, NoteKind Kind, NoteStanding Standing, Guid Author, string AuthorName, string AuthorInitials,
    DateTimeOffset At, string Body, AnswerKind? Answer, IReadOnlyList<NoteActRow> Acts)
{
    /// <summary>Its places as they were drawn, those on the draft it was written on first.</summary>
    public required IReadOnlyList<NoteMark> Marks { get; init; }

    /// <summary>The drafts it lies on, of those that the package has held of the documents it speaks of.</summary>
    public required IReadOnlyList<NotePlace> Places { get; init; }

    /// <summary>What who looks may do with it.</summary>
    public required IReadOnlyList<NoteAct> May { get; init; }

    /// <summary>The absent person for whom a deputy wrote it.</summary>
    public Guid? For { get; init; }

    /// <summary>Whom it asks: the originator, or whom the originator asks.</summary>
    public required Guid AskedOf { get; init; }

    /// <summary>What it says besides its words.</summary>
    public required NoteTerms Terms { get; init; }

    /// <summary>Whether it comes before other things now: it is urgent, or the day by which it was wanted has passed.</summary>
    public required bool Presses { get; init; }

    /// <summary>Who reopened it last.</summary>
    internal Guid? Reopener { get; init; }

    /// <summary>Whether its author has left it to others.</summary>
    internal bool IsLeft { get; init; }
}

/// <summary>A draft that a note lies on, and how it came there.</summary>
public sealed record NotePlace(Guid Draft, Carriage How);

/// <summary>One act in a note's thread.</summary>
public sealed record NoteActRow(string Name, DateTimeOffset At, string Act, string Body);

/// <summary>A question for advice, with its answer.</summary>
/// <param name="Note">Number of the note it is about; null when it is about the package.</param>
public sealed record AdviceRow(Guid Id, Guid AskedBy, Guid AskedOf, DateTimeOffset At, string Question, string? Answer, DateTimeOffset? AnsweredAt, int? Note);

/// <summary>Whose signature is awaited.</summary>
/// <param name="Left">How far off that is, for who looks.</param>
public sealed record AwaitedRow(Guid Person, string Seat, string Step, DateTimeOffset Since, DateTimeOffset Due, TimeLeft Left);

/// <summary>A release that nobody signed for.</summary>
/// <param name="By">Who brought it about; empty when the plan's rules did.</param>
public sealed record UnsignedRelease(string By, string Reason);

/// <summary>The sender's words with a round.</summary>
public sealed record RoundWords(int Round, DateTimeOffset At, string Name, string CoveringNote);

/// <summary>The drafts on which who signs in a seat gives a verdict: no verdict of its holder stands on them from the last round.</summary>
public sealed record SeatItems(string Seat, Guid For, IReadOnlyList<Guid> Drafts);

/// <summary>A package as the bench shows it.</summary>
public sealed record PackageView(
    Guid Id, string Number, string Title, string CoveringNote, Guid Originator, string OriginatorName, DateTimeOffset SentAt, DateTimeOffset RoundAt, int Round, string Standing,
    Slip Slip, IReadOnlyList<PackageItem> Items, IReadOnlyList<SignOffRow> SignOffs, IReadOnlyList<NoteRow> Notes, IReadOnlyList<AwaitedRow> Awaited, IReadOnlyList<Guid> Informed, string Statement)
{
    /// <summary>Questions for advice, oldest first.</summary>
    public IReadOnlyList<AdviceRow> Advice { get; init; } = [];

    /// <summary>When the steps to come will open and pass; null when it is not on its way.</summary>
    public ForecastResult? Forecast { get; init; }

    /// <summary>Released without signatures: by whom, and why; null when it was signed, or is not released.</summary>
    public UnsignedRelease? Unsigned { get; init; }

    /// <summary>Choices for which signers picked different ways: their steps wait until they agree.</summary>
    public required IReadOnlyList<PicksDiffer> Differing { get; init; }

    /// <summary>What was said with each round, first to last.</summary>
    public required IReadOnlyList<RoundWords> Rounds { get; init; }

    /// <summary>Since when the package waits for its originator; null when it does not.</summary>
    public DateTimeOffset? WaitsSince { get; init; }

    /// <summary>Until when the originator is to answer; null when the plan sets no time, or nothing waits for them.</summary>
    public DateTimeOffset? AnswerDue { get; init; }

    /// <summary>How far off that is, for who looks.</summary>
    public TimeLeft? AnswerLeft { get; init; }

    /// <summary>Whether everything is signed and the release waits for the originator's answers.</summary>
    public bool IsHeld { get; init; }

    /// <summary>The package these items came from, item by item; null when they were sent together.</summary>
    public Guid? SplitFrom { get; init; }

    /// <summary>The plan it was sent with.</summary>
    public Guid? PlanOf { get; init; }

    /// <summary>What who looks may do with it.</summary>
    public required PackageMay May { get; init; }

    /// <summary>What is to be judged in each seat that who looks may sign in.</summary>
    public IReadOnlyList<SeatItems> ToJudge { get; init; } = [];

    /// <summary>Drafts under review that who looks has had open.</summary>
    public IReadOnlyList<Guid> Opened { get; init; } = [];
}

/// <summary>Reads packages for people to see.</summary>
public sealed class PackageViews(Database database, Schedules schedules, TimeProvider clock)
{
    /// <summary>A package as one person sees it, or null.</summary>
    public async Task<PackageView?> FindAsync(Guid id, Who who, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var head = await database.FirstAsync(
            """
            SELECT k.number, k.title, k.covering_note, k.originator, p.name, k.sent_at, k.round_at, k.round, k.standing, k.slip::text, k.split_from, k.plan_id
            FROM package k JOIN person p ON p.id = k.originator WHERE k.id = $1
            """,
            r => new PackageView(
                id, r.GetString(0), r.GetString(1), r.GetString(2), r.GetGuid(3), r.GetString(4), r.Time(5), r.Time(6), r.GetInt32(7), r.GetString(8),
                SlipStore.Read(r.GetString(9)), [], [], [], [], [], Signature.Statement)
            { May = Nothing, Differing = [], Rounds = [], SplitFrom = r.IsDBNull(10) ? null : r.GetGuid(10), PlanOf = r.IsDBNull(11) ? null : r.GetGuid(11) }, [id], stop);
        if (head is null) return null;
        var items = await ItemsAsync(id, head.Round, stop);
        var deputies = await Schedules.DeputiesAsync(database, clock.GetUtcNow(), stop);
        var today = schedules.Today();
        var found = await NotesAsync(id, stop);
        var signOffs = await SignOffsAsync(id, stop);
        var context = (await ContextAsync(who, head, found, deputies, stop)) with { SignedThisRound = signOffs.Any(s => s.Stands && s.Round == head.Round) };
        var away = await Schedules.AwayAsync(database, found.Where(n => n.Kind == NoteKind.Request).Select(n => n.For ?? n.Author).Distinct(), clock.GetUtcNow(), stop);
        var notes = found.ConvertAll(n => n with
        {
            Places = [.. Documents(n).Distinct().SelectMany(w => items.Where(i => i.Document == w.Document).SelectMany(i => i.EarlierDrafts.Select(e => e.Draft).Append(i.Draft)).Append(w.Draft).Distinct()
                .Select(d => (Draft: d, How: Carrying.On(n.Kind, w.Draft, n.Round, d, head.Slip)))).Where(p => p.How is not null).DistinctBy(p => p.Draft).Select(p => new NotePlace(p.Draft, p.How!.Value))],
            Presses = n.Terms.Presses(n.Standing, today),
            May = Possible.Of(n.Kind, n.Standing, new NoteActor(Reviewing.IsAsker(n.Author, n.For, who.Id, deputies), SlipRules.IsOriginator(head.Slip, who.Id, deputies), Reviewing.IsAwaited(head.Slip, who.Id, deputies), head.Slip.Standing)
            {
                HasSigned = Reviewing.HasSignedWith(head.Slip, n.For ?? n.Author, Documents(n).Select(d => d.Document)),
                WasAnswered = n.Answer is not null,
                IsLeft = n.IsLeft,
                IsCarriedOver = n.Round == 0,
                AsksAnother = n.Kind == NoteKind.Question && n.AskedOf != head.Originator,
                IsAsked = n.AskedOf == who.Id || deputies.GetValueOrDefault(n.AskedOf) == who.Id,
                Withdraws = Reviewing.WithdrawsFor(head.Slip, n.For ?? n.Author, who.Id, deputies, away.Contains(n.For ?? n.Author), n.IsLeft, context.MayCoordinate),
                Settles = n.Reopener == who.Id || Reviewing.SettlesFor(head.Slip, n.For ?? n.Author, who.Id, deputies, away.Contains(n.For ?? n.Author), n.IsLeft, context.MayCoordinate),
                HoldsReturn = Reviewing.HoldsReturn(head.Slip, n.Number, Documents(n).Select(d => d.Document), context.OpenRequests),
            }),
        });
        var waits = await database.FirstAsync("SELECT since, due FROM awaited_answer WHERE package_id = $1", r => Tuple.Create(r.Time(0), r.TimeOrNull(1)), [id], stop);
        var marked = await OverlayRows.FirstAsync(database, who.Id, [.. items.Select(i => i.Draft)], stop);
        var falling = SlipRules.WouldFall(head.Slip);
        var left = await schedules.LeftForAsync(who.Id, stop);
        var may = Possible.Of(head.Slip, who.Id, context);
        return head with
        {
            May = may,
            ToJudge = [.. may.Seats.Select(s => new SeatItems(s.Seat, s.For, [.. head.Slip.ToJudge(s.Seat, s.For).Select(i => i.Draft)]))],
            Opened = await database.ListAsync("SELECT draft_id FROM draft_opened WHERE person_id = $1 AND draft_id = ANY ($2)", r => r.GetGuid(0), [who.Id, items.Select(i => i.Draft).ToArray()], stop),
            Unsigned = head.Slip is { Standing: SlipStanding.Released, Signatures.IsEmpty: true } ? await UnsignedAsync(id, head.Slip, stop) : null,
            IsHeld = head.Slip.IsHeld,
            Differing = [.. head.Slip.Differing()],
            WaitsSince = waits?.Item1,
            AnswerDue = waits?.Item2,
            AnswerLeft = waits?.Item2 is { } due ? left(due) : null,
            Rounds = await RoundsAsync(id, stop),
            Forecast = head.Slip.Standing == SlipStanding.InReview ? await ForecastAsync(id, head, stop) : null,
            Advice = await database.ListAsync(
                "SELECT a.id, a.asked_by, a.asked_of, a.at, a.question, a.answer, a.answered_at, n.number FROM advice a LEFT JOIN note n ON n.id = a.note_id WHERE a.package_id = $1 ORDER BY a.at",
                r => new AdviceRow(r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.Time(3), r.GetString(4), r.TextOrNull(5), r.TimeOrNull(6), r.IsDBNull(7) ? null : r.GetInt32(7)), [id], stop),
            Items = [.. items.Select(i => i with { Marked = marked.GetValueOrDefault(i.Draft), WouldFall = [.. falling[i.Document]], Unchanged = Unchanged(i, head.Round, signOffs, notes) })],
            SignOffs = [.. signOffs.Select(s => s with { Verdicts = [.. s.Verdicts.Select(v => Now(head.Slip, context, s, v))] })],
            Notes = notes,
            Awaited = await database.ListAsync(
                "SELECT person_id, seat, step, since, due FROM awaited WHERE package_id = $1 ORDER BY due",
                r => new AwaitedRow(r.GetGuid(0), r.GetString(1), r.GetString(2), r.Time(3), r.Time(4), left(r.Time(4))), [id], stop),
            Informed = await database.ListAsync("SELECT person_id FROM package_informed WHERE package_id = $1", r => r.GetGuid(0), [id], stop),
        };
    }

    /// <summary>A verdict as it stands now. One that was carried over lies under its first signature until its person signs again, and in what is released under it still.</summary>
    private static VerdictRow Now(Slip slip, SlipContext context, SignOffRow signOff, VerdictRow verdict)
    {
        var standing = slip.InForce().Where(s => s.Seat == signOff.Seat && s.Holder == (signOff.For ?? signOff.Person))
            .SelectMany(s => s.Verdicts.Select(v => (s.Person, Verdict: v))).FirstOrDefault(s => SlipRules.DocumentOf(slip, s.Verdict.Draft, context) == verdict.Document && s.Verdict.Sha256 == verdict.Sha256 && s.Verdict.Verdict == verdict.Verdict);
        if (standing.Verdict is not { } stands) return verdict;
        var answer = slip.NotedAnswers.LastOrDefault(a => a.Seat == signOff.Seat && a.Signer == standing.Person && a.Draft == stands.Draft)?.Words;
        return verdict with
        {
            Stands = true,
            StandsUnder = stands.Draft,
            Answer = answer,
            WantsAnswer = slip.Standing == SlipStanding.InReview && slip.UnansweredNoted().Any(n => n.Signature.Seat == signOff.Seat && n.Signature.Person == standing.Person && n.Verdict == stands),
        };
    }

    /// <summary>What was said with each round, by the ledger: of the package that this one was split off from, too.</summary>
    private Task<List<RoundWords>> RoundsAsync(Guid package, CancellationToken stop) => database.ListAsync(
        """
        WITH RECURSIVE line AS (
            SELECT id, split_from, sent_at, true AS own FROM package WHERE id = $1
            UNION ALL SELECT k.id, k.split_from, l.sent_at, false FROM line l JOIN package k ON k.id = l.split_from)
        SELECT coalesce((e.payload::jsonb ->> 'round')::int, 1), e.at, p.name, e.reason
        FROM line l JOIN ledger_entry e ON e.chain = l.id JOIN person p ON p.id = e.person_id
        WHERE e.action IN ('package sent', 'package sent again') AND (l.own OR e.at < l.sent_at) ORDER BY e.at
        """,
        r => new RoundWords(r.GetInt32(0), r.Time(1), r.GetString(2), r.GetString(3)), [package], stop);

    /// <summary>What a note speaks of: what it was written on, and where its places lie.</summary>
    private static IEnumerable<(Guid Document, Guid Draft)> Documents(NoteRow note) => note.Marks.Select(m => (m.Document, m.Draft)).Prepend((note.Document, note.Draft));

    /// <summary>Returned in an earlier round and under review again with the same bytes: what the originator answered.</summary>
    private static IReadOnlyList<string> Unchanged(PackageItem item, int round, List<SignOffRow> signOffs, List<NoteRow> notes) =>
        !signOffs.Any(s => s.Round < round && s.Verdicts.Any(v => v.Document == item.Document && v.Sha256 == item.Sha256 && v.Verdict == Verdict.ReturnForChanges)) ? []
        : [.. notes.Where(n => NoteRules.ChangesNothing(n.Answer) && Documents(n).Any(d => d.Document == item.Document)).Select(n => n.Acts.LastOrDefault(a => a.Act == Words.Of(n.Answer!.Value))?.Body ?? "")];

    private static readonly PackageMay Nothing = new([], false, false, false, false, false, [], [], [], [], [], [], false, false, false, false) { BringIn = false };

    /// <summary>What the rules must know to say what somebody may do. Groups are read for coordinators only: nobody else changes a plan.</summary>
    private async Task<SlipContext> ContextAsync(Who who, PackageView head, List<NoteRow> notes, IReadOnlyDictionary<Guid, Guid> deputies, CancellationToken stop)
    {
        var folders = await database.ListAsync("SELECT DISTINCT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1)", r => r.GetString(0), [head.Slip.Items.Select(i => i.Document).ToArray()], stop);
        var coordinates = who.Rights.ForAll(Right.Coordinate, folders);
        return new SlipContext(
            coordinates ? await People.FillingAsync(database, stop) : SlipContext.Empty.Groups,
            [.. notes.Where(n => n is { Kind: NoteKind.Request, Standing: NoteStanding.Open or NoteStanding.Answered })
                .SelectMany(n => Documents(n).Select(d => d.Document).Distinct().Select(d => new OpenRequest(n.Number, d, n.Round, n.For ?? n.Author, n.Standing == NoteStanding.Answered) { ChangesNothing = NoteRules.ChangesNothing(n.Answer) }))])
        {
            Deputies = deputies,
            MayCoordinate = coordinates,
            EarlierDrafts = await SlipStore.EarlierDraftsAsync(database, head.Slip, stop),
        };
    }

    private async Task<UnsignedRelease> UnsignedAsync(Guid id, Slip slip, CancellationToken stop)
    {
        var entry = await database.FirstAsync(
            "SELECT p.name, e.reason FROM ledger_entry e LEFT JOIN person p ON p.id = e.person_id WHERE e.chain = $1 AND e.action = 'package released' ORDER BY e.sequence DESC LIMIT 1", r => Tuple.Create(r.TextOrNull(0), r.GetString(1)), [id], stop);
        var skipped = slip.Seats.Any(s => s.Skipped);
        return new UnsignedRelease(skipped ? entry?.Item1 ?? "" : "", skipped ? entry?.Item2 ?? "" : slip.Plan.NeedsNoSignature);
    }

    /// <summary>Few runs: a bench is opened often, and its strip shows days, not hours.</summary>
    private async Task<ForecastResult> ForecastAsync(Guid id, PackageView head, CancellationToken stop)
    {
        const int Runs = 400;
        var slip = head.Slip;
        var workers = await schedules.WorkersAsync(slip.Seated().Append(slip.Originator), stop);
        var opened = await database.ListAsync("SELECT step, opened_at FROM step_passage WHERE package_id = $1 AND round = $2 AND passed_at IS NULL", r => (r.GetString(0), r.Time(1)), [id, slip.Round], stop);
        var past = head.PlanOf is { } plan ? await schedules.PastAsync(plan, slip.Plan.Steps().Select(s => s.Key), workers[slip.Originator], stop) : new Dictionary<string, ImmutableArray<double>>();
        return Forecast.Of(new ForecastInput(slip.Plan, slip.Seats, slip.Facts, clock.GetUtcNow(), p => workers[p], past) { Slip = slip, Opened = opened.Where(o => slip.Open.Contains(o.Item1)).ToDictionary(o => o.Item1, o => o.Item2) }, Runs, 1);
    }

    private async Task<List<PackageItem>> ItemsAsync(Guid package, int round, CancellationToken stop)
    {
        var earlier = (await database.ListAsync(
            """
            SELECT DISTINCT ON (i.draft_id) i.document_id, i.draft_id, w.ordinal, i.round
            FROM package_item i JOIN draft w ON w.id = i.draft_id WHERE i.package_id = $1 ORDER BY i.draft_id, i.round
            """,
            r => (Document: r.GetGuid(0), Draft: new EarlierDraft(r.GetGuid(1), r.GetInt32(2), r.GetInt32(3))), [package], stop)).ToLookup(e => e.Document, e => e.Draft);
        return await database.ListAsync(
            """
            SELECT d.id, d.number, d.title, r.label, w.id, w.ordinal, w.sha256, w.file_name, r.standing, (w.report -> 'notShown')::text
            FROM package_item i JOIN document d ON d.id = i.document_id JOIN revision r ON r.id = i.revision_id JOIN draft w ON w.id = i.draft_id
            WHERE i.package_id = $1 AND i.round = $2 ORDER BY i.position
            """,
            r => new PackageItem(
                r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetGuid(4), r.GetInt32(5), r.Hash(6), r.GetString(7), r.GetString(8),
                [.. earlier[r.GetGuid(0)].Where(e => e.Draft != r.GetGuid(4)).OrderBy(e => e.Round)],
                JsonSerializer.Deserialize<NotShown[]>(r.TextOrNull(9) ?? "[]", JsonSerializerOptions.Web) ?? [])
            { WouldFall = [], Unchanged = [] }, [package, round], stop);
    }

    private async Task<List<SignOffRow>> SignOffsAsync(Guid package, CancellationToken stop)
    {
        var verdicts = (await database.ListAsync(
            "SELECT v.sign_off_id, w.document_id, v.draft_id, v.sha256, v.verdict, v.reason, v.seen FROM verdict v JOIN sign_off s ON s.id = v.sign_off_id JOIN draft w ON w.id = v.draft_id WHERE s.package_id = $1",
            r => (SignOff: r.GetGuid(0), Row: new VerdictRow(r.GetGuid(1), r.GetGuid(2), r.Hash(3), Words.Parse<Verdict>(r.GetString(4)), r.GetString(5)) { Seen = r.IsDBNull(6) ? null : r.GetInt16(6) }), [package], stop)).ToLookup(v => v.SignOff, v => v.Row);
        return await database.ListAsync(
            "SELECT s.id, s.round, s.seat, s.person_id, p.name, p.initials, s.at, s.remark, s.stands, s.for_person, s.answers::text FROM sign_off s JOIN person p ON p.id = s.person_id WHERE s.package_id = $1 ORDER BY s.at",
            r => new SignOffRow(r.GetGuid(0), r.GetInt32(1), r.GetString(2), r.GetGuid(3), r.GetString(4), r.GetString(5), r.Time(6), r.GetString(7), [.. verdicts[r.GetGuid(0)]], r.GetBoolean(8),
                r.IsDBNull(9) ? null : r.GetGuid(9), JsonSerializer.Deserialize<CheckpointAnswer[]>(r.GetString(10), Act.Json)!), [package], stop);
    }

    private async Task<List<NoteRow>> NotesAsync(Guid package, CancellationToken stop)
    {
        var acts = (await database.ListAsync(
            """
            SELECT a.note_id, p.name, a.at, a.act, a.body
            FROM note_act a JOIN note n ON n.id = a.note_id JOIN person p ON p.id = a.person_id WHERE n.package_id = $1 ORDER BY a.sequence
            """,
            r => (Note: r.GetGuid(0), Row: new NoteActRow(r.GetString(1), r.Time(2), r.GetString(3), r.GetString(4))), [package], stop)).ToLookup(a => a.Note, a => a.Row);
        var marks = (await OverlayRows.OfNotesAsync(database, package, stop)).ToLookup(m => m.Note);
        return await database.ListAsync(
            """
            SELECT n.id, n.number, n.document_id, n.draft_id, n.round, n.kind, n.standing, n.author, p.name, p.initials, n.at, n.body, n.answer,
                   (SELECT t.person_id FROM note_act t WHERE t.note_id = n.id AND t.act = 'reopen' ORDER BY t.sequence DESC LIMIT 1), EXISTS (SELECT 1 FROM note_act t WHERE t.note_id = n.id AND t.act = 'leave'), n.for_person, n.asked_of, n.urgent, n.due, n.tags, n.on_package
            FROM note n JOIN person p ON p.id = n.author WHERE n.package_id = $1 AND n.standing <> 'withdrawn' ORDER BY n.number
            """,
            r => new NoteRow(
                r.GetGuid(0), r.GetInt32(1), r.GetGuid(2), r.GetGuid(3), r.GetInt32(4), Words.Parse<NoteKind>(r.GetString(5)), Words.Parse<NoteStanding>(r.GetString(6)),
                r.GetGuid(7), r.GetString(8), r.GetString(9), r.Time(10), r.GetString(11), r.IsDBNull(12) ? null : Words.Parse<AnswerKind>(r.GetString(12)), [.. acts[r.GetGuid(0)]])
            { Marks = [.. marks[r.GetGuid(0)]], Places = [], May = [], Reopener = r.IdOrNull(13), IsLeft = r.GetBoolean(14), For = r.IdOrNull(15), AskedOf = r.GetGuid(16), Terms = NoteTermsRows.Read(r, 17), Presses = false }, [package], stop);
    }
}
