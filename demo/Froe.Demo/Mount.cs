using System.Buffers.Binary;
using System.Globalization;
using System.Text;

namespace Froe.Demo;

/// <summary>
/// What goes with the fork mount: its arm as a drawing, a lifting eye as the foundry sent it (GLB), and the scan of a casting trial (STL).
/// The mount itself is written by models/fork-mount.cpp.
/// </summary>
internal static class Mount
{
    public static void WriteAll(string folder)
    {
        Arm(Path.Combine(folder, "TO-3311_A1.dxf"), "A.1", 60);
        Arm(Path.Combine(folder, "TO-3311_A2.dxf"), "A.2", 62);
        LiftingEye(Path.Combine(folder, "TO-3320_A1.glb"));
        CastingTrial(Path.Combine(folder, "TO-3321_A1.stl"));
    }

    /// <summary>The arm, 1 : 2: from the right, and cut through its middle.</summary>
    private static void Arm(string file, string revision, int bore)
    {
        const double W = 420, H = 297, x = 92, y = 62;
        var pen = new DxfPen(W, H);
        pen.On("OUTLINE").Line(x - 45, y, x + 45, y);
        pen.Line(x - 45, y, x - 45, y + 150);
        pen.Line(x + 45, y, x + 45, y + 150);
        pen.Arc(x, y + 150, 45, 0, 180);
        pen.Circle(x, y + 150, bore / 4.0);
        pen.Bulged(true, new() { [1] = 0.4142136, [3] = 0.4142136, [5] = 0.4142136, [7] = 0.4142136 }, x - 19, y + 30, x + 19, y + 30, x + 24, y + 35, x + 24, y + 85, x + 19, y + 90, x - 19, y + 90, x - 24, y + 85, x - 24, y + 35);
        for (var k = 0; k < 4; k++)
        {
            var at = x - 37.5 + (k * 25);
            pen.On("HIDDEN").Line(at - 2.5, y, at - 2.5, y + 14.5);
            pen.Line(at + 2.5, y, at + 2.5, y + 14.5);
            pen.On("CENTRE LINES").Line(at, y - 4, at, y + 18);
        }
        pen.On("CENTRE LINES").Line(x - 52, y + 150, x + 52, y + 150);
        pen.Line(x, y - 6, x, y + 202);
        pen.Dimension(x - 45, y, x + 45, y, -18, "180");
        pen.Dimension(x + 45, y, x + 45, y + 150, 22, "300");
        pen.Leader(x + (bore / 4.0 * 0.7), y + 150 + (bore / 4.0 * 0.7), x + 40, y + 196, $"Ø{bore} H7");
        pen.Leader(x - 45 + 13, y + 150 + 31, x - 62, y + 204, "R90");
        const double sx = 202;
        double low = y + 150 - (bore / 4.0), high = y + 150 + (bore / 4.0);
        foreach (var wall in new[] { new[] { sx - 10, y, sx + 10, y, sx + 10, y + 30, sx - 10, y + 30 }, [sx - 10, y + 90, sx + 10, y + 90, sx + 10, low, sx - 10, low], [sx - 10, high, sx + 10, high, sx + 10, y + 195, sx - 10, y + 195] })
        {
            pen.On("HATCHING").Hatch(45, 2, wall);
            pen.On("OUTLINE").Poly(true, wall);
        }
        pen.On("OUTLINE").Line(sx - 10, y + 30, sx - 10, y + 90);
        pen.Line(sx + 10, y + 30, sx + 10, y + 90);
        pen.Line(sx - 10, low, sx - 10, high);
        pen.Line(sx + 10, low, sx + 10, high);
        pen.On("CENTRE LINES").Line(sx - 18, y + 150, sx + 18, y + 150);
        pen.Dimension(sx - 10, y, sx + 10, y, -18, "40");
        // What is fitted to the bore later stands as thin lines, with its items.
        pen.On("CENTRE LINES").Poly(true, sx - 10, y + 139, sx + 10, y + 139, sx + 10, y + 161, sx - 10, y + 161);
        foreach (var side in (int[])[-1, 1]) pen.Poly(true, sx + (10 * side), y + 125, sx + (14 * side), y + 125, sx + (14 * side), y + 175, sx + (10 * side), y + 175);
        Balloon(pen, "2", sx + 8, y + 186, sx + 34, y + 196);
        Balloon(pen, "3", sx + 6, y + 158, sx + 34, y + 168);
        Balloon(pen, "4", sx + 13, y + 130, sx + 34, y + 140);
        pen.On("TEXT").Text(sx, y + 204, 4, "SECTION A–A", 1);
        Frame.Draw(
            pen, W, H, new Title("TO-3311", "Fork arm of the mount", revision, "1 : 2", "OB 02-11", "14.8 kg", "EN-GJS-400-15"),
            revision == "A.1" ? [("A.1", "First draft", "02-11")] : [("A.2", "Bore for the new bush", "12-11"), ("A.1", "First draft", "02-11")],
            [("2", "Fork arm TO-3311", "EN-GJS-400-15", "2"), ("3", "Bush TO-3314", "CuSn12", "2"), ("4", "Bearing cap TO-3315", "S355J2", "4")], ["EDGES ISO 13715 -0.3", "BORE PARALLEL TO FOOT WITHIN 0.02"]);
        pen.Save(file);
    }

    /// <summary>The item of a thing, in a circle at the end of a line to it (ISO 6433).</summary>
    private static void Balloon(DxfPen pen, string item, double x, double y, double to, double at)
    {
        const double Radius = 4.5;
        var far = Math.Sqrt(((to - x) * (to - x)) + ((at - y) * (at - y)));
        pen.On("DIMENSIONS").Line(x, y, to - (Radius * (to - x) / far), at - (Radius * (at - y) / far));
        pen.Circle(x, y, 0.5);
        pen.Circle(to, at, Radius);
        pen.On("TEXT").Text(to, at - 1.75, 3.5, item, 1);
    }

    /// <summary>A ring on a collar: two bodies in one model, in metres with y up, as glTF 2.0 has them.</summary>
    private static void LiftingEye(string file)
    {
        var (ring, ringCorners) = Torus(0.030, 0.008, 64, 24);
        var (collar, collarCorners) = Turned([(0.0, 0.0), (0.012, 0.0), (0.012, -0.030), (0.0, -0.030)], 48, -0.036);
        using var bytes = new MemoryStream();
        using var write = new BinaryWriter(bytes);
        foreach (var value in ring.Concat(collar)) write.Write(value);
        foreach (var corner in ringCorners.Concat(collarCorners)) write.Write(corner);
        string Box(float[] p, int sign) => string.Join(',', Enumerable.Range(0, 3).Select(k => (sign < 0 ? p.Where((_, i) => i % 3 == k).Min() : p.Where((_, i) => i % 3 == k).Max()).ToString("R", CultureInfo.InvariantCulture)));
        int a = ring.Length * 4, b = collar.Length * 4, c = ringCorners.Length * 4, d = collarCorners.Length * 4;
        var json = string.Create(CultureInfo.InvariantCulture, $$$"""
            {"asset":{"version":"2.0","generator":"Tallowmere demo"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"Lifting eye","children":[1,2]},{"name":"Ring","mesh":0},{"name":"Shank","mesh":1}],
            "meshes":[{"name":"Ring","primitives":[{"attributes":{"POSITION":0},"indices":2,"material":0}]},{"name":"Shank","primitives":[{"attributes":{"POSITION":1},"indices":3,"material":0}]}],
            "materials":[{"name":"C15E","pbrMetallicRoughness":{"baseColorFactor":[0.45,0.47,0.48,1]}}],
            "accessors":[{"bufferView":0,"componentType":5126,"count":{{{ring.Length / 3}}},"type":"VEC3","min":[{{{Box(ring, -1)}}}],"max":[{{{Box(ring, 1)}}}]},{"bufferView":1,"componentType":5126,"count":{{{collar.Length / 3}}},"type":"VEC3","min":[{{{Box(collar, -1)}}}],"max":[{{{Box(collar, 1)}}}]},{"bufferView":2,"componentType":5125,"count":{{{ringCorners.Length}}},"type":"SCALAR"},{"bufferView":3,"componentType":5125,"count":{{{collarCorners.Length}}},"type":"SCALAR"}],
            "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":{{{a}}}},{"buffer":0,"byteOffset":{{{a}}},"byteLength":{{{b}}}},{"buffer":0,"byteOffset":{{{a + b}}},"byteLength":{{{c}}}},{"buffer":0,"byteOffset":{{{a + b + c}}},"byteLength":{{{d}}}}],"buffers":[{"byteLength":{{{a + b + c + d}}}}]}
            """);
        var head = Encoding.UTF8.GetBytes(json.PadRight((json.Length + 3) / 4 * 4));
        using var to = new BinaryWriter(File.Create(file));
        to.Write("glTF"u8);
        foreach (var number in (int[])[2, 28 + head.Length + (int)bytes.Length, head.Length, 0x4E4F534A]) to.Write(number);
        to.Write(head);
        to.Write((int)bytes.Length);
        to.Write(0x004E4942);
        to.Write(bytes.ToArray());
    }

    /// <summary>A cast boss as it was scanned: a body of turning whose surface is a little uneven.</summary>
    private static void CastingTrial(string file)
    {
        var (points, corners) = Turned([(0, 0), (45, 0), (45, 12), (28, 16), (24, 40), (14, 44), (14, 8), (0, 8)], 96, 0, 6);
        // The same each time: what looks random hangs on the place alone.
        for (var i = 0; i < points.Length; i += 3)
        {
            var uneven = 0.12 * Math.Sin((points[i] * 1.7) + (points[i + 1] * 2.3)) * Math.Cos((points[i + 1] * 1.1) - (points[i + 2] * 2.9));
            var far = Math.Max(1, Math.Sqrt((points[i] * points[i]) + (points[i + 2] * points[i + 2])));
            points[i] += (float)(uneven * points[i] / far);
            points[i + 2] += (float)(uneven * points[i + 2] / far);
        }
        var bytes = new byte[84 + (corners.Length / 3 * 50)];
        "solid casting trial 2, scanned"u8.CopyTo(bytes);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(80), corners.Length / 3);
        for (var i = 0; i < corners.Length; i++)
        {
            var at = bytes.AsSpan(84 + (i / 3 * 50) + 12 + (i % 3 * 12));
            // The body stands upright there: its axis is z.
            BinaryPrimitives.WriteSingleLittleEndian(at, points[3 * corners[i]]);
            BinaryPrimitives.WriteSingleLittleEndian(at[4..], -points[(3 * corners[i]) + 2]);
            BinaryPrimitives.WriteSingleLittleEndian(at[8..], points[(3 * corners[i]) + 1]);
        }
        File.WriteAllBytes(file, bytes);
    }

    private static (float[] Points, int[] Corners) Torus(double radius, double tube, int round, int about)
    {
        var points = new List<float>();
        var corners = new List<int>();
        for (var i = 0; i < round; i++)
        {
            for (var j = 0; j < about; j++)
            {
                double turn = 2 * Math.PI * i / round, tilt = 2 * Math.PI * j / about, far = radius + (tube * Math.Cos(tilt));
                points.AddRange([(float)(far * Math.Cos(turn)), (float)(far * Math.Sin(turn)), (float)(tube * Math.Sin(tilt))]);
                int a = (i * about) + j, b = ((i + 1) % round * about) + j, c = ((i + 1) % round * about) + ((j + 1) % about), d = (i * about) + ((j + 1) % about);
                corners.AddRange([a, b, c, a, c, d]);
            }
        }
        return ([.. points], [.. corners]);
    }

    /// <summary>A profile of radius and height, turned about the upright axis y; each of its lines is parted into as many as asked for.</summary>
    private static (float[] Points, int[] Corners) Turned((double Radius, double Height)[] profile, int round, double lift, int parts = 1)
    {
        var line = new List<(double Radius, double Height)>();
        for (var i = 0; i + 1 < profile.Length; i++)
            for (var k = 0; k < parts; k++)
                line.Add((profile[i].Radius + ((profile[i + 1].Radius - profile[i].Radius) * k / parts), profile[i].Height + ((profile[i + 1].Height - profile[i].Height) * k / parts)));
        line.Add(profile[^1]);
        var points = new List<float>();
        var corners = new List<int>();
        for (var i = 0; i < round; i++)
        {
            var turn = 2 * Math.PI * i / round;
            foreach (var (radius, height) in line) points.AddRange([(float)(radius * Math.Cos(turn)), (float)(height + lift), (float)(radius * Math.Sin(turn))]);
            for (var j = 0; j + 1 < line.Count; j++)
            {
                int a = (i * line.Count) + j, b = ((i + 1) % round * line.Count) + j;
                if (line[j].Radius > 0) corners.AddRange([a, b, b + 1]);
                if (line[j + 1].Radius > 0) corners.AddRange([a, b + 1, a + 1]);
            }
        }
        return ([.. points], [.. corners]);
    }
}
