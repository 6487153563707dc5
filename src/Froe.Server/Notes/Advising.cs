using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Notes;

/// <summary>A question to somebody without a seat.</summary>
/// <param name="Note">The note it is about; null when it is about the package.</param>
/// <param name="Key">Made by the page once for this question, so that asking it twice asks it once.</param>
public sealed record NewAdvice(Guid Of, string Question, Guid? Note = null, Guid? Key = null);

/// <summary>An answer to a question for advice.</summary>
/// <param name="Key">Made by the page once for this answer.</param>
public sealed record AdviceAnswer(string Words, Guid? Key = null);

/// <summary>Asking somebody without a seat for advice. The seat stays its holder's.</summary>
public sealed class Advising(Database database, Announcements changes, TimeProvider clock)
{
    /// <summary>Questions of one person to another in a package that may wait at once: each is a mail.</summary>
    private const int MostWaiting = 3;

    /// <summary>Asks.</summary>
    public async Task<MadeAdvice> AskAsync(Who who, Guid package, NewAdvice wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var question = Words(wanted.Question, "Write what you ask.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<MadeAdvice>(wanted.Key, stop) is { } before) return before;
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        var awaited = held.Slip.Awaited().Select(a => a.Person).ToHashSet();
        if (!Reviewing.IsAwaited(held.Slip, who.Id, held.Deputies))
            throw new Refused(new Refusal("not-signer", "Only somebody whose signature is awaited now asks for advice. Leave a question on the sheet instead."));
        if (awaited.Contains(wanted.Of)) throw new Refused(new Refusal("has-seat", "They hold a seat here themselves and see what you write. Leave a question on the sheet instead."));
        if ((await act.ListAsync("SELECT id FROM person WHERE id = $1 AND barred_at IS NULL", r => r.GetGuid(0), [wanted.Of], stop)).Count == 0) throw Refused.Missing("person");
        if (wanted.Note is { } about && (await act.ListAsync("SELECT number FROM note WHERE id = $1 AND package_id = $2", r => r.GetInt32(0), [about, package], stop)).Count == 0) throw Refused.Missing("note");
        if ((await act.ListAsync("SELECT id FROM advice WHERE package_id = $1 AND asked_by = $2 AND asked_of = $3 AND answer IS NULL", r => r.GetGuid(0), [package, who.Id, wanted.Of], stop)).Count >= MostWaiting)
            throw new Refused(new Refusal("asked-already", $"They have {MostWaiting} questions of yours on this package already. Wait for an answer, or add to a note."));
        var id = Guid.CreateVersion7();
        act.Write("INSERT INTO advice (id, package_id, note_id, asked_by, asked_of, at, question) VALUES ($1, $2, $3::uuid, $4, $5, $6, $7)", id, package, wanted.Note, who.Id, wanted.Of, act.At.UtcDateTime, question);
        if (wanted.Note is { } note) Join(act, note, "advice asked", question);
        await act.AppendAsync(package, "advice asked", question, new { Advice = id, wanted.Of, wanted.Note }, stop);
        act.Tell(Message.OfPackage(package, wanted.Of, $"{held.Number}: {who.Name} asks for your advice: {held.Title}", question));
        act.Remember(wanted.Key, new MadeAdvice(id));
        await act.CommitAsync(stop);
        changes.Announce(act, "package", package);
        return new MadeAdvice(id);
    }

    /// <summary>Answers; only who was asked can.</summary>
    public async Task AnswerAsync(Who who, Guid advice, AdviceAnswer wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var words = Words(wanted.Words, "Write the answer.");
        // As with notes: the question may go along with an item that is split off just now.
        while (!await TryAnswerAsync(who, advice, words, wanted.Key, stop))
        {
        }
    }

    private async Task<bool> TryAnswerAsync(Who who, Guid advice, string words, Guid? key, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<MadeAdvice>(key, stop) is not null) return true;
        if (await FindAsync(act, advice, stop) is not { } found || (found.Of != who.Id && found.By != who.Id)) throw Refused.Missing("question");
        if (found.Of != who.Id) throw Refused.Forbidden("The question is not for you to answer.");
        var held = await SlipStore.LockAsync(act, found.Package, null, stop) ?? throw Refused.Missing("question");
        if (await FindAsync(act, advice, stop) is not { } now || now.Package != found.Package) return false;
        if (now.IsAnswered) throw new Refused(new Refusal("answered", "You have answered this already; your answer stands in the thread."));
        act.Write("UPDATE advice SET answer = $2, answered_at = $3 WHERE id = $1", advice, words, act.At.UtcDateTime);
        if (now.Note is { } note) Join(act, note, "advice given", words);
        await act.AppendAsync(now.Package, "advice given", words, new { Advice = advice }, stop);
        act.Tell(Message.OfPackage(now.Package, now.By, $"{held.Number}: {who.Name} gave advice: {held.Title}", words));
        act.Remember(key, new MadeAdvice(advice));
        await act.CommitAsync(stop);
        changes.Announce(act, "package", now.Package);
        return true;
    }

    private sealed record Asked(Guid Package, Guid? Note, Guid By, Guid Of, bool IsAnswered);

    private static Task<Asked?> FindAsync(Act act, Guid advice, CancellationToken stop) => act.FirstAsync(
        "SELECT package_id, note_id, asked_by, asked_of, answer IS NOT NULL FROM advice WHERE id = $1",
        r => new Asked(r.GetGuid(0), r.IdOrNull(1), r.GetGuid(2), r.GetGuid(3), r.GetBoolean(4)), [advice], stop);

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
