using System.Text.RegularExpressions;
using System.Xml;
using Froe.Core.Draft;

namespace Froe.Formats.Svg;

/// <summary>
/// What an SVG asks for that is not drawn, counted by what it is: whatever lies in other files (nothing beside a file is ever read), what
/// runs, moves or is of another kind (SVG 2, 5.5, 12.5, 14, 16; XML Stylesheets 1.0).
/// </summary>
internal static partial class SvgLosses
{
    private const string Elsewhere = "part of another file";

    /// <summary>Attributes whose values name paints, clips and the like by url(…).</summary>
    private static readonly HashSet<string> Naming =
        ["style", "fill", "stroke", "clip-path", "mask", "filter", "marker", "marker-start", "marker-mid", "marker-end"];

    /// <summary>What is not drawn; of a file that is no whole XML, what was met before its fault.</summary>
    public static IReadOnlyList<NotShown> Of(byte[] svg)
    {
        ArgumentNullException.ThrowIfNull(svg);
        var counts = new Dictionary<string, int>();
        var choices = new Stack<int>();
        var isStyle = false;
        try
        {
            // Entities of the file's own are wanted, for many programs write their namespaces so; they may not grow without bound.
            using var xml = XmlReader.Create(new MemoryStream(svg), new XmlReaderSettings { DtdProcessing = DtdProcessing.Parse, XmlResolver = null, MaxCharactersFromEntities = 1 << 20, IgnoreComments = true });
            while (xml.Read())
            {
                while (choices.Count > 0 && choices.Peek() >= xml.Depth && xml.NodeType is XmlNodeType.Element or XmlNodeType.EndElement) choices.Pop();
                if (xml.NodeType == XmlNodeType.ProcessingInstruction && xml.Name == "xml-stylesheet" && Reference().Match(xml.Value) is { Success: true } sheet && IsOutside(sheet.Groups[1].Value)) Count("style sheet");
                if (isStyle && xml.NodeType is XmlNodeType.Text or XmlNodeType.CDATA) OfStyle(xml.Value);
                if (xml.NodeType != XmlNodeType.Element) continue;
                isStyle = xml.LocalName == "style" && !xml.IsEmptyElement;
                OfElement(xml, choices.Count > 0 && choices.Peek() == xml.Depth - 1);
                if (xml.LocalName == "switch" && !xml.IsEmptyElement) choices.Push(xml.Depth);
            }
        }
        catch (XmlException)
        {
            // Whether it can be drawn all the same is for the drawing to say.
        }
        return [.. counts.Select(c => new NotShown(c.Key, c.Value, Why(c.Key)))];

        void Count(string what) => counts[what] = counts.GetValueOrDefault(what) + 1;

        void OfElement(XmlReader xml, bool isChoice)
        {
            switch (xml.LocalName)
            {
                case "script": Count("script"); break;
                case "animate" or "animateMotion" or "animateTransform" or "animateColor" or "set": Count("movement"); break;
                // Where it is one of several to choose from, another is drawn.
                case "foreignObject" when !isChoice: Count("content of another kind"); break;
                case "font": Count("font"); break;
            }
            var (name, isLink) = (xml.LocalName, xml.LocalName is "a" or "script");
            if (!xml.MoveToFirstAttribute()) return;
            do
            {
                if (xml.LocalName == "href" && xml.NamespaceURI is "" or "http://www.w3.org/1999/xlink" && !isLink && IsOutside(xml.Value)) Count(name is "image" or "feImage" ? "picture" : Elsewhere);
                else if (Naming.Contains(xml.LocalName)) OfUrls(xml.Value);
            }
            while (xml.MoveToNextAttribute());
            xml.MoveToElement();
        }

        void OfStyle(string words)
        {
            foreach (Match import in Import().Matches(words))
                if (IsOutside(import.Groups[1].Value)) Count("style sheet");
            foreach (var _ in FontFace().EnumerateMatches(words)) Count("font");
            OfUrls(FontFace().Replace(Import().Replace(words, ""), ""));
        }

        void OfUrls(string words)
        {
            foreach (Match url in Url().Matches(words))
                if (IsOutside(url.Groups[1].Value)) Count(Elsewhere);
        }
    }

    /// <summary>Whether a reference leads out of the file.</summary>
    private static bool IsOutside(string reference) => reference.Trim() is { Length: > 0 } said && said[0] != '#' && !said.StartsWith("data:", StringComparison.OrdinalIgnoreCase);

    private static string Why(string what) => what switch
    {
        "picture" or Elsewhere => "It lies in another file, and nothing beside a file is read. Export the drawing with everything inside.",
        "style sheet" => "It lies in another file, so colours and lines may differ. Export the drawing with its styles inside.",
        "script" => "Nothing that a file brings is run.",
        "movement" => "The drawing is shown at rest.",
        "font" => "Words in it are drawn in another face. Export them as outlines.",
        _ => "It is no SVG. Export its words as text.",
    };

    [GeneratedRegex("""url\(\s*["']?([^"')]*)""", RegexOptions.IgnoreCase)]
    private static partial Regex Url();

    [GeneratedRegex("""@import\s+(?:url\(\s*)?["']?([^"');\s]*)""", RegexOptions.IgnoreCase)]
    private static partial Regex Import();

    [GeneratedRegex("""@font-face\s*\{[^}]*\}""", RegexOptions.IgnoreCase)]
    private static partial Regex FontFace();

    [GeneratedRegex("""\bhref\s*=\s*["']([^"']*)""")]
    private static partial Regex Reference();
}
