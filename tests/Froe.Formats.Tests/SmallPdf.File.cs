using System.Globalization;
using System.Text;

namespace Froe.Formats.Tests;

/// <summary>Writing pages of a few lines.</summary>
internal static partial class SmallPdf
{
    /// <summary>A file of numbered objects, the first the catalogue, with its cross-references.</summary>
    public static byte[] Of(params string[] objects)
    {
        var file = new StringBuilder("%PDF-1.7\n");
        var at = new List<int>();
        foreach (var (body, i) in objects.Select((o, i) => (o, i)))
        {
            at.Add(file.Length);
            file.Append(CultureInfo.InvariantCulture, $"{i + 1} 0 obj\n{body}\nendobj\n");
        }
        var start = file.Length;
        file.Append(CultureInfo.InvariantCulture, $"xref\n0 {objects.Length + 1}\n0000000000 65535 f \n");
        foreach (var offset in at) file.Append(CultureInfo.InvariantCulture, $"{offset:0000000000} 00000 n \n");
        return Encoding.Latin1.GetBytes(file.Append(CultureInfo.InvariantCulture, $"trailer\n<< /Size {objects.Length + 1} /Root 1 0 R >>\nstartxref\n{start}\n%%EOF\n").ToString());
    }

    /// <summary>A file of one page; objects from the sixth on are its own.</summary>
    public static byte[] Page(string operators, string page = "/MediaBox [0 0 200 100]", string resources = "", string catalogue = "", params string[] more) => Of(
        [
            $"<< /Type /Catalog /Pages 2 0 R {catalogue} >>",
            "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            $"<< /Type /Page /Parent 2 0 R {page} /Contents 4 0 R /Resources << /Font << /F 5 0 R >> {resources} >> >>",
            Stream(operators),
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>",
            .. more,
        ]);

    public static string Stream(string content, string dictionary = "") => $"<< {dictionary} /Length {content.Length} >>\nstream\n{content}\nendstream";
}
