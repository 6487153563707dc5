namespace Froe.Store;

/// <summary>
/// What the ledger calls the acts of the office: on people, groups and rights, calendars and folders. A person, a group and a
/// calendar each have a chain of their own; all folders share one, for they have no identity but their path.
/// </summary>
public static class OfficeActs
{
    /// <summary>The chain of all folders (a custom UUID, RFC 9562 clause 5.8).</summary>
    public static Guid Folders { get; } = new("00000000-0000-8000-8000-000000000001");

    // Words that stand in the ledger stay as they were first written.
    public const string
        RightsGiven = "rights given", GroupMade = "group made", GroupChanged = "group changed", GroupRemoved = "group removed",
        PersonAdded = "person added", PersonChanged = "person changed", AbsenceEntered = "absence entered", DeputyNamed = "deputy named", AbsenceRemoved = "absence removed", PersonBarred = "person barred", PersonLetIn = "person let in again",
        CalendarMade = "calendar made", CalendarChanged = "calendar changed", CalendarRemoved = "calendar removed",
        FolderMade = "folder made", FolderMoved = "folder moved", FolderRemoved = "folder removed", StandingsSet = "chain of standings set";

    /// <summary>What an act that changes a person says besides: what it made of them.</summary>
    public const string GuestFromNowOn = "guest from now on", GuestNoMore = "guest no more", NowAdministrator = "administrator";

    /// <summary>Those that say who somebody is and whether they may come in, as SQL.</summary>
    public const string PeopleSql = $"('{PersonAdded}', '{PersonChanged}', '{PersonBarred}', '{PersonLetIn}')";

    /// <summary>All of them, as SQL; the index ledger_office is of just these.</summary>
    public const string Sql =
        $"('{RightsGiven}', '{GroupMade}', '{GroupChanged}', '{GroupRemoved}', '{PersonAdded}', '{PersonChanged}', '{AbsenceEntered}', '{DeputyNamed}', '{AbsenceRemoved}', '{CalendarMade}', '{CalendarChanged}', '{CalendarRemoved}', '{FolderMade}', '{FolderMoved}', '{FolderRemoved}', '{StandingsSet}', '{PersonBarred}', '{PersonLetIn}')";

    /// <summary>The acts on plans, as SQL; the index ledger_plan is of just these.</summary>
    public const string PlanSql = "('plan published', 'plan handed over')";
}
