using System.IO.Compression;
using System.Text;

namespace Froe.Formats.Tests;

/// <summary>Writes a workbook of a few lines: its sheets' XML as given, and what must stand round it.</summary>
internal static class SmallWorkbook
{
    private const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main", Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

    /// <param name="sheets">Each a name, what is inside its worksheet element, and its state.</param>
    /// <param name="styles">What is inside the style sheet.</param>
    /// <param name="words">What is inside the table of shared strings.</param>
    /// <param name="properties">What is inside the workbook before its sheets.</param>
    public static MemoryStream Of((string Name, string Xml, string State)[] sheets, string styles = "", string words = "", string properties = "")
    {
        var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, true))
        {
            void Part(string name, string xml)
            {
                using var to = new StreamWriter(zip.CreateEntry(name).Open(), new UTF8Encoding(false));
                to.Write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>" + xml);
            }
            const string Type = "application/vnd.openxmlformats-officedocument.spreadsheetml";
            Part("[Content_Types].xml", $"""<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="{Type}.sheet.main+xml"/><Override PartName="/xl/styles.xml" ContentType="{Type}.styles+xml"/><Override PartName="/xl/sharedStrings.xml" ContentType="{Type}.sharedStrings+xml"/>{string.Concat(sheets.Select((_, i) => $"<Override PartName=\"/xl/worksheets/sheet{i}.xml\" ContentType=\"{Type}.worksheet+xml\"/>"))}</Types>""");
            Part("_rels/.rels", $"""<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="{Relations}/officeDocument" Target="xl/workbook.xml"/></Relationships>""");
            Part("xl/_rels/workbook.xml.rels", $"""<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">{string.Concat(sheets.Select((_, i) => $"<Relationship Id=\"s{i}\" Type=\"{Relations}/worksheet\" Target=\"worksheets/sheet{i}.xml\"/>"))}<Relationship Id="st" Type="{Relations}/styles" Target="styles.xml"/><Relationship Id="ss" Type="{Relations}/sharedStrings" Target="sharedStrings.xml"/></Relationships>""");
            Part("xl/workbook.xml", $"""<workbook xmlns="{Main}" xmlns:r="{Relations}">{properties}<sheets>{string.Concat(sheets.Select((s, i) => $"<sheet name=\"{s.Name}\" sheetId=\"{i + 1}\" r:id=\"s{i}\" state=\"{s.State}\"/>"))}</sheets></workbook>""");
            Part("xl/styles.xml", $"""<styleSheet xmlns="{Main}">{styles}</styleSheet>""");
            Part("xl/sharedStrings.xml", $"""<sst xmlns="{Main}">{words}</sst>""");
            for (var i = 0; i < sheets.Length; i++) Part($"xl/worksheets/sheet{i}.xml", $"""<worksheet xmlns="{Main}">{sheets[i].Xml}</worksheet>""");
        }
        file.Position = 0;
        return file;
    }
}
