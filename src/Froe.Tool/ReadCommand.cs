using System.Diagnostics;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Formats;
using Froe.Formats.Pictures;

namespace Froe.Tool;

/// <summary>froe read FILE… [--png OUT]: prints what Froe sees in drawing files.</summary>
internal static class ReadCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
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
        // What one file has wrong keeps no other from being read.
        return files.Select(file => One(file, png, survey)).ToList().Max();
    }

    private static int One(string file, string? png, bool survey)
    {
        var reader = Readers.For(file);
        if (reader == Readers.Supporting) return Fail($"{file}: Froe reads {Readers.Words}.");
        JsonObject seen;
        double peak;
        DraftContent? content = null;
        ReadFault? fault;
        try
        {
            using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
            if (survey)
            {
                var watch = Stopwatch.StartNew();
                (var found, fault) = reader.Survey(stream, new ReadLimits());
                var seconds = Math.Round(watch.Elapsed.TotalSeconds, 3);
                peak = PeakMegabytes();
                seen = Said(found);
                seen["bytes"] = stream.Length;
                seen["seconds"] = seconds;
            }
            else
            {
                (content, fault) = reader.Read(stream, new ReadLimits(), FilesBeside.Of(Path.GetDirectoryName(Path.GetFullPath(file))!));
                peak = PeakMegabytes();
                seen = Said(content?.Report());
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or UnreadableException)
        {
            return Fail($"{file}: {e.Message}");
        }
        if (fault is not null) return Fail($"{file}: {fault}");
        seen["file"] = file;
        seen["peakMegabytes"] = peak;
        Console.WriteLine(seen.ToJsonString(Json));
        return png is null || WritePictures(content!, png) ? 0 : 2;
    }

    private static JsonObject Said<T>(T? seen) => JsonSerializer.SerializeToNode(seen, Json)?.AsObject() ?? [];

    /// <summary>Peak resident memory of this process so far, as Linux counts it: asked before what was read is put into words.</summary>
    private static double PeakMegabytes()
    {
        using var me = Process.GetCurrentProcess();
        return Math.Round(me.PeakWorkingSet64 / 1e6, 1);
    }

    /// <summary>One picture a leaf that has one; several are numbered: out.png, out-2.png …</summary>
    private static bool WritePictures(DraftContent content, string png)
    {
        try
        {
            foreach (var (leaf, forms, _) in content.Leaves)
            {
                if (forms.FirstOrDefault(f => f.Name == LeafForms.Picture) is not { } picture) continue;
                using var bytes = new MemoryStream();
                picture.Write(bytes);
                var name = leaf.Position == 0 ? png : Path.Combine(Path.GetDirectoryName(png) ?? "", $"{Path.GetFileNameWithoutExtension(png)}-{leaf.Position + 1}{Path.GetExtension(png)}");
                File.WriteAllBytes(name, SheetPicture.ToPng(bytes.ToArray()));
            }
            return true;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or UnreadableException)
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
