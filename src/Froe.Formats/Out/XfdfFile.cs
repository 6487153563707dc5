using System.Globalization;
using System.Xml;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;

namespace Froe.Formats.Out;

/// <summary>Annotations apart from their PDF (XFDF 3.0, ISO 19444-1).</summary>
internal static class XfdfFile
{
    /// <summary>The standard's namespace.</summary>
    internal const string Namespace = "http://ns.adobe.com/xfdf/";

    /// <summary>Writes what lies on pages.</summary>
    /// <param name="name">What the PDF is called.</param>
    /// <param name="sheets">The pages with what is drawn on them.</param>
    /// <param name="pageOf">How each page lies on paper.</param>
    /// <param name="to">Is written to.</param>
    public static void Write(string name, IEnumerable<PagePlacing> sheets, Func<int, ShownPage> pageOf, Stream to)
    {
        using var xml = XmlWriter.Create(to, new XmlWriterSettings { CheckCharacters = true });
        xml.WriteStartElement("xfdf", Namespace);
        xml.WriteAttributeString("xml", "space", null, "preserve");
        xml.WriteStartElement("annots", Namespace);
        foreach (var sheet in sheets)
        {
            if (sheet.Drawn.Count == 0) continue;
            var page = pageOf(sheet.Page);
            foreach (var drawn in sheet.Drawn) One(xml, drawn.Annotation.Mapped(p => sheet.User(p, page), sheet.Scale(page)), drawn.Outline is not null, sheet.Page);
        }
        xml.WriteEndElement();
        xml.WriteStartElement("f", Namespace);
        xml.WriteAttributeString("href", Sound(name));
        xml.WriteEndElement();
        xml.WriteEndElement();
    }

    private static void One(XmlWriter xml, Annotation a, bool isShown, int page)
    {
        xml.WriteStartElement(NameOf(a.Kind), Namespace);
        xml.WriteAttributeString("page", page.ToString(CultureInfo.InvariantCulture));
        xml.WriteAttributeString("rect", Row([a.Rect.MinX, a.Rect.MinY, a.Rect.MaxX, a.Rect.MaxY]));
        xml.WriteAttributeString("color", $"#{a.Rgb:X6}");
        xml.WriteAttributeString("flags", isShown ? "print" : "hidden,print,nozoom,norotate");
        xml.WriteAttributeString("name", Sound(a.Id));
        xml.WriteAttributeString("title", Sound(a.Author));
        if (a.Subject.Length > 0) xml.WriteAttributeString("subject", Sound(a.Subject));
        if (a.At is { } at)
        {
            xml.WriteAttributeString("date", Time(at));
            if (a.State is null) xml.WriteAttributeString("creationdate", Time(at));
        }
        if (a.ReplyTo is { } to)
        {
            xml.WriteAttributeString("inreplyto", Sound(to));
            xml.WriteAttributeString("replyType", "reply");
        }
        if (a.State is { } state)
        {
            xml.WriteAttributeString("statemodel", "Review");
            xml.WriteAttributeString("state", state);
        }
        if (a.Intent.Length > 0) xml.WriteAttributeString("IT", a.Intent);
        if (a.IsCloudy)
        {
            xml.WriteAttributeString("style", "cloudy");
            xml.WriteAttributeString("intensity", "1");
        }
        var first = a.Points.IsDefaultOrEmpty ? [] : a.Points[0];
        switch (a.Kind)
        {
            case AnnotationKind.Line:
                xml.WriteAttributeString("start", Pair(first[0]));
                xml.WriteAttributeString("end", Pair(first[1]));
                if (a.HasArrow) xml.WriteAttributeString("tail", "OpenArrow");
                if (a.LeaderLength != 0) xml.WriteAttributeString("leaderLength", PdfTokens.Number(a.LeaderLength));
                break;
            case AnnotationKind.Highlight or AnnotationKind.StrikeOut:
                xml.WriteAttributeString("coords", Row(a.Points.SelectMany(r => r).SelectMany(p => new[] { p.X, p.Y })));
                break;
            case AnnotationKind.FreeText when first.Length > 1:
                xml.WriteAttributeString("callout", Row(first.SelectMany(p => new[] { p.X, p.Y })));
                break;
            case AnnotationKind.Text:
                xml.WriteAttributeString("icon", "Comment");
                break;
        }
        if (a.Contents.Length > 0) xml.WriteElementString("contents", Namespace, Sound(a.Contents));
        if (a.Kind is AnnotationKind.Polygon or AnnotationKind.PolyLine) xml.WriteElementString("vertices", Namespace, string.Join(';', first.Select(Pair)));
        if (a.Kind == AnnotationKind.Ink)
        {
            xml.WriteStartElement("inklist", Namespace);
            foreach (var row in a.Points) xml.WriteElementString("gesture", Namespace, string.Join(';', row.Select(Pair)));
            xml.WriteEndElement();
        }
        if (a.Kind == AnnotationKind.FreeText) xml.WriteElementString("defaultappearance", Namespace, $"/Helv {PdfTokens.Number(a.LetterHeight / 0.7)} Tf");
        xml.WriteEndElement();
    }

    /// <summary>What the standard calls a kind.</summary>
    internal static string NameOf(AnnotationKind kind) => kind.ToString().ToLowerInvariant();

    private static string Pair(PointXY p) => $"{PdfTokens.Number(p.X)},{PdfTokens.Number(p.Y)}";

    private static string Row(IEnumerable<double> numbers) => string.Join(',', numbers.Select(PdfTokens.Number));

    private static string Time(DateTimeOffset at) => at.ToUniversalTime().ToString("'D:'yyyyMMddHHmmss'Z'", CultureInfo.InvariantCulture);

    /// <summary>Words without what XML cannot hold.</summary>
    private static string Sound(string words) => words.All(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c)) ? words : string.Concat(words.Select(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c) ? c : '\uFFFD'));
}
