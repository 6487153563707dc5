using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>One of several files to be registered together: the next draft of a document, or a new one.</summary>
/// <param name="Upload">The file, uploaded and read.</param>
/// <param name="Document">Whose next draft it is; null when it is a new document's first.</param>
/// <param name="Number">Of a new document, and so on.</param>
public sealed record Arrival(Guid Upload, Guid? Document, string Number, string Title, string Kind, string Discipline);

/// <summary>Files to be registered together.</summary>
/// <param name="Reason">Why, for the record of every one; may be empty.</param>
/// <param name="Folder">Where new documents are filed.</param>
public sealed record ArrivalsWanted(IReadOnlyList<Arrival> Rows, string Reason, string? Folder = null);

/// <summary>What is wrong with one of several files.</summary>
/// <param name="Row">Which, from 0.</param>
/// <param name="Words">What, and what to do.</param>
public sealed record ArrivalFault(int Row, string Words);

/// <summary>What came of several files: all were registered, or none and what is wrong.</summary>
public sealed record ArrivalsDone(IReadOnlyList<Registered> Registered, IReadOnlyList<ArrivalFault> Faults);

/// <summary>Files to be matched to documents.</summary>
public sealed record FilesAsked(IReadOnlyList<FileAsked> Files);

/// <summary>A file to be matched to a document.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Upload">Itself, once it is here and read: its title block tells more than its name.</param>
/// <param name="Document">The document that it is to be a draft of, if that is known.</param>
public sealed record FileAsked(string Name, Guid? Upload = null, Guid? Document = null);

/// <summary>The document that a file is of, as its title block and its name tell.</summary>
/// <param name="Document">The registered one whose next draft it may be; null when there is none.</param>
/// <param name="Number">Its number, or the one that title block or name suggest.</param>
/// <param name="Title">Its title, or the one that title block or name suggest.</param>
/// <param name="Draft">What its next draft will be called, such as A.3; empty for a new document.</param>
/// <param name="Refusal">Why no draft can be added to it now; null when one can, or when it is new.</param>
/// <param name="Doubt">What its title block says that does not go with that; null where nothing is odd.</param>
public sealed record FileMatch(string Name, Guid? Document, string Number, string Title, string Draft, string? Refusal, string? Doubt)
{
    /// <summary>The kind that a new document likely has, by those next to it in its series; null where nothing tells.</summary>
    public string? Kind { get; init; }

    /// <summary>And its discipline.</summary>
    public string? Discipline { get; init; }
}

/// <summary>Registers many files in one act: all of them, or none.</summary>
public sealed class Arrivals(Database database, Registering registering, PreparingAnew anew, Announcements changes, TimeProvider clock)
{
    private const int Most = 500, LongestName = 400;

    private sealed record Known(Guid Id, string Number, string Title, string Folder, Guid Originator, string Standing, string Label, int Drafts, bool IsBack);

    /// <summary>Which documents files belong to: the registered one whose number stands in the title block or begins the name, the surest first.</summary>
    public async Task<IReadOnlyList<FileMatch>> MatchAsync(Who who, FilesAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        if (asked.Files.Count > Most) throw Refused.Invalid("too-many", $"At most {Most} files are registered together. Take the rest afterwards.");
        var blocks = await BlocksAsync(who, asked.Files, stop);
        var files = asked.Files.Select(f => (File: f, Block: f.Upload is { } upload ? blocks.GetValueOrDefault(upload) : null)).ToList();
        var numbers = files.ConvertAll(f => f.File.Document is null ? ArrivingFiles.Numbers(f.File.Name.Length <= LongestName ? f.File.Name : f.File.Name[..LongestName], f.Block) : []);
        var known = (await database.ListAsync(
            """
            SELECT d.id, d.number, d.title, f.path, d.originator, r.standing, r.label, (SELECT count(*)::int FROM draft w WHERE w.revision_id = r.id),
                   EXISTS (SELECT 1 FROM package_item i JOIN package k ON k.id = i.package_id AND k.round = i.round WHERE i.revision_id = r.id AND k.standing = 'returned')
            FROM document d JOIN folder f ON f.id = d.folder_id
            JOIN LATERAL (SELECT * FROM revision r WHERE r.document_id = d.id ORDER BY r.ordinal DESC LIMIT 1) r ON true
            WHERE d.number = ANY ($1) OR d.same_number = ANY (ARRAY(SELECT same_number(n) FROM unnest($1::text[]) n)) OR d.id = ANY ($2)
            """,
            r => new Known(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetGuid(4), r.GetString(5), r.GetString(6), r.GetInt32(7), r.GetBoolean(8)),
            [numbers.SelectMany(n => n).Distinct().ToArray(), files.Select(f => f.File.Document).OfType<Guid>().ToArray()], stop)).Where(k => Visibility.Sees(who.Rights, k.Folder)).ToList();
        var byId = known.ToDictionary(k => k.Id);
        var (exactly, anyhow) = (known.ToDictionary(k => k.Number, StringComparer.Ordinal), known.ToLookup(k => k.Number, StringComparer.OrdinalIgnoreCase));
        var matches = files.Zip(numbers, (f, of) =>
        {
            var k = f.File.Document is { } document ? byId.GetValueOrDefault(document) : of.Select(n => exactly.GetValueOrDefault(n) ?? anyhow[n].FirstOrDefault()).FirstOrDefault(found => found is not null);
            if (k is null) return New(f.File.Name, f.Block);
            var standing = StandingWords.Parse(k.Standing);
            var (label, ordinal) = RevisionRules.IsLocked(standing) ? (RevisionLabel.Next(k.Label), 1) : (k.Label, k.Drafts + 1);
            var refusal = !RevisionRules.IsLocked(standing) && !RevisionRules.TakesDrafts(standing, k.IsBack) ? $"{k.Number} is in review; its next draft can be uploaded when the package comes back." : null;
            return new FileMatch(f.File.Name, k.Id, k.Number, k.Title, $"{label}.{ordinal}", refusal, ArrivingFiles.Doubt(f.Block, k.Number, label, ordinal));
        }).ToList();
        var near = await NextToAsync(who, matches.Where(m => m.Document is null).Select(m => m.Number), stop);
        return [.. matches.Select(m => m.Document is null && ArrivingFiles.Alike(m.Number, near[m.Number]) is var (kind, discipline) ? m with { Kind = kind, Discipline = discipline } : m)];

        static FileMatch New(string name, TitleBlock? block)
        {
            var suggested = ArrivingFiles.Suggest(name, block);
            return new FileMatch(name, null, suggested.Number, suggested.Title, "", null, null);
        }
    }

    /// <summary>The documents that stand next to each number, three on either side, as far as somebody may see them.</summary>
    private async Task<ILookup<string, Neighbour>> NextToAsync(Who who, IEnumerable<string> numbers, CancellationToken stop)
    {
        var asked = numbers.Where(n => ArrivingFiles.Series(n).Length > 0).Distinct(StringComparer.Ordinal).ToArray();
        var found = asked.Length == 0 ? [] : await database.ListAsync(
            """
            SELECT a.number, n.number, n.kind, n.discipline, f.path FROM unnest($1::text[]) a (number) CROSS JOIN LATERAL (
                (SELECT number, kind, discipline, folder_id FROM document d WHERE d.number < a.number ORDER BY d.number DESC LIMIT 3)
                UNION ALL (SELECT number, kind, discipline, folder_id FROM document d WHERE d.number > a.number ORDER BY d.number LIMIT 3)) n
            JOIN folder f ON f.id = n.folder_id
            """,
            r => (Of: r.GetString(0), Neighbour: new Neighbour(r.GetString(1), r.GetString(2), r.GetString(3)), Folder: r.GetString(4)), [asked], stop);
        return found.Where(f => Visibility.Sees(who.Rights, f.Folder)).ToLookup(f => f.Of, f => f.Neighbour);
    }

    /// <summary>The title blocks of uploads, of their owner's alone.</summary>
    private async Task<Dictionary<Guid, TitleBlock?>> BlocksAsync(Who who, IReadOnlyList<FileAsked> files, CancellationToken stop)
    {
        var uploads = files.Select(f => f.Upload).OfType<Guid>().ToArray();
        return uploads.Length == 0 ? [] : (await database.ListAsync(
            "SELECT id, report::text FROM upload WHERE id = ANY ($1) AND person_id = $2 AND report IS NOT NULL",
            r => (r.GetGuid(0), JsonSerializer.Deserialize<ReaderReport>(r.GetString(1), Act.Json)?.TitleBlock), [uploads, who.Id], stop)).ToDictionary(r => r.Item1, r => r.TitleBlock);
    }

    /// <summary>Registers files together, in one transaction; where one of them cannot be, none is, and every fault is told.</summary>
    public async Task<ArrivalsDone> RegisterAsync(Who who, ArrivalsWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        if (wanted.Rows.Count is 0 or > Most) throw Refused.Invalid("too-many", $"From one to {Most} files are registered together.");
        var faults = new List<ArrivalFault>();
        var registered = new Registered[wanted.Rows.Count];
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (uploads, documents, numbers) = (new HashSet<Guid>(), new HashSet<Guid>(), new HashSet<string>(StringComparer.OrdinalIgnoreCase));
        var asked = wanted.Rows.Where(r => r.Document is null).Select(r => (r.Number ?? "").Trim()).Distinct().ToArray();
        var taken = await Registering.TakenAsync(act, asked, stop);
        // Documents are locked in one order, so that two who do this at once wait for one another and do not stand in each other's way.
        foreach (var (row, at) in wanted.Rows.Select((r, i) => (r, i)).OrderBy(r => r.r.Document ?? Guid.Empty))
        {
            try
            {
                if (!uploads.Add(row.Upload)) throw Refused.Invalid("twice", "This file stands in the table twice. Take one of the two out.");
                if (row.Document is { } document)
                {
                    if (!documents.Add(document)) throw Refused.Invalid("twice", "Another file in the table is the next draft of the same document. Take one of the two out.");
                    registered[at] = await registering.NextDraftAsync(act, who, document, new NewDraft(row.Upload, wanted.Reason), stop);
                }
                else
                {
                    if (!string.IsNullOrWhiteSpace(row.Number) && !numbers.Add(row.Number.Trim())) throw Refused.Invalid("twice", $"Another file in the table has the number {row.Number.Trim()} as well. Give this one another.");
                    if (taken.Contains((row.Number ?? "").Trim())) throw new Refused(await registering.IsTakenAsync(who, (row.Number ?? "").Trim(), stop));
                    registered[at] = await registering.NewDocumentAsync(act, who, new NewDocument(row.Number ?? "", row.Title, row.Kind, row.Discipline, row.Upload, wanted.Reason, wanted.Folder), stop);
                }
            }
            catch (Refused e)
            {
                faults.Add(new ArrivalFault(at, e.Refusal.Reason));
            }
        }
        if (faults.Count > 0) return new ArrivalsDone([], [.. faults.OrderBy(f => f.Row)]);
        await registering.CommitNewAsync(act, who, numbers, stop);
        foreach (var one in registered) changes.Announce("document", one.Document);
        anew.Wake();
        return new ArrivalsDone(registered, []);
    }
}
