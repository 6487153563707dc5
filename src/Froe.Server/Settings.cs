using System.Security.Cryptography.X509Certificates;

namespace Froe.Server;

/// <summary>What can be set, in appsettings under "Froe" or as environment variables Froe__Name.</summary>
public sealed class Settings
{
    /// <summary>Connection string of the server's own database role. No default.</summary>
    public string Database { get; set; } = "";

    /// <summary>Folder with the built front end; empty for none (tests of the API alone).</summary>
    public string Web { get; set; } = "";

    /// <summary>Path of the reader's assembly, started as a child process for every file that arrives.</summary>
    public string Reader { get; set; } = "";

    /// <summary>Time zone in which the office counts working days, an IANA name.</summary>
    public string TimeZone { get; set; } = "UTC";

    /// <summary>Longest file that may be uploaded, in bytes.</summary>
    public long MostUploadBytes { get; set; } = 512L << 20;

    /// <summary>Seconds a file may take to be read before its reader is ended.</summary>
    public int ReaderSeconds { get; set; } = 120;

    /// <summary>Memory a reader may use, in bytes.</summary>
    public long ReaderMemory { get; set; } = 3L << 30;

    /// <summary>Attempts to sign in, or to confirm a password, per minute and address.</summary>
    public int SignInsPerMinute { get; set; } = 20;

    /// <summary>
    /// PEM file with a certificate (RSA) and its private key, by which the keys of sessions and grants are encrypted in the database,
    /// so that whoever reads the database cannot make a session, and by which seals over the ledger are signed; the same file for every
    /// server of one database. Empty for none.
    /// </summary>
    public string KeyCertificate { get; set; } = "";

    /// <summary>The certificate of that file with its key, read once; null for none.</summary>
    internal X509Certificate2? Certificate => KeyCertificate.Length == 0 ? null : certificate ??= X509Certificate2.CreateFromPemFile(KeyCertificate);

    private X509Certificate2? certificate;

    /// <summary>Minutes between seals over the ledger; 0 for no seals.</summary>
    public int SealMinutes { get; set; } = 60;

    /// <summary>Mail server's host; empty to send no mail.</summary>
    public string MailHost { get; set; } = "";

    /// <summary>Mail server's port.</summary>
    public int MailPort { get; set; } = 25;

    /// <summary>Sender of Froe's mails.</summary>
    public string MailFrom { get; set; } = "froe@tallowmere.example";

    /// <summary>Address people reach this server at, for links in mails.</summary>
    public string Address { get; set; } = "http://127.0.0.1:5173";

    /// <summary>Whether the sign-in page lists the people and their password, as only the demo may.</summary>
    public bool Demo { get; set; }

    /// <summary>The password of every demo person.</summary>
    public string DemoPassword { get; set; } = "tallowmere";
}
