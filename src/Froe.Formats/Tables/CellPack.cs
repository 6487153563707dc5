using System.Buffers.Binary;
using System.Text.Json;
using Froe.Core.Draft;

namespace Froe.Formats.Tables;

/// <summary>
/// The form “cells”: “FRTB”; the blocks one after another, each a <see cref="TableBlock"/> as UTF-8 JSON; the layout as UTF-8 JSON
/// (<see cref="TableFacts"/>); then, little-endian, where each block begins as u64, where the layout begins as u64, where it ends as u64, and
/// the number of blocks as u32. So one block of a large table is found without reading the rest.
/// </summary>
public static class CellPack
{
    /// <summary>What packs are kept as.</summary>
    public const string MediaType = "application/vnd.froe.cells";

    private const int Head = 4, Tail = 4, Place = 8;

    internal static void Write(TableFacts facts, IReadOnlyList<byte[]> blocks, Stream to)
    {
        to.Write("FRTB"u8);
        var ends = new byte[((blocks.Count + 2) * Place) + Tail];
        var at = (long)Head;
        for (var i = 0; i < blocks.Count; i++)
        {
            BinaryPrimitives.WriteInt64LittleEndian(ends.AsSpan(i * Place), at);
            to.Write(blocks[i]);
            at += blocks[i].Length;
        }
        var layout = JsonSerializer.SerializeToUtf8Bytes(facts, FormJson.Options);
        to.Write(layout);
        BinaryPrimitives.WriteInt64LittleEndian(ends.AsSpan(blocks.Count * Place), at);
        BinaryPrimitives.WriteInt64LittleEndian(ends.AsSpan((blocks.Count + 1) * Place), at + layout.Length);
        BinaryPrimitives.WriteInt32LittleEndian(ends.AsSpan(^Tail), blocks.Count);
        to.Write(ends);
    }

    /// <summary>How the table of a pack is laid out.</summary>
    /// <param name="pack">Can be sought in.</param>
    /// <exception cref="InvalidDataException">It is no pack.</exception>
    public static TableFacts Facts(Stream pack)
    {
        var layout = Part(pack, Blocks(pack));
        return JsonSerializer.Deserialize<TableFacts>(layout, FormJson.Options) ?? throw new InvalidDataException("Not a pack of cells.");
    }

    /// <summary>One block as it is stored; null when there is none of that number.</summary>
    /// <exception cref="InvalidDataException">It is no pack.</exception>
    public static byte[]? Block(Stream pack, int number) => number < 0 || number >= Blocks(pack) ? null : Part(pack, number);

    /// <summary>How many blocks a pack has.</summary>
    /// <exception cref="InvalidDataException">It is no pack.</exception>
    public static int Blocks(Stream pack)
    {
        ArgumentNullException.ThrowIfNull(pack);
        if (pack.Length < Head + (2 * Place) + Tail) throw new InvalidDataException("Not a pack of cells.");
        Span<byte> tail = stackalloc byte[Tail];
        pack.Position = pack.Length - Tail;
        pack.ReadExactly(tail);
        var count = BinaryPrimitives.ReadInt32LittleEndian(tail);
        return count >= 0 && Head + ((count + 2L) * Place) + Tail <= pack.Length ? count : throw new InvalidDataException("Not a pack of cells.");
    }

    /// <summary>A block, or the layout behind the last.</summary>
    private static byte[] Part(Stream pack, int number)
    {
        Span<byte> ends = stackalloc byte[2 * Place];
        pack.Position = pack.Length - Tail - ((Blocks(pack) + 2 - number) * (long)Place);
        pack.ReadExactly(ends);
        var (from, to) = (BinaryPrimitives.ReadInt64LittleEndian(ends), BinaryPrimitives.ReadInt64LittleEndian(ends[Place..]));
        if (from < Head || to < from || to > pack.Length || to - from > Array.MaxLength) throw new InvalidDataException("Not a pack of cells.");
        var bytes = new byte[to - from];
        pack.Position = from;
        pack.ReadExactly(bytes);
        return bytes;
    }
}
