namespace Froe.Formats.Dxf;

/// <summary>Looks at the first bytes for kinds of file that people take for DXF, and stops at the limit.</summary>
internal sealed class SniffedStream(Stream inner, long most) : Stream
{
    private long total;

    public override int Read(byte[] buffer, int offset, int count)
    {
        var read = inner.Read(buffer, offset, count);
        if (total == 0)
        {
            var head = buffer.AsSpan(offset, Math.Min(read, 512));
            if (read == 0) throw new InvalidDataException("The file is empty.");
            if (head.StartsWith("AC10"u8)) throw new InvalidDataException("This is a binary drawing in its program's own format. Save the drawing as ASCII DXF and upload that.");
            if (head.StartsWith("%PDF"u8)) throw new InvalidDataException("This is a PDF, whose name should end in .pdf. Rename it and upload it again.");
            if (head.Contains((byte)0)) throw new InvalidDataException("This is a binary file, but no DXF. Export the drawing as DXF and upload that.");
        }
        total += read;
        if (total > most) throw new InvalidDataException($"The file is longer than {most / 1_000_000:N0} MB, the most that can be read.");
        return read;
    }

    public override bool CanRead => true;
    public override bool CanSeek => false;
    public override bool CanWrite => false;
    public override long Length => throw new NotSupportedException();
    public override long Position { get => total; set => throw new NotSupportedException(); }
    public override void Flush() => throw new NotSupportedException();
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();
    public override void SetLength(long value) => throw new NotSupportedException();
    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
}
