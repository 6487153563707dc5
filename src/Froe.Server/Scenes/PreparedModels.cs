using System.Collections.Concurrent;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Microsoft.Extensions.Caching.Memory;

namespace Froe.Server.Scenes;

/// <summary>A model as it is computed with.</summary>
/// <param name="Facts">Its tree and parts.</param>
/// <param name="Blocks">The form “meshes”.</param>
/// <param name="Meshes">The meshes of its parts, in their order.</param>
public sealed record PreparedModel(SceneFacts Facts, byte[] Blocks, IReadOnlyList<Mesh> Meshes)
{
    /// <summary>Small pictures of its parts, as far as they have been drawn; a few kilobytes each.</summary>
    public ConcurrentDictionary<int, byte[]> Pictures { get; } = new();

    /// <summary>The lines that a part's edges are drawn as, read when they are asked for: few measures ask.</summary>
    public IReadOnlyList<PartLine> LinesOf(int part)
    {
        var block = Facts.Parts[part].Block;
        return PreparedScene.ReadPart(Facts.Parts[part], Blocks.AsSpan((int)block.At, (int)block.Length)).Lines;
    }
}

/// <summary>Models that are computed with, read from their prepared forms; those of late are kept at hand.</summary>
public sealed class PreparedModels(Drafts drafts, Spool spool, Scaling scaling) : IDisposable
{
    /// <summary>Most bytes of what is kept; what is larger alone is read each time.</summary>
    private const long MostKept = 384L << 20;

    /// <summary>What a point and a corner take of memory, roughly.</summary>
    private const long PointBytes = 48, CornerBytes = 4;

    private static readonly TimeSpan Kept = TimeSpan.FromMinutes(5);

    private readonly MemoryCache models = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>As many are read at once as there is room for, so that those who come together do not take all memory, and no small one waits for a large one.</summary>
    private readonly Room room = new(MostKept);

    /// <summary>Those that are being read: whoever asks for the same meanwhile waits for it.</summary>
    private readonly ConcurrentDictionary<(string, string), Lazy<Task<PreparedModel>>> underWay = new();

    /// <summary>A model's tree and parts.</summary>
    /// <exception cref="Refused">There is none, or not for this person.</exception>
    public async Task<SceneFacts> FactsAsync(Who who, Guid draft, int position, CancellationToken stop) =>
        await CountedAsync(await FormAsync<SceneFacts>(await HashAsync(who, draft, position, LeafForms.Scene, stop), stop), draft, position, stop);

    /// <summary>What is exactly known of its faces and edges.</summary>
    /// <exception cref="Refused">There is none, or not for this person.</exception>
    public async Task<ExactFacts> ExactAsync(Who who, Guid draft, int position, CancellationToken stop) => await FormAsync<ExactFacts>(await HashAsync(who, draft, position, LeafForms.Exact, stop), stop);

    /// <summary>A model with its meshes. Whether this person may see it is asked each time, whatever is at hand.</summary>
    /// <exception cref="Refused">There is none, or not for this person.</exception>
    public async Task<PreparedModel> OfAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        var facts = await HashAsync(who, draft, position, LeafForms.Scene, stop);
        var blocks = await HashAsync(who, draft, position, LeafForms.Meshes, stop);
        var key = (Convert.ToHexString(facts), Convert.ToHexString(blocks));
        var model = models.TryGetValue(key, out PreparedModel? kept) ? kept! : await underWay.GetOrAdd(key, _ => new Lazy<Task<PreparedModel>>(() => ReadAsync(key, facts, blocks))).Value.WaitAsync(stop);
        return model with { Facts = await CountedAsync(model.Facts, draft, position, stop) };
    }

    /// <summary>What somebody said that it is counted in holds where the file does not say.</summary>
    private async Task<SceneFacts> CountedAsync(SceneFacts facts, Guid draft, int position, CancellationToken stop) =>
        facts.Unit == LengthUnit.Unknown ? facts with { Unit = await scaling.UnitAsync(draft, position, stop) } : facts;

    public void Dispose()
    {
        models.Dispose();
        room.Dispose();
    }

    /// <summary>Reads one for everybody who asks: whoever leaves does not end it for the others.</summary>
    private async Task<PreparedModel> ReadAsync((string, string) key, byte[] facts, byte[] blocks)
    {
        try
        {
            var scene = await FormAsync<SceneFacts>(facts, default);
            var size = scene.Parts.Sum(p => p.Block.Length + (p.Block.Points * PointBytes) + (p.Block.Triangles * 3 * CornerBytes));
            using var place = await room.TakeAsync(size);
            using var bytes = new MemoryStream();
            if (!await spool.CopyToAsync(blocks, bytes, default)) throw Refused.Missing("model");
            var all = bytes.ToArray();
            var model = new PreparedModel(scene, all, [.. scene.Parts.Select(p => PreparedScene.ReadPart(p, all.AsSpan((int)p.Block.At, (int)p.Block.Length)).Mesh)]);
            models.Set(key, model, new MemoryCacheEntryOptions { Size = size, SlidingExpiration = Kept });
            return model;
        }
        finally
        {
            underWay.TryRemove(key, out _);
        }
    }

    private async Task<byte[]> HashAsync(Who who, Guid draft, int position, string form, CancellationToken stop) => (await drafts.FormAsync(who, draft, position, form, stop)).Sha256;

    private async Task<T> FormAsync<T>(byte[] sha256, CancellationToken stop)
    {
        using var json = new MemoryStream();
        if (!await spool.CopyToAsync(sha256, json, stop)) throw Refused.Missing("model");
        return JsonSerializer.Deserialize<T>(json.GetBuffer().AsSpan(0, (int)json.Length), FormJson.Options)!;
    }
}
