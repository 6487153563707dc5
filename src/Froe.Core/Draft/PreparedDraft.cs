namespace Froe.Core.Draft;

/// <summary>A draft as it was prepared from its file, its forms lying in files beside: what a reader's process hands to the server.</summary>
/// <param name="Reader">Name of the reader that made the forms.</param>
/// <param name="Version">Its version.</param>
public sealed record PreparedDraft(string Reader, int Version, IReadOnlyList<PreparedLeaf> Leaves, ReaderReport Report)
{
    /// <summary>Name of the file that this is written to, beside the forms.</summary>
    public const string FileName = "prepared.json";
}

/// <summary>How one of several files ended that a reader's process reads one after the other; a line of JSON for each.</summary>
/// <param name="ExitCode">What a process for it alone would have ended with.</param>
/// <param name="Line">What that would have said on standard error.</param>
public sealed record SeriesEnd(int ExitCode, string Line);

/// <summary>A leaf and its forms.</summary>
public sealed record PreparedLeaf(Leaf Leaf, IReadOnlyList<PreparedForm> Forms);

/// <summary>A form of a leaf.</summary>
/// <param name="Name">One of <see cref="LeafForms"/>.</param>
/// <param name="MediaType">What its bytes are.</param>
/// <param name="File">The file's name.</param>
public sealed record PreparedForm(string Name, string MediaType, string File);

/// <summary>A form that is stored.</summary>
/// <param name="Position">Its leaf's.</param>
/// <param name="Form">One of <see cref="LeafForms"/>.</param>
/// <param name="Sha256">Of its bytes, 64 lower-case hex digits.</param>
public sealed record StoredForm(int Position, string Form, string Sha256);
