using Froe.Store;

namespace Froe.Tool;

/// <summary>froe migrate: brings the database that FROE_OWNER names to this program's shape. The connection is read from the environment: arguments stand in the list of processes.</summary>
internal static class MigrateCommand
{
    public static int Run()
    {
        if (Environment.GetEnvironmentVariable("FROE_OWNER") is not { Length: > 0 } owner)
        {
            Console.Error.WriteLine("froe migrate: set FROE_OWNER to the connection string of the database's owner");
            return 2;
        }
        try
        {
            Migrator.Migrate(owner);
            if (!Migrator.KnowsAllLetters(owner))
                Console.Error.WriteLine("froe migrate: this database tells small letters from large ones only from A to Z, so that a search for ä does not find Ä. See LC_CTYPE in the README.");
            return 0;
        }
        catch (MigrationException e)
        {
            Console.Error.WriteLine(e.Message);
            return 2;
        }
    }
}
