using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Ledger;

/// <summary>Seals the ledger now and then; of several servers one does it.</summary>
internal sealed class Sealing(Seals seals, IOptions<Settings> settings, TimeProvider clock, ILogger<Sealing> log) : BackgroundService
{
    private static readonly TimeSpan Look = TimeSpan.FromMinutes(1);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Sealing the ledger",
        async stop =>
        {
            // What a fresh database is filled with is in the first seal as well.
            await Task.Delay(Look, clock, stop);
            if (await seals.MakeAsync(clock.GetUtcNow(), TimeSpan.FromMinutes(settings.Value.SealMinutes), settings.Value.Certificate, stop) is { } made)
                log.LogInformation("Seal {Number} over {Heads} chains: {Hash}", made.Seal.Number, made.Seal.Heads, Convert.ToHexStringLower(made.Hash));
        },
        Look, log, stoppingToken);
}
