using System.Collections.Immutable;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A shape that goes through some points, in their order.</summary>
public abstract record PointPath(ImmutableArray<PointXY> Points) : Shape
{
    /// <summary>Most points: more than a hand draws without letting go, once what lies in a line is left out.</summary>
    public const int Most = 1000;

    /// <summary>Fewest points that make it.</summary>
    protected virtual int Least => 2;

    /// <inheritdoc/>
    protected override Extents Reach => Points.IsDefault ? Extents.Empty : Points.Aggregate(Extents.Empty, (box, p) => box.With(p.X, p.Y));

    /// <inheritdoc/>
    protected override bool HasSize => !Points.IsDefault && Points.Length >= Least && Points.Length <= Most && Points.Any(p => p != Points[0]);

    /// <summary>Two are the same when they go through the same points.</summary>
    public virtual bool Equals(PointPath? other) =>
        other is not null && EqualityContract == other.EqualityContract && Points.IsDefault == other.Points.IsDefault && (Points.IsDefault || Points.AsSpan().SequenceEqual(other.Points.AsSpan()));

    /// <inheritdoc/>
    public override int GetHashCode() => Points.IsDefaultOrEmpty ? 0 : HashCode.Combine(EqualityContract, Points.Length, Points[0], Points[^1]);

    /// <summary>Twice the area that the points enclose, negative when they go round clockwise.</summary>
    protected double TwiceArea()
    {
        var twice = 0.0;
        var first = Points[0];
        for (var i = 0; i < Points.Length; i++)
        {
            // Counted from the first point, so that far from the origin nothing is lost.
            var (a, b) = (Points[i], Points[(i + 1) % Points.Length]);
            twice += ((a.X - first.X) * (b.Y - first.Y)) - ((b.X - first.X) * (a.Y - first.Y));
        }
        return twice;
    }

    /// <summary>The uppermost of its points, of those the rightmost.</summary>
    protected PointXY Uppermost() => Points.Aggregate((a, b) => b.Y > a.Y || (b.Y == a.Y && b.X > a.X) ? b : a);
}

/// <summary>Straight lines from point to point.</summary>
public sealed record Polyline(ImmutableArray<PointXY> Points) : PointPath(Points)
{
    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it has no small parts.</param>
    public override Outline Outline(double detail) => new([Points], OutlineFill.None, Points[^1], Points[Points.Length / 2]);
}

/// <summary>As a hand drew it, smoothed.</summary>
public sealed record Freehand(ImmutableArray<PointXY> Points) : PointPath(Points)
{
    /// <summary>How often its corners are cut.</summary>
    private const int Cuts = 2;

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it has no small parts.</param>
    /// <remarks>
    /// Corner cutting (G. Chaikin, "An algorithm for high-speed curve generation", 1974): each side gives way to its middle half, the two ends stay.
    /// </remarks>
    public override Outline Outline(double detail)
    {
        var line = Points;
        for (var cut = 0; cut < Cuts && line.Length > 2; cut++)
        {
            var next = ImmutableArray.CreateBuilder<PointXY>(line.Length * 2);
            next.Add(line[0]);
            for (var i = 1; i < line.Length; i++)
            {
                var (a, b) = (line[i - 1], line[i]);
                if (i > 1) next.Add(new((a.X * 0.75) + (b.X * 0.25), (a.Y * 0.75) + (b.Y * 0.25)));
                if (i < line.Length - 1) next.Add(new((a.X * 0.25) + (b.X * 0.75), (a.Y * 0.25) + (b.Y * 0.75)));
            }
            next.Add(line[^1]);
            line = next.DrainToImmutable();
        }
        return new([line], OutlineFill.None, Points[^1], Points[Points.Length / 2]);
    }
}
