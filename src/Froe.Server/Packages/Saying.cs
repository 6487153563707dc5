using System.ComponentModel.DataAnnotations;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>What whoever acts says to the people who are told of it, besides the reason for the record; and who is told besides, for this once.</summary>
/// <param name="Message">To everybody who is told; may be empty.</param>
/// <param name="Besides">People who would not be told otherwise.</param>
public sealed record Saying([property: MaxLength(4000)] string Message = "", [property: MaxLength(100)] Guid[]? Besides = null)
{
    /// <summary>Says it with an act, once all that the act tells by itself was gathered.</summary>
    /// <param name="subject">What those besides are told.</param>
    /// <param name="body">With which words.</param>
    public async Task AddAsync(Act act, Who who, Guid package, string subject, string body, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(who);
        if (Besides is { Length: > 0 })
        {
            var people = await act.ListAsync("SELECT id FROM person WHERE id = ANY ($1) AND barred_at IS NULL", r => r.GetGuid(0), [Besides], stop);
            if (people.Count < Besides.Distinct().Count()) throw Refused.Missing("person");
            foreach (var person in people.Except(act.Told)) act.Tell(Store.Message.OfPackage(package, person, subject, body));
        }
        if (!string.IsNullOrWhiteSpace(Message)) act.Say($"{who.Name} writes: {Message.Trim()}");
    }
}

/// <summary>Of which act it is asked who would be told: one of these.</summary>
public sealed record ToldAsked(NewSlipAct? Act = null, NewSignOff? SignOff = null, NextRound? Round = null);
