using System.Text;

namespace Froe.Formats.Tests;

/// <summary>Models made to harm: good ones of every format, changed as other files are. Of those that bring a process each there are fewer.</summary>
internal static class HostileModels
{
    private static readonly Lazy<IReadOnlyList<(string Name, byte[] File)>> Good = new(() =>
    {
        var obj = Encoding.ASCII.GetBytes(string.Concat(Enumerable.Range(0, 8).Select(i => ModelFiles.Corner(i, 10)).Select(p => $"v {p.X} {p.Y} {p.Z}\n")) + "o A\nf 1 3 4 2\nf -4 -3 -1 -2\nf 1 2 6 5\n");
        const string Model = "<model><resources><object id='1'><mesh><vertices><vertex x='0' y='0' z='0'/><vertex x='1' y='0' z='0'/><vertex x='0' y='1' z='0'/></vertices><triangles><triangle v1='0' v2='1' v3='2'/></triangles></mesh></object><object id='2'><components><component objectid='1' transform='1 0 0 0 1 0 0 0 1 5 0 0'/></components></object></resources><build><item objectid='2'/></build></model>";
        (string, byte[]) stl = ("a.stl", ModelFiles.Stl(ModelFiles.LooseBox(4))), glb = ("a.glb", ModelFiles.GlbBox()), threeMf = ("a.3mf", ModelFiles.ThreeMf(Model)), wavefront = ("a.obj", obj);
        var written = ("b.stl", "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n"u8.ToArray());
        return [stl, wavefront, glb, threeMf, written, glb, threeMf, wavefront, stl, glb, threeMf, wavefront, ("a.stp", ModelFiles.Mount(1)), ("a.stp", ModelFiles.DrawnPlate()), ("a.stp", ModelFiles.Tray()), ("a.igs", ModelFiles.BoredBlock()), ("b.glb", PackedModels.Draco()), ("a.gltf", PackedModels.Meshoptimizer(true)), .. HostileMore.Models()];
    });

    public static IReadOnlyList<(string Name, byte[] File)> Seeds => Good.Value;
}
