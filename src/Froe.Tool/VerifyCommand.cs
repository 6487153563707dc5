using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Froe.Store;

namespace Froe.Tool;

/// <summary>
/// froe verify [--seal NUMBER:HASH]: proves every hash chain of the ledger and every seal from the database, and that a seal kept
/// elsewhere is still there; exits 1 when anything breaks.
/// </summary>
internal static class VerifyCommand
{
    public static async Task<int> RunAsync(string[] args)
    {
        var connection = Environment.GetEnvironmentVariable("FROE_DATABASE");
        string? kept = null;
        switch (args)
        {
            case []: break;
            case ["--seal", var seal]: kept = seal; break;
            default:
                Console.Error.WriteLine("usage: froe verify [--seal NUMBER:HASH]");
                return 2;
        }
        if (string.IsNullOrEmpty(connection))
        {
            Console.Error.WriteLine("froe verify: set FROE_DATABASE to the database's connection string");
            return 2;
        }
        await using var database = new Database(connection);
        try
        {
            using var key = Environment.GetEnvironmentVariable("Froe__KeyCertificate") is { Length: > 0 } path ? X509CertificateLoader.LoadCertificateFromFile(path) : null;
            var (entries, chains, faults) = await new Ledgers(database).VerifyAsync();
            foreach (var fault in faults) Console.WriteLine($"chain {fault.Chain}, entry {fault.Sequence}: {fault.What}");
            Console.WriteLine(faults.Count == 0
                ? $"{entries:N0} entries in {chains:N0} chains: every hash holds."
                : $"{faults.Count:N0} of {chains:N0} chains broken.");
            var seals = new Seals(database);
            var proof = await seals.ProveAsync(key);
            var missing = kept is null ? null : await seals.FaultOfAsync(kept);
            foreach (var fault in proof.Faults) Console.WriteLine(fault);
            if (missing is not null) Console.WriteLine(missing);
            var holds = proof.Faults.Count == 0 && missing is null;
            if (proof.Last is not { } last) Console.WriteLine("There is no seal yet.");
            else if (holds)
            {
                var signed = proof.Unproven == 0 ? "and is signed" : key is null ? "(set Froe__KeyCertificate to check their signatures)" : $"({proof.Unproven:N0} not signed by this key)";
                Console.WriteLine($"{proof.Seals:N0} {(proof.Seals == 1 ? "seal: it covers" : "seals: each follows from the one before, covers")} entries that are there unchanged, {signed}.");
                Console.WriteLine($"Keep this elsewhere, to prove later that nothing until then was taken away: {last.Seal.Number}:{Convert.ToHexStringLower(last.Hash)}");
            }
            return faults.Count == 0 && holds ? 0 : 1;
        }
        catch (Npgsql.NpgsqlException e)
        {
            Console.Error.WriteLine($"froe verify: the database cannot be read: {e.Message}");
            return 2;
        }
        catch (CryptographicException e)
        {
            Console.Error.WriteLine($"froe verify: the certificate cannot be read: {e.Message}");
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
