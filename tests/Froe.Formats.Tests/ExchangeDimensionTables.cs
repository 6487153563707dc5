using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats.Models;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Dimensions, tolerances and datums of STEP files as other programs write them, worked by hand.</summary>
public static class ExchangeDimensionTables
{
    private const string Head = """
        ISO-10303-21;HEADER;FILE_SCHEMA(('AP242'));ENDSEC;DATA;
        #1=PRODUCT('P-1','Plate','',());#2=PRODUCT_DEFINITION_FORMATION('','',#1);#3=PRODUCT_DEFINITION('','',#2,$);#4=PRODUCT_DEFINITION_SHAPE('','',#3);
        #10=ADVANCED_BREP_SHAPE_REPRESENTATION('',(#11),$);#11=MANIFOLD_SOLID_BREP('',#12);#12=CLOSED_SHELL('',(#13,#14,#15));
        #13=ADVANCED_FACE('',(),#16,.T.);#14=ADVANCED_FACE('',(),#17,.T.);#15=ADVANCED_FACE('',(),#16,.F.);#16=PLANE('',$);#17=CYLINDRICAL_SURFACE('',$,5.);
        #20=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.));#21=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.));
        #22=(CONVERSION_BASED_UNIT('INCH',#23)LENGTH_UNIT()NAMED_UNIT(#24));#23=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),#20);#24=DIMENSIONAL_EXPONENTS(1.,0.,0.,0.,0.,0.,0.);
        #25=(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.));#26=(CONVERSION_BASED_UNIT('DEGREE',#27)NAMED_UNIT(#24)PLANE_ANGLE_UNIT());#27=PLANE_ANGLE_MEASURE_WITH_UNIT(PLANE_ANGLE_MEASURE(0.0174532925199433),#25);
        #30=SHAPE_ASPECT('Hole','',#4,.T.);#31=GEOMETRIC_ITEM_SPECIFIC_USAGE('','',#30,#10,#14);
        #32=SHAPE_ASPECT('','',#4,.T.);#33=GEOMETRIC_ITEM_SPECIFIC_USAGE('','',#32,#10,#13);
        #34=SHAPE_ASPECT('','',#4,.T.);#35=GEOMETRIC_ITEM_SPECIFIC_USAGE('','',#34,#10,#15);
        """;

    private static List<string> Of(string data, string name = "Plate", SurfaceKind second = SurfaceKind.Cylinder)
    {
        Face[] faces = [Face.Unknown with { Surface = SurfaceKind.Plane }, Face.Unknown with { Surface = second }, Face.Unknown with { Surface = SurfaceKind.Plane }];
        var scene = new Scene(LengthUnit.Millimetre, [], [new Part("Other", "", null, null, Mesh.Empty, [], [], null, 0), new Part(name, "P-1", null, null, Mesh.Empty, faces, [], null, 0)]);
        return [.. ExchangeDimensions.Of(new ExchangeFile(Encoding.UTF8.GetBytes($"{Head}{data}ENDSEC;END-ISO-10303-21;")), scene).Select(d => $"{d.Kind} {d.Name} [{d.Words}] {d.Part}:{string.Join(',', d.Faces)}")];
    }

    private const string Diameter = "#40=DIMENSIONAL_SIZE(#30,'diameter');#41=DIMENSIONAL_CHARACTERISTIC_REPRESENTATION(#40,#42);#42=SHAPE_DIMENSION_REPRESENTATION('',(#43),$);";

    [Fact]
    public static void ASizeHasItsValueInMillimetresWhateverItsUnit()
    {
        foreach (var (unit, value, said) in ((int, string, string)[])[(20, "10.", "Ø10"), (21, "1.E-02", "Ø10"), (22, "0.5", "Ø12.7")])
        {
            Assert.Equal([$"Size Hole [{said}] 1:1"], Of($"{Diameter}#43=(LENGTH_MEASURE_WITH_UNIT()MEASURE_REPRESENTATION_ITEM()MEASURE_WITH_UNIT(LENGTH_MEASURE({value}),#{unit})REPRESENTATION_ITEM('nominal value'));"));
            Assert.Equal([$"Size Hole [{said}] 1:1"], Of($"{Diameter}#43=MEASURE_REPRESENTATION_ITEM('nominal value',POSITIVE_LENGTH_MEASURE({value}),#{unit});"));
        }
    }

    [Fact]
    public static void LimitsFitsAnglesAndDistancesAreRead()
    {
        const string Ten = "#43=MEASURE_REPRESENTATION_ITEM('',LENGTH_MEASURE(10.),#20);";
        string Between(string low, string up) => $"{Diameter}{Ten}#50=PLUS_MINUS_TOLERANCE(#51,#40);#51=TOLERANCE_VALUE(#52,#53);#52=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE({low}),#20);#53=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE({up}),#20);";
        Assert.Equal(["Size Hole [Ø10 ±0.1] 1:1"], Of(Between("-0.1", "0.1")));
        Assert.Equal(["Size Hole [Ø10 +0.3 / +0.1] 1:1"], Of(Between("0.1", "0.3")));
        Assert.Equal(["Size Hole [Ø10 0 / -0.02] 1:1"], Of(Between("-0.02", "-0.")));
        Assert.Equal(["Size Hole [Ø10 H7] 1:1"], Of($"{Diameter}{Ten}#50=PLUS_MINUS_TOLERANCE(#51,#40);#51=LIMITS_AND_FITS('H','','7','');"));
        Assert.Equal(["Location linear distance [25] 1:0,2"], Of("#40=DIMENSIONAL_LOCATION('linear distance',$,#32,#34);#41=DIMENSIONAL_CHARACTERISTIC_REPRESENTATION(#40,#42);#42=SHAPE_DIMENSION_REPRESENTATION('',(#43),$);#43=MEASURE_REPRESENTATION_ITEM('',LENGTH_MEASURE(25.),#20);"));
        foreach (var (unit, value) in ((int, string)[])[(26, "30."), (25, "0.523598775598299")])
            Assert.Equal(["Location  [30°] 1:0,2"], Of($"#40=ANGULAR_LOCATION('',$,#32,#34,.SMALL.);#41=DIMENSIONAL_CHARACTERISTIC_REPRESENTATION(#40,#42);#42=SHAPE_DIMENSION_REPRESENTATION('',(#43),$);#43=MEASURE_REPRESENTATION_ITEM('',PLANE_ANGLE_MEASURE({value}),#{unit});"));
    }

    [Fact]
    public static void TolerancesReferToTheirDatumsAndDatumsToTheirFeatures()
    {
        const string Datums = "#60=DATUM_FEATURE('','',#4,.T.);#61=GEOMETRIC_ITEM_SPECIFIC_USAGE('','',#60,#10,#13);#62=DATUM('','',#4,.F.,'A');#63=SHAPE_ASPECT_RELATIONSHIP('','',#60,#62);#64=DATUM('','',#4,.F.,'B');#69=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(0.05),#20);";
        Assert.Equal(["Datum  [datum A] 1:0", "Datum  [datum B] 1:"], Of(Datums));
        Assert.Contains("Tolerance Level [flatness 0.05] 1:0", Of($"{Datums}#70=FLATNESS_TOLERANCE('Level','',#69,#32);"));
        Assert.Contains("Tolerance Hole [perpendicularity 0.05 to A] 1:1", Of($"{Datums}#70=PERPENDICULARITY_TOLERANCE('','',#69,#30,(#71));#71=DATUM_REFERENCE(1,#62);"));
        Assert.Contains("Tolerance Hole [position 0.05 to A, B] 1:1", Of($"{Datums}#70=(GEOMETRIC_TOLERANCE('','',#69,#30)GEOMETRIC_TOLERANCE_WITH_DATUM_REFERENCE((#71))POSITION_TOLERANCE());#71=DATUM_SYSTEM('','',#4,.F.,(#72,#73));#72=DATUM_REFERENCE_COMPARTMENT('','',#4,.F.,#62,$);#73=DATUM_REFERENCE_COMPARTMENT('','',#4,.F.,#64,$);"));
    }

    [Fact]
    public static void WhatIsNotCertainLeadsToThePartAloneOrNowhereAndNothingBreaks()
    {
        const string Ten = Diameter + "#43=MEASURE_REPRESENTATION_ITEM('',LENGTH_MEASURE(10.),#20);";
        Assert.Equal(["Size Hole [Ø10] 1:"], Of(Ten, second: SurfaceKind.Cone));
        Assert.Empty(Of(Ten, name: "Another"));
        // What refers to itself, to nothing, or says something else than it should.
        foreach (var odd in (string[])["#40=DIMENSIONAL_SIZE(#40,'diameter');", "#40=DIMENSIONAL_SIZE($);", "#40=DIMENSIONAL_SIZE(#999,'');", "#40=DIMENSIONAL_SIZE(#30,7);#41=DIMENSIONAL_CHARACTERISTIC_REPRESENTATION(#40,#40);",
            "#70=FLATNESS_TOLERANCE(1,2,#70,#30);", "#70=(GEOMETRIC_TOLERANCE()FLATNESS_TOLERANCE());", "#62=DATUM();", "#62=DATUM('','',#4,.F.,'');", "#70=PARALLELISM_TOLERANCE('','',#71,#30,(#71));#71=DATUM_SYSTEM('','',#4,.F.,(#71));",
            "#20=(CONVERSION_BASED_UNIT('X',#23)LENGTH_UNIT()NAMED_UNIT(#24));" + Ten])
            Of(odd);
        Assert.Equal(["Size Hole [Ø] 1:1"], Of("#40=DIMENSIONAL_SIZE(#30,'diameter');"));
    }

    [Fact]
    public static void VolumesAndAreasThatTheFileStatesAreHeldAgainstWhatWasRead()
    {
        static IReadOnlyList<NotShown> Check(string volume, string unit, double read = 1000, string of = "#4", string name = "geometric validation property")
        {
            var data = $"#40=PROPERTY_DEFINITION('{name}','volume',{of});#41=PROPERTY_DEFINITION_REPRESENTATION(#40,#42);#42=REPRESENTATION('volume',(#43),$);#43=MEASURE_REPRESENTATION_ITEM('volume measure',VOLUME_MEASURE({volume}),#44);"
                + $"#44=DERIVED_UNIT((#45));#45=DERIVED_UNIT_ELEMENT({unit},3.);"
                + "#50=PROPERTY_DEFINITION('geometric validation property','surface area',#4);#51=PROPERTY_DEFINITION_REPRESENTATION(#50,#52);#52=REPRESENTATION('surface area',(#53),$);#53=MEASURE_REPRESENTATION_ITEM('surface area measure',AREA_MEASURE(600.),#54);"
                + "#54=DERIVED_UNIT((#55));#55=DERIVED_UNIT_ELEMENT(#20,2.);";
            var scene = new Scene(LengthUnit.Millimetre, [], [new Part("Plate", "P-1", null, null, Mesh.Empty, [], [], new Mass(read, 600, default(Point3)), 0)]);
            return ExchangeChecks.Of(new ExchangeFile(Encoding.UTF8.GetBytes($"{Head}{data}ENDSEC;END-ISO-10303-21;")), scene);
        }
        Assert.Empty(Check("1000.", "#20"));
        Assert.Empty(Check("1001.", "#20"));
        Assert.Empty(Check("1.E-06", "#21"));
        Assert.Empty(Check("1000.", "#20", of: "#3"));
        Assert.Empty(Check("0.0610237", "#22"));
        var off = Assert.Single(Check("1010.", "#20"));
        Assert.Equal(("volume of a part that differs", 1), (off.Type, off.Count));
        Assert.Contains("Plate has 1000 mm³ where the file says 1010", off.Why, StringComparison.Ordinal);
        Assert.Empty(Check("1010.", "#20", name: "material property"));
        // What is said of nothing, or in no unit, is held against nothing.
        foreach (var odd in (string[])["#99", "#25", "#43"]) Assert.Empty(Check("1010.", odd));
    }
}
