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

    /// <summary>Bit of a viewport's status (group 90): it is off.</summary>
    private const int ViewportOff = 0x20000;
    private static readonly Placement Top = new(Affine.Identity, -1, PaperInk.FromColourNumber(7), 25, "CONTINUOUS", 0);

    private readonly SheetBuilder model = new(limits.MostSegments) { Tolerance = tolerance, KeepsPatterns = tables.PatternsOnPaper };
    private readonly Dictionary<string, SheetBuilder> papers = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<(string, string), int> notShown = [];
    private readonly List<(SheetBuilder Paper, Record Viewport, int At)> viewports = [];
    private readonly List<(string Name, SheetBuilder Builder, LengthUnit Unit)> sheets = [];
    private readonly List<PointXY> points = [];
    private SheetBuilder builder = null!;
    private readonly (byte[]? Name, int Layer)[] layerSlots = new (byte[]?, int)[256];
    private (byte[]? Name, int Layer) lastLayer;
    private int inserts;

    /// <summary>Draws an entity of the ENTITIES section on the sheet it belongs to.</summary>
    public void Draw(Record entity)
    {
        builder = entity.GetInt(67) == 1 ? Paper("*Paper_Space") : model;
        DrawWhole(entity);
    }

    /// <summary>Draws an entity of a sheet; whatever it is made of is one thing in the order of drawing.</summary>
    private void DrawWhole(Record entity)
    {
        var (sheet, from) = (builder, builder.EntityCount);
        Draw(entity, Top);
        if (sheet.EntityCount - from > 1) sheet.Join(from, Handle(entity), from);
    }

    private static ulong Handle(Record e) => ulong.TryParse(e.GetText(5), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var handle) ? handle : 0;

    /// <summary>Whether anything hides what was drawn before it.</summary>
    public bool HasMasks => model.HasMasks || papers.Values.Any(p => p.HasMasks) || tables.Blocks.Values.Any(b => b.Name.StartsWith("*Paper_Space", StringComparison.OrdinalIgnoreCase) && b.Entities.Count > 0);

    /// <summary>Draws the paper sheets kept as blocks, then the views of the model on them.</summary>
    /// <param name="layouts">The layouts by their blocks.</param>
    /// <param name="pictures">File names of pictures by the handles of their definitions.</param>
    /// <param name="orders">By block, the handles that entities are drawn in the order of, by their own.</param>
    public void Finish(IReadOnlyDictionary<string, Layout> layouts, IReadOnlyDictionary<string, string> pictures, IReadOnlyDictionary<string, Dictionary<ulong, ulong>> orders)
    {
        foreach (var block in tables.Blocks.Values.Where(b => b.Name.StartsWith("*Paper_Space", StringComparison.OrdinalIgnoreCase) && b.Entities.Count > 0).ToList())
        {
            builder = Paper(block.Name);
            foreach (var entity in block.Entities) DrawWhole(entity);
        }
        NamePictures(pictures);
        DrawEndless();
        // What is hidden in the model is hidden in every view of it.
        model.HideMasked(orders.GetValueOrDefault("*Model_Space"));
        DrawViews();
        foreach (var (block, paper) in papers) paper.HideMasked(orders.GetValueOrDefault(block));
        // Drawn as large as it is, unless it is a sheet of paper itself: that, its words must tell.
        if (LengthUnits.MillimetresIn(unit) is { } whole && Zones.Grid(model.Extents, unit) is null) model.Scale(new SheetScale(whole));
        if (model.SegmentCount > 0 || papers.Count == 0) sheets.Add(("Model", model, unit));
        foreach (var (block, paper) in papers.OrderBy(p => layouts.TryGetValue(p.Key, out var l) ? l.Tab : int.MaxValue))
            if (!paper.Extents.IsEmpty) sheets.Add(layouts.TryGetValue(block, out var layout) ? (layout.Name, paper, layout.Unit ?? unit) : ("Paper", paper, unit));
        if (sheets.Count == 0) sheets.Add(("Model", model, unit));
        // A paper sheet that shows the model is the drawing; the bare model comes after it.
        if (viewports.Count > 0 && sheets[0].Builder == model)
        {
            sheets.Add(sheets[0]);
            sheets.RemoveAt(0);
        }
    }

    public List<Sheet> Sheets()
    {
        var layers = tables.Layers.Select(l => new Layer(l.Name, l.IsOn, PaperInk.OnPaper(l.Rgb))).ToList();
        return [.. sheets.Select(s => s.Builder.Build(s.Name, s.Unit, layers))];
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
        // LINE comes first: in large drawings nearly everything is one.
        var isLine = e.Type == "LINE";
        // Since 2018 texts carry an object of their own behind theirs, whose groups mean other things (DXF reference, “Embedded Object”).
        if (!isLine && e.Type is "MTEXT" or "ATTRIB" or "ATTDEF") e.EndAtObject();
        if (e.GetInt(60) == 1) return;
        if (isLine)
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
            case "DIMENSION" or "ACAD_TABLE" or "ARC_DIMENSION" or "LARGE_RADIAL_DIMENSION": Picture(e, at); return;
            case "VIEWPORT":
                // The first viewport of a sheet is the sheet itself (its id is 1); one of no id, or switched off, shows nothing. The model has none: it would show itself.
                if (at.Depth == 0 && builder != model && e.GetInt(69, 2) is not (0 or 1) && e.GetInt(68, 1) != 0 && (e.GetInt(90) & ViewportOff) == 0 && (e.Has(45) ? e.Get(45) > 0 : HasOldView(e)) && viewports.Count < 500) viewports.Add((builder, e.Copy(), builder.EntityCount));
                return;
            // In a block a definition of an attribute is a place to be filled in, unless it is constant; loose it shows its name.
            case "ATTDEF" when at.Depth > 0 && (e.GetInt(70) & 2) == 0: return;
            case "SEQEND" or "VERTEX": return;
        }
        Begin(e, at);
        switch (e.Type)
        {
            case "LWPOLYLINE": LwPolyline(e, at); break;
            case "POLYLINE": Polyline(e, at); break;
            case "CIRCLE": Arc(e, at, 0, 2 * Math.PI); break;
            case "ARC": Arc(e, at, e.Get(50) * Degree, e.Get(51) * Degree); break;
            case "ELLIPSE": Ellipse(e, at); break;
            case "SPLINE" or "HELIX": Spline(e, at); break;
            case "TEXT" or "ATTRIB" or "ATTDEF": Text(e, at); break;
            case "MTEXT": MText(e, at); break;
            case "POINT": Dot(Flat(at.Map, e.Point(10)), ScaleOf(at.Map)); break;
            case "SOLID" or "TRACE": Corners(e, Ocs(e, at), 12, 11, fill: true); break;
            case "3DFACE": Corners(e, at.Map, 11, 12, fill: false); break;
            case "HATCH": Hatch(e, at); break;
            case "LEADER": Leader(e, at); break;
            case "MULTILEADER" or "MLEADER": MultiLeader(e, at); break;
            case "TOLERANCE": Tolerance(e, at); break;
            case "XLINE" or "RAY": WithoutEnd(e, at, e.Type == "RAY"); break;
            case "MLINE": MultiLine(e, at); break;
            case "MESH": MeshCage(e, at); break;
            case "IMAGE": ImageFrame(e, at); break;
            case "WIPEOUT": Wipeout(e, at); break;
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
                case 5: ulong.TryParse(e.Word(i), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out handle); break;
                case 6: lineType = e.Word(i); break;
                case 8: layer = LayerOf(e.Word(i)); break;
                case 48: scale = e.Number(i); break;
                case 62: colour = (int)Math.Clamp(e.Number(i), -256, 256); break;
                case 370: weight = (int)Math.Clamp(e.Number(i), -3, 500); break;
                case 420: trueColour = (int)(long)Math.Clamp(e.Number(i), int.MinValue, uint.MaxValue) & 0xFFFFFF; break;
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
        Look = new EntityLook(handle, layer, rgb, Math.Min(weight, 500), Dashes(pattern, scale, at), e.Type, e.Type == "HATCH" && e.GetInt(70) == 1);
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
        if (lastLayer.Name is not null && name.SequenceEqual(lastLayer.Name)) return lastLayer.Layer;
        var hash = 14695981039346656037UL;
        foreach (var b in name) hash = (hash ^ b) * 1099511628211UL;
        ref var slot = ref layerSlots[(int)((hash ^ (hash >> 32)) & 255)];
        if (slot.Name is null || !name.SequenceEqual(slot.Name)) slot = (name.ToArray(), tables.LayerOf(text.Decode(name)));
        lastLayer = slot;
        return slot.Layer;
    }

    // ---- insertions ----

    private void Insert(Record e, in Placement at)
    {
        Begin(e, at);
        if (tables.Layers[Look.Layer].IsFrozen)
        {
            // What is in the block may lie on layers that are shown: it goes with its insertion all the same.
            Skip("INSERT", "its layer is frozen, which hides all of the block");
            return;
        }
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
        if (!tables.Blocks.TryGetValue(name, out var block) || (block.Entities.Count == 0 && e.Type == "DIMENSION"))
        {
            if (e.Type == "DIMENSION") Dimension(e, at);
            else Skip(e.Type, "the file holds no picture of it");
            return;
        }
        if (at.Depth >= limits.MostDepth || ++inserts > limits.MostInserts) throw TooMany(e, name);
        Begin(e, at);
        var map = at.Map;
        if (e.Type == "ACAD_TABLE")
        {
            // The picture of a table lies at the origin, along x; the table stands where it says.
            var along = (e.Has(11) ? e.Point(11) : new Point3(1, 0, 0)).Unit();
            var normal = new Point3(e.Get(210), e.Get(220), e.Get(230, 1)).Unit();
            map = map.After(new Affine(along, Point3.Cross(normal, along), normal, e.Point(10) - block.Base));
        }
        var inside = new Placement(map, Look.Layer, Look.Rgb, Look.Weight, Pattern, at.Depth + 1);
        foreach (var entity in block.Entities) Draw(entity, inside);
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
