using System.Globalization;
using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>Where an entity is drawn: the map of the insertions round it, and what it inherits from them.</summary>
/// <param name="Map">From the block's coordinates to the world.</param>
/// <param name="Layer">What layer "0" means here.</param>
/// <param name="Rgb">What colour "by block" means here.</param>
/// <param name="Weight">What weight "by block" means here.</param>
/// <param name="LineType">What line type "by block" means here.</param>
/// <param name="Depth">How many insertions deep.</param>
internal readonly record struct Placement(Affine Map, int Layer, int Rgb, int Weight, string LineType, int Depth);

/// <summary>Draws entities onto sheets: the model and each paper sheet.</summary>
internal sealed partial class EntityDrawer(DxfTables tables, DxfText text, LengthUnit unit, double tolerance, ReadLimits limits)
{
    private const double Degree = Math.PI / 180;
    private static readonly Placement Top = new(Affine.Identity, -1, PaperInk.FromColourNumber(7), 25, "CONTINUOUS", 0);

    private readonly SheetBuilder model = new(limits.MostSegments) { Tolerance = tolerance };
    private readonly Dictionary<string, SheetBuilder> papers = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<(string, string), int> notShown = [];
    private readonly List<(SheetBuilder Paper, Record Viewport)> viewports = [];
    private readonly List<(string Name, SheetBuilder Builder)> sheets = [];
    private readonly List<PointXY> points = [];
    private SheetBuilder builder = null!;
    private readonly (byte[]? Name, int Layer)[] layerSlots = new (byte[]?, int)[256];
    private int inserts;

    /// <summary>Draws an entity of the ENTITIES section on the sheet it belongs to.</summary>
    public void Draw(Record entity)
    {
        builder = entity.GetInt(67) == 1 ? Paper("*Paper_Space") : model;
        Draw(entity, Top);
    }

    /// <summary>Draws the paper sheets kept as blocks, then the views of the model on them.</summary>
    public void Finish(IReadOnlyDictionary<string, string> layoutNames)
    {
        foreach (var block in tables.Blocks.Values.Where(b => b.Name.StartsWith("*Paper_Space", StringComparison.OrdinalIgnoreCase) && b.Entities.Count > 0).ToList())
        {
            builder = Paper(block.Name);
            foreach (var entity in block.Entities) Draw(entity, Top);
        }
        foreach (var (paper, viewport) in viewports) DrawView(paper, viewport);
        if (model.SegmentCount > 0 || papers.Count == 0) sheets.Add(("Model", model));
        foreach (var (block, paper) in papers)
            if (!paper.Extents.IsEmpty) sheets.Add((layoutNames.GetValueOrDefault(block, "Paper"), paper));
        if (sheets.Count == 0) sheets.Add(("Model", model));
        // A paper sheet that shows the model is the drawing; the bare model comes after it.
        if (viewports.Count > 0) sheets.Sort((a, b) => (a.Builder == model).CompareTo(b.Builder == model));
    }

    public List<Sheet> Sheets()
    {
        var layers = tables.Layers.Select(l => new Layer(l.Name, l.IsOn, PaperInk.OnPaper(l.Rgb))).ToList();
        return [.. sheets.Select(s => s.Builder.Build(s.Name, unit, layers))];
    }

    public IReadOnlyList<NotShown> NotShown() =>
        [.. notShown.OrderBy(n => n.Key).Select(n => new NotShown(n.Key.Item1, n.Value, n.Key.Item2))];

    private SheetBuilder Paper(string block)
    {
        if (papers.TryGetValue(block, out var paper)) return paper;
        if (papers.Count >= 200) throw new SheetTooLargeException("The drawing has more than 200 paper sheets.");
        return papers[block] = new SheetBuilder(limits.MostSegments) { Tolerance = tolerance };
    }

    private void Skip(string type, string why)
    {
        notShown.TryGetValue((type, why), out var count);
        notShown[(type, why)] = count + 1;
    }

    private void Draw(Record e, in Placement at)
    {
        if (e.GetInt(60) == 1) return;
        // LINE comes first: in large drawings nearly everything is one.
        if (e.Type == "LINE")
        {
            Begin(e, at);
            Point3 a = default, b = default;
            for (var i = 0; i < e.Count; i++)
            {
                var n = e.Number(i);
                switch (e.Code(i))
                {
                    case 10: a = a with { X = n }; break;
                    case 20: a = a with { Y = n }; break;
                    case 30: a = a with { Z = n }; break;
                    case 11: b = b with { X = n }; break;
                    case 21: b = b with { Y = n }; break;
                    case 31: b = b with { Z = n }; break;
                }
            }
            // Outside blocks there is nothing to map.
            if (at.Depth == 0) builder.Line(new(a.X, a.Y), new(b.X, b.Y));
            else builder.Line(Flat(at.Map, a), Flat(at.Map, b));
            return;
        }
        switch (e.Type)
        {
            case "INSERT": Insert(e, at); return;
            case "DIMENSION" or "ACAD_TABLE": Picture(e, at); return;
            case "VIEWPORT":
                // The first viewport of a sheet is the sheet itself (its id is 1).
                if (at.Depth == 0 && e.GetInt(69, 2) != 1 && e.Get(45) > 0 && viewports.Count < 500) viewports.Add((builder, e.Copy()));
                return;
            case "ATTDEF" or "SEQEND" or "VERTEX": return;
        }
        Begin(e, at);
        switch (e.Type)
        {
            case "LWPOLYLINE": LwPolyline(e, at); break;
            case "POLYLINE": Polyline(e, at); break;
            case "CIRCLE": Arc(e, at, 0, 2 * Math.PI); break;
            case "ARC": Arc(e, at, e.Get(50) * Degree, e.Get(51) * Degree); break;
            case "ELLIPSE": Ellipse(e, at); break;
            case "SPLINE": Spline(e, at); break;
            case "TEXT" or "ATTRIB": Text(e, at); break;
            case "MTEXT": MText(e, at); break;
            case "POINT": Dot(Flat(at.Map, e.Point(10))); break;
            case "SOLID" or "TRACE": Corners(e, Ocs(e, at), 12, 11, fill: true); break;
            case "3DFACE": Corners(e, at.Map, 11, 12, fill: false); break;
            case "HATCH": Hatch(e, at); break;
            case "LEADER": Leader(e, at); break;
            default: Skip(e.Type, "Froe does not draw this type of entity yet"); break;
        }
    }

    // ---- what an entity looks like ----

    private void Begin(Record e, in Placement at)
    {
        var layer = -1;
        int? colour = null, trueColour = null;
        var weight = -1;
        var scale = 1.0;
        ReadOnlySpan<byte> lineType = default;
        ulong handle = 0;
        for (var i = 0; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 5: ulong.TryParse(e.Text(i).Trim(" \t"u8), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out handle); break;
                case 6: lineType = e.Text(i).Trim(" \t"u8); break;
                case 8: layer = LayerOf(e.Text(i).Trim(" \t"u8)); break;
                case 48: scale = e.Number(i); break;
                case 62: colour = (int)e.Number(i); break;
                case 370: weight = (int)e.Number(i); break;
                case 420: trueColour = (int)e.Number(i) & 0xFFFFFF; break;
            }
        if (layer < 0) layer = tables.LayerOf("0");
        if (at.Layer >= 0 && tables.Layers[layer].Name == "0") layer = at.Layer;
        var own = tables.Layers[layer];
        var rgb = trueColour ?? (colour is null or 256 ? own.Rgb : colour == 0 ? at.Rgb : PaperInk.FromColourNumber(Math.Abs(colour.Value)));
        if (weight == -1) weight = own.Weight;
        if (weight == -2) weight = at.Weight;
        if (weight < 0) weight = 25;
        var pattern = lineType.IsEmpty || Ascii.EqualsIgnoreCase(lineType, "BYLAYER") ? own.LineType
            : Ascii.EqualsIgnoreCase(lineType, "BYBLOCK") ? at.LineType
            : text.Decode(lineType);
        Look = new EntityLook(handle, layer, rgb, Math.Min(weight, 500), Dashes(pattern, scale, at), e.Type);
        Pattern = pattern;
        builder.Begin(Look);
    }

    private EntityLook Look { get; set; }

    private string Pattern { get; set; } = "";

    private (string LineType, double[] Dashes) lastDashes = ("", []);

    private double[] Dashes(string lineType, double scale, in Placement at)
    {
        // Line types come in runs, and most lines have none.
        if (!ReferenceEquals(lineType, lastDashes.LineType)) lastDashes = (lineType, lineType.Length == 0 ? [] : tables.Dashes(lineType));
        if (lastDashes.Dashes.Length == 0) return [];
        var whole = scale * tables.LineTypeScale * ScaleOf(at.Map);
        return whole > 0 ? Array.ConvertAll(lastDashes.Dashes, d => d * whole) : [];
    }

    /// <summary>Index of a layer by the bytes of its name. Names come back by the million, so no string is made of one seen before.</summary>
    private int LayerOf(ReadOnlySpan<byte> name)
    {
        var hash = 14695981039346656037UL;
        foreach (var b in name) hash = (hash ^ b) * 1099511628211UL;
        ref var slot = ref layerSlots[(int)((hash ^ (hash >> 32)) & 255)];
        if (slot.Name is not null && name.SequenceEqual(slot.Name)) return slot.Layer;
        slot = (name.ToArray(), tables.LayerOf(text.Decode(name)));
        return slot.Layer;
    }

    // ---- insertions ----

    private void Insert(Record e, in Placement at)
    {
        Begin(e, at);
        var inherited = new Placement(default, Look.Layer, Look.Rgb, Look.Weight, Pattern, at.Depth + 1);
        foreach (var attribute in e.Parts ?? [])
            if ((attribute.GetInt(70) & 1) == 0) Draw(attribute, at);
        var name = text.Decode(e.GetText(2));
        if (!tables.Blocks.TryGetValue(name, out var block))
        {
            Skip("INSERT", $"its block “{name}” is not in the file");
            return;
        }
        if (at.Depth >= limits.MostDepth) throw new DxfFormatException(e.Line, $"Blocks are nested more than {limits.MostDepth} deep; block “{name}” may contain itself. Remove the loop and export again.");
        int columns = Math.Max(1, e.GetInt(70, 1)), rows = Math.Max(1, e.GetInt(71, 1));
        if ((long)columns * rows > limits.MostInserts - inserts) throw TooMany(e, name);
        double wide = e.Get(44), high = e.Get(45);
        var (sin, cos) = Math.SinCos(e.Get(50) * Degree);
        var scale = new Point3(e.Get(41, 1), e.Get(42, 1), e.Get(43, 1));
        var ocs = Ocs(e, at);
        var origin = e.Point(10);
        for (var row = 0; row < rows; row++)
            for (var column = 0; column < columns; column++)
            {
                if (++inserts > limits.MostInserts) throw TooMany(e, name);
                double dx = column * wide, dy = row * high;
                var place = new Affine(
                    new(cos * scale.X, sin * scale.X, 0), new(-sin * scale.Y, cos * scale.Y, 0), new(0, 0, scale.Z),
                    new(origin.X + (cos * dx) - (sin * dy), origin.Y + (sin * dx) + (cos * dy), origin.Z));
                var map = ocs.After(place);
                var inside = inherited with { Map = map with { O = map.O - map.ApplyVector(block.Base) } };
                foreach (var entity in block.Entities) Draw(entity, inside);
            }
    }

    private DxfFormatException TooMany(Record e, string name) =>
        new(e.Line, $"Block insertions multiply to more than {limits.MostInserts:N0} (at “{name}”). Explode or remove the repeated blocks and export again.");

    /// <summary>An entity that carries its own picture as a block.</summary>
    private void Picture(Record e, in Placement at)
    {
        var name = text.Decode(e.GetText(2));
        if (!tables.Blocks.TryGetValue(name, out var block))
        {
            Skip(e.Type, "the file holds no picture of it");
            return;
        }
        if (at.Depth >= limits.MostDepth || ++inserts > limits.MostInserts) throw TooMany(e, name);
        Begin(e, at);
        var inside = new Placement(at.Map, Look.Layer, Look.Rgb, Look.Weight, Pattern, at.Depth + 1);
        foreach (var entity in block.Entities) Draw(entity, inside);
    }

    /// <summary>A rectangular view of the model on a paper sheet, seen from above.</summary>
    private void DrawView(SheetBuilder paper, Record v)
    {
        builder = paper;
        double width = v.Get(40), height = v.Get(41), viewHeight = v.Get(45);
        var k = height / viewHeight;
        if (!(k > 0) || !double.IsFinite(k)) return;
        if (Math.Abs(v.Get(16)) > 1e-6 || Math.Abs(v.Get(26)) > 1e-6)
        {
            Skip("VIEWPORT", "it looks at the model from the side; views from above are drawn");
            return;
        }
        var centre = v.Point(10);
        double viewX = v.Get(12) + v.Get(17), viewY = v.Get(22) + v.Get(27);
        var (sin, cos) = Math.SinCos(v.Get(51) * Degree);
        paper.View(
            model,
            p =>
            {
                double x = p.X - viewX, y = p.Y - viewY;
                return new(centre.X + (k * ((cos * x) - (sin * y))), centre.Y + (k * ((sin * x) + (cos * y))));
            },
            new Extents(centre.X - (width / 2), centre.Y - (height / 2), centre.X + (width / 2), centre.Y + (height / 2)));
    }

    // ---- maps ----

    /// <summary>From the entity's own coordinates (its extrusion) to the world.</summary>
    private static Affine Ocs(Record e, in Placement at) =>
        e.Has(210) ? at.Map.After(Affine.FromExtrusion(new(e.Get(210), e.Get(220), e.Get(230, 1)))) : at.Map;

    private static PointXY Flat(in Affine map, Point3 p)
    {
        var q = map.Apply(p);
        return new(q.X, q.Y);
    }

    private static PointXY FlatVector(in Affine map, Point3 v)
    {
        var q = map.ApplyVector(v);
        return new(q.X, q.Y);
    }

    private static double ScaleOf(in Affine map) => Math.Sqrt(Math.Abs((map.X.X * map.Y.Y) - (map.X.Y * map.Y.X)));
}
