using System.Globalization;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Froe.Store;
using Froe.Store.Proof;

namespace Froe.Tool;

/// <summary>
/// froe verify [NUMBER] [--since-seal NUMBER] [--seal NUMBER:HASH]: proves the database against its ledger, and every seal; exits 1 when
/// anything is not as it was recorded. With the number of a package or a document, that one; with a seal's, what came after it; with
/// a seal kept elsewhere, that it is still there.
/// </summary>
internal static class VerifyCommand
{
    /// <summary>How old an entry may be that no seal covers: seals are made hourly, and servers are sometimes down.</summary>
    private static readonly TimeSpan LongestUnsealed = TimeSpan.FromHours(26);

    public static async Task<int> RunAsync(string[] args)
    {
        string? kept = null;
        var wanted = new ProofWanted();
        for (var i = 0; i < args.Length; i++)
            if (args[i] == "--seal" && i + 1 < args.Length) kept = args[++i];
            else if (args[i] == "--since-seal" && i + 1 < args.Length && long.TryParse(args[++i], NumberStyles.None, CultureInfo.InvariantCulture, out var seal)) wanted = wanted with { SinceSeal = seal };
            else if (!args[i].StartsWith('-') && wanted.Number is null) wanted = wanted with { Number = args[i] };
            else return Fail("usage: froe verify [NUMBER] [--since-seal NUMBER] [--seal NUMBER:HASH]");
        if (Environment.GetEnvironmentVariable("FROE_DATABASE") is not { Length: > 0 } connection) return Fail("set FROE_DATABASE to the database's connection string");
        await using var database = new Database(connection);
        try
        {
            using var key = Environment.GetEnvironmentVariable("Froe__KeyCertificate") is { Length: > 0 } path ? X509CertificateLoader.LoadCertificateFromFile(path) : null;
            using var progress = new Said();
            var result = await new LedgerProof(database).RunAsync(wanted, progress);
            progress.End();
            foreach (var finding in result.Findings) Console.WriteLine(finding);
            if (result.Count > result.Findings.Count) Console.WriteLine($"and {result.Count - result.Findings.Count:N0} more");
            Console.WriteLine(result.Count == 0
                ? $"{result.Entries:N0} entries in {result.Chains:N0} chains: every hash holds. {result.Packages:N0} packages, {result.Documents:N0} documents and {result.Files:N0} files ({result.Bytes / 1e6:N1} MB) are what was recorded."
                : $"{result.Count:N0} {(result.Count == 1 ? "thing is" : "things are")} not as recorded.");
            var sealsHold = wanted.Number is not null || await SealsAsync(new Seals(database), key, kept);
            return result.Count == 0 && sealsHold ? 0 : 1;
        }
        catch (ArgumentException e)
        {
            return Fail(e.Message);
        }
        catch (Npgsql.NpgsqlException e)
        {
            return Fail($"the database cannot be read: {e.Message}");
        }
        catch (CryptographicException e)
        {
            return Fail($"the certificate cannot be read: {e.Message}");
        }
    }

    private static async Task<bool> SealsAsync(Seals seals, X509Certificate2? key, string? kept)
    {
        var proof = await seals.ProveAsync(key);
        var faults = proof.Faults.ToList();
        if (kept is not null && await seals.FaultOfAsync(kept) is { } missing) faults.Add(missing);
        if (await seals.UnsealedAsync(DateTimeOffset.UtcNow - LongestUnsealed) is > 0 and var unsealed)
            faults.Add($"{unsealed:N0} {(unsealed == 1 ? "chain has" : "chains have")} entries older than {LongestUnsealed.TotalHours:0} hours that no seal covers: seals were taken away, or no server has made any since");
        foreach (var fault in faults) Console.WriteLine(fault);
        if (proof.Last is not { } last) Console.WriteLine("There is no seal yet.");
        else if (faults.Count == 0)
        {
            var signed = proof.Unproven == 0 ? "and is signed" : key is null ? "(set Froe__KeyCertificate to check their signatures)" : $"({proof.Unproven:N0} not signed by this key)";
            Console.WriteLine($"{proof.Seals:N0} {(proof.Seals == 1 ? "seal: it covers" : "seals: each follows from the one before, covers")} entries that are there unchanged, {signed}.");
            Console.WriteLine($"Keep this elsewhere, to prove later that nothing until then was taken away: {last.Seal.Number}:{Convert.ToHexStringLower(last.Hash)}");
        }
        return faults.Count == 0;
    }

    private static int Fail(string line)
    {
        Console.Error.WriteLine(line.StartsWith("usage", StringComparison.Ordinal) ? line : "froe verify: " + line);
        return 2;
    }

    /// <summary>Says now and then how far it has come, where it does not stand in what others read.</summary>
    private sealed class Said : IProgress<ProofProgress>, IDisposable
    {
        private readonly Lock gate = new();
        private long last = Environment.TickCount64;
        private bool written;

        public void Report(ProofProgress value)
        {
            lock (gate)
            {
                if (Environment.TickCount64 - last < (Console.IsErrorRedirected ? 10_000 : 500)) return;
                last = Environment.TickCount64;
                Console.Error.Write(Console.IsErrorRedirected ? $"{value.Done:N0} {value.What}\n" : $"\r{value.Done,18:N0} {value.What,-20}");
                written = true;
            }
        }

        public void End()
        {
            if (written && !Console.IsErrorRedirected) Console.Error.Write("\r" + new string(' ', 42) + "\r");
        }

        public void Dispose()
        {
        }
    }
}
