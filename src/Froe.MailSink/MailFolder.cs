using System.Net;
using System.Text;
using MimeKit;

namespace Froe.MailSink;

/// <summary>A mail as the page shows it.</summary>
internal sealed record KeptMail(string Id, DateTimeOffset At, string From, string To, string Subject, string Text);

/// <summary>Mails kept as .eml files (RFC 5322), named by when they came.</summary>
internal sealed class MailFolder(string folder)
{
    private int count;

    public void Keep(byte[] mail)
    {
        var name = $"{DateTime.UtcNow:yyyyMMdd'T'HHmmss'.'fffffff}-{Interlocked.Increment(ref count):000000}.eml";
        var path = Path.Combine(folder, name);
        File.WriteAllBytes(path + ".part", mail);
        File.Move(path + ".part", path);
    }

    public IReadOnlyList<KeptMail> Newest(int most) =>
        [.. Directory.EnumerateFiles(folder, "*.eml").OrderDescending(StringComparer.Ordinal).Take(most).Select(Read)];

    public void Empty()
    {
        foreach (var file in Directory.EnumerateFiles(folder, "*.eml")) File.Delete(file);
    }

    private static KeptMail Read(string path)
    {
        using var mail = MimeMessage.Load(path);
        return new KeptMail(
            Path.GetFileNameWithoutExtension(path), new DateTimeOffset(File.GetLastWriteTimeUtc(path), TimeSpan.Zero),
            mail.From.ToString(), mail.To.ToString(), mail.Subject ?? "", mail.TextBody ?? "");
    }
}

/// <summary>The page that shows the mails; everything in them is encoded, nothing is active.</summary>
internal static class MailPage
{
    public static string Of(IReadOnlyList<KeptMail> mails)
    {
        var page = new StringBuilder(
            """
            <!doctype html><html lang="en"><meta charset="utf-8"><title>Mail kept on this machine</title>
            <style>body{font:14px/1.5 sans-serif;background:#f3f1ea;color:#1d2a33;max-width:760px;margin:32px auto;padding:0 16px}
            article{background:#fbfaf6;border:1px solid #d8d3c6;padding:12px 16px;margin:12px 0}h2{font-size:15px;margin:0}
            p{margin:4px 0;color:#5c6870}pre{white-space:pre-wrap;font:inherit;margin:8px 0 0}</style>
            <h1>Mail kept on this machine</h1><p>Froe's mail ends here; nothing leaves this machine. Reload to see what came since.</p>
            """);
        if (mails.Count == 0) page.Append("<p>No mail yet. Send a package in Froe and come back.</p>");
        foreach (var mail in mails)
            page.Append("<article><h2>").Append(Safe(mail.Subject)).Append("</h2><p>To ").Append(Safe(mail.To)).Append(" · ").Append($"{mail.At:yyyy-MM-dd HH:mm:ss} UTC").Append("</p><pre>").Append(Safe(mail.Text)).Append("</pre></article>");
        return page.Append("</html>").ToString();

        static string Safe(string text) => WebUtility.HtmlEncode(text);
    }
}
