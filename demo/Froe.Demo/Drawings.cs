namespace Froe.Demo;

/// <summary>The sheets of the Tallowmere demo, all made up. Drafts of one sheet are the same code with other numbers.</summary>
internal static partial class Drawings
{
    public static int WriteAll(string folder)
    {
        Directory.CreateDirectory(folder);
        BearingHousing(Path.Combine(folder, "TO-3301_A1.dxf"), "A.1", boltHole: 12, keyHoleX: 0, seal: "NBR");
        // Asked for: the bolt holes and the seal's grade. Not asked for: the lifting hole has moved.
        BearingHousing(Path.Combine(folder, "TO-3301_A2.dxf"), "A.2", boltHole: 14, keyHoleX: 6, seal: "FKM 75");
        SealRetainer(Path.Combine(folder, "TO-3305_A1.dxf"), "A.1", lip: 2.5, tapped: "M5");
        SealRetainer(Path.Combine(folder, "TO-3305_A2.dxf"), "A.2", lip: 3, tapped: "M6");
        CounterweightShaft(Path.Combine(folder, "TO-3302_A1.dxf"));
        ForkArm(Path.Combine(folder, "TO-3310_A1.dxf"));
        PierFoundation(Path.Combine(folder, "TO-1105_A1.dxf"));
        ShutterRail(Path.Combine(folder, "TO-2207_A1.dxf"));
        CabinetWiring(Path.Combine(folder, "TO-4420_A1.dxf"));
        Pier.WriteAll(folder);
        Mount.WriteAll(folder);
        return 0;
    }

    private static void BearingHousing(string file, string revision, double boltHole, double keyHoleX, string seal)
    {
        const double W = 594, H = 420;
        var pen = new DxfPen(W, H);
        double cx = 165, cy = 250;
        pen.On("OUTLINE").Rect(cx - 105, cy - 105, cx + 105, cy + 105);
        foreach (var r in new[] { 86.0, 66, 62, 44 }) pen.Circle(cx, cy, r);
        pen.On("THIN").Circle(cx, cy, 58);
        pen.On("CENTRE LINES").Circle(cx, cy, 75);
        pen.Line(cx - 115, cy, cx + 115, cy);
        pen.Line(cx, cy - 115, cx, cy + 115);
        for (var i = 0; i < 12; i++)
        {
            var a = (15 + (i * 30)) * Math.PI / 180;
            double x = cx + (75 * Math.Cos(a)), y = cy + (75 * Math.Sin(a));
            pen.On("OUTLINE").Circle(x, y, boltHole / 4);
            pen.On("CENTRE LINES").Line(x - 5, y, x + 5, y);
            pen.Line(x, y - 5, x, y + 5);
        }
        foreach (var (sx, sy) in new[] { (-1, -1), (-1, 1), (1, -1), (1, 1) })
        {
            double x = cx + (sx * 92.5), y = cy + (sy * 92.5);
            pen.On("OUTLINE").Circle(x, y, 7);
            pen.On("HIDDEN").Circle(x, y, 10);
            pen.On("CENTRE LINES").Line(x - 12, y, x + 12, y);
            pen.Line(x, y - 12, x, y + 12);
        }
        pen.On("OUTLINE").Circle(cx + keyHoleX, cy + 96, 4);
        pen.On("CENTRE LINES").Line(cx + keyHoleX, cy + 90, cx + keyHoleX, cy + 102);
        pen.Dimension(cx - 105, cy - 105, cx + 105, cy - 105, -36, "420");
        pen.Dimension(cx - 92.5, cy - 92.5, cx + 92.5, cy - 92.5, -38, "370");
        pen.Dimension(cx - 105, cy + 105, cx - 105, cy - 105, -16, "420");
        pen.Leader(cx + (75 * 0.966), cy + (75 * 0.259), cx + 122, cy + 78, $"12 × Ø{boltHole:0} on Ø300");
        pen.Leader(cx + 62, cy - 8, cx + 122, cy - 60, "Ø248 H7");
        pen.Leader(cx + keyHoleX + 3, cy + 99, cx + 60, cy + 122, "M16 for lifting eye");
        CuttingLine(pen, cx, cy - 122, cy + 122);

        // Section A-A: the housing's wall, cut through the middle, above and below the bore.
        double sx0 = 320;
        foreach (var side in new[] { 1, -1 })
        {
            double[] outline =
            [
                sx0, cy + (side * 105), sx0 + 26, cy + (side * 105), sx0 + 26, cy + (side * 86), sx0 + 64, cy + (side * 86), sx0 + 64, cy + (side * 62),
                sx0 + 52, cy + (side * 62), sx0 + 52, cy + (side * 66), sx0 + 16, cy + (side * 66), sx0 + 16, cy + (side * 44), sx0, cy + (side * 44),
            ];
            pen.On("HATCHING").Hatch(45, 3, outline);
            pen.On("OUTLINE").Poly(true, outline);
            double[] lip = [sx0 + 52, cy + (side * 66), sx0 + 60, cy + (side * 66), sx0 + 60, cy + (side * 58), sx0 + 52, cy + (side * 58)];
            pen.On("HATCHING").Hatch(135, 1.2, lip);
            pen.On("OUTLINE").Poly(true, lip);
        }
        foreach (var x in new[] { 0.0, 16, 52, 64 }) pen.On("THIN").Line(sx0 + x, cy - 44, sx0 + x, cy + 44);
        pen.On("CENTRE LINES").Line(sx0 - 12, cy, sx0 + 78, cy);
        pen.On("TEXT").Text(sx0 + 32, cy + 116, 4, "SECTION A–A", 1);
        pen.Dimension(sx0, cy - 105, sx0 + 26, cy - 105, -10, "52");
        pen.Dimension(sx0, cy - 105, sx0 + 64, cy - 105, -20, "128");
        pen.Dimension(sx0 + 16, cy - 66, sx0 + 16, cy + 66, 30, "Ø264 H7");
        pen.Dimension(sx0 + 64, cy + 62, sx0 + 64, cy + 86, -12, "48");
        Detail(pen, 470, cy + 60);
        Frame.Draw(
            pen, W, H, new Title("TO-3301", "Declination bearing housing", revision, "1 : 2", "OB 02-11", "48.2 kg", "EN-GJS-400"),
            revision == "A.1" ? [("A.1", "First draft", "02-11")] : [("A.1", "First draft", "02-11"), ("A.2", "Bolt holes, seal material", "12-11")],
            [("1", "Housing", "EN-GJS-400-15", "1"), ("2", "Bearing 6048", "—", "2"), ("3", "Seal, radial 240", seal, "2"), ("4", "Retaining ring", "A2-70", "1")],
            ["BREAK SHARP EDGES 0.5", "BORE AND SEAT IN ONE SETTING", "TORQUE M12 TO 79 N·m, DRY", "SURFACES Ra 3.2 UNLESS STATED"]);
        pen.Save(file);
    }

    private static void CuttingLine(DxfPen pen, double x, double low, double high)
    {
        pen.On("CENTRE LINES").Line(x, low, x, high);
        foreach (var (y, d) in new[] { (low, 1), (high, -1) })
        {
            pen.On("OUTLINE").Line(x, y, x, y + (d * 6));
            pen.Solid(x + 8, y, x + 4, y + 1, x + 4, y - 1);
            pen.Line(x, y, x + 5, y);
            pen.On("TEXT").Text(x - 6, y - 2, 4, "A");
        }
    }

    private static void Detail(DxfPen pen, double x, double y)
    {
        pen.On("THIN").Circle(x, y, 34);
        double[] wall = [x - 30, y - 16, x - 4, y - 16, x - 4, y + 6, x + 12, y + 6, x + 12, y - 16, x + 30, y - 16, x + 24, y - 24, x, y - 34, x - 24, y - 24];
        pen.On("HATCHING").Hatch(45, 4, wall);
        pen.On("OUTLINE").Poly(false, x - 30, y - 16, x - 4, y - 16, x - 4, y + 6, x + 12, y + 6, x + 12, y - 16, x + 30, y - 16);
        pen.Arc(x - 1, y + 3, 3, 90, 180);
        pen.Leader(x - 3, y + 5, x - 24, y + 42, "R 1.6");
        pen.Dimension(x - 4, y + 6, x + 12, y + 6, 8, "8 +0.1");
        pen.On("TEXT").Text(x, y - 44, 4, "DETAIL B (2 : 1)", 1);
        pen.On("THIN").Spline(x + 30, y - 16, x + 22, y - 20, x + 27, y - 25, x + 14, y - 30, x + 2, y - 34);
    }

    private static void SealRetainer(string file, string revision, double lip, string tapped)
    {
        const double W = 420, H = 297;
        var pen = new DxfPen(W, H);
        double cx = 120, cy = 175;
        foreach (var r in new[] { 78.0, 60, 60 - lip, 52 }) pen.On("OUTLINE").Circle(cx, cy, r);
        pen.On("CENTRE LINES").Circle(cx, cy, 69);
        pen.Line(cx - 86, cy, cx + 86, cy);
        pen.Line(cx, cy - 86, cx, cy + 86);
        pen.Block("TAPPED", () =>
        {
            pen.On("OUTLINE").Circle(0, 0, 2.1);
            pen.On("THIN").Arc(0, 0, 2.5, 0, 270);
            pen.On("CENTRE LINES").Line(-4, 0, 4, 0);
            pen.Line(0, -4, 0, 4);
        });
        for (var i = 0; i < 16; i++)
        {
            var a = i * Math.PI / 8;
            pen.On("OUTLINE").Insert("TAPPED", cx + (69 * Math.Cos(a)), cy + (69 * Math.Sin(a)), 1, i * 22.5);
        }
        double sx = 250;
        foreach (var side in new[] { 1, -1 })
        {
            double[] cut = [sx, cy + (side * 78), sx + 12, cy + (side * 78), sx + 12, cy + (side * 60), sx + 8, cy + (side * 60), sx + 8, cy + (side * (60 - lip)), sx, cy + (side * 52)];
            pen.On("HATCHING").Hatch(45, 2.2, cut);
            pen.On("OUTLINE").Poly(true, cut);
        }
        pen.On("THIN").Line(sx, cy - 52, sx, cy + 52);
        pen.Line(sx + 12, cy - 60, sx + 12, cy + 60);
        pen.On("CENTRE LINES").Line(sx - 8, cy, sx + 22, cy);
        pen.On("TEXT").Text(sx + 6, cy + 88, 3.5, "SECTION A–A", 1);
        pen.Dimension(sx, cy - 78, sx + 12, cy - 78, -10, "12");
        pen.Dimension(sx + 12, cy - 60, sx + 12, cy + 60, -18, "Ø240 g6");
        pen.Dimension(sx + 12, cy - 78, sx + 12, cy + 78, -28, "Ø312");
        pen.Leader(cx + 69, cy, cx + 92, cy + 60, $"16 × {tapped}, 10 deep, on Ø276");
        pen.Leader(sx + 8, cy + 60 - lip, sx + 40, cy + 96, $"Lip {lip:0.0}");
        pen.Dimension(cx - 78, cy - 78, cx + 78, cy - 78, -12, "Ø312");
        Frame.Draw(
            pen, W, H, new Title("TO-3305", "Seal retainer", revision, "1 : 2", "OB 03-11", "2.9 kg", "EN AW-6082"),
            revision == "A.1" ? [("A.1", "First draft", "03-11")] : [("A.1", "First draft", "03-11"), ("A.2", "Lip and thread", "13-11")],
            [("1", "Retainer", "EN AW-6082 T6", "1")], ["ANODISE 15 µm, BLACK", "FLATNESS 0.05 OVER THE SEAL FACE"]);
        pen.Save(file);
    }

    private static void CounterweightShaft(string file)
    {
        const double W = 594, H = 420;
        var pen = new DxfPen(W, H);
        double x = 60, cy = 285;
        (double Length, double Radius)[] steps = [(40, 14), (12, 22), (150, 18), (90, 20), (12, 26), (110, 16), (36, 12)];
        var at = x;
        foreach (var (length, radius) in steps)
        {
            pen.On("OUTLINE").Rect(at, cy - radius, at + length, cy + radius);
            at += length;
        }
        for (var i = 0; i < 38; i++) pen.On("THIN").Line(x + i, cy - 14, x + i + 1, cy + 14);
        for (var i = 0; i < 34; i++) pen.On("THIN").Line(at - 36 + i, cy - 12, at - 35 + i, cy + 12);
        pen.On("CENTRE LINES").Line(x - 12, cy, at + 12, cy);
        pen.On("OUTLINE").Bulged(true, new() { [1] = 1, [3] = 1 }, x + 80, cy - 4, x + 120, cy - 4, x + 120, cy + 4, x + 80, cy + 4);
        var from = x;
        foreach (var (length, _) in steps)
        {
            if (length > 20) pen.Dimension(from, cy - 26, from + length, cy - 26, -12, $"{length * 2:0}");
            from += length;
        }
        pen.Dimension(x, cy - 26, at, cy - 26, -26, $"{(at - x) * 2:0}");
        pen.Leader(x + 150, cy + 18, x + 180, cy + 48, "Ø72 f7, ground");
        pen.Leader(x + 250, cy + 20, x + 290, cy + 58, "Ø80 h6");
        pen.Leader(x + 20, cy + 14, x + 40, cy + 44, "M56 × 2");
        foreach (var (sx, r, name) in new[] { (110.0, 36.0, "B–B"), (215.0, 40.0, "C–C"), (320.0, 32.0, "D–D") })
        {
            var ring = DxfPen.Ring(sx, 130, r);
            pen.On("HATCHING").Hatch(45, 3, ring, DxfPen.Ring(sx, 130, 8, 36));
            pen.On("OUTLINE").Circle(sx, 130, r);
            pen.Circle(sx, 130, 8);
            pen.On("CENTRE LINES").Line(sx - r - 6, 130, sx + r + 6, 130);
            pen.Line(sx, 124 - r, sx, 136 + r);
            pen.On("TEXT").Text(sx, 178, 4, "SECTION " + name, 1);
            pen.Dimension(sx - r, 130, sx + r, 130, -r - 14, $"Ø{r * 2:0}");
        }
        Frame.Draw(
            pen, W, H, new Title("TO-3302", "Counterweight shaft", "A.1", "1 : 2", "OB 28-10", "61.0 kg", "42CrMo4 +QT"),
            [("A.1", "First draft", "28-10")], [("1", "Shaft", "42CrMo4 +QT", "1"), ("2", "Key 16 × 10 × 80", "C45", "1"), ("3", "Lock nut M56 × 2", "Steel 8", "2")],
            ["CENTRE HOLES ISO 6411 A 4/8.5", "RUNOUT 0.02 BETWEEN SEATS", "RADIUS 1.6 AT SHOULDERS"]);
        pen.Save(file);
    }

    private static void ForkArm(string file)
    {
        const double W = 594, H = 420;
        var pen = new DxfPen(W, H);
        double x = 60, y = 120;
        pen.On("OUTLINE").Bulged(true, new() { [2] = 0.4, [5] = -0.3 }, x, y, x + 70, y, x + 110, y + 130, x + 60, y + 230, x - 10, y + 230, x - 10, y + 150, x + 20, y + 90);
        pen.Circle(x + 30, y + 195, 24);
        pen.Circle(x + 30, y + 195, 18);
        pen.Ellipse(x + 48, y + 120, 14, 26, 0.5);
        for (var i = 0; i < 8; i++)
        {
            var a = i * Math.PI / 4;
            pen.Circle(x + 30 + (21 * Math.Cos(a)), y + 195 + (21 * Math.Sin(a)), 1.6);
        }
        for (var i = 0; i < 6; i++)
        {
            pen.On("HIDDEN").Line(x + 4 + (i * 2), y + 12 + (i * 22), x + 68 + (i * 5), y + 12 + (i * 22));
            pen.Line(x + 4 + (i * 2), y + 15 + (i * 22), x + 68 + (i * 5), y + 15 + (i * 22));
        }
        pen.Dimension(x, y, x + 70, y, -14, "700");
        pen.Dimension(x - 10, y + 230, x, y, -30, "2 302");
        pen.Leader(x + 54, y + 195, x + 90, y + 250, "Ø480 H7");
        double sx = 260;
        pen.On("OUTLINE").Rect(sx, y, sx + 60, y + 230);
        foreach (var wall in new[] { new[] { sx, y, sx + 6, y, sx + 6, y + 230, sx, y + 230 }, [sx + 54, y, sx + 60, y, sx + 60, y + 230, sx + 54, y + 230] })
        {
            pen.On("HATCHING").Hatch(45, 2, wall);
            pen.On("OUTLINE").Poly(true, wall);
        }
        for (var i = 0; i < 9; i++)
        {
            double ry = y + 10 + (i * 25);
            double[] rib = [sx + 6, ry, sx + 54, ry, sx + 54, ry + 4, sx + 6, ry + 4];
            pen.On("HATCHING").Hatch(135, 1.6, rib);
            pen.On("OUTLINE").Poly(true, rib);
            pen.Fill([sx + 6, ry + 4, sx + 9, ry + 4, sx + 6, ry + 7], [sx + 54, ry + 4, sx + 51, ry + 4, sx + 54, ry + 7]);
            pen.Leader(sx + 54, ry + 2, sx + 84, ry + 12, $"Rib {i + 1}, t 12, a 5");
        }
        pen.Dimension(sx, y, sx + 60, y, -14, "600");
        pen.On("TEXT").Text(sx + 30, y + 240, 4, "SECTION A–A", 1);
        Frame.Draw(
            pen, W, H, new Title("TO-3310", "Fork arm, east", "A.1", "1 : 10", "OB 30-10", "1 284 kg", "S355J2+N"),
            [("A.1", "First draft", "30-10")],
            [("1", "Cheek plate, outer", "S355J2+N t 15", "1"), ("2", "Cheek plate, inner", "S355J2+N t 15", "1"), ("3", "Rib", "S355J2+N t 12", "9"), ("4", "Bearing boss", "S355J2+N", "1"), ("5", "Base flange", "S355J2+N t 40", "1")],
            ["WELDS ISO 5817 B, ALL ROUND", "STRESS RELIEVE BEFORE MACHINING", "PAINT SYSTEM C3, RAL 7035"]);
        pen.Save(file);
    }
}
