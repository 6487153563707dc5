using System.Globalization;
using Froe.Core.Models;
using Froe.Formats.Models;
using Froe.Formats.Out;
using Froe.Server.Lists;
using Froe.Server.Register;
using Froe.Server.SignIn;

namespace Froe.Server.Scenes;

/// <summary>Parts lists of models, and pictures of their parts.</summary>
internal sealed class PartsLists(PreparedModels models, Referring referring) : IDisposable
{
    /// <summary>Most stated densities, and the heaviest thing there is, g/cm³.</summary>
    private const int MostDensities = 500;
    private const double Heaviest = 25;

    private static readonly (string Title, double Width, Func<PartsListRow, object?> Cell)[] Columns =
    [
        ("Item", 10, r => r.Item),
        ("Number", 20, r => r.Number),
        ("Name", 40, r => r.Name),
        ("Quantity", 10, r => r.Quantity),
        ("Material", 24, r => r.Material),
        ("Mass of one, g", 16, r => r.Mass is { } mass ? Math.Round(mass, 3) : null),
        ("Mass in all, g", 16, r => r.Mass is { } mass ? Math.Round(mass * r.Quantity, 3) : null),
        ("Masses by", 14, r => r.Mass is null ? "" : r.IsExact ? "exact shape" : "mesh"),
    ];

    /// <summary>Pictures that are drawn at once, in all.</summary>
    private readonly SemaphoreSlim drawing = new(Math.Max(1, Environment.ProcessorCount - 1));

    /// <summary>The list as it is shown.</summary>
    public async Task<IReadOnlyList<PartsListRow>> OfAsync(Who who, Guid draft, int position, string? depth, string? densities, CancellationToken stop) =>
        PartsList.Of(await models.FactsAsync(who, draft, position, stop), Depth(depth), Densities(densities));

    /// <summary>The list as a file: a workbook (ISO/IEC 29500-1), or comma-separated values (RFC 4180).</summary>
    public async Task FileAsync(Who who, Guid draft, int position, string? depth, string? densities, bool isWorkbook, HttpContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var stop = context.RequestAborted;
        var rows = (await OfAsync(who, draft, position, depth, densities, stop)).Select(r => Columns.Select(c => c.Cell(r)).ToList()).ToList();
        var (_, _, number, _, label) = await referring.NameAsync(who, draft, stop);
        using var file = new MemoryStream();
        if (isWorkbook) WorkbookFile.Write($"Parts of {number}", [.. Columns.Select(c => new WorkbookColumn(c.Title, c.Width))], rows, file);
        else CsvFile.Write(file, [Columns.Select(c => c.Title), .. rows.Select(r => r.Select(v => Convert.ToString(v, CultureInfo.InvariantCulture) ?? ""))]);
        context.Response.ContentType = isWorkbook ? WorkbookFile.MediaType : "text/csv; charset=utf-8";
        context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString($"{number} {label} parts.{(isWorkbook ? "xlsx" : "csv")}")}";
        file.Position = 0;
        await file.CopyToAsync(context.Response.Body, stop);
    }

    /// <summary>A small picture of a part, alone.</summary>
    public async Task<(byte[] Bytes, string MediaType)> PictureAsync(Who who, Guid draft, int position, int part, CancellationToken stop)
    {
        var model = await models.OfAsync(who, draft, position, stop);
        if ((uint)part >= (uint)model.Facts.Parts.Count) throw Refused.Missing("part");
        if (model.Pictures.TryGetValue(part, out var drawn)) return (drawn, PartPicture.MediaType);
        await drawing.WaitAsync(stop);
        try
        {
            return (model.Pictures.GetOrAdd(part, _ => PartPicture.Of(model.Facts.Parts[part], model.Blocks)), PartPicture.MediaType);
        }
        finally
        {
            drawing.Release();
        }
    }

    public void Dispose() => drawing.Dispose();

    private static PartsListDepth Depth(string? word) => word switch
    {
        null or "levels" => PartsListDepth.Levels,
        "top" => PartsListDepth.Top,
        "parts" => PartsListDepth.Parts,
        _ => throw Refused.Invalid("depth", "A parts list goes as deep as levels, top or parts."),
    };

    /// <summary>Reads densities as they are asked with: part and g/cm³, as in 3:7.85,9:2.7.</summary>
    internal static Dictionary<int, double> Densities(string? words)
    {
        var stated = new Dictionary<int, double>();
        foreach (var one in (words ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries))
        {
            if (one.Split(':') is not [var part, var density] || stated.Count == MostDensities
                || !int.TryParse(part, NumberStyles.None, CultureInfo.InvariantCulture, out var index)
                || !double.TryParse(density, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value) || value is not (> 0 and <= Heaviest))
                throw Refused.Invalid("densities", "Densities are told by part and g/cm³, above 0 and at most 25, such as 3:7.85,9:2.7; at most 500 of them.");
            stated[index] = value;
        }
        return stated;
    }
}
