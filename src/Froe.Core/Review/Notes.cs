using Froe.Core.Routing;

namespace Froe.Core.Review;

/// <summary>What a note wants.</summary>
public enum NoteKind
{
    /// <summary>No answer needed.</summary>
    Remark,

    /// <summary>Wants an answer.</summary>
    Question,

    /// <summary>A change that must be made.</summary>
    Request,
}

/// <summary>Where a note stands.</summary>
public enum NoteStanding
{
    /// <summary>Waits: a request for its change, a question for its answer, a remark for nobody.</summary>
    Open,

    /// <summary>The originator has answered; a reviewer has still to look.</summary>
    Answered,

    /// <summary>A reviewer found the matter settled.</summary>
    Closed,

    /// <summary>Taken back by its author before they signed with it.</summary>
    Withdrawn,

    /// <summary>Goes on in a later package that holds its document.</summary>
    CarriedOver,
}

/// <summary>How the originator answers a request.</summary>
public enum AnswerKind
{
    /// <summary>Changed as asked.</summary>
    Done,

    /// <summary>Changed, but in another way; the text says how.</summary>
    DoneDifferently,

    /// <summary>Not changed; the text says why.</summary>
    Cannot,

    /// <summary>Not changed, for it is so already; the text says where.</summary>
    AlreadySo,
}

/// <summary>What someone asks of a note.</summary>
public enum NoteAct
{
    /// <summary>The originator answers.</summary>
    Answer,

    /// <summary>A reviewer finds it settled.</summary>
    Close,

    /// <summary>A reviewer finds it not settled.</summary>
    Reopen,

    /// <summary>Its author takes it back.</summary>
    Withdraw,

    /// <summary>Its author says that others may close it.</summary>
    Leave,

    /// <summary>Somebody adds words to its thread, and nothing else changes.</summary>
    Reply,

    /// <summary>Its author words it anew; the earlier words stay in its thread.</summary>
    Edit,
}

/// <summary>Who has to do something before a note is settled.</summary>
public enum NoteWait
{
    /// <summary>Nobody: it is settled, asks for nothing, or its package has ended.</summary>
    Nobody,

    /// <summary>The originator of its package.</summary>
    Originator,

    /// <summary>Whoever is to sign the package.</summary>
    Reviewers,

    /// <summary>Who wrote it.</summary>
    Author,
}

/// <summary>A note as its rules see it, with who acts on it.</summary>
/// <param name="IsAuthor">Whether the note is theirs (<see cref="Reviewing.IsAsker"/>).</param>
/// <param name="IsOriginator">Whether they are the package's originator, or stand in for who is (<see cref="SlipRules.IsOriginator"/>).</param>
/// <param name="IsAwaited">Whether a seat of an open step waits for them.</param>
/// <param name="Package">Where the package stands.</param>
public readonly record struct NoteActor(bool IsAuthor, bool IsOriginator, bool IsAwaited, SlipStanding Package)
{
    /// <summary>Whether they settle it in its author's stead (<see cref="Reviewing.SettlesFor"/>), or reopened it last.</summary>
    public bool Settles { get; init; }

    /// <summary>Whether they withdraw it in its author's stead (<see cref="Reviewing.WithdrawsFor"/>).</summary>
    public bool Withdraws { get; init; }

    /// <summary>Whether who asked has signed with it in the round under way.</summary>
    public bool HasSigned { get; init; }

    /// <summary>Whether the originator has answered it at any time.</summary>
    public bool WasAnswered { get; init; }

    /// <summary>Whether its author has left it to others.</summary>
    public bool IsLeft { get; init; }

    /// <summary>Whether somebody has returned what it is on, and nothing else is asked for there.</summary>
    public bool HoldsReturn { get; init; }

    /// <summary>Whether it is a question to them, and not to the originator.</summary>
    public bool IsAsked { get; init; }

    /// <summary>Whether it is a question to somebody else than the originator.</summary>
    public bool AsksAnother { get; init; }

    /// <summary>Whether it was asked in an earlier package, which ended or went on without the document.</summary>
    public bool IsCarriedOver { get; init; }
}

/// <summary>
/// The life of a note: open → answered → closed, with reopening by a reviewer. Whose request it is:
/// <list type="number">
/// <item>A request is closed only with words, once it was answered: by who wrote it or reopened it, or by whoever settles it in their stead.</item>
/// <item>One that nobody has answered is withdrawn: by its author; with words by whoever has their place now, or by a coordinator when they cannot.</item>
/// <item>What somebody has returned keeps at least one open request: the last one is neither closed nor withdrawn while the return is under way.</item>
/// <item>What was asked in an earlier package of the document may be answered as soon as it comes again, and is settled with words by whoever reviews it now: who asked may have no part in it.</item>
/// <item>A question is answered by whom it asks: the originator, or whom the originator asks. Whoever sees a note may add words to it while it is not withdrawn, wherever the package is.</item>
/// <item>Its author words a note anew until somebody has answered it, or they have signed with it; what it said before stays in its thread.</item>
/// <item>Whoever reviews the package may reopen a request, saying what is missing; it is theirs to close from then on as well.</item>
/// </list>
/// </summary>
public static class NoteRules
{
    /// <summary>Longest text of a note or an answer, in characters.</summary>
    public const int LongestText = 4000;

    /// <summary>The standing after an act, or why it is refused. A repeated act leaves the standing as it is.</summary>
    public static (NoteStanding Standing, Refusal? Refusal) Apply(NoteKind kind, NoteStanding standing, NoteAct act, NoteActor actor)
    {
        return act switch
        {
            _ when actor.Package is not (SlipStanding.InReview or SlipStanding.Returned) =>
                Refuse("package-ended", "The package has ended; what was said in it stays as it is."),
            _ when standing == NoteStanding.CarriedOver => Refuse("carried-over", "This request goes on in a later package of its document; look there."),
            NoteAct.Answer when kind == NoteKind.Question && actor.AsksAnother && !actor.IsAsked =>
                Refuse("not-asked", "Only whom the question asks answers it. Add a reply instead."),
            NoteAct.Answer when !actor.IsOriginator && !(kind == NoteKind.Question && actor.IsAsked) =>
                Refuse("not-originator", "Only the originator of the package answers."),
            NoteAct.Answer when kind == NoteKind.Remark =>
                Refuse("remark-needs-none", "A remark needs no answer."),
            NoteAct.Answer when kind == NoteKind.Request && actor.Package != SlipStanding.Returned && !actor.IsCarriedOver && standing is NoteStanding.Open or NoteStanding.Answered =>
                Refuse("not-returned", "A request is answered with the next draft, once the package has come back."),
            NoteAct.Answer when standing is NoteStanding.Open or NoteStanding.Answered => (NoteStanding.Answered, null),
            NoteAct.Answer => Refuse("note-ended", "This note is closed or withdrawn; there is nothing to answer."),

            NoteAct.Withdraw when !actor.IsAuthor && !(kind == NoteKind.Request && actor.Withdraws) => Refuse("not-author", "Only the person who wrote a note can withdraw it, or who has their place now."),
            NoteAct.Withdraw when standing == NoteStanding.Withdrawn => (standing, null),
            NoteAct.Withdraw when standing != NoteStanding.Open => Refuse("note-answered", "This note has been answered already; close it instead."),
            NoteAct.Withdraw when kind == NoteKind.Request && actor.Package == SlipStanding.Returned =>
                Refuse("with-originator", "The package is with its originator, who answers the request. It can be withdrawn or closed when it comes again."),
            NoteAct.Withdraw when kind == NoteKind.Request && actor.HoldsReturn => Refuse("holds-return", HoldsReturn),
            NoteAct.Withdraw when kind == NoteKind.Request && actor.HasSigned =>
                Refuse("already-signed", "It was signed with this request. Take the signature back first, or let the request go to the originator."),
            NoteAct.Withdraw => (NoteStanding.Withdrawn, null),

            NoteAct.Leave when kind != NoteKind.Request => Refuse("nothing-to-leave", "Only a request is left to others to close."),
            NoteAct.Leave when !actor.IsAuthor => Refuse("not-author", "Only the person who wrote a request leaves it to others."),
            NoteAct.Leave when standing is NoteStanding.Closed or NoteStanding.Withdrawn => Refuse("note-ended", "This request is settled."),
            NoteAct.Leave => (standing, null),

            NoteAct.Close when standing == NoteStanding.Closed => (standing, null),
            NoteAct.Close when standing == NoteStanding.Withdrawn => Refuse("note-ended", "This note was withdrawn."),
            NoteAct.Close when kind != NoteKind.Request && !actor.IsAwaited && !actor.IsAuthor =>
                Refuse("not-reviewing", "Only its author, or someone whose signature is awaited now, closes a note."),
            NoteAct.Close when kind != NoteKind.Request => (NoteStanding.Closed, null),
            NoteAct.Close when actor.Package == SlipStanding.Returned =>
                Refuse("with-originator", "The package is with its originator. The request is closed when it comes again."),
            NoteAct.Close when !actor.IsAuthor && !actor.Settles && !(actor.IsCarriedOver && actor.IsAwaited) =>
                Refuse("not-yours-to-close", "A request is closed by who wrote it, by who reopened it, by who shares their seat or stands in for them; by a coordinator when they are away, have left their seat or said so."),
            NoteAct.Close when actor.HoldsReturn => Refuse("holds-return", HoldsReturn),
            NoteAct.Close when standing == NoteStanding.Open && !actor.WasAnswered && !actor.IsCarriedOver =>
                Refuse("not-answered", "Nobody has answered this request yet, so there is nothing to close. Whoever wrote it can withdraw it."),
            NoteAct.Close => (NoteStanding.Closed, null),

            NoteAct.Reply when standing == NoteStanding.Withdrawn => Refuse("note-ended", "This note was withdrawn."),
            NoteAct.Reply => (standing, null),

            NoteAct.Edit when !actor.IsAuthor => Refuse("not-author", "Only the person who wrote a note changes its words. Add a reply instead."),
            NoteAct.Edit when standing != NoteStanding.Open || actor.WasAnswered => Refuse("note-answered", "This note has been answered or is settled; its words stay as they are. Add a reply instead."),
            NoteAct.Edit when kind == NoteKind.Request && actor.Package == SlipStanding.Returned =>
                Refuse("with-originator", "The package is with its originator, who answers the request as it was written. Add a reply instead."),
            NoteAct.Edit when kind == NoteKind.Request && actor.HasSigned =>
                Refuse("already-signed", "It was signed with this request. Take the signature back first, or add a reply."),
            NoteAct.Edit => (standing, null),

            NoteAct.Reopen when !actor.IsAwaited && !(actor.IsAuthor && kind != NoteKind.Request) =>
                Refuse("not-reviewing", "Only someone whose signature is awaited now can reopen a request."),
            NoteAct.Reopen when standing is NoteStanding.Withdrawn => Refuse("note-ended", "This note was withdrawn."),
            _ => (NoteStanding.Open, null),
        };

        (NoteStanding, Refusal?) Refuse(string code, string reason) => (standing, new Refusal(code, reason));
    }

    /// <summary>Whether an answer says that nothing is changed.</summary>
    public static bool ChangesNothing(AnswerKind? answer) => answer is AnswerKind.Cannot or AnswerKind.AlreadySo;

    private const string HoldsReturn = "Somebody has returned the item and nothing else is asked for on it: a return goes to the originator with at least one open request. Whoever returned it takes their signature back first.";

    /// <summary>Whose turn it is with a note.</summary>
    /// <param name="package">Where its package's slip stands.</param>
    public static NoteWait WaitsFor(NoteKind kind, NoteStanding standing, SlipStanding package) => (kind, standing, package) switch
    {
        (NoteKind.Remark, _, _) or (_, NoteStanding.Closed or NoteStanding.Withdrawn or NoteStanding.CarriedOver, _) => NoteWait.Nobody,
        (_, _, not (SlipStanding.InReview or SlipStanding.Returned)) => NoteWait.Nobody,
        (NoteKind.Question, NoteStanding.Open, _) => NoteWait.Originator,
        (NoteKind.Question, _, _) => NoteWait.Author,
        // Answered, and yet the originator's until the next round is sent.
        (_, _, SlipStanding.Returned) => NoteWait.Originator,
        (_, NoteStanding.Answered, _) => NoteWait.Author,
        _ => NoteWait.Reviewers,
    };

    /// <summary>
    /// What is wrong with the words of an act, or null. An answer needs them, but for a request that is done; so does reopening
    /// a request, for whoever has to do it again must learn why, and closing one, for whoever asked must learn what was found.
    /// </summary>
    /// <param name="answer">How a request is answered; it says nothing of a question.</param>
    /// <param name="isAuthor">Whether the note is theirs.</param>
    public static Refusal? CheckWords(NoteKind kind, NoteStanding standing, NoteAct act, AnswerKind answer, string words, bool isAuthor = true) => !string.IsNullOrWhiteSpace(words) ? null : (act, kind, answer) switch
    {
        (NoteAct.Edit, _, _) => new Refusal("note-empty", "Write what the note is about."),
        (NoteAct.Answer, NoteKind.Request, AnswerKind.Done) => null,
        (NoteAct.Answer, NoteKind.Request, AnswerKind.AlreadySo) => new Refusal("answer-without-words", "Say where it is so already."),
        (NoteAct.Answer, NoteKind.Request, AnswerKind.Cannot) => new Refusal("answer-without-words", "Say why it cannot be done."),
        (NoteAct.Answer, NoteKind.Request, _) => new Refusal("answer-without-words", "Say what was done instead."),
        (NoteAct.Answer, _, _) => new Refusal("answer-without-words", "Write the answer."),
        (NoteAct.Reply, _, _) => new Refusal("reply-without-words", "Write the reply."),
        (NoteAct.Reopen, NoteKind.Request, _) when standing != NoteStanding.Open => new Refusal("reopened-without-words", "Say what is still missing."),
        (NoteAct.Withdraw, NoteKind.Request, _) when !isAuthor && standing == NoteStanding.Open => new Refusal("withdrawn-without-words", "It is somebody else's request: say why you withdraw it."),
        (NoteAct.Close, NoteKind.Request, _) when standing != NoteStanding.Closed => new Refusal("closed-without-words", "Say what you found: a request is closed only with words."),
        _ => null,
    };
}
