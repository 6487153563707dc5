using System.Text.Json;
using System.Text.Json.Serialization;
using Froe.Core.Drawing;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What the pages work out as well: both read the same cases (tests/cases; tests/pages has the other half).</summary>
public class SharedCases
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory[..AppContext.BaseDirectory.IndexOf("Froe.Core.Tests", StringComparison.Ordinal)], "cases");

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) }, WriteIndented = true };

    private sealed record PlanCase(string Says, Plan Plan, string[] Steps, Dictionary<string, string[]> SurelyBefore);

    [Fact]
    public void PlansAreReadAlike()
    {
        foreach (var one in JsonSerializer.Deserialize<PlanCase[]>(File.ReadAllText(Path.Combine(Folder, "plans.json")), Json)!)
        {
            Assert.Equal((one.Says, string.Join(' ', one.Steps)), (one.Says, string.Join(' ', one.Plan.Steps().Select(s => s.Key))));
            foreach (var (at, before) in one.SurelyBefore)
                Assert.Equal((one.Says, at, string.Join(' ', before)), (one.Says, at, string.Join(' ', one.Plan.Steps().Select(s => s.Key).Where(k => PlanShape.SurelyBefore(one.Plan, k, at)))));
        }
    }

    /// <summary>A sheet with a line, a circle, a dashed line, a filled triangle and words, on two layers.</summary>
    private static Sheet Sample()
    {
        var builder = new SheetBuilder { Tolerance = 0.1 };
        builder.Begin(new EntityLook(0x2A, 0, 0, 25, [], "LINE"));
        builder.Line(new(0, 0), new(100, 50));
        builder.Begin(new EntityLook(0x2B, 1, 0xFF0000, 50, [], "CIRCLE"));
        builder.Arc(new EllipseArc(new(50, 25), new(10, 0), new(0, 10), 0, 2 * Math.PI));
        builder.Begin(new EntityLook(0x2C, 1, 0, 13, [6, -2], "LINE"));
        builder.Line(new(0, 10), new(20, 10));
        builder.Begin(new EntityLook(0x2D, 0, 0, 25, [], "SOLID"));
        builder.Triangle(new(80, 0), new(90, 0), new(80, 10));
        builder.Begin(new EntityLook(0x2E, 0, 0, 25, [], "TEXT"));
        builder.Text(new TextRun("Ø 20", new(60, 40), new(3, 0), new(0, 3), 0, 0, 0));
        return builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0), new Layer("Centre", false, 0xFF0000)]);
    }

    private sealed record SheetCase(string Geometry, string Details);

    /// <summary>The prepared forms are to the byte what the pages are tested to read; a new layout is a new version and a new case (FROE_WRITE_CASES=1).</summary>
    [Fact]
    public void APreparedSheetIsWhatThePagesRead()
    {
        static string Written(Action<Stream> write)
        {
            using var to = new MemoryStream();
            write(to);
            return Convert.ToBase64String(to.ToArray());
        }
        var sheet = Sample();
        var now = new SheetCase(Written(to => PreparedSheet.WriteGeometry(sheet, to)), Written(to => PreparedSheet.WriteDetails(sheet, to)));
        var file = Path.Combine(Folder, "sheet.json");
        if (Environment.GetEnvironmentVariable("FROE_WRITE_CASES") == "1") File.WriteAllText(file, JsonSerializer.Serialize(now, Json) + "\n");
        Assert.Equal(JsonSerializer.Deserialize<SheetCase>(File.ReadAllText(file), Json), now);
    }
}
