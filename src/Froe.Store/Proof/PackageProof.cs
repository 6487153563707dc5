using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;

namespace Froe.Store.Proof;

/// <summary>A note as the ledger tells it.</summary>
internal sealed record ToldNote(int Number, string Kind, Guid Document, Guid Draft, ImmutableArray<ToldMark> Marks, Guid Author, DateTimeOffset At, string Body, int Round, Guid? For, string? Terms)
{
    public string Standing { get; set; } = "open";

    /// <summary>How it was answered last, in a word; null when it was not, or had none to choose.</summary>
    public string? Answer { get; set; }

    /// <summary>Whom it asks; null where an earlier program did not record that.</summary>
    public Guid? AskedOf { get; set; }

    /// <summary>Whether it was asked in another package before.</summary>
    public bool IsCarried { get; init; }

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
internal sealed partial class PackageProof
{
    private readonly Dictionary<int, ToldNote> notes = [];
    private readonly List<ToldNote> gone = [];
    private readonly Dictionary<Guid, ToldAdvice> advice = [];
    private readonly List<ToldSignOff> signOffs = [];
    private readonly Dictionary<Guid, int> noteNumbers = [];
    private readonly Dictionary<int, ImmutableArray<SlipItem>> rounds = [];
    private readonly Dictionary<(int Round, string Step), (DateTimeOffset Opened, DateTimeOffset? Passed)> passages = [];
    private readonly HashSet<(int Round, string Step, int Days)> late = [];
    private int lastNote;
    private string coveringNote = "", plan = "", splitFrom = "";
    private DateTimeOffset sentAt, roundAt;
    private DateTimeOffset? endedAt;

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
                    entry.Person ?? Guid.Empty, entry.At, entry.Reason, Slip.Round, payload.IdOrNull("for"), Terms(payload))
                {
                    // A question may be the originator's own, to somebody whom only later programs name.
                    AskedOf = payload.IdOrNull("of") ?? (kind == "question" ? null : Slip.Originator),
                };
                break;
            case ["request", "brought", "along"]:
                lastNote = payload.GetProperty("note").GetInt32();
                notes[lastNote] = new ToldNote(
                    lastNote, "request", payload.GetProperty("document").GetGuid(), payload.GetProperty("draft").GetGuid(), [], payload.GetProperty("author").GetGuid(), payload.GetProperty("at").GetDateTimeOffset(),
                    entry.Reason, 0, payload.IdOrNull("for"), Terms(payload))
                {
                    AskedOf = payload.IdOrNull("of") ?? Slip.Originator,
                    IsCarried = true,
                };
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
                found.Answer = answer ?? found.Answer;
                found.Acts.Add((entry.Person ?? Guid.Empty, entry.At, answer ?? act, past == "edited" ? found.Body : entry.Reason));
                if (past == "edited") found.Body = entry.Reason;
                if (past == "edited" && payload.TryGetProperty("terms", out var terms)) found.Terms = terms.GetString();
                break;
            case ["advice", "asked"]:
                var asked = new ToldAdvice(payload.GetProperty("advice").GetGuid(), entry.Person ?? Guid.Empty, payload.GetProperty("of").GetGuid(), entry.At, entry.Reason, payload.IdOrNull("note"));
                advice[asked.Id] = asked;
                Join(asked, entry);
                break;
            case ["advice", "given"] when advice.TryGetValue(payload.GetProperty("advice").GetGuid(), out var asked2):
                (asked2.Answer, asked2.AnsweredAt) = (entry.Reason, entry.At);
                Join(asked2, entry);
                break;
            case ["step", "late"]:
                late.Add((Slip.Round, payload.GetProperty("step").GetString() ?? "", payload.GetProperty("days").GetInt32()));
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
            case PackageSent sent:
                (sentAt, roundAt, coveringNote, plan) = (entry.At, entry.At, entry.Reason, sent.Plan.Name);
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
                splitFrom = from.Package;
                signOffs.AddRange(from.Slip.Signatures.Select(s => Copied(s, from.Slip.Round, before)).OfType<ToldSignOff>());
                if (before is null) break;
                (coveringNote, lastNote, plan) = (before.coveringNote, before.lastNote, before.plan);
                foreach (var came in before.gone.Where(g => Returned.Contains(g.Document))) notes[came.Number] = came;
                foreach (var came in before.advice.Values.Where(a => a.Note is { } id && noteNumbers.TryGetValue(id, out var number) && notes.ContainsKey(number))) advice[came.Id] = came;
                break;
            case PlanAmended amended:
                plan = amended.Plan.Name;
                break;
            case OriginatorChanged handed:
                foreach (var asked in notes.Values.Where(n => n.AskedOf == handed.From && n.Standing is "open" or "answered")) asked.AskedOf = handed.To;
                break;
        }
        Slip = SlipRules.Evolve(Slip, happened);
        rounds[Slip.Round] = Slip.Items;
        if (Slip.Standing is SlipStanding.Released or SlipStanding.Stopped) endedAt = entry.At;
        Passing(entry.At, happened);
    }

    /// <summary>A signature in a package that was split off, as it was given in the one before; null when it judged nothing that came along.</summary>
    private static ToldSignOff? Copied(Signature signature, int round, PackageProof? before)
    {
        if (before?.signOffs.LastOrDefault(s => s.Stands && s.Signature.Seat == signature.Seat && s.Signature.Person == signature.Person) is not { } given)
            return new ToldSignOff(signature, round, default, "", [.. signature.Verdicts.Select(v => v.Draft)], true);
        return signature.Verdicts.Any(v => given.Judged.Contains(v.Draft)) ? given with { Signature = signature, Overlays = [] } : null;
    }

    /// <summary>Steps that open, and those that people pass; in an act that opens a step, it is not passed by people.</summary>
    private void Passing(DateTimeOffset at, SlipEvent happened)
    {
        switch (happened)
        {
            case StepOpened opened:
                passages[(Slip.Round, opened.Step)] = (at, null);
                break;
            case StepPassed { ByRule.Length: 0 } passed when passages.TryGetValue((Slip.Round, passed.Step), out var passage) && passage.Opened != at:
                passages[(Slip.Round, passed.Step)] = passage with { Passed = at };
                break;
        }
    }

    private void Keep(IEnumerable<Signature> kept)
    {
        var stand = kept.Select(k => (k.Seat, k.Person)).ToHashSet();
        foreach (var given in signOffs.Where(s => !stand.Contains((s.Signature.Seat, s.Signature.Person)))) given.Stands = false;
    }
}
