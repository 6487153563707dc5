using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>What the page's view of a PDF page needs to know besides its bytes.</summary>
/// <param name="Page">Which page of the file it is, from 0.</param>
/// <param name="IsDerived">Whether it is a page of the form “paged”, made of a file that is no PDF itself.</param>
/// <param name="Millimetres">Millimetres of paper in a point of the file, 25.4 / 72 unless it says otherwise (UserUnit).</param>
/// <param name="Layers">Its document's layers (optional content), in the file's order; empty for one without.</param>
/// <param name="Switch">How they are switched; null where there are none, or the file does not let them be.</param>
/// <param name="Marks">What others drew and wrote on the page before it came here (annotations).</param>
public sealed record PageFacts(int Page, bool IsDerived, double Millimetres, IReadOnlyList<PageLayer> Layers, LayerSwitch? Switch, IReadOnlyList<FileMark> Marks);

/// <summary>A layer of a page's document.</summary>
/// <param name="Groups">The optional content groups of that name, as a file refers to them: “12 0 R”.</param>
public sealed record PageLayer(string Name, bool IsOn, IReadOnlyList<string> Groups);

/// <summary>
/// An incremental update (ISO 32000-2, 7.5.6) that states anew which layers are off. Put behind the file it is the same document with those
/// layers hidden: <see cref="Head"/>, then the groups to hide filled up with blanks to <see cref="Room"/>, then <see cref="Tail"/>. Latin-1.
/// </summary>
/// <param name="Room">Bytes for the groups, so that everything behind them stays where the cross-references say.</param>
public sealed record LayerSwitch(string Head, int Room, string Tail);

/// <summary>A mark that came with the file: an annotation (ISO 32000-2, 12.5). Nobody here may change it.</summary>
/// <param name="Id">The file's own name for it, or its number on the page.</param>
/// <param name="Kind">What it is, in a word: note, cloud, line, highlight …</param>
/// <param name="Box">What it covers, millimetres of paper.</param>
/// <param name="Author">Who made it; empty where the file does not say.</param>
/// <param name="At">When it was changed last; null where the file does not say.</param>
/// <param name="Words">What it says.</param>
/// <param name="ReplyTo">The mark it answers; null for none.</param>
/// <param name="State">A state that its author gave the mark it answers, such as “Accepted”; null for none.</param>
public sealed record FileMark(string Id, string Kind, Extents Box, string Author, DateTimeOffset? At, string Words, string? ReplyTo, string? State);
