using System.Diagnostics;
using System.IO.Compression;
using System.IO.Packaging;
using System.Text;
using System.Xml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

using Over = DocumentFormat.OpenXml.Drawing.Spreadsheet;

namespace Froe.Formats.Tables;

/// <summary>Reads workbooks (ISO/IEC 29500-1, SpreadsheetML) into drafts: a table for each tab.</summary>
internal sealed class WorkbookDraftReader : IReader
{
    private const long MostBytes = 256L << 20, MostUnpacked = 2L << 30;
    private const int MostParts = 20_000, MostLetters = 200_000_000;

    private static readonly XmlReaderSettings Bounded = new() { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = MostUnpacked, IgnoreComments = true, IgnoreProcessingInstructions = true };

    public string Name => "workbook";

    public int Version => 2;

    public string Words => "spreadsheets";

    public IReadOnlyList<string> Extensions { get; } = [".xlsx", ".xlsm"];

    public string MediaType => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var watch = Stopwatch.StartNew();
        return Open<(DraftContent?, ReadFault?)>(stream, limits, (workbook, length) =>
        {
            var losses = new WorkbookLosses();
            var tables = Tables(workbook, limits, losses);
            if (tables.Count == 0) return (null, new ReadFault(null, "This workbook has no table to show. Save it with at least one sheet of cells."));
            var report = new ReaderReport(
                "spreadsheet", "", "", length, Math.Round(watch.Elapsed.TotalSeconds, 3), [.. tables.Select(t => t.Report)], [],
                new Dictionary<string, int> { ["cell"] = tables.Sum(t => t.Report.Entities) }, losses.All);
            return (new DraftContent([.. tables.Select(t => t.Leaf)], () => report), null);
        }, fault => (null, fault));
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        return Open<(DrawingSurvey?, ReadFault?)>(
            stream, limits, (workbook, _) => (new DrawingSurvey("spreadsheet", "", "", LengthUnit.Unknown, [], 0, new Dictionary<string, int> { ["table"] = workbook.WorksheetParts.Count() }), null), fault => (null, fault));
    }

    /// <summary>Opens a workbook; whatever the library that unpacks it makes of a damaged one is a fault of the file.</summary>
    private static T Open<T>(Stream stream, ReadLimits limits, Func<WorkbookPart, long, T> read, Func<ReadFault, T> refuse)
    {
        ArgumentNullException.ThrowIfNull(stream);
        var (file, tooLong) = WholeFile.Read(stream, Math.Min(limits.MostBytes, MostBytes));
        if (file is null) return refuse(tooLong!);
        if (file.AsSpan().StartsWith((ReadOnlySpan<byte>)[0xD0, 0xCF, 0x11, 0xE0]))
            return refuse(new ReadFault(null, "This spreadsheet is locked with a password, or is of the kind from before 2007. Save it without a password as .xlsx and upload that."));
        try
        {
            if (TooLarge(file) is { } fault) return refuse(fault);
            using var document = SpreadsheetDocument.Open(WithoutLooseEnds(file), false);
            return document.WorkbookPart is { } workbook ? read(workbook, file.Length) : refuse(new ReadFault(null, "This file holds no workbook. If it is of another kind, give its name the ending of that kind."));
        }
        catch (Exception e) when (e is not (OutOfMemoryException or InsufficientExecutionStackException))
        {
            return refuse(new ReadFault(null, "This spreadsheet is damaged or breaks off. Open it in the program it was written with, save it as .xlsx, and upload that."));
        }
    }

    /// <summary>What a file says that its parts unpack to is believed: no part is unpacked beyond that.</summary>
    private static ReadFault? TooLarge(byte[] file)
    {
        using var zip = new ZipArchive(new MemoryStream(file, false), ZipArchiveMode.Read);
        if (zip.Entries.Count > MostParts) return new ReadFault(null, $"This spreadsheet has more than {MostParts:N0} parts. Save it in pieces.");
        return zip.Entries.Sum(e => e.Length) > MostUnpacked ? new ReadFault(null, $"This spreadsheet unpacks to more than {MostUnpacked >> 30} GB. Save it in pieces.") : null;
    }

    /// <summary>Some programs leave relations to parts that they no longer write; the library takes such a file for damaged, so they are taken out.</summary>
    private static MemoryStream WithoutLooseEnds(byte[] file)
    {
        using (var package = Package.Open(new MemoryStream(file, false), FileMode.Open, FileAccess.Read))
            if (!LooseEnds(package).Any()) return new MemoryStream(file, false);
        var mended = new MemoryStream();
        mended.Write(file);
        using (var package = Package.Open(mended, FileMode.Open, FileAccess.ReadWrite))
            foreach (var (part, relation) in LooseEnds(package).ToList()) part.DeleteRelationship(relation);
        mended.Position = 0;
        return mended;
    }

    private static IEnumerable<(PackagePart Part, string Relation)> LooseEnds(Package package) =>
        from part in package.GetParts()
        where !PackUriHelper.IsRelationshipPartUri(part.Uri)
        from relation in part.GetRelationships()
        where relation.TargetMode == TargetMode.Internal && !package.PartExists(PackUriHelper.ResolvePartUri(part.Uri, relation.TargetUri))
        select (part, relation.Id);

    private static List<(ReadLeaf Leaf, LeafReport Report)> Tables(WorkbookPart workbook, ReadLimits limits, WorkbookLosses losses)
    {
        var styles = new WorkbookStyles(workbook);
        var words = SharedWords(workbook);
        var book = workbook.Workbook!;
        var from1904 = book.WorkbookProperties?.Date1904?.Value == true;
        var budget = new TableBudget();
        var tables = new List<(ReadLeaf, LeafReport)>();
        foreach (var sheet in book.Sheets?.Elements<Sheet>() ?? [])
        {
            if (sheet.Id?.Value is not { } id || !workbook.TryGetPartById(id, out var part)) continue;
            if (part is not WorksheetPart cells)
            {
                losses.Add("chart sheet", "Charts are not drawn.");
                continue;
            }
            if (tables.Count >= limits.MostLeaves)
            {
                losses.Add("tab", $"Only the first {limits.MostLeaves:N0} are shown.");
                continue;
            }
            var isHidden = sheet.State is { HasValue: true } state && state.Value != SheetStateValues.Visible;
            var name = sheet.Name?.Value is { Length: > 0 } given ? given : $"Table {tables.Count + 1}";
            var table = new TableBuilder(isHidden ? $"{name} (hidden in the file)" : name, budget);
            using (var xml = XmlReader.Create(cells.GetStream(FileMode.Open, FileAccess.Read), Bounded)) new WorksheetReading(table, styles, words, from1904, losses).Read(xml);
            Beside(cells, losses);
            var leaf = table.Leaf(tables.Count);
            if (table.IsCut) losses.Add("rest of a table", TableBudget.CutWords);
            if (table.IsPartlyWritten) losses.Add("words of a cell", TableBudget.WrittenWords);
            tables.Add((leaf, table.Report(leaf)));
        }
        return tables;
    }

    /// <summary>What lies over a table's cells.</summary>
    private static void Beside(WorksheetPart cells, WorkbookLosses losses)
    {
        losses.Add("chart", "Charts are not drawn.", cells.DrawingsPart?.ChartParts.Count() ?? 0);
        losses.Add("picture", "Pictures over cells are not drawn.", cells.DrawingsPart?.ImageParts.Count() ?? 0);
        losses.Add("shape", "Shapes and boxes of words over cells are not drawn.", cells.DrawingsPart?.WorksheetDrawing?.Descendants().Count(d => d is Over.Shape or Over.ConnectionShape) ?? 0);
        losses.Add("comment", "Comments at cells are not shown.", cells.WorksheetCommentsPart?.Comments?.CommentList?.Count() ?? 0);
    }

    /// <summary>The words that cells name by number, runs of different looks together; readings beside them are left out (18.4).</summary>
    private static List<string> SharedWords(WorkbookPart workbook)
    {
        var all = new List<string>();
        if (workbook.SharedStringTablePart is not { } part) return all;
        using var xml = XmlReader.Create(part.GetStream(FileMode.Open, FileAccess.Read), Bounded);
        var one = new StringBuilder();
        var letters = 0L;
        for (var more = xml.Read(); more;)
        {
            if (xml.NodeType == XmlNodeType.Element && xml.LocalName == "t") one.Append(xml.ReadElementContentAsString());
            else if (xml.NodeType == XmlNodeType.Element && xml.LocalName == "rPh") xml.Skip();
            else
            {
                if (xml.NodeType == XmlNodeType.EndElement ? xml.LocalName == "si" : xml is { NodeType: XmlNodeType.Element, LocalName: "si", IsEmptyElement: true })
                {
                    letters += one.Length;
                    if (letters > MostLetters) throw new InvalidDataException("Too many words.");
                    all.Add(one.ToString());
                    one.Clear();
                }
                more = xml.Read();
            }
        }
        return all;
    }
}
