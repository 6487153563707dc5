using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Froe.Core.Draft;
using CellStyle = Froe.Core.Draft.CellStyle;

namespace Froe.Formats.Tables;

/// <summary>How the cells of a workbook look, by the number that each cell names (ISO/IEC 29500-1, 18.8).</summary>
internal sealed class WorkbookStyles
{
    private readonly List<(CellStyle Look, bool IsAcrossStated, NumberFormat Format)> formats = [];

    public WorkbookStyles(WorkbookPart workbook)
    {
        var sheet = workbook.WorkbookStylesPart?.Stylesheet;
        var colours = new WorkbookColours(workbook);
        var codes = new Dictionary<uint, NumberFormat>();
        foreach (var own in sheet?.NumberingFormats?.Elements<NumberingFormat>() ?? [])
            if (own.NumberFormatId?.Value is { } id && own.FormatCode?.Value is { } code) codes[id] = NumberFormat.Parse(code);
        var fonts = sheet?.Fonts?.Elements<Font>().ToList() ?? [];
        var fills = sheet?.Fills?.Elements<Fill>().Select(f => FillOf(f, colours)).ToList() ?? [];
        var borders = sheet?.Borders?.Elements<Border>().ToList() ?? [];
        foreach (var one in sheet?.CellFormats?.Elements<CellFormat>() ?? [])
        {
            var number = one.NumberFormatId?.Value ?? 0;
            if (!codes.TryGetValue(number, out var format)) codes[number] = format = NumberFormat.BuiltIn((int)Math.Min(number, 1000)) is { } code ? NumberFormat.Parse(code) : NumberFormat.General;
            var look = WithFont(new CellStyle(), At(fonts, one.FontId?.Value), colours) with { Fill = At(fills, one.FillId?.Value) };
            look = WithBorder(look, At(borders, one.BorderId?.Value), colours);
            formats.Add((WithAlignment(look, one.Alignment), one.Alignment?.Horizontal?.HasValue == true && one.Alignment.Horizontal.Value != HorizontalAlignmentValues.General, format));
        }
        if (formats.Count == 0) formats.Add((new CellStyle(), false, NumberFormat.General));
    }

    /// <summary>The format of a cell.</summary>
    public NumberFormat FormatOf(int number) => formats[Bounded(number)].Format;

    /// <summary>How a cell looks that holds nothing.</summary>
    public CellStyle LookOf(int number) => formats[Bounded(number)].Look;

    /// <summary>How a cell looks: where its file does not say, words stand at the left, numbers at the right, and yes or no in the middle.</summary>
    public CellStyle LookOf(int number, CellAcross usual, string? ink)
    {
        var (look, isStated, _) = formats[Bounded(number)];
        if (!isStated) look = look with { Across = usual };
        return ink is null ? look : look with { Ink = ink };
    }

    private int Bounded(int number) => number >= 0 && number < formats.Count ? number : 0;

    private static T? At<T>(List<T> list, uint? number)
        where T : class? => number is { } n && n < list.Count ? list[(int)n] : null;

    private static string? FillOf(Fill fill, WorkbookColours colours)
    {
        if (fill.GradientFill is { } gradient) return colours.Of(gradient.Elements<GradientStop>().FirstOrDefault()?.Color);
        if (fill.PatternFill is not { } pattern || pattern.PatternType is not { } type || type.Value == PatternValues.None) return null;
        return type.Value == PatternValues.Solid ? colours.Of(pattern.ForegroundColor)
            : type.Value == PatternValues.Gray125 || type.Value == PatternValues.Gray0625 ? colours.Of(pattern.BackgroundColor)
            : colours.Of(pattern.BackgroundColor) ?? colours.Of(pattern.ForegroundColor);
    }

    private static CellStyle WithFont(CellStyle look, Font? font, WorkbookColours colours) => font is null ? look : look with
    {
        Ink = colours.Of(font.Color),
        IsBold = On(font.Bold),
        IsItalic = On(font.Italic),
        IsStruck = On(font.Strike),
        IsUnderlined = font.Underline is { } line && line.Val?.Value != UnderlineValues.None,
        Size = font.FontSize?.Val?.Value is { } size and > 0.5 and < 410 ? size : 11,
    };

    private static bool On(BooleanPropertyType? property) => property is not null && property.Val?.Value != false;

    private static CellStyle WithBorder(CellStyle look, Border? border, WorkbookColours colours) => border is null ? look : look with
    {
        Left = LineOf(border.LeftBorder ?? (BorderPropertiesType?)border.StartBorder, colours),
        Right = LineOf(border.RightBorder ?? (BorderPropertiesType?)border.EndBorder, colours),
        Top = LineOf(border.TopBorder, colours),
        Bottom = LineOf(border.BottomBorder, colours),
    };

    private static CellLine? LineOf(BorderPropertiesType? side, WorkbookColours colours)
    {
        if (side?.Style is not { HasValue: true } given || given.Value == BorderStyleValues.None) return null;
        var style = given.Value;
        var dash = style == BorderStyleValues.Double ? CellDash.Double
            : style == BorderStyleValues.Dotted || style == BorderStyleValues.Hair ? CellDash.Dotted
            : style == BorderStyleValues.Thin || style == BorderStyleValues.Medium || style == BorderStyleValues.Thick ? CellDash.Solid : CellDash.Dashed;
        var width = style == BorderStyleValues.Thick || style == BorderStyleValues.Double ? 3
            : style == BorderStyleValues.Medium || style == BorderStyleValues.MediumDashed || style == BorderStyleValues.MediumDashDot || style == BorderStyleValues.MediumDashDotDot ? 2 : 1;
        return new CellLine(width, dash, colours.Of(side.Color) ?? "#000000");
    }

    private static CellStyle WithAlignment(CellStyle look, Alignment? alignment)
    {
        if (alignment is null) return look;
        var across = alignment.Horizontal?.HasValue == true ? alignment.Horizontal.Value : HorizontalAlignmentValues.General;
        var down = alignment.Vertical?.HasValue == true ? alignment.Vertical.Value : VerticalAlignmentValues.Bottom;
        var turn = (int)Math.Min(alignment.TextRotation?.Value ?? 0, 255);
        return look with
        {
            Across = across == HorizontalAlignmentValues.Right ? CellAcross.Right
                : across == HorizontalAlignmentValues.Fill ? CellAcross.Fill
                : across == HorizontalAlignmentValues.Center || across == HorizontalAlignmentValues.CenterContinuous || across == HorizontalAlignmentValues.Distributed ? CellAcross.Centre : CellAcross.Left,
            Down = down == VerticalAlignmentValues.Top || down == VerticalAlignmentValues.Justify ? CellDown.Top
                : down == VerticalAlignmentValues.Center || down == VerticalAlignmentValues.Distributed ? CellDown.Middle : CellDown.Bottom,
            Wraps = alignment.WrapText?.Value == true || across == HorizontalAlignmentValues.Justify || across == HorizontalAlignmentValues.Distributed,
            Indent = (int)Math.Min(alignment.Indent?.Value ?? 0, 250),
            // 91 to 180 is the way down, by so many degrees more than 90 (18.8.1).
            Turn = turn == CellStyle.Upright ? CellStyle.Upright : turn > 180 ? 0 : turn > 90 ? 90 - turn : turn,
        };
    }
}
