using System.IO.Compression;
using System.Text;

namespace Froe.Formats.Tests;

/// <summary>Good files that use much of what their formats have, to be changed: what is in none of them, no change of them reaches.</summary>
internal static class HostileMore
{
    public static IEnumerable<(string Name, byte[] File)> Seeds()
    {
        yield return ("rich.svg", Encoding.UTF8.GetBytes(Svg));
        yield return ("rich.xlsx", Zipped(Workbook));
        yield return ("rich.pdf", Pdf());
        yield return ("rich.md", Encoding.UTF8.GetBytes(Markdown));
        yield return ("other.csv", [0xFF, 0xFE, .. Encoding.Unicode.GetBytes("Nr\tMaß\tDate\n1\t\"a\"\"b\nc\"\t2026-01-02\n2\t1,5\t03.04.2026\n\n\t\t\n")]);
        yield return ("notes.dxf", SmallDxf.FileOf(Notes, "9 $DWGCODEPAGE\n3 ANSI_932\n9 $PDMODE\n70 35", "0 TABLE\n2 DIMSTYLE\n0 DIMSTYLE\n2 ISO\n41 2.5\n140 3.5\n271 2\n0 ENDTAB"));
    }

    /// <summary>More models: what programs put into glTF, colours and textures of 3MF, materials and odd faces of OBJ.</summary>
    public static IEnumerable<(string Name, byte[] File)> Models()
    {
        yield return ("c.gltf", Encoding.UTF8.GetBytes(Gltf));
        yield return ("c.3mf", ModelFiles.ThreeMf(Coloured));
        yield return ("c.obj", Encoding.UTF8.GetBytes("mtllib a.mtl\nv 0 0 0 1 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv .5 .5 1\nvt 0 0\nvn 0 0 1\ng a b\nusemtl steel\ns 1\nf 1/1/1 2/1/1 3/1/1 4/1/1\no tip\nf -1 1 2\nf 5//1 2//1 3//1\nl 1 2 3\np 4\nf 3 4 5\nf 4 1 5 \\\n 2\n"));
    }

    /// <summary>A binary glTF whose text is changed and whose lengths fit again, so that the change comes to be read.</summary>
    public static byte[] InGlb(byte[] file, Random random)
    {
        var length = file.Length < 28 ? -1 : BitConverter.ToInt32(file, 12);
        if (length <= 0 || length > file.Length - 28) return Hostile.Changed(file, random);
        return ModelFiles.Glb(Encoding.Latin1.GetString(Hostile.Changed(file[20..(20 + length)], random)), file[(28 + length)..]);
    }

    private const string Svg = """
        <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="210mm" height="148.5mm" viewBox="0 0 420 297" preserveAspectRatio="xMidYMin slice">
        <style>.a{fill:none;stroke:#123;stroke-width:.5} #b rect,text.c{font:bold 6px sans-serif;fill:rgb(10%,20%,30%)}</style>
        <defs><linearGradient id="g" x1="0" x2="1"><stop offset="0" stop-color="red"/><stop offset="100%" stop-color="blue" stop-opacity=".5"/></linearGradient>
        <radialGradient id="r" xlink:href="#g" cx=".3" fx=".4" r="60%" spreadMethod="reflect" gradientTransform="rotate(20) scale(1.2 .8)"/>
        <pattern id="p" width="10" height="10" patternUnits="userSpaceOnUse" patternTransform="skewX(10)"><path d="M0 0L10 10" class="a"/></pattern>
        <clipPath id="k"><circle cx="60" cy="60" r="40"/><use href="#s"/></clipPath><mask id="m"><rect width="100" height="100" fill="white"/><text x="5" y="20" class="c">mask</text></mask>
        <marker id="h" markerWidth="6" markerHeight="6" refX="5" refY="3" orient="auto-start-reverse"><path d="M0 0L6 3L0 6z"/></marker>
        <symbol id="s" viewBox="0 0 10 10"><path d="M1 1h8v8H1z m2 2 a2 2 0 1 0 4 0 z"/></symbol><filter id="f"><feGaussianBlur stdDeviation="2"/></filter></defs>
        <g id="b" transform="translate(10,10) rotate(5 20 20) matrix(1 0 .1 1 0 0)" clip-path="url(#k)" opacity=".9"><rect x="0" y="0" width="80" height="50%" rx="4" fill="url(#g)"/><ellipse cx="40" cy="30" rx="20" ry="10" fill="url(#r)" mask="url(#m)"/></g>
        <use href="#s" x="100" y="20" width="40" height="40" fill="url(#p)"/><polyline points="10,200 60,220 90,180 130 240" class="a" marker-end="url(#h)" stroke-dasharray="4 2 1" stroke-linejoin="round"/>
        <path d="M200 100C250 50 300 150 350 100S400 20 410 90Q380 130 360 110T330 120A30 20 30 0 1 300 140z" fill-rule="evenodd" filter="url(#f)"/>
        <text x="200 210 220" y="40" dy="2" rotate="5 10" text-anchor="middle" letter-spacing="1">Wo<tspan font-weight="bold" baseline-shift="super">r</tspan>ds <tspan x="200" dy="1.2em">below</tspan></text>
        <svg x="300" y="200" width="80" height="60" viewBox="0 0 8 6" overflow="hidden"><image width="8" height="6" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=="/></svg>
        <switch><text systemLanguage="xx" x="10" y="290">no</text><g><a href="#"><text x="10" y="290" style="display:inline;visibility:visible">yes</text></a></g></switch></svg>
        """;

    private const string Markdown = """
        Head
        ====
        1. one
           - two *three **four** `five`*
             > six [seven](https://example.org "eight") ![nine](a.png)
        2. ten\
           eleven

        ```text
        twelve
        ```
        | a | b\|c | d |
        |:--|:-:|--:|
        | 1 | ~~2~~ | <b>3</b> |
        ***
        - [x] done &amp; &#x41; &nosuch;
        """;

    private const string Notes =
        "0 MULTILEADER\n8 0\n300 CONTEXT_DATA{\n40 1\n10 0\n20 0\n41 3\n304 Weld \\P\\H1.5x;all\n12 20\n22 20\n13 1\n23 0\n11 1\n21 0\n302 LEADER{\n290 1\n10 10\n20 10\n11 1\n21 0\n40 4\n304 LEADER_LINE{\n10 0\n20 0\n10 5\n20 8\n305 }\n303 }\n301 }\n172 2\n"
        + "0 TOLERANCE\n8 0\n3 ISO\n10 5\n20 5\n11 1\n21 0\n1 {\\Fgdt;j}%%v{\\Fgdt;n}0.1{\\Fgdt;m}%%vA%%vB^J%%v0.2\n0 DIMENSION\n8 0\n3 ISO\n70 2\n10 0\n20 0\n13 0\n23 0\n14 9\n24 0\n15 0\n25 9\n16 5\n26 5\n0 DIMENSION\n8 0\n70 4\n10 0\n20 0\n15 5\n25 0\n1 <> max\n1001 ACAD\n1000 DSTYLE\n1002 {\n1070 271\n1070 3\n1002 }\n"
        + "0 IMAGE\n8 0\n10 0\n20 0\n11 0.1\n21 0\n12 0\n22 0.1\n13 640\n23 480\n340 B1\n71 1\n91 2\n14 -0.5\n24 -0.5\n14 639.5\n24 479.5\n0 WIPEOUT\n8 0\n10 0\n20 0\n11 5\n21 0\n12 0\n22 5\n13 1\n23 1\n71 2\n91 4\n14 -0.5\n24 -0.5\n14 0.5\n24 -0.5\n14 0.5\n24 0.5\n14 -0.5\n24 0.5\n0 MESH\n8 0\n91 0\n92 4\n10 0\n20 0\n30 0\n10 1\n20 0\n30 0\n10 1\n20 1\n30 0\n10 0\n20 1\n30 0\n93 5\n90 4\n90 0\n90 1\n90 2\n90 3\n94 0\n"
        + "0 POLYLINE\n8 0\n66 1\n70 64\n71 4\n72 1\n0 VERTEX\n8 0\n10 0\n20 0\n70 192\n0 VERTEX\n8 0\n10 9\n20 0\n70 192\n0 VERTEX\n8 0\n10 9\n20 9\n70 192\n0 VERTEX\n8 0\n10 0\n20 0\n70 128\n71 1\n72 -2\n73 3\n0 SEQEND\n0 POLYLINE\n8 0\n66 1\n70 16\n71 2\n72 2\n0 VERTEX\n8 0\n10 0\n20 0\n70 64\n0 VERTEX\n8 0\n10 9\n20 0\n70 64\n0 VERTEX\n8 0\n10 0\n20 9\n70 64\n0 VERTEX\n8 0\n10 9\n20 9\n70 64\n0 SEQEND\n"
        + "0 SPLINE\n8 0\n70 1024\n71 3\n74 4\n42 1e-9\n11 0\n21 0\n11 3\n21 4\n11 6\n21 0\n11 9\n21 4\n12 1\n22 1\n0 HELIX\n8 0\n71 3\n72 4\n73 0\n74 4\n11 0\n21 0\n11 1\n21 1\n11 2\n21 0\n11 3\n21 1\n0 POINT\n8 0\n10 1\n20 1\n50 30\n0 RAY\n8 0\n10 0\n20 0\n11 1\n21 2\n0 SHAPE\n8 0\n10 0\n20 0\n40 1\n2 BOX\n0 TEXT\n8 0\n10 0\n20 0\n11 5\n21 5\n40 2\n41 0.8\n51 15\n71 2\n72 4\n73 2\n1 %%uUnder%%u %%c5 %%p0.1 \\U+2260 \\M+1817E\n0 LWPOLYLINE\n8 0\n90 3\n70 129\n43 0.5\n10 0\n20 0\n40 1\n41 2\n42 1\n10 5\n20 0\n10 5\n20 5\n210 0\n220 0\n230 -1";

    private const string Gltf = """
        {"asset":{"version":"2.0"},"extensionsUsed":["EXT_mesh_gpu_instancing","KHR_mesh_quantization","KHR_materials_unlit"],"extensionsRequired":["KHR_mesh_quantization"],"scene":0,"scenes":[{"nodes":[0,3]}],
        "nodes":[{"name":"a","children":[1,2],"matrix":[1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]},{"mesh":0,"translation":[1,2,3],"rotation":[0,0.7071068,0,0.7071068],"scale":[1,2,1]},{"mesh":0,"skin":0,"weights":[0.5]},{"mesh":0,"extensions":{"EXT_mesh_gpu_instancing":{"attributes":{"TRANSLATION":3}}}}],
        "skins":[{"joints":[0]}],"materials":[{"name":"steel","pbrMetallicRoughness":{"baseColorFactor":[0.5,0.5,0.6,0.9]},"alphaMode":"BLEND","extensions":{"KHR_materials_unlit":{}}}],
        "meshes":[{"name":"m","weights":[0],"primitives":[{"attributes":{"POSITION":0,"COLOR_0":2},"indices":1,"material":0,"mode":4,"targets":[{"POSITION":0}]},{"attributes":{"POSITION":0},"mode":5},{"attributes":{"POSITION":0},"indices":1,"mode":6},{"attributes":{"POSITION":0},"mode":0}]}],
        "animations":[{"channels":[{"sampler":0,"target":{"node":1,"path":"translation"}}],"samplers":[{"input":4,"output":3}]}],
        "accessors":[{"bufferView":0,"componentType":5122,"normalized":true,"count":4,"type":"VEC3","min":[0,0,0],"max":[1,1,1],"sparse":{"count":1,"indices":{"bufferView":1,"componentType":5121},"values":{"bufferView":0,"byteOffset":8}}},{"bufferView":1,"componentType":5121,"count":6,"type":"SCALAR"},{"bufferView":2,"componentType":5121,"normalized":true,"count":4,"type":"VEC4"},{"bufferView":3,"componentType":5126,"count":2,"type":"VEC3"},{"bufferView":3,"componentType":5126,"count":2,"type":"SCALAR"}],
        "bufferViews":[{"buffer":0,"byteLength":32,"byteStride":8},{"buffer":0,"byteOffset":32,"byteLength":8},{"buffer":0,"byteOffset":40,"byteLength":16,"byteStride":4},{"buffer":0,"byteOffset":56,"byteLength":24}],
        "buffers":[{"byteLength":80,"uri":"data:application/octet-stream;base64,AAAAAAAAAAD/fwAAAAAAAP9//38AAAAAAAD/f/9/AAAAAQIAAgMAAP8AAP//AAD//wAA//8AAP8AAAAAAAAAAAAAAAAAAIA/AAAAAAAAAAA="}]}
        """;

    private const string Coloured = "<model unit='inch' xmlns:m='urn:material'><metadata name='Title'>t</metadata><resources><basematerials id='9'><base name='Steel' displaycolor='#808890FF'/></basematerials><m:colorgroup id='8'><m:color color='#F00'/><m:color color='#00FF0080'/></m:colorgroup><object id='1' name='a' pid='9' pindex='0'><mesh><vertices><vertex x='0' y='0' z='0'/><vertex x='1' y='0' z='0'/><vertex x='0' y='1' z='0'/><vertex x='0' y='0' z='1'/></vertices><triangles><triangle v1='0' v2='2' v3='1' pid='8' p1='0' p2='1' p3='1'/><triangle v1='0' v2='1' v3='3'/><triangle v1='1' v2='2' v3='3'/><triangle v1='2' v2='0' v3='3'/></triangles></mesh></object><object id='2' type='model' partnumber='P'><components><component objectid='1' transform='1 0 0 0 1 0 0 0 1 5 0 0'/><component objectid='1'/></components></object></resources><build><item objectid='2' transform='0 1 0 -1 0 0 0 0 1 0 0 0'/><item objectid='1' partnumber='Q'/></build></model>";

    private static byte[] Pdf() => SmallPdf.Page(
        "/OC /L BDC q 0.8 0 0 rg 0 0 40 40 re f Q EMC /P gs BT /F 9 Tf 3 Tr 1 0 0.2 1 10 60 Tm [(Se) -120 (al)] TJ T* (below) ' ET BT /T 8 Tf 60 60 Td (ab) Tj ET q 40 0 0 30 90 50 cm /X Do Q /Y Do q 10 10 20 20 re W* n /S sh Q /Pattern cs /Q scn 100 5 40 30 re B [3 1] 0 d 2 J 5 w 5 95 m 195 95 l S BI /W 2 /H 2 /CS /G /BPC 8 ID abcd EI",
        "/MediaBox [0 0 200 100] /CropBox [-5 -5 190 95] /Rotate 90 /UserUnit 2 /Annots [6 0 R 7 0 R] /VP [<< /BBox [0 0 200 100] /Measure << /Subtype /RL /R (1:10) /X [<< /U (mm) /C 3.5 >>] /D [<< /U (mm) /C 1 >>] >> >>]",
        "/Properties << /L 8 0 R >> /ExtGState << /P << /ca 0.5 /BM /Multiply /SMask << /S /Luminosity /G 10 0 R >> >> >> /XObject << /X 9 0 R /Y 10 0 R >> /Shading << /S 11 0 R >> /Pattern << /Q 12 0 R >> /Font << /F 5 0 R /T 13 0 R >>",
        "/OCProperties << /OCGs [8 0 R] /D << /OFF [8 0 R] /Order [8 0 R] >> >> /PageLabels << /Nums [0 << /S /r /P (A-) /St 3 >>] >> /AcroForm << /Fields [7 0 R] /DA (/Helv 9 Tf) >>",
        "<< /Type /Annot /Subtype /Polygon /Rect [10 10 60 60] /Vertices [10 10 60 10 60 60] /C [1 0 0] /BE << /S /C /I 1 >> /T (Ida) /Contents (Check) /M (D:20260102030405+01'00') /NM (a) /RC (<p>Check</p>) >>",
        "<< /Type /Annot /Subtype /Widget /FT /Tx /T (no) /V (42) /Rect [70 70 120 85] /DA (/Helv 8 Tf 0 g) /MK << /BC [0 0 1] >> /P 3 0 R >>",
        "<< /Type /OCG /Name (Pipes) >>",
        SmallPdf.Stream("\u0000\u00ff\u0080\u0040", "/Type /XObject /Subtype /Image /Width 2 /Height 2 /ColorSpace /DeviceGray /BitsPerComponent 8 /Decode [1 0]"),
        SmallPdf.Stream("0 0 1 RG 3 3 30 20 re S /Y Do", "/Type /XObject /Subtype /Form /BBox [0 0 50 50] /Matrix [1 0 0 1 5 5] /Group << /S /Transparency /CS /DeviceRGB >> /Resources << /XObject << /Y 10 0 R >> >>"),
        "<< /ShadingType 2 /ColorSpace /DeviceRGB /Coords [0 0 30 30] /Function << /FunctionType 2 /Domain [0 1] /C0 [1 0 0] /C1 [0 0 1] /N 1.5 >> /Extend [true false] >>",
        SmallPdf.Stream("0 1 0 rg 0 0 2 2 re f", "/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 4 4] /XStep 5 /YStep 5 /Matrix [1 0.2 0 1 0 0] /Resources << >>"),
        "<< /Type /Font /Subtype /Type3 /FontBBox [0 0 8 8] /FontMatrix [0.125 0 0 0.125 0 0] /CharProcs << /a 14 0 R /b 14 0 R >> /Encoding << /Type /Encoding /Differences [97 /a /b] >> /FirstChar 97 /LastChar 98 /Widths [8 8] /Resources << >> >>",
        SmallPdf.Stream("8 0 0 0 8 8 d1 0 0 6 6 re f"));

    private static readonly (string Name, string Words)[] Workbook =
    [
        ("[Content_Types].xml", "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'><Default Extension='rels' ContentType='application/vnd.openxmlformats-package.relationships+xml'/><Default Extension='xml' ContentType='application/xml'/><Override PartName='/xl/workbook.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml'/><Override PartName='/xl/worksheets/sheet1.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml'/><Override PartName='/xl/styles.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml'/><Override PartName='/xl/sharedStrings.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.sharedStrings+xml'/></Types>"),
        ("_rels/.rels", "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='r1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument' Target='xl/workbook.xml'/></Relationships>"),
        ("xl/_rels/workbook.xml.rels", "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='r1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet' Target='worksheets/sheet1.xml'/><Relationship Id='r2' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles' Target='styles.xml'/><Relationship Id='r3' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/sharedStrings' Target='sharedStrings.xml'/></Relationships>"),
        ("xl/workbook.xml", "<workbook xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main' xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'><workbookPr date1904='1'/><sheets><sheet name='Parts &amp; more' sheetId='1' r:id='r1'/></sheets><definedNames><definedName name='_xlnm.Print_Area' localSheetId='0'>Parts!$A$1:$D$9</definedName></definedNames></workbook>"),
        ("xl/sharedStrings.xml", "<sst xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><si><t xml:space='preserve'> one </t></si><si><r><rPr><b/></rPr><t>two</t></r><r><t>three_x000D_</t></r></si></sst>"),
        ("xl/styles.xml", "<styleSheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><numFmts><numFmt numFmtId='164' formatCode='[Red][&lt;5]0.00\" mm\";[h]:mm:ss;# ?/?;@\" x\"'/><numFmt numFmtId='165' formatCode='dddd d. mmmm yyyy h:mm AM/PM'/><numFmt numFmtId='166' formatCode='0.0##E+00'/></numFmts><fonts><font><sz val='11'/><color theme='1'/></font><font><b/><i/><u/><sz val='14'/><color rgb='FFC00000'/></font></fonts><fills><fill><patternFill patternType='none'/></fill><fill><patternFill patternType='darkUp'><fgColor indexed='10'/><bgColor theme='4' tint='0.4'/></patternFill></fill><fill><gradientFill degree='90'><stop position='0'><color rgb='FF112233'/></stop></gradientFill></fill></fills><borders><border/><border diagonalUp='1'><left style='double'><color auto='1'/></left><diagonal style='thin'/></border></borders><cellXfs><xf/><xf numFmtId='164' fontId='1' fillId='1' borderId='1'><alignment horizontal='centerContinuous' vertical='distributed' wrapText='1' textRotation='135' indent='3' shrinkToFit='1'/></xf><xf numFmtId='165'/><xf numFmtId='166' fillId='2'/></cellXfs></styleSheet>"),
        ("xl/worksheets/sheet1.xml", "<worksheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><sheetViews><sheetView showGridLines='0'><pane xSplit='1' ySplit='2' state='frozen'/></sheetView></sheetViews><sheetFormatPr defaultRowHeight='15' baseColWidth='10'/><cols><col min='1' max='3' width='12.5' style='1'/><col min='5' max='16384' hidden='1'/></cols><sheetData><row r='1' ht='30' customFormat='1' s='1'><c r='A1' t='s'><v>0</v></c><c r='C1' s='1'><v>4.5</v></c></row><row r='3' hidden='1'><c r='A3' s='2'><v>45000.75</v></c><c r='B3' t='b'><v>1</v></c><c r='D3' s='3'><f>1/3</f><v>0.333333</v></c></row><row r='1048576'><c r='XFD1048576' t='e'><v>#REF!</v></c></row></sheetData><mergeCells><mergeCell ref='A1:B2'/><mergeCell ref='$C$4:D9'/></mergeCells><hyperlinks><hyperlink ref='A1' location='B3'/></hyperlinks></worksheet>"),
    ];

    private static byte[] Zipped((string Name, string Words)[] parts)
    {
        using var to = new MemoryStream();
        using (var zip = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, words) in parts)
            {
                using var part = new StreamWriter(zip.CreateEntry(name).Open());
                part.Write(words);
            }
        return to.ToArray();
    }
}
