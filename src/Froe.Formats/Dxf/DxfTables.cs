using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>A block: entities that are drawn wherever the block is inserted.</summary>
internal sealed record Block(string Name, Point3 Base, List<Record> Entities);

/// <summary>A layout.</summary>
/// <param name="Name">What its tab says.</param>
/// <param name="Tab">Its place among the tabs.</param>
/// <param name="Unit">The unit of its coordinates; null where the file does not say.</param>
internal sealed record Layout(string Name, int Tab, LengthUnit? Unit);

/// <summary>A style of texts.</summary>
/// <param name="HasSigns">Whether its font holds signs for form and position instead of letters.</param>
/// <param name="IsVertical">Whether letters stand one below the other.</param>
internal readonly record struct TextStyle(bool HasSigns, bool IsVertical);

/// <summary>Layers, line types and blocks of a drawing.</summary>
internal sealed class DxfTables
{
    private readonly Dictionary<string, int> layerIndex = new(StringComparer.OrdinalIgnoreCase);
    private readonly List<LayerEntry> layers = [];

    public Dictionary<string, Block> Blocks { get; } = new(StringComparer.OrdinalIgnoreCase);

    public Dictionary<string, string> BlockOfHandle { get; } = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Index of each layer by its handle.</summary>
    public Dictionary<string, int> LayerOfHandle { get; } = new(StringComparer.OrdinalIgnoreCase);

    public double LineTypeScale { get; set; } = 1;

    /// <summary>Whether a view's dashes are as long on the paper as their line types say ($PSLTSCALE), whatever its scale; so unless the file says otherwise.</summary>
    public bool PatternsOnPaper { get; set; } = true;

    /// <summary>How points look ($PDMODE): 0 a dot, 1 nothing, 2 a cross, 3 a diagonal cross, 4 a tick; 32 in a circle, 64 in a square.</summary>
    public int PointMode { get; set; }

    /// <summary>How large ($PDSIZE), in the drawing's units when above 0.</summary>
    public double PointSize { get; set; }

    private readonly Dictionary<string, TextStyle> styles = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, Record> dimensionStyles = new(StringComparer.OrdinalIgnoreCase);

    private Dictionary<string, double[]> LineTypes { get; } = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>A layer as the table gives it: colour 0xRRGGBB, weight in hundredths of a millimetre.</summary>
    /// <param name="IsFrozen">Whether it hides insertions on it with all that is in their blocks.</param>
    /// <param name="Covers">How much of what is beneath its areas they cover, 255 for all.</param>
    public readonly record struct LayerEntry(string Name, bool IsOn, int Rgb, string LineType, int Weight, bool IsFrozen = false, int Covers = 255);

    public IReadOnlyList<LayerEntry> Layers => layers;

    public void Add(Record entry, DxfText text)
    {
        switch (entry.Type)
        {
            case "LAYER":
                var colour = entry.GetInt(62, 7);
                var rgb = entry.Has(420) && !IsContrast(Math.Abs(colour), entry.GetInt(420)) ? entry.GetInt(420) & 0xFFFFFF : PaperInk.FromColourNumber(Math.Abs(colour));
                var name = text.Decode(entry.GetText(2));
                var isFrozen = (entry.GetInt(70) & 1) != 0;
                // What is not to be plotted is for whoever draws, not for paper.
                var isPlotted = entry.GetInt(290, 1) != 0 && !name.Equals("Defpoints", StringComparison.OrdinalIgnoreCase);
                var index = Put(new LayerEntry(name, colour >= 0 && !isFrozen && isPlotted, rgb, text.Decode(entry.GetText(6)), entry.GetInt(370, -3), isFrozen, CoversOf(entry)));
                if (entry.Has(5)) LayerOfHandle[System.Text.Encoding.ASCII.GetString(entry.GetText(5))] = index;
                break;
            case "LTYPE":
                var dashes = new List<double>();
                for (var i = 0; i < entry.Count; i++)
                    if (entry.Code(i) == 49) dashes.Add(entry.Number(i));
                LineTypes[text.Decode(entry.GetText(2))] = [.. dashes];
                break;
            case "STYLE":
                styles[text.Decode(entry.GetText(2))] = new TextStyle(
                    ToleranceSigns.Are(text.Decode(entry.GetText(3))), (entry.GetInt(70) & 4) != 0);
                break;
            case "DIMSTYLE":
                dimensionStyles[text.Decode(entry.GetText(2))] = entry.Copy();
                break;
            case "BLOCK_RECORD":
                BlockOfHandle[System.Text.Encoding.ASCII.GetString(entry.GetText(5))] = text.Decode(entry.GetText(2));
                break;
        }
    }

    /// <summary>How much a layer covers, which its application data says.</summary>
    private static int CoversOf(Record layer)
    {
        var isTransparency = false;
        for (var i = 0; i < layer.Count; i++)
            if (layer.Code(i) == 1001) isTransparency = layer.Word(i).SequenceEqual("AcCmTransparency"u8);
            else if (layer.Code(i) == 1071 && isTransparency) return (int)(long)Math.Clamp(layer.Number(i), 0, uint.MaxValue) & 255;
        return 255;
    }

    /// <summary>
    /// Whether a layer's white is meant as what stands out: its colour 7 does, on white as on black, and some programs write white beside it.
    /// A single thing that says so is white; but nobody makes a layer on which nothing is to be seen.
    /// </summary>
    private static bool IsContrast(int number, int trueColour) => number == 7 && (trueColour & 0xFFFFFF) == 0xFFFFFF;

    /// <summary>The style of a text (group 7).</summary>
    public TextStyle StyleOf(Record entity, DxfText text) =>
        styles.Count > 0 && styles.TryGetValue(entity.Has(7) ? text.Decode(entity.GetText(7)) : "STANDARD", out var style) ? style : default;

    /// <summary>The style of a dimension, a leader or a tolerance (group 3).</summary>
    public DimensionStyle DimensionStyleOf(Record entity, DxfText text) =>
        DimensionStyle.Of(dimensionStyles.GetValueOrDefault(entity.Has(3) ? text.Decode(entity.GetText(3)) : "STANDARD"), entity, text);

    /// <summary>Index of a layer, made when an entity names one that the table lacks.</summary>
    public int LayerOf(string name) =>
        layerIndex.TryGetValue(name, out var index) ? index : Put(new LayerEntry(name, !name.Equals("Defpoints", StringComparison.OrdinalIgnoreCase), PaperInk.FromColourNumber(7), "", -3));

    public double[] Dashes(string lineType) => LineTypes.TryGetValue(lineType, out var dashes) ? dashes : [];

    private int Put(LayerEntry layer)
    {
        if (layers.Count >= 32_000) throw new SheetTooLargeException("The drawing has more than 32,000 layers.");
        if (layerIndex.TryGetValue(layer.Name, out var known))
        {
            layers[known] = layer;
            return known;
        }
        layers.Add(layer);
        layerIndex[layer.Name] = layers.Count - 1;
        return layers.Count - 1;
    }
}
