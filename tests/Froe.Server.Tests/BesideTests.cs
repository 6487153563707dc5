using System.Net;
using System.Text;
using System.Text.Json;
using Froe.Server.Register;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Models of several files: found in the register, completed by what comes later, and never changed under a verdict.</summary>
public class BesideTests(Office office)
{
    private static readonly string Cases = CasesIn(new DirectoryInfo(AppContext.BaseDirectory));

    private static string CasesIn(DirectoryInfo folder) => File.Exists(Path.Combine(folder.FullName, "Froe.slnx")) ? Path.Combine(folder.FullName, "tests", "cases", "tray") : CasesIn(folder.Parent!);

    /// <summary>The tray's files under names of their own, so that no other test's are found; two trays differ in a word.</summary>
    private sealed record Tray(string Plate, string Pin)
    {
        public static Tray New() => new($"TR{Random.Shared.Next(1_000_000, 9_999_999)}-10", $"pin-{Guid.NewGuid():N}.stp");

        public byte[] Assembly(string words = "") => Encoding.Latin1.GetBytes(File.ReadAllText(Path.Combine(Cases, "tray.stp"), Encoding.Latin1)
            .Replace("TR-10 Tray plate.stp", $"{Plate} Tray plate.stp", StringComparison.Ordinal).Replace("tray-pin.stp", Pin, StringComparison.Ordinal).Replace("Author", "Author" + words + Pin, StringComparison.Ordinal));

        public byte[] PlateFile() => Own("TR-10 Tray plate.stp");

        public byte[] PinFile() => Own("tray-pin.stp");

        private byte[] Own(string name) => Encoding.Latin1.GetBytes(File.ReadAllText(Path.Combine(Cases, name), Encoding.Latin1).Replace("Author", Pin, StringComparison.Ordinal));
    }

    private static async Task<Guid> RegisterAsync(Browser by, string number, string name, byte[] file, string kind = "model")
    {
        var upload = await by.UploadAsync(name, file);
        return (await by.PostAsync<JsonElement>("/api/documents", new { number, title = name, kind, discipline = "Mechanical", upload, reason = "" })).GetProperty("document").GetGuid();
    }

    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private Task<Guid> DraftAsync(Guid document) => OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1 ORDER BY id DESC LIMIT 1", document);

    private static async Task<string[]> MissingAsync(Browser by, Guid draft) =>
        [.. (await by.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/scene")).GetProperty("components").EnumerateArray().Select(c => c.GetProperty("missingFile").GetString()).OfType<string>()];

    /// <summary>Runs until all that could be completed is; the server's own worker may have taken it, and is waited for.</summary>
    private async Task CompleteAsync(Func<Task<bool>> isDone)
    {
        for (var i = 0; i < 3000; i++)
        {
            await office.Services.GetRequiredService<PreparingAnew>().RunAsync(TestContext.Current.CancellationToken);
            if (await isDone()) return;
            await Task.Delay(20, TestContext.Current.CancellationToken);
        }
        Assert.Fail("Nothing was completed within a minute.");
    }

    [Fact]
    public async Task PartsThatAreRegisteredAreFoundByFileNameAndByNumberAndStayAsTheyWere()
    {
        var tray = Tray.New();
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var plate = await RegisterAsync(author, tray.Plate, "whatever it is called.stp", tray.PlateFile());
        // What came with it and is no document of its own is found as well.
        await author.UploadAsync(tray.Pin.ToUpperInvariant(), tray.PinFile());
        var assembly = await RegisterAsync(author, "A-" + Guid.NewGuid(), "tray.stp", tray.Assembly());
        var draft = await DraftAsync(assembly);
        Assert.Empty(await MissingAsync(checker, draft));
        var beside = await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/beside");
        Assert.Equal([(tray.Plate, true), (null, true)], beside.EnumerateArray().OrderByDescending(b => b.GetProperty("name").GetString() != tray.Pin).Select(b => (b.GetProperty("from") is { ValueKind: JsonValueKind.Object } f ? f.GetProperty("number").GetString() : null, b.GetProperty("isThere").GetBoolean())));
        Assert.Equal(tray.PinFile(), await checker.BytesAsync($"/api/drafts/{draft}/beside/{tray.Pin}"));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"/api/drafts/{draft}/beside/other.stp"));
        var guest = await office.AsAsync("guest");
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/beside"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/beside/{tray.Pin}"));
        // What belongs to a draft is not swept with uploads that nobody registered.
        await office.OwnerDb.RunAsync("DELETE FROM upload WHERE file_name = $1", [tray.Pin.ToUpperInvariant()]);
        Assert.Equal(0, await OneAsync<int>("SELECT discard_content(ARRAY[(SELECT sha256 FROM draft_beside WHERE draft_id = $1 AND name = $2)])", draft, tray.Pin));
        Assert.Equal(tray.PinFile(), await checker.BytesAsync($"/api/drafts/{draft}/beside/{tray.Pin}"));
        // The part's next draft is nothing that this one ever showed.
        var forms = await OneAsync<string>("SELECT string_agg(encode(sha256, 'hex'), ' ' ORDER BY form) FROM draft_form WHERE draft_id = $1", draft);
        var upload = await author.UploadAsync($"{tray.Plate} Tray plate.stp", [.. tray.PlateFile(), (byte)'\n']);
        await author.PostAsync<JsonElement>($"/api/documents/{plate}/drafts", new { upload, reason = "" });
        await office.Services.GetRequiredService<PreparingAnew>().RunAsync(TestContext.Current.CancellationToken);
        Assert.Equal(forms, await OneAsync<string>("SELECT string_agg(encode(sha256, 'hex'), ' ' ORDER BY form) FROM draft_form WHERE draft_id = $1", draft));
        Assert.Empty(await office.ProofAsync(assembly));
        // The same bytes may mean other parts now, so they are no draft of their own.
        upload = await author.UploadAsync("tray.stp", tray.Assembly());
        Assert.Equal("same-bytes", (await author.RefusedAsync($"/api/documents/{assembly}/drafts", new { upload, reason = "" })).Item2);
        await office.OwnerDb.RunAsync("UPDATE draft_beside SET sha256 = (SELECT sha256 FROM draft WHERE id = $1) WHERE draft_id = $1 AND name = $2", [draft, tray.Pin]);
        Assert.Contains(await office.ProofAsync(assembly), f => f.Contains("other files that it consists of", StringComparison.Ordinal));
    }

    [Fact]
    public async Task WhatComesLaterCompletesAModelAndIsToBeOpenedAgain()
    {
        var tray = Tray.New();
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        await RegisterAsync(author, "P-" + Guid.NewGuid(), $"{tray.Plate} Tray plate.stp", tray.PlateFile());
        var assembly = await RegisterAsync(author, "A-" + Guid.NewGuid(), "tray.stp", tray.Assembly());
        var draft = await DraftAsync(assembly);
        Assert.Equal([tray.Pin, tray.Pin], await MissingAsync(checker, draft));
        var package = await office.SendAsync(author, assembly);
        await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/opened", new { });
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM draft_opened WHERE draft_id = $1", draft));
        await RegisterAsync(author, "P-" + Guid.NewGuid(), tray.Pin, tray.PinFile());
        await CompleteAsync(async () => (await MissingAsync(checker, draft)).Length == 0);
        Assert.Equal(0, await OneAsync<long>("SELECT count(*) FROM draft_opened WHERE draft_id = $1", draft));
        var leaf = (await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves"))[0];
        Assert.Equal(await OneAsync<int>("SELECT prepared FROM draft WHERE id = $1 AND completed = 1", draft), leaf.GetProperty("prepared").GetInt32());
        Assert.Equal("Files that were missing in it have come.", await OneAsync<string>("SELECT reason FROM ledger_entry WHERE chain = $1 AND action = 'draft prepared anew'", assembly));
        Assert.Empty(await office.ProofAsync(assembly, package));
    }

    [Fact]
    public async Task WhatSomebodyJudgedStaysAsTheySawIt()
    {
        var tray = Tray.New();
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        await RegisterAsync(author, "P-" + Guid.NewGuid(), $"{tray.Plate} Tray plate.stp", tray.PlateFile());
        var (first, second) = (await RegisterAsync(author, "A-" + Guid.NewGuid(), "tray.stp", tray.Assembly()), await RegisterAsync(author, "A-" + Guid.NewGuid(), "tray.stp", tray.Assembly("other")));
        var package = await office.SendAsync(author, first);
        await checker.SignAsync(package, "check");
        await RegisterAsync(author, "P-" + Guid.NewGuid(), tray.Pin, tray.PinFile());
        // The other, which nobody has judged, tells that the file was looked for.
        await CompleteAsync(async () => (await MissingAsync(checker, await DraftAsync(second))).Length == 0);
        Assert.Equal([tray.Pin, tray.Pin], await MissingAsync(checker, await DraftAsync(first)));
        Assert.Empty(await office.ProofAsync(first, second, package));
    }

    [Fact]
    public async Task APersonSaysWhichModelShowsADrawingAndBothLeadToOneAnother()
    {
        var tray = Tray.New();
        var (author, checker, guest) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("guest"));
        var model = await RegisterAsync(author, "M-" + tray.Plate, $"{tray.Plate} Tray plate.stp", tray.PlateFile());
        var drawing = await RegisterAsync(author, "D-" + tray.Plate, "sheet.dxf", Office.Drawing("SHEET " + tray.Pin), "drawing");
        var (sheet, scene) = (await DraftAsync(drawing), await DraftAsync(model));
        object Relation(bool isShown, string component = "Tray plate", Guid? to = null) => new { key = Guid.NewGuid(), model = to ?? model, component, isShown };
        Assert.Equal(404, (await guest.RefusedAsync($"/api/drafts/{sheet}/models", Relation(true), HttpMethod.Put)).Status);
        Assert.Equal("itself", (await checker.RefusedAsync($"/api/drafts/{sheet}/models", Relation(true, to: drawing), HttpMethod.Put)).Code);
        var other = await Office.RegisterAsync(author, "no model " + tray.Pin);
        Assert.Equal("no-model", (await checker.RefusedAsync($"/api/drafts/{sheet}/models", Relation(true, to: other), HttpMethod.Put)).Code);
        Assert.Equal(404, (await checker.RefusedAsync($"/api/drafts/{sheet}/models", Relation(true, to: Guid.NewGuid()), HttpMethod.Put)).Status);
        await checker.PutAsync<JsonElement>($"/api/drafts/{sheet}/models", Relation(true));
        await checker.PutAsync<JsonElement>($"/api/drafts/{sheet}/models", Relation(true));
        var shown = await checker.GetAsync<JsonElement>($"/api/drafts/{sheet}/models");
        var one = Assert.Single(shown.GetProperty("models").EnumerateArray());
        Assert.Equal((true, "Tray plate", scene, true), (shown.GetProperty("mayRelate").GetBoolean(), one.GetProperty("number").GetString(), one.GetProperty("name").GetProperty("draft").GetGuid(), one.GetProperty("isSet").GetBoolean()));
        var known = Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{scene}/leaves/0/data")).GetProperty("documents").EnumerateArray());
        Assert.Equal((drawing, 0), (known.GetProperty("document").GetProperty("name").GetProperty("document").GetGuid(), known.GetProperty("components")[0].GetInt32()));
        Assert.Single(await office.Db.ListAsync("SELECT 1 FROM ledger_entry WHERE chain = $1 AND action = 'model related'", r => r.GetInt32(0), [drawing]));
        Assert.Empty(await office.ProofAsync(drawing));
        await office.OwnerDb.RunAsync("UPDATE document_shown SET component = 'Another' WHERE document_id = $1", [drawing]);
        Assert.Contains(await office.ProofAsync(drawing), f => f.Contains("the models that show it", StringComparison.Ordinal));
        await checker.PutAsync<JsonElement>($"/api/drafts/{sheet}/models", Relation(false));
        Assert.Empty((await checker.GetAsync<JsonElement>($"/api/drafts/{sheet}/models")).GetProperty("models").EnumerateArray());
        Assert.Empty(await office.ProofAsync(drawing));
    }

    [Fact]
    public async Task NothingIsTakenFromWhereItsOwnerMayNotLook()
    {
        var tray = Tray.New();
        var author = await office.AsAsync("author");
        await RegisterAsync(author, tray.Plate, $"{tray.Plate} Tray plate.stp", tray.PlateFile());
        var found = office.Services.GetRequiredService<BesideFiles>();
        async Task<bool> FindsAsync(string login, string name) => await found.FindAsync(await OneAsync<Guid>("SELECT id FROM person WHERE login = $1", login), name, TestContext.Current.CancellationToken) is not null;
        Assert.True(await FindsAsync("checker", $"{tray.Plate} Tray plate.stp"));
        Assert.True(await FindsAsync("checker", $"{tray.Plate}.stp"));
        Assert.False(await FindsAsync("guest", $"{tray.Plate} Tray plate.stp"));
        // A part's drawing has the number as well; it is no model, and no model's file means it.
        var drawing = "TD" + tray.Plate;
        await RegisterAsync(author, drawing, "sheet.dxf", Office.Drawing(drawing), "drawing");
        Assert.False(await FindsAsync("checker", $"{drawing}.stp"));
    }
}
