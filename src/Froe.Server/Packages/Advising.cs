using Froe.Core.Routing;
using Froe.Server.Live;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A question to somebody without a seat.</summary>
/// <param name="Note">The note it is about; null when it is about the package.</param>
public sealed record NewAdvice(Guid Of, string Question, Guid? Note = null);

/// <summary>An answer to a question for advice.</summary>
public sealed record AdviceAnswer(string Words);

/// <summary>A question for advice, with its answer.</summary>
/// <param name="Note">Number of the note it is about; null when it is about the package.</param>
public sealed record AdviceRow(Guid Id, Guid AskedBy, Guid AskedOf, DateTimeOffset At, string Question, string? Answer, DateTimeOffset? AnsweredAt, int? Note);

/// <summary>Asking somebody without a seat for advice. The seat stays its holder's.</summary>
public sealed class Advising(Database database, SlipStore slips, LiveFeed live, TimeProvider clock)
{
    /// <summary>Asks.</summary>
    public async Task<MadeAdvice> AskAsync(Who who, Guid package, NewAdvice wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var question = Words(wanted.Question, "Write what you ask.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var held = await slips.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        var awaited = held.Slip.Awaited().Select(a => a.Person).ToHashSet();
        if (!awaited.Contains(who.Id) && !awaited.Any(a => held.Deputies.TryGetValue(a, out var d) && d == who.Id))
            throw new Refused(new Refusal("not-signer", "Only somebody whose signature is awaited now asks for advice. Leave a question on the sheet instead."));
        if (awaited.Contains(wanted.Of)) throw new Refused(new Refusal("has-seat", "They hold a seat here themselves and see what you write. Leave a question on the sheet instead."));
        if ((await act.ListAsync("SELECT id FROM person WHERE id = $1", r => r.GetGuid(0), [wanted.Of], stop)).Count == 0) throw Refused.Missing("person");
        if (wanted.Note is { } about && (await act.ListAsync("SELECT number FROM note WHERE id = $1 AND package_id = $2", r => r.GetInt32(0), [about, package], stop)).Count == 0) throw Refused.Missing("note");
        var id = Guid.CreateVersion7();
        act.Write("INSERT INTO advice (id, package_id, note_id, asked_by, asked_of, at, question) VALUES ($1, $2, $3::uuid, $4, $5, $6, $7)", id, package, wanted.Note, who.Id, wanted.Of, act.At.UtcDateTime, question);
        if (wanted.Note is { } note) Join(act, note, "advice asked", question);
        await act.AppendAsync(package, "advice asked", question, new { Advice = id, wanted.Of, wanted.Note }, stop);
        act.Tell(new Message(wanted.Of, $"{held.Number}: {who.Name} asks for your advice: {held.Title}", question, $"/packages/{package}"));
        await act.CommitAsync(stop);
        live.Announce("package", package);
        return new MadeAdvice(id);
    }

    /// <summary>Answers; only who was asked can.</summary>
    public async Task AnswerAsync(Who who, Guid advice, AdviceAnswer wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var words = Words(wanted.Words, "Write the answer.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var found = await act.ListAsync(
            "SELECT package_id, note_id, asked_by, asked_of FROM advice WHERE id = $1",
            r => (Package: r.GetGuid(0), Note: r.IsDBNull(1) ? (Guid?)null : r.GetGuid(1), By: r.GetGuid(2), Of: r.GetGuid(3)), [advice], stop);
        if (found.Count == 0 || (found[0].Of != who.Id && found[0].By != who.Id)) throw Refused.Missing("question");
        if (found[0].Of != who.Id) throw Refused.Forbidden("The question is not for you to answer.");
        var held = (await slips.LockAsync(act, found[0].Package, null, stop))!;
        if ((await act.ListAsync("SELECT 1 FROM advice WHERE id = $1 AND answer IS NULL", r => r.GetInt32(0), [advice], stop)).Count == 0)
            throw new Refused(new Refusal("answered", "You have answered this already; your answer stands in the thread."));
        act.Write("UPDATE advice SET answer = $2, answered_at = $3 WHERE id = $1", advice, words, act.At.UtcDateTime);
        if (found[0].Note is { } note) Join(act, note, "advice given", words);
        await act.AppendAsync(found[0].Package, "advice given", words, new { Advice = advice }, stop);
        act.Tell(new Message(found[0].By, $"{held.Number}: {who.Name} gave advice: {held.Title}", words, $"/packages/{found[0].Package}"));
        await act.CommitAsync(stop);
        live.Announce("package", found[0].Package);
    }

    /// <summary>Joins the note's thread.</summary>
    private static void Join(Act act, Guid note, string what, string words) => act.Write(
        "INSERT INTO note_act (note_id, sequence, person_id, at, act, body) SELECT $1, coalesce(max(sequence), 0) + 1, $2, $3, $4, $5 FROM note_act WHERE note_id = $1",
        note, act.Person, act.At.UtcDateTime, what, words);

    private static string Words(string text, string missing)
    {
        var words = text.Trim();
        if (words.Length == 0) throw Refused.Invalid("no-words", missing);
        return words.Length <= 4000 ? words : throw Refused.Invalid("too-long", "It may have 4,000 characters.");
    }
}

/// <summary>A question that was asked.</summary>
public sealed record MadeAdvice(Guid Id);
