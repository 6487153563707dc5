using System.Diagnostics;
using Froe.Formats.Models;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>The program that has the library of exact models loaded, and the process that it splits off for each file.</summary>
public class LibraryTables
{
    private static readonly HashSet<string> None = [];

    private static int Faces(byte[] file)
    {
        using var library = LibraryModel.Begin(file, isIges: false);
        var outcome = library.End(None);
        Assert.Equal("", outcome.Fault);
        return outcome.Faces;
    }

    [Fact]
    public void OneProgramReadsFileAfterFileAndWhatIsDamagedHarmsNoneOfThem()
    {
        var mount = ModelFiles.Mount(1);
        var faces = Faces(mount);
        using (var library = LibraryModel.Begin("This is no model."u8, isIges: false)) Assert.Equal("The file is not STEP as its standard has it, or it is damaged.", library.End(None).Fault);
        using (var library = LibraryModel.Begin("This is no model."u8, isIges: true)) Assert.Null(library.End(None).Scene);
        Assert.Equal(faces, Faces(mount));
    }

    [Fact]
    public void AFileThatIsNotWaitedForEndsItsProcessAndLeavesNothing()
    {
        var folder = Directory.CreateTempSubdirectory("froe-model-test-");
        File.WriteAllBytes(Path.Combine(folder.FullName, "in"), ModelFiles.Mount(2));
        var process = LibraryProcess.Take("froe-step-reader");
        process.Begin(folder.FullName, 6144);
        var (id, split) = (process.Id, Array.Empty<int>());
        // Once the reading goes on.
        for (var i = 0; split.Length == 0 && i < 1000; i++, Thread.Sleep(1)) split = Below(id);
        process.Dispose();
        Assert.NotEmpty(split);
        Assert.All([id, .. split], one => Assert.True(SpinWait.SpinUntil(() => !Runs(one), TimeSpan.FromSeconds(30))));
        folder.Delete(recursive: true);
    }

    [Fact]
    public void ATooLongReadingIsToldAndAProgramThatHasEndedIsGivenNoFile()
    {
        var folder = Directory.CreateTempSubdirectory("froe-model-test-");
        File.WriteAllBytes(Path.Combine(folder.FullName, "in"), ModelFiles.Mount(1));
        using (var slow = LibraryProcess.Take("froe-step-reader"))
        {
            slow.Begin(folder.FullName, 6144);
            Assert.False(slow.HasEnded(TimeSpan.FromMilliseconds(1), out _));
        }
        using (var waiting = LibraryProcess.Take("froe-step-reader"))
        using (var killed = Process.GetProcessById(waiting.Id))
        {
            killed.Kill();
            killed.WaitForExit();
        }
        Assert.True(Faces(ModelFiles.Mount(1)) > 0);
        // One that ends while it reads is told as such.
        using var broken = LibraryProcess.Take("froe-step-reader");
        broken.Begin(folder.FullName, 6144);
        using (var killed = Process.GetProcessById(broken.Id)) killed.Kill();
        Assert.True(broken.HasEnded(TimeSpan.FromSeconds(60), out var code));
        Assert.Equal(-1, code);
        folder.Delete(recursive: true);
    }

    /// <summary>Whether it runs: of one that has ended, and that nobody has asked after, no command line is left.</summary>
    private static bool Runs(int id)
    {
        try
        {
            return File.ReadAllText($"/proc/{id}/cmdline").Length > 0;
        }
        catch (IOException)
        {
            return false;
        }
    }

    /// <summary>The processes that one has split off (proc(5), the fourth number of “stat”).</summary>
    private static int[] Below(int id) =>
    [
        .. Directory.EnumerateDirectories("/proc").Select(Path.GetFileName).Where(n => int.TryParse(n, out _)).Select(n => int.Parse(n!, System.Globalization.CultureInfo.InvariantCulture)).Where(n =>
        {
            try
            {
                var stat = File.ReadAllText($"/proc/{n}/stat");
                return stat[(stat.LastIndexOf(')') + 2)..].Split(' ')[1] == id.ToString(System.Globalization.CultureInfo.InvariantCulture);
            }
            catch (IOException)
            {
                return false;
            }
        }),
    ];
}
