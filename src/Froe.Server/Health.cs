using Froe.Server.Files;
using Froe.Store;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Npgsql;

namespace Froe.Server;

/// <summary>Whether this server can do its work: the database answers and has this program's shape, there is room on the disk, and mail goes out.</summary>
internal sealed class Readiness(Database database, Spool spool) : IHealthCheck
{
    /// <summary>Room that files on their way need.</summary>
    private const long LeastRoom = 1L << 30;

    /// <summary>How long a mail may wait before somebody should look.</summary>
    private static readonly TimeSpan LongestWait = TimeSpan.FromHours(2);

    private static readonly string[] Shape = [.. typeof(Migrator).Assembly.GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal))];

    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        try
        {
            var applied = (await database.ListAsync("SELECT name FROM migration_hash", r => r.GetString(0), [], cancellationToken)).ToHashSet();
            if (Array.Find(Shape, s => !applied.Contains(s)) is { } missing) return HealthCheckResult.Unhealthy($"The database lacks {missing}. Bring it to this program's shape with ./froe migrate.");
            if (spool.Room() is var room && room < LeastRoom) return HealthCheckResult.Unhealthy($"There are {room >> 20} MB left for files on their way; {LeastRoom >> 20} are needed.");
            var waiting = await database.ListAsync("SELECT count(*) FROM outbox WHERE sent_at IS NULL AND put_off_to IS NULL AND attempts > 3 AND message_id IN (SELECT id FROM message WHERE at < now() - $1)", r => r.GetInt64(0), [LongestWait], cancellationToken);
            return waiting[0] == 0 ? HealthCheckResult.Healthy() : HealthCheckResult.Degraded($"{waiting[0]} mails have waited for more than {LongestWait.TotalHours:0} hours. Is the mail server up?");
        }
        catch (PostgresException e) when (e.SqlState is PostgresErrorCodes.UndefinedTable or PostgresErrorCodes.InsufficientPrivilege)
        {
            return HealthCheckResult.Unhealthy("The database is empty. Bring it to this program's shape with ./froe migrate.", e);
        }
        catch (Exception e) when (e is NpgsqlException or TimeoutException)
        {
            return HealthCheckResult.Unhealthy("The database does not answer.", e);
        }
    }
}
