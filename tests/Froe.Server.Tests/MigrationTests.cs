using System.Diagnostics;
using System.IO.Compression;
using Froe.Store;
using Froe.Store.Proof;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>
/// Databases that earlier programs filled, kept as dumps (tests/kept, each named after its last migration) with packages in every
/// standing, are brought to this program's shape and are then what their ledger tells.
/// </summary>
public class MigrationTests
{
    private static readonly string Kept = Path.Combine(AppContext.BaseDirectory[..AppContext.BaseDirectory.IndexOf("Froe.Server.Tests", StringComparison.Ordinal)], "kept");

    public static TheoryData<string> Dumps => [.. Directory.GetFiles(Kept, "*.sql.gz").Select(f => Path.GetFileName(f)!)];

    [Theory]
    [MemberData(nameof(Dumps))]
    public async Task AKeptDatabaseMigratesAndIsWhatItsLedgerTells(string dump)
    {
        var super = new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_SUPER") ?? throw new InvalidOperationException("Run the tests with ./froe test."));
        var name = "froe_kept_" + Guid.NewGuid().ToString("n")[..10];
        await using var all = new Database(super.ConnectionString);
        await all.RunAsync($"CREATE DATABASE {name} OWNER froe_owner", []);
        try
        {
            var owner = new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_OWNER")!) { Database = name, Pooling = false };
            await RestoreAsync(owner, Path.Combine(Kept, dump));
            await using var before = new Database(owner.ConnectionString);
            var standings = await before.ListAsync("SELECT standing || ' ' || held || ' ' || count(*) FROM package GROUP BY standing, held ORDER BY 1", r => r.GetString(0), []);
            Assert.Equal(["released", "returned", "running", "stopped"], standings.Select(s => s.Split(' ')[0]).Distinct());
            standings = [.. standings.Select(s => s.Replace("running", "in review", StringComparison.Ordinal)).Order(StringComparer.Ordinal)];
            var folders = await before.ListAsync("SELECT number || folder FROM document ORDER BY 1", r => r.GetString(0), []);
            var sheets = await before.ListAsync(
                "SELECT draft_id || ' ' || position || ' ' || name || ' ' || unit || ' ' || extents[3] || ' geometry' || encode(geometry, 'hex') || ' picture' || encode(picture, 'hex') || ' small' || encode(small, 'hex') FROM draft_sheet ORDER BY 1",
                r => r.GetString(0), []);
            Assert.NotEmpty(sheets);
            var marks = await before.ListAsync("SELECT id || ' ' || draft_id || ' ' || sheet || ' ' || (shape - 'anchor') || coalesce(' ' || zone, '') || (standing = 'withdrawn') || ' ' || author FROM note ORDER BY 1", r => r.GetString(0), []);
            Assert.NotEmpty(marks);

            Migrator.Migrate(owner.ConnectionString);

            await using var after = new Database(new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE")!) { Database = name, Pooling = false }.ConnectionString);
            Assert.Equal(standings, await after.ListAsync("SELECT standing || ' ' || held || ' ' || count(*) FROM package GROUP BY standing, held ORDER BY 1", r => r.GetString(0), []));
            Assert.Equal(folders, await after.ListAsync("SELECT d.number || f.path FROM document d JOIN folder f ON f.id = d.folder_id ORDER BY 1", r => r.GetString(0), []));
            // Every package is found by the folders of its documents, as often as it has items there.
            Assert.Empty(await after.ListAsync(
                """
                (SELECT i.package_id, d.folder_id, count(*)::int FROM package_item i JOIN document d ON d.id = i.document_id GROUP BY 1, 2 EXCEPT SELECT * FROM package_folder)
                UNION ALL (SELECT * FROM package_folder EXCEPT SELECT i.package_id, d.folder_id, count(*)::int FROM package_item i JOIN document d ON d.id = i.document_id GROUP BY 1, 2)
                """, r => r.GetGuid(0), []));
            // Every note's shape is a markup on its author's overlay; the ledger's proof below says that it is the same shape.
            Assert.Equal(marks, await after.ListAsync(
                "SELECT n.id || ' ' || o.draft_id || ' ' || (m.place ->> 'leaf') || ' ' || m.shape || coalesce(' ' || m.zone, '') || (n.standing = 'withdrawn') || ' ' || o.owner FROM note n JOIN markup m ON m.note_id = n.id JOIN overlay o ON o.id = m.overlay_id WHERE (m.erased_at IS NOT NULL) = (n.standing = 'withdrawn') ORDER BY 1",
                r => r.GetString(0), []));
            // Every sheet is a leaf with the three forms of its time.
            Assert.Equal(sheets, await after.ListAsync(
                "SELECT l.draft_id || ' ' || l.position || ' ' || l.name || ' ' || (l.frame ->> 'unit') || ' ' || (l.frame #>> '{extents,maxX}')::float8 || ' ' || string_agg(f.form || encode(f.sha256, 'hex'), ' ' ORDER BY f.form) FROM draft_leaf l JOIN draft_form f USING (draft_id, position) GROUP BY l.draft_id, l.position ORDER BY 1",
                r => r.GetString(0), []));
            var proof = await new LedgerProof(after).RunAsync(new ProofWanted());
            Assert.Empty(proof.Findings);
            Assert.True(proof is { Packages: > 10, Documents: > 10, Files: > 30 });
            Assert.Empty((await new Seals(after).ProveAsync(null)).Faults);
        }
        finally
        {
            NpgsqlConnection.ClearAllPools();
            await all.RunAsync($"DROP DATABASE {name} WITH (FORCE)", []);
        }
    }

    private static async Task RestoreAsync(NpgsqlConnectionStringBuilder owner, string dump)
    {
        var start = new ProcessStartInfo(Path.Combine(Environment.GetEnvironmentVariable("FROE_PG_BIN")!, "psql")) { RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in (string[])["-h", owner.Host!, "-p", $"{owner.Port}", "-U", owner.Username!, "-d", owner.Database!, "-v", "ON_ERROR_STOP=1", "-q"]) start.ArgumentList.Add(argument);
        start.Environment["PGPASSWORD"] = owner.Password;
        using var psql = Process.Start(start)!;
        var said = psql.StandardError.ReadToEndAsync();
        var output = psql.StandardOutput.ReadToEndAsync();
        await using (var file = new GZipStream(File.OpenRead(dump), CompressionMode.Decompress)) await file.CopyToAsync(psql.StandardInput.BaseStream);
        psql.StandardInput.Close();
        await psql.WaitForExitAsync();
        await output;
        Assert.True(psql.ExitCode == 0, await said);
    }
}
