using System.Text;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using Froe.Formats.Models;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Dimensions and notes as a file has drawn them. The plate: 40 × 30 × 6 with a bore of 12, whose diameter is drawn 4 above it.</summary>
public static class DrawnAnnotationTables
{
    private static string Plate() => File.ReadAllText(Path.Combine(ModelFiles.Root(), "tests", "cases", "drawn", "plate.stp"), Encoding.Latin1);

    private static SceneFacts Read(string file)
    {
        var (content, fault) = Readers.For("plate.stp").Read(new MemoryStream(Encoding.Latin1.GetBytes(file)), new ReadLimits());
        Assert.True(content is not null, fault?.ToString());
        using var to = new MemoryStream();
        content.Leaves[0].Forms.Single(f => f.Name == LeafForms.Scene).Write(to);
        return JsonSerializer.Deserialize<SceneFacts>(to.ToArray(), FormJson.Options)!;
    }

    private static string With(string more) => Plate().Replace("ENDSEC;\nEND-ISO", more + "\nENDSEC;\nEND-ISO", StringComparison.Ordinal);

    [Fact]
    public static void WhatIsDrawnOfADimensionStandsWithItOnItsPlane()
    {
        var bore = Assert.Single(Read(Plate()).Dimensions);
        Assert.Equal((ModelDimensionKind.Size, "Ø12 +0.018 / 0", 0, 1), (bore.Kind, bore.Words, bore.Part, bore.Faces.Count));
        Assert.Equal([[26, 15, 10, 45, 30, 10], [45, 30, 10, 60, 30, 10]], bore.Drawn!.Lines.Select(l => l.ToArray()));
        Assert.Empty(bore.Drawn.Areas);
    }

    [Fact]
    public static void NotesOfCurvesAndOfFilledAreasAreDrawnTooAndLeadToWhatTheySpeakOf()
    {
        var aspect = System.Text.RegularExpressions.Regex.Match(Plate(), @"#(\d+)\s*=\s*SHAPE_ASPECT").Groups[1].Value;
        var scene = Read(With($"""
            #9001=ANNOTATION_CURVE_OCCURRENCE('Break edges',(),#9002);
            #9002=GEOMETRIC_CURVE_SET('',(#9003,#9099));
            #9003=POLYLINE('',(#9004,#9005,#9006));
            #9004=CARTESIAN_POINT('',(0.,0.,8.));
            #9005=CARTESIAN_POINT('',(10.,0.,8.));
            #9006=CARTESIAN_POINT('',(10.,5.,8.));
            #9010=DRAUGHTING_CALLOUT('Bore is honed',(#9011));
            #9011=TESSELLATED_ANNOTATION_OCCURRENCE('',(),#9012);
            #9012=TESSELLATED_GEOMETRIC_SET('',(#9013,#9014));
            #9013=COMPLEX_TRIANGULATED_SURFACE_SET('',#9015,4,((0.,0.,1.)),(),((1,2,3,4)),((1,3,4)));
            #9014=TRIANGULATED_SURFACE_SET('',#9015,4,((0.,0.,1.)),(4,3,2,1),((1,2,9),(1,2,3)));
            #9015=COORDINATES_LIST('',4,((0.,0.,9.),(1.,0.,9.),(0.,1.,9.),(1.,1.,9.)));
            #9016=DRAUGHTING_MODEL_ITEM_ASSOCIATION('','',#{aspect},#9017,#9010);
            """));
        Assert.Equal([(ModelDimensionKind.Size, "Ø12 +0.018 / 0"), (ModelDimensionKind.Note, "Bore is honed"), (ModelDimensionKind.Note, "Break edges")], scene.Dimensions.Select(d => (d.Kind, d.Words)));
        var (honed, broken) = (scene.Dimensions[1], scene.Dimensions[2]);
        Assert.Equal(scene.Dimensions[0].Faces, honed.Faces);
        // Two triangles of the strip, one of the fan, and one through the set's own index; what names a point that is not there is left out.
        Assert.Equal([0, 0, 9, 1, 0, 9, 0, 1, 9], honed.Drawn!.Areas.Take(9));
        Assert.Equal([1, 1, 9, 0, 1, 9, 1, 0, 9], honed.Drawn.Areas.Skip(27));
        Assert.Equal(36, honed.Drawn.Areas.Count);
        Assert.Empty(broken.Faces);
        Assert.Equal([0, 0, 8, 10, 0, 8, 10, 5, 8], Assert.Single(broken.Drawn!.Lines));
    }

    [Fact]
    public static void WhatIsDrawnInItselfOrOutOfNothingHarmsNothing()
    {
        var file = new ExchangeFile(Encoding.Latin1.GetBytes(With("""
            #9001=TESSELLATED_ANNOTATION_OCCURRENCE('',(),#9002);
            #9002=TESSELLATED_GEOMETRIC_SET('',(#9002,#9003));
            #9003=TESSELLATED_CURVE_SET('',#9004,((1,2),(0,7),(1.5,'x')));
            #9004=COORDINATES_LIST('',2,((0.,0.),(1.,2.,3.)));
            #9005=ANNOTATION_CURVE_OCCURRENCE('empty',(),#9999);
            #9005=ANNOTATION_CURVE_OCCURRENCE('again',(),#9006);
            #9006=GEOMETRIC_SET('',(#9006,#9006,#9006,#9006,#9006,#9006,#9006,#9006));
            #9007=TESSELLATED_ANNOTATION_OCCURRENCE('many',(),#9006);
            """)));
        // A set in itself is drawn as often as it may lie in others, and no more.
        Assert.Equal([("Bore", 2), ("", 12)], ExchangeAnnotations.Of(file).Select(a => (a.Name, a.Drawn.Lines.Count)));
    }
}
