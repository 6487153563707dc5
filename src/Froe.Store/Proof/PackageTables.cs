using Npgsql;

namespace Froe.Store.Proof;

/// <summary>A note as its row says.</summary>
/// <param name="Legacy">The markup of a note that the ledger tells of without one.</param>
/// <param name="Terms">What it says besides its words, as the ledger writes it.</param>
/// <param name="IsCarried">Whether it was asked in another package before.</param>
/// <param name="Subject">What it is listed under.</param>
internal sealed record NoteRow(Guid Id, int Number, string Kind, string Standing, Guid Author, DateTimeOffset At, string Body, int Round, Guid Document, Guid Draft, Guid Legacy, Guid? For, string? Terms, string? Answer, Guid AskedOf, bool IsCarried, string Subject);

/// <summary>The rows that belong to some packages.</summary>
internal sealed class PackageTables
{
    public required ILookup<Guid, (int Round, int Position, Guid Document, Guid Draft)> Items { get; init; }

    public required ILookup<Guid, (Guid Id, int Round, string Seat, Guid Person, DateTimeOffset At, string Remark, bool Stands, Guid? For, string Answers, string Statement)> SignOffs { get; init; }

    public required ILookup<Guid, (Guid Draft, string Sha256, string Verdict, string Reason, int? Seen)> Verdicts { get; init; }

    public required ILookup<Guid, NoteRow> Notes { get; init; }

    public required ILookup<Guid, (Guid Person, DateTimeOffset At, string Act, string Body)> Acts { get; init; }

    public required ILookup<Guid, (Guid Id, Guid By, Guid Of, DateTimeOffset At, string Question, string? Answer, DateTimeOffset? AnsweredAt, Guid? Note)> Advice { get; init; }

    /// <summary>Who holds a seat, as packages are found by person.</summary>
    public required ILookup<Guid, Guid> Seated { get; init; }

    /// <summary>Who is waited for, as desks show it.</summary>
    public required ILookup<Guid, (Guid Person, string Seat, string Step)> Waits { get; init; }

    /// <summary>The packages that wait for their originator.</summary>
    public required IReadOnlySet<Guid> Answers { get; init; }

    /// <summary>The folders that packages are found by, and how many of their items, of all rounds, lie in each.</summary>
    public required ILookup<Guid, (long Folder, int Items)> Folders { get; init; }

    /// <summary>Number and title of the documents that items and notes are about.</summary>
    public required IReadOnlyDictionary<Guid, string> Called { get; init; }

    /// <summary>The folders that these documents are filed in.</summary>
    public required IReadOnlyDictionary<Guid, long> FoldersOf { get; init; }

    public required ILookup<Guid, (int Round, string Step, Guid? Plan, DateTimeOffset Opened, DateTimeOffset? Passed)> Passages { get; init; }

    public required ILookup<Guid, (int Round, string Step, int Days)> Late { get; init; }

    public required OverlayProof Overlays { get; init; }

    /// <summary>Reads them on one connection, in one moment with all else that is read on it.</summary>
    public static async Task<PackageTables> ReadAsync(NpgsqlConnection connection, Scope scope, CancellationToken stop)
    {
        var of = scope.Holds("x.package_id");
        async Task<ILookup<Guid, T>> LookAsync<T>(string sql, Func<NpgsqlDataReader, T> map, params object[] parameters) =>
            (await connection.ListAsync(sql, r => (Key: r.GetGuid(0), Value: map(r)), parameters, stop)).ToLookup(r => r.Key, r => r.Value);
        async Task<IReadOnlySet<Guid>> IdsAsync(string sql) => (await connection.ListAsync(sql, r => r.GetGuid(0), [], stop)).ToHashSet();
        static Guid[] Ids<T>(ILookup<Guid, T> rows, Func<T, Guid> id) => [.. rows.SelectMany(r => r).Select(id)];
        var signOffs = await LookAsync(
            $"SELECT x.package_id, x.id, x.round, x.seat, x.person_id, x.at, x.remark, x.stands, x.for_person, x.answers::text, x.statement FROM sign_off x WHERE {of} ORDER BY x.at",
            r => (Id: r.GetGuid(1), r.GetInt32(2), r.GetString(3), r.GetGuid(4), r.Time(5), r.GetString(6), r.GetBoolean(7), r.IdOrNull(8), r.GetString(9), r.GetString(10)));
        var notes = await LookAsync(
            $"SELECT x.package_id, x.id, x.number, x.kind, x.standing, x.author, x.at, x.body, x.round, x.document_id, x.draft_id, md5('markup ' || x.id)::uuid, x.for_person, x.urgent, x.due, x.tags, x.on_package, x.answer, x.asked_of, x.origin IS NOT NULL, x.subject FROM note x WHERE {of}",
            r => new NoteRow(r.GetGuid(1), r.GetInt32(2), r.GetString(3), r.GetString(4), r.GetGuid(5), r.Time(6), r.GetString(7), r.GetInt32(8), r.GetGuid(9), r.GetGuid(10), r.GetGuid(11), r.IdOrNull(12), NoteTermsRows.Read(r, 13).Written(), r.TextOrNull(17), r.GetGuid(18), r.GetBoolean(19), r.GetString(20)));
        var items = await LookAsync($"SELECT x.package_id, x.round, x.position, x.document_id, x.draft_id FROM package_item x WHERE {of}", r => (Round: r.GetInt32(1), Position: r.GetInt32(2), Document: r.GetGuid(3), Draft: r.GetGuid(4)));
        var documents = (await connection.ListAsync(
            "SELECT id, number || ' ' || title, folder_id FROM document WHERE id = ANY ($1)", r => (Id: r.GetGuid(0), Called: r.GetString(1), Folder: r.GetInt64(2)),
            [items.SelectMany(i => i).Select(i => i.Document).Concat(notes.SelectMany(n => n).Select(n => n.Document)).Distinct().ToArray()], stop)).ToDictionary(d => d.Id);
        return new PackageTables
        {
            Items = items,
            Called = documents.ToDictionary(d => d.Key, d => d.Value.Called),
            FoldersOf = documents.ToDictionary(d => d.Key, d => d.Value.Folder),
            SignOffs = signOffs,
            Notes = notes,
            // By ids: joined, the planner walks the verdicts, acts and documents of all packages, for each part.
            Verdicts = await LookAsync(
                "SELECT sign_off_id, draft_id, sha256, verdict, reason, seen FROM verdict WHERE sign_off_id = ANY ($1)",
                r => (r.GetGuid(1), r.Hash(2), r.GetString(3), r.GetString(4), r.IsDBNull(5) ? null : (int?)r.GetInt16(5)), Ids(signOffs, s => s.Id)),
            Acts = await LookAsync("SELECT note_id, person_id, at, act, body FROM note_act WHERE note_id = ANY ($1) ORDER BY note_id, sequence", r => (r.GetGuid(1), r.Time(2), r.GetString(3), r.GetString(4)), Ids(notes, n => n.Id)),
            Overlays = await OverlayProof.ReadAsync(connection, scope, stop),
            Advice = await LookAsync($"SELECT x.package_id, x.id, x.asked_by, x.asked_of, x.at, x.question, x.answer, x.answered_at, x.note_id FROM advice x WHERE {of}", r => (r.GetGuid(1), r.GetGuid(2), r.GetGuid(3), r.Time(4), r.GetString(5), r.TextOrNull(6), r.TimeOrNull(7), r.IdOrNull(8))),
            Seated = await LookAsync($"SELECT x.package_id, x.person_id FROM package_seat x WHERE {of}", r => r.GetGuid(1)),
            Waits = await LookAsync($"SELECT x.package_id, x.person_id, x.seat, x.step FROM awaited x WHERE {of}", r => (r.GetGuid(1), r.GetString(2), r.GetString(3))),
            Answers = await IdsAsync($"SELECT x.package_id FROM awaited_answer x WHERE {of}"),
            Folders = await LookAsync($"SELECT x.package_id, x.folder_id, x.items FROM package_folder x WHERE {of}", r => (r.GetInt64(1), r.GetInt32(2))),
            Passages = await LookAsync($"SELECT x.package_id, x.round, x.step, x.plan_id, x.opened_at, x.passed_at FROM step_passage x WHERE {of}", r => (r.GetInt32(1), r.GetString(2), r.IdOrNull(3), r.Time(4), r.TimeOrNull(5))),
            Late = await LookAsync($"SELECT x.package_id, x.round, x.step, x.days FROM step_late x WHERE {of}", r => (r.GetInt32(1), r.GetString(2), r.GetInt32(3))),
        };
    }
}
