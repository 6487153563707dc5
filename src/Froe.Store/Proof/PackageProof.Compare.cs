using System.Globalization;
using System.Text.Json;
using Froe.Core.Routing;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>What a package's chain tells, beside its rows.</summary>
internal sealed partial class PackageProof
{
    public const string RowsSql =
        """
        SELECT id, number, title, covering_note, originator, sent_at, round_at, round, standing, held, item_count, last_note, slip::text, split_from,
               (SELECT f.number FROM package f WHERE f.id = package.split_from), ended_at, plan_id, (SELECT e.body ->> 'name' FROM plan_edition e WHERE e.plan_id = package.plan_id AND e.edition = package.edition)
        FROM package
        """;

    /// <summary>A package as its row says.</summary>
    public sealed record PackageRow(Guid Id, string Number, string Title, string CoveringNote, Guid Originator, DateTimeOffset SentAt, DateTimeOffset RoundAt, int Round, string Standing, bool IsHeld, int Items, int LastNote, string Slip, Guid? SplitFrom)
    {
        /// <summary>The number of the package that it was split off from.</summary>
        public string? SplitFromNumber { get; init; }

        public DateTimeOffset? EndedAt { get; init; }

        /// <summary>The plan it was sent with; null when it was none to choose.</summary>
        public Guid? Plan { get; init; }

        /// <summary>What that is called in its edition.</summary>
        public string? PlanName { get; init; }
    }

    public static PackageRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetGuid(4), r.Time(5), r.Time(6), r.GetInt32(7), r.GetString(8), r.GetBoolean(9), r.GetInt32(10), r.GetInt32(11), r.GetString(12), r.IdOrNull(13))
    {
        SplitFromNumber = r.TextOrNull(14),
        EndedAt = r.TimeOrNull(15),
        Plan = r.IdOrNull(16),
        PlanName = r.TextOrNull(17),
    };

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
        if (!IsWritten(Slip, row.Slip)) findings.Add($"{where}: its slip is not what its ledger tells");
        findings.Alike(where, "when it ended", endedAt, row.EndedAt);
        findings.Alike(where, "the package that it was split off from", splitFrom.Length > 0 ? splitFrom : null, row.SplitFromNumber);
        if (row.Plan is not null) findings.Alike(where, "the plan it was sent with", plan, row.PlanName);
        CompareItems(where, row.Id, tables, findings);
        CompareWaiting(where, row, tables, findings);
        CompareSignOffs(where, row.Id, tables, findings);
        CompareNotes(where, row.Id, tables, findings);
        CompareAdvice(where, row.Id, tables, findings);
    }

    private void CompareItems(string where, Guid package, PackageTables tables, Findings findings)
    {
        var rows = tables.Items[package].ToLookup(i => i.Round);
        foreach (var round in rounds.Keys.Union(rows.Select(r => r.Key)).Order())
            if (!rows[round].OrderBy(i => i.Position).Select(i => (i.Document, i.Draft)).SequenceEqual(rounds.GetValueOrDefault(round, []).Select(i => (i.Document, i.Draft))))
                findings.Add($"{where}: its items in round {round} are not those that its ledger tells");
    }

    /// <summary>What lists and post draw from the slip: who is waited for, who holds a seat, when steps opened and were passed.</summary>
    private void CompareWaiting(string where, PackageRow row, PackageTables tables, Findings findings)
    {
        if (!tables.Seated[row.Id].ToHashSet().SetEquals(Slip.Seated())) findings.Add($"{where}: it is found by others than those who hold its seats");
        if (!tables.Waits[row.Id].ToHashSet().SetEquals(Consequences.WaitedFor(Slip).Select(w => (w.Person, w.Seat, w.Step.Key)))) findings.Add($"{where}: those it waits for are not those whose turn it is");
        if (tables.Answers.Contains(row.Id) != Consequences.WaitsForOriginator(Slip)) findings.Add($"{where}: whether it waits for its originator is not as its ledger tells");
        var filed = tables.Items[row.Id].Where(i => tables.FoldersOf.ContainsKey(i.Document)).CountBy(i => tables.FoldersOf[i.Document]).Select(f => (f.Key, f.Value));
        if (!tables.Folders[row.Id].ToHashSet().SetEquals(filed)) findings.Add($"{where}: it is found by other folders than those of its documents");
        if (!tables.Passages[row.Id].ToHashSet().SetEquals(passages.Select(p => (p.Key.Round, p.Key.Step, row.Plan, p.Value.Opened, p.Value.Passed)))) findings.Add($"{where}: when its steps opened and were passed is not as its ledger tells");
        if (!tables.Late[row.Id].ToHashSet().SetEquals(late)) findings.Add($"{where}: how late its steps were is not as its ledger tells");
    }

    private void CompareSignOffs(string where, Guid package, PackageTables tables, Findings findings)
    {
        var rows = tables.SignOffs[package].ToList();
        foreach (var told in signOffs)
        {
            var at = rows.FindIndex(r => r.Seat == told.Signature.Seat && r.Person == told.Signature.Person && (told.IsCopied || r.At == told.At));
            if (at < 0)
            {
                findings.Add($"{where}: the sign-off in seat “{told.Signature.Seat}” by {findings.Called(told.Signature.Person)} of {Said(told.At)} is gone");
                continue;
            }
            var row = rows[at];
            rows.RemoveAt(at);
            var which = $"{where}, sign-off in seat “{row.Seat}” by {findings.Called(row.Person)} of {Said(row.At)}";
            findings.Alike(which, "its round", told.Round, row.Round);
            findings.Alike(which, "what it states", Signature.Statement, row.Statement);
            findings.Alike(which, "for whom", told.Signature.For, row.For);
            findings.Alike(which, "whether it stands", told.Stands, row.Stands);
            tables.Overlays.CompareSigned(which, told.Signature.Person, told.Overlays, findings);
            if (!told.IsCopied) findings.Alike(which, "its remark", told.Remark, row.Remark);
            findings.Alike(which, "its answers", JsonSerializer.Serialize(told.Signature.Answers, Act.Json), JsonSerializer.Serialize(JsonSerializer.Deserialize<CheckpointAnswer[]>(row.Answers, Act.Json), Act.Json));
            var verdicts = tables.Verdicts[row.Id].ToHashSet();
            if (!verdicts.SetEquals(told.Signature.Verdicts.Where(v => told.Judged.Contains(v.Draft)).Select(v => (v.Draft, v.Sha256, Words.Of(v.Verdict), v.Reason.Trim(), v.Seen))))
                findings.Add($"{which}: its verdicts are not those that were given");
        }
        foreach (var row in rows) findings.Add($"{where}: sign-off {row.Id} in seat “{row.Seat}” by {findings.Called(row.Person)} was never given");
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
            findings.Alike(which, "how it was answered", told.Answer, row.Answer);
            if (told.AskedOf is { } asked) findings.Alike(which, "whom it asks", asked, row.AskedOf);
            findings.Alike(which, "whether it was asked in another package before", told.IsCarried, row.IsCarried);
            findings.Alike(which, "what it is listed under", tables.Called.GetValueOrDefault(row.Document, ""), row.Subject);
            findings.Alike(which, "what it says besides", told.Terms, row.Terms);
            findings.Alike(which, "when it was written", told.At, row.At);
            findings.Alike(which, "its round", told.Round, row.Round);
            findings.Alike(which, "its document", told.Document, row.Document);
            findings.Alike(which, "its draft", told.Draft, row.Draft);
            tables.Overlays.CompareMarks(which, row.Id, row.Legacy, told.Author, told.Marks, findings);
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
            if ((row.By, row.Of, row.Question, row.Answer, row.At, row.AnsweredAt, row.Note) != (told.By, told.Of, told.Question, told.Answer, told.At, told.AnsweredAt, told.Note)) findings.Add($"{where}: a question for advice, or its answer, is not what was said");
        }
        foreach (var row in rows.Values) findings.Add($"{where}: a question for advice by {findings.Called(row.By)} was never asked");
    }

    private static bool IsWritten(Slip slip, string row)
    {
        var told = Written(slip);
        using var ours = JsonDocument.Parse(told);
        using var theirs = JsonDocument.Parse(row);
        // Comparing what is written takes half the time of reading it; but slips of earlier programs lack what reading fills in.
        return JsonElement.DeepEquals(ours.RootElement, theirs.RootElement) || told.AsSpan().SequenceEqual(Written(JsonSerializer.Deserialize<Slip>(row, Act.Json)!));
    }

    private static byte[] Written(Slip slip) => JsonSerializer.SerializeToUtf8Bytes(slip, Act.Json);

    private static string Said(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);

    private static string Word(SlipStanding standing) => Words.Of(standing);
}
