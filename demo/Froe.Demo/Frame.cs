namespace Froe.Demo;

/// <summary>What a title block says.</summary>
internal sealed record Title(string Number, string Words, string Revision, string Scale, string Drawn, string Mass, string Material, string Sheet = "1 / 1");

/// <summary>The border with its grid reference fields (ISO 5457), the title block (ISO 7200), the revision table and the parts list.</summary>
internal static class Frame
{
    public static void Draw(Pen pen, double w, double h, Title title, (string Mark, string What, string Date)[] revisions, (string Item, string Name, string Material, string Count)[] parts, string[] notes)
    {
        pen.On("BORDER").Rect(20, 10, w - 10, h - 10);
        pen.On("THIN").Rect(15, 5, w - 5, h - 5);
        pen.Rect(0, 0, w, h);
        Zones(pen, w, h);
        const double Wide = 180;
        double left = w - 10 - Wide, bottom = 10;
        pen.On("TITLE BLOCK").Rect(left, bottom, left + Wide, bottom + 48);
        foreach (var y in new[] { 12.0, 24, 36 }) pen.Line(left, bottom + y, left + Wide, bottom + y);
        foreach (var x in new[] { 45.0, 90, 135 }) pen.Line(left + x, bottom + 24, left + x, bottom + 36);
        pen.Line(left + 140, bottom, left + 140, bottom + 24);
        pen.On("TEXT");
        pen.Text(left + 3, bottom + 43.2, 3.5, "TALLOWMERE OBSERVATORY");
        pen.Text(left + 3, bottom + 38.2, 2.2, "1.1 m reflector refit");
        Field(0, "Drawn", title.Drawn);
        Field(45, "Scale", title.Scale);
        Field(90, "Mass", title.Mass);
        Field(135, "Material", title.Material);
        pen.Text(left + 3, bottom + 16, 4, title.Words.ToUpperInvariant());
        pen.Text(left + 143, bottom + 20.5, 1.8, "Sheet");
        pen.Text(left + 143, bottom + 15, 3.5, title.Sheet);
        pen.Text(left + 3, bottom + 3.5, 5, title.Number);
        pen.Text(left + 143, bottom + 8.5, 1.8, "Revision");
        pen.Text(left + 143, bottom + 2.5, 5, title.Revision);
        Projection(pen, left + 110, bottom + 6);
        Revisions(pen, left, h - 10, Wide, revisions);
        Parts(pen, left, bottom + 48, Wide, parts);
        if (notes.Length > 0) pen.On("TEXT").MText(26, 18 + (notes.Length * 5.0), 2.8, 150, string.Join("\\P", notes.Select((n, i) => $"{i + 1}  {n}")));

        void Field(double x, string label, string value)
        {
            pen.Text(left + x + 3, bottom + 32.5, 1.8, label);
            pen.Text(left + x + 3, bottom + 26.5, 3, value);
        }
    }

    private static void Zones(Pen pen, double w, double h)
    {
        const string Letters = "ABCDEFGHJKLMNPQRSTUVWXYZ";
        int across = (int)(w / 100) * 2, down = (int)(h / 100) * 2;
        for (var i = 0; i <= across; i++)
        {
            var x = (w / 2) + ((i - (across / 2)) * 50.0);
            if (i > 0 && i < across)
            {
                pen.On("THIN").Line(x, 5, x, 10);
                pen.Line(x, h - 5, x, h - 10);
            }
            if (i == across) continue;
            pen.On("TEXT").Text(Math.Clamp(x + 25, 20, w - 12), 7.5, 2.5, $"{i + 1}", 4);
            pen.Text(Math.Clamp(x + 25, 20, w - 12), h - 7.5, 2.5, $"{i + 1}", 4);
        }
        for (var i = 0; i <= down; i++)
        {
            var y = (h / 2) - ((i - (down / 2)) * 50.0);
            if (i > 0 && i < down)
            {
                pen.On("THIN").Line(15, y, 20, y);
                pen.Line(w - 5, y, w - 10, y);
            }
            if (i == down) continue;
            pen.On("TEXT").Text(17.5, Math.Clamp(y - 25, 12, h - 12), 2.5, $"{Letters[i]}", 4);
            pen.Text(w - 7.5, Math.Clamp(y - 25, 12, h - 12), 2.5, $"{Letters[i]}", 4);
        }
    }

    /// <summary>The symbol of first angle projection (ISO 5456-2).</summary>
    private static void Projection(Pen pen, double x, double y)
    {
        pen.On("THIN").Poly(true, x, y - 2, x + 8, y - 4, x + 8, y + 4, x, y + 2);
        pen.Circle(x + 17, y, 4);
        pen.Circle(x + 17, y, 2);
        pen.On("CENTRE LINES").Line(x - 3, y, x + 24, y);
        pen.Line(x + 17, y - 5.5, x + 17, y + 5.5);
    }

    private static void Revisions(Pen pen, double left, double top, double wide, (string Mark, string What, string Date)[] rows)
    {
        var height = 6.0 * (rows.Length + 1);
        pen.On("TITLE BLOCK").Rect(left, top - height, left + wide, top);
        pen.Line(left + 14, top - height, left + 14, top);
        pen.Line(left + 145, top - height, left + 145, top);
        Row(0, "Rev", "Change", "Date");
        for (var i = 0; i < rows.Length; i++) Row(i + 1, rows[i].Mark, rows[i].What, rows[i].Date);

        void Row(int i, string a, string b, string c)
        {
            var y = top - (6.0 * (i + 1));
            if (i > 0) pen.On("TITLE BLOCK").Line(left, y + 6, left + wide, y + 6);
            pen.On("TEXT").Text(left + 3, y + 1.8, 2.4, a);
            pen.Text(left + 17, y + 1.8, 2.4, b);
            pen.Text(left + 148, y + 1.8, 2.4, c);
        }
    }

    private static void Parts(Pen pen, double left, double bottom, double wide, (string Item, string Name, string Material, string Count)[] rows)
    {
        if (rows.Length == 0) return;
        var height = 6.0 * (rows.Length + 1);
        pen.On("TITLE BLOCK").Rect(left, bottom, left + wide, bottom + height);
        foreach (var x in new[] { 14.0, 95, 155 }) pen.Line(left + x, bottom, left + x, bottom + height);
        Row(0, "Item", "Part", "Material", "No.");
        for (var i = 0; i < rows.Length; i++) Row(i + 1, rows[i].Item, rows[i].Name, rows[i].Material, rows[i].Count);

        void Row(int i, string a, string b, string c, string d)
        {
            var y = bottom + (6.0 * i);
            if (i > 0) pen.On("TITLE BLOCK").Line(left, y, left + wide, y);
            pen.On("TEXT").Text(left + 3, y + 1.8, 2.4, a);
            pen.Text(left + 17, y + 1.8, 2.4, b);
            pen.Text(left + 98, y + 1.8, 2.4, c);
            pen.Text(left + 158, y + 1.8, 2.4, d);
        }
    }
}
