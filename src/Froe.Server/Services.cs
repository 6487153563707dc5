using Froe.Server.Absences;
using Froe.Server.Administration;
using Froe.Server.Changes;
using Froe.Server.Exchange;
using Froe.Server.Files;
using Froe.Server.Ledger;
using Froe.Server.Live;
using Froe.Server.Notes;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.Plans;
using Froe.Server.Post;
using Froe.Server.Register;
using Froe.Server.Scenes;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.Extensions.Options;

namespace Froe.Server;

/// <summary>Everything the server's subjects need, put together in one place; the demo loader uses the same.</summary>
public static class Services
{
    /// <summary>Adds Froe's services.</summary>
    public static IServiceCollection AddFroe(this IServiceCollection services, Settings settings)
    {
        ArgumentNullException.ThrowIfNull(settings);
        services.AddSingleton(s => new Database(s.GetRequiredService<IOptions<Settings>>().Value.Database));
        services.AddSingleton(TimeProvider.System);
        services.AddHttpContextAccessor();
        foreach (var type in (Type[])
            [
                typeof(People), typeof(Contents), typeof(Uploads), typeof(Store.Post), typeof(Ledgers), typeof(Seals),
                typeof(Passwords), typeof(Sessions), typeof(DateManners), typeof(Doors), typeof(SecurityLog), typeof(SecurityList), typeof(RightsBook), typeof(Sweeping), typeof(Barring), typeof(Once),
                typeof(Registering), typeof(Arrivals), typeof(Withdrawing), typeof(DocumentList), typeof(Shelves), typeof(Drafts), typeof(Scaling), typeof(SeenSheets), typeof(Referring), typeof(Relating), typeof(ReaderChild), typeof(BesideFiles), typeof(ReaderProcess), typeof(ReadingWorker), typeof(PreparingAnew), typeof(WordIndex), typeof(Finder), typeof(Spool), typeof(Transfers), typeof(FileAnswer),
                typeof(PackageList), typeof(NoteList), typeof(Schedules), typeof(Recording), typeof(Sending), typeof(SlipActs), typeof(Signing), typeof(Noting), typeof(Marking), typeof(Overlaying), typeof(MeasuresAgain), typeof(OverlayView), typeof(Errands), typeof(LyingOnDrafts), typeof(Outgoing), typeof(ReviewSheets), typeof(ViewsOfModels), typeof(Incoming), typeof(DraftPictures), typeof(Enclosing), typeof(PreparedModels), typeof(MeasuringModels), typeof(Sectioning), typeof(PartsLists), typeof(KeptViews), typeof(ChoosingStated), typeof(SceneData), typeof(DimensionsTyped), typeof(NotesFile), typeof(PackageViews), typeof(Presence), typeof(Advising), typeof(Many), typeof(Access),
                typeof(LedgerList), typeof(MessageList), typeof(Planning), typeof(Nudging), typeof(Announcements), typeof(LiveFeed), typeof(LiveConnections), typeof(MailWorker),
            ])
            services.AddSingleton(type);
        services.AddHostedService(s => s.GetRequiredService<Announcements>());
        services.AddHostedService(s => s.GetRequiredService<LiveFeed>());
        services.AddHostedService(s => s.GetRequiredService<ReadingWorker>());
        services.AddHostedService(s => s.GetRequiredService<PreparingAnew>());
        services.AddHostedService(s => s.GetRequiredService<WordIndex>());
        services.AddHostedService(s => s.GetRequiredService<MailWorker>());
        services.AddHostedService(s => s.GetRequiredService<Nudging>());
        services.AddHostedService(s => s.GetRequiredService<SecurityLog>());
        services.AddHostedService(s => s.GetRequiredService<Sweeping>());
        if (settings.SealMinutes > 0) services.AddHostedService<Sealing>();
        var protection = services.AddDataProtection().SetApplicationName("froe");
        if (settings.Certificate is { } certificate) protection.ProtectKeysWithCertificate(certificate);
        services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(s => new ConfigureOptions<KeyManagementOptions>(o => o.XmlRepository = new DatabaseKeys(s.GetRequiredService<Database>())));
        return services;
    }
}
