using Froe.Core.Review;
using Npgsql;

namespace Froe.Store;

/// <summary>What notes say besides their words, as it is kept: urgent, due, tags and, where it is asked for, on_package, one after the other.</summary>
public static class NoteTermsRows
{
    /// <summary>Reads them from the column of urgent on; a row that ends after tags is of one item.</summary>
    public static NoteTerms Read(NpgsqlDataReader r, int first)
    {
        ArgumentNullException.ThrowIfNull(r);
        return new(r.GetBoolean(first), r.IsDBNull(first + 1) ? null : r.GetFieldValue<DateOnly>(first + 1), [.. r.GetFieldValue<string[]>(first + 2)], first + 3 < r.FieldCount && r.GetBoolean(first + 3));
    }
}
