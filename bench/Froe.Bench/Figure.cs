using System.Diagnostics;
using System.Globalization;

namespace Froe.Bench;

/// <summary>Printing figures and running peers.</summary>
internal static class Figure
{
    public static string Env(string name) => Environment.GetEnvironmentVariable(name) ?? throw new InvalidOperationException($"{name} is not set; run ./froe bench.");

    /// <summary>How often each figure is measured; its median is printed. FROE_BENCH_RUNS=1 gives a quick look.</summary>
    public static int Runs { get; } = int.Parse(Environment.GetEnvironmentVariable("FROE_BENCH_RUNS") ?? "3", CultureInfo.InvariantCulture);

    /// <summary>One line: higher ratios are better unless <paramref name="atMost"/>.</summary>
    public static void Print(string name, double ours, double peers, string unit, double ratio, double? aim, bool atMost = false)
    {
        var verdict = aim switch
        {
            null => "no aim · measured",
            { } most when atMost => string.Create(CultureInfo.InvariantCulture, $"at most {most:0.##} · {(ratio <= most ? "met" : "short")}"),
            { } least => string.Create(CultureInfo.InvariantCulture, $"at least {least:0.##} · {(ratio >= least ? "met" : "short")}"),
        };
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{name} · {ours:0.##} {unit} · {peers:0.##} {unit} · {ratio:0.00} · {verdict}"));
    }

    public static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted.Length == 0 ? double.NaN : (sorted[(sorted.Length - 1) / 2] + sorted[sorted.Length / 2]) / 2;
    }

    public static async Task<string> RunAsync(string program, string[] arguments, string? folder = null)
    {
        var start = new ProcessStartInfo(program) { RedirectStandardOutput = true, RedirectStandardError = true, WorkingDirectory = folder ?? "" };
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        using var child = Process.Start(start)!;
        var output = child.StandardOutput.ReadToEndAsync();
        var fault = child.StandardError.ReadToEndAsync();
        await child.WaitForExitAsync();
        return child.ExitCode == 0 ? await output : throw new InvalidOperationException($"{program} {string.Join(' ', arguments)}: {await fault}");
    }

    /// <summary>The generated drawing of a million lines, made once.</summary>
    public static async Task<string> LargeDrawingAsync()
    {
        var file = Path.Combine(Env("FROE_BENCH"), "large.dxf");
        if (!File.Exists(file)) await RunAsync("dotnet", [Env("FROE_DEMO"), "large", file, "1000000"]);
        return file;
    }
}
