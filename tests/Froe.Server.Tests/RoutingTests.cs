using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.Packages;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Plans, and what can be done to a package on its way, through HTTP on a real database.</summary>
public class RoutingTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private static object Person(Guid person) => new { holder = "person", person };

    private static Dictionary<string, object?> Step(string key, object holder, object? more = null) => new()
    {
        ["block"] = "step",
        ["key"] = key,
        ["name"] = key,
        ["instruction"] = "Look.",
        ["workingDays"] = 1,
        ["seats"] = new[] { new { key = key + "-seat", role = key, holder } },
        ["checkpoints"] = more ?? Array.Empty<object>(),
    };

    /// <summary>Check; if it lifts more than 25 kg, two of three of quality; then the lead.</summary>
    private object Branching(string name) => new
    {
        name,
        purpose = "A trial.",
        root = new
        {
            blocks = new[]
            {
                Step("check", Person(office.Ids["checker"])),
                new Dictionary<string, object?>
                {
                    ["block"] = "choice", ["key"] = "heavy", ["name"] = "Heavy?",
                    ["ways"] = new object[]
                    {
                        new { key = "yes", name = "Yes", rule = new { any = false, conditions = new[] { new { subject = "form", field = "mass", comparison = "moreThan", value = "25" } } }, blocks = new { blocks = new[] { Step("lift", new { holder = "group", group = office.Quality, needed = 2 }) } } },
                        new { key = "no", name = "No", rule = (object?)null, blocks = new { blocks = Array.Empty<object>() } },
                    },
                },
                Step("lead", Person(office.Ids["lead"]), new[] { new { key = "wall", text = "Wall, at least 18", kind = "number", unit = "mm", must = true } }),
            },
        },
        form = new[] { new { key = "mass", label = "Lifted mass", kind = "number", unit = "kg", help = "", must = true, options = Array.Empty<string>() } },
        closing = new object[] { new { action = "fileUnder", folder = "Mount / Released" }, new { action = "informGroup", group = office.Quality } },
    };

    private async Task<Guid> PublishedAsync(Browser coordinator, string name)
    {
        // It files under a folder that has to be there.
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ('Mount'), ('Mount / Released') ON CONFLICT DO NOTHING", []);
        var id = (await coordinator.PostAsync<JsonElement>("/api/plans", Branching(name))).GetProperty("id").GetGuid();
        await coordinator.PostAsync<JsonElement>($"/api/plans/{id}/editions", new { version = 1 });
        return id;
    }

    private static async Task<Guid> SendAsync(Browser author, Guid plan, Guid document, string mass) => (await author.PostAsync<JsonElement>(
        "/api/packages", new { key = Guid.NewGuid(), title = "Branching", coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>(), answers = new { mass } })).GetProperty("id").GetGuid();

    [Fact]
    public async Task APlanIsBuiltCheckedPublishedPreviewedAndFollowedDownItsWay()
    {
        var (coordinator, author, checker, lead) = (await office.AsAsync("coordinator"), await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync("/api/plans", Branching("Not theirs")));
        var guest = await office.AsAsync("guest");
        foreach (var closed in new[] { "/api/plans", "/api/absences", "/api/packages" }) Assert.Equal(System.Net.HttpStatusCode.Forbidden, await guest.StatusAsync(closed));
        var plan = await PublishedAsync(coordinator, "Branching");

        // A draft saved from a page that is out of date is refused; an edition is never changed by a draft.
        var draft = await coordinator.GetAsync<JsonElement>($"/api/plans/{plan}");
        Assert.Equal("lifted mass is more than 25 kg", draft.GetProperty("proof").GetProperty("words").GetProperty("yes").GetString());
        var saved = await coordinator.PutAsync<JsonElement>($"/api/plans/{plan}", new { version = 1, plan = Branching("Branching, next") });
        // Sent again because its answer was lost, it is saved once, and nobody else's; what differs is.
        Assert.Equal(saved.GetProperty("version").GetInt32(), (await coordinator.PutAsync<JsonElement>($"/api/plans/{plan}", new { version = 1, plan = Branching("Branching, next") })).GetProperty("version").GetInt32());
        Assert.Equal((409, "plan-changed"), await coordinator.RefusedAsync($"/api/plans/{plan}", new { version = 1, plan = Branching("Branching, otherwise") }, HttpMethod.Put));
        Assert.Equal((409, "plan-changed"), await coordinator.RefusedAsync($"/api/plans/{plan}/editions", new { version = 1 }));
        Assert.Equal("Branching", await OneAsync<string>("SELECT body ->> 'name' FROM plan_edition WHERE plan_id = $1 AND edition = 1", plan));

        // It goes into other keeping only to somebody who could keep it; the plan's chain says from whom to whom.
        Assert.Equal((409, "keeper-without-right"), await coordinator.RefusedAsync($"/api/plans/{plan}/owner", new { owner = office.Ids["checker"] }, HttpMethod.Put));
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync($"/api/plans/{plan}/owner", new { owner = office.Ids["coordinator"] }, HttpMethod.Put));
        await office.Db.RunAsync("UPDATE plan SET owner = $2 WHERE id = $1", [plan, office.Ids["lead"]]);
        await coordinator.PutAsync<JsonElement>($"/api/plans/{plan}/owner", new { owner = office.Ids["coordinator"] });
        Assert.Equal(office.Ids["coordinator"], (await coordinator.GetAsync<JsonElement>($"/api/plans/{plan}")).GetProperty("owner").GetGuid());
        Assert.Equal("lead to coordinator", await OneAsync<string>("SELECT (payload::jsonb ->> 'from') || ' to ' || (payload::jsonb ->> 'to') FROM ledger_entry WHERE chain = $1 AND action = 'plan handed over'", plan));

        var document = await Office.RegisterAsync(author, "branching");
        var preview = await author.PostAsync<JsonElement>("/api/plans/preview", new { planId = plan, documents = new[] { document }, answers = new { mass = "31" } });
        Assert.Equal(["signed", "signed", "signed"], preview.GetProperty("forecast").GetProperty("steps").EnumerateArray().Select(s => s.GetProperty("prospect").GetString()));
        preview = await author.PostAsync<JsonElement>("/api/plans/preview", new { planId = plan, documents = new[] { document }, answers = new { mass = "2" } });
        Assert.Equal(["signed", "notTaken", "signed"], preview.GetProperty("forecast").GetProperty("steps").EnumerateArray().Select(s => s.GetProperty("prospect").GetString()));

        Assert.Equal((409, "form-wrong"), await author.RefusedAsync("/api/packages", new { key = Guid.NewGuid(), title = "x", coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>(), answers = new { mass = "heavy" } }));
        var package = await SendAsync(author, plan, document, "2");
        await checker.SignAsync(package, "check-seat");
        Assert.Equal((409, "checkpoint-missing"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "lead-seat")));
        var answered = await lead.SignOffAsync(package, "lead-seat", answers: [new { checkpoint = "wall", value = "18.5" }]);
        Assert.Equal("released", (await lead.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", answered)).GetProperty("standing").GetString());
        Assert.Equal("Mount / Released", await OneAsync<string>("SELECT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1", document));
        Assert.Contains("is released", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["q3"]), StringComparison.Ordinal);
        Assert.Equal("way taken", await OneAsync<string>("SELECT action FROM ledger_entry WHERE chain = $1 AND action LIKE 'way%'", package));
        Assert.Equal(2, await OneAsync<long>("SELECT count(*) FROM step_passage WHERE package_id = $1 AND passed_at IS NOT NULL", package));
    }

    private static DateOnly Day(int fromToday) => DateOnly.FromDateTime(DateTime.UtcNow).AddDays(fromToday);

    [Fact]
    public async Task ADeputySignsForWhoIsAwayAndTheLedgerSaysSo()
    {
        var (coordinator, author, checker, bystander) = (await office.AsAsync("coordinator"), await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("bystander"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "deputy"));
        var (absent, deputy) = (office.Ids["checker"], office.Ids["bystander"]);
        var sign = await bystander.SignOffAsync(package, "check", absent: absent);
        Assert.Equal((409, "not-deputy"), await bystander.RefusedAsync($"/api/packages/{package}/sign-offs", sign));
        Assert.Equal((403, "not-allowed"), await bystander.RefusedAsync("/api/absences", new { person = absent, firstDay = Day(0), backDay = Day(1), deputy }));
        var absence = await checker.PostAsync<JsonElement>("/api/absences", new { person = absent, firstDay = Day(0), backDay = Day(1), deputy });
        Assert.Contains(package, (await bystander.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Select(r => r.GetProperty("id").GetGuid()));
        await bystander.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        Assert.Equal("signed as deputy", await OneAsync<string>("SELECT action FROM ledger_entry WHERE chain = $1 AND action LIKE 'signed%'", package));
        Assert.Equal(absent, await OneAsync<Guid>("SELECT for_person FROM sign_off WHERE package_id = $1", package));
        await checker.DeleteAsync($"/api/absences/{absence.GetProperty("id").GetGuid()}");
        await coordinator.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "stop", reason = "End of the trial." });
    }

    [Fact]
    public async Task SeatsChangeHandsSignaturesAreTakenBackAndPackagesStoppedEachWithItsReason()
    {
        var (coordinator, author, checker, lead, q1) = (await office.AsAsync("coordinator"), await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"));
        var document = await Office.RegisterAsync(author, "acts");
        var package = await office.SendAsync(author, document);
        var acts = $"/api/packages/{package}/acts";
        Assert.Equal((422, "missing-reason"), await checker.RefusedAsync(acts, new { kind = "handOver", reason = " ", seat = "check", to = office.Ids["lead"] }));
        Assert.Equal((409, "not-coordinator"), await lead.RefusedAsync(acts, new { kind = "stop", reason = "No." }));
        Assert.Equal((404, "not-found"), await checker.RefusedAsync(acts, new { kind = "handOver", reason = "To nobody.", seat = "check", to = Guid.NewGuid() }));
        // A seat whose step is not open yet changes hands too, and whoever takes it hears of it at once.
        await lead.PostAsync<JsonElement>(acts, new { kind = "handOver", reason = "For a week.", seat = "lead", to = office.Ids["bystander"] });
        Assert.StartsWith("You hold a seat", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["bystander"]), StringComparison.Ordinal);
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "handOver", reason = "Back again.", seat = "lead", from = office.Ids["bystander"], to = office.Ids["lead"] });
        await checker.PostAsync<JsonElement>(acts, new { kind = "handOver", reason = "Fair this week.", seat = "check", to = office.Ids["lead"] });
        Assert.Equal(office.Ids["lead"], await OneAsync<Guid>("SELECT person_id FROM awaited WHERE package_id = $1", package));
        Assert.Equal((409, "not-your-seat"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "check")));
        await lead.SignAsync(package, "check");

        // In the parallel steps a signature is taken back and given again; the first stays on record.
        await q1.SignAsync(package, "quality");
        Assert.Equal((409, "signed-after"), await lead.RefusedAsync(acts, new { kind = "takeBack", reason = "", seat = "check" }));
        await q1.PostAsync<JsonElement>(acts, new { kind = "takeBack", reason = "", seat = "quality" });
        await q1.SignAsync(package, "quality");
        Assert.Equal((2L, 1L), (await OneAsync<long>("SELECT count(*) FROM sign_off WHERE package_id = $1 AND seat = 'quality'", package), await OneAsync<long>("SELECT count(*) FROM sign_off WHERE package_id = $1 AND seat = 'quality' AND stands", package)));

        // More time, one step more, and a seat skipped.
        var due = await OneAsync<DateTime>("SELECT due FROM awaited WHERE package_id = $1 AND seat = 'lead'", package);
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "extend", reason = "Holiday.", step = "lead", days = 2 });
        Assert.True(await OneAsync<DateTime>("SELECT due FROM awaited WHERE package_id = $1 AND seat = 'lead'", package) > due);
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "addStep", reason = "Ask the site.", name = "Site", people = new[] { office.Ids["bystander"] }, days = 1 });
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "skip", reason = "Inspected elsewhere.", seat = "quality" });
        await lead.SignAsync(package, "lead");
        Assert.Equal(office.Ids["bystander"], await OneAsync<Guid>("SELECT person_id FROM awaited WHERE package_id = $1", package));

        // Pulled back, its document is the originator's again; stopped, it is out of review.
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "pullBack", reason = "Wrong sheet." });
        Assert.Equal("returned", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));
        await coordinator.PostAsync<JsonElement>(acts, new { kind = "stop", reason = "Not needed any more." });
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));

        var events = (await new Ledgers(office.Db).ChainAsync(package)).Select(e => e.Entry).Where(e => e.Payload.Contains("\"event\":", StringComparison.Ordinal)).Select(e => JsonSerializer.Deserialize<SlipEvent>(e.Payload, Act.Json)!);
        var stored = SlipStore.Read(await OneAsync<string>("SELECT slip::text FROM package WHERE id = $1", package));
        Assert.Equal(SlipStore.Write(stored), SlipStore.Write(SlipRules.Replay(Slip.Blank, events)));
        var found = (await coordinator.GetAsync<JsonElement>("/api/packages?standing=stopped")).GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("id").GetGuid());
        Assert.Contains(package, found);
    }

    [Fact]
    public async Task AnOriginatorRecallsUntilSomebodyHasSigned()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var document = await Office.RegisterAsync(author, "recall");
        var first = await office.SendAsync(author, document);
        await author.PostAsync<JsonElement>($"/api/packages/{first}/acts", new { kind = "recall", reason = "Sent too early." });
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));
        var second = await office.SendAsync(author, document);
        await checker.SignAsync(second, "check");
        Assert.Equal((409, "signed"), await author.RefusedAsync($"/api/packages/{second}/acts", new { kind = "recall", reason = "Too late." }));
    }
}
