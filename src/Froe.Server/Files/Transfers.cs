using System.Collections.Concurrent;
using Microsoft.Extensions.Options;

namespace Froe.Server.Files;

/// <summary>Files on their way in and out of this server, counted: a slow line holds a place of its person's, and nobody takes all.</summary>
public sealed class Transfers(IOptions<Settings> settings)
{
    private static readonly TimeSpan Soon = TimeSpan.FromSeconds(3);
    private readonly ConcurrentDictionary<Guid, int> each = new();
    private int all;

    /// <summary>Takes a place; dispose of it when the file is through.</summary>
    /// <exception cref="Refused">There is none left.</exception>
    public IDisposable Begin(Guid person)
    {
        if (each.AddOrUpdate(person, 1, (_, n) => n + 1) > settings.Value.TransfersEach)
        {
            End(person, false);
            throw Refused.Busy("too-many-transfers", $"{settings.Value.TransfersEach} files of yours are on their way already. Wait until one is through.", Soon, StatusCodes.Status429TooManyRequests);
        }
        if (Interlocked.Increment(ref all) > settings.Value.TransfersInAll)
        {
            End(person, true);
            throw Refused.Busy("too-many-transfers", "Very many files are on their way just now. Try again in a moment.", Soon);
        }
        return new Place(this, person);
    }

    private void End(Guid person, bool counted)
    {
        if (counted) Interlocked.Decrement(ref all);
        if (each.AddOrUpdate(person, 0, (_, n) => n - 1) <= 0) each.TryRemove(new(person, 0));
    }

    private sealed class Place(Transfers of, Guid person) : IDisposable
    {
        private int ended;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref ended, 1) == 0) of.End(person, true);
        }
    }
}
