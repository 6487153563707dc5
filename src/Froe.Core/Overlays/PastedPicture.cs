using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A picture that was put on the sheet from somewhere else.</summary>
/// <param name="Picture">Which: the SHA-256 of what is kept of it (PNG, ISO/IEC 15948), 64 hexadecimal digits in small letters.</param>
public sealed record PastedPicture(PointXY From, PointXY To, string Picture) : Round(From, To)
{
    /// <summary>Most pictures put on one draft.</summary>
    public const int Most = 200;

    /// <summary>Digits of what it is called by.</summary>
    public const int Digits = 64;

    /// <inheritdoc/>
    protected override bool HasSize => base.HasSize && IsName(Picture);

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: its sides have no small parts.</param>
    public override Outline Outline(double detail) => new([[.. Corners, Corners[0]]], OutlineFill.None, Corners[1], Middle) { Picture = Picture };

    /// <summary>Whether a word may be what a picture is called by.</summary>
    public static bool IsName(string word) => word is { Length: Digits } && word.All(c => c is (>= '0' and <= '9') or (>= 'a' and <= 'f'));
}
