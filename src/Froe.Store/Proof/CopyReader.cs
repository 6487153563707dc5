using System.Buffers.Binary;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>
/// Rows as PostgreSQL sends them in bulk (its manual, chapter COPY, "Binary Format"): fields stay bytes in one buffer, so that a
/// ledger of any length is read at the speed of its hashing. Big-endian; a null field has length -1.
/// </summary>
internal sealed class CopyReader : IDisposable
{
    private const int HeaderLength = 19;
    private static readonly long Epoch2000 = (new DateTime(2000, 1, 1, 0, 0, 0, DateTimeKind.Utc) - DateTime.UnixEpoch).Ticks / TimeSpan.TicksPerMicrosecond;
    private readonly NpgsqlRawCopyStream stream;
    private readonly (int At, int Length)[] fields;
    private byte[] buffer = new byte[1 << 18];
    private int start, end;

    /// <summary>Begins to read.</summary>
    /// <param name="query">A whole SELECT of so many columns, without parameters.</param>
    public CopyReader(NpgsqlConnection connection, string query, int columns)
    {
        stream = connection.BeginRawBinaryCopy($"COPY ({query}) TO STDOUT (FORMAT BINARY)");
        fields = new (int, int)[columns];
        Demand(HeaderLength);
        var extension = BinaryPrimitives.ReadInt32BigEndian(buffer.AsSpan(start + 15));
        start += HeaderLength;
        Demand(extension);
        start += extension;
    }

    /// <summary>Goes to the next row; false after the last.</summary>
    public bool Read()
    {
        Demand(2);
        var count = BinaryPrimitives.ReadInt16BigEndian(buffer.AsSpan(start));
        start += 2;
        if (count == -1) return false;
        if (count != fields.Length) throw new InvalidDataException($"PostgreSQL sent {count} columns where {fields.Length} were asked for.");
        // Places are kept from the row's beginning: the buffer may move while its fields arrive.
        var at = 0;
        for (var i = 0; i < count; i++)
        {
            Demand(at + 4);
            var length = BinaryPrimitives.ReadInt32BigEndian(buffer.AsSpan(start + at));
            at += 4;
            fields[i] = (at, length);
            if (length <= 0) continue;
            Demand(at + length);
            at += length;
        }
        for (var i = 0; i < count; i++) fields[i].At += start;
        start += at;
        return true;
    }

    /// <summary>A field's bytes, until the next row is read; empty for null.</summary>
    public ReadOnlySpan<byte> Bytes(int field) => fields[field].Length <= 0 ? [] : buffer.AsSpan(fields[field].At, fields[field].Length);

    /// <summary>Whether a field is null.</summary>
    public bool IsNull(int field) => fields[field].Length < 0;

    /// <summary>A bigint or an int.</summary>
    public long Number(int field) => fields[field].Length == 4 ? BinaryPrimitives.ReadInt32BigEndian(Bytes(field)) : BinaryPrimitives.ReadInt64BigEndian(Bytes(field));

    /// <summary>A timestamptz, in microseconds since 1970.</summary>
    public long Microseconds(int field) => BinaryPrimitives.ReadInt64BigEndian(Bytes(field)) + Epoch2000;

    /// <summary>A timestamptz.</summary>
    public DateTimeOffset Time(int field) => DateTimeOffset.UnixEpoch.AddTicks(Microseconds(field) * TimeSpan.TicksPerMicrosecond);

    private void Demand(int bytes)
    {
        if (end - start >= bytes) return;
        if (buffer.Length - start < bytes)
        {
            var larger = buffer.Length < bytes ? new byte[Math.Max(bytes, buffer.Length * 2)] : buffer;
            buffer.AsSpan(start, end - start).CopyTo(larger);
            (buffer, end, start) = (larger, end - start, 0);
        }
        while (end - start < bytes)
        {
            var read = stream.Read(buffer, end, buffer.Length - end);
            if (read == 0) throw new EndOfStreamException("PostgreSQL ended the rows before their end.");
            end += read;
        }
    }

    /// <inheritdoc/>
    public void Dispose() => stream.Dispose();
}
