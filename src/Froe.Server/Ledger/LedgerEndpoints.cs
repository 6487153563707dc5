using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Ledger;

/// <summary>The newest seal over the ledger.</summary>
/// <param name="Hash">64 hex digits: kept elsewhere, it proves all that was recorded until then.</param>
public sealed record NewestSeal(long Number, DateTimeOffset At, string Hash, bool IsSigned);

/// <summary>The newest seal, or that there is none yet.</summary>
public sealed record SealState(NewestSeal? Newest);

/// <summary>The ledger as a whole, and the proof of its chains.</summary>
internal static class LedgerEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/ledger", ([AsParameters] EntriesAsked asked, string? after, Who who, LedgerList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/ledger.csv", ([AsParameters] EntriesAsked asked, string? columns, string? zone, Who who, LedgerList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapGet("/ledger/seal", async (Who who, Seals seals, CancellationToken stop) => !who.IsOfOffice
            ? throw Refused.Forbidden("Guests do not see the ledger as a whole.")
            : new SealState(await seals.LastAsync(stop) is { } s ? new NewestSeal(s.Seal.Number, s.Seal.At, Convert.ToHexStringLower(s.Hash), s.Signature is not null) : null));
        api.MapGet("/ledger/{chain:guid}/proof", (Guid chain, Who who, LedgerList list, CancellationToken stop) => list.ProveAsync(who, chain, stop));
    }
}
