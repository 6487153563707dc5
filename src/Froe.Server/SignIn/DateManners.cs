using Froe.Core.Calendar;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>How people read dates, as they chose.</summary>
internal sealed class DateManners(Database database)
{
    /// <summary>A person's; the usual one until they choose.</summary>
    public async Task<DateManner> OfAsync(Guid person, CancellationToken stop) => (await database.ListAsync(
        "SELECT language, hours, week_begins FROM date_manner WHERE person_id = $1",
        r => new DateManner(r.GetString(0), Words.Parse<ClockHours>(r.GetString(1)), Words.Parse<WeekBegins>(r.GetString(2))), [person], stop)).FirstOrDefault() ?? DateManner.Usual;

    /// <summary>Keeps what a person chose.</summary>
    public Task KeepAsync(Guid person, DateManner manner, CancellationToken stop) => database.RunAsync(
        """
        INSERT INTO date_manner (person_id, language, hours, week_begins) VALUES ($1, $2, $3, $4)
        ON CONFLICT (person_id) DO UPDATE SET language = excluded.language, hours = excluded.hours, week_begins = excluded.week_begins
        """,
        [person, manner.Language, Words.Of(manner.Hours), Words.Of(manner.WeekBegins)], stop);
}
