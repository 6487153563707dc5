using System.Globalization;
using System.Text;
using System.Xml;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Out;

/// <summary>Writes a section of a model as a drawing for others, at true size.</summary>
public static class SectionFile
{
    /// <summary>What an SVG is (SVG 2, W3C), and a DXF (media types as IANA registered them).</summary>
    public const string SvgType = "image/svg+xml", DxfType = "image/vnd.dxf";

    /// <summary>Room about the section, as a share of its diagonal.</summary>
    private const double Margin = 0.02;

    /// <summary>Writes it as SVG: sizes in millimetres, or in its own units where the model has none.</summary>
    public static void WriteSvg(SectionCut cut, LengthUnit unit, string title, Stream to)
    {
        ArgumentNullException.ThrowIfNull(cut);
        ArgumentNullException.ThrowIfNull(to);
        var extents = cut.Faces.SelectMany(f => f.Loops.Concat(f.Open)).SelectMany(l => Pairs(l)).Aggregate(Extents.Empty, (e, p) => e.With(p.X, p.Y));
        if (extents.IsEmpty) extents = new Extents(0, 0, 1, 1);
        var margin = Math.Max(extents.Diagonal * Margin, 1e-6);
        double width = extents.Width + (2 * margin), height = extents.Height + (2 * margin);
        var sign = LengthUnits.MillimetresIn(unit) is null ? "" : "mm";
        var millimetres = LengthUnits.MillimetresIn(unit) ?? 1;
        using var xml = XmlWriter.Create(to, new XmlWriterSettings { Encoding = new UTF8Encoding(false), Indent = true, CloseOutput = false });
        xml.WriteStartElement("svg", "http://www.w3.org/2000/svg");
        xml.WriteAttributeString("width", N(width * millimetres) + sign);
        xml.WriteAttributeString("height", N(height * millimetres) + sign);
        // Up is down in SVG.
        xml.WriteAttributeString("viewBox", $"{N(extents.MinX - margin)} {N(-extents.MaxY - margin)} {N(width)} {N(height)}");
        xml.WriteElementString("title", Sound(title));
        xml.WriteStartElement("g");
        xml.WriteAttributeString("fill", "none");
        xml.WriteAttributeString("stroke", "#000000");
        xml.WriteAttributeString("stroke-linecap", "round");
        foreach (var face in cut.Faces)
        {
            var hatching = new StringBuilder();
            for (var i = 0; i + 3 < face.Hatching.Count; i += 4)
                hatching.Append($"M{N(face.Hatching[i])} {N(-face.Hatching[i + 1])}L{N(face.Hatching[i + 2])} {N(-face.Hatching[i + 3])}");
            Path(hatching, SectionSheet.HatchingWeight);
            var outline = new StringBuilder();
            foreach (var line in face.Loops) Line(outline, line).Append('Z');
            foreach (var line in face.Open) Line(outline, line);
            Path(outline, SectionSheet.OutlineWeight);
        }
        xml.WriteEndElement();
        xml.WriteEndElement();

        void Path(StringBuilder data, int weight)
        {
            if (data.Length == 0) return;
            xml.WriteStartElement("path");
            xml.WriteAttributeString("stroke-width", N(weight / 100.0));
            xml.WriteAttributeString("d", data.ToString());
            xml.WriteEndElement();
        }

        static StringBuilder Line(StringBuilder data, IReadOnlyList<double> line)
        {
            foreach (var (i, p) in Pairs(line).Index()) data.Append(i == 0 ? 'M' : 'L').Append(N(p.X)).Append(' ').Append(N(-p.Y));
            return data;
        }
    }

    /// <summary>The unit as a DXF file names it ($INSUNITS); 0 for none.</summary>
    private static int InsertionUnit(LengthUnit unit) => unit switch
    {
        LengthUnit.Inch => 1,
        LengthUnit.Foot => 2,
        LengthUnit.Mile => 3,
        LengthUnit.Millimetre => 4,
        LengthUnit.Centimetre => 5,
        LengthUnit.Metre => 6,
        LengthUnit.Kilometre => 7,
        LengthUnit.Yard => 10,
        LengthUnit.Micrometre => 13,
        _ => 0,
    };

    /// <summary>Writes it as DXF of its oldest form that is still read everywhere (AC1009), with the unit in its head: one layer for outlines, one for hatching.</summary>
    public static void WriteDxf(SectionCut cut, LengthUnit unit, Stream to)
    {
        ArgumentNullException.ThrowIfNull(cut);
        ArgumentNullException.ThrowIfNull(to);
        using var text = new StreamWriter(to, new UTF8Encoding(false), leaveOpen: true) { NewLine = "\r\n" };
        Put(0, "SECTION", 2, "HEADER", 9, "$ACADVER", 1, "AC1009", 9, "$INSUNITS", 70, InsertionUnit(unit), 0, "ENDSEC");
        Put(0, "SECTION", 2, "TABLES", 0, "TABLE", 2, "LAYER", 70, SectionSheet.Layers.Count);
        foreach (var layer in SectionSheet.Layers) Put(0, "LAYER", 2, Called(layer), 70, 0, 62, 7, 6, "CONTINUOUS");
        Put(0, "ENDTAB", 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES");
        foreach (var face in cut.Faces)
        {
            foreach (var line in face.Loops) Polyline(line, true);
            foreach (var line in face.Open) Polyline(line, false);
            for (var i = 0; i + 3 < face.Hatching.Count; i += 4)
                Put(0, "LINE", 8, Called(SectionSheet.Layers[1]), 10, face.Hatching[i], 20, face.Hatching[i + 1], 30, 0.0, 11, face.Hatching[i + 2], 21, face.Hatching[i + 3], 31, 0.0);
        }
        Put(0, "ENDSEC", 0, "EOF");

        void Polyline(IReadOnlyList<double> line, bool isClosed)
        {
            Put(0, "POLYLINE", 8, Called(SectionSheet.Layers[0]), 66, 1, 10, 0.0, 20, 0.0, 30, 0.0, 70, isClosed ? 1 : 0);
            foreach (var p in Pairs(line)) Put(0, "VERTEX", 8, Called(SectionSheet.Layers[0]), 10, p.X, 20, p.Y, 30, 0.0);
            Put(0, "SEQEND", 8, Called(SectionSheet.Layers[0]));
        }

        // Group code and value, one a line (DXF reference, "ASCII DXF files").
        void Put(params object[] groups)
        {
            for (var i = 0; i + 1 < groups.Length; i += 2)
            {
                text.WriteLine(((int)groups[i]).ToString(CultureInfo.InvariantCulture).PadLeft(3));
                text.WriteLine(groups[i + 1] is double number ? N(number) : Convert.ToString(groups[i + 1], CultureInfo.InvariantCulture));
            }
        }
    }

    /// <summary>A layer's name as the oldest form wants it.</summary>
    private static string Called(string layer) => layer.ToUpperInvariant();

    private static IEnumerable<PointXY> Pairs(IReadOnlyList<double> numbers)
    {
        for (var i = 0; i + 1 < numbers.Count; i += 2) yield return new(numbers[i], numbers[i + 1]);
    }

    // What rounds to nothing has no sign.
    private static string N(double value) => (Math.Round(value, 6) + 0.0).ToString("0.######", CultureInfo.InvariantCulture);

    private static string Sound(string words) => string.Concat(words.Where(c => XmlConvert.IsXmlChar(c)));
}
