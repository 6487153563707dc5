using Froe.Core.Drawing;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Geometry;
using UglyToad.PdfPig.Graphics;
using UglyToad.PdfPig.Graphics.Colors;
using UglyToad.PdfPig.Graphics.Operations;
using UglyToad.PdfPig.Parser;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>
/// Follows a page's operators (ISO 32000-2, 8 and 9) and feeds what they paint to a <see cref="SheetBuilder"/>. Painter's order, masks,
/// blending and patterns do not go into strokes: what does not fit is counted, and the picture shows it.
/// </summary>
internal sealed partial class PageProcessor : BaseStreamProcessor<ReadPage>
{
    private readonly SheetBuilder sheet;
    private readonly PageBounds bounds;
    private readonly Dictionary<string, int> pictureOnly = [];
    private readonly Stack<int> layers = new([0]);
    private ulong painted;
    private int forms;

    public PageProcessor(
        int page, IResourceStore resources, IPdfTokenScanner scanner, IPageContentParser parser, ILookupFilterProvider filters, CropBox crop, UserSpaceUnit unit,
        PageRotationDegrees rotation, TransformationMatrix initial, ParsingOptions options, PageBounds bounds)
        : base(page, resources, scanner, parser, filters, crop, unit, rotation, in initial, options)
    {
        this.bounds = bounds;
        var (width, height) = rotation.SwapsAxis ? (crop.Bounds.Height, crop.Bounds.Width) : (crop.Bounds.Width, crop.Bounds.Height);
        // An hour's walk long: no page is, and numbers beyond would reach into what is drawn.
        if (!(Math.Abs(width * bounds.Millimetres) < 4e6 && Math.Abs(height * bounds.Millimetres) < 4e6)) throw new InvalidDataException("its size is that of no page");
        paper = new Extents(0, 0, width * bounds.Millimetres, height * bounds.Millimetres);
        clip = paper;
        sheet = new SheetBuilder(bounds.MostSegments) { Tolerance = 0.01, KeepsInk = true };
    }

    private readonly Extents paper;

    /// <summary>The share of a page from which on a picture on it is what the page shows.</summary>
    private const double MostOfAPage = 0.4;

    private CoveringPicture? covering;

    /// <summary>Of all pictures together.</summary>
    private long points;

    /// <summary>The shortest side of a pixel of any picture on the page, in millimetres of paper; nought where that is not known of one.</summary>
    private double finest = double.PositiveInfinity;

    /// <inheritdoc/>
    public override ReadPage Process(int pageNumberCurrent, IReadOnlyList<IGraphicsStateOperation> operations)
    {
        var initial = CurrentTransformationMatrix;
        PushState();
        ProcessOperations(operations);
        EndRun();
        foreach (var field in Fields) Draw(field, initial);
        return new ReadPage(sheet.Build($"Page {pageNumberCurrent}", LengthUnit.Millimetre, bounds.Layers.All, paper), words, pictureOnly, covering is { } most ? most with { IsFinest = Math.Min(most.Across, most.Down) <= finest * 1.001 } : null, Fields.Count > 0, points);
    }

    /// <summary>The fields of a form that lie on the page.</summary>
    public IReadOnlyList<PageField> Fields { get; init; } = [];

    /// <summary>What stands in a field is drawn over the page, whatever state that was left in.</summary>
    private void Draw(PageField field, TransformationMatrix initial)
    {
        while (StackSize > 1) PopState();
        while (layers.Count > 1) layers.Pop();
        clip = paper;
        PushState();
        GetCurrentState().CurrentTransformationMatrix = initial;
        if (bounds.Layers.Of(field.Layer, PdfScanner) is { } layer) layers.Push(layer);
        if (field.Appearance is null)
        {
            WriteValue(field);
            return;
        }
        GetCurrentState().CurrentTransformationMatrix = field.Placed.Multiply(initial);
        if (bounds.Fields.Resources is { } shared) ResourceStore.LoadResourceDictionary(shared);
        try
        {
            ProcessFormXObject(field.Appearance, NameToken.Create("Field"));
            EndRun();
        }
        catch (Exception e) when (e is not (TimeoutException or SheetTooLargeException))
        {
            // A field that is broken within keeps the page from nothing.
            written.Clear();
            OnlyInPicture("form field");
        }
        finally
        {
            if (bounds.Fields.Resources is not null) ResourceStore.UnloadResourceDictionary();
        }
    }

    private void OnlyInPicture(string what) => pictureOnly[what] = pictureOnly.GetValueOrDefault(what) + 1;

    /// <summary>Everything painted from here on looks so.</summary>
    private void Begin(IColor? colour, int weight, double[] dashes, string kind)
    {
        if (DateTime.UtcNow > bounds.Until) throw new TimeoutException();
        sheet.Begin(new EntityLook(++painted, layers.Peek(), Rgb(colour), weight, dashes, kind));
    }

    private PointXY At(double x, double y)
    {
        var p = CurrentTransformationMatrix.Transform(new PdfPoint(x, y));
        return new(p.X * bounds.Millimetres, p.Y * bounds.Millimetres);
    }

    /// <summary>Millimetres in a unit of the current space: the square root of what its area becomes (8.4.3.2 leaves unequal scales open).</summary>
    private double Scale()
    {
        var m = CurrentTransformationMatrix;
        return Math.Sqrt(Math.Abs((m.A * m.D) - (m.B * m.C))) * bounds.Millimetres;
    }

    private static int Rgb(IColor? colour)
    {
        // None set is black (8.6.4.2); a pattern stands in its place as a grey.
        if (colour is null) return 0;
        if (colour is PatternColor) return 0x808080;
        var (r, g, b) = colour.ToRGBValues();
        return (Byte(r) << 16) | (Byte(g) << 8) | Byte(b);

        static int Byte(double share) => double.IsFinite(share) ? (int)Math.Round(Math.Clamp(share, 0, 1) * 255) : 0;
    }

    /// <inheritdoc/>
    public override void BeginMarkedContent(NameToken name, NameToken? propertyDictionaryName, DictionaryToken? properties)
    {
        EndRun();
        var layer = layers.Peek();
        if (name.Data == "OC")
            layer = bounds.Layers.Of(properties ?? (propertyDictionaryName is null ? null : ResourceStore.GetMarkedContentPropertiesDictionary(propertyDictionaryName)), PdfScanner) ?? layer;
        layers.Push(layer);
    }

    /// <inheritdoc/>
    public override void EndMarkedContent()
    {
        EndRun();
        if (layers.Count > 1) layers.Pop();
    }

    /// <inheritdoc/>
    protected override void ProcessFormXObject(StreamToken formStream, NameToken xObjectName)
    {
        if (++forms > bounds.MostForms) throw new SheetTooLargeException($"The page draws more than {bounds.MostForms:N0} forms.");
        EndRun();
        var before = layers.Count;
        if (formStream.StreamDictionary.TryGet(NameToken.Create("OC"), PdfScanner, out DictionaryToken? group)) layers.Push(bounds.Layers.Of(group, PdfScanner) ?? layers.Peek());
        var states = clips.Count;
        clips.Push(clip);
        base.ProcessFormXObject(formStream, xObjectName);
        while (clips.Count > states) clip = clips.Pop();
        while (layers.Count > before) layers.Pop();
    }

    /// <inheritdoc/>
    protected override void RenderXObjectImage(XObjectContentRecord xObjectContentRecord)
    {
        Image();
        var told = xObjectContentRecord.Stream.StreamDictionary;
        var (width, height) = Points(told);
        // Its mask may be the finer of the two: text over a coarse background, as many scanners write it (8.9.6.3, 11.6.5.2).
        foreach (var name in (NameToken[])[NameToken.Smask, NameToken.Mask])
            if (told.TryGet(name, PdfScanner, out StreamToken? mask) && Points(mask!.StreamDictionary) is var (across, down))
                (width, height) = (Math.Max(width, across), Math.Max(height, down));
        if (width > 0 && height > 0 && (long)width * height <= PdfPages.MostPixels) points += (long)width * height;
        // A picture covers the unit square of its space (8.9.5).
        var m = CurrentTransformationMatrix;
        var (along, up) = (Math.Sqrt((m.A * m.A) + (m.B * m.B)) * bounds.Millimetres, Math.Sqrt((m.C * m.C) + (m.D * m.D)) * bounds.Millimetres);
        var (wide, high) = (along / width, up / height);
        // Nor is it known how fine what the state masks it with is.
        if (GetCurrentState().SoftMask is not null || width <= 0 || height <= 0 || !(Math.Min(wide, high) > 0) || !double.IsFinite(Math.Max(wide, high)))
        {
            finest = 0;
            return;
        }
        finest = Math.Min(finest, Math.Min(wide, high));
        if (!(along * up >= paper.Width * paper.Height * MostOfAPage) || Math.Max(wide, high) >= covering?.Pixel) return;
        // Scanned on its side, and turned upright by the page.
        if (Math.Abs(m.B) > Math.Abs(m.A)) (wide, high) = (high, wide);
        var isMask = told.TryGet(NameToken.ImageMask, PdfScanner, out BooleanToken? whole) && whole!.Data;
        covering = new CoveringPicture(wide, high, isMask || (told.TryGet(NameToken.BitsPerComponent, PdfScanner, out NumericToken? bits) && bits!.Int == 1), false);
    }

    /// <summary>How many points a picture has; none where it does not say.</summary>
    private (int Width, int Height) Points(DictionaryToken picture) =>
        picture.TryGet(NameToken.Width, PdfScanner, out NumericToken? width) && picture.TryGet(NameToken.Height, PdfScanner, out NumericToken? height) ? (width!.Int, height!.Int) : default;

    /// <inheritdoc/>
    protected override void RenderInlineImage(InlineImage inlineImage)
    {
        Image();
        finest = 0;
    }

    /// <inheritdoc/>
    public override void PaintShading(NameToken shadingName) => OnlyInPicture("shading");

    private void Image()
    {
        EndRun();
        OnlyInPicture(ReadPage.Image);
    }
}
