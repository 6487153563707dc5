using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>A line of words as it stands on a sheet: what finding looks through.</summary>
/// <param name="Text">The words.</param>
/// <param name="At">Where the line begins, on its baseline.</param>
/// <param name="Along">To where it ends.</param>
/// <param name="Up">Across it, as long as its letters are high.</param>
public readonly record struct WrittenRun(string Text, PointXY At, PointXY Along, PointXY Up);
