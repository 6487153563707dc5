using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>A small picture of one part of a model.</summary>
public static class PartPicture
{
    /// <summary>What it is.</summary>
    public const string MediaType = "image/webp";

    private const int Width = 160, Height = 120;

    /// <summary>Draws it.</summary>
    /// <param name="part">The part.</param>
    /// <param name="blocks">The form “meshes” of its model.</param>
    public static byte[] Of(PartFacts part, ReadOnlySpan<byte> blocks)
    {
        ArgumentNullException.ThrowIfNull(part);
        var scene = PreparedScene.Alone(part, blocks.Slice((int)part.Block.At, (int)part.Block.Length));
        return ModelLeaf.WebP(SceneLook.Draw(scene, [.. scene.Placed()], Width, Height));
    }
}
