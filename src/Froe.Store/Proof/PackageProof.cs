using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>A note as the ledger tells it.</summary>
internal sealed record ToldNote(int Number, string Kind, Guid Document, Guid Draft, ImmutableArray<ToldMark> Marks, Guid Author, DateTimeOffset At, string Body, int Round, Guid? For, string? Terms)
{
    public string Standing { get; set; } = "open";

    /// <summary>What it says by now; the first words are the thread's.</summary>
    public string Body { get; set; } = Body;

    /// <summary>What it says besides its words by now.</summary>
    public string? Terms { get; set; } = Terms;

    public List<(Guid Person, DateTimeOffset At, string Act, string Body)> Acts { get; init; } = [];
}

/// <summary>A question for advice as the ledger tells it.</summary>
internal sealed record ToldAdvice(Guid Id, Guid By, Guid Of, DateTimeOffset At, string Question, Guid? Note)
{
    public string? Answer { get; set; }

    public DateTimeOffset? AnsweredAt { get; set; }
}

/// <summary>A sign-off as the ledger tells it.</summary>
/// <param name="Judged">The drafts it gave verdicts on itself; others may stand from the round before.</param>
/// <param name="IsCopied">Whether it was given in the package that this one was split off from.</param>
internal sealed record ToldSignOff(Signature Signature, int Round, DateTimeOffset At, string Remark, HashSet<Guid> Judged, bool IsCopied)
{
    public ImmutableArray<SignedOverlay> Overlays { get; init; } = [];

    public bool Stands { get; set; } = true;
}

/// <summary>What a package's chain tells, folded from its first entry to its last; and whether the tables say the same.</summary>
internal sealed class PackageProof
{
    private readonly Dictionary<int, ToldNote> notes = [];
    private readonly List<ToldNote> gone = [];
    private readonly Dictionary<Guid, ToldAdvice> advice = [];
    private readonly List<ToldSignOff> signOffs = [];
    private readonly Dictionary<Guid, int> noteNumbers = [];
    private int lastNote;
    private string coveringNote = "";
    private DateTimeOffset sentAt, roundAt;

    public Slip Slip { get; private set; } = Slip.Blank;

    /// <summary>Documents that came back with the last return; empty when all did, or none.</summary>
    public IReadOnlyCollection<Guid> Returned { get; private set; } = [];

    /// <summary>Tells the whole chain.</summary>
    /// <param name="before">For a package split off, what the one it came from told until then.</param>
    /// <param name="ids">Numbers of notes by their ids: advice names a note by its id.</param>
    public static PackageProof Of(IEnumerable<ToldEntry> chain, PackageProof? before, IEnumerable<(Guid Id, int Number)> ids)
    {
        var told = new PackageProof();
        foreach (var (id, number) in ids) told.noteNumbers[id] = number;
        foreach (var entry in chain) told.Tell(entry, before);
        return told;
    }

    private void Tell(ToldEntry entry, PackageProof? before)
    {
        // An event's discriminator is written first.
        if (entry.Payload.AsSpan().StartsWith("{\"event\":"u8))
        {
            Happened(entry, JsonSerializer.Deserialize<SlipEvent>(entry.Payload, Act.Json)!, before);
            return;
        }
        using var json = JsonDocument.Parse(entry.Payload);
        var payload = json.RootElement;
        if (payload.ValueKind != JsonValueKind.Object) return;
        switch (entry.Action.Split(' '))
        {
            case [var kind, "written"] when kind is "request" or "question" or "remark":
                lastNote = payload.GetProperty("note").GetInt32();
                notes[lastNote] = new ToldNote(
                    lastNote, kind, payload.GetProperty("document").GetGuid(), payload.GetProperty("draft").GetGuid(), Marks(payload),
                    entry.Person ?? Guid.Empty, entry.At, entry.Reason, Slip.Round, payload.TryGetProperty("for", out var absent) && absent.ValueKind == JsonValueKind.String ? absent.GetGuid() : null, Terms(payload));
                break;
            case ["request", "brought", "along"]:
                lastNote = payload.GetProperty("note").GetInt32();
                notes[lastNote] = new ToldNote(
                    lastNote, "request", payload.GetProperty("document").GetGuid(), payload.GetProperty("draft").GetGuid(), [], payload.GetProperty("author").GetGuid(), payload.GetProperty("at").GetDateTimeOffset(),
                    entry.Reason, 0, payload.TryGetProperty("for", out var away) && away.ValueKind == JsonValueKind.String ? away.GetGuid() : null, Terms(payload));
                notes[lastNote].Acts.Add((entry.Person ?? Guid.Empty, entry.At, "brought along", payload.GetProperty("from").GetString() ?? ""));
                break;
            case ["request", "carried", "over"] when notes.TryGetValue(payload.GetProperty("note").GetInt32(), out var on):
                on.Standing = "carried over";
                on.Acts.Add((entry.Person ?? Guid.Empty, entry.At, "carried over", payload.GetProperty("to").GetString() ?? ""));
                break;
            case [var kind, var past] when kind is "request" or "question" or "remark" && notes.TryGetValue(payload.GetProperty("note").GetInt32(), out var found):
                // Earlier entries wrote an answer's word in another form.
                var answer = payload.TryGetProperty("answer", out var given) && given.GetString() is { } word ? Words.Of(Words.Parse<AnswerKind>(word)) : null;
                (found.Standing, var act) = past switch { "answered" => ("answered", "answer"), "closed" => ("closed", "close"), "reopened" => ("open", "reopen"), "left" => (found.Standing, "leave"), "replied" => (found.Standing, "reply"), "edited" => (found.Standing, "edit"), _ => ("withdrawn", "withdraw") };
                found.Acts.Add((entry.Person ?? Guid.Empty, entry.At, answer ?? act, past == "edited" ? found.Body : entry.Reason));
                if (past == "edited") found.Body = entry.Reason;
                if (past == "edited" && payload.TryGetProperty("terms", out var terms)) found.Terms = terms.GetString();
                break;
            case ["advice", "asked"]:
                var about = payload.TryGetProperty("note", out var n) && n.ValueKind == JsonValueKind.String ? n.GetGuid() : (Guid?)null;
                var asked = new ToldAdvice(payload.GetProperty("advice").GetGuid(), entry.Person ?? Guid.Empty, payload.GetProperty("of").GetGuid(), entry.At, entry.Reason, about);
                advice[asked.Id] = asked;
                Join(asked, entry);
                break;
            case ["advice", "given"] when advice.TryGetValue(payload.GetProperty("advice").GetGuid(), out var asked2):
                (asked2.Answer, asked2.AnsweredAt) = (entry.Reason, entry.At);
                Join(asked2, entry);
                break;
        }
    }

    private static string? Terms(JsonElement payload) => payload.TryGetProperty("terms", out var terms) ? terms.GetString() : null;

    /// <summary>The places a note was written with; before notes had any number of them, one stood in the note itself.</summary>
    private static ImmutableArray<ToldMark> Marks(JsonElement payload) => payload.TryGetProperty("marks", out var marks)
        ? [.. marks.Deserialize<ToldMark[]>(Act.Json)!]
        : [new ToldMark(null, new OnSheet(payload.GetProperty("sheet").GetInt32()), payload.GetProperty("shape").Deserialize<Shape>(Act.Json)!)];

    private void Join(ToldAdvice asked, ToldEntry entry)
    {
        if (asked.Note is { } id && noteNumbers.TryGetValue(id, out var number) && notes.TryGetValue(number, out var found)) found.Acts.Add((entry.Person ?? Guid.Empty, entry.At, entry.Action, entry.Reason));
    }

    private void Happened(ToldEntry entry, SlipEvent happened, PackageProof? before)
    {
        switch (happened)
        {
            case PackageSent:
                (sentAt, roundAt, coveringNote) = (entry.At, entry.At, entry.Reason);
                break;
            case PackageSentAgain again:
                roundAt = entry.At;
                if (entry.Reason.Length > 0) coveringNote = entry.Reason;
                Keep(again.Kept);
                break;
            case StepReturned returned:
                Keep(returned.Kept);
                break;
            case SignatureTakenBack back:
                foreach (var given in signOffs.Where(s => s.Stands && s.Signature.Seat == back.Seat && s.Signature.Person == back.Person)) given.Stands = false;
                break;
            case SignedOff { Signature: var signature, Overlays: var overlays }:
                signOffs.Add(new ToldSignOff(signature, Slip.Round, entry.At, entry.Reason, [.. Slip.ToJudge(signature.Seat, signature.Holder).Select(i => i.Draft)], false) { Overlays = overlays });
                break;
            case PackageReturned returned:
                if (returned.SignAgain) Keep([]);
                Returned = returned.Documents.IsEmpty ? [.. Slip.Items.Select(i => i.Document)] : [.. returned.Documents];
                break;
            case ItemsSplitOff split:
                var documents = split.Items.Select(i => i.Document).ToHashSet();
                foreach (var left in notes.Values.Where(n => documents.Contains(n.Document)).ToList())
                {
                    notes.Remove(left.Number);
                    gone.Add(left);
                }
                break;
            case SplitFrom from:
                (sentAt, roundAt) = (entry.At, entry.At);
                Returned = [.. from.Slip.Items.Select(i => i.Document)];
                signOffs.AddRange(from.Slip.Signatures.Select(s => new ToldSignOff(s, from.Slip.Round, default, "", [.. s.Verdicts.Select(v => v.Draft)], true)));
                if (before is null) break;
                (coveringNote, lastNote) = (before.coveringNote, before.lastNote);
                foreach (var came in before.gone.Where(g => Returned.Contains(g.Document))) notes[came.Number] = came;
                foreach (var came in before.advice.Values.Where(a => a.Note is { } id && noteNumbers.TryGetValue(id, out var number) && notes.ContainsKey(number))) advice[came.Id] = came;
                break;
        }
        Slip = SlipRules.Evolve(Slip, happened);
    }

    private void Keep(IEnumerable<Signature> kept)
    {
        var stand = kept.Select(k => (k.Seat, k.Person)).ToHashSet();
        foreach (var given in signOffs.Where(s => !stand.Contains((s.Signature.Seat, s.Signature.Person)))) given.Stands = false;
    }

    // ---- the tables ----

    public const string RowsSql = "SELECT id, number, title, covering_note, originator, sent_at, round_at, round, standing, held, item_count, last_note, slip::text, split_from FROM package";

    /// <summary>A package as its row says.</summary>
    public sealed record PackageRow(Guid Id, string Number, string Title, string CoveringNote, Guid Originator, DateTimeOffset SentAt, DateTimeOffset RoundAt, int Round, string Standing, bool IsHeld, int Items, int LastNote, string Slip, Guid? SplitFrom);

    public static PackageRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetGuid(4), r.Time(5), r.Time(6), r.GetInt32(7), r.GetString(8), r.GetBoolean(9), r.GetInt32(10), r.GetInt32(11), r.GetString(12), r.IdOrNull(13));

    /// <summary>Compares what was told with a package's rows.</summary>
    public void Compare(PackageRow row, PackageTables tables, Findings findings)
    {
        var where = $"package {row.Number}";
        findings.Alike(where, "its standing", Word(Slip.Standing), row.Standing);
        findings.Alike(where, "its round", Slip.Round, row.Round);
        findings.Alike(where, "who sent it", Slip.Originator, row.Originator);
        findings.Alike(where, "when it was sent", sentAt, row.SentAt);
        findings.Alike(where, "when its round began", roundAt, row.RoundAt);
        // Packages sent before it was kept in their ledger have only their rows to say what they are called.
        if (Slip.Facts.Title.Length > 0) findings.Alike(where, "its title", Slip.Facts.Title, row.Title);
        findings.Alike(where, "its covering note", coveringNote, row.CoveringNote);
        findings.Alike(where, "whether it is held", Slip.IsHeld, row.IsHeld);
        findings.Alike(where, "how many items it has", Slip.Items.Length, row.Items);
        findings.Alike(where, "the number of its last note", Math.Max(lastNote, row.SplitFrom is null ? 0 : row.LastNote), row.LastNote);
        if (!Written(Slip).AsSpan().SequenceEqual(Written(JsonSerializer.Deserialize<Slip>(row.Slip, Act.Json)!))) findings.Add($"{where}: its slip is not what its ledger tells");
        var items = tables.Items[row.Id].Where(i => i.Round == row.Round).OrderBy(i => i.Position).Select(i => (i.Document, i.Draft)).ToList();
        if (!items.ToHashSet().SetEquals(Slip.Items.Select(i => (i.Document, i.Draft)))) findings.Add($"{where}: its items are not those that its ledger tells");
        CompareSignOffs(where, row.Id, tables, findings);
        CompareNotes(where, row.Id, tables, findings);
        CompareAdvice(where, row.Id, tables, findings);
    }

    private void CompareSignOffs(string where, Guid package, PackageTables tables, Findings findings)
    {
        var rows = tables.SignOffs[package].ToList();
        foreach (var told in signOffs)
        {
            var at = rows.FindIndex(r => r.Seat == told.Signature.Seat && r.Person == told.Signature.Person && (told.IsCopied || r.At == told.At));
            if (at < 0)
            {
                findings.Add($"{where}: the sign-off in seat “{told.Signature.Seat}” by {told.Signature.Person} of {Said(told.At)} is gone");
                continue;
            }
            var row = rows[at];
            rows.RemoveAt(at);
            var which = $"{where}, sign-off {row.Id}";
            findings.Alike(which, "its round", told.Round, row.Round);
            findings.Alike(which, "for whom", told.Signature.For, row.For);
            findings.Alike(which, "whether it stands", told.Stands, row.Stands);
            tables.Overlays.CompareSigned(which, told.Overlays, findings);
            if (!told.IsCopied) findings.Alike(which, "its remark", told.Remark, row.Remark);
            findings.Alike(which, "its answers", JsonSerializer.Serialize(told.Signature.Answers, Act.Json), JsonSerializer.Serialize(JsonSerializer.Deserialize<CheckpointAnswer[]>(row.Answers, Act.Json), Act.Json));
            var verdicts = tables.Verdicts[row.Id].ToHashSet();
            if (!verdicts.SetEquals(told.Signature.Verdicts.Where(v => told.Judged.Contains(v.Draft)).Select(v => (v.Draft, v.Sha256, Words.Of(v.Verdict), v.Reason.Trim(), v.Seen))))
                findings.Add($"{which}: its verdicts are not those that were given");
        }
        foreach (var row in rows) findings.Add($"{where}: sign-off {row.Id} in seat “{row.Seat}” by {row.Person} was never given");
    }

    private void CompareNotes(string where, Guid package, PackageTables tables, Findings findings)
    {
        var rows = tables.Notes[package].ToDictionary(n => n.Number);
        foreach (var told in notes.Values)
        {
            var which = $"{where}, note {told.Number}";
            if (!rows.Remove(told.Number, out var row))
            {
                findings.Add($"{which} is gone");
                continue;
            }
            findings.Alike(which, "its kind", told.Kind, row.Kind);
            findings.Alike(which, "its standing", told.Standing, row.Standing);
            findings.Alike(which, "its author", told.Author, row.Author);
            findings.Alike(which, "for whom it was written", told.For, row.For);
            findings.Alike(which, "its words", told.Body, row.Body);
            findings.Alike(which, "what it says besides", told.Terms, row.Terms);
            findings.Alike(which, "when it was written", told.At, row.At);
            findings.Alike(which, "its round", told.Round, row.Round);
            findings.Alike(which, "its document", told.Document, row.Document);
            findings.Alike(which, "its draft", told.Draft, row.Draft);
            tables.Overlays.CompareMarks(which, row.Id, row.Legacy, told.Marks, findings);
            if (!tables.Acts[row.Id].SequenceEqual(told.Acts)) findings.Add($"{which}: its thread is not what was said");
        }
        foreach (var row in rows.Values) findings.Add($"{where}: note {row.Number} was never written");
    }

    private void CompareAdvice(string where, Guid package, PackageTables tables, Findings findings)
    {
        var rows = tables.Advice[package].ToDictionary(a => a.Id);
        foreach (var told in advice.Values.Where(a => a.Note is not { } id || !noteNumbers.TryGetValue(id, out var number) || notes.ContainsKey(number)))
        {
            if (!rows.Remove(told.Id, out var row))
            {
                findings.Add($"{where}: a question for advice is gone");
                continue;
            }
            if ((row.By, row.Of, row.Question, row.Answer, row.At) != (told.By, told.Of, told.Question, told.Answer, told.At)) findings.Add($"{where}: a question for advice, or its answer, is not what was said");
        }
        foreach (var row in rows.Values) findings.Add($"{where}: a question for advice by {row.By} was never asked");
    }

    private static byte[] Written(Slip slip) => JsonSerializer.SerializeToUtf8Bytes(slip, Act.Json);

    private static string Said(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);

    private static string Word(SlipStanding standing) => Words.Of(standing);
}

/// <summary>The rows that belong to some packages.</summary>
internal sealed class PackageTables
{
    public required ILookup<Guid, (int Round, int Position, Guid Document, Guid Draft)> Items { get; init; }

    public required ILookup<Guid, (Guid Id, int Round, string Seat, Guid Person, DateTimeOffset At, string Remark, bool Stands, Guid? For, string Answers)> SignOffs { get; init; }

    public required ILookup<Guid, (Guid Draft, string Sha256, string Verdict, string Reason, int? Seen)> Verdicts { get; init; }

    public required ILookup<Guid, (Guid Id, int Number, string Kind, string Standing, Guid Author, DateTimeOffset At, string Body, int Round, Guid Document, Guid Draft, Guid Legacy, Guid? For, string? Terms)> Notes { get; init; }

    public required ILookup<Guid, (Guid Person, DateTimeOffset At, string Act, string Body)> Acts { get; init; }

    public required ILookup<Guid, (Guid Id, Guid By, Guid Of, DateTimeOffset At, string Question, string? Answer)> Advice { get; init; }

    public required OverlayProof Overlays { get; init; }

    /// <summary>Reads them on one connection, in one moment with all else that is read on it.</summary>
    public static async Task<PackageTables> ReadAsync(NpgsqlConnection connection, Scope scope, CancellationToken stop)
    {
        var of = scope.Holds("x.package_id");
        async Task<ILookup<Guid, T>> LookAsync<T>(string sql, Func<NpgsqlDataReader, T> map, params object[] parameters) =>
            (await connection.ListAsync(sql, r => (Key: r.GetGuid(0), Value: map(r)), parameters, stop)).ToLookup(r => r.Key, r => r.Value);
        static Guid[] Ids<T>(ILookup<Guid, T> rows, Func<T, Guid> id) => [.. rows.SelectMany(r => r).Select(id)];
        var signOffs = await LookAsync(
            $"SELECT x.package_id, x.id, x.round, x.seat, x.person_id, x.at, x.remark, x.stands, x.for_person, x.answers::text FROM sign_off x WHERE {of} ORDER BY x.at",
            r => (Id: r.GetGuid(1), r.GetInt32(2), r.GetString(3), r.GetGuid(4), r.Time(5), r.GetString(6), r.GetBoolean(7), r.IdOrNull(8), r.GetString(9)));
        var notes = await LookAsync(
            $"SELECT x.package_id, x.id, x.number, x.kind, x.standing, x.author, x.at, x.body, x.round, x.document_id, x.draft_id, md5('markup ' || x.id)::uuid, x.for_person, x.urgent, x.due, x.tags, x.on_package FROM note x WHERE {of}",
            r => (Id: r.GetGuid(1), r.GetInt32(2), r.GetString(3), r.GetString(4), r.GetGuid(5), r.Time(6), r.GetString(7), r.GetInt32(8), r.GetGuid(9), r.GetGuid(10), r.GetGuid(11), r.IdOrNull(12), NoteTermsRows.Read(r, 13).Written()));
        return new PackageTables
        {
            Items = await LookAsync($"SELECT x.package_id, x.round, x.position, x.document_id, x.draft_id FROM package_item x WHERE {of}", r => (r.GetInt32(1), r.GetInt32(2), r.GetGuid(3), r.GetGuid(4))),
            SignOffs = signOffs,
            Notes = notes,
            // By ids: joined, the planner walks the verdicts and acts of all packages, for each part.
            Verdicts = await LookAsync(
                "SELECT sign_off_id, draft_id, sha256, verdict, reason, seen FROM verdict WHERE sign_off_id = ANY ($1)",
                r => (r.GetGuid(1), r.Hash(2), r.GetString(3), r.GetString(4), r.IsDBNull(5) ? null : (int?)r.GetInt16(5)), Ids(signOffs, s => s.Id)),
            Acts = await LookAsync("SELECT note_id, person_id, at, act, body FROM note_act WHERE note_id = ANY ($1) ORDER BY note_id, sequence", r => (r.GetGuid(1), r.Time(2), r.GetString(3), r.GetString(4)), Ids(notes, n => n.Id)),
            Overlays = await OverlayProof.ReadAsync(connection, scope, stop),
            Advice = await LookAsync($"SELECT x.package_id, x.id, x.asked_by, x.asked_of, x.at, x.question, x.answer FROM advice x WHERE {of}", r => (r.GetGuid(1), r.GetGuid(2), r.GetGuid(3), r.Time(4), r.GetString(5), r.TextOrNull(6))),
        };
    }
}
