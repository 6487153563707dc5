using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>How much of an item somebody has seen at a legible size.</summary>
/// <param name="Draft">Its draft under review.</param>
/// <param name="Percent">In whole hundredths, rounded down.</param>
public sealed record SeenItem(Guid Draft, int Percent);

/// <summary>Packages on their way.</summary>
internal static class PackageEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/packages", (NewPackage wanted, Who who, Sending sending, CancellationToken stop) => sending.SendAsync(who, wanted, stop));
        api.MapGet("/packages/{id:guid}", Get);
        api.MapGet("/packages/{id:guid}/ledger", Ledger);
        api.MapPost("/packages/{id:guid}/rounds", async (Guid id, NextRound wanted, Who who, Access access, Sending sending, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await sending.SendAgainAsync(who, id, wanted, stop);
        });
        api.MapPost("/packages/{id:guid}/sign-offs", async (Guid id, NewSignOff wanted, Who who, Access access, Signing signing, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await signing.SignAsync(who, id, wanted, stop);
        });
        api.MapPost("/packages/{id:guid}/acts", async (Guid id, NewSlipAct wanted, Who who, Access access, SlipActs acts, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            await acts.DoAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/packages/told", (NewPackage wanted, Who who, Sending sending, CancellationToken stop) => sending.ToldAsync(who, wanted, stop));
        api.MapPost("/packages/{id:guid}/told", async (Guid id, ToldAsked asked, Who who, Access access, SlipActs acts, Signing signing, Sending sending, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return asked switch
            {
                { Act: { } act } => await acts.ToldAsync(who, id, act, stop),
                { SignOff: { } signOff } => await signing.ToldAsync(who, id, signOff, stop),
                { Round: { } round } => await sending.ToldAsync(who, id, round, stop),
                _ => throw Refused.Invalid("nothing-asked", "Say of which act it is asked."),
            };
        });
        api.MapGet("/packages/{id:guid}/seen", async (Guid id, Who who, Access access, Database database, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            var drafts = await database.ListAsync("SELECT i.draft_id FROM package k JOIN package_item i ON i.package_id = k.id AND i.round = k.round WHERE k.id = $1", r => r.GetGuid(0), [id], stop);
            return (await SeenRows.SharesAsync(database, who.Id, drafts, stop)).Select(s => new SeenItem(s.Key, s.Value.Percent)).ToList().AsReadOnly();
        });
        api.MapGet("/packages", ([AsParameters] PackagesAsked asked, string? after, Who who, PackageList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/packages/change-orders", (Who who, PackageList list, CancellationToken stop) => list.ChangeOrdersAsync(who, stop));
        api.MapGet("/packages/late", ([AsParameters] PackagesAsked asked, Who who, PackageList list, CancellationToken stop) => list.LateAsync(who, asked, stop));
        api.MapGet("/packages.csv", ([AsParameters] PackagesAsked asked, string? columns, string? zone, Who who, PackageList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapPost("/requests/unsettled", async (UnsettledAsked asked, Who who, Database database, CancellationToken stop) => await CarryingOver.OfAsync(database, who, asked.Documents, stop));
        api.MapPost("/documents/{id:guid}/withdrawals", async (Guid id, WithdrawalWanted wanted, Who who, Withdrawing withdrawing, CancellationToken stop) =>
        {
            await withdrawing.WithdrawAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/documents/{id:guid}/originator", async (Guid id, OriginatorWanted wanted, Who who, Withdrawing withdrawing, CancellationToken stop) =>
        {
            await withdrawing.HandOverAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/packages/{id:guid}/noted", async (Guid id, NewNotedAnswer wanted, Who who, Access access, Signing signing, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            await signing.AnswerNotedAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/sign-offs", async (SignMany wanted, Who who, Many many, CancellationToken stop) => (await many.SignAsync(who, wanted, stop)).AsReadOnly());
        api.MapPost("/hand-overs", async (HandOverAll wanted, Who who, Many many, CancellationToken stop) => (await many.HandOverAllAsync(who, wanted, stop)).AsReadOnly());
        api.MapGet("/packages/{id:guid}/here", (Guid id, Who who, Presence presence, CancellationToken stop) => presence.OfAsync(who, id, stop));
        api.MapPost("/packages/{id:guid}/here", async (Guid id, Here here, Who who, Presence presence, CancellationToken stop) =>
        {
            await presence.SayAsync(who, id, here, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/drafts/{id:guid}/opened", async (Guid id, Who who, Access access, Database database, TimeProvider clock, CancellationToken stop) =>
        {
            await access.DemandDraftAsync(who, id, stop);
            await database.RunAsync("INSERT INTO draft_opened SELECT $1, id, $3 FROM draft WHERE id = $2 ON CONFLICT DO NOTHING", [who.Id, id, clock.GetUtcNow().UtcDateTime], stop);
            return TypedResults.NoContent();
        });
    }

    private static async Task<PackageView> Get(Guid id, Who who, Access access, PackageViews views, CancellationToken stop)
    {
        await access.DemandPackageAsync(who, id, stop);
        return await views.FindAsync(id, who, stop) ?? throw Refused.Missing("package");
    }

    private static async Task<IReadOnlyList<HistoryEntry>> Ledger(Guid id, Who who, Access access, Database database, CancellationToken stop)
    {
        await access.DemandPackageAsync(who, id, stop);
        return await Histories.OfPackageAsync(database, id, stop);
    }
}
