namespace Froe.Formats.Pictures;

/// <summary>A picture of points while it is read.</summary>
internal interface IRasterSource
{
    /// <summary>What people know of it before its points are read.</summary>
    RasterFacts Facts { get; }

    /// <summary>Gives its rows from the top, blue, green, red and a spare byte a pixel. False when it breaks off before the last.</summary>
    bool Rows(RowReceiver row);
}

/// <summary>Receives a row of pixels.</summary>
internal delegate void RowReceiver(ReadOnlySpan<byte> pixels);

/// <summary>What is known of a picture.</summary>
/// <param name="Width">Pixels.</param>
/// <param name="Height">Pixels.</param>
/// <param name="Across">Pixels an inch along a row; null where the file does not say, or says what cannot be.</param>
/// <param name="Down">Pixels an inch down a column.</param>
/// <param name="IsLine">Whether it has few colours, as lines on paper have: it is kept without loss.</param>
/// <param name="Words">How it is coded, for a person.</param>
internal sealed record RasterFacts(int Width, int Height, double? Across, double? Down, bool IsLine, string Words)
{
    /// <summary>Most pixels of a picture, and on its longer side: rows of more would need bands of tiles larger than a file may.</summary>
    public const long MostPixels = 600_000_000, MostAside = 60_000;

    /// <summary>Why a picture of this size is not taken; null when it is.</summary>
    public static string? TooLarge(long width, long height) => width > MostAside || height > MostAside || width * height > MostPixels
        ? $"The picture has {width:N0} × {height:N0} points; Froe takes up to {MostPixels / 1_000_000:N0} million, and {MostAside:N0} on a side. Save it smaller."
        : null;

    /// <summary>Pixels an inch that a scan or an export may have; what is outside was written by a program that did not know.</summary>
    public const double Coarsest = 72, Finest = 1200;

    /// <summary>The resolution when both directions make sense.</summary>
    public (double Across, double Down)? Resolution => Across is >= Coarsest and <= Finest && Down is >= Coarsest and <= Finest ? (Across.Value, Down.Value) : null;
}
