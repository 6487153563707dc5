using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using SkiaSharp;

namespace Froe.Formats.Models;

/// <summary>A leaf that is a model, with every form that follows from it.</summary>
internal static class ModelLeaf
{
    private const int PictureWidth = 1200, PictureHeight = 900, SmallWidth = 320, SmallHeight = 240;

    /// <param name="scene">What was read.</param>
    /// <param name="name">What the model is called.</param>
    public static ReadLeaf Of(Scene scene, string name)
    {
        var placed = scene.Placed().ToList();
        var facts = PreparedScene.FactsOf(scene);
        var frame = new SceneFrame(scene.Unit, facts.Box, placed.Count, placed.Select(p => p.Part).Distinct().Count(), placed.Sum(p => (long)scene.Parts[p.Part].Mesh.Triangles));
        return new ReadLeaf(
            new Leaf(0, name, frame),
            [
                new ReadForm(LeafForms.Scene, "application/json", to => JsonSerializer.Serialize(to, facts, FormJson.Options)),
                new ReadForm(LeafForms.Meshes, PreparedScene.MediaType, to => PreparedScene.WriteMeshes(scene, to)),
                new ReadForm(LeafForms.Exact, "application/json", to => JsonSerializer.Serialize(to, PreparedScene.ExactOf(scene), FormJson.Options)),
                new ReadForm(LeafForms.Text, "application/json", to => WrittenForm.Write(Words(facts).Select(w => new WrittenRun(w, default, new(1, 0), new(0, 1))), to)),
                new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(WebP(SceneLook.Draw(scene, placed, PictureWidth, PictureHeight)))),
                new ReadForm(LeafForms.Small, "image/webp", to => to.Write(WebP(SceneLook.Draw(scene, placed, SmallWidth, SmallHeight)))),
            ]);
    }

    /// <summary>
    /// What finding looks through: components by number and name, each once, materials, and what is stated of dimensions. They stand in space, so that their places in the
    /// form “text” tell nothing.
    /// </summary>
    private static IEnumerable<string> Words(SceneFacts facts) =>
        facts.Components.Select(c => c.Number == c.Name ? c.Name : $"{c.Number} {c.Name}".Trim()).Concat(facts.Parts.Select(p => p.Material ?? "")).Concat(facts.Dimensions.Select(d => $"{d.Name} {d.Words}".Trim())).Where(w => w.Length > 0).Distinct();

    /// <summary>What is on the leaf, for the report.</summary>
    public static LeafReport Report(Scene scene, ReadLeaf leaf)
    {
        var frame = (SceneFrame)leaf.Leaf.Frame;
        return new LeafReport(
            leaf.Leaf.Name, JsonNamingPolicy.CamelCase.ConvertName(scene.Unit.ToString()), frame.Box ?? [], scene.Parts.Select(p => p.Deviation).DefaultIfEmpty().Max(), frame.Components,
            scene.Parts.Sum(p => p.Edges.Count(e => !e.IsSmooth)), (int)Math.Min(int.MaxValue, frame.Triangles), 0);
    }

    internal static byte[] WebP(Pixels pixels)
    {
        var info = new SKImageInfo(pixels.Width, pixels.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul);
        using var image = SKImage.FromPixelCopy(info, pixels.Rgba);
        using var map = image.PeekPixels();
        using var data = map.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30));
        return data!.ToArray();
    }
}
