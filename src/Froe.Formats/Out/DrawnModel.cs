using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using Froe.Core.Overlays;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>A model of a draft on its way out: pictures of it as people saw it.</summary>
internal sealed class DrawnModel
{
    /// <summary>Of a picture, as JPEG counts it.</summary>
    private const int Quality = 92;

    private readonly SceneFacts facts;
    private readonly Scene scene;

    /// <param name="leaf">Its place among the draft's leaves.</param>
    /// <param name="folder">Holds its forms, by <see cref="SheetSource.FormName"/>.</param>
    /// <exception cref="UnreadableException">It cannot be drawn.</exception>
    public DrawnModel(int leaf, string folder)
    {
        Leaf = leaf;
        try
        {
            facts = JsonSerializer.Deserialize<SceneFacts>(File.ReadAllBytes(Path.Combine(folder, SheetSource.FormName(leaf, LeafForms.Scene))), FormJson.Options)!;
            scene = PreparedScene.Whole(facts, File.ReadAllBytes(Path.Combine(folder, SheetSource.FormName(leaf, LeafForms.Meshes))));
        }
        catch (Exception e) when (e is JsonException or InvalidDataException or ArgumentException)
        {
            throw new UnreadableException("A model of the package cannot be drawn.");
        }
    }

    public int Leaf { get; }

    /// <summary>What an eye sees of it.</summary>
    public SKImage Picture(PinEye eye, int width, int height)
    {
        var hidden = eye.Hidden.ToHashSet();
        List<PlacedPart> shown = [.. scene.Placed().Where(p => !hidden.Contains(p.Component))];
        var cut = (eye.Sections ?? []).Select(s => (s, SectionCut.Of(facts, [.. scene.Parts.Select(p => p.Mesh)], s, hidden))).ToList();
        var pixels = SceneLook.Draw(scene, shown, eye.From(), cut, width, height);
        using var surface = SKSurface.Create(new SKImageInfo(pixels.Width, pixels.Height, SKColorType.Rgba8888, SKAlphaType.Opaque));
        surface.Canvas.Clear(SKColors.White);
        using (var drawn = SKImage.FromPixelCopy(new SKImageInfo(pixels.Width, pixels.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul), pixels.Rgba)) surface.Canvas.DrawImage(drawn, 0, 0);
        using var whole = surface.Snapshot();
        // A file holds many of them, all until it is closed: this is how each takes least.
        using var small = whole.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return SKImage.FromEncodedData(small.ToArray());
    }
}
