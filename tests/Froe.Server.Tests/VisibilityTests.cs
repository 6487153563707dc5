using System.Net.Http.Json;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Server.SignIn;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>
/// The law of visibility: for random people, folders, rights and packages no answer of any endpoint holds an id, number, title or name
/// from outside what its reader may see; and what they may see, they are shown.
/// </summary>
public class VisibilityTests(Office office)
{
    private sealed record Doc(Guid Id, string Number, string Title, string Folder, Guid Draft);

    private sealed record Pack(Guid Id, string Number, string Title, PackageParts Parts, Doc[] Documents, string Note);

    private sealed record Reader(Guid Id, string Login, bool IsGuest, Rights Rights, Browser Browser);

    private readonly Random random = new(20261126);
    private readonly string mark = Guid.NewGuid().ToString("n")[..8];

    [Fact]
    public async Task NoAnswerHoldsWhatItsReaderMayNotSee()
    {
        var author = await office.AsAsync("author");
        string[] folders = ["A", "A / B", "A / B / C", "D", "D / E", "AB"];
        var paths = folders.Select(f => $"V{mark} / {f}").ToArray();
        var coordinator = await office.AsAsync("coordinator");
        foreach (var path in paths) await coordinator.SendAsync("/api/folders", JsonContent.Create(new { path }));
        var documents = new List<Doc>();
        for (var i = 0; i < 12; i++) documents.Add(await RegisterAsync(author, i, paths[i % paths.Length]));
        var people = new List<Reader>();
        for (var i = 0; i < 7; i++) people.Add(await ReaderAsync(i, paths));
        var packages = new List<Pack>();
        for (var i = 0; i < 6; i++) packages.Add(await SendAsync(author, i, [.. documents.Skip(i * 2).Take(1 + (i % 2))], people));

        var endpoints = await EndpointsAsync();
        Guid[] known = [.. documents.SelectMany(d => new[] { d.Id, d.Draft }), .. packages.Select(p => p.Id)];
        var told = new List<string>();
        foreach (var reader in people)
        {
            bool Sees(Pack p) => Visibility.Sees(reader.Id, reader.Rights, [], p.Parts);
            var seenDocuments = documents.Where(d => Visibility.Sees(reader.Rights, d.Folder) || packages.Any(p => Sees(p) && p.Documents.Contains(d))).ToList();
            var secrets = documents.Except(seenDocuments).SelectMany(d => new[] { d.Id.ToString(), d.Draft.ToString(), d.Number, d.Title })
                .Concat(packages.Where(p => !Sees(p)).SelectMany(p => new[] { p.Id.ToString(), p.Number, p.Title, p.Note }))
                // What somebody has a right for they are told the name of.
                .Concat(paths.Where(f => !reader.Rights.Granted.Any(g => Folders.Holds(g.Folder, f) || Folders.Holds(f, g.Folder)) && !seenDocuments.Any(d => Folders.Holds(f, d.Folder))))
                .ToList();
            async Task LookAsync(HttpMethod method, string path, object? body)
            {
                var answer = await reader.Browser.SendAsync(path, body is null ? null : JsonContent.Create(body), method);
                var text = await answer.Content.ReadAsStringAsync();
                // What somebody sent comes back in the answer about it: only what they did not send counts.
                var sent = path + (body is null ? "" : JsonSerializer.Serialize(body));
                told.AddRange(secrets.Where(s => text.Contains(s, StringComparison.Ordinal) && !sent.Contains(s, StringComparison.Ordinal)).Select(s => $"{reader.Login}: {method} {path} tells {s}"));
            }

            foreach (var path in endpoints)
                foreach (var id in path.Contains('{', StringComparison.Ordinal) ? SomeOf(known) : [Guid.Empty])
                    await LookAsync(HttpMethod.Get, System.Text.RegularExpressions.Regex.Replace(path, @"\{[^}]*\}", m => m.Value.Contains("list", StringComparison.Ordinal) ? "register" : id.ToString()), null);
            foreach (var search in new[] { mark, "Hidden" })
                foreach (var list in new[] { "documents", "packages", "packages/late", "notes", "ledger", "messages", "folders/found" })
                    await LookAsync(HttpMethod.Get, $"/api/{list}?search={search}&words={search}", null);
            foreach (var path in paths.Prepend($"V{mark}")) await LookAsync(HttpMethod.Get, $"/api/folders?in={Uri.EscapeDataString(path)}", null);
            foreach (var document in documents)
            {
                Guid[] one = [document.Id];
                await LookAsync(HttpMethod.Post, "/api/plans/fitting", new { documents = one });
                await LookAsync(HttpMethod.Post, "/api/plans/preview", new { planId = office.Plan, documents = one });
                await LookAsync(HttpMethod.Post, "/api/packages", new { key = Guid.NewGuid(), title = "x", coveringNote = "", plan = office.Plan, documents = one, inform = Array.Empty<Guid>() });
                await LookAsync(HttpMethod.Post, "/api/documents/places", new { documents = one, folder = paths[0], copy = true, reason = "x" });
                await LookAsync(HttpMethod.Post, "/api/documents/standings", new { documents = one, to = "x", reason = "x" });
                await LookAsync(HttpMethod.Post, "/api/documents/use", new { documents = one, people = new[] { reader.Id }, groups = Array.Empty<Guid>(), reason = "x", message = "" });
                await LookAsync(HttpMethod.Post, $"/api/documents/{document.Id}/drafts", new { upload = Guid.NewGuid(), reason = "x" });
                await LookAsync(HttpMethod.Post, "/api/documents", new { number = document.Number.ToUpperInvariant(), title = "x", kind = "drawing", discipline = "x", upload = Guid.NewGuid(), reason = "", folder = document.Folder });
            }
            await LookAsync(HttpMethod.Post, "/api/sign-offs", new { grant = (await reader.Browser.PostAsync<JsonElement>("/api/session/confirm", new { password = Office.Password })).GetProperty("grant").GetString(), remark = "", packages = packages.Select(p => new { package = p.Id, seat = "check", key = Guid.NewGuid() }) });

            // And the other way: nothing is hidden that is theirs to see.
            foreach (var package in packages)
                if (await reader.Browser.StatusAsync($"/api/packages/{package.Id}") is var status && status != (Sees(package) ? System.Net.HttpStatusCode.OK : System.Net.HttpStatusCode.NotFound)) told.Add($"{reader.Login}: {package.Title} answers {status}");
            foreach (var document in documents)
                if (await reader.Browser.StatusAsync($"/api/drafts/{document.Draft}/leaves") is var status && status != (seenDocuments.Contains(document) ? System.Net.HttpStatusCode.OK : System.Net.HttpStatusCode.NotFound)) told.Add($"{reader.Login}: {document.Title} answers {status}");
            // A list is given its packages by their ids, or, when they are many, by a hash, or looks at each by its keys: the same ones.
            var may = await VisibilitySql.FoldersAsync(office.Db, [.. reader.Rights.Places(Right.Read) ?? []], default);
            var byId = (await VisibilitySql.PackagesAsync(office.Db, may, reader.Id, default)).Order().ToList();
            foreach (var which in new[] { $"(k.id IN ({VisibilitySql.PackagesSql("$1", "$2")})) IS TRUE", $"EXISTS ({VisibilitySql.OnePackageSql("k.id", "$1", "$2")})" })
                Assert.Equal(byId, (await office.Db.ListAsync($"SELECT k.id FROM package k WHERE {which}", r => r.GetGuid(0), [may, reader.Id])).Order());
            if (!reader.IsGuest && reader.Rights.Granted.Length > 0)
                Assert.Equal(
                    packages.Where(Sees).Select(p => p.Number).Order(StringComparer.Ordinal),
                    (await reader.Browser.RowsAsync($"/api/packages?search={mark}")).Select(r => r.GetProperty("number").GetString()).Order(StringComparer.Ordinal));
            Assert.Equal(
                documents.Where(d => Visibility.Sees(reader.Rights, d.Folder)).Select(d => d.Number).Order(StringComparer.Ordinal),
                (await reader.Browser.RowsAsync($"/api/documents?search={mark}")).Select(r => r.GetProperty("number").GetString()).Order(StringComparer.Ordinal));
        }
        Assert.True(told.Count == 0, string.Join('\n', told.Take(40)));
    }

    /// <summary>All of them under --long; otherwise a third, another for each person and endpoint.</summary>
    private Guid[] SomeOf(Guid[] known) => Office.IsLong ? known : random.GetItems(known, known.Length / 3);

    [Fact]
    public async Task WhoeverIsInNoGroupReadsNothingOfTheOffice()
    {
        var login = "nobody-" + mark;
        await new People(office.Db).AddAsync(new Person(Guid.CreateVersion7(), login, login, "N", "", "n@office.example", "UTC", false), Office.PasswordHash, []);
        var nobody = await office.AsAsync(login);
        Assert.Equal([login], (await nobody.GetAsync<JsonElement>("/api/people")).EnumerateArray().Select(p => p.GetProperty("name").GetString()));
        Assert.Equal(0, (await nobody.GetAsync<JsonElement>("/api/groups")).GetArrayLength());
        Assert.Equal(0, (await nobody.GetAsync<JsonElement>("/api/disciplines")).GetArrayLength());
        Assert.Equal(0, (await nobody.GetAsync<JsonElement>("/api/folders")).GetArrayLength());
        foreach (var closed in new[] { "/api/plans", "/api/absences", "/api/packages", "/api/notes", "/api/ledger", "/api/calendars" }) Assert.Equal(System.Net.HttpStatusCode.Forbidden, await nobody.StatusAsync(closed));
    }

    private async Task<Doc> RegisterAsync(Browser author, int i, string folder)
    {
        var (number, title) = ($"v{mark}-{i}n", $"Hidden{mark}x{i}x");
        var upload = await author.UploadAsync("sheet.dxf", Office.Drawing(title));
        var made = await author.PostAsync<JsonElement>("/api/documents", new { number, title, kind = "drawing", discipline = $"Discipline{mark}x{i}x", upload, reason = "", folder });
        return new Doc(made.GetProperty("document").GetGuid(), number, title, folder, made.GetProperty("draft").GetGuid());
    }

    /// <summary>Somebody with random rights for random folders; the first is a guest, the second in no group.</summary>
    private async Task<Reader> ReaderAsync(int i, string[] paths)
    {
        var (id, login) = (Guid.CreateVersion7(), $"reader{i}-{mark}");
        await new People(office.Db).AddAsync(new Person(id, login, login, "R", "", "r@office.example", "UTC", i == 0), Office.PasswordHash, i == 0 ? ["Guests"] : []);
        if (i > 1)
        {
            var group = new PersonGroup(Guid.CreateVersion7(), login, [id]);
            await new People(office.Db).AddGroupAsync(group);
            foreach (var right in (string[])["read", "sign", "send", "coordinate", "moveStandings"])
                if (right == "read" || random.Next(2) == 0)
                    await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, $2, id FROM folder WHERE path = $3 ON CONFLICT DO NOTHING", [group.Id, right, paths[random.Next(paths.Length)]]);
        }
        var rights = new Rights(await office.Db.ListAsync("SELECT r.right_name, f.path FROM group_right r JOIN folder f ON f.id = r.folder_id JOIN group_member m USING (group_id) WHERE m.person_id = $1", r => new GrantedRight(RightsBook.Named(r.GetString(0)), r.GetString(1)), [id]));
        return new Reader(id, login, i == 0, rights, await office.AsAsync(login));
    }

    private async Task<Pack> SendAsync(Browser author, int i, Doc[] documents, List<Reader> people)
    {
        var (title, note) = ($"Hidden{mark}p{i}p", $"Hidden{mark}n{i}n");
        Guid[] informed = [.. people.Where(_ => random.Next(4) == 0).Select(p => p.Id)];
        var sent = await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title, coveringNote = note, plan = office.Plan, documents = documents.Select(d => d.Id), inform = informed });
        var id = sent.GetProperty("id").GetGuid();
        var checker = await office.AsAsync("checker");
        await checker.NoteAsync(id, "request", $"{note}q");
        Guid[] asked = [.. people.Where(_ => random.Next(6) == 0).Select(p => p.Id)];
        foreach (var person in asked) await checker.PostAsync<JsonElement>($"/api/packages/{id}/advice", new { of = person, question = $"{note}a" });
        return new Pack(id, sent.GetProperty("number").GetString()!, title, new PackageParts(office.Ids["author"], [office.Ids["checker"], office.Ids["lead"], office.Ids["q1"], office.Ids["q2"], office.Ids["q3"]], informed, asked, await office.Db.ListAsync("SELECT person_id FROM package_told WHERE package_id = $1", r => r.GetGuid(0), [id]), [.. documents.Select(d => d.Folder)]), documents, note);
    }

    private async Task<List<string>> EndpointsAsync()
    {
        using var http = office.CreateClient();
        var api = await http.GetFromJsonAsync<JsonElement>("/openapi/v1.json");
        return [.. api.GetProperty("paths").EnumerateObject().Where(p => p.Value.TryGetProperty("get", out _)).Select(p => p.Name)];
    }
}
