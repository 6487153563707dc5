namespace Froe.Core.Calendar;

/// <summary>How a person wants to hear outside the app.</summary>
public enum MailMode
{
    AtOnce,

    /// <summary>All of a day's messages in one mail.</summary>
    Daily,
    None,
}

/// <summary>When mail may reach a person.</summary>
/// <param name="Mode">At once, in a daily digest, or never.</param>
/// <param name="DigestAt">Local minute of the day at which the digest goes out.</param>
/// <param name="QuietFrom">Local minute from which no mail goes out; equal to <paramref name="QuietTo"/> for no quiet hours. May be later than it, over midnight.</param>
/// <param name="QuietTo">Local minute at which mail goes out again.</param>
public sealed record PostHours(MailMode Mode, int DigestAt, int QuietFrom, int QuietTo)
{
    /// <summary>At once, at any hour.</summary>
    public static PostHours Usual { get; } = new(MailMode.AtOnce, 450, 0, 0);

    /// <summary>When a message of <paramref name="now"/> may go out: now, the end of the quiet hours, or the next digest; null for never.</summary>
    public DateTimeOffset? Next(DateTimeOffset now, TimeZoneInfo zone)
    {
        ArgumentNullException.ThrowIfNull(zone);
        var local = TimeZoneInfo.ConvertTime(now, zone);
        var minute = local.Hour * 60 + local.Minute;
        switch (Mode)
        {
            case MailMode.None: return null;
            case MailMode.Daily: return Instant(local, minute < DigestAt ? 0 : 1, DigestAt, zone);
        }
        var overnight = QuietFrom > QuietTo;
        var isQuiet = overnight ? minute >= QuietFrom || minute < QuietTo : minute >= QuietFrom && minute < QuietTo;
        return isQuiet ? Instant(local, overnight && minute >= QuietFrom ? 1 : 0, QuietTo, zone) : now;
    }

    /// <summary>A local minute as an instant; one the clocks skip is taken as the moment they jump to.</summary>
    private static DateTimeOffset Instant(DateTimeOffset local, int daysOn, int minute, TimeZoneInfo zone)
    {
        var wanted = DateTime.SpecifyKind(local.Date.AddDays(daysOn).AddMinutes(minute), DateTimeKind.Unspecified);
        while (zone.IsInvalidTime(wanted)) wanted = wanted.AddMinutes(1);
        return new DateTimeOffset(wanted, zone.GetUtcOffset(wanted)).ToUniversalTime();
    }
}
