using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Froe.Core.Draft;
using Froe.Core.Overlays;

namespace Froe.Core.Exchange;

/// <summary>A markup that was sent out.</summary>
/// <param name="Note">The note whose place it marks, where words can still be added to that; null otherwise, and when it stands for itself.</param>
/// <param name="Words">What it said when it went: its note's words, or its own.</param>
public sealed record KnownMark(Guid Id, Guid? Note, string Words);

/// <summary>A note that was sent out.</summary>
/// <param name="TakesWords">Whether words can still be added to it.</param>
public sealed record KnownNote(Guid Id, string Words, bool TakesWords = true);

/// <summary>An annotation that was brought in before.</summary>
/// <param name="Id">Its name in the file.</param>
/// <param name="Digest">Of what it said.</param>
/// <param name="Note">The note that it became, or was added to; null for a markup without words.</param>
public sealed record KnownBrought(string Id, string Digest, Guid? Note);

/// <summary>Something that is to be taken in.</summary>
/// <param name="Id">The annotation's name in the file.</param>
/// <param name="Digest">Of what it says.</param>
/// <param name="From">Whoever made it, as the file has the name.</param>
/// <param name="Note">The note that it becomes, or is added to; null for a markup without words.</param>
/// <param name="IsReply">Whether it is added to a note that is there.</param>
/// <param name="Words">What is written, with the name before it; empty for a markup without words.</param>
/// <param name="Shapes">Where it lies, by leaf.</param>
public sealed record TakenIn(string Id, string Digest, string From, Guid? Note, bool IsReply, string Words, IReadOnlyList<(int Leaf, Shape Shape)> Shapes);

/// <summary>What comes of a marked file.</summary>
/// <param name="Taken">In the order it is to be written.</param>
/// <param name="Already">How much of it was here: what Froe sent out, and what was brought in before.</param>
/// <param name="LeftOut">How many annotations say nothing and lie nowhere on the draft.</param>
public sealed record BroughtIn(IReadOnlyList<TakenIn> Taken, int Already, int LeftOut);

/// <summary>
/// What becomes of the annotations of a file that comes back. What answers something of Froe's is added to the note it answers; what was changed in what Froe sent
/// is added as words to its note; everything else becomes a remark with its place, or a markup when it says nothing. The same annotation is taken in once,
/// however often it comes; if it says something else the next time, that is added.
/// </summary>
public static class Bringing
{
    /// <summary>Letters of words whose size the file does not say, as a share of the sheet's diagonal.</summary>
    private const double LettersShare = 1 / 150.0;

    private const int LongestId = 200;

    /// <summary>Works it out.</summary>
    /// <param name="annotations">In the order of the file.</param>
    /// <param name="leaves">The draft's leaves.</param>
    /// <param name="marks">What was sent out of the document.</param>
    /// <param name="notes">Its notes.</param>
    /// <param name="before">What was brought to the document before.</param>
    /// <param name="longest">Most characters of a note.</param>
    /// <param name="newId">Makes ids of new notes.</param>
    public static BroughtIn Plan(
        IReadOnlyList<BroughtAnnotation> annotations, IReadOnlyList<Leaf> leaves, IReadOnlyDictionary<Guid, KnownMark> marks, IReadOnlyDictionary<Guid, KnownNote> notes, IEnumerable<KnownBrought> before,
        int longest, Func<Guid> newId)
    {
        ArgumentNullException.ThrowIfNull(annotations);
        ArgumentNullException.ThrowIfNull(leaves);
        ArgumentNullException.ThrowIfNull(marks);
        ArgumentNullException.ThrowIfNull(notes);
        ArgumentNullException.ThrowIfNull(newId);
        var known = before.ToLookup(b => b.Id);
        var noteOf = known.Where(k => k.Any(b => b.Note is not null)).ToDictionary(k => k.Key, k => k.First(b => b.Note is not null).Note);
        var (taken, seen, already, leftOut) = (new List<TakenIn>(), new HashSet<(string, string)>(), 0, 0);
        foreach (var (position, annotation) in AnsweredFirst(annotations))
        {
            var digest = Digest(annotation);
            var id = annotation.Id.Length == 0 ? digest : annotation.Id.Length <= LongestId ? annotation.Id : annotation.Id[..LongestId];
            if (!seen.Add((id, digest)) || known[id].Any(b => b.Digest == digest))
            {
                already++;
                continue;
            }
            var target = annotation.ReplyTo is { } to ? NoteOf(to) : null;
            // What Froe made: a reply or a state of a note is here; a markup or a note may have got other words.
            if (OwnNote(id) is { } own)
            {
                if (own.IsAct || IsSame(annotation.Contents, own.Words))
                {
                    already++;
                    continue;
                }
                if (own.Note is { } changed)
                {
                    Add(new TakenIn(id, digest, annotation.Author, changed, true, Said(annotation, "changes the words to: " + annotation.Contents, longest), []));
                    continue;
                }
            }
            if (target is { } answered)
            {
                Add(new TakenIn(id, digest, annotation.Author, answered, true, Said(annotation, WordsOf(annotation), longest), []));
                continue;
            }
            if (noteOf.GetValueOrDefault(id) is { } earlier)
            {
                Add(new TakenIn(id, digest, annotation.Author, earlier, true, Said(annotation, "changes the words to: " + annotation.Contents, longest), []));
                continue;
            }
            var leaf = leaves.FirstOrDefault(l => l.Position == position);
            var shapes = leaf?.Frame is SheetFrame frame ? [.. Annotations.Shapes(annotation, Math.Max(frame.Extents.Diagonal * LettersShare, 1e-9)).Where(s => s.Fits(new OnSheet(position), frame)).Select(s => (position, s))] : new List<(int, Shape)>();
            var words = annotation.ReplyTo is null && annotation.Kind is AnnotationKind.FreeText or AnnotationKind.Stamp && shapes.Count > 0 ? "" : WordsOf(annotation);
            if (words.Length == 0 && shapes.Count == 0) leftOut++;
            else Add(new TakenIn(id, digest, annotation.Author, words.Length > 0 ? newId() : null, false, words.Length > 0 ? Said(annotation, words, longest) : "", shapes));
        }
        return new BroughtIn(taken, already, leftOut);

        void Add(TakenIn one)
        {
            taken.Add(one);
            if (one.Note is not null) noteOf[one.Id] = one.Note;
        }

        (Guid? Note, string Words, bool IsAct)? OwnNote(string id)
        {
            if (Guid.TryParse(id, out var guid)) return marks.TryGetValue(guid, out var mark) ? (mark.Note, mark.Words, false) : notes.TryGetValue(guid, out var note) ? (Open(note), note.Words, false) : null;
            return id.IndexOf(':', StringComparison.Ordinal) is var colon and > 0 && Guid.TryParse(id.AsSpan(0, colon), out var of) && notes.TryGetValue(of, out var acted) ? (Open(acted), "", true) : null;
        }

        static Guid? Open(KnownNote note) => note.TakesWords ? note.Id : null;

        Guid? NoteOf(string id) => OwnNote(id)?.Note ?? noteOf.GetValueOrDefault(id);
    }

    /// <summary>What is answered before what answers it, however the file has them.</summary>
    private static IEnumerable<BroughtAnnotation> AnsweredFirst(IReadOnlyList<BroughtAnnotation> annotations)
    {
        var byId = annotations.Where(a => a.Annotation.Id.Length > 0).GroupBy(a => a.Annotation.Id).ToDictionary(g => g.Key, g => g.First());
        var depths = new Dictionary<string, int>();
        return annotations.OrderBy(a => Depth(a.Annotation));

        int Depth(Annotation annotation)
        {
            var depth = 0;
            // Answers that answer one another in a circle end somewhere.
            for (var at = annotation; at.ReplyTo is { } to && byId.TryGetValue(to, out var next) && depth < 100; at = next.Annotation)
            {
                if (depths.TryGetValue(to, out var known)) return depths[annotation.Id] = depth + 1 + known;
                depth++;
            }
            return annotation.Id.Length > 0 ? depths[annotation.Id] = depth : depth;
        }
    }

    private static string WordsOf(Annotation annotation)
    {
        var words = annotation.Contents.Trim();
        if (annotation.State is not { } state) return words;
        // Readers write such words by themselves: “Accepted set by Kai”.
        return words.StartsWith(state, StringComparison.OrdinalIgnoreCase) || words.Length == 0 ? $"marks it as “{state}”" : $"marks it as “{state}”: {words}";
    }

    private static string Said(Annotation annotation, string words, int longest)
    {
        var name = annotation.Author.Trim() is { Length: > 0 } given ? given : "Somebody";
        var at = annotation.At is { } when ? when.UtcDateTime.ToString(", d MMMM yyyy", CultureInfo.InvariantCulture) : "";
        var said = $"{name}, from outside{at}: {words}";
        return said.Length <= longest ? said : said[..(longest - 1)] + "…";
    }

    private static string Digest(Annotation a) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{a.Kind}\n{a.ReplyTo}\n{a.State}\n{a.Author}\n{Plain(a.Contents)}{(a.Id.Length == 0 ? $"\n{a.Rect}" : "")}")))[..32];

    private static bool IsSame(string a, string b) => Plain(a) == Plain(b) || a.Length == 0;

    /// <summary>Words without how their lines are divided, which every reader does its own way.</summary>
    private static string Plain(string words) => string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}
