using System.Collections.Frozen;
using System.Globalization;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats.Out;
using Froe.Server.Files;
using Froe.Server.Register;
using Froe.Server.SignIn;

namespace Froe.Server.Scenes;

/// <summary>A plane that is to cut a model.</summary>
/// <param name="X">The way it points, of length 1: on that side the model is taken away.</param>
/// <param name="At">How far along that it stands from the model's origin, in the model's unit.</param>
/// <param name="Without">Components that are not cut, as numbers and stretches of them: 3,7-12.</param>
internal sealed record SectionAsked(double X, double Y, double Z, double At, string? Without);

/// <summary>Cuts models.</summary>
internal sealed class Sectioning(PreparedModels models, Referring referring, Transfers transfers)
{
    /// <summary>Longest list of what is not cut, in letters.</summary>
    private const int LongestWithout = 4000;

    /// <summary>What a plane cuts.</summary>
    public async Task<SectionCut> OfAsync(Who who, Guid draft, int position, SectionAsked asked, CancellationToken stop) => (await CutAsync(who, draft, position, asked, stop)).Cut;

    /// <summary>The same laid flat: one of the two forms that a sheet is shown and measured by.</summary>
    public async Task SheetAsync(Who who, Guid draft, int position, SectionAsked asked, bool isDetails, HttpContext context)
    {
        var (cut, unit) = await CutAsync(who, draft, position, asked, context.RequestAborted);
        using var form = new MemoryStream();
        var sheet = SectionSheet.Of(cut, unit);
        if (isDetails) PreparedSheet.WriteDetails(sheet, form);
        else PreparedSheet.WriteGeometry(sheet, form);
        await SendAsync(context, PreparedSheet.MediaType, form);
    }

    /// <summary>The same as a drawing for others.</summary>
    public async Task FileAsync(Who who, Guid draft, int position, SectionAsked asked, bool isDxf, HttpContext context)
    {
        var (cut, unit) = await CutAsync(who, draft, position, asked, context.RequestAborted);
        if (cut.Faces.Count == 0) throw Refused.Invalid("nothing-cut", "The plane cuts nothing that is shown. Move it into the model first.");
        var (_, _, number, _, label) = await referring.NameAsync(who, draft, context.RequestAborted);
        var named = $"{number} {label}";
        using var file = new MemoryStream();
        if (isDxf) SectionFile.WriteDxf(cut, unit, file);
        else SectionFile.WriteSvg(cut, unit, $"Section of {named}", file);
        context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString($"{named} section.{(isDxf ? "dxf" : "svg")}")}";
        await SendAsync(context, isDxf ? SectionFile.DxfType : SectionFile.SvgType, file);
    }

    private async Task<(SectionCut Cut, LengthUnit Unit)> CutAsync(Who who, Guid draft, int position, SectionAsked asked, CancellationToken stop)
    {
        var section = new Section(new Point3(asked.X, asked.Y, asked.Z), asked.At);
        if (!section.IsSound()) throw Refused.Invalid("no-plane", "That is no plane: the way it points must be of length 1, and where it stands a number.");
        var leftOut = Stretches(asked.Without ?? "");
        // A large model takes room while it is cut.
        using var place = transfers.Begin(who.Id);
        var model = await models.OfAsync(who, draft, position, stop);
        return (SectionCut.Of(model.Facts, model.Meshes, section with { Along = section.Along.Unit() }, leftOut(model.Facts.Components.Count)), model.Facts.Unit);
    }

    /// <summary>Reads numbers and stretches of them; what lies beyond a model's last component is nothing.</summary>
    internal static Func<int, FrozenSet<int>> Stretches(string words)
    {
        var stretches = new List<(int From, int To)>();
        if (words.Length > LongestWithout) throw Refused.Invalid("without-too-long", "Too many components are hidden here and there for the rest to be cut. Show some of them again, or show only what is to be cut.");
        foreach (var one in words.Split(',', StringSplitOptions.RemoveEmptyEntries))
        {
            var (from, to) = one.Split('-') switch
            {
                [var a] => (a, a),
                [var a, var b] => (a, b),
                _ => throw Bad(),
            };
            if (!int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var first) || !int.TryParse(to, NumberStyles.None, CultureInfo.InvariantCulture, out var last)) throw Bad();
            stretches.Add((first, last));
        }
        return count => Enumerable.Range(0, count).Where(i => stretches.Exists(s => s.From <= i && i <= s.To)).ToFrozenSet();

        static Refused Bad() => Refused.Invalid("without", "What is left out is told by numbers and stretches of them, such as 3,7-12.");
    }

    private static async Task SendAsync(HttpContext context, string type, MemoryStream file)
    {
        context.Response.ContentType = type;
        // A draft never changes, but who may see it may, and what somebody says a model is counted in.
        context.Response.Headers.CacheControl = "private, no-cache";
        context.Response.ContentLength = file.Length;
        file.Position = 0;
        await file.CopyToAsync(context.Response.Body, context.RequestAborted);
    }
}
