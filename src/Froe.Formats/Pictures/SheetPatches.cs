using System.Runtime.InteropServices;
using System.Text.Json;
using Froe.Core.Draft;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>The form “patches” of a sheet: what of it is to be seen follows from its picture and its words.</summary>
public static class SheetPatches
{
    /// <summary>How far from white a colour must be, of 255, to be more than what packing a picture leaves behind.</summary>
    private const int Faint = 24;

    /// <summary>The patches of a sheet.</summary>
    /// <param name="frame">Its frame.</param>
    /// <param name="picture">Its picture, which covers exactly its extents.</param>
    /// <param name="texts">What is written on it.</param>
    /// <returns>Null for a sheet of no size, or whose picture cannot be read.</returns>
    public static PatchGrid? Of(SheetFrame frame, byte[] picture, IReadOnlyList<WrittenRun> texts)
    {
        ArgumentNullException.ThrowIfNull(frame);
        if (Seeing.Divided(frame.Extents) is not var (columns, rows, side)) return null;
        var size = SKBitmap.DecodeBounds(picture);
        using var bitmap = size.Width > 0 ? SKBitmap.Decode(picture, new SKImageInfo(size.Width, size.Height, SKColorType.Bgra8888, SKAlphaType.Premul)) : null;
        if (bitmap is null) return null;
        var ink = new bool[columns * rows];
        double across = frame.Extents.Width / side / bitmap.Width, down = frame.Extents.Height / side / bitmap.Height;
        // Where each column of patches begins, and where the last ends.
        var begins = new int[columns + 1];
        Array.Fill(begins, -1);
        for (var x = bitmap.Width - 1; x >= 0; x--) begins[Math.Min(columns - 1, (int)((x + 0.5) * across))] = x;
        begins[columns] = bitmap.Width;
        for (var column = columns - 1; column >= 0; column--) if (begins[column] < 0) begins[column] = begins[column + 1];
        for (var y = 0; y < bitmap.Height; y++)
        {
            var row = Math.Min(rows - 1, (int)((y + 0.5) * down)) * columns;
            var pixels = MemoryMarshal.Cast<byte, uint>(bitmap.GetPixelSpan().Slice(y * bitmap.RowBytes, bitmap.Width * 4));
            for (var column = 0; column < columns; column++)
                if (!ink[row + column]) ink[row + column] = HasInk(pixels[begins[column]..begins[column + 1]]);
        }
        return Seeing.Of(frame, (column, row) => ink[(row * columns) + column], texts);
    }

    /// <summary>Whether anything is to be seen on white paper; what is not covered is white.</summary>
    /// <param name="pixels">Blue in the lowest eight bits, then green, red and how far it covers, which the others are multiplied with.</param>
    private static bool HasInk(ReadOnlySpan<uint> pixels)
    {
        // Almost all of a sheet is paper.
        while (pixels.IndexOfAnyExcept(uint.MaxValue, 0u) is >= 0 and var at)
        {
            var (blue, green, red, alpha) = ((byte)pixels[at], (byte)(pixels[at] >> 8), (byte)(pixels[at] >> 16), (byte)(pixels[at] >> 24));
            if (alpha - Math.Min(red, Math.Min(green, blue)) > Faint) return true;
            pixels = pixels[(at + 1)..];
        }
        return false;
    }

    /// <summary>Writes the form.</summary>
    public static void Write(PatchGrid grid, Stream to)
    {
        ArgumentNullException.ThrowIfNull(grid);
        // Four digits are more than a screen shows; rounded up, so that what is legible by the form is legible.
        JsonSerializer.Serialize(to, grid with { Needs = [.. grid.Needs.Select(Rounded)] }, FormJson.Options);
    }

    /// <summary>Reads the form.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public static PatchGrid Read(ReadOnlySpan<byte> json)
    {
        try
        {
            var grid = JsonSerializer.Deserialize<PatchGrid>(json, FormJson.Options);
            if (grid is { Columns: > 0 and <= Seeing.Longest, Rows: > 0 and <= Seeing.Longest } && grid.Needs?.Count == grid.Columns * grid.Rows) return grid;
        }
        catch (JsonException)
        {
            // Said below.
        }
        throw new InvalidDataException("What of this sheet is to be seen cannot be read.");
    }

    private static double Rounded(double need)
    {
        if (need <= 0) return 0;
        var unit = Math.Pow(10, Math.Floor(Math.Log10(need)) - 3);
        return Math.Ceiling(need / unit) * unit;
    }
}
