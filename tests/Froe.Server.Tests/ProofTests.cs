using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.Register;
using Froe.Store;
using Froe.Store.Proof;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Whoever rules the database changes what was signed, and verify says what.</summary>
public class ProofTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    /// <summary>A package that has lived: returned with requests and advice, answered, signed as noted, in its second round.</summary>
    private async Task<(Guid Package, Guid Document)> LivedAsync()
    {
        var (author, checker, lead, q1, q2) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"), await office.AsAsync("q2"));
        var document = await Office.RegisterAsync(author, "proof " + Guid.NewGuid());
        var package = await office.SendAsync(author, document);
        var remark = await checker.NoteAsync(package, "remark", "Looks clean.");
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = "Is it?", note = remark });
        var advice = await OneAsync<Guid>("SELECT id FROM advice WHERE package_id = $1", package);
        await (await office.AsAsync("bystander")).PostAsync<JsonElement>($"/api/advice/{advice}", new { words = "It is." });
        await checker.SignAsync(package, "check");
        var request = await lead.NoteAsync(package, "request", "Longer.");
        await lead.SignAsync(package, "lead", "returnForChanges");
        await q1.SignAsync(package, "quality");
        await q2.SignAsync(package, "quality");
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("longer " + Guid.NewGuid()));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "longer" });
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "doneDifferently", body = "Wider." });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Wider now." });
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "Fine." });
        await checker.SignAsync(package, "check");
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1 AND ordinal = 2", document);
        var points = new { from = new { x = 0, y = 0 }, to = new { x = 100, y = 0 }, length = 5, unit = "metre" };
        await lead.PutAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/scale", new { key = Guid.NewGuid(), scale = points });
        return (package, document);
    }

    /// <summary>What is changed: a column of the rows of a package ($1) or its document ($2), its type, and what it becomes.</summary>
    private static readonly (string Table, string Where, string Column, string Type, string To)[] Alterations =
    [
        ("package", "id = $1", "standing", "text", "'released'"),
        ("package", "id = $1", "round", "int", "1"),
        ("package", "id = $1", "title", "text", "'Another title.'"),
        ("package", "id = $1", "covering_note", "text", "'Another covering note.'"),
        ("package", "id = $1", "originator", "uuid", "(SELECT id FROM person WHERE login = 'lead')"),
        ("package", "id = $1", "number", "text", "'PK-9999'"),
        ("package", "id = $1", "ended_at", "timestamptz", "sent_at"),
        ("package", "id = $1", "edition", "int", "edition + 1"),
        ("package", "id = $1", "split_from", "uuid", "(SELECT p.id FROM package p WHERE p.id <> $1 LIMIT 1)"),
        ("package_item", "package_id = $1 AND round = 1", "draft_id", "uuid", "(SELECT id FROM draft WHERE document_id = $2 AND ordinal = 2)"),
        ("package_item", "package_id = $1 AND round = 2", "document_id", "uuid", "(SELECT id FROM document WHERE id <> $2 LIMIT 1)"),
        ("package_seat", "package_id = $1 AND person_id = (SELECT id FROM person WHERE login = 'lead')", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'guest')"),
        ("package_folder", "package_id = $1", "items", "int", "items + 1"),
        ("awaited", "package_id = $1 AND person_id = (SELECT id FROM person WHERE login = 'lead')", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'guest')"),
        ("awaited", "package_id = $1 AND person_id = (SELECT id FROM person WHERE login = 'lead')", "step", "text", "'check'"),
        ("step_passage", "package_id = $1 AND round = 1 AND step = 'check'", "passed_at", "timestamptz", "passed_at + interval '1 day'"),
        ("step_passage", "package_id = $1 AND round = 1 AND step = 'check'", "opened_at", "timestamptz", "opened_at - interval '1 day'"),
        ("package", "id = $1", "slip", "jsonb", "jsonb_set(slip, '{open}', '[]')"),
        ("package_item", "package_id = $1 AND round = 2", "draft_id", "uuid", "(SELECT id FROM draft WHERE document_id = $2 AND ordinal = 1)"),
        ("sign_off", "package_id = $1 AND round = 2", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'bystander')"),
        ("sign_off", "package_id = $1 AND round = 2", "stands", "boolean", "NOT stands"),
        ("sign_off", "package_id = $1 AND round = 2", "remark", "text", "'unseen'"),
        ("sign_off", "package_id = $1 AND round = 2", "for_person", "uuid", "(SELECT id FROM person WHERE login = 'lead')"),
        ("sign_off", "package_id = $1 AND round = 2", "statement", "text", "'I have not looked.'"),
        ("verdict", "sign_off_id IN (SELECT id FROM sign_off WHERE package_id = $1 AND seat = 'lead')", "verdict", "text", "'approve'"),
        ("verdict", "sign_off_id IN (SELECT id FROM sign_off WHERE package_id = $1 AND seat = 'lead')", "reason", "text", "'because'"),
        ("verdict", "sign_off_id IN (SELECT id FROM sign_off WHERE package_id = $1 AND seat = 'lead')", "sha256", "bytea", "sha256('other')"),
        ("note", "package_id = $1 AND kind = 'request'", "body", "text", "'Shorter.'"),
        ("note", "package_id = $1 AND kind = 'request'", "standing", "text", "'open'"),
        ("note", "package_id = $1 AND kind = 'request'", "author", "uuid", "(SELECT id FROM person WHERE login = 'q3')"),
        ("note", "package_id = $1 AND kind = 'request'", "answer", "text", "'done'"),
        ("note", "package_id = $1 AND kind = 'request'", "subject", "text", "'Another document'"),
        ("note", "package_id = $1 AND kind = 'request'", "asked_of", "uuid", "(SELECT id FROM person WHERE login = 'q3')"),
        ("note", "package_id = $1 AND kind = 'request'", "origin", "uuid", "id"),
        ("overlay", "draft_id IN (SELECT draft_id FROM package_item WHERE package_id = $1) AND owner = (SELECT id FROM person WHERE login = 'lead')", "owner", "uuid", "(SELECT id FROM person WHERE login = 'q3')"),
        ("overlay", "draft_id IN (SELECT draft_id FROM package_item WHERE package_id = $1) AND owner = (SELECT id FROM person WHERE login = 'lead')", "draft_id", "uuid", "(SELECT id FROM draft WHERE document_id = $2 AND ordinal = 2)"),
        ("overlay", "draft_id IN (SELECT draft_id FROM package_item WHERE package_id = $1) AND owner = (SELECT id FROM person WHERE login = 'lead')", "signed_version", "bigint", "0"),
        ("markup", "note_id IN (SELECT id FROM note WHERE package_id = $1 AND kind = 'request')", "shape", "jsonb", "jsonb_set(shape, '{to,x}', '99')"),
        ("markup", "note_id IN (SELECT id FROM note WHERE package_id = $1 AND kind = 'request')", "erased_at", "timestamptz", "changed_at"),
        ("markup", "note_id IN (SELECT id FROM note WHERE package_id = $1 AND kind = 'request')", "sha256", "bytea", "sha256(sha256)"),
        ("markup_change", "markup_id IN (SELECT m.id FROM markup m JOIN note n ON n.id = m.note_id WHERE n.package_id = $1 AND n.kind = 'request')", "body", "text", "replace(body, '40', '41')"),
        ("overlay", "draft_id IN (SELECT draft_id FROM package_item WHERE package_id = $1) AND owner = (SELECT id FROM person WHERE login = 'lead')", "sha256", "bytea", "sha256(sha256)"),
        ("overlay", "draft_id IN (SELECT draft_id FROM package_item WHERE package_id = $1) AND owner = (SELECT id FROM person WHERE login = 'lead')", "version", "bigint", "version + 1"),
        ("note", "package_id = $1 AND kind = 'request'", "kind", "text", "'remark'"),
        ("note_act", "note_id IN (SELECT id FROM note WHERE package_id = $1 AND kind = 'request') AND sequence = 1", "body", "text", "'As asked.'"),
        ("note_act", "note_id IN (SELECT id FROM note WHERE package_id = $1 AND kind = 'request') AND sequence = 2", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'q1')"),
        ("advice", "package_id = $1", "answer", "text", "'It is not.'"),
        ("advice", "package_id = $1", "answered_at", "timestamptz", "at"),
        ("advice", "package_id = $1", "note_id", "uuid", "(SELECT id FROM note WHERE package_id = $1 AND kind = 'request')"),
        ("document", "id = $2", "standing", "text", "'released'"),
        ("document", "id = $2", "changed_at", "timestamptz", "registered_at"),
        ("document", "id = $2", "registered_at", "timestamptz", "registered_at - interval '1 year'"),
        ("document", "id = $2", "originator_name", "text", "'Somebody Else'"),
        ("document", "id = $2", "same_number", "text", "'ELSE'"),
        ("document", "id = $2", "same_number", "text", "NULL"),
        ("document", "id = $2", "folder_id", "bigint", "(SELECT id FROM folder WHERE path = 'Where proof looks')"),
        ("revision", "document_id = $2", "ordinal", "int", "2"),
        ("document", "id = $2", "title", "text", "'Another title'"),
        ("document", "id = $2", "originator", "uuid", "(SELECT id FROM person WHERE login = 'lead')"),
        ("revision", "document_id = $2", "standing", "text", "'released'"),
        ("draft", "document_id = $2 AND ordinal = 2", "sha256", "bytea", "(SELECT sha256 FROM draft WHERE document_id = $2 AND ordinal = 1)"),
        ("draft", "document_id = $2 AND ordinal = 2", "file_name", "text", "'other.dxf'"),
        ("draft", "document_id = $2 AND ordinal = 2", "uploaded_by", "uuid", "(SELECT id FROM person WHERE login = 'lead')"),
        ("draft_form", "draft_id = (SELECT id FROM draft WHERE document_id = $2 AND ordinal = 2) AND form = 'geometry'", "sha256", "bytea", "(SELECT sha256 FROM draft WHERE document_id = $2 AND ordinal = 2)"),
        ("draft", "document_id = $2 AND ordinal = 2", "prepared", "int", "1"),
        ("draft", "document_id = $2 AND ordinal = 2", "revision_id", "uuid", "(SELECT r.id FROM revision r WHERE r.document_id <> $2 AND NOT EXISTS (SELECT 1 FROM draft d WHERE d.revision_id = r.id AND d.ordinal = 2) LIMIT 1)"),
        ("draft_scale", "draft_id = (SELECT id FROM draft WHERE document_id = $2 AND ordinal = 2)", "millimetres", "double precision", "millimetres * 2"),
        ("draft_scale", "draft_id = (SELECT id FROM draft WHERE document_id = $2 AND ordinal = 2)", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'q1')"),
        ("content", "sha256 = (SELECT sha256 FROM draft WHERE document_id = $2 AND ordinal = 2)", "size", "bigint", "size + 1"),
        ("content_chunk", "sha256 = (SELECT sha256 FROM draft WHERE document_id = $2 AND ordinal = 2)", "bytes", "bytea", "set_byte(bytes, 3, (get_byte(bytes, 3) + 1) % 256)"),
        ("content_chunk", "sha256 = (SELECT s.sha256 FROM draft_form s JOIN draft d ON d.id = s.draft_id WHERE d.document_id = $2 AND d.ordinal = 2 AND s.form = 'geometry')", "part", "int", "part + 1"),
        ("ledger_entry", "chain = $1 AND sequence = 3", "payload", "text", "payload || ' '"),
        ("ledger_entry", "chain = $2 AND sequence = 1", "person_id", "uuid", "(SELECT id FROM person WHERE login = 'lead')"),
    ];

    [Fact]
    public async Task WhateverIsAlteredIsFoundAndNothingElse()
    {
        var (package, document) = await LivedAsync();
        var author = await office.AsAsync("author");
        await office.SendAsync(author, await Office.RegisterAsync(author, "another " + Guid.NewGuid()));
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ('Where proof looks') ON CONFLICT DO NOTHING", []);
        // What is gathered from drafts a moment after they are registered would move their rows while they are altered.
        var words = office.Services.GetRequiredService<WordIndex>();
        while (await office.Db.AnyAsync("SELECT 1 FROM draft WHERE document_id = $1 AND words_version < prepared", [document], default)) await words.RunAsync(TestContext.Current.CancellationToken);
        Assert.Empty(await office.ProofAsync(package, document));
        foreach (var (table, where, column, type, to) in Alterations)
        {
            // Whoever rules the database is held by no trigger and no reference either.
            await using var connection = await office.OwnerDb.OpenAsync();
            string Numbered(string sql) => sql.Replace("$1", $"'{package}'::uuid", StringComparison.Ordinal).Replace("$2", $"'{document}'::uuid", StringComparison.Ordinal);
            var was = await connection.ListAsync(Numbered($"SELECT ctid::text, {column}::text FROM {table} WHERE {where}"), r => (Row: r.GetString(0), Value: r.TextOrNull(1)), []);
            Assert.True(was.Count > 0, $"{table}.{column}: there is nothing to alter");
            var altered = await connection.ListAsync(Numbered($"UPDATE {table} SET {column} = {to} WHERE ctid = '{was[0].Row}' RETURNING ctid::text"), r => r.GetString(0), []);
            try
            {
                Assert.True((await office.ProofAsync(package, document)).Count > 0, $"{table}.{column} altered, and nobody notices");
            }
            finally
            {
                Assert.Single(await connection.ListAsync($"UPDATE {table} SET {column} = $1::{type} WHERE ctid = '{altered[0]}' RETURNING 1", r => r.GetInt32(0), [was[0].Value]));
            }
        }
        Assert.Empty(await office.ProofAsync(package, document));
    }

    [Theory]
    [InlineData("verdict", "sign_off_id IN (SELECT id FROM sign_off WHERE package_id = $1 AND round = 2)", "INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark) SELECT gen_random_uuid(), $1, 2, 'lead', id, now(), 'x', 'x' FROM person WHERE login = 'lead'")]
    [InlineData("note_act", "note_id IN (SELECT id FROM note WHERE package_id = $1)", "INSERT INTO note_act (note_id, sequence, person_id, at, act, body) SELECT n.id, 9, n.author, now(), 'close', '' FROM note n WHERE package_id = $1 AND kind = 'request'")]
    [InlineData("content_chunk", "sha256 = (SELECT sha256 FROM draft WHERE document_id = $2 AND ordinal = 2)", "INSERT INTO content_chunk (sha256, part, bytes) SELECT sha256, 7, 'x' FROM draft WHERE document_id = $2 AND ordinal = 2")]
    [InlineData("ledger_entry", "chain = $1", "")]
    [InlineData("ledger_entry", "chain = $2", "")]
    public async Task WhatIsTakenAwayOrAddedIsFound(string table, string where, string adding)
    {
        var (package, document) = await LivedAsync();
        string Numbered(string sql) => sql.Replace("$1", $"'{package}'::uuid", StringComparison.Ordinal).Replace("$2", $"'{document}'::uuid", StringComparison.Ordinal);
        var kept = "kept_" + Guid.NewGuid().ToString("n");
        await office.OwnerDb.RunAsync($"CREATE TABLE {kept} AS SELECT * FROM {table} WITH NO DATA", []);
        await office.OwnerDb.RunAsync(Numbered($"WITH t AS (DELETE FROM {table} WHERE {where} RETURNING *) INSERT INTO {kept} SELECT * FROM t"), []);
        Assert.NotEmpty(await office.ProofAsync(package, document));
        // The owner takes the trigger away that guards content.
        if (table == "content_chunk") await office.OwnerDb.RunAsync("ALTER TABLE content_chunk DISABLE TRIGGER content_is_whole", []);
        await office.OwnerDb.RunAsync($"INSERT INTO {table} SELECT * FROM {kept}", []);
        Assert.Empty(await office.ProofAsync(package, document));
        if (adding.Length > 0)
        {
            await office.OwnerDb.RunAsync(Numbered(adding), []);
            Assert.NotEmpty(await office.ProofAsync(package, document));
        }
        if (table == "content_chunk") await office.OwnerDb.RunAsync("ALTER TABLE content_chunk ENABLE TRIGGER content_is_whole", []);
        await office.OwnerDb.RunAsync($"DROP TABLE {kept}", []);
    }

    [Fact]
    public async Task WhoSignedAndWhoIsSaidToHaveIsToldByName()
    {
        var (package, document) = await LivedAsync();
        var (checker, bystander) = (await NameAsync("checker"), await NameAsync("bystander"));
        await office.OwnerDb.RunAsync("UPDATE sign_off SET person_id = (SELECT id FROM person WHERE login = 'bystander') WHERE package_id = $1 AND round = 2", [package]);
        var found = await office.ProofAsync(package, document);
        Assert.Contains(found, f => f.Contains($"in seat “check” by “{checker}”", StringComparison.Ordinal) && f.EndsWith("is gone", StringComparison.Ordinal));
        Assert.Contains(found, f => f.Contains($"in seat “check” by “{bystander}”", StringComparison.Ordinal) && f.EndsWith("was never given", StringComparison.Ordinal));
        await office.OwnerDb.RunAsync("UPDATE sign_off SET person_id = (SELECT id FROM person WHERE login = 'checker') WHERE package_id = $1 AND round = 2", [package]);
        Assert.Empty(await office.ProofAsync(package, document));
    }

    private Task<string> NameAsync(string login) => OneAsync<string>("SELECT name FROM person WHERE login = $1", login);

    [Fact]
    public async Task WhatIsAlteredIsNeverServed()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "served " + Guid.NewGuid());
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1", document);
        await office.OwnerDb.RunAsync("UPDATE content_chunk SET bytes = set_byte(bytes, 5, (get_byte(bytes, 5) + 1) % 256) WHERE sha256 = (SELECT sha256 FROM draft_form WHERE draft_id = $1 AND form = 'geometry')", [draft]);
        var answer = await author.SendAsync($"/api/drafts/{draft}/leaves/0/geometry", null, HttpMethod.Get);
        Assert.Equal(500, (int)answer.StatusCode);
        Assert.Equal("content-altered", JsonSerializer.Deserialize<JsonElement>(await answer.Content.ReadAsStringAsync()).GetProperty("code").GetString());
        for (var i = 0; i < 600 && await OneAsync<long>("SELECT count(*) FROM security_event WHERE kind = 'content altered'") == 0; i++) await Task.Delay(100);
        Assert.NotEqual(0, await OneAsync<long>("SELECT count(*) FROM security_event WHERE kind = 'content altered'"));
    }

    [Fact]
    public async Task TheServersRoleAddsNothingToStoredContent()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "whole " + Guid.NewGuid());
        var refused = await Assert.ThrowsAsync<PostgresException>(() => office.Db.RunAsync("INSERT INTO content_chunk (sha256, part, bytes) SELECT sha256, 1, 'more' FROM draft WHERE document_id = $1", [document]));
        Assert.Equal(PostgresErrorCodes.InsufficientPrivilege, refused.SqlState);
        Assert.Empty(await office.ProofAsync(document));
    }

    [Theory]
    [InlineData("name = 'Somebody Else'", "their name is “Somebody Else”; by the ledger it is “Ida Proven”")]
    [InlineData("login = 'else-' || id", "what they sign in as is “else-")]
    [InlineData("is_guest = true", "they are a guest, and by the ledger none")]
    [InlineData("barred_at = NULL", "why they are barred is nothing; by the ledger it is “has left”")]
    [InlineData("barred_reason = 'has gone mad'", "why they are barred is “has gone mad”; by the ledger it is “has left”")]
    public async Task WhoSignedIsCalledAsTheLedgerTells(string altered, string finding)
    {
        var admin = await office.AsAsync("coordinator");
        var login = "ida-" + Guid.NewGuid().ToString("n")[..12];
        var wanted = new { login, name = "Ida", initials = "I", title = "", email = "ida@office.example", timeZone = "UTC", isGuest = true, password = "grey harbour lanterns" };
        var id = (await admin.PostAsync<JsonElement>("/api/people", wanted)).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/people/{id}", wanted with { name = "Ida Proven", isGuest = false });
        await admin.PutAsync<JsonElement>($"/api/people/{id}/barring", new { reason = "away for a year" });
        await admin.PostAsync<JsonElement>($"/api/people/{id}/letting-in", new { reason = "is back" });
        await admin.PutAsync<JsonElement>($"/api/people/{id}/barring", new { reason = " has left " });
        async Task<string[]> FoundAsync() => [.. (await new LedgerProof(office.Db).RunAsync(new ProofWanted())).Findings.Where(f => f.Contains($"person {id}", StringComparison.Ordinal) || f.Contains("“Ida Proven”: they are gone", StringComparison.Ordinal))];
        Assert.Empty(await FoundAsync());
        await office.OwnerDb.RunAsync($"UPDATE person SET {altered} WHERE id = $1", [id]);
        Assert.StartsWith($"person {id}: {finding}", Assert.Single(await FoundAsync()), StringComparison.Ordinal);
    }

    [Fact]
    public async Task WhatSomebodyDidSaysThatTheyAreCalledOtherwise()
    {
        var login = "ulf-" + Guid.NewGuid().ToString("n")[..12];
        var id = (await (await office.AsAsync("coordinator")).PostAsync<JsonElement>("/api/people", new { login, name = "Ulf", initials = "U", title = "", email = "ulf@office.example", timeZone = "UTC", isGuest = false, password = "grey harbour lanterns" })).GetProperty("id").GetGuid();
        await office.OwnerDb.RunAsync("INSERT INTO group_member SELECT id, $1 FROM person_group WHERE name = 'Originators'", [id]);
        var document = await Office.RegisterAsync(await office.AsAsync(login, "grey harbour lanterns"), "called " + Guid.NewGuid());
        var other = await Office.RegisterAsync(await office.AsAsync("author"), "not theirs " + Guid.NewGuid());
        Assert.Empty(await office.ProofAsync(document, other));
        await office.OwnerDb.RunAsync("UPDATE person SET name = 'Elf' WHERE id = $1", [id]);
        Assert.Equal([$"person {id}: their name is “Elf”; by the ledger it is “Ulf”"], await office.ProofAsync(document));
        Assert.Empty(await office.ProofAsync(other));
    }

    [Theory]
    [InlineData("INSERT INTO group_member SELECT $1, id FROM person WHERE login = 'bystander'", "DELETE FROM group_member WHERE group_id = $1 AND person_id = (SELECT id FROM person WHERE login = 'bystander')")]
    [InlineData("DELETE FROM group_member WHERE group_id = $1 AND person_id = $2", "INSERT INTO group_member VALUES ($1, $2)")]
    [InlineData("INSERT INTO group_member SELECT id, $2 FROM person_group WHERE name = 'Administrators'", "DELETE FROM group_member WHERE person_id = $2 AND group_id = (SELECT id FROM person_group WHERE name = 'Administrators')")]
    [InlineData("UPDATE group_right SET right_name = 'administer' WHERE group_id = $1", "UPDATE group_right SET right_name = 'sign' WHERE group_id = $1")]
    [InlineData("UPDATE person_group SET name = name || ' too' WHERE id = $1", "UPDATE person_group SET name = left(name, -4) WHERE id = $1")]
    [InlineData("UPDATE absence SET deputy = $4 WHERE person_id = $2", "UPDATE absence SET deputy = $3 WHERE person_id = $2")]
    [InlineData("UPDATE absence SET back_at = back_at + interval '1 day' WHERE person_id = $2", "UPDATE absence SET back_at = back_at - interval '1 day' WHERE person_id = $2")]
    [InlineData("INSERT INTO absence VALUES (md5($2::text)::uuid, $2, now(), now() + interval '1 day', $4)", "DELETE FROM absence WHERE id = md5($2::text)::uuid")]
    [InlineData("UPDATE calendar SET week = jsonb_set(week, '{6}', week -> 0) WHERE id = $5", "UPDATE calendar SET week = jsonb_set(week, '{6}', '[]') WHERE id = $5")]
    [InlineData("UPDATE holiday SET day = day + 1 WHERE calendar_id = $5", "UPDATE holiday SET day = day - 1 WHERE calendar_id = $5")]
    [InlineData("UPDATE folder SET standings = NULL WHERE path = $6", "UPDATE folder SET standings = $7::jsonb WHERE path = $6")]
    [InlineData("UPDATE group_right SET folder_id = (SELECT id FROM folder WHERE path = '') WHERE group_id = $1", "UPDATE group_right SET folder_id = (SELECT id FROM folder WHERE path = $6) WHERE group_id = $1")]
    public async Task TheOfficeIsAsItWasMade(string altering, string restoring)
    {
        var admin = await office.AsAsync("coordinator");
        var name = "proof " + Guid.NewGuid().ToString("n")[..12];
        var person = (await admin.PostAsync<JsonElement>("/api/people", new { login = name.Replace(' ', '-'), name, initials = "P", title = "", email = "p@office.example", timeZone = "Europe/Oslo", isGuest = false, password = "grey harbour lanterns" })).GetProperty("id").GetGuid();
        await admin.PostAsync<JsonElement>("/api/folders", new { path = name + " first" });
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name, members = new[] { office.Ids["lead"] } })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name, members = new[] { office.Ids["lead"], person }, rights = new[] { new { right = "sign", folder = name + " first" } } });
        await admin.PutAsync<JsonElement>("/api/folders/standings", new { path = name + " first", standings = new { stages = new[] { new { name = "in work" }, new { name = "done" } }, moves = new[] { new { from = "in work", to = "done", groups = new[] { group } } } } });
        await admin.PutAsync<JsonElement>("/api/folders", new { path = name + " first", to = name });
        await admin.PostAsync<JsonElement>("/api/absences", new { key = Guid.NewGuid(), person, firstDay = "2031-03-29", backDay = "2031-04-02", deputy = office.Ids["q1"] });
        var day = new[] { new { from = 480, to = 960 } };
        var none = Array.Empty<object>();
        var calendar = (await admin.PostAsync<JsonElement>("/api/calendars", new { name, week = new object[] { day, day, day, day, day, none, none }, holidays = new object[] { new { day = "2031-05-17", name = "Feast", left = none }, new { day = "2031-05-01", name = "Half", left = day } } })).GetProperty("id").GetGuid();
        async Task<string[]> FoundAsync() => [.. (await new LedgerProof(office.Db).RunAsync(new ProofWanted())).Findings.Where(f => f.Contains(name, StringComparison.Ordinal) || f.Contains($"{person}", StringComparison.Ordinal))];
        Assert.Empty(await FoundAsync());
        var standings = await OneAsync<string>("SELECT standings::text FROM folder WHERE path = $1", name);
        string Filled(string sql)
        {
            object[] values = [group, person, office.Ids["q1"], office.Ids["q2"], calendar, name, standings];
            for (var i = 0; i < values.Length; i++) sql = sql.Replace($"${i + 1}", values[i] is Guid id ? $"'{id}'::uuid" : $"'{values[i]}'", StringComparison.Ordinal);
            return sql;
        }
        await office.OwnerDb.RunAsync(Filled(altering), []);
        Assert.NotEmpty(await FoundAsync());
        await office.OwnerDb.RunAsync(Filled(restoring), []);
        Assert.Empty(await FoundAsync());
        await admin.DeleteAsync($"/api/calendars/{calendar}");
        await admin.DeleteAsync($"/api/groups/{group}");
        Assert.Empty(await FoundAsync());
    }

    /// <summary>An act bears the time of its request, which may then wait while another changes its group, or names its folder.</summary>
    [Fact]
    public async Task WhatWasDoneLastCountsThoughItBeganEarlier()
    {
        var admin = await office.AsAsync("coordinator");
        var name = "order " + Guid.NewGuid().ToString("n")[..12];
        var began = DateTimeOffset.UtcNow.AddSeconds(-10);
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name, members = new[] { office.Ids["lead"] } })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name, members = new[] { office.Ids["q1"] } });
        await using (var act = await Act.BeginAsync(office.Db, office.Ids["coordinator"], began))
        {
            Guid[] members = [office.Ids["q2"]];
            act.Write("UPDATE group_member SET person_id = $2 WHERE group_id = $1", group, members[0]);
            await act.AppendAsync(group, OfficeActs.GroupChanged, "", new { name, members });
            await act.CommitAsync();
        }
        await admin.PostAsync<JsonElement>("/api/folders", new { path = name });
        await admin.PutAsync<JsonElement>($"/api/groups/{group}/rights", new { rights = new[] { new { right = "sign", folder = name } } });
        await using (var act = await Act.BeginAsync(office.Db, office.Ids["coordinator"], began))
        {
            await act.ListAsync("SELECT pg_advisory_xact_lock(7071)::text", r => r.GetString(0), []);
            act.Write("UPDATE folder SET path = $2 WHERE path = $1", name, name + " moved");
            await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderMoved, "", new { Path = name, To = name + " moved" });
            await act.CommitAsync();
        }
        async Task<string[]> FoundAsync() => [.. (await new LedgerProof(office.Db).RunAsync(new ProofWanted())).Findings.Where(f => f.Contains(name, StringComparison.Ordinal))];
        Assert.Empty(await FoundAsync());
        await office.OwnerDb.RunAsync("UPDATE group_right SET right_name = 'administer' WHERE group_id = $1", [group]);
        Assert.Equal([$"group “{name}”: its rights are not those that were given"], await FoundAsync());
        await office.OwnerDb.RunAsync("UPDATE group_right SET right_name = 'sign' WHERE group_id = $1", [group]);
        await admin.DeleteAsync($"/api/groups/{group}");
    }

    [Theory]
    [InlineData("package returned")]
    [InlineData("package sent")]
    [InlineData("draft uploaded")]
    public async Task AnEntryThatIsNoLongerWrittenAsAnyIsAFindingAndHoldsUpNothing(string action)
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var document = await Office.RegisterAsync(author, "garbled " + Guid.NewGuid());
        var package = await office.SendAsync(author, document);
        await checker.NoteAsync(package, "request", "Longer.");
        await checker.SignAsync(package, "check", "returnForChanges");
        Assert.Equal("returned", await OneAsync<string>("SELECT standing FROM package WHERE id = $1", package));
        Guid[] chains = [package, document];
        var payload = await OneAsync<string>("SELECT payload FROM ledger_entry WHERE chain = ANY ($1) AND action = $2", chains, action);
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET payload = '{' WHERE chain = ANY ($1) AND action = $2", [chains, action]);
        var found = await office.ProofAsync(package, document);
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET payload = $3 WHERE chain = ANY ($1) AND action = $2", [chains, action, payload]);
        Assert.Contains(found, f => f.Contains("hash", StringComparison.Ordinal));
        Assert.Contains(found, f => f.Contains("cannot be told", StringComparison.Ordinal));
        Assert.Empty(await office.ProofAsync(package, document));
    }

    [Fact]
    public async Task APackageThatWentOnByAnEditionOfAnotherNameIsAsItWasRecorded()
    {
        var (admin, author) = (await office.AsAsync("coordinator"), await office.AsAsync("author"));
        var plan = new Plan("Called one way " + Guid.NewGuid(), "", new([new Step("s", "Sign", "Sign.", 1, [new Seat("s", "Signer", new PersonHolder(office.Ids["lead"]))])]));
        var id = (await admin.PostAsync<JsonElement>("/api/plans", JsonSerializer.SerializeToElement(plan, Act.Json))).GetProperty("id").GetGuid();
        await admin.PostAsync<JsonElement>($"/api/plans/{id}/editions", new { version = 1 });
        var document = await Office.RegisterAsync(author, "edition " + Guid.NewGuid());
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Goes on otherwise", coveringNote = "", plan = id, documents = new[] { document }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var renamed = plan with { Name = "Called another way " + Guid.NewGuid() };
        var version = (await admin.PutAsync<JsonElement>($"/api/plans/{id}", new { version = 1, plan = JsonSerializer.SerializeToElement(renamed, Act.Json) })).GetProperty("version").GetInt32();
        await admin.PostAsync<JsonElement>($"/api/plans/{id}/editions", new { version });
        Assert.Empty(await office.ProofAsync(package, document));
        await admin.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "moveEdition", reason = "The new one.", key = Guid.NewGuid() });
        Assert.Equal(2, await OneAsync<int>("SELECT edition FROM package WHERE id = $1", package));
        Assert.Empty(await office.ProofAsync(package, document));
    }

    [Fact]
    public async Task AnEditionIsThePlanThatWasPublished()
    {
        var admin = await office.AsAsync("coordinator");
        var plan = new Plan("Proven " + Guid.NewGuid(), "", new([new Step("s", "Sign", "Sign.", 1, [new Seat("s", "Signer", new PersonHolder(office.Ids["lead"]))])]));
        var id = (await admin.PostAsync<JsonElement>("/api/plans", JsonSerializer.SerializeToElement(plan, Act.Json))).GetProperty("id").GetGuid();
        await admin.PostAsync<JsonElement>($"/api/plans/{id}/editions", new { version = 1 });
        // More documents of which the ledger knows nothing than are told in words: they must not push the plan out.
        await office.OwnerDb.RunAsync("INSERT INTO document (id, number, title, kind, discipline, originator, registered_at) SELECT md5($1 || n)::uuid, $1 || '-' || n, 'Strange', 'drawing', 'd', $2, now() FROM generate_series(1, 1001) n", [plan.Name, office.Ids["author"]]);
        async Task<string[]> FoundAsync() => [.. (await new LedgerProof(office.Db).RunAsync(new ProofWanted())).Findings.Where(f => f.Contains($"“{plan.Name}”", StringComparison.Ordinal) || f.Contains(id.ToString(), StringComparison.Ordinal))];
        Assert.Empty(await FoundAsync());
        var payload = await OneAsync<string>("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'plan published'", id);
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET payload = '{' WHERE chain = $1 AND action = 'plan published'", [id]);
        Assert.Contains(await FoundAsync(), f => f.Contains("cannot be told", StringComparison.Ordinal));
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET payload = $2 WHERE chain = $1 AND action = 'plan published'", [id, payload]);
        await office.OwnerDb.RunAsync("UPDATE plan_edition SET published_by = NULL WHERE plan_id = $1", [id]);
        Assert.Equal([$"plan “{plan.Name}”, edition 1: somebody else published it, or at another time"], await FoundAsync());
        await office.OwnerDb.RunAsync("UPDATE plan_edition SET published_by = $2 WHERE plan_id = $1", [id, office.Ids["coordinator"]]);
        Assert.Empty(await FoundAsync());
        await office.OwnerDb.RunAsync("UPDATE plan_edition SET body = jsonb_set(body, '{purpose}', '\"other\"') WHERE plan_id = $1", [id]);
        Assert.Equal([$"plan “{plan.Name}”, edition 1: it is not the plan that was published"], await FoundAsync());
        await office.OwnerDb.RunAsync("DELETE FROM plan_edition WHERE plan_id = $1", [id]);
        Assert.Equal([$"plan {id}: its edition 1 is gone"], await FoundAsync());
        // Whoever tries every place that there is may have pinned one of them meanwhile.
        await office.OwnerDb.RunAsync("DELETE FROM pin WHERE document_id IN (SELECT id FROM document WHERE starts_with(number, $1))", [plan.Name]);
        await office.OwnerDb.RunAsync("DELETE FROM document WHERE starts_with(number, $1)", [plan.Name]);
    }
}
