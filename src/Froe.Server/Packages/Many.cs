using Froe.Core.Routing;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>One of several packages to sign at once.</summary>
/// <param name="Key">Made once for this sign-off, so that a double click signs once.</param>
/// <param name="For">The absent person a deputy signs for.</param>
public sealed record OneToSign(Guid Package, string Seat, Guid Key, Guid? For = null);

/// <summary>Packages of one step to approve at once.</summary>
public sealed record SignMany(string Grant, string Remark, OneToSign[] Packages, CheckpointAnswer[]? Answers = null);

/// <summary>All of somebody's seats to hand over.</summary>
/// <param name="From">Whose; oneself when missing.</param>
/// <param name="Everything">The packages and documents whose originator they are as well. What they asked for goes with their seats: whoever has them now settles it, or a coordinator.</param>
public sealed record HandOverAll(Guid To, string Reason, Guid? From = null, bool Everything = false);

/// <summary>Doing the same to many packages: each by itself, with its own entry in its ledger, and its own word when it is refused.</summary>
public sealed class Many(Database database, Signing signing, SlipActs acts, Withdrawing withdrawing)
{
    private const int Most = 200, MostHanded = 1000;

    /// <summary>Approves every item of many packages of the same step. What a person may not see is, here too, not there.</summary>
    public async Task<List<OneOfMany>> SignAsync(Who who, SignMany wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        if (wanted.Packages.Length > Most) throw Refused.Invalid("too-many", $"At most {Most} packages can be signed at once.");
        var asked = wanted.Packages.Select(p => p.Package).Distinct().ToArray();
        var seen = who.ReadFolders is { } folders ? [.. await Access.SeenAmongAsync(database, who.Id, folders, asked, stop)] : asked;
        var found = await database.ListAsync(
            "SELECT id, number, slip::text, plan_id FROM package WHERE id = ANY ($1)",
            r => (Id: r.GetGuid(0), Number: r.GetString(1), Slip: SlipStore.Read(r.GetString(2)), Plan: r.IdOrNull(3)), [seen], stop);
        var steps = wanted.Packages.Join(found, p => p.Package, f => f.Id, (p, f) => (f.Plan, f.Slip.SeatOf(p.Seat) is null ? "" : f.Slip.StepOf(p.Seat).Key)).Distinct().ToList();
        if (steps.Count > 1) throw Refused.Invalid("other-step", "Only packages that stand at the same step of the same plan can be signed at once.");
        var done = new List<OneOfMany>();
        foreach (var one in wanted.Packages)
        {
            if (found.Find(f => f.Id == one.Package) is not { Number: not null } package)
            {
                done.Add(new(one.Package, "", "There is no such package."));
                continue;
            }
            try
            {
                var verdicts = package.Slip.ToJudge(one.Seat, one.For ?? who.Id).Select(i => new ItemVerdict(i.Draft, i.Sha256, Verdict.Approve, ""));
                await signing.SignAsync(who, one.Package, new NewSignOff(one.Key, wanted.Grant, one.Seat, [.. verdicts], wanted.Remark, one.For, wanted.Answers), stop);
                done.Add(new(one.Package, package.Number, null));
            }
            catch (Refused e) when (e.Refusal.Code != "confirm-again")
            {
                done.Add(new(one.Package, package.Number, e.Refusal.Reason));
            }
        }
        return done;
    }

    /// <summary>Hands over every seat that somebody holds and has not signed in, open or to come.</summary>
    public async Task<List<OneOfMany>> HandOverAllAsync(Who who, HandOverAll wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var from = wanted.From ?? who.Id;
        if (from != who.Id && !who.CanCoordinate) throw Refused.Forbidden("Only a coordinator hands over somebody else's seats.");
        var found = await database.ListAsync(
            "SELECT k.id, k.number, k.slip::text FROM package_seat s JOIN package k ON k.id = s.package_id WHERE s.person_id = $1 AND k.standing IN ('in review', 'returned') ORDER BY k.sent_at",
            r => (Id: r.GetGuid(0), Number: r.GetString(1), Slip: SlipStore.Read(r.GetString(2))), [from], stop);
        // Who may sign where is read once for all of them: it is one person's one act, spread over packages.
        var filling = await SlipActs.Filling.ReadAsync(database, stop);
        var done = new List<OneOfMany>();
        foreach (var (id, number, slip) in found)
            foreach (var seat in slip.Seats.Where(s => s.People.Contains(from) && !slip.Passed.Contains(slip.StepOf(s.Key).Key) && !slip.SignaturesIn(s.Key).Any(g => g.Holder == from)))
                try
                {
                    await acts.DoAsync(who, id, new NewSlipAct(SlipActKind.HandOver, wanted.Reason, seat.Key, from, wanted.To), filling, stop);
                    done.Add(new(id, number, null));
                }
                catch (Refused e) when (e.Refusal.Code is not ("missing-reason" or "too-long"))
                {
                    done.Add(new(id, number, e.Refusal.Reason));
                }
        if (wanted.Everything) await HandOriginalsAsync(who, from, wanted, filling, done, stop);
        return done;
    }

    /// <summary>Hands over the packages on their way that somebody sent, which take their documents along, and the documents that are in none.</summary>
    private async Task HandOriginalsAsync(Who who, Guid from, HandOverAll wanted, SlipActs.Filling filling, List<OneOfMany> done, CancellationToken stop)
    {
        if (!who.CanCoordinate) throw Refused.Forbidden("Only a coordinator hands packages and documents to another originator.");
        var packages = await database.ListAsync("SELECT id, number FROM package WHERE originator = $1 AND ended_at IS NULL ORDER BY sent_at", r => (Id: r.GetGuid(0), Name: r.GetString(1)), [from], stop);
        foreach (var (id, number) in packages) await TryAsync(id, number, () => acts.DoAsync(who, id, new NewSlipAct(SlipActKind.HandPackage, wanted.Reason, To: wanted.To), filling, stop));
        var documents = await database.ListAsync(
            $"SELECT id, number FROM document WHERE originator = $1 AND standing IN ('in work', 'in review', 'returned') ORDER BY number LIMIT {MostHanded}", r => (Id: r.GetGuid(0), Name: r.GetString(1)), [from], stop);
        foreach (var (id, number) in documents) await TryAsync(id, number, () => withdrawing.HandOverAsync(who, id, new OriginatorWanted(wanted.To, wanted.Reason), stop));

        async Task TryAsync(Guid id, string name, Func<Task> act)
        {
            try
            {
                await act();
                done.Add(new(id, name, null));
            }
            catch (Refused e) when (e.Refusal.Code is not ("missing-reason" or "too-long"))
            {
                done.Add(new(id, name, e.Refusal.Reason));
            }
        }
    }
}
