using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;
using UglyToad.PdfPig;

namespace Froe.Formats.Pdf;

/// <summary>
/// A document while its pages are read: the engine draws their pictures, a second reader gives their geometry, words and marks. Each may
/// fail over a page without the other; what failed is said.
/// </summary>
internal sealed partial class PdfPages
{
    private const long MostEngineMemory = 512L << 20, MostUnpacked = 1L << 30;
    private const int MostStream = 128 << 20, MostForms = 50_000, MostRestarts = 8, StackBytes = 64 << 20;
    private static readonly TimeSpan AllPicturesTime = TimeSpan.FromSeconds(50), AllGeometryTime = TimeSpan.FromSeconds(40);

    private readonly byte[] file;
    private readonly ReadLimits limits;
    private readonly SortedDictionary<string, (int Count, string Why)> notShown = [];
    private readonly SortedDictionary<string, int> pictureOnly = [];
    private readonly LeafReport?[] reports;
    private readonly SortedDictionary<string, int> entities = [];
    private readonly List<(double Width, double Height, string Label)> pages = [];
    private readonly Dictionary<int, PageBasics> basics = [];
    private readonly PageOptions options = new() { UseLenientParsing = true, SkipMissingFonts = true, ClipPaths = false, FilterProvider = new BoundedFilters(MostUnpacked, MostStream) };
    private PageEngine? engine;
    private PdfDocument? document;
    private PageLayers layers = new();
    private PageFields fields = new();
    private LayerSwitch? layerSwitch;
    private TimeSpan pictureTime, geometryTime;
    private (int Page, ReadPage? Read) last = (-1, null);
    private int restarts, segments;
    private readonly HashSet<int> looked = [];

    private PdfPages(byte[] file, ReadLimits limits, PageEngine engine)
    {
        this.file = file;
        this.limits = limits;
        this.engine = engine;
        for (var i = 0; i < engine.Pages; i++)
        {
            var (width, height) = engine.Size(i) ?? (0, 0);
            pages.Add((width, height, engine.Label(i)));
        }
        reports = new LeafReport?[pages.Count];
    }

    /// <summary>Opens a file; the fault instead when it cannot be.</summary>
    public static (PdfPages? Pages, ReadFault? Fault) Open(byte[] file, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        PageEngine? engine = null;
        try
        {
            engine = PageEngine.Start(MostEngineMemory, TimeSpan.FromSeconds(limits.PageSeconds));
            if (engine.Open(file) is { } why) return Failed(why);
            var count = engine.Pages;
            if (count == 0) return Failed("The file has no page.");
            if (count > limits.MostLeaves) return Failed($"The file has {count:N0} pages; Froe takes {limits.MostLeaves:N0} in one file. Split it.");
            var pages = new PdfPages(file, limits, engine);
            pages.OpenDocument();
            engine = null;
            return (pages, null);
        }
        catch (PageEngineException)
        {
            return Failed("The file is damaged: its pages could not be opened. Export it again, or open and save it with the program that made it.");
        }
        finally
        {
            engine?.Dispose();
        }

        static (PdfPages?, ReadFault?) Failed(string why) => (null, new ReadFault(null, why));
    }

    private TimeSpan PageTime => TimeSpan.FromSeconds(limits.PageSeconds);

    /// <summary>How many there are.</summary>
    public int Count => pages.Count;

    /// <summary>The version that the file states.</summary>
    public string Version { get; private set; } = "";

    /// <summary>Whether it was encrypted, without a password.</summary>
    public bool IsEncrypted => document?.IsEncrypted == true;

    /// <summary>The file's layers.</summary>
    public IReadOnlyList<PageLayer> Layers => layers.OfFile;

    /// <summary>What could not be shown.</summary>
    public IReadOnlyList<NotShown> NotShown => [.. notShown.Select(n => new NotShown(n.Key, n.Value.Count, n.Value.Why))];

    /// <summary>What only the pictures of pages show.</summary>
    public IReadOnlyList<NotShown> PictureOnly => [.. pictureOnly.Select(n => new NotShown(n.Key, n.Value, ""))];

    /// <summary>What was painted, by kind.</summary>
    public IReadOnlyDictionary<string, int> Entities => entities;

    /// <summary>A page as a leaf.</summary>
    public Leaf Leaf(int page) => new(page, Name(page), new SheetFrame(LengthUnit.Millimetre, Paper(page), Surface.Page, Basics(page).Scales is { Count: > 0 } scales ? scales : null));

    /// <summary>What was read of a page.</summary>
    public LeafReport Report(int page)
    {
        _ = Read(page);
        return reports[page]!;
    }

    /// <summary>What a page's operators draw; an empty sheet where that could not be read.</summary>
    public Sheet Geometry(int page) => Read(page)?.Sheet ?? Empty(page);

    /// <summary>What is told apart on a page at the least, in millimetres of paper: a pixel of the picture that it shows, or a step of its numbers; null where neither is known.</summary>
    public double? Fineness(int page) => Read(page) is { } read ? read.Covering?.Pixel ?? Core.Drawing.Fineness.Of(read.Sheet) : null;

    /// <summary>What is written on it.</summary>
    public IReadOnlyList<WrittenRun> Words(int page) => Read(page)?.Words ?? [];

    /// <summary>What the view needs besides.</summary>
    /// <param name="isDerived">Whether the document was made of another file.</param>
    public PageFacts Facts(int page, bool isDerived = false) => new(page, isDerived, Millimetres(page), layers.OfFile, layerSwitch, Basics(page).Marks);

    /// <summary>Its picture as WebP.</summary>
    /// <param name="longest">Pixels on the longer side.</param>
    /// <exception cref="UnreadableException">Nothing of the page can be shown; nobody should sign it.</exception>
    public byte[] Picture(int page, int longest)
    {
        var (width, height) = Pixels(page, longest);
        // A smaller one is made from the larger: to draw a heavy page once is enough, and one that failed is not tried again.
        if (lastDrawn is { } known && known.Page == page && (known.Pixels is null || known.Width >= width - 1))
        {
            // One of a pyramid's sizes may have a row or column more or less: to make it another would only blur it.
            if (known.Pixels is not null)
                return Math.Abs(known.Width - width) <= 1 && Math.Abs(known.Height - height) <= 1
                    ? RasterPicture.WebP(known.Pixels, known.Width, known.Height)
                    : RasterPicture.Shrunk(known.Pixels, known.Width, known.Height, width, height);
        }
        else if (preview is { } points && points.Page == page)
        {
            // Grey points of a scan made smaller are many bytes and long to unpack without loss, and are looked at for a moment.
            var share = Math.Min(1, (double)points.Width / width);
            return RasterPicture.Shrunk(points.Pixels, points.Width, points.Height, (int)Math.Ceiling(width * share), (int)Math.Ceiling(height * share), isExact: false);
        }
        else
        {
            // Pages are mostly of one size; the last one's picture is stored by now.
            var pixels = spare?.Length == width * height * 4 ? spare : spare = new byte[width * height * 4];
            var isDrawn = Drawn(page, width, height, pixels);
            Looked(page, isDrawn ? pixels : null, width, height);
            if (isDrawn) return RasterPicture.WebP(pixels, width, height);
        }
        return Read(page) is { } read
            ? SheetPicture.WebP(read.Sheet, longest)
            : throw new UnreadableException($"{Name(page)} cannot be shown: it is damaged, or draws more than a sheet may. Export it again, or leave it out.");
    }

    /// <summary>How large a picture of a page is, in pixels.</summary>
    private (int Width, int Height) Pixels(int page, int longest)
    {
        var paper = Paper(page);
        var scale = longest / Math.Max(Math.Max(paper.Width, paper.Height), 1e-9);
        return (Math.Max(1, (int)Math.Round(paper.Width * scale)), Math.Max(1, (int)Math.Round(paper.Height * scale)));
    }

    /// <summary>Keeps a picture of a page, and says what of its words is not to be seen there.</summary>
    private void Looked(int page, byte[]? pixels, int width, int height)
    {
        lastDrawn = (page, pixels, width, height);
        if (pixels is not null && looked.Add(page)) SayUnseen(page, [.. UnseenWords.Of(Geometry(page), pixels, width, height, width / Math.Max(Paper(page).Width, 1e-9))]);
    }

    private byte[]? spare;

    /// <summary>The page that was drawn last; without pixels where that failed.</summary>
    private (int Page, byte[]? Pixels, int Width, int Height)? lastDrawn;

    private bool Drawn(int page, int width, int height, byte[] pixels)
    {
        if (pictureTime > AllPicturesTime) return NotDrawn(page, "there are too many heavy pages for pictures of all of them");
        var since = DateTime.UtcNow;
        try
        {
            if (!EngineIsReady()) return NotDrawn(page, "the page engine could not go on after other pages");
            return engine!.Draw(page, width, height, pixels) || NotDrawn(page, "the page is damaged");
        }
        catch (PageEngineException e)
        {
            EndEngine();
            return NotDrawn(page, e.Message);
        }
        finally
        {
            pictureTime += DateTime.UtcNow - since;
        }
    }

    /// <summary>Whether there is an engine with the file open, after another page ended the last one.</summary>
    private bool EngineIsReady()
    {
        if (engine is not null) return true;
        if (restarts++ >= MostRestarts) return false;
        engine = PageEngine.Start(MostEngineMemory, PageTime);
        if (engine.Open(file) is null) return true;
        EndEngine();
        return false;
    }

    private void EndEngine()
    {
        engine?.Dispose();
        engine = null;
    }

    private bool NotDrawn(int page, string why)
    {
        Say($"picture of {Name(page)}", $"Drawn from its lines instead: {why.TrimEnd('.')}.");
        return false;
    }

    private void Say(string what, string why) => notShown[what] = (1, why);

    /// <summary>Counts more of a kind; the first says why.</summary>
    private void Add(NotShown more) => notShown[more.Type] = notShown.TryGetValue(more.Type, out var known) ? (known.Count + more.Count, known.Why) : (more.Count, more.Why);

    private void SayUnseen(int page, List<string> words)
    {
        if (words.Count == 0) return;
        const string Lines = "line of words";
        var first = words[0].Length <= 60 ? words[0] : words[0][..60] + "…";
        Add(new NotShown(Lines, words.Count, $"It stands in the file and its picture shows nothing of it: its font is not in the file, or something lies over it. The first is “{first}” on {Name(page)}. Export the file with its fonts."));
    }

    private string Name(int page) => pages[page].Label.Length > 0 && pages[page].Label != $"{page + 1}" ? $"Sheet {pages[page].Label}" : $"Sheet {page + 1}";

    private Extents Paper(int page) => new(0, 0, pages[page].Width * Millimetres(page), pages[page].Height * Millimetres(page));

    /// <summary>Of paper in a point: a page may state larger points (UserUnit), which both readers pass over or round.</summary>
    private double Millimetres(int page) => PageBounds.Point * Basics(page).UserUnit;

    private PageBasics Basics(int page)
    {
        if (basics.TryGetValue(page, out var known)) return known;
        var read = new PageBasics(default, 1, [], [], []);
        Guarded(PageTime, () => read = document!.GetPage<PageBasics>(page + 1));
        foreach (var carried in read.Carried) Add(carried);
        return basics[page] = read;
    }

    private void OpenDocument()
    {
        PdfDocument? opened = null;
        var fault = Guarded(
            PageTime,
            () =>
            {
                opened = PdfDocument.Open(file, options);
                opened.AddPageFactory<PageBasics, PageBasicsReading>();
                opened.AddPageFactory<ReadPage, PageReading>();
            },
            needsDocument: false);
        document = opened;
        if (document is null)
        {
            Say("lines and words", $"Only pictures of the pages can be shown: {fault?.Why}.");
            return;
        }
        Version = document.Version.ToString("0.0", System.Globalization.CultureInfo.InvariantCulture);
        Guarded(PageTime, () =>
        {
            layers = PageLayers.Read(document);
            fields = PageFields.Read(document);
            foreach (var carried in CarriedParts.Of(document)) Add(carried);
            layerSwitch = LayerSwitching.For(file, document, layers.OfFile);
        });
        if (layerSwitch is not null && !Switches(layerSwitch)) layerSwitch = null;
    }

    /// <summary>Whether the engine still finds every page behind the update.</summary>
    private bool Switches(LayerSwitch change)
    {
        try
        {
            using var trial = PageEngine.Start(MostEngineMemory, PageTime);
            return trial.Open(LayerSwitching.Hide(file, change, [])) is null && trial.Pages == Count;
        }
        catch (PageEngineException)
        {
            return false;
        }
    }

    private static readonly (string Why, bool IsTooMuch) Damaged = ("the file is damaged", false), TooLong = ("reading them took too long", true);

    private ReadPage? Read(int page)
    {
        if (last.Page == page) return last.Read;
        ReadPage? read = null;
        var why = geometryTime > AllGeometryTime ? "there are too many heavy pages to read all of them" : null;
        if (why is null && document is not null)
        {
            var since = DateTime.UtcNow;
            options.Bounds = new PageBounds(Math.Max(0, limits.MostSegments - segments), MostForms, since + PageTime, Millimetres(page), layers, fields);
            var fault = Guarded(PageTime + TimeSpan.FromSeconds(5), () => read = document.GetPage<ReadPage>(page + 1));
            geometryTime += DateTime.UtcNow - since;
            if (fault is { IsTooMuch: true }) tooMuch.Add(page);
            why = fault?.Why;
        }
        if (why is not null) Say($"lines and words of {Name(page)}", $"Its picture shows them, but they cannot be found or snapped to: {why}.");
        last = (page, read);
        var sheet = read?.Sheet ?? Empty(page);
        if (reports[page] is null)
        {
            segments += sheet.SegmentEntity.Length + sheet.TriangleEntity.Length;
            foreach (var kind in sheet.EntityKind) entities[sheet.Kinds[kind]] = entities.GetValueOrDefault(sheet.Kinds[kind]) + 1;
            foreach (var (what, count) in read?.PictureOnly ?? new Dictionary<string, int>()) pictureOnly[what] = pictureOnly.GetValueOrDefault(what) + count;
            var paper = Paper(page);
            reports[page] = new LeafReport(
                Name(page), "millimetre", [paper.MinX, paper.MinY, paper.MaxX, paper.MaxY], sheet.Tolerance, sheet.EntityHandle.Length, sheet.SegmentEntity.Length, sheet.TriangleEntity.Length, read?.Words.Count ?? 0);
        }
        return read;
    }

    private Sheet Empty(int page) => new SheetBuilder { KeepsInk = true }.Build(Name(page), LengthUnit.Millimetre, layers.All, Paper(page));

    /// <summary>
    /// Does something with the second reader, on a thread with room for deep files and with a bound on time. It throws all kinds of things at
    /// all kinds of files; one that does not come back takes the reader with it.
    /// </summary>
    /// <returns>Why it did not work, and whether because it was too much; null when it did.</returns>
    private (string Why, bool IsTooMuch)? Guarded(TimeSpan most, Action act, bool needsDocument = true)
    {
        if (needsDocument && document is null) return Damaged;
        (string, bool)? fault = null;
        var thread = new Thread(
            () =>
            {
                try
                {
                    act();
                }
                catch (SheetTooLargeException e)
                {
                    fault = (e.Message.TrimEnd('.'), true);
                }
                catch (TimeoutException)
                {
                    fault = TooLong;
                }
                catch (InvalidDataException e)
                {
                    fault = (e.Message.TrimEnd('.'), false);
                }
                catch (Exception e) when (e is not OutOfMemoryException)
                {
                    fault = Damaged;
                }
            },
            StackBytes)
        { IsBackground = true };
        thread.Start();
        if (thread.Join(most)) return fault;
        document = null;
        return TooLong;
    }
}
