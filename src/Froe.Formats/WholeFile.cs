namespace Froe.Formats;

/// <summary>Files that are read at once, because what they hold is found from their end.</summary>
internal static class WholeFile
{
    /// <summary>Reads a file; the fault instead when it is longer than <paramref name="most"/> bytes.</summary>
    public static (byte[]? File, ReadFault? Fault) Read(Stream stream, long most)
    {
        ArgumentNullException.ThrowIfNull(stream);
        var room = Math.Min(most, Array.MaxLength);
        using var all = new MemoryStream(stream.CanSeek ? (int)Math.Min(stream.Length, room) : 0);
        var buffer = new byte[1 << 16];
        for (int n; (n = stream.Read(buffer)) > 0;)
        {
            if (all.Length + n > room) return (null, new ReadFault(null, $"The file is longer than {room >> 20:N0} MB. Split it or make its pictures smaller."));
            all.Write(buffer, 0, n);
        }
        return (all.ToArray(), null);
    }
}
