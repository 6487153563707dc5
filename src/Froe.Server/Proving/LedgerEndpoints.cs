using Froe.Server.SignIn;

namespace Froe.Server.Proving;

/// <summary>The ledger as a whole, and the proof of its chains.</summary>
internal static class LedgerEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/ledger", ([AsParameters] EntriesAsked asked, string? after, Who who, LedgerList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/ledger.csv", ([AsParameters] EntriesAsked asked, string? columns, string? zone, Who who, LedgerList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapGet("/ledger/{chain:guid}/proof", (Guid chain, Who who, LedgerList list, CancellationToken stop) => list.ProveAsync(who, chain, stop));
    }
}
