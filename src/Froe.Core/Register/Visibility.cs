namespace Froe.Core.Register;

/// <summary>Who takes part in a package, and where its documents are filed.</summary>
/// <param name="Originator">Who sent it.</param>
/// <param name="Holders">Who holds a seat in it.</param>
/// <param name="Informed">Who is informed of it.</param>
/// <param name="Asked">Who was asked for advice on it.</param>
/// <param name="Told">Who was told of it.</param>
/// <param name="Folders">Paths of the folders in which its documents, of any round, are filed.</param>
public sealed record PackageParts(Guid Originator, IReadOnlyCollection<Guid> Holders, IReadOnlyCollection<Guid> Informed, IReadOnlyCollection<Guid> Asked, IReadOnlyCollection<Guid> Told, IReadOnlyCollection<string> Folders);

/// <summary>
/// Who sees what. Everything else that can be seen follows from these two:
/// <list type="number">
/// <item>a document, with its drafts and its chain of the ledger, is seen by whoever may read its folder, and by whoever got a revision of it for use;</item>
/// <item>a package, with its notes, its slip, its chain and the drafts in it, is seen by whoever may read the folder of one of its
/// documents, sent it, holds a seat in it, stands in for somebody of these, is informed of it, was asked about it, or was told of it.</item>
/// </list>
/// </summary>
public static class Visibility
{
    /// <summary>Whether a document filed in a folder is seen.</summary>
    /// <param name="gotForUse">Whether a revision of it was sent to them for use.</param>
    public static bool Sees(Rights rights, string folder, bool gotForUse = false)
    {
        ArgumentNullException.ThrowIfNull(rights);
        return gotForUse || rights.For(Right.Read, folder);
    }

    /// <summary>Whether a package is seen.</summary>
    /// <param name="person">Who looks.</param>
    /// <param name="rights">What they may do.</param>
    /// <param name="standsInFor">For whom they stand in now.</param>
    public static bool Sees(Guid person, Rights rights, IReadOnlyCollection<Guid> standsInFor, PackageParts package)
    {
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(standsInFor);
        return package.Originator == person || package.Holders.Contains(person) || package.Informed.Contains(person) || package.Asked.Contains(person) || package.Told.Contains(person)
            || package.Holders.Append(package.Originator).Any(standsInFor.Contains) || package.Folders.Any(f => Sees(rights, f));
    }
}
