using System.Globalization;
using System.Net.Sockets;
using System.Text;

namespace Froe.Bench;

/// <summary>
/// One kept-alive HTTP/1.1 connection that spends next to nothing on itself, as pgbench does on its side: on a machine where
/// client and server share the processors, a full HTTP client would be measured along with the server.
/// </summary>
internal sealed class LeanConnection : IDisposable
{
    private readonly TcpClient client;
    private readonly NetworkStream stream;
    private readonly string headers;
    private readonly byte[] buffer = new byte[64 * 1024];
    private int start, end;

    public LeanConnection(Uri address, string cookies, string formToken)
    {
        client = new TcpClient(address.Host, address.Port) { NoDelay = true };
        stream = client.GetStream();
        headers = $"Host: {address.Authority}\r\nCookie: {cookies}\r\nX-Froe-Form: {formToken}\r\nContent-Type: application/json\r\n";
    }

    /// <summary>Posts JSON and waits for the whole answer; gives its status.</summary>
    public int Post(string path, string json)
    {
        var body = Encoding.UTF8.GetBytes(json);
        var head = Encoding.ASCII.GetBytes($"POST {path} HTTP/1.1\r\n{headers}Content-Length: {body.Length}\r\n\r\n");
        stream.Write([.. head, .. body]);
        var status = int.Parse(Line().Split(' ')[1], CultureInfo.InvariantCulture);
        var (length, chunked) = (0, false);
        for (var line = Line(); line.Length > 0; line = Line())
            if (line.StartsWith("Content-Length:", StringComparison.OrdinalIgnoreCase)) length = int.Parse(line.AsSpan(15), CultureInfo.InvariantCulture);
            else if (line.StartsWith("Transfer-Encoding: chunked", StringComparison.OrdinalIgnoreCase)) chunked = true;
        if (!chunked) Skip(length);
        else
            for (var size = -1; size != 0;)
            {
                size = int.Parse(Line(), NumberStyles.HexNumber, CultureInfo.InvariantCulture);
                Skip(size + 2);
            }
        return status;
    }

    public void Dispose() => client.Dispose();

    private string Line()
    {
        int length;
        while ((length = buffer.AsSpan(start, end - start).IndexOf((byte)'\n')) < 0) Fill();
        var line = Encoding.ASCII.GetString(buffer, start, length - 1);
        start += length + 1;
        return line;
    }

    private void Skip(int count)
    {
        while (count > 0)
        {
            if (start == end) Fill();
            var step = Math.Min(count, end - start);
            (start, count) = (start + step, count - step);
        }
    }

    private void Fill()
    {
        buffer.AsSpan(start, end - start).CopyTo(buffer);
        (start, end) = (0, end - start);
        var read = stream.Read(buffer, end, buffer.Length - end);
        if (read == 0) throw new IOException("The server closed the connection.");
        end += read;
    }
}
