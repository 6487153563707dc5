using System.Diagnostics;
using System.Globalization;
using Microsoft.Extensions.Options;

namespace Froe.Server.Files;

/// <summary>How a child ended.</summary>
/// <param name="ExitCode">Its exit code; null when it took too long and was stopped.</param>
/// <param name="Line">What it said on standard error.</param>
public readonly record struct ChildEnd(int? ExitCode, string Line);

/// <summary>Runs the program that touches files of strangers, with bounds on time and memory and nothing of the server's.</summary>
public sealed class ReaderChild(IOptions<Settings> settings)
{
    /// <summary>Runs it and waits.</summary>
    /// <param name="arguments">What it is to do.</param>
    /// <param name="isBrief">Whether there is so little to do that its loops would be well compiled for nothing.</param>
    public async Task<ChildEnd> RunAsync(IEnumerable<string> arguments, bool isBrief, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(arguments);
        var start = new ProcessStartInfo("dotnet") { RedirectStandardError = true, RedirectStandardOutput = true, RedirectStandardInput = true };
        start.ArgumentList.Add(settings.Value.Reader);
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        // The child sees nothing of the server's: no connection strings, no keys.
        foreach (var name in start.Environment.Keys.Where(k => k is not ("PATH" or "HOME" or "DOTNET_ROOT" or "TMPDIR")).ToList()) start.Environment.Remove(name);
        if (isBrief) start.Environment["DOTNET_TC_CallCountingDelayMs"] = "64";
        start.Environment["DOTNET_GCHeapHardLimit"] = settings.Value.ReaderMemory.ToString("X", CultureInfo.InvariantCulture);
        using var child = Process.Start(start) ?? throw new InvalidOperationException("The reader did not start.");
        child.StandardInput.Close();
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(stop);
        limit.CancelAfter(TimeSpan.FromSeconds(settings.Value.ReaderSeconds));
        var output = child.StandardOutput.ReadToEndAsync(CancellationToken.None);
        var fault = child.StandardError.ReadToEndAsync(CancellationToken.None);
        try
        {
            await child.WaitForExitAsync(limit.Token);
        }
        catch (OperationCanceledException)
        {
            child.Kill(entireProcessTree: true);
            stop.ThrowIfCancellationRequested();
            return new ChildEnd(null, "");
        }
        await output;
        return new ChildEnd(child.ExitCode, (await fault).Trim());
    }
}
