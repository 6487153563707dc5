namespace Froe.Demo;

/// <summary>Those of the pier, the dome and the cabinet.</summary>
internal static partial class Drawings
{
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
