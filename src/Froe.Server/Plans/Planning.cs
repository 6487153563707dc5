using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Plans;

/// <summary>A plan in a list.</summary>
/// <param name="Edition">The published edition, 0 for none.</param>
/// <param name="IsDraft">Whether the draft differs from it.</param>
/// <param name="Plan">The published edition's body, or the draft's when none was published.</param>
public sealed record PlanRow(Guid Id, string Name, string Purpose, Guid? Owner, int Edition, bool IsDraft, Plan Plan);

/// <summary>A plan with its draft, for the editor.</summary>
/// <param name="Version">Goes back with the next save, so that two editors do not overwrite each other.</param>
public sealed record PlanDraft(Guid Id, Guid? Owner, int Version, int Edition, bool IsDraft, Plan Plan, PlanProof Proof, IReadOnlyList<EditionRow> Editions);

/// <summary>A published edition.</summary>
public sealed record EditionRow(int Edition, DateTimeOffset At, string? By);

/// <summary>What the check proves or finds, and how the plan's rules read.</summary>
/// <param name="Words">The reading of each rule, by key of its way or step; "fits" for which packages the plan is for.</param>
public sealed record PlanProof(IReadOnlyList<Finding> Findings, IReadOnlyDictionary<string, string> Words);

/// <summary>A package that might be sent.</summary>
/// <param name="Plan">The plan as it stands in the editor; or null to take a published one.</param>
/// <param name="PlanId">The plan, for its history, and for its published edition.</param>
public sealed record PreviewRequest(Plan? Plan, Guid? PlanId, Guid[] Documents, Dictionary<string, string>? Answers, Dictionary<string, Guid>? Chosen);

/// <summary>A plan to choose for documents.</summary>
/// <param name="Misfit">Why it is not for them; null when it is.</param>
/// <param name="Signatures">How many its seats ask for; a seat for all of a group counts as one.</param>
/// <param name="UsualDays">Working days that half of the past packages took at most; null when too few went this way.</param>
/// <param name="Past">How many went this way lately.</param>
public sealed record PlanFit(Guid Id, string Name, string Purpose, string? Misfit, string FirstStep, int Signatures, double? UsualDays, int Past);

/// <summary>Documents to choose a plan for.</summary>
public sealed record FittingRequest(Guid[] Documents);

/// <summary>What would happen if it were sent now.</summary>
/// <param name="Refusal">Why it cannot be sent; null when it can.</param>
public sealed record Preview(
    Plan Plan, string? Refusal, IReadOnlyList<FilledSeat> Seats, ForecastResult? Forecast, IReadOnlyList<Stall> Stalls, PlanProof Proof, DateTimeOffset Now);

/// <summary>Building, checking and publishing plans, and previewing what they would do.</summary>
public sealed class Planning(Database database, Sending sending, RightsBook rights, People people, Schedules schedules, Announcements changes, TimeProvider clock)
{
    private const int Runs = 10_000;

    /// <summary>Plans that packages can follow; with the drafts for who builds them.</summary>
    public Task<List<PlanRow>> ListAsync(Who who, CancellationToken stop) => database.ListAsync(
        """
        SELECT p.id, p.owner, p.edition, p.body <> coalesce(e.body, 'null'), coalesce(e.body, p.body)::text
        FROM plan p LEFT JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition
        WHERE NOT p.retired AND (p.edition > 0 OR $1) ORDER BY p.name
        """,
        r =>
        {
            var plan = SlipStore.ReadPlan(r.GetString(4));
            return new PlanRow(r.GetGuid(0), plan.Name, plan.Purpose, r.IdOrNull(1), r.GetInt32(2), r.GetBoolean(3), plan);
        },
        [who.CanBuildPlans], stop);

    /// <summary>A plan for the editor.</summary>
    public async Task<PlanDraft> FindAsync(Guid id, CancellationToken stop)
    {
        var found = await database.FirstAsync(
            "SELECT p.owner, p.version, p.edition, p.body <> coalesce(e.body, 'null'), p.body::text FROM plan p LEFT JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition WHERE p.id = $1",
            r => new PlanDraft(id, r.IdOrNull(0), r.GetInt32(1), r.GetInt32(2), r.GetBoolean(3), SlipStore.ReadPlan(r.GetString(4)), new PlanProof([], new Dictionary<string, string>()), []), [id], stop)
            ?? throw Refused.Missing("plan");
        return found with
        {
            Proof = Prove(found.Plan, await GroupsAsync(stop), await FoldersAsync(found.Plan, stop)),
            Editions = await database.ListAsync(
                "SELECT e.edition, e.published_at, p.name FROM plan_edition e LEFT JOIN person p ON p.id = e.published_by WHERE e.plan_id = $1 ORDER BY e.edition DESC",
                r => new EditionRow(r.GetInt32(0), r.Time(1), r.TextOrNull(2)), [id], stop),
        };
    }

    /// <summary>Makes a plan, as a draft.</summary>
    public async Task<Guid> AddAsync(Who who, Plan plan, CancellationToken stop)
    {
        Demand(who, plan);
        var id = Guid.CreateVersion7();
        // Somebody may take the name that is free between the look and the writing: then the next is looked for.
        while (true)
        {
            // The plan itself bears the name: else its next save would ask for the one that is taken.
            var named = plan with { Name = await FreeNameAsync(plan.Name.Trim(), stop) };
            if (await database.RunAsync("INSERT INTO plan (id, name, purpose, body, owner) VALUES ($1, $2, $3, $4::jsonb, $5) ON CONFLICT (name) DO NOTHING", [id, named.Name, named.Purpose, Write(named), who.Id], stop) == 0) continue;
            changes.Announce("plan", id);
            return id;
        }
    }

    private async Task<string> FreeNameAsync(string name, CancellationToken stop)
    {
        var taken = (await database.ListAsync("SELECT name FROM plan WHERE name = $1 OR name LIKE $1 || ' %'", r => r.GetString(0), [name], stop)).ToHashSet();
        return taken.Contains(name) ? Enumerable.Range(2, int.MaxValue - 2).Select(i => $"{name} {i}").First(n => !taken.Contains(n)) : name;
    }

    /// <summary>Saves a draft; gives its next version, or the one it has where just that is saved already.</summary>
    public async Task<PlanDraft> SaveAsync(Who who, Guid id, int version, Plan plan, CancellationToken stop)
    {
        Demand(who, plan);
        try
        {
            if (await database.RunAsync("UPDATE plan SET body = $3::jsonb, name = $4, purpose = $5, version = version + 1 WHERE id = $1 AND version = $2", [id, version, Write(plan), plan.Name.Trim(), plan.Purpose.Trim()], stop) == 0)
            {
                // Sent again because its answer was lost: what is wanted is there, whoever put it there.
                if ((await database.ListAsync("SELECT version FROM plan WHERE id = $1 AND body = $2::jsonb AND name = $3 AND purpose = $4", r => r.GetInt32(0), [id, Write(plan), plan.Name.Trim(), plan.Purpose.Trim()], stop)).Count > 0) return await FindAsync(id, stop);
                throw new Refused(new Refusal("plan-changed", "Somebody else has changed this plan since you opened it. Take over what they did, or keep yours over it."));
            }
        }
        catch (Npgsql.PostgresException e) when (e.SqlState == Npgsql.PostgresErrorCodes.UniqueViolation)
        {
            throw new Refused(new Refusal("name-taken", $"There is a plan “{plan.Name}” already. Give this one another name."));
        }
        changes.Announce("plan", id);
        return await FindAsync(id, stop);
    }

    /// <summary>Publishes the draft as the next edition; packages sent from now on follow it.</summary>
    public async Task<PlanDraft> PublishAsync(Who who, Guid id, int version, CancellationToken stop)
    {
        if (!who.CanBuildPlans) throw Refused.Forbidden("You have no right to build plans. Ask your administrator.");
        var draft = await FindAsync(id, stop);
        if (draft.Version != version) throw new Refused(new Refusal("plan-changed", "Somebody else has changed this plan since you opened it. Look at what they did before you publish it."));
        if (draft.Proof.Findings.FirstOrDefault(f => f.Stops) is { } finding) throw new Refused(new Refusal(finding.Code, finding.Says + " " + finding.Remedy));
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var locked = await act.ListAsync("SELECT version FROM plan WHERE id = $1 FOR UPDATE", r => r.GetInt32(0), [id], stop);
        if (locked is not [var now] || now != version) throw new Refused(new Refusal("plan-changed", "Somebody else has changed this plan since you opened it. Look at what they did before you publish it."));
        act.Write("INSERT INTO plan_edition (plan_id, edition, body, published_at, published_by) SELECT id, edition + 1, body, $2, $3 FROM plan WHERE id = $1", id, act.At.UtcDateTime, who.Id);
        act.Write("UPDATE plan SET edition = edition + 1 WHERE id = $1", id);
        await act.AppendAsync(id, "plan published", "", new { draft.Plan.Name, Edition = draft.Edition + 1, draft.Plan }, stop);
        await act.CommitAsync(stop);
        changes.Announce("plan", id);
        return await FindAsync(id, stop);
    }

    /// <summary>Gives a plan into somebody's keeping: whoever it is must be able to build plans.</summary>
    public async Task KeepAsync(Who who, Guid id, Guid owner, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (!who.CanBuildPlans) throw Refused.Forbidden("You have no right to build plans. Ask your administrator.");
        if (await people.ByIdAsync(owner, stop) is not { } keeper) throw Refused.Missing("person");
        if (!(await rights.OfAsync(owner, stop)).Rights.Anywhere(Right.BuildPlans))
            throw new Refused(new Refusal("keeper-without-right", $"{keeper.Person.Name} has no right to build plans, so could not keep this one. Choose somebody who has it, or ask your administrator to give it."));
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var before = await act.ListAsync("SELECT p.owner, o.name, p.name FROM plan p LEFT JOIN person o ON o.id = p.owner WHERE p.id = $1 FOR UPDATE OF p", r => (Owner: r.IsDBNull(0) ? (Guid?)null : r.GetGuid(0), Name: r.TextOrNull(1), Plan: r.GetString(2)), [id], stop);
        if (before is not [var plan]) throw Refused.Missing("plan");
        if (plan.Owner == owner) return;
        act.Write("UPDATE plan SET owner = $2 WHERE id = $1", id, owner);
        await act.AppendAsync(id, "plan handed over", "", new { plan.Plan, From = plan.Name, To = keeper.Person.Name }, stop);
        if (owner != who.Id) act.Tell(new Message(owner, $"You keep the plan “{plan.Plan}” now", $"{who.Name} gave it into your keeping.", $"/plans/{id}"));
        await act.CommitAsync(stop);
        changes.Announce("plan", id);
        changes.Announce("message", owner);
    }

    /// <summary>Checks a plan as it stands in the editor.</summary>
    public async Task<PlanProof> CheckAsync(Who who, Plan plan, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (!who.CanBuildPlans) throw Refused.Forbidden("You have no right to build plans. Ask your administrator.");
        DemandSize(plan);
        return Prove(plan, await GroupsAsync(stop), await FoldersAsync(plan, stop));
    }

    /// <summary>What would happen if documents were sent along a plan now.</summary>
    public async Task<Preview> PreviewAsync(Who who, PreviewRequest wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var plan = wanted.Plan ?? (await database.FirstAsync(
            "SELECT e.body::text FROM plan p JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition WHERE p.id = $1", r => SlipStore.ReadPlan(r.GetString(0)), [wanted.PlanId ?? Guid.Empty], stop))
            ?? throw Refused.Missing("plan");
        DemandSize(plan);
        var groups = await GroupsAsync(stop);
        var proof = Prove(plan, groups, await FoldersAsync(plan, stop));
        var now = clock.GetUtcNow();
        if (proof.Findings.FirstOrDefault(f => f.Stops) is { } finding) return new Preview(plan, finding.Says, [], null, [], proof, now);
        var (facts, signers) = await sending.FactsAsync(who, wanted.Answers, wanted.Documents, stop);
        var send = new Send(who.Id, plan, []) { Facts = facts, Chosen = [.. (wanted.Chosen ?? []).Select(c => new ChosenPerson(c.Key, c.Value))] };
        var context = new SlipContext(groups, []) { Signers = signers };
        var refusal = SlipRules.Fill(plan, send, context, out var seats) ?? SlipRules.FitFault(plan, facts) ?? SlipRules.FormFault(plan, facts);
        // A seat whose person is not chosen yet is forecast with everyone who might be.
        if (seats.IsEmpty) seats = [.. plan.Seats().Select(s => new FilledSeat(s.Seat.Key, s.Seat.Holder is PersonHolder p ? [p.Person] : s.Seat.Holder is ChosenHolder c ? groups.GetValueOrDefault(c.Group, []) : s.Seat.Holder is GroupHolder g ? groups.GetValueOrDefault(g.Group, []) : [who.Id], s.Seat.Holder is GroupHolder { Needed: > 0 } k ? k.Needed : 1))];
        var workers = await schedules.WorkersAsync(seats.SelectMany(s => s.People).Append(who.Id), stop);
        var input = new ForecastInput(plan, seats, facts, now, p => workers[p], wanted.PlanId is { } id ? await schedules.PastAsync(id, plan.Steps().Select(s => s.Key), workers[who.Id], stop) : new Dictionary<string, ImmutableArray<double>>());
        var forecast = Forecast.Of(input, Runs, 1);
        return new Preview(plan, refusal?.Reason, seats, forecast, [.. StallCheck.OfSeats(plan, send, context), .. StallCheck.Of(input, forecast)], proof, now);
    }

    /// <summary>The published plans, those first that fit documents, each with what to expect of it.</summary>
    public async Task<List<PlanFit>> FittingAsync(Who who, Guid[] documents, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var (facts, _) = await sending.FactsAsync(who, null, documents, stop);
        var office = (await schedules.WorkersAsync([who.Id], stop))[who.Id];
        var took = (await database.ListAsync(
            """
            SELECT p.id, k.sent_at, k.ended_at FROM plan p, LATERAL (
                SELECT sent_at, ended_at FROM package WHERE plan_id = p.id AND standing = 'released' AND sent_at > now() - interval '2 years' ORDER BY sent_at DESC LIMIT 100) k
            WHERE NOT p.retired
            """,
            r => (Plan: r.GetGuid(0), Days: office.Always.Between(r.Time(1), r.Time(2)).TotalMinutes / office.MinutesADay), [], stop)).ToLookup(t => t.Plan, t => t.Days);
        var fits = new List<PlanFit>();
        foreach (var row in (await ListAsync(who, stop)).Where(p => p.Edition > 0))
        {
            var days = took[row.Id].Order().ToList();
            fits.Add(new PlanFit(
                row.Id, row.Name, row.Purpose, documents.Length == 0 ? null : SlipRules.FitFault(row.Plan, facts)?.Reason, row.Plan.Steps().FirstOrDefault()?.Name ?? "",
                row.Plan.Seats().Sum(s => s.Seat.Holder is GroupHolder { Needed: > 0 } k ? k.Needed : 1), days.Count >= Forecast.FewestSamples ? Math.Round(days[days.Count / 2], 1) : null, days.Count));
        }
        return [.. fits.OrderBy(f => f.Misfit is not null)];
    }

    private static void Demand(Who who, Plan plan)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(plan);
        if (!who.CanBuildPlans) throw Refused.Forbidden("You have no right to build plans. Ask your administrator.");
        if (string.IsNullOrWhiteSpace(plan.Name) || plan.Name.Length > 120) throw Refused.Invalid("bad-name", "Give the plan a name of at most 120 characters.");
        DemandSize(plan);
    }

    /// <summary>Proving and forecasting cost more than a plan's length, so its length is bounded wherever one arrives.</summary>
    private static void DemandSize(Plan plan)
    {
        if (plan.Blocks().Take(1001).Count() > 1000 || plan.Form.Length > 200) throw Refused.Invalid("plan-too-large", "A plan may have 1,000 cells and 200 form fields.");
    }

    /// <summary>Which of the folders that a plan files under are there.</summary>
    private async Task<IReadOnlySet<string>> FoldersAsync(Plan plan, CancellationToken stop) => (await database.ListAsync(
        "SELECT path FROM folder WHERE path = ANY ($1)", r => r.GetString(0), [plan.Closing.OfType<FileUnder>().Select(f => Folders.Normal(f.Folder)).ToArray()], stop)).ToHashSet();

    private static PlanProof Prove(Plan plan, IReadOnlyDictionary<Guid, ImmutableArray<Guid>> groups, IReadOnlySet<string> folders)
    {
        var words = new Dictionary<string, string>();
        // Keys may stand twice: that is for the check to say.
        foreach (var way in plan.Choices().SelectMany(c => c.Ways).Where(w => w.Rule is { Conditions.Length: > 0 })) words.TryAdd(way.Key, RuleWords.Say(way.Rule!, plan.Form));
        foreach (var step in plan.Steps().Where(s => s.PassesWhen is { Conditions.Length: > 0 })) words.TryAdd(step.Key, RuleWords.Say(step.PassesWhen!, plan.Form));
        if (plan.Fits is { Conditions.Length: > 0 } fits) words.TryAdd("fits", RuleWords.Say(fits, plan.Form));
        return new PlanProof(PlanCheck.Check(plan, groups, folders), words);
    }

    private Task<Dictionary<Guid, ImmutableArray<Guid>>> GroupsAsync(CancellationToken stop) => People.FillingAsync(database, stop);

    private static string Write(Plan plan) => JsonSerializer.Serialize(plan, Act.Json);
}
