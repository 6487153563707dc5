using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;

namespace Froe.Formats.Models;

/// <summary>A mesh as it was before it was packed.</summary>
/// <param name="Positions">Three 32-bit floats a point.</param>
/// <param name="Colours">Four 32-bit floats a point; empty where it has none.</param>
/// <param name="Corners">Three 32-bit numbers of points a triangle.</param>
internal sealed record UnpackedMesh(int Points, int Triangles, byte[] Positions, byte[] Colours, byte[] Corners);

/// <summary>
/// Unpacks meshes by the libraries of those who made the packings, in a process of its own (native/mesh-unpacker.cpp): what damaged
/// bytes make of them ends only that.
/// </summary>
internal sealed class MeshUnpacker : IDisposable
{
    /// <summary>Most bytes that a file's packed meshes may come to.</summary>
    public const long MostBytes = 1 << 30;

    private const int MostMegabytes = 4096, MostSeconds = 240, TooLarge = 3, Draco = 1, Meshoptimizer = 2;

    private readonly Process process;
    private readonly Timer late;
    private long left = MostBytes;
    private volatile bool isLate;

    public MeshUnpacker()
    {
        var start = new ProcessStartInfo(Path.Combine(AppContext.BaseDirectory, "froe-mesh-unpacker")) { RedirectStandardInput = true, RedirectStandardOutput = true };
        start.ArgumentList.Add(MostMegabytes.ToString(CultureInfo.InvariantCulture));
        process = Process.Start(start) ?? throw new InvalidOperationException("The unpacker of meshes did not start.");
        late = new Timer(_ => End(), null, TimeSpan.FromSeconds(MostSeconds), Timeout.InfiniteTimeSpan);
    }

    /// <summary>A mesh that Draco packed.</summary>
    /// <param name="positions">Which of its attributes are positions.</param>
    /// <param name="colours">Which are colours; -1 for none.</param>
    /// <exception cref="UnreadableException">It cannot be unpacked.</exception>
    public UnpackedMesh Mesh(ReadOnlySpan<byte> packed, int positions, int colours)
    {
        Ask(Draco, packed, positions, colours, 0, 0);
        var (points, triangles, isColoured) = (Number(), Number(), Number() != 0);
        return new UnpackedMesh(points, triangles, Answer(12L * points), isColoured ? Answer(16L * points) : [], Answer(12L * triangles));
    }

    /// <summary>Elements of one length that meshoptimizer packed (EXT_meshopt_compression).</summary>
    /// <param name="mode">0 for attributes, 1 for triangles, 2 for indices.</param>
    /// <param name="filter">0 for none, 1 for octahedral, 2 for quaternion, 3 for exponential.</param>
    /// <exception cref="UnreadableException">They cannot be unpacked.</exception>
    public byte[] Elements(ReadOnlySpan<byte> packed, int mode, int filter, int count, int size)
    {
        if ((long)count * size > left) throw TooMany();
        Ask(Meshoptimizer, packed, mode, filter, count, size);
        return Answer((long)count * size);
    }

    public void Dispose()
    {
        late.Dispose();
        End();
        process.Dispose();
    }

    private void Ask(int packing, ReadOnlySpan<byte> packed, int first, int second, int third, int fourth)
    {
        try
        {
            var to = process.StandardInput.BaseStream;
            to.Write(MemoryMarshal.AsBytes<int>([packing, packed.Length, first, second, third, fourth]));
            to.Write(packed);
            to.Flush();
        }
        catch (IOException)
        {
            throw Broken();
        }
        if (Number() != 0) throw Damaged();
    }

    private int Number() => MemoryMarshal.Read<int>(Answer(4));

    private byte[] Answer(long length)
    {
        if (length < 0 || (left -= length) < 0) throw TooMany();
        var bytes = GC.AllocateUninitializedArray<byte>((int)length);
        try
        {
            process.StandardOutput.BaseStream.ReadExactly(bytes);
        }
        catch (IOException)
        {
            throw Broken();
        }
        return bytes;
    }

    /// <summary>Why the process answers no more.</summary>
    private UnreadableException Broken()
    {
        process.WaitForExit();
        return isLate ? new($"Unpacking the model's meshes took longer than {MostSeconds} seconds and was stopped. Export it in parts, or without packing.")
            : process.ExitCode == TooLarge ? TooMany() : Damaged();
    }

    private void End()
    {
        isLate = true;
        try
        {
            process.Kill();
        }
        catch (InvalidOperationException)
        {
            // It has ended by itself.
        }
    }

    private static UnreadableException Damaged() => new("The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.");

    private static UnreadableException TooMany() => new($"The file's packed meshes come to more than {MostBytes / 1_000_000:N0} MB. Export it coarser, or in parts.");
}
