using System.Text.Json.Serialization;

namespace Froe.Core.Draft;

/// <summary>Where in a draft something lies. Cells of a table and spots of a model will be places of their own.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "on")]
[JsonDerivedType(typeof(OnSheet), "sheet")]
public abstract record Place;

/// <summary>On a sheet; what lies there has its points in that sheet's coordinates.</summary>
/// <param name="Leaf">The sheet's position in its draft.</param>
public sealed record OnSheet(int Leaf) : Place;
