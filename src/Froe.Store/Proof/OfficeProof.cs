using System.Text;
using System.Text.Json;
using Froe.Core.Register;

namespace Froe.Store.Proof;

/// <summary>
/// Whether groups have the members and the rights that the ledger tells of, whether those are away whom it tells to be, with that deputy,
/// and whether calendars and folders' standings are as they were set: all of that says who may sign. Of a group, a calendar or an absence
/// that was there before the ledger told of such, it knows what was done since.
/// </summary>
internal sealed class OfficeProof
{
    private sealed record Away(Guid Person, DateTimeOffset From, DateTimeOffset To, Guid? Deputy);

    private sealed class Group(string name)
    {
        public string Name { get; set; } = name;

        public HashSet<Guid> Members { get; set; } = [];

        /// <summary>Whether all its members were told at once; otherwise only those of people whom the ledger knows from the beginning.</summary>
        public bool IsWhole { get; set; }

        /// <summary>With the folders as they were called when they were given; null when none were that the ledger tells of.</summary>
        public List<(string Right, string Folder)>? Rights { get; set; }

        public DateTimeOffset RightsAt { get; set; }
    }

    private readonly Dictionary<Guid, Group> groups = [];
    private readonly Dictionary<Guid, Away> absences = [];
    private readonly Dictionary<Guid, (string Name, string Week, string Holidays)> calendars = [];
    private readonly Dictionary<string, string?> standings = [];
    private readonly HashSet<Guid> added = [];
    private Dictionary<Guid, string> names = [];
    private IReadOnlyList<FolderMove> moves = [];

    /// <summary>Proves the whole office, in one moment.</summary>
    public static async Task RunAsync(Database database, Findings findings, CancellationToken stop)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        Task<List<T>> Rows<T>(string sql, Func<Npgsql.NpgsqlDataReader, T> map) => connection.ListAsync(sql, map, [], stop);
        var office = new OfficeProof();
        var rows = await Rows("SELECT id, name FROM person_group", r => (Id: r.GetGuid(0), Name: r.GetString(1)));
        office.names = (await Rows("SELECT id, name FROM person", r => (Id: r.GetGuid(0), Name: r.GetString(1)))).ToDictionary(p => p.Id, p => p.Name);
        office.moves = await FolderMove.AllAsync(connection, stop);
        // What is always there was never made by anybody.
        foreach (var row in rows) office.groups[row.Id] = new Group(row.Name);
        office.TellAll(connection, findings);
        office.CompareGroups(
            rows,
            (await Rows("SELECT group_id, person_id FROM group_member", r => (Group: r.GetGuid(0), Person: r.GetGuid(1)))).ToLookup(m => m.Group, m => m.Person),
            (await Rows("SELECT r.group_id, r.right_name, f.path FROM group_right r JOIN folder f ON f.id = r.folder_id", r => (Group: r.GetGuid(0), Right: (r.GetString(1), r.GetString(2))))).ToLookup(r => r.Group, r => r.Right), findings);
        office.CompareAbsences((await Rows("SELECT id, person_id, away_from, back_at, deputy FROM absence", r => (Id: r.GetGuid(0), Row: new Away(r.GetGuid(1), r.Time(2), r.Time(3), r.IdOrNull(4))))).ToDictionary(a => a.Id, a => a.Row), findings);
        var holidays = (await Rows("SELECT calendar_id, day, name, left_of_day FROM holiday ORDER BY day", r => (Calendar: r.GetGuid(0), Day: Said(r.GetFieldValue<DateOnly>(1), r.GetString(2), r.GetFieldValue<int[]>(3))))).ToLookup(h => h.Calendar, h => h.Day);
        foreach (var (id, name, week) in await Rows("SELECT id, name, week::text FROM calendar", r => (r.GetGuid(0), r.GetString(1), r.GetString(2))))
            if (office.calendars.Remove(id, out var told) && told != (name, Compact(week), string.Join("; ", holidays[id]))) findings.Add($"calendar “{name}”: its hours or holidays are not those that were set");
        foreach (var (name, _, _) in office.calendars.Values) findings.Add($"calendar “{name}” is gone");
        var paths = (await Rows("SELECT path, standings::text FROM folder", r => (Path: r.GetString(0), Standings: r.TextOrNull(1)))).ToDictionary(f => f.Path, f => f.Standings);
        foreach (var (path, told) in office.standings)
            if (!paths.TryGetValue(path, out var now)) findings.Add($"folder “{path}” is gone");
            else if (told != (now is null ? null : Compact(now))) findings.Add($"folder “{path}”: its standings are not those that were set");
    }

    private void TellAll(Npgsql.NpgsqlConnection connection, Findings findings)
    {
        // An act bears the time of its request, and may have waited for another that began later: within a chain its place counts.
        using var rows = new CopyReader(
            connection,
            $"""
            SELECT chain, action, payload, at FROM (SELECT chain, sequence, action, payload, at, max(at) OVER (PARTITION BY chain ORDER BY sequence) AS turn FROM ledger_entry WHERE action IN {OfficeActs.Sql}) told
            ORDER BY turn, chain, sequence
            """, 4);
        while (rows.Read())
        {
            var chain = new Guid(rows.Bytes(0), bigEndian: true);
            try
            {
                using var json = JsonDocument.Parse(rows.Bytes(2).ToArray());
                Tell(chain, Encoding.UTF8.GetString(rows.Bytes(1)), rows.Time(3), json.RootElement);
            }
            catch (Exception e) when (e is JsonException or KeyNotFoundException or InvalidOperationException or FormatException)
            {
                findings.Add($"chain {chain}: what it tells of the office cannot be told: {e.Message}");
            }
        }
    }

    private void Tell(Guid chain, string action, DateTimeOffset at, JsonElement payload)
    {
        string Text(string name) => (payload.GetProperty(name).GetString() ?? "").Trim();
        switch (action)
        {
            case OfficeActs.GroupMade or OfficeActs.GroupChanged:
                if (!groups.TryGetValue(chain, out var group)) groups[chain] = group = new Group("") { Rights = [] };
                if (action == OfficeActs.GroupMade) group.Rights = [];
                (group.Name, group.Members, group.IsWhole) = (Text("name"), [.. payload.GetProperty("members").Deserialize<Guid[]>(Act.Json)!], true);
                break;
            case OfficeActs.GroupRemoved:
                groups.Remove(chain);
                break;
            case OfficeActs.RightsGiven when groups.TryGetValue(chain, out var given):
                given.RightsAt = at;
                given.Rights = [.. payload.GetProperty("rights").Deserialize<GrantedRight[]>(Act.Json)!.Select(r => (Words.Of(r.Right), Folders.Normal(r.Folder)))];
                break;
            case OfficeActs.PersonAdded:
                added.Add(chain);
                if (payload.TryGetProperty("groups", out var names)) foreach (var name in names.EnumerateArray()) Joins(chain, name.GetString(), true);
                break;
            case OfficeActs.PersonChanged when payload.TryGetProperty("alsoChanged", out var also):
                foreach (var what in also.EnumerateArray().Select(w => w.GetString()))
                {
                    if (what is OfficeActs.GuestFromNowOn or OfficeActs.GuestNoMore)
                    {
                        Joins(chain, "Guests", what == OfficeActs.GuestFromNowOn);
                        Joins(chain, "Staff", what == OfficeActs.GuestNoMore);
                    }
                    else if (what == OfficeActs.NowAdministrator) Joins(chain, "Administrators", true);
                }
                break;
            case OfficeActs.AbsenceEntered:
                absences[payload.GetProperty("id").GetGuid()] = new Away(chain, payload.GetProperty("from").GetDateTimeOffset(), payload.GetProperty("to").GetDateTimeOffset(), payload.IdOrNull("deputy"));
                break;
            case OfficeActs.DeputyNamed:
                var away = payload.GetProperty("absence").GetGuid();
                absences[away] = new Away(chain, payload.GetProperty("from").GetDateTimeOffset(), payload.GetProperty("to").GetDateTimeOffset(), payload.IdOrNull("deputy"));
                break;
            case OfficeActs.AbsenceRemoved:
                absences.Remove(payload.GetProperty("id").GetGuid());
                break;
            case OfficeActs.CalendarMade or OfficeActs.CalendarChanged:
                calendars[chain] = (Text("name"), Compact(payload.GetProperty("week").GetRawText()), string.Join("; ", payload.GetProperty("holidays").EnumerateArray().Select(Said).Order(StringComparer.Ordinal)));
                break;
            case OfficeActs.CalendarRemoved:
                calendars.Remove(chain);
                break;
            case OfficeActs.StandingsSet:
                // Earlier entries called them by another name.
                var set = payload.TryGetProperty("standings", out var order) ? order : payload.GetProperty("chain");
                standings[payload.GetProperty("path").GetString()!] = set.ValueKind == JsonValueKind.Object ? Compact(set.GetRawText()) : null;
                break;
            case OfficeActs.FolderMoved:
                Move(new FolderMove(default, payload.GetProperty("path").GetString()!, payload.GetProperty("to").GetString()!));
                break;
            case OfficeActs.FolderRemoved:
                standings.Remove(payload.GetProperty("path").GetString()!);
                break;
        }
    }

    private void Joins(Guid person, string? name, bool joins)
    {
        foreach (var group in groups.Values.Where(g => g.Name == name))
            if (joins) group.Members.Add(person);
            else group.Members.Remove(person);
    }

    private void Move(FolderMove move)
    {
        foreach (var (path, set) in standings.ToList())
        {
            standings.Remove(path);
            standings[move.Of(path)] = set;
        }
    }

    private void CompareGroups(List<(Guid Id, string Name)> rows, ILookup<Guid, Guid> members, ILookup<Guid, (string, string)> rights, Findings findings)
    {
        foreach (var (id, name) in rows)
        {
            if (!groups.Remove(id, out var told)) continue;
            var where = $"group “{name}”";
            findings.Alike(where, "its name", told.Name, name);
            var now = members[id].Where(m => told.IsWhole || added.Contains(m)).ToHashSet();
            foreach (var person in now.Except(told.Members)) findings.Add($"{where}: {Called(person)} is a member, and by the ledger is none");
            foreach (var person in told.Members.Except(now)) findings.Add($"{where}: {Called(person)} is no member, and by the ledger is one");
            if (told.Rights is { } given && !AreGiven([.. given.Select(g => (g.Right, FolderMove.Now(g.Folder, told.RightsAt, moves)))], [.. rights[id]])) findings.Add($"{where}: its rights are not those that were given");
        }
        foreach (var gone in groups.Values) findings.Add($"group “{gone.Name}” is gone");
    }

    /// <summary>Whether rights are those that were given, each in a folder where one of those may be by now.</summary>
    private static bool AreGiven(List<(string Right, string[] Folders)> told, List<(string Right, string Folder)> rows) =>
        rows.TrueForAll(r => told.Exists(t => t.Right == r.Right && t.Folders.Contains(r.Folder))) && told.TrueForAll(t => rows.Exists(r => r.Right == t.Right && t.Folders.Contains(r.Folder)));

    private void CompareAbsences(Dictionary<Guid, Away> rows, Findings findings)
    {
        foreach (var (id, told) in absences)
            if (!rows.Remove(id, out var row)) findings.Add($"absence {id} of {Called(told.Person)} is gone");
            else if (row != told) findings.Add($"absence {id} of {Called(told.Person)}: its days or its deputy are not those that were entered");
        foreach (var (id, row) in rows.Where(r => added.Contains(r.Value.Person))) findings.Add($"absence {id} of {Called(row.Person)} was never entered");
    }

    private string Called(Guid person) => names.TryGetValue(person, out var name) ? $"“{name}” ({person})" : $"person {person}, who is gone,";

    private static string Said(DateOnly day, string name, int[] left) => $"{day:yyyy-MM-dd} {name} {string.Join(' ', left)}";

    private static string Said(JsonElement holiday) => Said(
        DateOnly.ParseExact(holiday.GetProperty("day").GetString()!, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), holiday.GetProperty("name").GetString()!.Trim(),
        [.. holiday.GetProperty("left").EnumerateArray().SelectMany(p => new[] { p.GetProperty("from").GetInt32(), p.GetProperty("to").GetInt32() })]);

    /// <summary>JSON as it can be compared: without blanks, with its names in order; PostgreSQL keeps neither as they came.</summary>
    private static string Compact(string text)
    {
        using var json = JsonDocument.Parse(text);
        return Compact(json.RootElement);
    }

    private static string Compact(JsonElement value) => value.ValueKind switch
    {
        JsonValueKind.Object => $"{{{string.Join(',', value.EnumerateObject().OrderBy(p => p.Name, StringComparer.Ordinal).Select(p => $"{JsonEncodedText.Encode(p.Name)}:{Compact(p.Value)}"))}}}",
        JsonValueKind.Array => $"[{string.Join(',', value.EnumerateArray().Select(Compact))}]",
        JsonValueKind.String => $"\"{JsonEncodedText.Encode(value.GetString()!)}\"",
        _ => value.GetRawText(),
    };
}
