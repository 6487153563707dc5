using System.Text.RegularExpressions;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Rooms are entered one way: none leads, through others, back to itself. A room is a folder with the namespace of its name.</summary>
public partial class RoomTests
{
    private static readonly string Source = Path.Combine(AppContext.BaseDirectory[..AppContext.BaseDirectory.IndexOf("tests/Froe.Server.Tests", StringComparison.Ordinal)], "src");

    [Theory]
    [InlineData("Froe.Core")]
    [InlineData("Froe.Formats")]
    [InlineData("Froe.Store")]
    [InlineData("Froe.Server")]
    public void NoRoomLeadsBackToItself(string project)
    {
        var doors = Doors(project);
        var circles = doors.Keys.Where(room => Reached(doors, room).Contains(room)).Order().ToList();
        Assert.True(circles.Count == 0, $"In {project} these rooms lead back to themselves: {string.Join(", ", circles)}. Their doors: {string.Join("; ", circles.Select(c => $"{c} to {string.Join(' ', doors[c])}"))}");
    }

    [Fact]
    public void CoreKnowsNobodyAndTheStoreOnlyCore()
    {
        foreach (var (project, allowed) in new[] { ("Froe.Core", ""), ("Froe.Formats", "Core"), ("Froe.Store", "Core") })
            foreach (var file in Files(project))
                Assert.DoesNotContain(Using().Matches(File.ReadAllText(file)).Select(m => m.Groups[1].Value), p => p != project["Froe.".Length..] && p != allowed && p.Length > 0);
    }

    [Fact]
    public void ARoomsFilesBearItsName()
    {
        foreach (var project in new[] { "Froe.Core", "Froe.Formats", "Froe.Store", "Froe.Server" })
            foreach (var file in Files(project))
                if (Namespace().Match(File.ReadAllText(file)) is { Success: true } found)
                    Assert.Equal(string.Join('.', [project, .. Path.GetRelativePath(Path.Combine(Source, project), file).Split('/')[..^1]]), found.Groups[1].Value);
    }

    private static IEnumerable<string> Files(string project) =>
        Directory.EnumerateFiles(Path.Combine(Source, project), "*.cs", SearchOption.AllDirectories).Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/bin/", StringComparison.Ordinal));

    /// <summary>Which rooms of a project each of its rooms names.</summary>
    private static Dictionary<string, HashSet<string>> Doors(string project)
    {
        var doors = new Dictionary<string, HashSet<string>>();
        foreach (var file in Files(project))
        {
            var room = Path.GetRelativePath(Path.Combine(Source, project), file).Split('/') is [var folder, _, ..] ? folder : "";
            // What lies in no room is the house itself, which enters them all.
            if (room.Length == 0) continue;
            if (!doors.TryGetValue(room, out var to)) doors[room] = to = [];
            foreach (Match named in Regex.Matches(File.ReadAllText(file), $@"\b{Regex.Escape(project)}\.([A-Z]\w*)"))
                if (named.Groups[1].Value != room && Directory.Exists(Path.Combine(Source, project, named.Groups[1].Value))) to.Add(named.Groups[1].Value);
        }
        return doors;
    }

    private static HashSet<string> Reached(Dictionary<string, HashSet<string>> doors, string from)
    {
        var reached = new HashSet<string>();
        var next = new Stack<string>(doors[from]);
        while (next.TryPop(out var room))
            if (reached.Add(room) && doors.TryGetValue(room, out var on))
                foreach (var further in on) next.Push(further);
        return reached;
    }

    [GeneratedRegex(@"^using (?:static )?Froe\.(\w+)", RegexOptions.Multiline)]
    private static partial Regex Using();

    [GeneratedRegex(@"^namespace ([\w.]+);", RegexOptions.Multiline)]
    private static partial Regex Namespace();
}
