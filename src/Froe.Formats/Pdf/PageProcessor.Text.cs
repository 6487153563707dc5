using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Graphics;
using UglyToad.PdfPig.PdfFonts;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>Text: glyphs put together to runs by where they stand (ISO 32000-2, 9).</summary>
internal sealed partial class PageProcessor
{
    /// <summary>Shares of the em: a gap that is a blank, how far a glyph may stand back, ahead or aside and still belong to the run.</summary>
    private const double Blank = 0.22, Back = 0.4, Ahead = 1.2, Aside = 0.15;

    /// <summary>Ems: wider than this is no letter of a font that counts in ems; narrower than this none of ours is taken to be.</summary>
    private const double Widest = 4, Narrowest = 0.2;

    private const int LongestRun = 4000;

    private readonly StringBuilder written = new();
    private readonly List<WrittenRun> words = [];
    private RunStart run;

    /// <summary>Where a run began and how it looks.</summary>
    /// <param name="Em">Along the line, one em long.</param>
    /// <param name="Up">Across it, one em long.</param>
    private readonly record struct RunStart(PointXY At, PointXY Em, PointXY Up, string Font, int Rgb, int Layer, bool IsSeen, PointXY End);

    /// <inheritdoc/>
    public override void SetFontAndSize(NameToken font, double size)
    {
        // The library passes over the words of a font that is damaged; the engine draws them as well as it can.
        if (ResourceStore.GetFont(font) is null) OnlyInPicture("damaged font");
        base.SetFontAndSize(font, size);
    }

    /// <inheritdoc/>
    public override void RenderGlyph(
        IFont font, CurrentGraphicsState currentState, double fontSize, double pointSize, int code, string unicode, long currentOffset,
        in TransformationMatrix renderingMatrix, in TransformationMatrix textMatrix, in TransformationMatrix transformationMatrix, CharacterBoundingBox characterBoundingBox)
    {
        var glyph = renderingMatrix.Multiply(textMatrix).Multiply(transformationMatrix);
        // A font whose letters are drawings has an em of its own making (9.6.4): what its letters are wide tells how large it is.
        var one = characterBoundingBox.Width > Widest && unicode is { Length: > 0 } ? characterBoundingBox.Width / Math.Max(Lettering.Width(unicode), Narrowest) : 1;
        PointXY at = Paper(0, 0), end = Paper(characterBoundingBox.Width, 0), em = Away(Paper(one, 0), at), up = Away(Paper(0, one), at);
        var mode = currentState.FontState.TextRenderingMode;
        if (mode is TextRenderingMode.FillClip or TextRenderingMode.StrokeClip or TextRenderingMode.FillThenStrokeClip or TextRenderingMode.NeitherClip) OnlyInPicture("letters that clip");
        var here = new RunStart(at, em, up, font.Name?.Data ?? "", Rgb(currentState.CurrentNonStrokingColor), layers.Peek(), mode is not (TextRenderingMode.Neither or TextRenderingMode.NeitherClip), end);
        if (written.Length > 0)
        {
            var size = Length(run.Em);
            var gap = Away(at, run.End);
            var ahead = size > 0 ? ((gap.X * run.Em.X) + (gap.Y * run.Em.Y)) / size : 0;
            var aside = size > 0 ? ((gap.Y * run.Em.X) - (gap.X * run.Em.Y)) / size : 0;
            // Letters spread apart are no words apart.
            var spread = currentState.FontState.CharacterSpacing * Length(em) / Math.Max(Math.Abs(fontSize), 1e-9);
            var goesOn = here.Font == run.Font && here.Rgb == run.Rgb && here.Layer == run.Layer && here.IsSeen == run.IsSeen
                && (Length(Away(em, run.Em)) < 0.02 * size || one > 1) && Math.Abs(aside) < Aside * size && ahead > -Back * size && ahead - spread < Ahead * size && written.Length < LongestRun;
            if (!goesOn) EndRun();
            else if (ahead - spread > Blank * size && written[^1] != ' ' && unicode != " ") written.Append(' ');
        }
        if (written.Length == 0)
        {
            if (string.IsNullOrWhiteSpace(unicode)) return;
            run = here;
        }
        written.Append(unicode ?? "\uFFFD");
        run = run with { End = end };

        PointXY Paper(double x, double y)
        {
            var p = glyph.Transform(new PdfPoint(x, y));
            return new(p.X * bounds.Millimetres, p.Y * bounds.Millimetres);
        }
    }

    private void EndRun()
    {
        if (written.Length == 0) return;
        var text = written.ToString().TrimEnd();
        written.Clear();
        var (size, length, wide) = (Length(run.Em), Length(Away(run.End, run.At)), Lettering.Width(text));
        if (!(size > 0) || !double.IsFinite(size + length) || !(wide > 0) || text.Length == 0) return;
        if (Math.Max(run.At.X, run.End.X) < clip.MinX - size || Math.Min(run.At.X, run.End.X) > clip.MaxX + size || Math.Max(run.At.Y, run.End.Y) < clip.MinY - size || Math.Min(run.At.Y, run.End.Y) > clip.MaxY + size) return;
        var along = new PointXY(run.Em.X / size * length, run.Em.Y / size * length);
        words.Add(new WrittenRun(text, run.At, along, run.Up));
        if (!run.IsSeen) return;
        if (DateTime.UtcNow > bounds.Until) throw new TimeoutException();
        sheet.Begin(new EntityLook(++painted, run.Layer, run.Rgb, 0, [], "TEXT"));
        // As wide as the file's own font made it.
        sheet.Text(new TextRun(text, run.At, new(along.X / wide, along.Y / wide), new(run.Up.X * Lettering.CapHeight, run.Up.Y * Lettering.CapHeight), 0, 0, 0));
    }

    /// <summary>The text of a field that leaves its looks to whoever shows it: in lines from above, or one in its middle. The picture shows how it is drawn there.</summary>
    private void WriteValue(PageField field)
    {
        const double Leading = 1.2, Inset = 2, Usual = 12, Middle = 0.35;
        if (field.Value.Length == 0) return;
        var lines = field.Value.ReplaceLineEndings("\n").Split('\n');
        var size = field.Size > 0 ? field.Size : Math.Min(Usual, field.Box.Height / lines.Length / Leading);
        if (!(size > 0)) return;
        var y = lines.Length == 1 ? ((field.Box.Bottom + field.Box.Top) / 2) - (Middle * size) : field.Box.Top - Inset - size;
        foreach (var line in lines)
        {
            var text = line.TrimEnd();
            if (text.Length > 0)
            {
                PointXY at = At(field.Box.Left + Inset, y), em = Away(At(field.Box.Left + Inset + size, y), at), up = Away(At(field.Box.Left + Inset, y + size), at);
                (run, var wide) = (new RunStart(at, em, up, "", 0, layers.Peek(), true, default), Lettering.Width(text));
                run = run with { End = new(at.X + (em.X * wide), at.Y + (em.Y * wide)) };
                written.Append(text);
                EndRun();
            }
            y -= Leading * size;
        }
    }

    private static PointXY Away(PointXY a, PointXY b) => new(a.X - b.X, a.Y - b.Y);

    private static double Length(PointXY v) => Math.Sqrt((v.X * v.X) + (v.Y * v.Y));
}
