namespace Froe.Core.Drawing;

/// <summary>How finely a page states where its lines end: programs round what they write, so nothing on it can be measured more exactly.</summary>
public static class Fineness
{
    /// <summary>Coordinates looked at in each direction: enough to meet two that lie side by side.</summary>
    private const int Most = 40_000;

    /// <summary>Closer than this two coordinates are one that was reckoned twice, in millimetres of paper.</summary>
    private const double Same = 0.0005;

    /// <summary>What a page is taken to state at least, in millimetres of paper: a five hundredth of an inch.</summary>
    private const double Coarsest = 0.05;

    /// <summary>The least step between two different coordinates of a page's lines, in millimetres of paper; null where there are no lines.</summary>
    public static double? Of(Sheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var (across, up) = (new List<float>(), new List<float>());
        for (var i = 0; i < sheet.SegmentEnds.Length && across.Count < Most; i++)
        {
            for (var end = 0; end < 2; end++)
            {
                // Where a curve was cut into chords nobody wrote a number.
                if (!sheet.SegmentEnds[i].HasFlag(end == 0 ? StrokeEnds.First : StrokeEnds.Second)) continue;
                across.Add(sheet.Segments[(4 * i) + (2 * end)]);
                up.Add(sheet.Segments[(4 * i) + (2 * end) + 1]);
            }
        }
        return across.Count == 0 ? null : Math.Min(Coarsest, Math.Min(Step(across), Step(up)));
    }

    private static double Step(List<float> numbers)
    {
        numbers.Sort();
        var least = double.PositiveInfinity;
        for (var i = 1; i < numbers.Count; i++)
        {
            var step = (double)numbers[i] - numbers[i - 1];
            if (step >= Same && step < least) least = step;
        }
        return least;
    }
}
