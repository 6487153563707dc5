using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>What can be done to a package on its way besides signing.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<SlipActKind>))]
public enum SlipActKind
{
    [JsonStringEnumMemberName("takeBack")] TakeBack,
    [JsonStringEnumMemberName("reopen")] Reopen,
    [JsonStringEnumMemberName("handOver")] HandOver,
    [JsonStringEnumMemberName("refill")] Refill,
    [JsonStringEnumMemberName("skip")] Skip,
    [JsonStringEnumMemberName("handPackage")] HandPackage,
    [JsonStringEnumMemberName("recall")] Recall,
    [JsonStringEnumMemberName("pullBack")] PullBack,
    [JsonStringEnumMemberName("stop")] Stop,
    [JsonStringEnumMemberName("moveEdition")] MoveEdition,
    [JsonStringEnumMemberName("extend")] Extend,
    [JsonStringEnumMemberName("addStep")] AddStep,
}

/// <summary>An act on a package on its way.</summary>
/// <param name="Reason">For the record; must be given for all but taking back.</param>
/// <param name="From">Whose seat is handed over, the person themselves when missing; or whose signature is taken back to reopen a step.</param>
/// <param name="Step">The step to extend, or after which one is added.</param>
/// <param name="Days">Working days to add.</param>
/// <param name="Name">Name of the step to add.</param>
/// <param name="SignAgain">Whether, of what is pulled back, everybody signs again; else signatures on what does not change stand.</param>
/// <param name="WithoutSignatures">Said in so many words: skipping the seat may release the package though nobody has signed it.</param>
/// <param name="Key">Made by the page once for this act, so that doing it twice does it once.</param>
public sealed record NewSlipAct(
    SlipActKind Kind, string Reason, string? Seat = null, Guid? From = null, Guid? To = null, Guid[]? People = null, int? Needed = null, string? Step = null, decimal? Days = null, string? Name = null, bool SignAgain = false, bool WithoutSignatures = false, Guid? Key = null, Saying? Say = null);

/// <summary>An act on a package was done.</summary>
public sealed record SlipActDone(SlipStanding Standing);

/// <summary>Acts on packages on their way: one transaction each, under the package's lock.</summary>
public sealed class SlipActs(Database database, Recording recording, Schedules schedules, Announcements changes, TimeProvider clock)
{
    /// <summary>What a batch of acts reads once: who is in which group, and who may sign where.</summary>
    public sealed record Filling(IReadOnlyDictionary<Guid, ImmutableArray<Guid>> Groups, RightHolders Signers)
    {
        /// <summary>Reads it.</summary>
        public static async Task<Filling> ReadAsync(IReads reads, CancellationToken stop) => new(await People.FillingAsync(reads, stop), await RightHolders.ReadAsync(reads, Right.Sign, stop));
    }

    /// <summary>Does one.</summary>
    public Task DoAsync(Who who, Guid package, NewSlipAct wanted, CancellationToken stop) => DoAsync(who, package, wanted, null, stop);

    /// <summary>Does one of many.</summary>
    /// <param name="filling">What was read for all of them; null to read it for this one.</param>
    public async Task DoAsync(Who who, Guid package, NewSlipAct wanted, Filling? filling, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = wanted.Reason.Trim();
        if (reason.Length == 0 && wanted.Kind != SlipActKind.TakeBack) throw Refused.Invalid("missing-reason", "Say why: the reason goes into the record.");
        if (reason.Length > 4000) throw Refused.Invalid("too-long", "The reason may have 4,000 characters.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<SlipActDone>(wanted.Key, stop) is not null) return;
        if (!await RunAsync(act, who, package, wanted, reason, filling, stop)) return;
        changes.Announce(act, "package", package);
    }

    /// <summary>Who would be told of an act.</summary>
    public async Task<IReadOnlyCollection<Guid>> ToldAsync(Who who, Guid package, NewSlipAct wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), true, stop);
        await RunAsync(act, who, package, wanted, wanted.Reason.Trim(), null, stop);
        return act.Told;
    }

    private async Task<bool> RunAsync(Act act, Who who, Guid package, NewSlipAct wanted, string reason, Filling? filling, CancellationToken stop)
    {
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        filling ??= await Filling.ReadAsync(act, stop);
        var named = (wanted.People ?? []).Concat(wanted.To is { } to ? [to] : []).Distinct().ToArray();
        if (named.Length > 0 && (await act.ListAsync("SELECT id FROM person WHERE id = ANY ($1) AND barred_at IS NULL", r => r.GetGuid(0), [named], stop)).Count < named.Length) throw Refused.Missing("person");
        var folders = await act.ListAsync("SELECT DISTINCT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1)", r => r.GetString(0), [held.Slip.Items.Select(i => i.Document).ToArray()], stop);
        var command = await CommandAsync(act, who, held, wanted, stop);
        if (wanted.Kind == SlipActKind.HandPackage && wanted.To is { } heir && (await RightHolders.ReadAsync(act, Right.Send, stop)).ForAll(folders)?.Contains(heir) == false)
            throw new Refused(new Refusal("no-right", "They have no right to send these documents. Name somebody else, or have them given the right."));
        var context = held.Context with { Groups = filling.Groups, MayCoordinate = who.Rights.ForAll(Right.Coordinate, folders), Signers = filling.Signers.ForAll(folders), SignedThisRound = await SignedThisRoundAsync(act, package, held.Slip.Round, wanted.Kind, stop) };
        var decision = SlipRules.Decide(held.Slip, command, context);
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        if (decision.Events.Length == 0) return false;
        var change = held.After(decision, reason);
        if (wanted.Kind == SlipActKind.MoveEdition)
            act.Write("UPDATE package SET edition = p.edition FROM plan p WHERE package.id = $1 AND p.id = package.plan_id", package);
        if (wanted.Kind is SlipActKind.Extend or SlipActKind.MoveEdition) await MoveDueAsync(act, package, change.After, stop);
        await recording.RecordAsync(act, package, held.Plan, change, stop);
        if (wanted.Say is { } say) await say.AddAsync(act, who, package, $"{held.Number}: {Consequences.Action(decision.Events[0])}: {held.Title}", reason, stop);
        act.Remember(wanted.Key, new SlipActDone(change.After.Standing));
        await act.CommitAsync(stop);
        return true;
    }

    /// <summary>Only recalling asks for it.</summary>
    private static async Task<bool?> SignedThisRoundAsync(Act act, Guid package, int round, SlipActKind kind, CancellationToken stop) => kind != SlipActKind.Recall ? null
        : (await act.ListAsync("SELECT 1 FROM sign_off WHERE package_id = $1 AND round = $2 AND stands LIMIT 1", r => r.GetInt32(0), [package, round], stop)).Count > 0;

    /// <summary>Works out anew when awaited signatures are due, from when their steps opened.</summary>
    private async Task MoveDueAsync(Act act, Guid package, Slip slip, CancellationToken stop)
    {
        var rows = await act.ListAsync("SELECT person_id, seat, since FROM awaited WHERE package_id = $1", r => (Person: r.GetGuid(0), Seat: r.GetString(1), Since: r.Time(2)), [package], stop);
        var workers = await schedules.WorkersAsync(act, rows.Select(r => r.Person), stop);
        foreach (var (person, seat, since) in rows.Where(r => slip.SeatOf(r.Seat) is not null))
        {
            var (step, worker) = (slip.StepOf(seat), workers[person]);
            var due = Lateness.Due(step, since, worker);
            act.Write(
                "UPDATE awaited SET due = $4, nudge_at = $5::timestamptz WHERE package_id = $1 AND seat = $2 AND person_id = $3",
                package, seat, person, due.UtcDateTime, Lateness.Next(Lateness.Of(step, since, due, worker), act.At)?.At.UtcDateTime);
        }
    }

    private static async Task<SlipCommand> CommandAsync(Act act, Who who, HeldPackage held, NewSlipAct wanted, CancellationToken stop)
    {
        string Seat() => wanted.Seat ?? throw Refused.Invalid("missing-seat", "Say which seat.");
        switch (wanted.Kind)
        {
            case SlipActKind.TakeBack: return new TakeBack(who.Id, Seat());
            case SlipActKind.Reopen: return new TakeBack(who.Id, Seat()) { Of = wanted.From ?? throw Refused.Invalid("missing-person", "Say whose signature is taken back.") };
            case SlipActKind.HandOver: return new HandOver(who.Id, Seat(), wanted.From ?? who.Id, wanted.To ?? throw Refused.Invalid("missing-person", "Say who takes the seat."));
            case SlipActKind.Refill: return new Refill(who.Id, Seat(), [.. wanted.People ?? []], wanted.Needed ?? 1);
            case SlipActKind.Skip: return new Skip(who.Id, Seat()) { WithoutSignatures = wanted.WithoutSignatures };
            case SlipActKind.HandPackage: return new HandPackage(who.Id, wanted.To ?? throw Refused.Invalid("missing-person", "Say whose it is from now on."));
            case SlipActKind.Recall: return new Recall(who.Id);
            case SlipActKind.PullBack: return new PullBack(who.Id, wanted.SignAgain);
            case SlipActKind.Stop: return new Stop(who.Id);
            case SlipActKind.Extend:
                if (wanted.Days is not > 0 or > 60) throw Refused.Invalid("bad-days", "Between a part of a day and 60 working days can be added.");
                return new Amend(who.Id, held.Slip.Plan.WithSteps(s => s.Key == wanted.Step ? s with { WorkingDays = s.WorkingDays + wanted.Days.Value } : s));
            case SlipActKind.AddStep:
                var name = wanted.Name?.Trim() ?? "";
                if (name.Length is 0 or > 80 || wanted.People is not { Length: > 0 }) throw Refused.Invalid("bad-step", "Give the step a name of at most 80 characters and somebody to sign it.");
                var key = "added-" + Guid.NewGuid().ToString("n")[..8];
                var step = new Step(key, name, wanted.Reason.Trim(), wanted.Days is > 0 and <= 60 ? wanted.Days.Value : 1, [.. wanted.People.Select((p, i) => new Seat($"{key}-{i + 1}", name, new PersonHolder(p)))]);
                return new Amend(who.Id, held.Slip.Plan with { Root = After(held.Slip.Plan.Root, wanted.Step, step) });
            default:
                var newest = await act.ListAsync(
                    "SELECT e.body::text FROM plan p JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition WHERE p.id = $1", r => SlipStore.ReadPlan(r.GetString(0)), [held.Plan ?? Guid.Empty], stop);
                return new Amend(who.Id, newest.Count > 0 ? newest[0] : throw Refused.Missing("newer edition"));
        }
    }

    /// <summary>Puts a step after the outermost block that holds a step; at the end when none does.</summary>
    private static Sequence After(Sequence root, string? step, Step added)
    {
        var at = root.Blocks.ToList().FindIndex(b => new Plan("", "", new Sequence([b])).Steps().Any(s => s.Key == step));
        return new Sequence(root.Blocks.Insert(at < 0 ? root.Blocks.Length : at + 1, added));
    }
}
