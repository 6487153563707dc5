using System.Diagnostics;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Formats.In;
using Froe.Formats.Out;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Drafts on their way out and back, in a folder of their own.</summary>
public abstract class SentOut : IDisposable
{
    protected static DateTimeOffset At { get; } = new(2026, 11, 27, 9, 30, 0, TimeSpan.Zero);
    protected string Folder { get; } = Directory.CreateTempSubdirectory("froe-out-").FullName;

    public void Dispose()
    {
        Directory.Delete(Folder, recursive: true);
        GC.SuppressFinalize(this);
    }

    protected static SentMark Mark(Shape shape, SentNote? note = null, string? value = null) => new(Guid.NewGuid(), shape, value, "Maren Aas", At, "First look", note, OverlayLook.Usual);

    protected static SentNote Note(int number, string body, NoteStanding standing = NoteStanding.Open, params SentReply[] replies) =>
        new(Guid.NewGuid(), number, NoteKind.Request, standing, standing == NoteStanding.Answered ? AnswerKind.Done : null, "Maren Aas", At, body, replies);

    protected static MarkedDraft Draft(Leaf leaf, params SentMark[] marks) => new("TM-1 Bearing, draft A.1", [new MarkedLeaf(leaf, marks, [])]);

    protected byte[] Written(MarkedDraft draft, OutForm form, out MarkedOut how)
    {
        using var to = new MemoryStream();
        how = MarkedFile.Write(draft, form, Folder, "bearing.pdf", to);
        return to.ToArray();
    }

    protected IReadOnlyList<BroughtAnnotation> Read(MarkedDraft draft, byte[] file)
    {
        using var from = new MemoryStream(file);
        var (found, fault) = BroughtFile.Read([.. draft.Leaves.Select(l => l.Leaf)], Folder, from);
        Assert.True(found is not null, fault);
        return found!;
    }

    /// <summary>A page of A5, or how a page is written otherwise, as the file that the sheets are drawn from.</summary>
    protected Leaf PageOf(byte[] pdf)
    {
        File.WriteAllBytes(Path.Combine(Folder, "source.pdf"), pdf);
        return SmallPdf.Open(pdf).Leaf(0);
    }

    protected Leaf StrokesOf(LengthUnit unit = LengthUnit.Millimetre, double from = 0)
    {
        var builder = new SheetBuilder { Tolerance = 0.1 };
        builder.Begin(new EntityLook(0x2A, 0, 0, 25, [], "LINE"));
        builder.Line(new(from, from), new(from + 200, from + 100));
        builder.Begin(new EntityLook(0x2E, 0, 0, 25, [], "TEXT"));
        builder.Text(new TextRun("Ø 20 h6", new(from + 60, from + 40), new(3, 0), new(0, 3), 0, 0, 0));
        var sheet = builder.Build("Model", unit, [new Layer("0", true, 0)]);
        using (var to = File.Create(Path.Combine(Folder, "0.geometry"))) PreparedSheet.WriteGeometry(sheet, to);
        return new Leaf(0, "Model", new SheetFrame(unit, sheet.Extents));
    }

    protected static string Run(string program, params string[] arguments)
    {
        var start = new ProcessStartInfo(program) { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        using var child = Process.Start(start)!;
        var faults = child.StandardError.ReadToEndAsync();
        var said = child.StandardOutput.ReadToEnd();
        child.WaitForExit();
        Assert.True(child.ExitCode == 0, $"{program}: {faults.Result}{said}");
        return said + faults.Result;
    }
}
