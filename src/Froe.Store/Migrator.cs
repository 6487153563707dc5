using System.Security.Cryptography;
using System.Text;
using DbUp;
using DbUp.Engine;
using Npgsql;

namespace Froe.Store;

/// <summary>Raised when the database's shape does not fit this program; the message says what to do.</summary>
public sealed class MigrationException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>Brings a database to the shape this program needs.</summary>
public static class Migrator
{
    /// <summary>Runs what has not run yet, each script in its own transaction, and remembers what each script was.</summary>
    /// <param name="ownerConnection">A connection string of the role that owns the database. The role froe_app must exist.</param>
    /// <exception cref="MigrationException">A script failed, or one that ran has been edited since.</exception>
    public static void Migrate(string ownerConnection)
    {
        var engine = DeployChanges.To.PostgresqlDatabase(ownerConnection)
            .WithScriptsEmbeddedInAssembly(typeof(Migrator).Assembly, name => name.EndsWith(".sql", StringComparison.Ordinal))
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build();
        var result = engine.PerformUpgrade();
        if (!result.Successful) throw new MigrationException($"Migration {result.ErrorScript?.Name} failed: {result.Error.Message}", result.Error);
        CheckHashes(ownerConnection, engine.GetDiscoveredScripts());
    }

    /// <summary>Whether a database knows the small and large letters of every script for one another; some know those from A to Z only.</summary>
    /// <param name="ownerConnection">A connection string to it.</param>
    public static bool KnowsAllLetters(string ownerConnection)
    {
        using var connection = new NpgsqlConnection(ownerConnection);
        connection.Open();
        using var command = new NpgsqlCommand("SELECT lower('Ä') = 'ä' AND lower('Ж') = 'ж'", connection);
        return command.ExecuteScalar() is true;
    }

    /// <summary>The journal knows scripts by name only; a hash beside it tells an edited one.</summary>
    private static void CheckHashes(string connectionString, IEnumerable<SqlScript> scripts)
    {
        using var connection = new NpgsqlConnection(connectionString);
        connection.Open();
        using (var create = connection.Command("CREATE TABLE IF NOT EXISTS migration_hash (name text PRIMARY KEY, sha256 bytea NOT NULL); GRANT SELECT ON migration_hash TO froe_app", []))
            create.ExecuteNonQuery();
        foreach (var script in scripts)
        {
            var hash = SHA256.HashData(Encoding.UTF8.GetBytes(script.Contents));
            using var insert = connection.Command("INSERT INTO migration_hash VALUES ($1, $2) ON CONFLICT DO NOTHING", [script.Name, hash]);
            if (insert.ExecuteNonQuery() == 1) continue;
            using var check = connection.Command("SELECT sha256 FROM migration_hash WHERE name = $1", [script.Name]);
            if (check.ExecuteScalar() is byte[] known && !known.AsSpan().SequenceEqual(hash))
                throw new MigrationException($"Migration {script.Name} was edited after it ran. Restore it and write a new one.");
        }
    }
}
