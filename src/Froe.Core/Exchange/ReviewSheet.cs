namespace Froe.Core.Exchange;

/// <summary>A package as it is laid on paper for the files: its sheets with what lies on them, then what was said and decided.</summary>
/// <param name="Number">The package's.</param>
/// <param name="Head">Lines under its title: who sent it, which round, where it stands, when this was made.</param>
/// <param name="Items">Its items, in order.</param>
/// <param name="Signed">Who signed what, each a line.</param>
/// <param name="Notes">Its notes by number.</param>
public sealed record ReviewSheet(string Number, string Title, IReadOnlyList<string> Head, IReadOnlyList<ReviewedItem> Items, IReadOnlyList<SignedLine> Signed, IReadOnlyList<ReviewedNote> Notes);

/// <summary>An item of it.</summary>
/// <param name="Name">Number and draft: “TO-3301 A.2”.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Sha256">Of its file.</param>
/// <param name="Leaves">Its sheets with what lies on them, then the views of its models that were marked; none of a table or a supporting file.</param>
public sealed record ReviewedItem(string Name, string Title, string FileName, string Sha256, IReadOnlyList<MarkedLeaf> Leaves);

/// <summary>A signature, or a verdict of it.</summary>
/// <param name="Words">As it is read.</param>
/// <param name="IsVerdict">Whether it stands under the signature before it.</param>
public sealed record SignedLine(string Words, bool IsVerdict);

/// <summary>A note of it.</summary>
/// <param name="Head">Kind, number and standing: “Request 3, answered”.</param>
/// <param name="Where">What it is about, and where: “TO-3301 A.2, B6”.</param>
/// <param name="By">Who wrote it, and when.</param>
/// <param name="Body">What it says.</param>
/// <param name="Said">What was said and done since, each a line.</param>
/// <param name="Item">The item its first place lies on; null for none.</param>
/// <param name="Mark">The markup at that place.</param>
public sealed record ReviewedNote(int Number, string Head, string Where, string By, string Body, IReadOnlyList<string> Said, int? Item, Guid? Mark);

/// <summary>A review sheet is to be written.</summary>
public sealed record ReviewSheetErrand(ReviewSheet Sheet);
