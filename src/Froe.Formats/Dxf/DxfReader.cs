using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;

namespace Froe.Formats.Dxf;

/// <summary>
/// Reads DXF in text or binary, R12 to 2018, in one pass: header, tables and blocks are kept, entities are drawn as they are met.
/// Source: the published DXF reference (group codes by section).
/// </summary>
public static class DxfReader
{
    /// <summary>Reads a drawing and prepares its sheets. Never throws on what the stream contains.</summary>
    public static ReadResult Read(Stream stream, ReadLimits? limits = null)
    {
        var (drawing, fault) = Guarded(stream, limits ?? new ReadLimits(), pass => pass.Drawing());
        return new(drawing, fault);
    }

    /// <summary>Reads every entity and says what the file holds, but draws nothing. Never throws on what the stream contains.</summary>
    public static (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits? limits = null) =>
        Guarded(stream, limits ?? new ReadLimits(), pass => pass.Survey());

    /// <summary>Finds the dimensions whose words were typed over their value. Never throws on what the stream contains.</summary>
    /// <param name="leaves">The drawing's sheets: what lies on none of them is left out.</param>
    public static (IReadOnlyList<TypedDimension>? Found, ReadFault? Fault) FindTypedDimensions(Stream stream, IReadOnlyList<Leaf> leaves, ReadLimits? limits = null)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        var positions = leaves.GroupBy(l => l.Name).ToDictionary(l => l.Key, l => l.First().Position);
        var (found, fault) = Guarded(stream, limits ?? new ReadLimits(), pass => pass.TypedOver());
        return found is null ? (null, fault) : ([.. found.Where(f => positions.ContainsKey(f.Sheet)).Select(f => new TypedDimension(positions[f.Sheet], f.Words.At, f.Words.Height, f.Words.Words, f.Words.Measured, f.Words.IsAngle))], null);
    }

    private static (T? Found, ReadFault? Fault) Guarded<T>(Stream stream, ReadLimits limits, Func<Pass, T> read)
        where T : class
    {
        ArgumentNullException.ThrowIfNull(stream);
        if (stream.CanSeek && stream.Length > limits.MostBytes)
            return (null, new ReadFault(null, $"The file is {stream.Length / 1_000_000:N0} MB; at most {limits.MostBytes / 1_000_000:N0} MB can be read."));
        var pass = new Pass(new GroupReader(new SniffedStream(new BinaryDxf(stream), limits.MostBytes)), limits);
        try
        {
            return (read(pass), null);
        }
        catch (DxfFormatException e)
        {
            return (null, new ReadFault(e.Line, e.Message));
        }
        catch (SheetTooLargeException e)
        {
            return (null, new ReadFault(pass.Line, e.Message));
        }
        catch (InvalidDataException e)
        {
            return (null, new ReadFault(null, e.Message));
        }
    }

    /// <summary>One reading of one file.</summary>
    private sealed class Pass(GroupReader reader, ReadLimits limits)
    {
        /// <summary>Groups kept for blocks: beyond this a file is hostile, not large.</summary>
        private const int MostKeptGroups = 40_000_000;

        private const string PaperSpace = "*Paper_Space";

        private readonly DxfText text = new();
        private readonly DxfTables tables = new();
        private readonly Dictionary<string, int> counts = [];
        private readonly Record record = new();
        /// <summary>By block, the handles that entities are drawn in the order of (SORTENTSTABLE).</summary>
        private readonly Dictionary<string, Dictionary<ulong, ulong>> orders = new(StringComparer.OrdinalIgnoreCase);

        private readonly Dictionary<string, Layout> layouts = new(StringComparer.OrdinalIgnoreCase);
        private readonly Dictionary<string, string> pictures = new(StringComparer.OrdinalIgnoreCase);
        private Extents headerExtents = Extents.Empty;
        private string version = "";
        private LengthUnit unit;
        private long keptGroups;
        private bool sawEntities;
        private EntityDrawer? drawer;
        private TypedOver? typed;

        public long Line => reader.Line;

        public DrawingFile Drawing()
        {
            Walk(draws: true);
            var draw = Drawer();
            draw.Finish(layouts, pictures, orders);
            return new DrawingFile("DXF", VersionWords(version), text.Name, draw.Sheets(), counts, draw.NotShown());
        }

        public DrawingSurvey Survey()
        {
            Walk(draws: false);
            return new DrawingSurvey("DXF", VersionWords(version), text.Name, unit, [.. tables.Layers.Select(l => l.Name)], tables.Blocks.Count, counts);
        }

        public List<(string Sheet, TypedWords Words)> TypedOver()
        {
            typed = new TypedOver(tables, text, TypedDimensions.Most);
            Walk(draws: false);
            foreach (var block in tables.Blocks.Values.Where(b => b.Name.StartsWith(PaperSpace, StringComparison.OrdinalIgnoreCase)))
                foreach (var entity in block.Entities) typed.Take(entity, block.Name);
            return [.. typed.Found.Select(f => (f.Block is null ? "Model" : layouts.TryGetValue(f.Block, out var layout) ? layout.Name : "Paper", f))];
        }

        private void Walk(bool draws)
        {
            var ended = false;
            while (reader.Read())
            {
                if (reader.Code != 0)
                {
                    if (reader.Code == 999) continue;
                    throw new DxfFormatException(reader.Line, "A DXF file begins with a section; this one does not. Export the drawing as ASCII DXF and upload that.");
                }
                if (Is("EOF"u8))
                {
                    ended = true;
                    break;
                }
                if (!Is("SECTION"u8)) throw new DxfFormatException(reader.Line, $"A section was expected here, but the file has “{GroupReader.Shown(reader.Word)}”.");
                if (!reader.Read() || reader.Code != 2) throw new DxfFormatException(reader.Line, "A section without a name.");
                ReadSection(Encoding.ASCII.GetString(reader.Word), draws);
            }
            if (!sawEntities) throw new DxfFormatException(reader.Line, "The file has no ENTITIES section, so there is nothing to show. Export the drawing again.");
            if (!ended) throw new DxfFormatException(reader.Line, "The file stops before its end mark (EOF); it was probably cut off. Export it again.");
            FlushCount("");
        }

        private bool Is(ReadOnlySpan<byte> word) => reader.Word.SequenceEqual(word);

        private void ReadSection(string name, bool draws)
        {
            switch (name)
            {
                case "HEADER": ReadHeader(); break;
                case "TABLES": ReadTables(); break;
                case "BLOCKS": ReadBlocks(); break;
                case "ENTITIES": ReadEntities(draws ? Drawer() : null); break;
                case "OBJECTS": ReadObjects(drawer is { HasMasks: true }); break;
                default: SkipSection(); break;
            }
        }

        private bool AtSectionEnd() => reader.Code == 0 && reader.Word.SequenceEqual("ENDSEC"u8);

        private void SkipSection()
        {
            while (reader.Read())
                if (AtSectionEnd()) return;
        }

        private void ReadHeader()
        {
            var variable = "";
            double lowX = 0, lowY = 0;
            string? page = null;
            while (reader.Read() && !AtSectionEnd())
            {
                if (reader.Code == 9)
                {
                    variable = Encoding.ASCII.GetString(reader.Word);
                    continue;
                }
                switch (variable, reader.Code)
                {
                    case ("$ACADVER", 1): version = Encoding.ASCII.GetString(reader.Word); break;
                    case ("$DWGCODEPAGE", 3): page = Encoding.ASCII.GetString(reader.Word); break;
                    case ("$INSUNITS", 70): unit = UnitOf((int)Lenient(reader.Word)); break;
                    case ("$LTSCALE", 40): tables.LineTypeScale = Lenient(reader.Word) is > 0 and var scale ? scale : 1; break;
                    case ("$PSLTSCALE", 70): tables.PatternsOnPaper = Lenient(reader.Word) != 0; break;
                    case ("$PDMODE", 70): tables.PointMode = (int)Math.Clamp(Lenient(reader.Word), 0, 100); break;
                    case ("$PDSIZE", 40): tables.PointSize = Lenient(reader.Word); break;
                    case ("$EXTMIN", 10): lowX = Lenient(reader.Word); break;
                    case ("$EXTMIN", 20): lowY = Lenient(reader.Word); break;
                    case ("$EXTMAX", 10): headerExtents = new Extents(lowX, lowY, Lenient(reader.Word), double.NegativeInfinity); break;
                    case ("$EXTMAX", 20): headerExtents = headerExtents with { MaxY = Lenient(reader.Word) }; break;
                }
            }
            text.Declare(page, string.CompareOrdinal(version, "AC1021") >= 0);
        }

        /// <summary>Header values are advice: a broken one is passed over, not fatal.</summary>
        private static double Lenient(ReadOnlySpan<byte> word)
        {
            try
            {
                return GroupReader.ParseNumber(word, 0);
            }
            catch (DxfFormatException)
            {
                return 0;
            }
        }

        private void ReadTables()
        {
            var entry = new Record();
            var open = false;
            while (reader.Read())
            {
                if (reader.Code != 0)
                {
                    if (open) entry.Add(reader);
                    continue;
                }
                if (open) tables.Add(entry, text);
                if (AtSectionEnd()) return;
                open = !Is("TABLE"u8) && !Is("ENDTAB"u8);
                if (open) entry.Start(Encoding.ASCII.GetString(reader.Word), reader.Line);
            }
        }

        private void ReadBlocks()
        {
            Block? block = null;
            while (reader.Read())
            {
                if (AtSectionEnd()) return;
                if (reader.Code != 0) continue;
                if (Is("BLOCK"u8))
                {
                    Fill();
                    var name = text.Decode(record.GetText(2));
                    block = new Block(name, record.Point(10), []);
                    tables.Blocks[name] = block;
                }
                else if (Is("ENDBLK"u8))
                {
                    Fill();
                    block = null;
                }
                else if (block is null) Fill();
                else
                {
                    var entity = ReadEntity().Copy();
                    keptGroups += entity.Count;
                    if (keptGroups > MostKeptGroups) throw new SheetTooLargeException("The drawing's blocks hold more than Froe is willing to keep.");
                    block.Entities.Add(entity);
                }
            }
        }

        private void ReadEntities(EntityDrawer? draw)
        {
            sawEntities = true;
            while (reader.Read())
            {
                if (AtSectionEnd()) return;
                if (reader.Code != 0) throw new DxfFormatException(reader.Line, "An entity was expected here.");
                var entity = ReadEntity();
                draw?.Draw(entity);
                typed?.Take(entity, entity.GetInt(67) == 1 ? PaperSpace : null);
            }
        }

        /// <summary>Layout names and the blocks they show: LAYOUT objects name a block record by handle. And the files of pictures.</summary>
        private void ReadObjects(bool isOrdered)
        {
            string? name = null, handle = null;
            var sorting = new Sorting();
            var tab = int.MaxValue;
            int? paper = null;
            double numerator = 1, denominator = 1;
            bool inLayout = false, inPicture = false;
            while (reader.Read())
            {
                if (reader.Code == 0)
                {
                    if (inLayout && name is not null && handle is not null && tables.BlockOfHandle.TryGetValue(handle, out var block)) layouts[block] = new Layout(name, tab, PaperUnit(paper, numerator / denominator));
                    sorting.End(tables, orders);
                    if (inPicture && name is not null && handle is not null && pictures.Count < 10_000) pictures[handle] = name;
                    if (AtSectionEnd()) return;
                    inLayout = Is("LAYOUT"u8);
                    inPicture = Is("IMAGEDEF"u8);
                    sorting = new Sorting { IsOn = isOrdered && Is("SORTENTSTABLE"u8) };
                    name = handle = null;
                    tab = int.MaxValue;
                    paper = null;
                    numerator = denominator = 1;
                }
                else if (sorting.IsOn) sorting.Take(reader.Code, reader.Word);
                else if (inPicture && reader.Code == 5) handle = Encoding.ASCII.GetString(reader.Word);
                else if ((inLayout || inPicture) && reader.Code == 1) name = text.Decode(reader.Word);
                else if (inLayout && reader.Code == 72) paper ??= Lenient(reader.Word) is >= 0 and <= 1 and var unit ? (int)unit : null;
                else if (inLayout && reader.Code == 142) numerator = Lenient(reader.Word);
                else if (inLayout && reader.Code == 143) denominator = Lenient(reader.Word);
                else if (inLayout && reader.Code == 71) tab = (int)Math.Clamp(Lenient(reader.Word), 0, 100_000);
                else if (inLayout && reader.Code == 330) handle = Encoding.ASCII.GetString(reader.Word);
            }
        }

        /// <summary>Reads an entity whose type is the current group, with the vertices or attributes that follow it.</summary>
        private Record ReadEntity()
        {
            Fill();
            Count(record.Type);
            var hasParts = record.Type == "POLYLINE" || (record.Type == "INSERT" && record.GetInt(66) == 1);
            if (!hasParts) return record;
            var owner = record.Copy();
            owner.Parts = [];
            while (reader.Read())
            {
                if (reader.Code != 0) continue;
                var isEnd = Is("SEQEND"u8);
                if (!isEnd && !Is("VERTEX"u8) && !Is("ATTRIB"u8))
                {
                    // Some writers forget SEQEND; what follows is an entity of its own.
                    reader.Hold();
                    break;
                }
                Fill();
                if (isEnd) break;
                if (record.Type == "ATTRIB") Count("ATTRIB");
                owner.Parts.Add(record.Copy());
                keptGroups += record.Count;
                if (keptGroups > MostKeptGroups) throw new SheetTooLargeException("The drawing's polylines hold more than Froe is willing to keep.");
                if (owner.Type == "POLYLINE" && owner.Parts.Count > 2_000_000) throw new SheetTooLargeException("A polyline has more than 2,000,000 vertices.");
            }
            if (owner.Type == "POLYLINE") keptGroups -= owner.Parts.Sum(p => p.Count);
            return owner;
        }

        private void Fill()
        {
            record.Start(TypeName(reader.Word), reader.Line);
            // Of some what others leave out is looked at as well.
            var isPlain = !record.HasData;
            while (true)
            {
                if (isPlain) reader.ReadPlain(record);
                if (!reader.Read()) break;
                if (reader.Code == 0)
                {
                    reader.Hold();
                    return;
                }
                record.Add(reader);
                if (record.Count > 4_000_000) throw new DxfFormatException(reader.Line, "One entity has more than 4,000,000 values; the file is damaged.");
            }
            throw new DxfFormatException(reader.Line, "The file ends inside an entity; it was probably cut off. Export it again.");
        }

        /// <summary>Types met by any reading: whatever two at once write in one place, each reads what it compares with its own word.</summary>
        private static readonly string[] KnownTypes = new string[256];

        private string TypeName(ReadOnlySpan<byte> word)
        {
            // A drawing has few types and many entities, so a string is made once for each type.
            ref var place = ref KnownTypes[word.IsEmpty ? 0 : (int)((uint)(word[0] | (word[^1] << 8) | (word[word.Length / 2] << 16) | (word.Length << 24)) * 0x9E3779B1u >> 24)];
            var known = place;
            if (known is null || !Ascii.Equals(word, known)) place = known = word.Length <= 64 ? string.Intern(Encoding.ASCII.GetString(word)) : throw new DxfFormatException(reader.Line, "An entity's type was expected here.");
            return known;
        }

        private string countedType = "";
        private int countedRun;

        /// <summary>Counts an entity. Runs of one type are the rule, so the table is touched once a run.</summary>
        private void Count(string type)
        {
            if (!ReferenceEquals(type, countedType)) FlushCount(type);
            countedRun++;
        }

        private void FlushCount(string next)
        {
            if (countedRun > 0) counts[countedType] = counts.GetValueOrDefault(countedType) + countedRun;
            (countedType, countedRun) = (next, 0);
            if (counts.Count > 2000) throw new DxfFormatException(reader.Line, "The file names more than 2,000 types of entity; it is damaged.");
        }

        private EntityDrawer Drawer()
        {
            if (drawer is not null) return drawer;
            var diagonal = headerExtents.Diagonal;
            var tolerance = !headerExtents.IsEmpty && diagonal is > 1e-9 and < 1e12 ? diagonal / 200_000 : double.PositiveInfinity;
            return drawer = new EntityDrawer(tables, text, unit, tolerance, limits);
        }

        private static string VersionWords(string version) => version switch
        {
            "" => "no version stated",
            "AC1006" => "R10",
            "AC1009" => "R11/R12",
            "AC1012" => "R13",
            "AC1014" => "R14",
            "AC1015" => "2000",
            "AC1018" => "2004",
            "AC1021" => "2007",
            "AC1024" => "2010",
            "AC1027" => "2013",
            "AC1032" => "2018",
            _ => version,
        };

        /// <summary>The unit that a layout's coordinates are in: its paper's (group 72), times the scale it is plotted in (142 to 143).</summary>
        private static LengthUnit? PaperUnit(int? paper, double perUnit)
        {
            var millimetres = perUnit * (paper switch { 0 => 25.4, 1 => 1, _ => double.NaN });
            foreach (var unit in (LengthUnit[])[LengthUnit.Millimetre, LengthUnit.Centimetre, LengthUnit.Metre, LengthUnit.Inch, LengthUnit.Foot])
                if (Math.Abs((millimetres / LengthUnits.MillimetresIn(unit)!.Value) - 1) < 1e-6) return unit;
            return null;
        }

        private static LengthUnit UnitOf(int code) => code switch
        {
            1 => LengthUnit.Inch,
            2 => LengthUnit.Foot,
            3 => LengthUnit.Mile,
            4 => LengthUnit.Millimetre,
            5 => LengthUnit.Centimetre,
            6 => LengthUnit.Metre,
            7 => LengthUnit.Kilometre,
            10 => LengthUnit.Yard,
            13 => LengthUnit.Micrometre,
            _ => LengthUnit.Unknown,
        };
    }
}
