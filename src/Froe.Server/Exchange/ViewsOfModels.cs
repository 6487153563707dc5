using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Models;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Server.Packages;
using Froe.Server.Scenes;
using Froe.Server.SignIn;

namespace Froe.Server.Exchange;

/// <summary>Models on their way out of the house: each view that somebody marked, as a sheet of its own.</summary>
public sealed class ViewsOfModels(LyingOnDrafts lyingOn, PreparedModels models)
{
    /// <summary>Most triangles of all views of a model together; what is drawn beyond takes longer than anybody waits for.</summary>
    private const long MostTriangles = 40_000_000;

    /// <summary>How much wider a view is than high: as a place's picture, and nearly as paper that lies.</summary>
    private const double Wide = 1.44;

    /// <summary>The ring about a spot, of the view's height.</summary>
    private const double Ring = 0.012;

    /// <summary>The views of a model on which something lies that whoever asks may see, in the order they were marked.</summary>
    /// <param name="leaf">The model.</param>
    /// <param name="notes">Of its package, as far as whoever asks may see them.</param>
    /// <returns>The views, and how many more there are that would take too long to draw.</returns>
    public async Task<(IReadOnlyList<MarkedLeaf> Views, int LeftOut)> OfAsync(Who who, Guid draft, Guid document, Leaf leaf, IReadOnlyList<NoteRow> notes, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(leaf);
        ArgumentNullException.ThrowIfNull(notes);
        var marks = (await lyingOn.MarksAsync(who.Id, draft, notes, null, stop))
            // What a measure that stands for itself comes to is worked out where it is looked at.
            .Where(m => m.Leaf == leaf.Position && (m.Mark.Shape is not ModelMeasure || m.Mark.Note is not null)).Select(m => m.Mark).ToList();
        marks.AddRange(await CarriedAsync(who, draft, document, leaf, notes, stop));
        if (marks.Count == 0) return ([], 0);
        var scene = await models.FactsAsync(who, draft, leaf.Position, stop);
        var at = scene.Placements();
        var (views, leftOut) = (new List<MarkedLeaf>(), 0);
        var most = MostTriangles / Math.Max(1, ((SceneFrame)leaf.Frame).Triangles);
        foreach (var view in marks.Select(m => (Mark: m, Eye: EyeOf(m.Shape))).Where(m => m.Eye is not null).GroupBy(m => m.Eye!, m => m.Mark))
        {
            List<SentMark> seen = [.. view.Select(m => (Mark: m, Shape: Seen(m.Shape, view.Key.From(), at))).Where(m => m.Shape is not null).Select(m => m.Mark with { Shape = m.Shape! })];
            if (seen.Count == 0) continue;
            if (views.Count >= most)
            {
                leftOut++;
                continue;
            }
            double high = view.Key.Height / 2, wide = high * Wide;
            var numbers = string.Join(", ", seen.Select(m => m.Note?.Number).OfType<int>().Distinct().Order());
            var frame = new SheetFrame(scene.Unit, new Extents(-wide, -high, wide, high));
            views.Add(new MarkedLeaf(new Leaf(leaf.Position, numbers.Length > 0 ? $"{leaf.Name}, as it was seen for {numbers}" : leaf.Name, frame), seen, []) { View = new ViewOfModel(leaf.Position, view.Key) });
        }
        return (views, leftOut);
    }

    private static PinEye? EyeOf(Shape shape) => shape switch { Pin p => p.Eye, OnView v => v.Eye, ModelMeasure m => m.Eye, _ => null };

    /// <summary>What is drawn of a markup where an eye sees it; null where nothing is.</summary>
    private static Shape? Seen(Shape shape, SceneEye eye, IReadOnlyList<Affine> at)
    {
        PointXY? Spot(int component, Point3 p) => (uint)component < (uint)at.Count && eye.Place(at[component].Apply(p)) is ({ } seen, > 0) ? seen : null;
        var room = Ring * eye.Height;
        Ellipse Ringed(PointXY p) => new(new(p.X - room, p.Y - room), new(p.X + room, p.Y + room));
        return shape switch
        {
            OnView v => v.Drawn,
            Pin p => Spot(p.Component, p.At) is { } seen ? Ringed(seen) : null,
            ModelMeasure { Of: [var one] } => Spot(one.Component, one.At) is { } seen ? Ringed(seen) : null,
            ModelMeasure { Of: [var one, var other] } => (Spot(one.Component, one.At), Spot(other.Component, other.At)) is ({ } from, { } to) && from != to ? new Line(from, to) : null,
            _ => null,
        };
    }

    /// <summary>Spots on earlier drafts of notes that lie here too, where they are surely found again.</summary>
    private async Task<IReadOnlyList<SentMark>> CarriedAsync(Who who, Guid draft, Guid document, Leaf leaf, IReadOnlyList<NoteRow> notes, CancellationToken stop)
    {
        var carried = (from note in notes
                       where note.Places.Any(p => p.Draft == draft && p.How == Carriage.Carried)
                       from mark in note.Marks
                       where mark.Document == document && mark.Draft != draft && mark.Place is OnScene { Leaf: var lies } && lies == leaf.Position && mark.Shape is Pin
                       select (Note: note, Mark: mark, Pin: (Pin)mark.Shape)).ToList();
        if (carried.Count == 0) return [];
        var now = (await models.FactsAsync(who, draft, leaf.Position, stop), await models.ExactAsync(who, draft, leaf.Position, stop));
        var meshes = (await models.OfAsync(who, draft, leaf.Position, stop)).Meshes;
        var all = new List<SentMark>();
        foreach (var of in carried.GroupBy(c => c.Mark.Draft))
        {
            var finding = new FindingAgain((await models.FactsAsync(who, of.Key, leaf.Position, stop), await models.ExactAsync(who, of.Key, leaf.Position, stop)), now, meshes);
            foreach (var (note, mark, pin) in of)
            {
                if (finding.Find(new PickedOnModel(pin.Component, pin.Face, null, pin.At, pin.Normal)) is not { How: FoundHow.Same or FoundHow.Changed, Component: { } component } found) continue;
                // What was left out then goes by the numbers of then.
                var here = pin with { Component = component, Face = found.Face ?? pin.Face, At = found.At, Eye = component == pin.Component ? pin.Eye : pin.Eye with { Hidden = [] } };
                all.Add(new SentMark(mark.Id, here, null, note.AuthorName, note.At, "Carried from earlier drafts", LyingOnDrafts.Sent(note), OverlayLook.Usual, IsCarried: true));
            }
        }
        return all;
    }
}
