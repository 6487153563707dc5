namespace Froe.Core.Draft;

/// <summary>A picture of points at every size it is looked at, each half of the one before, down to a single tile; cut into square tiles.</summary>
/// <param name="Width">Pixels of the whole picture.</param>
/// <param name="Height">Pixels of the whole picture.</param>
/// <param name="Tile">Pixels on a tile's side; those at the right and the bottom are cut short.</param>
/// <param name="MediaType">What each tile is.</param>
/// <param name="Levels">The whole picture first.</param>
public sealed record TilePyramid(int Width, int Height, int Tile, string MediaType, IReadOnlyList<TileLevel> Levels);

/// <summary>One size of a picture.</summary>
/// <param name="At">Where in the pack each tile begins, row by row.</param>
/// <param name="Bytes">How long it is.</param>
public sealed record TileLevel(int Width, int Height, int Columns, int Rows, IReadOnlyList<long> At, IReadOnlyList<int> Bytes);
