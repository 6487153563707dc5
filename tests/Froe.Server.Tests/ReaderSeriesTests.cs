using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Froe.Server.Files;
using Froe.Store;
using Microsoft.Extensions.Options;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Small files of one person, read one after the other by one process.</summary>
public sealed class ReaderSeriesTests : IDisposable
{
    /// <summary>How long reading took, which a report says.</summary>
    private static readonly Regex Seconds = new("\"seconds\":[0-9.e-]+", RegexOptions.IgnoreCase);

    private static readonly string Root = AppContext.BaseDirectory.Split("/tests/")[0];
    /// <summary>One of each kind, the shortest.</summary>
    private static readonly string[] Drawings = [.. new DirectoryInfo(Path.Combine(Root, "demo/drawings")).GetFiles().GroupBy(f => f.Extension).Select(kind => kind.MinBy(f => f.Length)!.FullName).Order()];

    /// <summary>The reader under a name that no other test calls it by: its processes are known by it.</summary>
    private readonly string tool = Path.Combine(Path.GetTempPath(), $"froe-reader-{Guid.NewGuid():n}");

    public ReaderSeriesTests() => Directory.CreateSymbolicLink(tool, AppContext.BaseDirectory.Replace("tests/Froe.Server.Tests", "src/Froe.Tool", StringComparison.Ordinal));

    public void Dispose() => Directory.Delete(tool);

    private ReaderChild Child(int seconds = 120) => new(Options.Create(new Settings { Reader = Path.Combine(tool, "Froe.Tool.dll"), ReaderSeconds = seconds }));

    [Fact]
    public async Task WhatAFileHoldsDoesNotDependOnThoseReadBeforeIt()
    {
        using var child = Child();
        var person = Guid.NewGuid();
        var alone = new Dictionary<string, string>();
        foreach (var drawing in Drawings) alone[drawing] = await ReadAsync(drawing, arguments => child.RunAsync(arguments, isBrief: true, default));
        Assert.True(alone.Count >= 7);
        var order = new Random(17);
        foreach (var drawing in Drawings.OrderBy(_ => order.Next()).Append(Drawings[0]))
            Assert.Equal((drawing, alone[drawing]), (drawing, await ReadAsync(drawing, arguments => child.RunInSeriesAsync(person, arguments, default))));
        Assert.Single(Children());
    }

    [Fact]
    public async Task OnTheCommandLineAFileThatCannotBeReadKeepsNoOtherFromBeingRead()
    {
        var start = new ProcessStartInfo("dotnet", [Path.Combine(tool, "Froe.Tool.dll"), "read", "nowhere.dxf", Drawings[0], "folder.zip"]) { RedirectStandardOutput = true, RedirectStandardError = true };
        using var read = Process.Start(start)!;
        var (said, faults) = (read.StandardOutput.ReadToEndAsync(), read.StandardError.ReadToEndAsync());
        await read.WaitForExitAsync();
        Assert.Equal(2, read.ExitCode);
        Assert.Equal(Drawings[0], JsonDocument.Parse(await said).RootElement.GetProperty("file").GetString());
        Assert.Equal(["nowhere.dxf", "folder.zip"], (await faults).Trim().Split('\n').Select(line => line.Split(':')[0]));
    }

    [Fact]
    public void WhatAFileSaysIsKeptAndWhatAPersonWritesIsRefused()
    {
        Assert.Equal("[\"a\\uFFFDb\"]", JsonSerializer.Serialize((string[])["a\0b"], Act.JsonOfFiles));
        Assert.Throws<UnstorableTextException>(() => JsonSerializer.Serialize((string[])["a\0b"], Act.Json));
    }

    [Fact]
    public async Task ABrokenFileIsToldInItsOwnWordsAndTheNextIsRead()
    {
        using var child = Child();
        var person = Guid.NewGuid();
        var (whole, broken) = (Drawings.First(d => d.EndsWith(".dxf", StringComparison.Ordinal)), Path.GetTempFileName());
        await File.WriteAllTextAsync(broken, "0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nno number\n");
        using var folder = new Folder();
        string[] asked = ["prepare", broken, folder.Path, "broken.dxf"];
        var told = await child.RunAsync(asked, isBrief: true, default);
        Assert.Equal(3, told.ExitCode);
        Assert.Contains("8", told.Line, StringComparison.Ordinal);
        Assert.Equal(told, await child.RunInSeriesAsync(person, asked, default));
        var read = await ReadAsync(whole, arguments => child.RunInSeriesAsync(person, arguments, default));
        Assert.Equal(told, await child.RunInSeriesAsync(person, asked, default));
        Assert.Equal(read, await ReadAsync(whole, arguments => child.RunInSeriesAsync(person, arguments, default)));
        File.Delete(broken);
    }

    [Fact]
    public async Task AProcessThatIsGoneCostsNobodyTheirFile()
    {
        using var child = Child();
        var person = Guid.NewGuid();
        var first = await ReadAsync(Drawings[0], arguments => child.RunInSeriesAsync(person, arguments, default));
        using (var process = System.Diagnostics.Process.GetProcessById(Assert.Single(Children()))) process.Kill();
        Assert.Equal(first, await ReadAsync(Drawings[0], arguments => child.RunInSeriesAsync(person, arguments, default)));
    }

    /// <summary>As one is for a moment that was just killed: its end of the pipe is gone, and its own end is not yet to be seen.</summary>
    [Fact]
    public async Task AProcessThatReadsNoMoreAndHasNotEndedYetIsWaitedFor()
    {
        var start = new System.Diagnostics.ProcessStartInfo("sh") { RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in (string[])["-c", "exec <&-; sleep 1; echo gone >&2; exit 7"]) start.ArgumentList.Add(argument);
        using var series = new ReaderSeries(start);
        // Long enough for its input to be closed, and the file longer than the pipe would hold in any case.
        await Task.Delay(300, TestContext.Current.CancellationToken);
        var end = await series.RunAsync(["prepare", new string('x', 1 << 20)], TestContext.Current.CancellationToken);
        Assert.Equal((7, "gone"), (end.ExitCode, end.Line));
        Assert.True(series.IsOver);
    }

    [Fact]
    public async Task WhatAProcessLeftHalfwayIsWrittenAnew()
    {
        using var child = Child();
        var read = await ReadAsync(Drawings[0], arguments => child.RunAsync(arguments, isBrief: true, default));
        var again = await ReadAsync(Drawings[0], async arguments =>
        {
            // As a process leaves it that ends halfway: a form longer than the whole one.
            var forms = read.Split(' ').Where((_, i) => i % 2 == 0).Where(f => f.StartsWith("0.", StringComparison.Ordinal)).ToList();
            Assert.NotEmpty(forms);
            foreach (var form in forms) await File.WriteAllBytesAsync(Path.Combine(arguments[2], form), new byte[2_000_000]);
            return await child.RunAsync(arguments, isBrief: true, default);
        });
        Assert.Equal(read, again);
    }

    [Fact]
    public async Task EverybodyHasAProcessOfTheirOwnAndNoneOutlivesTheServer()
    {
        using (var child = Child())
        {
            foreach (var person in Enumerable.Range(0, 6).Select(_ => Guid.NewGuid()))
                await ReadAsync(Drawings[0], arguments => child.RunInSeriesAsync(person, arguments, default));
            // Of those that wait for more, only a few are kept.
            await AreLeftAsync(4);
        }
        await AreLeftAsync(0);
    }

    [Fact]
    public async Task WhatTakesTooLongIsStopped()
    {
        using var child = Child(seconds: 0);
        Assert.Null((await child.RunInSeriesAsync(Guid.NewGuid(), ["prepare", Drawings[0], "/", "a.dxf"], default)).ExitCode);
        await AreLeftAsync(0);
    }

    /// <summary>Reads a file; gives a digest of everything that was prepared of it.</summary>
    private static async Task<string> ReadAsync(string drawing, Func<IReadOnlyList<string>, Task<ChildEnd>> run)
    {
        using var folder = new Folder();
        var end = await run(["prepare", drawing, folder.Path, Path.GetFileName(drawing)]);
        Assert.Equal(new ChildEnd(0, ""), end);
        var files = Directory.GetFiles(folder.Path).Order(StringComparer.Ordinal).ToList();
        Assert.True(files.Count > 1);
        return string.Join(' ', files.Select(f => $"{Path.GetFileName(f)} {Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(Seconds.Replace(File.ReadAllText(f, Encoding.Latin1), ""))))}"));
    }

    /// <summary>So many processes of series are left at most, once those that were ended are gone from the machine's own list.</summary>
    private async Task AreLeftAsync(int most)
    {
        for (var i = 0; Children().Count > most; i++)
        {
            Assert.True(i < 1200, "More are left.");
            await Task.Delay(50);
        }
    }

    /// <summary>Processes of series that still run.</summary>
    private List<int> Children()
    {
        var found = new List<int>();
        foreach (var folder in Directory.GetDirectories("/proc"))
        {
            if (!int.TryParse(Path.GetFileName(folder), CultureInfo.InvariantCulture, out var id)) continue;
            try
            {
                var words = File.ReadAllText(Path.Combine(folder, "cmdline")).TrimEnd('\0').Split('\0');
                if (words[^1] == "series" && words.Any(w => w.StartsWith(tool, StringComparison.Ordinal))) found.Add(id);
            }
            catch (IOException)
            {
                // It has ended meanwhile.
            }
        }
        return found;
    }

    private sealed class Folder : IDisposable
    {
        public string Path { get; } = Directory.CreateTempSubdirectory("froe-series-").FullName;

        public void Dispose() => Directory.Delete(Path, recursive: true);
    }
}
