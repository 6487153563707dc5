using System.Security.Cryptography.X509Certificates;

namespace Froe.Server;

/// <summary>What can be set, in appsettings under "Froe" or as environment variables Froe__Name.</summary>
public sealed class Settings
{
    /// <summary>Connection string of the server's own database role. No default.</summary>
    public string Database { get; set; } = "";

    /// <summary>Folder with the built front end; empty for none (tests of the API alone).</summary>
    public string Web { get; set; } = "";

    /// <summary>Path of the reader's assembly, started as a child process for files that arrive.</summary>
    public string Reader { get; set; } = "";

    /// <summary>Time zone in which the office counts working days, an IANA name.</summary>
    public string TimeZone { get; set; } = "UTC";

    /// <summary>Longest file that may be uploaded, in bytes.</summary>
    public long MostUploadBytes { get; set; } = 512L << 20;

    /// <summary>Seconds a file may take to be read before its reader is ended.</summary>
    public int ReaderSeconds { get; set; } = 120;

    /// <summary>Memory a reader may use, in bytes.</summary>
    public long ReaderMemory { get; set; } = 3L << 30;

    /// <summary>Wrong passwords for an account that cost no wait; from the next on one waits, twice as long each time, up to a quarter of an hour.</summary>
    public int FreeGuesses { get; set; } = 5;

    /// <summary>Rounds that a password is hashed by; fewer than <see cref="SignIn.Passwords.Rounds"/> only where no password guards anything.</summary>
    public int PasswordRounds { get; set; } = SignIn.Passwords.Rounds;

    /// <summary>Hours that a session lasts at most, however much it is used.</summary>
    public double SessionHours { get; set; } = 16;

    /// <summary>Hours after which a session ends in which nothing was asked.</summary>
    public double IdleHours { get; set; } = 8;

    /// <summary>
    /// Addresses or networks (10.0.0.0/8) of the proxies in front of this server, separated by commas: what they say of the browser's
    /// address and of TLS is believed. Empty for none: then everybody behind a proxy has its address.
    /// </summary>
    public string Proxies { get; set; } = "";

    /// <summary>Files that may arrive or leave at once, for one person and in all; more are asked to wait.</summary>
    public int TransfersEach { get; set; } = 8;

    /// <inheritdoc cref="TransfersEach"/>
    public int TransfersInAll { get; set; } = 120;

    /// <summary>Folder for files on their way in and out; empty for one of the system's temporary files.</summary>
    public string Spool { get; set; } = "";

    /// <summary>Bytes of files on their way out that are kept at hand.</summary>
    public long SpoolBytes { get; set; } = 4L << 30;

    /// <summary>Files read at once, each by a child process; 0 for one less than there are processors.</summary>
    public int Readers { get; set; }

    /// <summary>
    /// PEM file with a certificate (RSA) and its private key, by which the keys of sessions and grants are encrypted in the database,
    /// so that whoever reads the database cannot make a session, and by which seals over the ledger are signed; the same file for every
    /// server of one database. Empty for none.
    /// </summary>
    public string KeyCertificate { get; set; } = "";

    /// <summary>The certificate of that file with its key, read once; null for none.</summary>
    public X509Certificate2? Certificate => KeyCertificate.Length == 0 ? null : certificate ??= X509Certificate2.CreateFromPemFile(KeyCertificate);

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
    public string DemoPassword { get; set; } = "tallowmere refit";
}
