using System.Globalization;
using System.Text;
using Froe.Store;

namespace Froe.Server.Lists;

/// <summary>One order a list can stand in: by a value, and by keys where values are alike, so that a page goes on exactly where the last one ended.</summary>
/// <param name="Sql">The value and the keys in the list's statement.</param>
/// <param name="Mark">A row's value and keys.</param>
/// <param name="Types">What they are: text, number, time or id.</param>
public sealed record ListOrder<T>(IReadOnlyList<string> Sql, Func<T, IReadOnlyList<object>> Mark, IReadOnlyList<Type> Types);

/// <summary>Makes orders.</summary>
public static class ListOrder
{
    /// <summary>An order by a value of a row, and by a key of its own.</summary>
    public static ListOrder<T> By<T, TValue, TKey>(string sql, Func<T, TValue> value, string keySql, Func<T, TKey> key)
        where TValue : notnull
        where TKey : notnull => new([sql, keySql], row => [value(row), key(row)], [typeof(TValue), typeof(TKey)]);
}

/// <summary>A column of a list.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Title">Its heading.</param>
/// <param name="Cell">What a row says in it, times in the reader's zone.</param>
/// <param name="Order">How the list is sorted by it; null when it is not.</param>
public sealed record ListColumn<T>(string Name, string Title, Func<T, TimeZoneInfo, string> Cell, ListOrder<T>? Order = null);

/// <summary>A part of a list.</summary>
/// <param name="Next">Asks for the part after it; null at the end.</param>
public sealed record ListPage<T>(IReadOnlyList<T> Rows, string? Next);

/// <summary>A list's columns, and its pages by key (never by offset: the hundredth page costs what the first does).</summary>
public sealed class Listing<T>(string usual, params ListColumn<T>[] columns)
{
    private const char Between = '\u001f';

    /// <summary>The columns named in an address, in its order; all when none is.</summary>
    /// <exception cref="Refused">A name is none of this list's.</exception>
    public IReadOnlyList<ListColumn<T>> Columns(string? names) => string.IsNullOrEmpty(names)
        ? columns
        : [.. names.Split(',').Select(name => Array.Find(columns, c => c.Name == name) ?? throw Refused.Invalid("no-such-column", $"This list has no column “{name}”. It has {string.Join(", ", columns.Select(c => c.Name))}."))];

    /// <summary>Fetches one page.</summary>
    /// <param name="sort">A column's name, after a minus for the greatest first; null for the usual order.</param>
    /// <param name="after">What the page before gave as next; null or empty for the first page.</param>
    /// <param name="asked">What rows must fulfil; the place of the page is added to it.</param>
    /// <param name="size">Rows a page.</param>
    /// <param name="fetch">Gives the rows in an order, at most so many.</param>
    /// <exception cref="Refused">The list has no such order, or the page's mark cannot be read.</exception>
    public async Task<ListPage<T>> PageAsync(string? sort, string? after, Conditions asked, int size, Func<string, int, Task<List<T>>> fetch)
    {
        ArgumentNullException.ThrowIfNull(asked);
        ArgumentNullException.ThrowIfNull(fetch);
        sort = string.IsNullOrEmpty(sort) ? usual : sort;
        var down = sort.StartsWith('-');
        var order = Array.Find(columns, c => c.Name == sort.TrimStart('-'))?.Order
            ?? throw Refused.Invalid("no-such-order", $"This list is not sorted by “{sort.TrimStart('-')}”. It is by {string.Join(", ", columns.Where(c => c.Order is not null).Select(c => c.Name))}.");
        if (!string.IsNullOrEmpty(after))
        {
            var places = string.Join(", ", Enumerable.Range(1, order.Sql.Count).Select(i => string.Create(CultureInfo.InvariantCulture, $"@{i}")));
            asked.Add($"({string.Join(", ", order.Sql)}) {(down ? '<' : '>')} ({places})", Read(after));
        }
        var way = down ? " DESC" : "";
        var rows = await fetch(string.Join(", ", order.Sql.Select(sql => sql + way)), size + 1);
        return new ListPage<T>(rows.Take(size).ToList(), rows.Count > size ? Write(order.Mark(rows[size - 1])) : null);

        string Write(IReadOnlyList<object> mark) => Convert.ToHexStringLower(Encoding.UTF8.GetBytes(string.Join(Between, mark.Select(Told).Prepend(sort))));

        // A mark is of the order it was made in: what it holds must be what that order compares.
        object[] Read(string mark)
        {
            try
            {
                var parts = Encoding.UTF8.GetString(Convert.FromHexString(mark)).Split(Between);
                if (parts.Length == order.Types.Count + 1 && parts[0] == sort && parts.Skip(1).Zip(order.Types, Typed).ToArray() is var read && !read.Contains(null)) return read!;
            }
            catch (FormatException)
            {
                // Said below, with everything else that is no mark of this list.
            }
            throw Refused.Invalid("no-such-page", "This page of the list is not there. Go to the list's beginning.");
        }
    }

    private static string Told(object value) => value switch
    {
        DateTimeOffset t => t.UtcDateTime.ToString("O", CultureInfo.InvariantCulture),
        _ => Convert.ToString(value, CultureInfo.InvariantCulture)!,
    };

    private static object? Typed(string told, Type type)
    {
        if (type == typeof(DateTimeOffset)) return DateTime.TryParseExact(told, "O", CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out var t) && t.Kind == DateTimeKind.Utc ? t : null;
        if (type == typeof(long)) return long.TryParse(told, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
        if (type == typeof(Guid)) return Guid.TryParse(told, out var id) ? id : null;
        return told;
    }
}
