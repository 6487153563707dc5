using System.Text.Json;
using Froe.Core.Routing;
using Froe.Store;

namespace Froe.Server.Tests;

/// <summary>What stories of routing as people live it share.</summary>
public abstract class LivedStories(Office office)
{
    protected Office Here => office;

    protected async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    protected static Task<JsonElement> ActAsync(Browser who, Guid package, string kind, object? more = null)
    {
        var body = JsonSerializer.SerializeToNode(more ?? new { }, JsonSerializerOptions.Web)!.AsObject();
        (body["kind"], body["reason"], body["key"]) = (kind, "Because.", Guid.NewGuid());
        return who.PostAsync<JsonElement>($"/api/packages/{package}/acts", body);
    }

    protected static Task<JsonElement> ViewAsync(Browser who, Guid package) => who.GetAsync<JsonElement>($"/api/packages/{package}");

    protected static async Task NextDraftAsync(Browser author, Guid document) => await author.PostAsync<JsonElement>(
        $"/api/documents/{document}/drafts", new { upload = await author.UploadAsync("next.dxf", Office.Drawing("next " + Guid.NewGuid())), reason = "" });

    protected Task<int> ToldAsync(string person, string subject, Guid package) =>
        OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND subject LIKE $2 AND link LIKE $3", office.Ids[person], $"%{subject}%", $"/packages/{package}%");

    /// <summary>A person with the rights of an originator whom no other test knows.</summary>
    protected async Task<(Guid Id, Browser Browser)> OriginatorAsync(string called)
    {
        var (id, login) = (Guid.CreateVersion7(), called + Guid.NewGuid().ToString("n")[..8]);
        await new People(office.Db).AddAsync(new Person(id, login, called, "X", "", $"{login}@office.example", "UTC", false), Office.PasswordHash, ["Staff", "Originators"]);
        return (id, await office.AsAsync(login));
    }

    protected async Task<Guid> PlanAsync(Plan plan)
    {
        var id = Guid.CreateVersion7();
        await office.AddPlanAsync(id, plan with { Name = $"{plan.Name} {id}" });
        return id;
    }

    protected static async Task<Guid> SendAsync(Browser author, Guid plan, params Guid[] documents) => (await author.PostAsync<JsonElement>(
        "/api/packages", new { key = Guid.NewGuid(), title = "Lived", coveringNote = "Please look.", plan, documents, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();

    protected Step Look(string key, params string[] people) => new(key, key, "Look.", 1, [.. people.Select(p => new Seat($"{key}-{p}", p, new PersonHolder(office.Ids[p])))]);
}
