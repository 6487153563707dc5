using System.Buffers.Binary;
using System.Globalization;
using System.Text;

namespace Froe.Formats.Dxf;

/// <summary>
/// Binary DXF as though it were written in lines (DXF reference, “Binary DXF files”): a mark of 22 bytes, then groups, each a code in two
/// bytes (in one until R12, where 255 leads to two) and a value whose kind follows from the code. Everything else passes as it is.
/// </summary>
internal sealed class BinaryDxf : Stream
{
    private const int Mark = 22, LongestText = 1 << 20;

    private readonly Stream inner;
    private readonly byte[] head;
    private readonly bool isBinary;
    private byte[] ready = [];
    private int at;
    private bool? hasWideCodes;
    private bool isOver;

    public BinaryDxf(Stream inner)
    {
        this.inner = inner;
        var first = new byte[Mark];
        head = first[..inner.ReadAtLeast(first, Mark, throwOnEndOfStream: false)];
        // The mark ends as no text does; what comes before names the program that first wrote such files.
        isBinary = head.AsSpan().EndsWith("DXF\r\n\u001A\0"u8);
        if (!isBinary) ready = head;
    }

    public override int Read(byte[] buffer, int offset, int count)
    {
        while (at == ready.Length)
        {
            if (!isBinary) return inner.Read(buffer, offset, count);
            if (isOver || !Next()) return 0;
        }
        var given = Math.Min(count, ready.Length - at);
        Array.Copy(ready, at, buffer, offset, given);
        at += given;
        return given;
    }

    /// <summary>Some groups, as lines.</summary>
    private bool Next()
    {
        using var lines = new MemoryStream();
        while (lines.Length < 1 << 16 && !isOver)
        {
            if (Code() is not { } code)
            {
                isOver = true;
                break;
            }
            lines.Write(Encoding.ASCII.GetBytes(code.ToString(CultureInfo.InvariantCulture)));
            lines.WriteByte((byte)'\n');
            Value(code, lines);
            lines.WriteByte((byte)'\n');
        }
        (ready, at) = (lines.ToArray(), 0);
        return ready.Length > 0;
    }

    private int? Code()
    {
        var first = inner.ReadByte();
        if (first < 0) return null;
        if (hasWideCodes is null)
        {
            // The first group is 0 SECTION: what stands behind its code's first byte tells how wide codes are.
            var second = inner.ReadByte();
            hasWideCodes = second == 0;
            if (second > 0) pending = second;
            return first;
        }
        if (hasWideCodes == false && first != 255) return first;
        if (hasWideCodes == false) return BinaryPrimitives.ReadInt16LittleEndian(Bytes(2));
        var high = inner.ReadByte();
        if (high < 0) throw Cut();
        return (short)(first | (high << 8));
    }

    private int pending = -1;

    private int Byte()
    {
        if (pending < 0) return inner.ReadByte();
        var held = pending;
        pending = -1;
        return held;
    }

    private void Value(int code, MemoryStream to)
    {
        switch (code)
        {
            case (>= 10 and < 60) or (>= 110 and < 150) or (>= 210 and < 240) or (>= 460 and < 470) or (>= 1010 and < 1060):
                Say(BinaryPrimitives.ReadDoubleLittleEndian(Bytes(8)).ToString("R", CultureInfo.InvariantCulture));
                break;
            case (>= 60 and < 80) or (>= 170 and < 180) or (>= 270 and < 290) or (>= 370 and < 390) or (>= 400 and < 410) or (>= 1060 and < 1071):
                Say(BinaryPrimitives.ReadInt16LittleEndian(Bytes(2)).ToString(CultureInfo.InvariantCulture));
                break;
            case (>= 90 and < 100) or (>= 420 and < 430) or (>= 440 and < 460) or 1071:
                Say(BinaryPrimitives.ReadInt32LittleEndian(Bytes(4)).ToString(CultureInfo.InvariantCulture));
                break;
            case >= 160 and < 170:
                Say(BinaryPrimitives.ReadInt64LittleEndian(Bytes(8)).ToString(CultureInfo.InvariantCulture));
                break;
            case >= 290 and < 300:
                Say(Bytes(1)[0] == 0 ? "0" : "1");
                break;
            case (>= 310 and < 320) or 1004:
                Say(Convert.ToHexString(Bytes(Bytes(1)[0])));
                break;
            default:
                for (var length = 0; ; length++)
                {
                    var letter = Byte();
                    if (letter < 0) throw Cut();
                    if (letter == 0) return;
                    if (length > LongestText) throw new InvalidDataException("A text in this binary DXF has no end; the file is damaged. Export it again.");
                    // A line cannot hold its own end.
                    to.WriteByte(letter is '\n' or '\r' ? (byte)' ' : (byte)letter);
                }
        }

        void Say(string words) => to.Write(Encoding.ASCII.GetBytes(words));
    }

    private byte[] Bytes(int count)
    {
        var bytes = new byte[count];
        if (inner.ReadAtLeast(bytes, count, throwOnEndOfStream: false) < count) throw Cut();
        return bytes;
    }

    private static InvalidDataException Cut() => new("This binary DXF stops within a value; it was probably cut off. Export it again.");

    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

    public override void Flush()
    {
    }

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
}
