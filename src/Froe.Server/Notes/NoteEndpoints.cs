using Froe.Server.SignIn;

namespace Froe.Server.Notes;

/// <summary>Notes, their acts, and asking for advice.</summary>
internal static class NoteEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/packages/{id:guid}/notes", async (Guid id, NewNote wanted, Who who, Access access, Noting noting, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await noting.AddAsync(who, id, wanted, stop);
        });
        api.MapGet("/notes", ([AsParameters] NotesAsked asked, string? after, Who who, NoteList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/notes.csv", ([AsParameters] NotesAsked asked, string? columns, string? zone, Who who, NoteList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapPost("/notes/{id:guid}/acts", async (Guid id, NewNoteAct wanted, Who who, Noting noting, CancellationToken stop) =>
        {
            await noting.ActAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/packages/{id:guid}/advice", async (Guid id, NewAdvice wanted, Who who, Access access, Advising advising, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await advising.AskAsync(who, id, wanted, stop);
        });
        api.MapPost("/advice/{id:guid}", async (Guid id, AdviceAnswer wanted, Who who, Advising advising, CancellationToken stop) =>
        {
            await advising.AnswerAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
    }
}
