using System.ComponentModel.DataAnnotations;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Notes;

/// <summary>A wording that is used often; three underscores in it are a blank to be filled.</summary>
/// <param name="IsOffice">Whether it is the office's, for everybody, rather than one's own.</param>
public sealed record Phrase(Guid Id, string Words, bool IsOffice);

/// <summary>A wording that is to be kept.</summary>
public sealed record PhraseWanted([property: MaxLength(500)] string Words, bool IsOffice = false);

/// <summary>One's own frequent wordings and the office's.</summary>
internal static class PhraseEndpoints
{
    private const int Most = 300;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/phrases", async (Who who, Database database, CancellationToken stop) => (await database.ListAsync(
            "SELECT id, words, owner IS NULL FROM phrase WHERE owner = $1 OR (owner IS NULL AND $2) ORDER BY owner IS NULL, words COLLATE reading_order, id",
            r => new Phrase(r.GetGuid(0), r.GetString(1), r.GetBoolean(2)), [who.Id, who.IsOfOffice], stop)).AsReadOnly());
        api.MapPut("/phrases/{id:guid}", async (Guid id, PhraseWanted wanted, Who who, Database database, TimeProvider clock, CancellationToken stop) =>
        {
            var words = wanted.Words.Trim();
            if (words.Length == 0) throw Refused.Invalid("no-words", "Write the wording.");
            DemandMay(who, wanted.IsOffice);
            // Of another's wording of that id nothing is said but that there is something.
            var kept = await database.RunAsync(
                """
                INSERT INTO phrase AS p (id, owner, words, made_at)
                SELECT $1, $2::uuid, $3, $4 WHERE (SELECT count(*) FROM phrase WHERE owner IS NOT DISTINCT FROM $2::uuid AND id <> $1) < $5
                    AND NOT EXISTS (SELECT 1 FROM phrase WHERE owner IS NOT DISTINCT FROM $2::uuid AND words = $3 AND id <> $1)
                ON CONFLICT (id) DO UPDATE SET words = excluded.words WHERE p.owner IS NOT DISTINCT FROM excluded.owner
                """,
                [id, wanted.IsOffice ? null : who.Id, words, clock.GetUtcNow().UtcDateTime, Most], stop);
            return kept == 0 ? throw new Refused(new("phrase-there", $"This wording is kept already, or there are {Most} of them; take one out first.")) : TypedResults.NoContent();
        });
        api.MapDelete("/phrases/{id:guid}", async (Guid id, Who who, Database database, CancellationToken stop) =>
        {
            var gone = await database.RunAsync("DELETE FROM phrase WHERE id = $1 AND (owner = $2 OR (owner IS NULL AND $3))", [id, who.Id, who.CanAdminister], stop);
            return gone == 0 ? throw Refused.Missing("wording") : TypedResults.NoContent();
        });
    }

    private static void DemandMay(Who who, bool isOffice)
    {
        if (isOffice && !who.CanAdminister) throw Refused.Forbidden("Only an administrator keeps wordings for the whole office. Keep it as your own.");
    }
}
