using Froe.Core.Routing;
using Froe.Server.SignIn;

namespace Froe.Server.Plans;

/// <summary>A draft to save.</summary>
public sealed record PlanSave(int Version, Plan Plan);

/// <summary>A draft to publish.</summary>
public sealed record PlanPublish(int Version);

/// <summary>Who keeps a plan from now on.</summary>
public sealed record PlanKeeper(Guid Owner);

/// <summary>A plan that was made.</summary>
public sealed record MadePlan(Guid Id);

/// <summary>Plans over HTTP.</summary>
internal static class PlanEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/plans", async (Who who, Planning plans, CancellationToken stop) => !who.IsOfOffice ? throw Refused.Forbidden("Guests follow no plans.") : (await plans.ListAsync(who, stop)).AsReadOnly());
        api.MapGet("/plans/{id:guid}", (Guid id, Who who, Planning plans, CancellationToken stop) =>
            who.CanBuildPlans ? plans.FindAsync(id, stop) : throw Refused.Forbidden("You have no right to build plans. Ask your administrator."));
        api.MapPost("/plans", async (Plan plan, Who who, Planning plans, CancellationToken stop) => new MadePlan(await plans.AddAsync(who, plan, stop)));
        api.MapPut("/plans/{id:guid}", (Guid id, PlanSave save, Who who, Planning plans, CancellationToken stop) => plans.SaveAsync(who, id, save.Version, save.Plan, stop));
        api.MapPost("/plans/{id:guid}/editions", (Guid id, PlanPublish publish, Who who, Planning plans, CancellationToken stop) => plans.PublishAsync(who, id, publish.Version, stop));
        api.MapPut("/plans/{id:guid}/owner", async (Guid id, PlanKeeper keeper, Who who, Planning plans, CancellationToken stop) =>
        {
            await plans.KeepAsync(who, id, keeper.Owner, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/plans/check", (Plan plan, Who who, Planning plans, CancellationToken stop) => plans.CheckAsync(who, plan, stop));
        api.MapPost("/plans/fitting", async (FittingRequest wanted, Who who, Planning plans, CancellationToken stop) =>
            !who.IsOfOffice ? throw Refused.Forbidden("Guests send no packages.") : (await plans.FittingAsync(who, wanted.Documents, stop)).AsReadOnly());
        api.MapPost("/plans/preview", (PreviewRequest wanted, Who who, Planning plans, CancellationToken stop) =>
            !who.IsOfOffice ? throw Refused.Forbidden("Guests send no packages.") : plans.PreviewAsync(who, wanted, stop));
    }
}
