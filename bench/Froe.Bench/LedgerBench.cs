using Froe.Store;

namespace Froe.Bench;

/// <summary>Sign-offs per second of 16 people with a million ledger entries in the database against none: two databases and two servers, measured in turn.</summary>
internal static class LedgerBench
{
    private const int Entries = 1_000_000;

    public static async Task RunAsync()
    {
        var sides = new List<(BenchServer Server, Database Database, List<SignOffBench.Client> Seats, Guid Author)>();
        foreach (var (name, port) in new[] { ("FROE_DATABASE", 5395), ("FROE_DATABASE_LARGE", 5396) })
        {
            var database = new Database(Figure.Env(name) + ";Command Timeout=600");
            if (port == 5396)
            {
                await database.RunAsync(
                    """
                    INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash)
                    SELECT md5((n / 20)::text)::uuid, n % 20 + 1, now(), NULL, 'signed', 'Looked at, fine.', repeat('x', 400), decode(repeat('00', 32), 'hex'), decode(md5(n::text) || md5(n::text), 'hex') FROM generate_series(0, $1 - 1) n
                    """,
                    [Entries]);
                await using var owner = new Database(Figure.Env("FROE_OWNER_LARGE"));
                await owner.RunAsync("VACUUM ANALYZE ledger_entry", []);
            }
            var (author, signers) = await SignOffBench.AddPeopleAsync(database);
            var server = BenchServer.Start(Figure.Env(name), port);
            var seats = new List<SignOffBench.Client>();
            foreach (var (i, id) in signers.Index()) seats.Add(new(id, await server.SignInAsync($"signer{i}")));
            sides.Add((server, database, seats, author));
        }
        var rates = new List<double>[] { [], [] };
        foreach (var (side, at) in sides.Select((s, i) => (s, i))) await SignOffBench.OursAsync(side.Database, side.Seats, side.Author, SignOffBench.WarmUpSeconds, 2500);
        for (var run = 0; run < 5; run++)
            foreach (var (side, at) in sides.Select((s, i) => (s, i)))
                rates[at].Add(await SignOffBench.OursAsync(side.Database, side.Seats, side.Author, SignOffBench.Seconds, 3000));
        Figure.Print($"sign-offs per second, {SignOffBench.Clients} clients, {Entries:N0} ledger entries against none", Figure.Median(rates[1]), Figure.Median(rates[0]), "/s", Figure.Median(rates[1]) / Figure.Median(rates[0]), 0.9);
        foreach (var side in sides)
        {
            side.Server.Dispose();
            await side.Database.DisposeAsync();
        }
    }
}
