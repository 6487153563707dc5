namespace Froe.Server.Files;

/// <summary>Room in memory that those take who work on something large; whoever finds too little left waits.</summary>
/// <param name="size">All of it, in bytes; what asks for more takes all.</param>
public sealed class Room(long size) : IDisposable
{
    private const long Unit = 16L << 20;

    private readonly SemaphoreSlim left = new((int)Math.Max(1, size / Unit));

    /// <summary>One who takes several units takes them alone: two who each held some would wait for one another.</summary>
    private readonly SemaphoreSlim entrance = new(1);

    private readonly int units = (int)Math.Max(1, size / Unit);

    /// <summary>Takes some; it is given back when what is returned is disposed of.</summary>
    public async Task<IDisposable> TakeAsync(long bytes)
    {
        var wanted = (int)Math.Clamp((bytes + Unit - 1) / Unit, 1, units);
        // What is small goes past those who wait for much.
        if (wanted == 1)
        {
            await left.WaitAsync();
            return new Taken(left, 1);
        }
        await entrance.WaitAsync();
        try
        {
            for (var i = 0; i < wanted; i++) await left.WaitAsync();
        }
        finally
        {
            entrance.Release();
        }
        return new Taken(left, wanted);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        left.Dispose();
        entrance.Dispose();
    }

    private sealed class Taken(SemaphoreSlim left, int count) : IDisposable
    {
        private int still = count;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref still, 0) is > 0 and var back) left.Release(back);
        }
    }
}
