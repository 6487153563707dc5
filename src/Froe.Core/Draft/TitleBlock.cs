using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>What a title block says, field by field (ISO 7200), and the rest of what stands in it.</summary>
/// <param name="Fields">The fields that were found, each once.</param>
/// <param name="Lines">Everything that stands in the block, from the top down.</param>
public sealed record TitleBlock(IReadOnlyList<TitleField> Fields, IReadOnlyList<string> Lines)
{
    /// <summary>What a field says; null where there is none.</summary>
    public TitleField? this[TitleFieldKind kind] => Fields.FirstOrDefault(f => f.Kind == kind);
}

/// <summary>A field of a title block.</summary>
/// <param name="IsLabelled">Whether a word beside it says what it is; otherwise its place and size do.</param>
public sealed record TitleField(TitleFieldKind Kind, string Words, bool IsLabelled);

/// <summary>Fields of a title block that are known by their labels.</summary>
public enum TitleFieldKind
{
    /// <summary>The document's number.</summary>
    Number,

    /// <summary>Its title.</summary>
    Title,

    /// <summary>The letter or number of its revision.</summary>
    Revision,

    /// <summary>Which sheet it is, perhaps of how many.</summary>
    Sheet,

    /// <summary>Its scale.</summary>
    Scale,

    /// <summary>A date.</summary>
    Date,

    /// <summary>Who drew it.</summary>
    Drawn,

    /// <summary>Who checked it.</summary>
    Checked,

    /// <summary>Who approved it.</summary>
    Approved,

    /// <summary>What it belongs to.</summary>
    Project,

    /// <summary>Whom it was drawn for.</summary>
    Client,

    /// <summary>What the thing is made of.</summary>
    Material,
}

/// <summary>
/// Finds the title block among what is written on a sheet. Labels are known in the languages that drawings come in; what a label is of
/// stands behind it in its own line, right of it or below it. Where number and title have no labels, they are told by their place and size.
/// </summary>
public static class TitleBlocks
{
    private const int MostLines = 20_000, MostLabels = 300, MostInBlock = 80, LongestWords = 200;

    /// <summary>Fewest labels of a block: one alone may stand anywhere.</summary>
    private const int FewestLabels = 2;

    private const int MostSeeds = 40;

    /// <summary>How wide and high a block is at most, as shares of what is written on the sheet: a corner of a large sheet, or the foot of a small one.</summary>
    private static readonly (double Wide, double High)[] Parts = [(0.5, 0.45), (1, 0.3)];

    /// <summary>How far a value may be from its label, in heights of the label's letters.</summary>
    private const double FarRight = 30, FarBelow = 6;

    /// <summary>A line turned so that its letters stand upright: its box, and how high its letters are.</summary>
    private readonly record struct Line(string Text, double Left, double Right, double Bottom, double High)
    {
        public double Top => Bottom + High;

        public double Middle => Bottom + (High / 2);
    }

    private readonly record struct Label(TitleFieldKind Kind, int At, string Behind);

    /// <summary>The title block of a sheet; null when there is none that can be told.</summary>
    /// <param name="written">What is written on the sheet.</param>
    public static TitleBlock? Of(IEnumerable<WrittenRun> written)
    {
        var all = written.Where(r => r.Text.Trim().Length > 0).Take(MostLines).ToList();
        // The block of a sheet in portrait may lie on its side: the way that has most labels is its own.
        (List<Line> Lines, List<Label> Labels) best = ([], []);
        for (var quarter = 0; quarter < 4; quarter++)
        {
            var lines = all.Select(r => Turned(r, quarter)).OfType<Line>().ToList();
            var places = all.Select(r => Turn(r.At, quarter)).ToList();
            if (places.Count == 0) break;
            var labels = Cluster(lines, places.Max(p => p.X) - places.Min(p => p.X), places.Max(p => p.Y) - places.Min(p => p.Y), [.. lines.Select((l, i) => LabelOf(l.Text, i)).OfType<Label>().TakeLast(MostLabels)]);
            if (labels.Select(l => l.Kind).Distinct().Count() > best.Labels.Select(l => l.Kind).Distinct().Count()) best = (lines, labels);
        }
        return best.Labels.Select(l => l.Kind).Distinct().Count() < FewestLabels ? null : Read(best.Lines, best.Labels);
    }

    /// <summary>A line as it is when the sheet is turned by quarters; null for one that does not stand upright then.</summary>
    private static Line? Turned(WrittenRun run, int quarter)
    {
        var (at, along, up) = (Turn(run.At, quarter), Turn(run.Along, quarter), Turn(run.Up, quarter));
        if (!(along.X > 0) || !(up.Y > 0) || Math.Abs(along.Y) > along.X * 0.05) return null;
        return new Line(run.Text.Trim(), at.X, at.X + along.X, at.Y, up.Y);
    }

    private static PointXY Turn(PointXY p, int quarter) => quarter switch { 1 => new(p.Y, -p.X), 2 => new(-p.X, -p.Y), 3 => new(-p.Y, p.X), _ => p };

    /// <summary>What a line is the label of; with what stands behind it in the same line.</summary>
    private static Label? LabelOf(string text, int at)
    {
        if (text.Length > LongestWords) return null;
        var colon = text.IndexOf(':', StringComparison.Ordinal);
        if (colon > 0 && Known(text[..colon]) is { } named && text[(colon + 1)..].Trim() is { Length: > 0 } behind) return new Label(named, at, behind);
        return Known(text) is { } kind ? new Label(kind, at, "") : null;
    }

    private static TitleFieldKind? Known(string text) =>
        text.Length <= 40 && Labels.TryGetValue(WrittenPage.Fold(text).TrimEnd('.', ':', '#', '°', 'º', '-').Trim('(', ')'), out var kind) ? kind : null;

    /// <summary>Labels that stand together: those of the part of the sheet that holds most kinds of them; of equal parts the one farthest right and down.</summary>
    /// <param name="lines">All lines.</param>
    /// <param name="width">Of what is written on the sheet, and so on.</param>
    private static List<Label> Cluster(List<Line> lines, double width, double height, List<Label> labels)
    {
        if (labels.Count == 0) return labels;
        var seeds = labels.Take(MostSeeds).ToList();
        var windows =
            from part in Parts
            from left in seeds.Select(l => lines[l.At].Left).Distinct()
            from bottom in seeds.Select(l => lines[l.At].Bottom).Distinct()
            let held = labels.Where(l => lines[l.At].Left >= left && lines[l.At].Left <= left + Math.Max(width * part.Wide, 1e-9) && lines[l.At].Bottom >= bottom && lines[l.At].Bottom <= bottom + Math.Max(height * part.High, 1e-9)).ToList()
            where held.Count > 0
            // A list of parts beside the block has labels too: what is wider must hold two kinds more.
            select (Held: held, Worth: held.Select(l => l.Kind).Distinct().Count() - (part == Parts[0] ? 0 : 1), Corner: left - bottom);
        return windows.OrderByDescending(w => w.Worth).ThenBy(w => w.Held.Count).ThenByDescending(w => w.Corner).First().Held;
    }

    private static TitleBlock Read(List<Line> lines, List<Label> labels)
    {
        var taken = labels.Select(l => l.At).ToHashSet();
        var isLabel = lines.Select((l, i) => taken.Contains(i)).ToList();
        var fields = new Dictionary<TitleFieldKind, TitleField>();
        var values = new List<int>();
        foreach (var label in labels)
        {
            if (label.Behind.Length > 0)
            {
                fields.TryAdd(label.Kind, new TitleField(label.Kind, Cut(label.Behind), true));
                continue;
            }
            if (Beside(lines, label, isLabel) is not { } value) continue;
            values.Add(value);
            fields.TryAdd(label.Kind, new TitleField(label.Kind, Cut(lines[value].Text), true));
        }
        var size = labels.Select(l => lines[l.At].High).Order().ElementAt(labels.Count / 2);
        double left = labels.Min(l => lines[l.At].Left), right = labels.Concat(values.Select(v => new Label(default, v, ""))).Max(l => lines[l.At].Right);
        double bottom = labels.Concat(values.Select(v => new Label(default, v, ""))).Min(l => lines[l.At].Bottom), top = labels.Max(l => lines[l.At].Top);
        // Rows without labels belong to the block as well: above it, below it, and as far to the right as it goes.
        var inside = Enumerable.Range(0, lines.Count)
            .Where(i => lines[i].Left >= left - (4 * size) && lines[i].Left <= right + (4 * size) && lines[i].Bottom >= bottom - (12 * size) && lines[i].Top <= top + (12 * size))
            .OrderByDescending(i => lines[i].Bottom).ThenBy(i => lines[i].Left).Take(MostInBlock).ToList();
        var free = inside.Where(i => !isLabel[i] && !values.Contains(i)).ToList();
        if (!fields.ContainsKey(TitleFieldKind.Number) && Largest(free.Where(i => lines[i].High > size && IsNumber(lines[i].Text))) is { } number)
        {
            fields[TitleFieldKind.Number] = new TitleField(TitleFieldKind.Number, Cut(lines[number].Text), false);
            // The title stands above the number, or where there is no room left of it.
            if (!fields.ContainsKey(TitleFieldKind.Title)
                && free.Where(i => i != number && lines[i].High > size && IsTitle(lines[i].Text)).OrderBy(i => Math.Abs(lines[i].Middle - lines[number].Middle)).Cast<int?>().FirstOrDefault() is { } title)
                fields[TitleFieldKind.Title] = new TitleField(TitleFieldKind.Title, Cut(lines[title].Text), false);
        }
        return new TitleBlock([.. fields.Values.OrderBy(f => f.Kind)], [.. inside.Select(i => Cut(lines[i].Text))]);

        int? Largest(IEnumerable<int> some) => some.OrderByDescending(i => lines[i].High).ThenBy(i => lines[i].Bottom).Cast<int?>().FirstOrDefault();
    }

    /// <summary>The line that a label is of: right of it in the same row, or below it; whichever is nearer, in heights of its letters.</summary>
    private static int? Beside(List<Line> lines, Label label, List<bool> isLabel)
    {
        var of = lines[label.At];
        int? best = null;
        var nearest = double.PositiveInfinity;
        for (var i = 0; i < lines.Count; i++)
        {
            var l = lines[i];
            if (i == label.At || isLabel[i]) continue;
            double far;
            if (Math.Abs(l.Middle - of.Middle) < Math.Max(of.High, l.High) * 0.6 && l.Left >= of.Right - (of.High * 0.5)) far = (l.Left - of.Right) / FarRight;
            else if (l.Top <= of.Bottom + (of.High * 0.5) && l.Left < of.Right + (4 * of.High) && l.Right > of.Left - of.High && l.Left > of.Left - (3 * of.High)) far = (of.Bottom - l.Top) / FarBelow;
            else continue;
            far /= Math.Max(of.High, 1e-12);
            // Another label between the two has the value for its own.
            if (far is >= -1 and <= 1 && far < nearest && !Parted(lines, of, l, label, isLabel)) (best, nearest) = (i, far);
        }
        return best;
    }

    private static bool Parted(List<Line> lines, Line of, Line value, Label label, List<bool> isLabel)
    {
        for (var i = 0; i < lines.Count; i++)
        {
            if (!isLabel[i] || i == label.At) continue;
            var l = lines[i];
            var isBetweenAcross = Math.Abs(l.Middle - of.Middle) < of.High && l.Left >= of.Right && l.Left < value.Left && Math.Abs(value.Middle - of.Middle) < Math.Max(of.High, value.High) * 0.6;
            var isBetweenDown = l.Bottom < of.Bottom && l.Bottom >= value.Top - l.High && Math.Abs(l.Left - value.Left) <= Math.Abs(of.Left - value.Left);
            if (isBetweenAcross || isBetweenDown) return true;
        }
        return false;
    }

    private static bool IsNumber(string text) => text.Length is >= 3 and <= 40 && text.Any(char.IsDigit) && text.All(c => char.IsLetterOrDigit(c) || c is '-' or '.' or '/' or '_' or ' ') && text.Count(c => c == ' ') <= 2 && !IsQuantity(text) && !text.All(c => char.IsDigit(c) || c is '.' or '/' or ' ');

    /// <summary>Whether it is digits, then a unit: 2.9 kg.</summary>
    private static bool IsQuantity(string text) => text.TrimStart("0123456789., ".ToCharArray()) is { Length: <= 3 } unit && unit.All(char.IsLetter) && char.IsDigit(text[0]);

    private static bool IsTitle(string text) => text.Count(char.IsLetter) >= 4;

    private static string Cut(string text) => text.Length <= LongestWords ? text : text[..LongestWords];

    /// <summary>Labels as they are compared (<see cref="WrittenPage.Fold(string)"/>): small, without blanks, accents and the point at their end.</summary>
    private static readonly Dictionary<string, TitleFieldKind> Labels = new (TitleFieldKind Kind, string Words)[]
    {
        (TitleFieldKind.Number, "drawingno drawingnumber drawingnr drgno drg.no dwgno dwg.no dwgnumber documentno documentnumber doc.no docno identificationnumber ident.no identno number no nr "
            + "zeichnungsnummer zeichnungsnr zeichnungs-nr zeichn.-nr zeichng.-nr plannummer plannr plan-nr dokumentnummer dokumenten-nr sachnummer numerodeplan noplan n°plan planno numerodeplano planon "
            + "disegnon disegnono numerodisegno tekeningnummer tekeningnr tek.nr ritningsnummer ritningsnr ritn.nr ritning tegningsnummer tegningsnr tegn.nr tegningnr piirustusnumero piirustusnro nrrysunku numerrysunku cislovykresu"),
        (TitleFieldKind.Title, "title drawingtitle sheettitle documenttitle designation nameofdrawing benennung titel bezeichnung planinhalt planbezeichnung zeichnungstitel titre intitule titulo denominacion titolo denominazione "
            + "omschrijving benaming benamning beskrivelse tittel nimitys nazwa tytul nazwarysunku nazev"),
        (TitleFieldKind.Revision, "rev revision revno rev.no revisionno revisionindex index ind issue version ver anderung aenderung anderungsindex anderungsstand indice revisione revisie wijziging revisjon andring utgava rewizja zmiana revize"),
        (TitleFieldKind.Sheet, "sheet sheetno sheet.no sheetnumber blatt blattnr blatt-nr feuille folio planche hoja foglio blad bladnr ark arknr side strona arkusz list page"),
        (TitleFieldKind.Scale, "scale massstab mst m. echelle escala scala schaal skala skale malestokk malestok meritko mittakaava podzialka"),
        (TitleFieldKind.Date, "date datum dato fecha dataemissione dateofissue issuedate issued paivays datarysunku"),
        (TitleFieldKind.Drawn, "drawn drawnby dr.by creator createdby designedby designed gezeichnet gez bearbeitet bearb erstellt dessine dessinepar dibujado disegnato getekend ritad ritadav tegnet tegnetav kreslil rysowal piirtanyt"),
        (TitleFieldKind.Checked, "checked checkedby chk chkd chk.by gepruft gepr verifie verifiepar comprobado revisado controllato verificato gecontroleerd granskad kontrollert kontrolleret sprawdzil kontroloval tarkastanut"),
        (TitleFieldKind.Approved, "approved approvedby appr app.by freigegeben genehmigt approuve approuvepar aprobado approvato goedgekeurd godkand godkandav godkjent godkendt zatwierdzil schvalil hyvaksynyt"),
        (TitleFieldKind.Project, "project projectname projectno projekt projektnr bauvorhaben objekt projet proyecto progetto prosjekt hanke zakazka"),
        (TitleFieldKind.Client, "client customer owner legalowner auftraggeber bauherr kunde maitredouvrage propietario committente cliente opdrachtgever bestallare oppdragsgiver byggherre inwestor"),
        (TitleFieldKind.Material, "material matl werkstoff matiere materiau materiale materiaal aineinen materialspec"),
    }.SelectMany(k => k.Words.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => (w, k.Kind))).DistinctBy(p => p.w).ToDictionary(p => p.w, p => p.Kind);
}
