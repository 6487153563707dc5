using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>Lines without end, lines side by side, meshes and pictures.</summary>
internal sealed partial class EntityDrawer
{
    private const int MostEndless = 10_000;

    /// <summary>A line without end, drawn when it is known how far the drawing reaches.</summary>
    private sealed record Endless(SheetBuilder Sheet, EntityLook Look, PointXY From, PointXY Way, bool IsRay);

    private readonly List<Endless> endless = [];
    private readonly List<(SheetBuilder Sheet, EntityLook Look, string Definition, PointXY At, PointXY Along, PointXY Up, IReadOnlyList<PointXY>? Clip)> pictures = [];

    private void WithoutEnd(Record e, in Placement at, bool isRay)
    {
        PointXY way = FlatVector(at.Map, e.Point(11));
        if (endless.Count >= MostEndless) Skip(e.Type, $"only the first {MostEndless:N0} lines without end are drawn");
        else if (double.IsFinite(way.X) && double.IsFinite(way.Y) && (way.X != 0 || way.Y != 0)) endless.Add(new(builder, Look, Flat(at.Map, e.Point(10)), way, isRay));
    }

    /// <summary>Lines without end go as far as everything else on their sheet, and a twentieth more.</summary>
    private void DrawEndless()
    {
        foreach (var sheet in endless.GroupBy(x => x.Sheet))
        {
            var box = sheet.Key.Extents;
            // With nothing else there, what matters is where they pass.
            if (box.IsEmpty) box = sheet.Aggregate(Extents.Empty, (b, x) => b.With(x.From.X, x.From.Y));
            var margin = Math.Max(box.Diagonal / 20, 1e-9 + (box.Diagonal == 0 ? 50 : 0));
            var window = new Extents(box.MinX - margin, box.MinY - margin, box.MaxX + margin, box.MaxY + margin);
            builder = sheet.Key;
            foreach (var line in sheet)
            {
                // Long enough to leave the window, whichever way it goes.
                var reach = (window.Diagonal + Distance(line.From, new((window.MinX + window.MaxX) / 2, (window.MinY + window.MaxY) / 2))) / Distance(default, line.Way);
                PointXY a = line.IsRay ? line.From : new(line.From.X - (reach * line.Way.X), line.From.Y - (reach * line.Way.Y));
                PointXY b = new(line.From.X + (reach * line.Way.X), line.From.Y + (reach * line.Way.Y));
                if (!double.IsFinite(a.X + a.Y + b.X + b.Y) || !Cutting.ToBox(ref a, ref b, window)) continue;
                builder.Begin(line.Look);
                builder.Line(a, b);
            }
        }
    }

    /// <summary>Lines side by side: at each vertex the entity says how far along its mitre each of them passes.</summary>
    private void MultiLine(Record e, in Placement at)
    {
        var elements = Math.Clamp(e.GetInt(73), 0, 16);
        var lines = Enumerable.Range(0, elements).Select(_ => new List<PointXY>()).ToArray();
        Point3 vertex = default, mitre = default;
        int element = -1, wanted = 0, seen = 0;
        for (var i = 0; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 11: (vertex, element) = (Following(e, i), -1); break;
                case 13: mitre = Following(e, i); break;
                case 74: (wanted, seen) = ((int)Math.Clamp(e.Number(i), 0, 1000), 0); element++; break;
                case 41 when seen++ == 0 && wanted > 0 && element >= 0 && element < elements:
                    lines[element].Add(Flat(at.Map, vertex + (e.Number(i) * mitre)));
                    break;
            }
        var isClosed = (e.GetInt(71) & 2) != 0;
        if (lines.All(l => l.Count < 2)) Skip(e.Type, "it says nowhere how its lines run");
        foreach (var line in lines)
            if (line.Count > 1) builder.Path(line, isClosed);
    }

    /// <summary>The cage of a mesh: its faces before they are smoothed.</summary>
    private void MeshCage(Record e, in Placement at)
    {
        List<PointXY> corners = [];
        List<int> faces = [];
        bool inVertices = false, inFaces = false;
        for (var i = 0; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 92: (inVertices, inFaces) = (true, false); break;
                case 93: (inVertices, inFaces) = (false, true); break;
                case 94 or 95: (inVertices, inFaces) = (false, false); break;
                case 10 when inVertices: corners.Add(Flat(at.Map, Following(e, i))); break;
                case 90 when inFaces: faces.Add((int)Math.Clamp(e.Number(i), -1, int.MaxValue)); break;
            }
        var drawn = new HashSet<(int, int)>();
        for (var i = 0; i < faces.Count;)
        {
            var count = faces[i++];
            if (count < 2 || count > faces.Count - i) break;
            for (var k = 0; k < count; k++)
            {
                int a = faces[i + k], b = faces[i + ((k + 1) % count)];
                if (a >= 0 && b >= 0 && a < corners.Count && b < corners.Count && drawn.Add((Math.Min(a, b), Math.Max(a, b)))) builder.Line(corners[a], corners[b]);
            }
            i += count;
        }
        if (drawn.Count == 0) Skip(e.Type, "it names no faces");
    }

    /// <summary>The frame of a picture that lies beside the drawing; its name is known when the file's objects have been read.</summary>
    private void ImageFrame(Record e, in Placement at)
    {
        PointXY origin = Flat(at.Map, e.Point(10)), u = FlatVector(at.Map, e.Get(13, 1) * e.Point(11)), v = FlatVector(at.Map, e.Get(23, 1) * e.Point(12));
        builder.Path([origin, new(origin.X + u.X, origin.Y + u.Y), new(origin.X + u.X + v.X, origin.Y + u.Y + v.Y), new(origin.X + v.X, origin.Y + v.Y)], closed: true);
        Skip(e.Type, "its frame is drawn; the picture itself is a file of its own, shown where that is in the package");
        if (pictures.Count < 1000) pictures.Add((builder, Look, System.Text.Encoding.ASCII.GetString(e.GetText(340)), origin, u, v, ClipOf(e)));
    }

    /// <summary>What is shown of a picture, as shares of it: a rectangle by two corners, or a polygon, in its points from the upper left one's middle (DXF reference, IMAGE, groups 71, 14 and 280).</summary>
    private static List<PointXY>? ClipOf(Record e)
    {
        double wide = e.Get(13, 1), high = e.Get(23, 1);
        if (e.GetInt(280) == 0 || !(wide > 0) || !(high > 0)) return null;
        var corners = CornersOf(e, PlacedPicture.MostCorners);
        if (corners is [var a, var b]) corners = [a, new(b.X, a.Y), b, new(a.X, b.Y)];
        return corners.Count < 3 ? null : corners.ConvertAll(c => new PointXY((c.X + 0.5) / wide, (c.Y + 0.5) / high));
    }

    private static List<PointXY> CornersOf(Record e, int most)
    {
        var corners = new List<PointXY>();
        for (var i = 0; i + 1 < e.Count && corners.Count < most; i++)
            if (e.Code(i) == 14 && e.Code(i + 1) == 24) corners.Add(new(e.Number(i), e.Number(i + 1)));
        return corners;
    }

    /// <summary>An area that hides what is beneath it: a rectangle, or a polygon in the points of a picture, whose rows run downwards from its upper left corner (DXF reference, WIPEOUT and IMAGE).</summary>
    private void Wipeout(Record e, in Placement at)
    {
        PointXY origin = Flat(at.Map, e.Point(10)), u = FlatVector(at.Map, e.Point(11)), v = FlatVector(at.Map, e.Point(12));
        double high = e.Get(23, 1);
        PointXY At(double x, double y) => new(origin.X + ((x + 0.5) * u.X) + ((high - y - 0.5) * v.X), origin.Y + ((x + 0.5) * u.Y) + ((high - y - 0.5) * v.Y));
        var corners = CornersOf(e, 10_000);
        // Two corners are those of a rectangle; without any it is the whole picture.
        if (corners.Count == 0) corners = [new(-0.5, -0.5), new(e.Get(13, 1) - 0.5, high - 0.5)];
        if (corners is [var a, var b]) corners = [a, new(b.X, a.Y), b, new(a.X, b.Y)];
        builder.Mask([corners.ConvertAll(c => At(c.X, c.Y))]);
    }

    /// <summary>Transparencies (group 440): none of its own, which is its layer's or its block's; the least byte is how much covers, all of it at 255.</summary>
    private const int OwnTransparency = 0x02000000, Opaque = 255;

    /// <summary>A filled hatch hides what is beneath it unless it can be seen through.</summary>
    private void HideBeneath(Record e, IReadOnlyList<IReadOnlyList<PointXY>> loops)
    {
        var stated = e.GetInt(440);
        var covers = (stated & OwnTransparency) != 0 ? stated & 255 : tables.Layers[Look.Layer].Covers;
        if (covers != Opaque) return;
        if (PaperInk.OnPaper(Look.Rgb) == White) builder.Mask(loops);
        else builder.Cover(loops);
    }

    /// <summary>A filled area of the colour of paper hides what is beneath it as well.</summary>
    private void MaskWhite(IReadOnlyList<IReadOnlyList<PointXY>> loops)
    {
        if (PaperInk.OnPaper(Look.Rgb) == White) builder.Mask(loops);
    }

    private const int White = 0xFFFFFF;

    /// <summary>Names of pictures, small in the corner of their frames: where the picture is at hand it lies beneath.</summary>
    private void NamePictures(IReadOnlyDictionary<string, string> files)
    {
        foreach (var (sheet, look, definition, at, u, v, clip) in pictures)
        {
            if (!files.TryGetValue(definition, out var file) || file.Length == 0) continue;
            var name = file[(file.LastIndexOfAny(['/', '\\']) + 1)..];
            sheet.Picture(new PlacedPicture(name, at, u, v, look.Layer, clip));
            double wide = Distance(default, u), high = Distance(default, v), size = Math.Min(high / 25, 0.8 * wide / Math.Max(1, Lettering.Width(name)));
            if (!(size > 0) || !double.IsFinite(size)) continue;
            sheet.Begin(look);
            PointXY along = new(u.X / wide * size, u.Y / wide * size), up = new(v.X / high * size, v.Y / high * size);
            sheet.Text(new TextRun(name, new(at.X + along.X + up.X, at.Y + along.Y + up.Y), along, up, 0, 0, 0));
        }
    }
}
