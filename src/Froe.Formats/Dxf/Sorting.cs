using System.Globalization;
using System.Text;

namespace Froe.Formats.Dxf;

/// <summary>The order that the entities of a block are drawn in, where they were put before or behind one another (DXF reference, SORTENTSTABLE): each has the handle of the place it takes.</summary>
internal sealed class Sorting
{
    private const int Most = 1_000_000;

    private readonly Dictionary<ulong, ulong> order = [];
    private string? owner;
    private ulong entity;

    /// <summary>Whether it is a table that is wanted.</summary>
    public bool IsOn { get; init; }

    /// <summary>Takes a group of the table: the block (330), then by turns an entity (331) and its place (5).</summary>
    public void Take(int code, ReadOnlySpan<byte> word)
    {
        if (code == 330) owner = Encoding.ASCII.GetString(word);
        else if (code is 331 or 5 && ulong.TryParse(word, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var handle))
        {
            if (code == 331) entity = handle;
            else if (entity != 0 && order.Count < Most)
            {
                order[entity] = handle;
                entity = 0;
            }
        }
    }

    /// <summary>The table ends.</summary>
    public void End(DxfTables tables, Dictionary<string, Dictionary<ulong, ulong>> orders)
    {
        if (IsOn && order.Count > 0 && owner is not null && tables.BlockOfHandle.TryGetValue(owner, out var block)) orders[block] = order;
    }
}
