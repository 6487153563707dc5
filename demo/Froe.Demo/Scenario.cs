using System.Collections.Immutable;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Formats;
using Froe.Server;
using Froe.Server.Absences;
using Froe.Server.Notes;
using Froe.Server.Packages;
using Froe.Server.Plans;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Options;

namespace Froe.Demo;

/// <summary>A clock the scenario turns back to the days on which things happened.</summary>
internal sealed class ScenarioClock : TimeProvider
{
    public DateTimeOffset Now { get; set; } = DateTimeOffset.UtcNow;

    public override DateTimeOffset GetUtcNow() => Now;
}

/// <summary>The Tallowmere Observatory's refit: people, plans and packages at different points, made through the server's own services.</summary>
internal sealed class Scenario
{
    private const string Zone = "Europe/Oslo";
    private readonly ServiceProvider services;
    private readonly ScenarioClock clock = new();
    private readonly string folder;
    private readonly string password;
    private readonly Dictionary<string, Who> people = [];
    private readonly Dictionary<string, Guid> documents = [];
    private Guid full;
    private Guid brief;

    private Scenario(ServiceProvider services, string folder)
    {
        (this.services, this.folder) = (services, folder);
        clock = (ScenarioClock)services.GetRequiredService<TimeProvider>();
        password = services.GetRequiredService<IOptions<Settings>>().Value.DemoPassword;
    }

    /// <summary>Loads the scenario into an empty database; leaves any other as it is.</summary>
    public static async Task<int> LoadAsync(string folder)
    {
        var configuration = new ConfigurationBuilder().AddEnvironmentVariables().Build().GetSection("Froe");
        var settings = configuration.Get<Settings>() ?? new Settings();
        if (settings.TimeZone == "UTC") settings.TimeZone = Zone;
        var made = new ServiceCollection().AddLogging(l => l.SetMinimumLevel(LogLevel.Warning).AddConsole()).Configure<Settings>(configuration).AddFroe(settings);
        made.AddSingleton<TimeProvider>(new ScenarioClock());
        await using var services = made.BuildServiceProvider();
        if ((await services.GetRequiredService<People>().AllAsync()).Count > 0) return 0;
        Console.WriteLine("Loading the demo data …");
        await new Scenario(services, folder).RunAsync();
        return 0;
    }

    private T Get<T>()
        where T : notnull => services.GetRequiredService<T>();

    private async Task RunAsync()
    {
        At(-20, 8);
        await AddPeopleAsync();
        Pass();
        await AddFoldersAsync();
        Pass();
        await AddPlansAsync();

        At(-16, 9);
        await RegisterAsync("odalys", "TO-3310", "Fork arm, east", "Mechanical");
        var fork = await SendAsync("odalys", "Fork arm for welding", "The shop wants to cut plate this week. Ribs are as agreed in the meeting on loads.", brief, ["bettany", "farid"], ["TO-3310"], "CO-0031");
        At(-15, 11);
        await SignAsync(fork, "teodor", "check", "Weld symbols and bevels checked against the plate list.");
        At(-14, 15);
        await SignAsync(fork, "ruben", "chief", "Good to cut.");

        At(-9, 10);
        await RegisterAsync("odalys", "TO-3302", "Counterweight shaft", "Mechanical");
        var shaft = await SendAsync("odalys", "Counterweight shaft, long version", "Two seats for the third weight. Runout is the point to look at.", full, ["farid"], ["TO-3302"]);
        At(-8, 10);
        await SignAsync(shaft, "teodor", "check", "Sums of the lengths are right.");
        At(-7, 9);
        await NoteAsync(shaft, "maren", "TO-3302", NoteKind.Request, "Radius at the shoulder behind the Ø80 seat to 2.5; 1.6 is too sharp for the bending there.", new Cloud(new(292, 248), new(358, 322)));
        await NoteAsync(shaft, "maren", "TO-3302", NoteKind.Request, "State the hardness after tempering, not only the grade.", new Cloud(new(452, 32), new(584, 47)));
        await ReturnAsync(shaft, "maren", "structures", "TO-3302", "Two points, otherwise fine.");
        At(-6, 13);
        await SignAsync(shaft, "sunniva", "electrical", "");
        await NoteAsync(shaft, "ilse", "TO-3302", NoteKind.Request, "Give the key its tolerance (P9 or N9).", new Arrow(new(165, 335), new(150, 290)));
        await ReturnAsync(shaft, "ilse", "quality", "TO-3302", "");

        At(-5, 9);
        await RegisterAsync("odalys", "TO-3301", "Declination bearing housing", "Mechanical");
        await RegisterAsync("odalys", "TO-3305", "Seal retainer", "Mechanical");
        var housing = await SendAsync("odalys", "Bearing housing to G7 seals", "The seals are ordered by Friday if this passes.", full, ["farid", "bettany"], ["TO-3301", "TO-3305"], "CO-0027");
        At(-4, 10);
        await NoteAsync(housing, "teodor", "TO-3301", NoteKind.Request, "Bolt circle to 12 × Ø14, was Ø12: the M12 bolts do not pass with paint.", new Cloud(new(284, 322), new(326, 334)));
        await NoteAsync(housing, "teodor", "TO-3301", NoteKind.Request, "Seal 3 needs its material grade, not “NBR”.", new Cloud(new(498, 75), new(560, 83)));
        await NoteAsync(housing, "teodor", "TO-3305", NoteKind.Request, "Thread M6 for the retainer; M5 strips in this alloy.", new Cloud(new(208, 228), new(290, 242)));
        await NoteAsync(housing, "teodor", "TO-3301", NoteKind.Remark, "Seat runout is fine as measured.", new Arrow(new(300, 170), new(226, 240)));
        await ReturnAllAsync(housing, "teodor", "check", "Three changes, then it can go on.");
        At(-2, 14);
        await DraftAsync("odalys", "TO-3301", "TO-3301_A2.dxf", "Bolt holes and seal as requested");
        await DraftAsync("odalys", "TO-3305", "TO-3305_A2.dxf", "Lip and thread");
        await AnswerAsync(housing, 1, AnswerKind.Done, "");
        await AnswerAsync(housing, 2, AnswerKind.DoneDifferently, "FKM 75, as the G7 list offers no NBR with a certificate.");
        await AnswerAsync(housing, 3, AnswerKind.Done, "");
        At(-1, 9);
        await Get<Sending>().SendAgainAsync(people["odalys"], housing, new NextRound("All three are done; the lip grew to 3 mm for the new seal."), default);

        At(-6, 11);
        await RegisterAsync("farid", "TO-1105", "Pier foundation", "Civil");
        var pier = await SendAsync("farid", "Pier foundation, survey update", "Slab level follows the survey of 14 October. The pump is booked.", full, ["bettany"], ["TO-1105"]);
        At(-5, 16);
        await SignAsync(pier, "teodor", "check", "Bar schedule adds up.");
        At(-2, 10);
        await SignAsync(pier, "maren", "structures", "Loads agree with the pier report.");
        await NoteAsync(pier, "ilse", "TO-1105", NoteKind.Question, "Is the cover of 40 on top measured to the hoops or to the bars?", new Cloud(new(486, 258), new(634, 304)));
        await SignAsync(pier, "ilse", "quality", "");
        await Get<Advising>().AskAsync(people["sunniva"], pier, new NewAdvice(people["odalys"].Id, "The earth strap leaves through the hoops at the north face. Does anything of the mount stand in its way there?"), default);

        At(-3, 8);
        await RegisterAsync("farid", "TO-1106", "Pier, survey of cracks and levels", "Civil", ".pdf");
        await RegisterAsync("farid", "TO-1101", "Telescope pier, reinforcement, 1974", "Civil", ".tif");
        await RegisterAsync("farid", "TO-1107", "Pier refit, parts and materials", "Civil", ".xlsx", "supporting file");
        await RegisterAsync("farid", "TO-1108", "Crack C4, north-west face", "Civil", ".jpg", "supporting file");
        await SendAsync("farid", "Pier survey before the refit", "Crack 4 has grown since the spring. What is needed, the old drawing and a photograph with the gauge are in the package.", brief, ["bettany"], ["TO-1106", "TO-1107", "TO-1101", "TO-1108"]);

        At(-4, 13);
        await RegisterAsync("odalys", "TO-3300", "Fork mount", "Mechanical", ".stp", "model");
        await RegisterAsync("odalys", "TO-3311", "Fork arm of the mount", "Mechanical");
        await RegisterAsync("odalys", "TO-3320", "Lifting eye, as the foundry offers it", "Mechanical", ".glb", "model");
        await RegisterAsync("odalys", "TO-3321", "Scan of casting trial 2", "Mechanical", ".stl", "model");
        var mount = await SendAsync("odalys", "Fork mount with its arm", "Model and drawing go together: what changes on one changes on the other.", full, ["farid"], ["TO-3300", "TO-3311"], "CO-0031");
        At(-3, 15);
        await NoteAsync(
            mount, "teodor", "TO-3300", NoteKind.Request, "Bore Ø60 to Ø62, for the bush of the new series, on both arms.",
            new Pin(3, ["TO-3300 Fork mount", "TO-3330 Bearing side (East)", "TO-3311 Fork arm"], 14, new(20, 0, 330), new(0, 0, -1), new PinEye(new(150, -20, 330), 0.95, 0.3, 340, false, [])));
        await NoteAsync(
            mount, "teodor", "TO-3300", NoteKind.Request, "The cover stands too near to the disc: 10 mm higher.",
            new Pin(61, ["TO-3300 Fork mount", "Reader", "TO-3319 Reader cover"], 9, new(35, 0, 25), new(1, 0, 0), new PinEye(new(175, 0, 480), 0.7, 0.35, 320, false, [])));
        await NoteAsync(mount, "teodor", "TO-3311", NoteKind.Request, "The same bore here: Ø62 H7.", new Cloud(new(124, 250), new(160, 266)));
        await ReturnAllAsync(mount, "teodor", "check", "The bore, and the cover.");
        At(-1, 13);
        await DraftAsync("odalys", "TO-3300", "TO-3300_A2.stp", "Bore and cover as requested");
        await DraftAsync("odalys", "TO-3311", "TO-3311_A2.dxf", "Bore as requested");
        await AnswerAsync(mount, 1, AnswerKind.Done, "");
        await AnswerAsync(mount, 2, AnswerKind.Done, "Moved up by 10.");
        await AnswerAsync(mount, 3, AnswerKind.Done, "");
        await Get<Sending>().SendAgainAsync(people["odalys"], mount, new NextRound("Both are done."), default);
        At(-1, 15);
        foreach (var number in (int[])[1, 2, 3]) await CloseAsync(mount, "teodor", number, "As asked.");
        await SignAsync(mount, "teodor", "check", "The bore and the cover are as asked.");

        At(0, 7);
        await RegisterAsync("odalys", "TO-4420", "Control cabinet wiring", "Electrical");
        await SendAsync("odalys", "Cabinet wiring for the shutter drive", "First issue. Terminal numbers follow the list of 3 November; please check the reserve contacts.", full, [], ["TO-4420"]);
        await RegisterAsync("odalys", "TO-2207", "Dome shutter rail, joint", "Mechanical");
        await Get<Shelves>().MoveStandingsAsync(people["odalys"], new StandingMoveWanted([documents["TO-2207"]], "self-checked", "Lengths added up twice."), default);

        // All of this happened in days gone by, and is sealed as it would have been then.
        clock.Now = DateTimeOffset.UtcNow;
        await Get<Seals>().MakeAsync(clock.Now, TimeSpan.Zero, Get<IOptions<Settings>>().Value.Certificate);
    }

    private async Task AddPeopleAsync()
    {
        var hash = Passwords.Hash(password, Get<IOptions<Settings>>().Value.PasswordRounds);
        foreach (var (login, name, initials, title, isGuest, canSend) in new[]
        {
            ("odalys", "Odalys Brandvold", "OB", "Mechanical design", false, true), ("teodor", "Teodor Quill", "TQ", "Checker", false, false), ("maren", "Maren Achterberg", "MA", "Structures lead", false, false),
            ("sunniva", "Sunniva Pall", "SP", "Electrical lead", false, false), ("ruben", "Ruben Tashiro-Lowe", "RT", "Chief engineer", false, false), ("ilse", "Ilse Marchetti", "IM", "Quality", false, false),
            ("farid", "Farid Nyholm", "FN", "Programme", false, true), ("koa", "Koa Whitlock", "KW", "Document coordinator", false, true), ("bettany", "Bettany Orr", "BO", "Site", false, false), ("halvard", "Halvard Sime", "HS", "Foundry, guest", true, false),
        })
        {
            var person = new Person(Guid.CreateVersion7(), login, name, initials, title, $"{login}@tallowmere.example", Zone, isGuest);
            string[] groups = [isGuest ? "Guests" : "Staff", .. canSend ? ["Originators"] : Array.Empty<string>(), .. login == "koa" ? ["Coordinators", "Administrators"] : Array.Empty<string>()];
            await using (var act = await Act.BeginAsync(Get<Database>(), Guid.Empty, clock.Now))
            {
                await People.AddAsync(act, person, hash, groups, default);
                await act.CommitAsync();
            }
            people[login] = Who.Of(person, await Get<RightsBook>().OfAsync(person.Id, default));
        }
    }

    private async Task AddFoldersAsync()
    {
        var (shelves, koa) = (Get<Shelves>(), people["koa"]);
        foreach (var path in (string[])["Mount / Parts", "Mount / Released", "Pier", "Dome", "Wiring"]) await shelves.AddAsync(koa, path, default);
        var groups = (await Get<People>().GroupsAsync()).ToDictionary(g => g.Name, g => g.Id);
        await shelves.SetStandingsAsync(koa, new FolderStandings("", new StandingOrder(
            [new Stage("in work"), new Stage("self-checked"), new Stage("fit for use", ForUse: true, NeedsAnswers: true)],
            [new StageMove("in work", "self-checked", [groups["Originators"]]), new StageMove("self-checked", "in work", [groups["Originators"]])])), default);
        await Get<Database>().RunAsync(
            "INSERT INTO holiday (calendar_id, day, name, left_of_day) SELECT c.id, d.day, d.name, d.part FROM calendar c, (VALUES ('2026-12-24'::date, 'Half day before the feast', '{510,720}'::int[]), ('2026-12-25', 'Midwinter feast', '{}'), ('2027-01-01', 'New year', '{}')) AS d (day, name, part)", []);
    }

    private static string FolderOf(string number) => number[3..4] switch { "1" => "Pier", "2" => "Dome", "4" => "Wiring", _ => "Mount / Parts" };

    private async Task AddPlansAsync()
    {
        // What is released along the plans is filed here; coordinators withdraw what must not be used.
        await Get<Database>().RunAsync("INSERT INTO folder (path) VALUES ('Mount'), ('Mount / Released') ON CONFLICT DO NOTHING", []);
        await Get<Database>().RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT g.id, 'withdraw', f.id FROM person_group g, folder f WHERE g.name = 'Coordinators' AND f.path = '' ON CONFLICT DO NOTHING", []);
        var quality = new PersonGroup(Guid.CreateVersion7(), "Quality", [people["ilse"].Id, people["bettany"].Id, people["koa"].Id]);
        await AddGroupAsync(quality);
        var check = new Step("check", "Check", "Check dimensions, callouts and the parts list against the standard sheet.", 2, [new Seat("check", "Check", new PersonHolder(people["teodor"].Id))]) { Reminders = [1] };
        var chief = new Step("chief", "Chief engineer", "Release for manufacture. Read what the others noted first.", 1, [new Seat("chief", "Chief eng.", new PersonHolder(people["ruben"].Id))]) { Reminders = [1] };
        var late = ImmutableArray.Create(new Telling(Moment.Late, [], [], true), new Telling(Moment.Late, [people["koa"].Id], [], false) { AfterDays = 1 });
        full = await AddAsync(new Plan(
            "Parts, full", "For parts that carry load or move.",
            new Sequence(
            [
                check,
                new Froe.Core.Routing.Parallel(
                [
                    new Sequence([new Step("structures", "Structures", "Loads and wall sections against the load table. Say whether the pier survey changes anything.", 3, [new Seat("structures", "Structures", new PersonHolder(people["maren"].Id))])]),
                    new Sequence([new Step("electrical", "Electrical", "Cable paths, glands and clearances.", 3, [new Seat("electrical", "Electrical", new PersonHolder(people["sunniva"].Id))]) { Tells = late }]),
                    new Sequence([new Step("quality", "Quality", "Can it be inspected? Two of the quality group sign.", 3, [new Seat("quality", "Quality", new GroupHolder(quality.Id, 2))]) { Tells = late }]),
                ]),
                chief,
            ])));
        brief = await AddAsync(new Plan("Checker, then chief", "For small parts and urgent shop questions.", new Sequence([check, chief])));
        var lifting = new PersonGroup(Guid.CreateVersion7(), "Lifting", [people["bettany"].Id, people["farid"].Id, people["maren"].Id]);
        await AddGroupAsync(lifting);
        await AddAsync(new Plan(
            "Mount parts", "For drawings and models of the fork mount; heavy parts go past structures and lifting.",
            new Sequence(
            [
                check with { BarsOriginator = true },
                new Choice("heavy", "Heavy part?",
                [
                    new Way("heavy-yes", "Over 25 kg", new Rule(false, [new Condition(Subject.Form, "mass", Comparison.MoreThan, "25")]), new Sequence(
                    [
                        new Froe.Core.Routing.Parallel(
                        [
                            new Sequence([new Step("lift", "Structures and lifting", "Loads and wall sections against the load table.\n- Is the lifting point drawn?\n- Does the sling clear the arm?", 3,
                                [new Seat("lift-lead", "Structures", new PersonHolder(people["maren"].Id)), new Seat("lift-crew", "Lifting", new GroupHolder(lifting.Id, 2)) { WaitsForRest = true }])
                            {
                                OneSeatEach = true,
                                Checkpoints = [new Checkpoint("wall", "Wall at the seat, at least 18", CheckpointKind.Number, "mm", true), new Checkpoint("case4", "Load case 4 covered", CheckpointKind.YesNo, "", true)],
                                Tells = [new Telling(Moment.Passage, [], [lifting.Id], true)],
                                SignAgain = SignAgain.ChangedItems,
                            }]),
                            new Sequence([new Step("cables", "Cable paths", "Cable paths, glands and clearances.", 2, [new Seat("cables", "Electrical", new PersonHolder(people["sunniva"].Id))])]),
                        ]),
                    ])),
                    new Way("heavy-no", "Light part", null, new Sequence([])),
                ]),
                chief with { ReturnsTo = "check" },
            ]))
        {
            Form =
            [
                new FormField("mass", "Lifted mass", FieldKind.Number, "kg", "With everything that hangs on it when it is lifted.", true, []),
                new FormField("reason", "Reason", FieldKind.Choice, "", "", true, ["new part", "correction", "shop question"]),
                new FormField("impact", "What else it touches", FieldKind.LongText, "", "Parts, wiring, concrete, contracts.", false, []),
            ],
            Closing = [new FileUnder("Mount / Released"), new InformGroup(lifting.Id)],
            Answering = new Answering(5) { Reminders = [1] },
        });
        await AddAsync(new Plan("Supporting files, item by item", "For lists, specifications and pictures; what is good goes on at once.", new Sequence([check with { Seats = [new Seat("check", "Check", new ChosenHolder(quality.Id))] }]))
        {
            ItemByItem = true,
            HoldsNoted = true,
            Fits = new Rule(false, [new Condition(Subject.EveryDocument, "kind", Comparison.IsNot, "drawing")]),
        });
        await AddAbsenceAsync("bettany", 12);
        await AddAbsenceAsync("farid", 9);

        async Task<Guid> AddAsync(Plan plan)
        {
            var koa = people["koa"];
            var id = await Get<Planning>().AddAsync(koa, plan, default);
            await Get<Planning>().PublishAsync(koa, id, 1, default);
            return id;
        }
    }

    private async Task AddGroupAsync(PersonGroup group)
    {
        await using var act = await Act.BeginAsync(Get<Database>(), people["koa"].Id, clock.Now);
        await People.AddGroupAsync(act, group, default);
        await act.CommitAsync();
    }

    /// <summary>Somebody is away from yesterday on.</summary>
    private async Task AddAbsenceAsync(string login, int days)
    {
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        await using var act = await Act.BeginAsync(Get<Database>(), people[login].Id, clock.Now);
        await AbsentDays.EnterAsync(act, people[login].Id, Zone, today.AddDays(-1), today.AddDays(days), null, default);
        await act.CommitAsync();
    }

    /// <summary>Turns the clock to so many working days from today, at an hour UTC; minutes pass from there.</summary>
    private void At(int workingDays, int hour)
    {
        var day = DateTimeOffset.UtcNow.Date;
        for (var left = -workingDays; left > 0;)
        {
            day = day.AddDays(-1);
            if (day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday)) left--;
        }
        var at = new DateTimeOffset(day, TimeSpan.Zero).AddHours(hour);
        clock.Now = at < DateTimeOffset.UtcNow ? at : DateTimeOffset.UtcNow.AddMinutes(-30);
    }

    private void Pass() => clock.Now += TimeSpan.FromMinutes(4);

    private async Task<Guid> UploadAsync(string login, string file)
    {
        var path = Path.Combine(folder, file);
        await using var stream = File.OpenRead(path);
        var id = Guid.CreateVersion7();
        await Get<Contents>().StoreAsync(stream, Readers.For(file).MediaType, (connection, sha256, size) => Uploads.AddAsync(connection, id, people[login].Id, sha256, size, file, clock.Now));
        await Get<ReadingWorker>().ReadNextAsync(default);
        var upload = await Get<Uploads>().FindAsync(id);
        return upload is { State: "read" } ? id : throw new InvalidOperationException($"{file}: {upload?.Fault}");
    }

    private async Task RegisterAsync(string login, string number, string title, string discipline, string ending = ".dxf", string kind = "drawing")
    {
        Pass();
        var made = await Get<Registering>().AddDocumentAsync(people[login], new NewDocument(number, title, kind, discipline, await UploadAsync(login, number + "_A1" + ending), "First draft", FolderOf(number)), default);
        documents[number] = made.Document;
    }

    private async Task DraftAsync(string login, string number, string file, string reason)
    {
        Pass();
        await Get<Registering>().AddDraftAsync(people[login], documents[number], new NewDraft(await UploadAsync(login, file), reason), default);
    }

    private async Task<Guid> SendAsync(string login, string title, string note, Guid plan, string[] inform, string[] numbers, string changeOrder = "")
    {
        Pass();
        return (await Get<Sending>().SendAsync(
            people[login], new NewPackage(Guid.CreateVersion7(), title, note, plan, [.. numbers.Select(n => documents[n])], [.. inform.Select(i => people[i].Id)], ChangeOrder: changeOrder), default)).Id;
    }

    private async Task<PackageView> ViewAsync(Guid package) => await Get<PackageViews>().FindAsync(package, people.Values.First(), default) ?? throw new InvalidOperationException("The package is missing.");

    private async Task NoteAsync(Guid package, string login, string number, NoteKind kind, string body, Shape shape)
    {
        Pass();
        var item = (await ViewAsync(package)).Items.First(i => i.Number == number);
        await Get<Noting>().AddAsync(people[login], package, new NewNote(item.Draft, kind, body, [new PutMarkup(Guid.NewGuid(), null, shape is Pin ? new OnScene(0) : new OnSheet(0), shape)]), default);
    }

    private async Task CloseAsync(Guid package, string login, int number, string words)
    {
        Pass();
        await Get<Noting>().ActAsync(people[login], (await ViewAsync(package)).Notes.First(n => n.Number == number).Id, new NewNoteAct(NoteAct.Close, null, words), default);
    }

    private async Task AnswerAsync(Guid package, int number, AnswerKind answer, string words)
    {
        Pass();
        var view = await ViewAsync(package);
        await Get<Noting>().ActAsync(people.Values.First(p => p.Id == view.Originator), view.Notes.First(n => n.Number == number).Id, new NewNoteAct(NoteAct.Answer, answer, words), default);
    }

    private Task SignAsync(Guid package, string login, string seat, string remark) => SignAsync(package, login, seat, remark, _ => false);

    private Task ReturnAsync(Guid package, string login, string seat, string number, string remark) => SignAsync(package, login, seat, remark, i => i.Number == number);

    private Task ReturnAllAsync(Guid package, string login, string seat, string remark) => SignAsync(package, login, seat, remark, _ => true);

    private async Task SignAsync(Guid package, string login, string seat, string remark, Func<PackageItem, bool> returned)
    {
        Pass();
        var items = (await ViewAsync(package)).Items;
        var verdicts = items.Select(i => new ItemVerdict(i.Draft, i.Sha256, returned(i) ? Verdict.ReturnForChanges : Verdict.Approve, "")).ToImmutableArray();
        await Get<Database>().RunAsync("INSERT INTO draft_opened SELECT $1, d, $3 FROM unnest($2::uuid[]) d ON CONFLICT DO NOTHING", [people[login].Id, items.Select(i => i.Draft).ToArray(), clock.Now.UtcDateTime]);
        var grant = await Get<Passwords>().GrantAsync(people[login].Id, password, default);
        await Get<Signing>().SignAsync(people[login], package, new NewSignOff(Guid.CreateVersion7(), grant, seat, verdicts, remark), default);
    }
}
