using System.Security.Cryptography;
using System.Text;
using Froe.Store;
using Npgsql;

namespace Froe.Tool;

/// <summary>
/// froe admin LOGIN [--name NAME] [--mail ADDRESS]: makes somebody an administrator, adding them when there is nobody of that name, and
/// prints a link that sets their password, once, within a day. It serves the first administrator of an empty database, and one who
/// has lost their password.
/// </summary>
internal static class AdminCommand
{
    private static readonly TimeSpan Good = TimeSpan.FromDays(1);
    private static readonly string[] NowAdministrator = [OfficeActs.NowAdministrator];

    public static async Task<int> RunAsync(string[] args)
    {
        string? login = null, name = null, mail = null;
        for (var i = 0; i < args.Length; i++)
            if (args[i] == "--name" && i + 1 < args.Length) name = args[++i];
            else if (args[i] == "--mail" && i + 1 < args.Length) mail = args[++i];
            else if (login is null && !args[i].StartsWith('-')) login = args[i].Trim().ToLowerInvariant();
            else return Fail($"there is no option {args[i]}, or it lacks its value");
        if (login is null or { Length: 0 or > 60 }) return Fail("name who: froe admin LOGIN [--name NAME] [--mail ADDRESS]");
        if (Environment.GetEnvironmentVariable("FROE_DATABASE") is not { Length: > 0 } connection) return Fail("set FROE_DATABASE to the database's connection string");
        await using var database = new Database(connection);
        try
        {
            var key = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
            var person = await MakeAsync(database, login, name, mail, key);
            Console.WriteLine($"{person} is an administrator. This link sets their password, once, until tomorrow at this time:");
            Console.WriteLine($"{(Environment.GetEnvironmentVariable("Froe__Address") ?? "http://127.0.0.1:5173").TrimEnd('/')}/welcome#{key}");
            return 0;
        }
        catch (NpgsqlException e)
        {
            return Fail($"the database cannot be used: {e.Message}");
        }
    }

    private static async Task<string> MakeAsync(Database database, string login, string? name, string? mail, string key)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, DateTimeOffset.UtcNow);
        var found = await act.ListAsync("SELECT id, name FROM person WHERE login = $1 FOR NO KEY UPDATE", r => (Id: r.GetGuid(0), Name: r.GetString(1)), [login]);
        var (id, called) = found.Count > 0 ? found[0] : (Guid.CreateVersion7(), name ?? login);
        if (found.Count == 0)
        {
            var initials = string.Concat(called.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(3).Select(w => char.ToUpperInvariant(w[0])));
            // Nothing hashes to this: only the link lets them in.
            await People.AddAsync(act, new Person(id, login, called, initials, "Administrator", mail ?? $"{login}@localhost", TimeZoneInfo.Local.HasIanaId ? TimeZoneInfo.Local.Id : "UTC", false), "", ["Staff", "Administrators"], default);
        }
        else
        {
            act.Write("INSERT INTO group_member (group_id, person_id) SELECT id, $1 FROM person_group WHERE name = 'Administrators' ON CONFLICT DO NOTHING", id);
            act.Write("UPDATE person SET barred_at = NULL, barred_reason = '' WHERE id = $1", id);
            await act.AppendAsync(id, OfficeActs.PersonChanged, "Made an administrator from the command line.", new { Name = called, Login = login, Former = new { Name = called, Login = login }, PasswordSet = false, AlsoChanged = NowAdministrator });
        }
        act.Write("INSERT INTO invitation (sha256, person_id, ends_at) VALUES ($1, $2, $3)", SHA256.HashData(Encoding.UTF8.GetBytes(key)), id, (act.At + Good).UtcDateTime);
        act.Write("INSERT INTO security_event (id, at, kind, person_id, login, address, words) VALUES ($1, $2, 'rights changed', $3, $4, '', 'made an administrator from the command line')", Guid.CreateVersion7(), act.At.UtcDateTime, id, login);
        await act.CommitAsync();
        return called;
    }

    private static int Fail(string line)
    {
        Console.Error.WriteLine("froe admin: " + line);
        return 2;
    }
}
