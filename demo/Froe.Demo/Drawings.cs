namespace Froe.Demo;

/// <summary>The sheets of the Tallowmere demo, all made up. Drafts of one sheet are the same code with other numbers.</summary>
internal static class Drawings
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

    private static void PierFoundation(string file)
    {
        const double W = 841, H = 594;
        var pen = new DxfPen(W, H);
        double cx = 210, cy = 380;
        pen.Block("BAR", () =>
        {
            pen.On("REINFORCEMENT").Circle(0, 0, 1);
            pen.Line(-0.7, -0.7, 0.7, 0.7);
            pen.Line(-0.7, 0.7, 0.7, -0.7);
        });
        pen.On("OUTLINE").Rect(cx - 150, cy - 150, cx + 150, cy + 150);
        foreach (var r in new[] { 70.0, 66, 40 }) pen.Circle(cx, cy, r);
        for (var i = 0; i <= 58; i++)
        {
            var at = -145 + (i * 5.0);
            pen.On("REINFORCEMENT").Line(cx + at, cy - 146, cx + at, cy + 146);
            pen.Line(cx - 146, cy + at, cx + 146, cy + at);
        }
        for (var i = 0; i < 48; i++)
        {
            var a = i * Math.PI / 24;
            pen.On("REINFORCEMENT").Insert("BAR", cx + (62 * Math.Cos(a)), cy + (62 * Math.Sin(a)), 1, i * 7.5);
            pen.Insert("BAR", cx + (44 * Math.Cos(a)), cy + (44 * Math.Sin(a)), 1, i * 7.5);
        }
        pen.On("CENTRE LINES").Line(cx - 165, cy, cx + 165, cy);
        pen.Line(cx, cy - 165, cx, cy + 165);
        pen.Dimension(cx - 150, cy - 150, cx + 150, cy - 150, -18, "6 000");
        pen.Dimension(cx - 150, cy + 150, cx - 150, cy - 150, -14, "6 000");
        pen.Leader(cx + 62, cy + 10, cx + 170, cy + 100, "48 Ø20, both faces");
        pen.On("TEXT").Text(cx, cy + 172, 5, "PLAN  1 : 20", 1);

        // The section: pier on slab on blinding, with its bars and the stones of the concrete.
        double sx = 560, sy = 300;
        pen.On("OUTLINE").Rect(sx - 150, sy - 40, sx + 150, sy);
        pen.Rect(sx - 70, sy, sx + 70, sy + 180);
        double[] blinding = [sx - 158, sy - 46, sx + 158, sy - 46, sx + 158, sy - 40, sx - 158, sy - 40];
        pen.On("HATCHING").Hatch(45, 1.5, blinding);
        var random = new Random(1105);
        for (var i = 0; i < 900; i++)
        {
            var inSlab = i % 3 == 0;
            double px = inSlab ? sx - 147 + (random.NextDouble() * 294) : sx - 67 + (random.NextDouble() * 134), py = inSlab ? sy - 37 + (random.NextDouble() * 34) : sy + 3 + (random.NextDouble() * 174), s = 0.4 + (random.NextDouble() * 1.1);
            if (random.Next(3) > 0) pen.On("HATCHING").Poly(true, px, py, px + s, py + (s * 0.3), px + (s * 0.4), py + s);
            else pen.On("HATCHING").Line(px, py, px + (s * 0.3), py + (s * 0.2));
        }
        for (var i = 0; i < 60; i++)
        {
            pen.On("REINFORCEMENT").Insert("BAR", sx - 145 + (i * 4.9), sy - 36);
            pen.Insert("BAR", sx - 145 + (i * 4.9), sy - 4);
        }
        pen.On("REINFORCEMENT").Line(sx - 146, sy - 34, sx + 146, sy - 34);
        pen.Line(sx - 146, sy - 6, sx + 146, sy - 6);
        foreach (var bar in new[] { -64.0, -44, 44, 64 }) pen.Poly(false, sx + bar + (Math.Sign(bar) * 20), sy - 34, sx + bar, sy - 34, sx + bar, sy + 176);
        for (var i = 0; i < 22; i++) pen.Line(sx - 65, sy + 6 + (i * 8), sx + 65, sy + 6 + (i * 8));
        pen.On("THIN").Spline(sx - 200, sy + 4, sx - 185, sy + 7, sx - 172, sy + 2, sx - 160, sy + 5, sx - 150, sy + 3);
        pen.Spline(sx + 150, sy + 3, sx + 162, sy + 6, sx + 175, sy + 2, sx + 190, sy + 6, sx + 202, sy + 3);
        for (var i = 0; i < 9; i++)
        {
            pen.Line(sx - 198 + (i * 5), sy + 4, sx - 202 + (i * 5), sy - 1);
            pen.Line(sx + 156 + (i * 5), sy + 4, sx + 152 + (i * 5), sy - 1);
        }
        pen.Dimension(sx - 70, sy + 180, sx + 70, sy + 180, 12, "2 800");
        pen.Dimension(sx + 150, sy - 40, sx + 150, sy, -14, "800");
        pen.Dimension(sx + 70, sy, sx + 70, sy + 180, -30, "3 600");
        pen.Leader(sx + 65, sy + 62, sx + 120, sy + 110, "Ø10 hoops at 160");
        pen.Leader(sx - 120, sy - 6, sx - 150, sy + 60, "59 Ø20 each way, top and bottom");
        pen.On("TEXT").Text(sx, sy + 206, 5, "SECTION A–A  1 : 20", 1);
        BarSchedule(pen, 40, 185);
        Frame.Draw(
            pen, W, H, new Title("TO-1105", "Pier foundation", "A.1", "1 : 20", "FN 21-10", "—", "C30/37, B500B"),
            [("A.1", "Survey update, slab level", "21-10")], [], ["CONCRETE C30/37 XC4 XF1", "COVER 50, TOP 40", "NO CONTACT BETWEEN PIER AND BUILDING SLAB", "POUR PIER IN ONE GO"]);
        pen.Save(file);
    }

    private static void BarSchedule(DxfPen pen, double x, double top)
    {
        string[] heads = ["Mark", "Ø", "No.", "Length", "Shape", "Total, m", "Mass, kg"];
        for (var row = 0; row <= 18; row++)
        {
            var y = top - (row * 6);
            pen.On("TITLE BLOCK").Line(x, y, x + 210, y);
            if (row == 18) break;
            for (var c = 0; c < heads.Length; c++)
            {
                int count = 12 + (row * 7 % 48), length = 1450 + (row * 277 % 4400), size = new[] { 10, 12, 16, 20 }[row % 4];
                var total = count * length / 1000.0;
                var words = row == 0 ? heads[c] : c switch { 0 => $"P{row:00}", 1 => $"{size}", 2 => $"{count}", 3 => $"{length}", 4 => $"{row * 11 % 27:00}", 5 => $"{total:0.0}", _ => $"{total * size * size * 0.00617:0}" };
                pen.On("TEXT").Text(x + 3 + (c * 30), y - 4.4, 2.5, words);
            }
        }
        for (var c = 0; c <= heads.Length; c++) pen.On("TITLE BLOCK").Line(x + (c * 30), top, x + (c * 30), top - 108);
    }

    private static void ShutterRail(string file)
    {
        const double W = 594, H = 420;
        var pen = new DxfPen(W, H);
        double x = 90, y = 250;
        double[] rail =
        [
            x, y, x + 120, y, x + 120, y + 10, x + 72, y + 16, x + 68, y + 20, x + 68, y + 70, x + 72, y + 76, x + 88, y + 80, x + 88, y + 100,
            x + 80, y + 106, x + 40, y + 106, x + 32, y + 100, x + 32, y + 80, x + 48, y + 76, x + 52, y + 70, x + 52, y + 20, x + 48, y + 16, x, y + 10,
        ];
        pen.On("HATCHING").Hatch(45, 3, rail);
        pen.On("OUTLINE").Poly(true, rail);
        pen.Dimension(x, y, x + 120, y, -14, "120");
        pen.Dimension(x, y + 106, x, y, -14, "106");
        pen.Dimension(x + 52, y + 45, x + 68, y + 45, 2, "16");
        pen.On("TEXT").Text(x + 60, y + 118, 4, "RAIL SECTION  1 : 1", 1);
        double px = 60, py = 130;
        pen.Block("BOLT", () =>
        {
            pen.On("OUTLINE").Circle(0, 0, 4.5);
            pen.Poly(true, [.. Enumerable.Range(0, 6).SelectMany(i => new[] { 8 * Math.Cos(i * Math.PI / 3), 8 * Math.Sin(i * Math.PI / 3) })]);
            pen.On("THIN").Circle(0, 0, 10);
            pen.On("CENTRE LINES").Line(-12, 0, 12, 0);
            pen.Line(0, -12, 0, 12);
        });
        pen.On("OUTLINE").Rect(px, py - 30, px + 320, py + 30);
        pen.Line(px + 160, py - 30, px + 160, py + 30);
        pen.Rect(px + 60, py - 22, px + 260, py + 22);
        pen.On("DEVICES").Insert("BOLT", px + 85, py - 12, 0.8, 0, 6, 2, 30, 24);
        pen.Dimension(px + 60, py - 30, px + 260, py - 30, -14, "400");
        pen.Dimension(px + 85, py + 30, px + 115, py + 30, 8, "60");
        pen.On("TEXT").Text(px + 160, py + 52, 4, "JOINT, DRIVE SIDE  1 : 2", 1);
        for (var i = 0; i < 120; i++) pen.On("HATCHING").Line(px + 60 + (i * 1.66), py + 22, px + 61 + (i * 1.66), py + 30);
        double jx = 320, jy = 260;
        pen.On("OUTLINE").Arc(jx + 60, jy - 40, 130, 60, 120);
        pen.Arc(jx + 60, jy - 40, 124, 60, 120);
        pen.Arc(jx + 60, jy - 40, 112, 60, 120);
        for (var i = 0; i < 40; i++)
        {
            var a = (60 + (i * 1.5)) * Math.PI / 180;
            pen.On("THIN").Line(jx + 60 + (112 * Math.Cos(a)), jy - 40 + (112 * Math.Sin(a)), jx + 60 + (124 * Math.Cos(a)), jy - 40 + (124 * Math.Sin(a)));
        }
        pen.On("TEXT").Text(jx + 60, jy + 104, 4, "RAIL IN PLAN  1 : 50", 1);
        pen.Leader(jx + 60, jy + 90, jx + 100, jy + 60, "R 6 500 ±2");
        Frame.Draw(
            pen, W, H, new Title("TO-2207", "Dome shutter rail, joint", "A.1", "1 : 2", "OB 12-11", "37.5 kg/m", "S355J2+N"),
            [("A.1", "First draft", "12-11")], [("1", "Rail, cut length", "S355J2+N", "2"), ("2", "Fish plate", "S355J2+N t 12", "2"), ("3", "Bolt M16 × 60", "8.8 hot dip", "12"), ("4", "Washer 16", "HV 200", "24")],
            ["GRIND JOINT FLUSH, STEP AT MOST 0.2", "TORQUE M16 TO 197 N·m", "CHECK GAUGE 1 435 ±1 AFTER ASSEMBLY"]);
        pen.Save(file);
    }

    private static void CabinetWiring(string file)
    {
        const double W = 594, H = 420;
        var pen = new DxfPen(W, H);
        pen.Block("TERMINAL", () =>
        {
            pen.On("DEVICES").Circle(0, 0, 1.2);
            pen.Line(-1, -1, 1, 1);
        });
        pen.Block("CONTACT", () =>
        {
            pen.On("DEVICES").Line(0, 0, 3, 0);
            pen.Line(3, 0, 7.4, 2.4);
            pen.Line(7.6, 0, 11, 0);
            pen.Line(7.6, -0.8, 7.6, 0.8);
        });
        pen.Block("COIL", () =>
        {
            pen.On("DEVICES").Rect(0, -3, 8, 3);
            pen.Line(2, -3, 6, 3);
        });
        string[] names = ["Shutter open", "Shutter close", "Azimuth left", "Azimuth right", "Brake release", "Heater stage 1", "Heater stage 2", "Fan supply", "Fan exhaust", "Mirror cover", "Focus out", "Focus in", "Lamp red", "Lamp white", "Door lock", "Horn", "Reserve", "Reserve"];
        foreach (var x in new[] { 45.0, 300 })
        {
            pen.On("WIRES").Line(x, 372, x, 120);
            pen.Line(x + 210, 372, x + 210, 120);
            pen.On("TEXT").Text(x - 3, 376, 2.5, "+24 V");
            pen.Text(x + 206, 376, 2.5, "0 V");
        }
        for (var i = 0; i < 36; i++)
        {
            double x = i < 18 ? 45 : 300, y = 366 - (i % 18 * 13.6);
            var name = names[i % names.Length];
            pen.On("WIRES").Line(x, y, x + 24, y);
            for (var k = 0; k < 4; k++)
            {
                var cx = x + 24 + (k * 32);
                pen.On("DEVICES").Insert("CONTACT", cx, y);
                pen.On("WIRES").Line(cx + 11, y, cx + 32, y);
                pen.On("DEVICES").Insert("TERMINAL", cx + 20, y);
                pen.On("TEXT").Text(cx + 20, y + 2, 1.8, $"X{1 + (i / 9)}:{((i * 4) + k) % 64 + 1}", 1);
                pen.Text(cx + 5, y + 3.4, 1.8, $"-K{(i * 3) + k + 1}", 1);
                pen.Text(cx + 26, y - 2.8, 1.6, $"{100 + (i * 5) + k}", 1);
            }
            pen.On("DEVICES").Insert("COIL", x + 158, y);
            pen.On("WIRES").Line(x + 152, y, x + 158, y);
            pen.Line(x + 166, y, x + 210, y);
            pen.On("TEXT").Text(x + 162, y + 4, 1.8, $"-K{101 + i}", 1);
            pen.Text(x + 169, y + 1.5, 2, name);
            pen.Text(x - 3, y - 0.8, 1.8, $"{i + 1}", 2);
        }
        for (var i = 0; i < 64; i++)
        {
            var x = 45 + (i * 5.4);
            pen.On("DEVICES").Rect(x, 92, x + 4.4, 106);
            pen.Insert("TERMINAL", x + 2.2, 99);
            pen.On("TEXT").Text(x + 2.2, 88, 1.8, $"{i + 1}", 1);
        }
        pen.On("TEXT").Text(45, 110, 3, "X1  TERMINALS");
        Frame.Draw(
            pen, W, H, new Title("TO-4420", "Control cabinet wiring", "A.1", "—", "OB 09-11", "—", "—"),
            [("A.1", "First draft", "09-11")], [], ["WIRES H07V-K 1.5 UNLESS STATED", "FERRULES ON ALL ENDS"]);
        pen.Save(file);
    }
}
