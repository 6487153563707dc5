using Froe.Store;

namespace Froe.Tool;

/// <summary>froe verify: proves every hash chain of the ledger from the database; exits 1 when one breaks.</summary>
internal static class VerifyCommand
{
    public static async Task<int> RunAsync(string[] args)
    {
        var connection = args.Length > 0 ? args[0] : Environment.GetEnvironmentVariable("FROE_DATABASE");
        if (string.IsNullOrEmpty(connection))
        {
            Console.Error.WriteLine("froe verify: set FROE_DATABASE to the database's connection string");
            return 2;
        }
        await using var database = new Database(connection);
        try
        {
            var (entries, chains, faults) = await new Ledgers(database).VerifyAsync();
            foreach (var fault in faults) Console.WriteLine($"chain {fault.Chain}, entry {fault.Sequence}: {fault.What}");
            Console.WriteLine(faults.Count == 0
                ? $"{entries:N0} entries in {chains:N0} chains: every hash holds."
                : $"{faults.Count:N0} of {chains:N0} chains broken.");
            return faults.Count == 0 ? 0 : 1;
        }
        catch (Npgsql.NpgsqlException e)
        {
            Console.Error.WriteLine($"froe verify: the database cannot be read: {e.Message}");
            return 2;
        }
    }
}

/// <summary>migrate OWNER: brings the database to this program's shape.</summary>
internal static class MigrateCommand
{
    public static int Run(string owner)
    {
        try
        {
            Migrator.Migrate(owner);
            return 0;
        }
        catch (MigrationException e)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }
}
