namespace Froe.Server;

/// <summary>Work that goes on as long as the server does: what fails is logged and tried again, and never takes the server with it.</summary>
public static class Steadily
{
    /// <summary>Repeats <paramref name="work"/> until <paramref name="stop"/>; after a failure it pauses first.</summary>
    /// <param name="what">What the work is, for the log.</param>
    /// <param name="work">Done once, again and again.</param>
    /// <param name="pause">How long after a failure.</param>
    /// <param name="log">Where failures are written.</param>
    /// <param name="stop">Ends it.</param>
    public static async Task RepeatAsync(string what, Func<CancellationToken, Task> work, TimeSpan pause, ILogger log, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
            try
            {
                await work(stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is not OutOfMemoryException)
            {
                log.LogWarning(e, "{What} failed and is tried again", what);
                await Task.Delay(pause, stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
    }
}
