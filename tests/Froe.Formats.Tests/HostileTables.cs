using System.Diagnostics;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Files of every format, changed at random: readers refuse or read them, and neither throw nor hang.</summary>
public class HostileTables
{
    private const int Files = 500;
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(1);

    [Fact]
    public void TheGoodOnesAreRead()
    {
        foreach (var (name, file) in Hostile.Seeds.Concat(HostileMore.Models()))
        {
            var (content, fault) = Readers.For(name).Read(new MemoryStream(file), new ReadLimits());
            Assert.True(content is not null, $"{name}: {fault}");
        }
    }

    [Fact]
    public void NoneThrowsAndNoneHangs()
    {
        var wrong = new List<string>();
        for (var number = 0; number < Files; number++)
        {
            var (name, file) = Hostile.Make(number);
            var watch = Stopwatch.StartNew();
            try
            {
                Hostile.Read(name, file);
            }
            catch (Exception e) when (e is not Xunit.Sdk.XunitException)
            {
                wrong.Add($"{number} {name}: {e.GetType().Name} {e.Message}");
            }
            if (watch.Elapsed > Longest) wrong.Add($"{number} {name}: {watch.Elapsed}");
        }
        Assert.Empty(wrong);
    }
}
