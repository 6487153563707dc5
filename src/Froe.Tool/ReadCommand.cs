using System.Diagnostics;
using System.Text.Encodings.Web;
using System.Text.Json;
using Froe.Formats;
using Froe.Formats.Dxf;
using Froe.Formats.Pictures;

namespace Froe.Tool;

/// <summary>froe read FILE… [--png OUT]: prints what Froe sees in drawing files.</summary>
internal static class ReadCommand
{
    /// <summary>Pixels on the longer side of a picture asked for with --png.</summary>
    private const int PictureSize = 2400;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public static int Run(string[] args)
    {
        var files = new List<string>();
        string? png = null;
        var survey = false;
        for (var i = 0; i < args.Length; i++)
            if (args[i] == "--png" && i + 1 < args.Length) png = args[++i];
            else if (args[i] == "--survey") survey = true;
            else if (args[i].StartsWith("--", StringComparison.Ordinal)) return Fail($"froe read: there is no option {args[i]}, or it lacks its value");
            else files.Add(args[i]);
        if (files.Count == 0) return Fail("froe read: name at least one drawing file");
        if (png is not null && files.Count > 1) return Fail("froe read: --png takes one file at a time");
        if (png is not null && survey) return Fail("froe read: --survey draws nothing, so there is no picture of it");
        foreach (var file in files)
        {
            ReadResult result;
            var watch = Stopwatch.StartNew();
            try
            {
                using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
                if (survey)
                {
                    var (found, fault) = DxfReader.Survey(stream);
                    if (found is null) return Fail($"{file}: {fault}");
                    Console.WriteLine(JsonSerializer.Serialize(Report.Of(found, new FileInfo(file).Length, watch.Elapsed, PeakMegabytes(), file), Json));
                    continue;
                }
                result = DxfReader.Read(stream);
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                return Fail($"{file}: {e.Message}");
            }
            if (result.Drawing is not { } drawing) return Fail($"{file}: {result.Fault}");
            Console.WriteLine(JsonSerializer.Serialize(Report.Of(drawing, new FileInfo(file).Length, watch.Elapsed, PeakMegabytes(), file), Json));
            if (png is not null && !WritePictures(drawing, png)) return 2;
        }
        return 0;
    }

    /// <summary>Peak resident memory of this process, as Linux counts it.</summary>
    private static double PeakMegabytes()
    {
        using var me = Process.GetCurrentProcess();
        return Math.Round(me.PeakWorkingSet64 / 1e6, 1);
    }

    /// <summary>One picture a sheet; several sheets are numbered: out.png, out-2.png …</summary>
    private static bool WritePictures(DrawingFile drawing, string png)
    {
        try
        {
            for (var i = 0; i < drawing.Sheets.Count; i++)
            {
                var name = i == 0 ? png : Path.Combine(Path.GetDirectoryName(png) ?? "", $"{Path.GetFileNameWithoutExtension(png)}-{i + 1}{Path.GetExtension(png)}");
                File.WriteAllBytes(name, SheetPicture.Png(drawing.Sheets[i], PictureSize));
            }
            return true;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine($"{png}: {e.Message}");
            return false;
        }
    }

    private static int Fail(string line)
    {
        Console.Error.WriteLine(line);
        return 2;
    }
}

/// <summary>What Froe sees in a file, as JSON.</summary>
internal static class Report
{
    public static object Of(DrawingSurvey survey, long bytes, TimeSpan time, double peak, string file) => new
    {
        File = file,
        survey.Format,
        survey.Version,
        survey.Encoding,
        Bytes = bytes,
        Seconds = Math.Round(time.TotalSeconds, 3),
        PeakMegabytes = peak,
        Unit = JsonNamingPolicy.CamelCase.ConvertName(survey.Unit.ToString()),
        survey.Layers,
        survey.Blocks,
        Entities = survey.EntityCounts.OrderByDescending(c => c.Value).ToDictionary(c => c.Key, c => c.Value),
    };

    public static object Of(DrawingFile drawing, long bytes, TimeSpan time, double peak, string? file) => new
    {
        File = file,
        drawing.Format,
        drawing.Version,
        drawing.Encoding,
        Bytes = bytes,
        Seconds = Math.Round(time.TotalSeconds, 3),
        PeakMegabytes = peak,
        Sheets = drawing.Sheets.Select(s => new
        {
            s.Name,
            Unit = JsonNamingPolicy.CamelCase.ConvertName(s.Unit.ToString()),
            Extents = new[] { s.Extents.MinX, s.Extents.MinY, s.Extents.MaxX, s.Extents.MaxY },
            s.Tolerance,
            Entities = s.EntityHandle.Length,
            Strokes = s.SegmentEntity.Length,
            Triangles = s.TriangleEntity.Length,
            Texts = s.Texts.Count,
        }),
        Layers = drawing.Sheets[0].Layers.Select(l => new { l.Name, l.IsOn, Colour = $"#{l.Rgb:x6}" }),
        Entities = drawing.EntityCounts.OrderByDescending(c => c.Value).ToDictionary(c => c.Key, c => c.Value),
        drawing.NotShown,
    };
}
