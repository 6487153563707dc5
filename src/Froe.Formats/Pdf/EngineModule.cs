using System.Security.Cryptography;
using Wasmtime;

namespace Froe.Formats.Pdf;

/// <summary>
/// The page engine's program (PDFium as WebAssembly, the same file the browser gets), compiled for this machine. Compiling takes seconds, so
/// the compiled program is kept beside the assembly, under the hash of what it was made from; whoever builds Froe makes it (<c>ready</c>).
/// </summary>
public static class EngineModule
{
    private const string Name = "pdfium";

    private static readonly Lazy<(Engine Engine, Module Module)> Loaded = new(Load);
    private static Timer? ticker;

    /// <summary>How often the clock that deadlines are counted in moves on.</summary>
    internal static readonly TimeSpan Tick = TimeSpan.FromMilliseconds(250);

    /// <summary>Compiles the program unless that was done.</summary>
    /// <returns>Whether the next process will find it compiled.</returns>
    public static bool MakeReady() => Loaded.Value.Module is not null && File.Exists(CompiledFile(File.ReadAllBytes(ProgramFile)));

    internal static Engine Engine => Loaded.Value.Engine;

    internal static Module Module => Loaded.Value.Module;

    private static string ProgramFile => Path.Combine(AppContext.BaseDirectory, Name + ".wasm");

    private static string CompiledFile(byte[] program) => Path.Combine(AppContext.BaseDirectory, $"{Name}-{Convert.ToHexStringLower(SHA256.HashData(program))[..16]}.cwasm");

    private static (Engine Engine, Module Module) Load()
    {
        using var config = new Config().WithEpochInterruption(true);
        var engine = new Engine(config);
        var program = File.ReadAllBytes(ProgramFile);
        var compiled = CompiledFile(program);
        var module = Compiled(engine, compiled);
        if (module is null)
        {
            module = Module.FromBytes(engine, Name, program);
            Keep(module, compiled);
        }
        ticker = new Timer(_ => engine.IncrementEpoch(), null, Tick, Tick);
        return (engine, module);
    }

    /// <summary>What an earlier process compiled; null where there is none, or it was made on another kind of machine.</summary>
    private static Module? Compiled(Engine engine, string file)
    {
        try
        {
            return File.Exists(file) ? Module.DeserializeFile(engine, Name, file) : null;
        }
        catch (Exception e) when (e is WasmtimeException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    private static void Keep(Module module, string file)
    {
        try
        {
            var own = $"{file}.{Environment.ProcessId}";
            File.WriteAllBytes(own, module.Serialize());
            File.Move(own, file, overwrite: true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // The user that runs Froe may not write beside it: then each process compiles for itself.
        }
    }
}
