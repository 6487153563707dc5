using System.ComponentModel;
using System.Diagnostics;

namespace Froe.Formats.Svg;

/// <summary>
/// Turns SVG into a page of PDF by librsvg's own program, in a process with bounds on time and memory. It is given the file on its standard
/// input, so that it knows of no place that references could lead to, and nothing of it is ever shown by a browser as SVG.
/// </summary>
internal static class SvgConversion
{
    private const int LeastSeconds = 8, MostSeconds = 60;
    private const long MostMemory = 2L << 30, MostOutput = 256L << 20;

    /// <summary>The page; the fault instead when there is none.</summary>
    public static (byte[]? Pdf, ReadFault? Fault) ToPdf(byte[] svg)
    {
        // Of its own time: a small file that draws for longer draws more than anybody looks at, a large one takes about so long by its length.
        var seconds = Math.Min(MostSeconds, LeastSeconds + (svg.Length >> 20));
        var start = new ProcessStartInfo("prlimit") { RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in (string[])[$"--as={MostMemory}", $"--cpu={seconds}", "--", "rsvg-convert", "--format=pdf", Background]) start.ArgumentList.Add(argument);
        try
        {
            using var child = Process.Start(start)!;
            // It may end before it has read everything, and say much before it has: neither must hold up the other.
            var sending = Task.Run(() => Send(child, svg));
            var said = child.StandardError.ReadToEndAsync();
            var receiving = Task.Run(() => Receive(child.StandardOutput.BaseStream));
            if (!child.WaitForExit(TimeSpan.FromSeconds(seconds + 5)))
            {
                child.Kill(entireProcessTree: true);
                return Failed("Drawing this SVG took too long: it draws more than a sheet may. Simplify it, or export it as PDF.");
            }
            Task.WaitAll([sending, said, receiving], TimeSpan.FromSeconds(5));
            if (child.ExitCode == 0 && receiving.Result is { Length: > 0 } pdf) return (pdf, null);
            return child.ExitCode == CannotStart
                ? Failed("This server cannot read SVG: the program rsvg-convert is missing. Ask your administrator to install it (Debian: librsvg2-bin), or upload a PDF.")
                : Failed("This is no SVG that can be drawn: it is damaged, or draws more than a sheet may. Export it again, or as PDF.");
        }
        catch (Win32Exception)
        {
            return Failed("This server cannot read SVG: the program prlimit is missing. Ask your administrator to install it (Debian: util-linux), or upload a PDF.");
        }
    }

    /// <summary>
    /// Paper first: the library that writes the page joins up what has been drawn on so far, piece by piece, and is done with each at once
    /// only where all of it has. Without, twenty thousand lines take eight times as long, and ever more with more of them.
    /// </summary>
    private const string Background = "--background-color=white";

    /// <summary>What prlimit ends with when it finds no program of that name.</summary>
    private const int CannotStart = 127;

    private static void Send(Process child, byte[] svg)
    {
        try
        {
            child.StandardInput.BaseStream.Write(svg);
            child.StandardInput.Close();
        }
        catch (IOException)
        {
            // It has ended; its end says why.
        }
    }

    private static byte[]? Receive(Stream from)
    {
        using var all = new MemoryStream();
        var buffer = new byte[1 << 16];
        for (int n; (n = from.Read(buffer)) > 0;)
        {
            if (all.Length + n > MostOutput) return null;
            all.Write(buffer, 0, n);
        }
        return all.ToArray();
    }

    private static (byte[]?, ReadFault?) Failed(string what) => (null, new ReadFault(null, what));
}
