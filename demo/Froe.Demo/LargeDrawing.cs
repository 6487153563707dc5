using System.Globalization;
using System.Text;

namespace Froe.Demo;

/// <summary>A large drawing for measuring: a site plan's worth of short lines over 20 layers, the same for the same count every time.</summary>
internal static class LargeDrawing
{
    public static int Write(string file, int lines)
    {
        using var to = new StreamWriter(file, false, new UTF8Encoding(false), 1 << 16);
        var side = Math.Sqrt(lines);
        to.Write(string.Create(CultureInfo.InvariantCulture, $"0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n9\n$EXTMIN\n10\n0.0\n20\n0.0\n9\n$EXTMAX\n10\n{side * 2:0.0}\n20\n{side * 1.3:0.0}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n"));
        var random = new Random(7);
        for (var i = 0; i < lines; i++)
        {
            double x = random.NextDouble() * side * 2, y = random.NextDouble() * side * 1.3, a = random.NextDouble() * Math.PI * 2, length = 0.5 + (random.NextDouble() * 3);
            to.Write(string.Create(CultureInfo.InvariantCulture, $"0\nLINE\n8\nL{i % 20}\n10\n{x:0.000}\n20\n{y:0.000}\n11\n{x + (length * Math.Cos(a)):0.000}\n21\n{y + (length * Math.Sin(a)):0.000}\n"));
        }
        to.Write("0\nENDSEC\n0\nEOF\n");
        return 0;
    }
}
