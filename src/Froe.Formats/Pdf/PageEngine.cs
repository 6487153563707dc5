using System.Text;
using Wasmtime;

namespace Froe.Formats.Pdf;

/// <summary>Raised when a page took more time or memory than it may, or ended the engine; the engine is of no more use then.</summary>
internal sealed class PageEngineException(string message) : Exception(message);

/// <summary>
/// PDFium in a sandbox: it sees the bytes it is given, fonts of ours where it asks for one, and nothing else of the machine, and its memory
/// and time are bounded. It draws pages;
/// what they hold is read elsewhere. Not for two threads.
/// </summary>
internal sealed partial class PageEngine : IDisposable
{
    /// <summary>FPDF_GetLastError: a password is wanted.</summary>
    private const int PasswordWanted = 4;

    /// <summary>FPDF_RenderPageBitmap: annotations are drawn too.</summary>
    private const int WithAnnotations = 1;

    private readonly Store store;
    private readonly Instance instance;
    private readonly Memory memory;
    private readonly ulong ticks;
    private readonly Table table;
    private readonly Action<int> restoreStack;
    private readonly Func<int> currentStack;
    private readonly Action<int, int> setThrew;
    private int document, fields;
    private (int Page, int Handle) open;

    private PageEngine(long mostMemory, TimeSpan mostTime)
    {
        ticks = (ulong)Math.Max(1, mostTime / EngineModule.Tick);
        store = new Store(EngineModule.Engine);
        store.SetLimits(memorySize: mostMemory);
        store.SetEpochDeadline(ticks);
        using var linker = new Linker(EngineModule.Engine);
        foreach (var import in EngineModule.Module.Imports.OfType<FunctionImport>())
            linker.DefineFunction(import.ModuleName, import.Name, Host(import.Name), import.Parameters, import.Results);
        instance = linker.Instantiate(store, EngineModule.Module);
        memory = instance.GetMemory("memory") ?? throw Lacks("memory");
        table = instance.GetTable("__indirect_function_table") ?? throw Lacks("table");
        restoreStack = instance.GetAction<int>("_emscripten_stack_restore") ?? throw Lacks("stack");
        currentStack = instance.GetFunction<int>("emscripten_stack_get_current") ?? throw Lacks("stack");
        setThrew = instance.GetAction<int, int>("setThrew") ?? throw Lacks("jumps");
        instance.GetAction("__wasm_call_ctors")?.Invoke();
        instance.GetAction("_initialize")?.Invoke();
        Call("FPDF_InitLibrary");
        LendFonts();
    }

    /// <summary>An engine with bounds.</summary>
    /// <param name="mostMemory">Bytes that it may have for everything.</param>
    /// <param name="mostTime">For each call.</param>
    public static PageEngine Start(long mostMemory, TimeSpan mostTime) => new(mostMemory, mostTime);

    /// <summary>Opens a document.</summary>
    /// <returns>Why it cannot be opened, for a person; null when it is open.</returns>
    public string? Open(ReadOnlySpan<byte> pdf)
    {
        var at = Allocate(pdf.Length);
        pdf.CopyTo(memory.GetSpan(at, pdf.Length));
        document = Number("FPDF_LoadMemDocument", at, pdf.Length, 0);
        if (document != 0)
        {
            // What stands in the fields of a form is drawn apart from the page and its annotations, by a keeper of the form. No script runs.
            fields = Number("PDFiumExt_InitFormFillEnvironment", document, Number("PDFiumExt_OpenFormFillInfo"));
            return null;
        }
        return Number("FPDF_GetLastError") == PasswordWanted
            ? "The file is locked with a password. Save it without one and upload it again; Froe keeps no passwords of files."
            : "This is no whole PDF file: its pages cannot be found. Export it again, or open and save it with the program that made it.";
    }

    /// <summary>How many pages the document has.</summary>
    public int Pages => Number("FPDF_GetPageCount", document);

    /// <summary>A page's label, as its readers count: iii, A-2; empty where it has none.</summary>
    public string Label(int page)
    {
        const int Most = 512;
        var at = Allocate(Most);
        var length = Number("FPDF_GetPageLabel", document, page, at, Most);
        var label = length is > 2 and <= Most ? Encoding.Unicode.GetString(memory.GetSpan(at, length - 2)) : "";
        Free(at);
        return label;
    }

    /// <summary>A page's size in points, turned as it is shown and cut to its crop box; null when there is no such page. Nothing it draws is read for it.</summary>
    public (double Width, double Height)? Size(int page)
    {
        var at = Allocate(2 * sizeof(float));
        var size = Number("FPDF_GetPageSizeByIndexF", document, page, at) == 0 ? ((double, double)?)null : (memory.ReadSingle(at), memory.ReadSingle(at + sizeof(float)));
        Free(at);
        return size;
    }

    /// <summary>Draws a page on white.</summary>
    /// <param name="page">From 0.</param>
    /// <param name="width">Pixels.</param>
    /// <param name="height">Pixels.</param>
    /// <param name="into">Receives rows of blue, green, red and a spare byte, from the top.</param>
    /// <returns>False when the page cannot be loaded.</returns>
    public bool Draw(int page, int width, int height, byte[] into) => Draw(page, width, height, height, (band, at) => band.CopyTo(into.AsSpan(at * width * 4)));

    /// <summary>Draws a page on white in bands, so that no picture of all of it is held.</summary>
    /// <param name="page">From 0.</param>
    /// <param name="width">Pixels of the whole picture.</param>
    /// <param name="height">Pixels of the whole picture.</param>
    /// <param name="high">Rows of a band.</param>
    /// <param name="each">Receives each band, as <see cref="Draw(int,int,int,byte[])"/> has rows, and the number of its first row; the last may be shorter.</param>
    /// <returns>False when the page cannot be loaded.</returns>
    public bool Draw(int page, int width, int height, int high, BandTaker each)
    {
        var handle = Loaded(page);
        if (handle == 0) return false;
        var bitmap = Number("FPDFBitmap_Create", width, high, 0);
        if (bitmap == 0) throw new PageEngineException("There was no room for the picture.");
        for (var top = 0; top < height; top += high)
        {
            Call("FPDFBitmap_FillRect", bitmap, 0, 0, width, high, -1);
            Call("FPDF_RenderPageBitmap", bitmap, handle, 0, -top, width, height, 0, WithAnnotations);
            if (fields != 0) Call("FPDF_FFLDraw", fields, bitmap, handle, 0, -top, width, height, 0, WithAnnotations);
            each(memory.GetSpan(Number("FPDFBitmap_GetBuffer", bitmap), width * 4 * Math.Min(high, height - top)), top);
        }
        Call("FPDFBitmap_Destroy", bitmap);
        return true;
    }

    /// <summary>A page, held open until another is wanted: to read what it draws may take longer than to draw it, and it is drawn in several sizes. Nought when it cannot be loaded.</summary>
    private int Loaded(int page)
    {
        if (open.Handle != 0 && open.Page == page) return open.Handle;
        if (open.Handle != 0)
        {
            if (fields != 0) Call("FORM_OnBeforeClosePage", open.Handle, fields);
            Call("FPDF_ClosePage", open.Handle);
        }
        open = (page, Number("FPDF_LoadPage", document, page));
        return open.Handle;
    }

    /// <summary>Takes rows of a picture.</summary>
    public delegate void BandTaker(ReadOnlySpan<byte> rows, int first);

    /// <inheritdoc/>
    public void Dispose() => store.Dispose();

    private int Allocate(int bytes)
    {
        var at = Number("malloc", Math.Max(1, bytes));
        return at != 0 ? at : throw new PageEngineException("The file is larger than the memory a file may use.");
    }

    private void Free(int at) => Call("free", at);

    private int Number(string name, params ValueBox[] arguments) => (int)Call(name, arguments)!;

    private object? Call(string name, params ValueBox[] arguments)
    {
        store.SetEpochDeadline(ticks);
        try
        {
            return (instance.GetFunction(name) ?? throw Lacks(name)).Invoke(arguments);
        }
        catch (WasmtimeException e)
        {
            throw new PageEngineException(e is TrapException { Type: TrapCode.Interrupt } ? "It took longer than a page may." : "It ended the engine: damaged, or in need of more memory than a page may have.");
        }
    }

    private static InvalidOperationException Lacks(string what) => new($"The page engine lacks its {what}.");

    private sealed class LongJump() : Exception("longjmp");

    /// <summary>What the engine asks of the machine it believes to run on: no files, no environment, the time of day, memory within its bound.</summary>
    private Function.UntypedCallbackDelegate Host(string name) => name switch
    {
        _ when name.StartsWith("invoke_", StringComparison.Ordinal) => Invoke,
        "_emscripten_throw_longjmp" => (_, _, _) => throw new LongJump(),
        "_abort_js" => (_, _, _) => throw new PageEngineException("It ended the engine."),
        "emscripten_date_now" => (_, _, results) => results[0] = (double)DateTimeOffset.UtcNow.ToUnixTimeMilliseconds(),
        "emscripten_resize_heap" => Grow,
        "environ_sizes_get" => (_, arguments, results) =>
        {
            memory.WriteInt32(Address(arguments[0]), 0);
            memory.WriteInt32(Address(arguments[1]), 0);
            results[0] = 0;
        }
        ,
        "environ_get" => (_, _, results) => results[0] = 0,
        "_emscripten_memcpy_js" => (_, arguments, _) =>
            memory.GetSpan(Address(arguments[1]), arguments[2].AsInt32()).CopyTo(memory.GetSpan(Address(arguments[0]), arguments[2].AsInt32())),
        _ when name.StartsWith("__syscall", StringComparison.Ordinal) => (_, _, results) => results[0] = -44, // no such file
        _ => (_, _, results) =>
        {
            if (results.Length > 0) results[0] = 8; // no such descriptor
        }
        ,
    };

    private static long Address(in ValueBox value) => (uint)value.AsInt32();

    /// <summary>Calls a function of the engine's that may jump out (setjmp's partner).</summary>
    private void Invoke(Caller caller, ReadOnlySpan<ValueBox> arguments, Span<ValueBox> results)
    {
        var stack = currentStack();
        try
        {
            var value = ((Function)table.GetElement((uint)arguments[0].AsInt32())!).Invoke(arguments[1..]);
            if (results.Length > 0) results[0] = value switch { int i => i, double d => d, float f => f, long l => l, _ => 0 };
        }
        catch (Exception e) when (IsJump(e))
        {
            restoreStack(stack);
            setThrew(1, 0);
            if (results.Length > 0) results[0] = 0;
        }
    }

    private static bool IsJump(Exception? e)
    {
        for (; e is not null; e = e.InnerException)
            if (e is LongJump) return true;
        return false;
    }

    private void Grow(Caller caller, ReadOnlySpan<ValueBox> arguments, Span<ValueBox> results)
    {
        const int Page = 65536;
        var more = (Address(arguments[0]) - memory.GetLength() + Page - 1) / Page;
        try
        {
            if (more > 0) memory.Grow(more);
            results[0] = 1;
        }
        catch (WasmtimeException)
        {
            results[0] = 0;
        }
    }
}
