using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Kinds of points that scanners and cameras write, worked by hand, and how a picture lies that was taken or scanned turned.</summary>
public class PictureKindTables
{
    private const int Unsaid = -1;

    /// <summary>A page of TIFF 6.0 as a scanner writes it, its points as they are given.</summary>
    private static byte[] Page(int width, int height, byte[] points, params (int Tag, int[] Values)[] more)
    {
        List<(int Tag, int[] Values)> fields = [(256, [width]), (257, [height]), (259, [1]), (273, [8]), (278, [height]), (279, [points.Length]), .. more];
        if (fields.Any(f => f.Tag == 322)) fields = [.. fields.Where(f => f.Tag is not (273 or 278 or 279)), (324, [8]), (325, [points.Length])];
        // What is given goes before what a page of one strip would have.
        fields = [.. fields.GroupBy(f => f.Tag).Select(g => g.Last()).OrderBy(f => f.Tag)];
        var beside = new List<byte>();
        var start = 8 + points.Length + (points.Length & 1);
        byte[] Entry((int Tag, int[] Values) field)
        {
            // Where tiles lie is told in words of four bytes, everything else here in two.
            byte[] values = [.. field.Values.SelectMany(v => field.Tag == 324 ? BitConverter.GetBytes(v) : BitConverter.GetBytes((ushort)v))];
            var at = start + 2 + (12 * fields.Count) + 4 + beside.Count;
            if (values.Length > 4) beside.AddRange(values);
            return [.. BitConverter.GetBytes((ushort)field.Tag), (byte)(field.Tag == 324 ? 4 : 3), 0, .. BitConverter.GetBytes(field.Values.Length), .. values.Length > 4 ? BitConverter.GetBytes(at) : [.. values, .. new byte[4 - values.Length]]];
        }
        var entries = fields.SelectMany(Entry).ToArray();
        return [.. "II*\0"u8, .. BitConverter.GetBytes(start), .. points, .. new byte[points.Length & 1], .. BitConverter.GetBytes((ushort)fields.Count), .. entries, 0, 0, 0, 0, .. beside];
    }

    /// <summary>What is seen, row by row from above: a number for a grey, three for a colour.</summary>
    private static string Seen(byte[] tiff)
    {
        var (pages, fault) = TiffSource.Open(tiff, 10);
        Assert.Null(fault);
        var rows = new List<string>();
        Assert.True(pages[0].Rows(row =>
        {
            var colours = new List<string>();
            for (var i = 0; i < row.Length; i += 4) colours.Add(row[i] == row[i + 1] && row[i] == row[i + 2] ? $"{row[i]}" : $"{row[i + 2]},{row[i + 1]},{row[i]}");
            rows.Add(string.Join(' ', colours));
        }));
        Assert.Equal((pages[0].Facts.Height, pages[0].Facts.Width), (rows.Count, rows[0].Split(' ').Length));
        return string.Join(" / ", rows);
    }

    /// <summary>Two points beside one another; colours: 0 white is nought, 1 black is nought, 2 red, green and blue, 5 inks.</summary>
    [Theory]
    [InlineData(1, 1, 1, Unsaid, new byte[] { 0b0100_0000 }, "0 255")]
    [InlineData(0, 2, 1, Unsaid, new byte[] { 0b0011_0000 }, "255 0")]
    [InlineData(1, 4, 1, Unsaid, new byte[] { 0x3F }, "51 255")]
    [InlineData(0, 8, 1, Unsaid, new byte[] { 0, 200 }, "255 55")]
    [InlineData(1, 12, 1, Unsaid, new byte[] { 0x80, 0x0F, 0xFF }, "128 255")]
    [InlineData(1, 16, 1, Unsaid, new byte[] { 0xFF, 0x80, 0, 0xFF }, "128 255")]
    [InlineData(1, 32, 1, Unsaid, new byte[] { 9, 9, 9, 0x80, 0, 0, 0, 1 }, "128 1")]
    [InlineData(1, 8, 2, 2, new byte[] { 0, 128, 200, 255 }, "127 200")] // what covers beside
    [InlineData(1, 8, 2, 1, new byte[] { 50, 128, 200, 255 }, "177 200")] // multiplied with it
    [InlineData(1, 8, 2, 0, new byte[] { 50, 128, 200, 0 }, "50 200")] // nothing in particular
    [InlineData(2, 8, 3, Unsaid, new byte[] { 1, 2, 3, 250, 251, 252 }, "1,2,3 250,251,252")]
    [InlineData(2, 16, 3, Unsaid, new byte[] { 0, 1, 0, 2, 0, 3, 9, 250, 9, 251, 9, 252 }, "1,2,3 250,251,252")]
    [InlineData(2, 8, 4, Unsaid, new byte[] { 0, 0, 0, 0, 10, 20, 30, 255 }, "255 10,20,30")] // a fourth of which nothing is said covers
    [InlineData(2, 8, 4, 0, new byte[] { 10, 20, 30, 0, 10, 20, 30, 255 }, "10,20,30 10,20,30")]
    [InlineData(5, 8, 4, Unsaid, new byte[] { 255, 0, 0, 0, 0, 0, 0, 128 }, "0,255,255 127")]
    [InlineData(5, 16, 4, Unsaid, new byte[] { 0, 255, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 128 }, "0,255,255 127")]
    public void PointsOfEveryKindAreSeenAsTheyAreMeant(int colours, int bits, int samples, int extra, byte[] points, string seen) =>
        Assert.Equal(seen, Seen(Page(2, 1, points, [(258, [.. Enumerable.Repeat(bits, samples)]), (262, [colours]), (277, [samples]), .. extra == Unsaid ? ((int, int[])[])[] : [(338, [extra])]])));

    [Fact]
    public void ColoursInPlanesAndInTilesAndByNumberAreThoseOfThePoints()
    {
        Assert.Equal("10,30,50 20,40,60", Seen(Page(2, 1, [10, 20, 30, 40, 50, 60], (258, [8, 8, 8]), (262, [2]), (277, [3]), (284, [2]), (278, [1]), (273, [8, 10, 12]), (279, [2, 2, 2]))));
        // A tile of sixteen by sixteen, of which three by two lie within the picture.
        var tile = Enumerable.Range(0, 256).Select(i => (byte)i).ToArray();
        Assert.Equal("0 1 2 / 16 17 18", Seen(Page(3, 2, tile, (258, [8]), (262, [1]), (277, [1]), (322, [16]), (323, [16]))));
        Assert.Equal("255,0,0 0,128,255", Seen(Page(2, 1, [0b0100_0000], (258, [1]), (262, [3]), (277, [1]), (320, [0xFFFF, 0, 0, 0x8000, 0, 0xFFFF]))));
        // Eight bits where sixteen are meant.
        Assert.Equal("255,0,0 0,128,255", Seen(Page(2, 1, [0b0100_0000], (258, [1]), (262, [3]), (277, [1]), (320, [255, 0, 0, 128, 0, 255]))));
    }

    /// <summary>Rows 1 2 3 and 4 5 6 as they are stored.</summary>
    [Theory]
    [InlineData(1, "1 2 3 / 4 5 6")]
    [InlineData(2, "3 2 1 / 6 5 4")]
    [InlineData(3, "6 5 4 / 3 2 1")]
    [InlineData(4, "4 5 6 / 1 2 3")]
    [InlineData(5, "1 4 / 2 5 / 3 6")]
    [InlineData(6, "4 1 / 5 2 / 6 3")]
    [InlineData(7, "6 3 / 5 2 / 4 1")]
    [InlineData(8, "3 6 / 2 5 / 1 4")]
    [InlineData(9, "1 2 3 / 4 5 6")]
    public void AScanThatLiesTurnedIsSetUpright(int orientation, string seen) =>
        Assert.Equal(seen, Seen(Page(3, 2, [1, 2, 3, 4, 5, 6], (258, [8]), (262, [1]), (274, [orientation]), (277, [1]))));

    [Fact]
    public void ColoursAreTurnedLikeGreys() =>
        Assert.Equal("9,8,7 1,2,3 / 5 4", Seen(Page(2, 2, [1, 2, 3, 4, 4, 4, 9, 8, 7, 5, 5, 5], (258, [8, 8, 8]), (262, [2]), (274, [6]), (277, [3]))));

    /// <summary>A directory with one field: how the camera was held.</summary>
    private static byte[] Held(int orientation) => [.. "II*\0"u8, 8, 0, 0, 0, 1, 0, 0x12, 1, 3, 0, 1, 0, 0, 0, (byte)orientation, 0, 0, 0, 0, 0, 0, 0];

    private static byte[] WebP(int width, int height, byte[] camera)
    {
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Bgra8888, SKAlphaType.Opaque));
        using var data = bitmap.Encode(SKEncodedImageFormat.Webp, 100);
        byte[] body = [.. data.ToArray()[8..], .. "EXIF"u8, .. BitConverter.GetBytes(camera.Length), .. camera, .. new byte[camera.Length & 1]];
        return [.. "RIFF"u8, .. BitConverter.GetBytes(body.Length), .. body];
    }

    [Fact]
    public void APhotographThatIsNoJpegIsSetUprightAsWell()
    {
        Assert.Equal(6, CameraWords.OrientationOf(WebP(30, 20, Held(6))));
        Assert.Equal(8, CameraWords.OrientationOf(WebP(30, 20, [.. "Exif\0\0"u8, .. Held(8)])));
        Assert.Equal(1, CameraWords.OrientationOf(WebP(30, 20, [1, 2, 3])));
        Assert.Equal(1, CameraWords.OrientationOf("RIFF\0\0\0\0WEBPVP8 \xff\xff\xff\xff"u8));
        var (source, fault) = SkiaSource.Open(WebP(30, 20, Held(6)));
        Assert.Null(fault);
        Assert.Equal((20, 30), (source!.Facts.Width, source.Facts.Height));
        var rows = 0;
        Assert.True(source.Rows(row => { Assert.Equal(4 * 20, row.Length); rows++; }));
        Assert.Equal(30, rows);
    }
}
