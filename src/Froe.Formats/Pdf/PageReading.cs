using Froe.Core.Draft;
using Froe.Core.Drawing;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Geometry;
using UglyToad.PdfPig.Graphics.Operations;
using UglyToad.PdfPig.Outline.Destinations;
using UglyToad.PdfPig.Parser;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>What a page's operators draw, as far as it goes into strokes, fills and words; millimetres of paper from the lower left corner of the page as it is shown.</summary>
/// <param name="Sheet">The geometry.</param>
/// <param name="Words">All that is written, also what is not to be seen.</param>
/// <param name="PictureOnly">What only the picture shows, counted by kind.</param>
/// <param name="Covering">The picture that covers most of it, the finest where there are several; null where none does.</param>
/// <param name="HasFields">Whether fields of a form lie on it.</param>
/// <param name="Points">Of all pictures on it together, as far as they say.</param>
internal sealed record ReadPage(Sheet Sheet, IReadOnlyList<WrittenRun> Words, IReadOnlyDictionary<string, int> PictureOnly, CoveringPicture? Covering, bool HasFields, long Points)
{
    /// <summary>What <see cref="PictureOnly"/> counts pictures as.</summary>
    public const string Image = "image";
}

/// <summary>A picture of points on a page.</summary>
/// <param name="Across">How wide one of its pixels is on the page as it is shown, in millimetres of paper.</param>
/// <param name="Down">How high.</param>
/// <param name="IsLine">Whether it has two colours only.</param>
/// <param name="IsFinest">Whether no other picture on the page is finer.</param>
internal readonly record struct CoveringPicture(double Across, double Down, bool IsLine, bool IsFinest)
{
    /// <summary>The longer side of a pixel.</summary>
    public double Pixel => Math.Max(Across, Down);
}

/// <summary>Hands a page's operators to a <see cref="PageProcessor"/>.</summary>
internal sealed class PageReading(IPdfTokenScanner scanner, IResourceStore resources, ILookupFilterProvider filters, IPageContentParser parser, ParsingOptions options)
    : BasePageFactory<ReadPage>(scanner, resources, filters, parser, options)
{
    /// <inheritdoc/>
    protected override ReadPage ProcessPage(
        int pageNumber, DictionaryToken dictionary, NamedDestinations namedDestinations, MediaBox mediaBox, CropBox cropBox, UserSpaceUnit userSpaceUnit,
        PageRotationDegrees rotation, TransformationMatrix initialMatrix, IReadOnlyList<IGraphicsStateOperation> operations)
    {
        var bounds = ((PageOptions)ParsingOptions).Bounds ?? throw new InvalidOperationException("No bounds were set for the page.");
        var processor = new PageProcessor(pageNumber, ResourceStore, PdfScanner, PageContentParser, FilterProvider, cropBox, userSpaceUnit, rotation, initialMatrix, ParsingOptions, bounds)
        {
            Fields = [.. bounds.Fields.On(dictionary, PdfScanner)],
        };
        return processor.Process(pageNumber, operations);
    }
}

/// <summary>Gives what is known of a page without looking at what it draws.</summary>
internal sealed class PageBasicsReading(IPdfTokenScanner scanner, IResourceStore resources, ILookupFilterProvider filters, IPageContentParser parser, ParsingOptions options)
    : BasePageFactory<PageBasics>(scanner, resources, filters, parser, options), IPageFactory<PageBasics>
{
    private static readonly NameToken Annotations = NameToken.Create("Annots");

    /// <inheritdoc/>
    PageBasics IPageFactory<PageBasics>.Create(int number, DictionaryToken dictionary, PageTreeMembers pageTreeMembers, NamedDestinations annotationProvider)
    {
        var unit = ShownPage.UnitOf(dictionary, PdfScanner);
        var box = GetCropBox(dictionary, pageTreeMembers, GetMediaBox(number, dictionary, pageTreeMembers)).Bounds;
        var shown = ShownPage.Of(box, dictionary, pageTreeMembers, unit, PdfScanner);
        var marks = dictionary.TryGet(Annotations, PdfScanner, out ArrayToken? listed) ? listed : null;
        return new PageBasics(
            shown, unit, marks is null ? [] : PageMarks.Read(marks, shown, PdfScanner), PageMeasures.Read(dictionary, shown, PdfScanner), marks is null ? [] : CarriedParts.On(marks, PdfScanner));
    }

    /// <inheritdoc/>
    protected override PageBasics ProcessPage(
        int pageNumber, DictionaryToken dictionary, NamedDestinations namedDestinations, MediaBox mediaBox, CropBox cropBox, UserSpaceUnit userSpaceUnit,
        PageRotationDegrees rotation, TransformationMatrix initialMatrix, IReadOnlyList<IGraphicsStateOperation> operations) => throw new NotSupportedException();
}

/// <summary>What is known of a page without looking at what it draws.</summary>
/// <param name="Shown">How it lies on paper.</param>
/// <param name="UserUnit">How many 1/72 inch a unit of it is (14.11.2); 1 unless stated.</param>
/// <param name="Marks">What lay on it when it came.</param>
/// <param name="Scales">How large things are on it, where the file says so.</param>
/// <param name="Carried">What lies on it that is not shown.</param>
internal sealed record PageBasics(ShownPage Shown, double UserUnit, IReadOnlyList<FileMark> Marks, IReadOnlyList<SheetScale> Scales, IReadOnlyList<NotShown> Carried);

/// <summary>How a page's user space lies on paper: cut to its crop box, turned clockwise by quarters, y up.</summary>
internal readonly record struct ShownPage(double Left, double Bottom, double Width, double Height, int Quarters, double Millimetres)
{
    private static readonly NameToken UserUnit = NameToken.Create("UserUnit");

    /// <summary>How many 1/72 inch a unit of a page is (14.11.2).</summary>
    public static double UnitOf(DictionaryToken page, IPdfTokenScanner scanner) => page.TryGet(UserUnit, scanner, out NumericToken? stated) && stated!.Double is > 0 and <= 1000 ? stated.Double : 1;

    /// <summary>How a page lies.</summary>
    /// <param name="box">Its crop box.</param>
    /// <param name="page">Its dictionary.</param>
    /// <param name="inherited">What it has from the tree of pages.</param>
    /// <param name="unit">Its unit (<see cref="UnitOf"/>).</param>
    /// <param name="scanner">Finds what is referred to.</param>
    public static ShownPage Of(PdfRectangle box, DictionaryToken page, PageTreeMembers inherited, double unit, IPdfTokenScanner scanner)
    {
        var turn = page.TryGet(NameToken.Rotate, scanner, out NumericToken? rotate) ? rotate!.Int : inherited.Rotation;
        return new ShownPage(box.Left, box.Bottom, box.Width, box.Height, ((turn % 360) + 360) % 360 / 90, PageBounds.Point * unit);
    }

    /// <summary>A point of user space in millimetres of paper.</summary>
    public PointXY Paper(double x, double y)
    {
        double right = x - Left, up = y - Bottom;
        var (u, v) = Quarters switch { 1 => (up, Width - right), 2 => (Width - right, Height - up), 3 => (Height - up, right), _ => (right, up) };
        return new(u * Millimetres, v * Millimetres);
    }

    /// <summary>A point of paper, in millimetres, in user space.</summary>
    public PointXY User(PointXY paper)
    {
        double u = paper.X / Millimetres, v = paper.Y / Millimetres;
        var (right, up) = Quarters switch { 1 => (Width - v, u), 2 => (Width - u, Height - v), 3 => (v, Height - u), _ => (u, v) };
        return new(Left + right, Bottom + up);
    }
}

/// <summary>The second reader's options, which go to whatever reads a page.</summary>
internal sealed class PageOptions : ParsingOptions
{
    /// <summary>Of the page that is to be read next.</summary>
    public PageBounds? Bounds { get; set; }
}

/// <summary>What one page may take, and how large its unit is.</summary>
/// <param name="MostSegments">Strokes and triangles.</param>
/// <param name="MostForms">Forms drawn, those in forms counted again.</param>
/// <param name="Until">When to give up.</param>
/// <param name="Millimetres">In a unit of the page (ISO 32000-2, 14.11.2: 1/72 inch × UserUnit).</param>
/// <param name="Layers">The document's layers by name, which pages count in.</param>
/// <param name="Fields">The document's form.</param>
internal sealed record PageBounds(int MostSegments, int MostForms, DateTime Until, double Millimetres, PageLayers Layers, PageFields Fields)
{
    /// <summary>Millimetres in a point.</summary>
    public const double Point = 25.4 / 72;
}
