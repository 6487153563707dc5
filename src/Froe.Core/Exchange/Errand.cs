using Froe.Core.Draft;

namespace Froe.Core.Exchange;

/// <summary>Files that a draft goes out as, with what lies on it.</summary>
public enum OutForm
{
    /// <summary>PDF, the markups as annotations (ISO 32000-2, 12.5).</summary>
    Pdf,

    /// <summary>PDF, the markups drawn into its pages.</summary>
    FlatPdf,

    /// <summary>The annotations alone, for that PDF (XFDF, ISO 19444-1).</summary>
    Xfdf,

    /// <summary>One sheet as SVG.</summary>
    Svg,

    /// <summary>One sheet as PNG.</summary>
    Png,
}

/// <summary>What the server gives its child process to do, as JSON in a folder, and what comes back.</summary>
public static class ErrandFiles
{
    /// <summary>What is to be done: a <see cref="SendOutErrand"/> or a <see cref="BringInErrand"/>.</summary>
    public const string Errand = "errand.json";

    /// <summary>The file that comes of it, or that was brought.</summary>
    public const string File = "file";

    /// <summary>What is said of it: a <see cref="MarkedOut"/>, or the <see cref="BroughtAnnotation"/>s.</summary>
    public const string Answer = "answer.json";
}

/// <summary>A draft is to be written with what lies on it.</summary>
/// <param name="Name">What the PDF is called that an XFDF is for.</param>
public sealed record SendOutErrand(MarkedDraft Draft, OutForm Form, string Name);

/// <summary>A marked file is to be read for a draft.</summary>
/// <param name="Leaves">The draft's leaves.</param>
/// <param name="IsOwn">Whether it is about what lay on the draft's own file when it came, and no other file is there.</param>
public sealed record BringInErrand(IReadOnlyList<Leaf> Leaves, bool IsOwn);

/// <summary>A picture is to be read that somebody puts on a draft.</summary>
public sealed record PastedErrand;

/// <summary>A picture was read: the file is now what is kept of it.</summary>
/// <param name="Width">In pixels.</param>
/// <param name="Height">In pixels.</param>
public sealed record PastedSize(int Width, int Height);

/// <summary>How a draft went out.</summary>
/// <param name="IsOfPictures">Whether its pages are pictures, because its own file takes nothing more: it is encrypted or damaged.</param>
public sealed record MarkedOut(bool IsOfPictures);

/// <summary>An annotation that comes to a draft.</summary>
/// <param name="Position">The sheet that it lies on.</param>
/// <param name="Annotation">In the sheet's coordinates.</param>
public sealed record BroughtAnnotation(int Position, Annotation Annotation);
