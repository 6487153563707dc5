using System.Collections.Immutable;
using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Ledger;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;
using NpgsqlTypes;

namespace Froe.Bench;

/// <summary>
/// Fills a database straight through its tables as Froe would have, so that its ledger tells what its tables say: whatever <c>verify</c>
/// finds in it is a fault. Ids are hashes of a letter and a number: p people, d documents, r revisions, w drafts, k packages, o notes,
/// l plans, g groups, s and t the sign-offs of a package's two seats, x what is only in the ledger.
/// </summary>
internal sealed class SizeFilling
{
    /// <summary>Documents of the coordinator's that nobody has sent yet, and that who signs first has had open.</summary>
    public const int ItemsToSend = 300;

    private static readonly string[] FormNames = [LeafForms.Details, LeafForms.Geometry, LeafForms.Picture, LeafForms.Small];
    private static readonly ReaderReport Report = new("DXF", "2018", "utf-8", 1, 0.1, [new LeafReport("Model", "millimetre", [0, 0, 1, 1], 0, 1, 1, 0, 0)], [], new Dictionary<string, int>(), []);

    private const int NotesEach = 10, MinutesApart = 10;
    private static readonly string[] NoteKinds = ["request", "request", "question", "remark"];
    private readonly Database owner;
    private readonly int documents, packages, notes, entries, people, folders;
    private readonly DateTimeOffset now = HashChain.Cut(DateTimeOffset.UtcNow);
    private readonly Plan plan = PlanFor(0);

    private SizeFilling(Database owner, int scale)
    {
        this.owner = owner;
        (documents, packages, entries, people, folders) = (2_000 * scale, 1_000 * scale, 50_000 * scale, Math.Max(20, 10 * scale), 50 * scale);
        notes = NotesEach * packages;
    }

    /// <summary>Fills an empty database with so many times what a small office has.</summary>
    public static async Task FillAsync(Database owner, int scale)
    {
        var filling = new SizeFilling(owner, scale);
        await filling.PeopleAsync();
        await filling.RegisterAsync();
        for (var from = 0; from < filling.packages; from += 10_000) await filling.PackagesAsync(from, Math.Min(filling.packages, from + 10_000) - 1);
        // A guest is informed of fifty.
        await owner.RunAsync("INSERT INTO package_informed (package_id, person_id) SELECT md5('k' || n)::uuid, md5('p5')::uuid FROM generate_series(0, 49) n", []);
        for (var from = 0; from < filling.notes; from += 100_000) await filling.NotesAsync(from, Math.Min(filling.notes, from + 100_000) - 1);
        await filling.LedgerAsync();
    }

#pragma warning disable CA5351 // The same ids as PostgreSQL's md5 makes; nothing is kept secret by them.
    /// <summary>An id by its letter and number.</summary>
    public static string Id(string prefix, int n) => new Guid(MD5.HashData(System.Text.Encoding.ASCII.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{prefix}{n}"))), bigEndian: true).ToString();
#pragma warning restore CA5351

    /// <summary>The hash of a document's file, in hex.</summary>
    public static string Sha256(int n) => Convert.ToHexStringLower(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"shaft {n}"))));

    private static bool Runs(int package) => (package < 1000 && package % 2 == 0) || package % 500 == 0;

    private static Plan PlanFor(int signer) => new("Bench", "", new Sequence(
    [
        new Step("step", "Step", "Sign.", 2, [new Seat("seat", "Seat", new PersonHolder(Guid.Parse(Id("p", signer))))]),
        new Step("last", "Last", "Sign.", 1, [new Seat("last", "Last", new PersonHolder(Guid.Parse(Id("p", 3))))]),
    ]));

    // Forty packages wait for who signs first, the others that run for somebody else.
    private static int Signer(int package) => Runs(package) && package >= 80 ? 6 : 0;

    /// <summary>Where a document is filed: in the folders in turn.</summary>
    private string FolderOf(int document)
    {
        var n = (document % folders) + 1;
        return $"F {(n % 2 == 0 ? 0 : n % 10)} / S {n}";
    }

    // Package 5 modulo 20 would be the guest's.
    private static int Sender(int package) => package % 20 == 5 ? 15 : package % 20;

    private DateTimeOffset SentAt(int package) => now.AddMinutes(-(package * MinutesApart));

    private async Task PeopleAsync()
    {
        await owner.RunAsync(
            """
            INSERT INTO person (id, login, name, initials, title, email, time_zone, password_hash, is_guest)
            SELECT md5('p' || n)::uuid, CASE n WHEN 0 THEN 'signer' WHEN 1 THEN 'coordinator' WHEN 2 THEN 'many' WHEN 5 THEN 'guest' ELSE 'p' || n END, 'Person ' || n, 'P', '', 'p@bench.example', 'UTC', $2, n = 5 FROM generate_series(0, $1 - 1) n
            """, [people, Passwords.Hash(BenchServer.Password)]);
        await owner.RunAsync("INSERT INTO group_member SELECT g.id, p.id FROM person_group g, person p WHERE g.name = 'Staff' AND p.login NOT IN ('guest', 'many') OR g.name IN ('Coordinators', 'Administrators', 'Originators') AND p.login = 'coordinator' OR g.name = 'Guests' AND p.login = 'guest'", []);
        // Half of the folders lie in the first high one.
        await owner.RunAsync("INSERT INTO folder (path) SELECT DISTINCT 'F ' || h FROM generate_series(0, 9) h", []);
        await owner.RunAsync("INSERT INTO folder (path) SELECT 'F ' || CASE WHEN n % 2 = 0 THEN 0 ELSE n % 10 END || ' / S ' || n FROM generate_series(1, $1) n", [folders]);
        // Somebody in fifty groups, each for a folder; a guest with three.
        await owner.RunAsync("INSERT INTO person_group (id, name) SELECT md5('g' || n)::uuid, 'Group ' || n FROM generate_series(0, 49) n", []);
        await owner.RunAsync("INSERT INTO group_member SELECT md5('g' || n)::uuid, md5('p2')::uuid FROM generate_series(0, 49) n UNION ALL SELECT md5('g' || n)::uuid, md5('p5')::uuid FROM generate_series(0, 2) n", []);
        await owner.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT md5('g' || f.n)::uuid, r, f.id FROM (SELECT id, row_number() OVER (ORDER BY md5(path)) - 1 AS n FROM folder WHERE path LIKE '% / %') f, unnest(ARRAY['read', 'sign']) r WHERE f.n < 50", []);
        await owner.RunAsync("INSERT INTO plan (id, name, purpose, body, edition, owner) SELECT md5('l' || n)::uuid, 'Plan ' || n, '', $1::jsonb, 1, md5('p1')::uuid FROM generate_series(0, 19) n", [JsonSerializer.Serialize(plan, Act.Json)]);
        await owner.RunAsync("INSERT INTO plan_edition (plan_id, edition, body, published_at) SELECT id, 1, body, now() FROM plan", []);
    }

    private async Task RegisterAsync()
    {
        await owner.RunAsync(
            """
            WITH f AS (SELECT id, row_number() OVER (ORDER BY id) - 1 AS n FROM folder WHERE path LIKE '% / %'),
            i AS (SELECT md5('d' || n)::uuid AS d, md5('r' || n)::uuid AS r, md5('w' || n)::uuid AS w, sha256(convert_to('shaft ' || n, 'UTF8')) AS h, n, n / 2 AS k, $3::timestamptz - make_interval(mins => n / 2 * 10) AS at FROM generate_series(0, $1 - 1) n),
            c AS (INSERT INTO content (sha256, size, media_type) SELECT h, length('shaft ' || n), 'x' FROM i),
            k AS (INSERT INTO content_chunk (sha256, part, bytes) SELECT h, 0, convert_to('shaft ' || n, 'UTF8') FROM i),
            d AS (INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id) SELECT d, 'B-' || i.n, 'Shaft ' || i.n || CASE WHEN i.n IN (7, 50, 93) THEN ' journal' ELSE '' END, 'drawing', 'D' || i.n % 12, md5('p' || i.n % 20)::uuid, at - interval '1 day', f.id FROM i JOIN f ON f.n = i.n % $2),
            r AS (INSERT INTO revision (id, document_id, ordinal, label, standing, released_at) SELECT r, d, 1, 'A', CASE WHEN k < 1000 AND k % 2 = 0 OR k % 500 = 0 THEN 'in review' ELSE 'released' END, CASE WHEN k < 1000 AND k % 2 = 0 OR k % 500 = 0 THEN NULL ELSE at + interval '120 s' END FROM i)
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared, words_version) SELECT w, d, r, 1, h, 'x.dxf', md5('p' || n % 20)::uuid, at - interval '1 day', $4::jsonb, 'made up', 2, 2 FROM i
            """, [documents, folders, now.UtcDateTime, Json(Report)]);
        await owner.RunAsync(
            """
            WITH i AS (SELECT md5('dx' || n)::uuid AS d, md5('rx' || n)::uuid AS r, md5('wx' || n)::uuid AS w, sha256(convert_to('shaft ' || n, 'UTF8')) AS h, n FROM generate_series(0, $1 - 1) n),
            d AS (INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id) SELECT d, 'X-' || n, 'Part ' || n, 'drawing', 'D0', md5('p1')::uuid, $2, (SELECT min(id) FROM folder WHERE path LIKE '% / %') FROM i),
            r AS (INSERT INTO revision SELECT r, d, 1, 'A', 'in work' FROM i),
            o AS (INSERT INTO draft_opened SELECT md5('p0')::uuid, w, $2 FROM i)
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared, words_version) SELECT w, d, r, 1, h, 'x.dxf', md5('p1')::uuid, $2, $3::jsonb, 'made up', 2, 2 FROM i
            """, [ItemsToSend, now.UtcDateTime, Json(Report)]);
        foreach (var (letter, count) in new[] { ("w", documents), ("wx", ItemsToSend) })
            await owner.RunAsync(
                """
                WITH l AS (INSERT INTO draft_leaf SELECT md5($2 || n)::uuid, 0, 'Model', $3::jsonb FROM generate_series(0, $1 - 1) n)
                INSERT INTO draft_form SELECT md5($2 || n)::uuid, 0, f, 2, sha256(convert_to('shaft ' || n, 'UTF8')) FROM generate_series(0, $1 - 1) n, unnest(ARRAY['details', 'geometry', 'picture', 'small']) f
                """, [count, letter, Json<Frame>(new SheetFrame(LengthUnit.Millimetre, new Extents(0, 0, 1, 1)))]);
    }

    private async Task PackagesAsync(int first, int last)
    {
        var slips = Enumerable.Range(first, last - first + 1).Select(n => JsonSerializer.Serialize(SlipRules.Replay(Slip.Blank, Events(n).SelectMany(e => e.Events)), Act.Json)).ToArray();
        await owner.RunAsync(
            """
            WITH i AS (SELECT md5('k' || n)::uuid AS k, n, n < 1000 AND n % 2 = 0 OR n % 500 = 0 AS runs, $4::timestamptz - make_interval(mins => n * 10) AS at, md5('p' || CASE WHEN n % 20 = 5 THEN 15 ELSE n % 20 END)::uuid AS who FROM generate_series($1::int, $2::int) n),
            k AS (INSERT INTO package (id, number, title, covering_note, originator, sent_at, round_at, round, standing, slip, item_count, last_note, ended_at, plan_id, edition)
                  SELECT k, 'PK-' || n, 'Counterweight shaft ' || n || ', lot ' || n % 20 || ';', 'A note of usual length.', who, at, at, 1, CASE WHEN runs THEN 'in review' ELSE 'released' END, ($3::text[])[n - $1 + 1]::jsonb, 2, 10, CASE WHEN runs THEN NULL ELSE at + interval '120 s' END, md5('l' || n % 20)::uuid, 1 FROM i),
            s AS (INSERT INTO package_seat (package_id, person_id) SELECT k, unnest(ARRAY[md5('p' || CASE WHEN runs AND n >= 80 THEN 6 ELSE 0 END)::uuid, md5('p3')::uuid]) FROM i),
            a AS (INSERT INTO awaited (person_id, package_id, seat, step, since, due) SELECT md5('p' || CASE WHEN n < 80 THEN 0 ELSE 6 END)::uuid, k, 'seat', 'step', at, at + interval '2 days' FROM i WHERE runs),
            g AS (INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark)
                  SELECT md5(x.l || n)::uuid, k, 1, x.seat, md5(x.p)::uuid, at + x.after, $5, 'Looked at, fine.' FROM i, (VALUES ('s', 'seat', 'p0', interval '60 s'), ('t', 'last', 'p3', interval '120 s')) x (l, seat, p, after) WHERE NOT runs),
            v AS (INSERT INTO verdict (sign_off_id, draft_id, sha256, verdict, reason)
                  SELECT md5(l || n)::uuid, md5('w' || n * 2 + p)::uuid, sha256(convert_to('shaft ' || n * 2 + p, 'UTF8')), 'approve', '' FROM i, unnest(ARRAY['s', 't']) l, generate_series(0, 1) p WHERE NOT runs),
            o AS (INSERT INTO step_passage SELECT k, 1, 'step', md5('l' || n % 20)::uuid, at, CASE WHEN NOT runs THEN at + interval '60 s' END FROM i UNION ALL SELECT k, 1, 'last', md5('l' || n % 20)::uuid, at + interval '60 s', at + interval '120 s' FROM i WHERE NOT runs),
            m AS (INSERT INTO message (id, person_id, at, subject, body, link) SELECT md5('m' || n)::uuid, who, at, 'PK waits for your signature', 'Step.', '/packages/' || k FROM i)
            INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id) SELECT k, 1, p, md5('d' || n * 2 + p - 1)::uuid, md5('r' || n * 2 + p - 1)::uuid, md5('w' || n * 2 + p - 1)::uuid FROM i, generate_series(1, 2) p
            """, [first, last, slips, now.UtcDateTime, Signature.Statement]);
    }

    private Task<int> NotesAsync(int first, int last) => owner.RunAsync(
        """
        WITH i AS (SELECT md5('o' || n)::uuid AS o, n, n / 10 AS k, n < 5000 AND n % 3 = 0 AS is_open, md5('p' || n % 20)::uuid AS who, $3::timestamptz - make_interval(mins => n / 10 * 10, secs => -(n % 10 + 1)) AS at FROM generate_series($1::int, $2::int) n),
        b AS (SELECT n, o, who, at, md5('y' || n)::uuid AS y, md5('m' || n)::uuid AS m, md5('w' || k * 2)::uuid AS w, '{"place":{"on":"sheet","leaf":0},"shape":' || $4 || ',"note":"' || o || '"}' AS body FROM i),
        y AS (INSERT INTO overlay (id, draft_id, owner, name, made_at, version, sha256) SELECT y, w, who, 'Marks', at, 1, sha256(uuid_send(m) || sha256(convert_to(body, 'UTF8'))) FROM b),
        m AS (INSERT INTO markup (id, overlay_id, place, shape, note_id, zone, version, sha256, changed_at) SELECT m, y, '{"on": "sheet", "leaf": 0}', $4::jsonb, o, 'B4', 1, sha256(convert_to(body, 'UTF8')), at FROM b),
        c AS (INSERT INTO markup_change (overlay_id, version, markup_id, at, body) SELECT y, 1, m, at, body FROM b),
        a AS (INSERT INTO note_act (note_id, sequence, person_id, at, act, body) SELECT o, 1, who, at + interval '20 s', 'close', '' FROM i WHERE NOT is_open)
        INSERT INTO note (id, package_id, number, document_id, draft_id, round, kind, standing, author, at, body, asked_of, subject)
        SELECT o, md5('k' || k)::uuid, n % 10 + 1, md5('d' || k * 2)::uuid, md5('w' || k * 2)::uuid, 1, (ARRAY['request', 'request', 'question', 'remark'])[1 + n % 4], CASE WHEN is_open THEN 'open' ELSE 'closed' END,
               who, at, 'Radius ' || n % 50 || ' at the shoulder to 2.5' || CASE WHEN n IN (77, 505, 903) THEN ', for the spanner' ELSE '' END, md5('p' || CASE WHEN k % 20 = 5 THEN 15 ELSE k % 20 END)::uuid, 'B-' || k * 2 || ' Shaft ' || k * 2 || CASE WHEN k * 2 = 50 THEN ' journal' ELSE '' END
        FROM i
        """, [first, last, now.UtcDateTime, Json(Drawn)]);

    private static readonly Shape Drawn = new Cloud(new PointXY(0, 0), new PointXY(1, 1));

    // ---- the ledger ----

    private static SlipItem Item(int document) => new(Guid.Parse(Id("d", document)), Guid.Parse(Id("w", document)), Sha256(document));

    /// <summary>What happened to a package, decided by its rules, with who did it and how many seconds after it was sent.</summary>
    private List<(int After, Guid Person, ImmutableArray<SlipEvent> Events)> Events(int package)
    {
        var slip = Slip.Blank;
        var done = new List<(int, Guid, ImmutableArray<SlipEvent>)>();
        void Do(int after, SlipCommand command)
        {
            var decision = SlipRules.Decide(slip, command, SlipContext.Empty);
            if (decision.Refusal is { } refusal) throw new InvalidOperationException(refusal.Reason);
            slip = SlipRules.Replay(slip, decision.Events);
            done.Add((after, command.Person, decision.Events));
        }
        Do(0, new Send(Guid.Parse(Id("p", Sender(package))), Signer(package) is > 0 and var other ? PlanFor(other) : plan, [Item(package * 2), Item((package * 2) + 1)]));
        if (Runs(package)) return done;
        var verdicts = slip.Items.Select(i => new ItemVerdict(i.Draft, i.Sha256, Verdict.Approve, "")).ToImmutableArray();
        Do(60, new SignOff(Guid.Parse(Id("p", 0)), "seat", verdicts));
        Do(120, new SignOff(Guid.Parse(Id("p", 3)), "last", verdicts));
        return done;
    }

    /// <summary>One entry, before it has its place in a chain.</summary>
    private sealed record Said(DateTimeOffset At, int Person, string Action, string Reason, string Payload);

    private static string Json<T>(T payload) => JsonSerializer.Serialize(payload, Act.Json);

    private IEnumerable<Said> OfPackage(int package)
    {
        var at = SentAt(package);
        foreach (var (after, person, events) in Events(package))
        {
            var who = person == Guid.Parse(Id("p", 0)) ? 0 : person == Guid.Parse(Id("p", 3)) ? 3 : Sender(package);
            foreach (var happened in events)
                yield return new Said(at.AddSeconds(after), who, happened switch { PackageSent => "package sent", StepOpened => "step opened", StepPassed => "step passed", PackageReleased => "package released", _ => "signed" },
                    happened is StepOpened or StepPassed ? "" : after == 0 ? "A note of usual length." : "Looked at, fine.", Json(happened));
            if (after > 0) continue;
            foreach (var said in OfNotes(package, at)) yield return said;
        }
    }

    private static IEnumerable<Said> OfNotes(int package, DateTimeOffset at)
    {
        var item = Item(package * 2);
        var all = Enumerable.Range(package * NotesEach, NotesEach).ToList();
        foreach (var n in all)
            yield return new Said(at.AddSeconds((n % 10) + 1), n % 20, NoteKinds[n % 4] + " written", $"Radius {n % 50} at the shoulder to 2.5{(n is 77 or 505 or 903 ? ", for the spanner" : "")}",
                Json(new { Note = (n % 10) + 1, item.Document, item.Draft, Marks = new[] { new { Id = Id("m", n), Place = (Place)new OnSheet(0), Shape = Drawn } }, For = (Guid?)null }));
        foreach (var n in all.Where(n => n >= 5000 || n % 3 != 0))
            yield return new Said(at.AddSeconds((n % 10) + 21), n % 20, NoteKinds[n % 4] + " closed", "", Json(new { Note = (n % 10) + 1, Answer = (string?)null, For = (Guid?)null }));
    }

    private static IEnumerable<Said> OfDocument(string number, string title, string discipline, int originator, string folder, string draft, string sha256, DateTimeOffset at, string? package, DateTimeOffset? releasedAt)
    {
        yield return new Said(at, originator, "document registered", "", Json(new { Number = number, Title = title, Kind = "drawing", Discipline = discipline, Folder = folder }));
        yield return new Said(at, originator, "draft uploaded", "", Json(new { Draft = draft, Revision = "A", Ordinal = 1, Sha256 = sha256, FileName = "x.dxf", Reader = "made up", Version = 2, Forms = FormNames.Select(f => new StoredForm(0, f, sha256)) }));
        if (package is not null) yield return new Said(at.AddDays(1), originator, "sent for review", "A note of usual length.", Json(new { Package = package, Draft = draft, Sha256 = sha256 }));
        if (releasedAt is { } released) yield return new Said(released, 3, "revision released", "Looked at, fine.", Json(new { Package = package, Revision = "A", Draft = draft, Sha256 = sha256 }));
    }

    /// <summary>The chains of packages and documents, and as many entries more of others as make up the number; linked as the ledger links them.</summary>
    private async Task LedgerAsync()
    {
        await using var connection = await owner.OpenAsync();
        await using var rows = await connection.BeginBinaryImportAsync("COPY ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash) FROM STDIN (FORMAT BINARY)");
        var ids = Enumerable.Range(0, 20).Select(n => Guid.Parse(Id("p", n))).ToArray();
        var written = 0;
        for (var k = 0; k < packages; k++) written += await ChainAsync(rows, ids, Id("k", k), OfPackage(k));
        for (var d = 0; d < documents; d++)
        {
            var at = SentAt(d / 2);
            written += await ChainAsync(rows, ids, Id("d", d), OfDocument($"B-{d}", $"Shaft {d}{(d is 7 or 50 or 93 ? " journal" : "")}", $"D{d % 12}", d % 20, FolderOf(d), Id("w", d), Sha256(d), at.AddDays(-1), $"PK-{d / 2}", Runs(d / 2) ? null : at.AddSeconds(120)));
        }
        for (var d = 0; d < ItemsToSend; d++) written += await ChainAsync(rows, ids, Id("dx", d), OfDocument($"X-{d}", $"Part {d}", "D0", 1, FolderOf(0), Id("wx", d), Sha256(d), now, null, null));
        var payload = Json(new { words = new string('x', 300) });
        for (var x = 0; written < entries; x++)
            written += await ChainAsync(rows, ids, Id("x", x), Enumerable.Range(0, Math.Min(10, entries - written)).Select(n => new Said(SentAt(x % packages).AddSeconds(n), x % 20, "made up", "So it is.", payload)));
        await rows.CompleteAsync();
    }

    private static async Task<int> ChainAsync(NpgsqlBinaryImporter rows, Guid[] people, string chain, IEnumerable<Said> entries)
    {
        var (before, sequence) = (HashChain.Start, 0);
        foreach (var said in entries)
        {
            var entry = new LedgerEntry(Guid.Parse(chain), ++sequence, said.At, people[said.Person], said.Action, said.Reason, said.Payload);
            var hash = HashChain.HashOf(entry, before);
            await rows.StartRowAsync();
            await rows.WriteAsync(entry.Chain);
            await rows.WriteAsync(entry.Sequence);
            await rows.WriteAsync(entry.At.UtcDateTime, NpgsqlDbType.TimestampTz);
            await rows.WriteAsync(people[said.Person]);
            await rows.WriteAsync(entry.Action);
            await rows.WriteAsync(entry.Reason);
            await rows.WriteAsync(entry.Payload);
            await rows.WriteAsync(before);
            await rows.WriteAsync(hash);
            before = hash;
        }
        return sequence;
    }
}
