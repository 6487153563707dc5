using Froe.Server.Files;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Room in memory: never more is taken than there is, and whoever waits gets it.</summary>
public static class RoomTests
{
    private const long Megabyte = 1 << 20;

    [Fact]
    public static async Task WhoeverFindsTooLittleWaitsAndWhatIsSmallGoesPast()
    {
        using var room = new Room(64 * Megabyte);
        var most = await room.TakeAsync(40 * Megabyte);
        var large = room.TakeAsync(40 * Megabyte);
        Assert.False(large.IsCompleted);
        // The last unit went to the one that waits; a small one waits for no more than that.
        var small = room.TakeAsync(1);
        most.Dispose();
        using var got = await large;
        using var also = await small;
        // Given back twice it counts once: what was taken above is all that there is.
        most.Dispose();
        Assert.False(room.TakeAsync(1).IsCompleted);
    }

    [Fact]
    public static async Task ManyOfAllSizesAreNeverMoreThanThereIsAndAllComeThrough()
    {
        const int Size = 128;
        using var room = new Room(Size * Megabyte);
        var (now, most) = (0L, 0L);
        await Task.WhenAll(Enumerable.Range(0, 400).Select(async i =>
        {
            var wanted = 1 + (i * 37 % 200);
            using (await room.TakeAsync(wanted * Megabyte))
            {
                // What asks for more than all takes all; others by sixteen.
                var held = Interlocked.Add(ref now, Math.Min(Size, (wanted + 15) / 16 * 16));
                for (var seen = Interlocked.Read(ref most); held > seen; seen = Interlocked.Read(ref most)) Interlocked.CompareExchange(ref most, held, seen);
                await Task.Yield();
                Interlocked.Add(ref now, -Math.Min(Size, (wanted + 15) / 16 * 16));
            }
        }));
        Assert.Equal(0, now);
        Assert.InRange(most, 16, Size);
    }
}
