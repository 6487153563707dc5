using System.Text.Json.Serialization;

namespace Froe.Core.Draft;

/// <summary>Where in a draft something lies.</summary>
/// <param name="Leaf">The leaf's position in its draft.</param>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "on")]
[JsonDerivedType(typeof(OnSheet), "sheet")]
[JsonDerivedType(typeof(OnCells), "cells")]
[JsonDerivedType(typeof(OnScene), "scene")]
public abstract record Place(int Leaf);

/// <summary>On a sheet; what lies there has its points in that sheet's coordinates.</summary>
/// <param name="Leaf">The sheet's position in its draft.</param>
public sealed record OnSheet(int Leaf) : Place(Leaf);

/// <summary>On a table; what lies there is a range of its cells.</summary>
/// <param name="Leaf">The table's position in its draft.</param>
public sealed record OnCells(int Leaf) : Place(Leaf);

/// <summary>On a model; what lies there is a spot on one of its components.</summary>
/// <param name="Leaf">The model's position in its draft.</param>
public sealed record OnScene(int Leaf) : Place(Leaf);
