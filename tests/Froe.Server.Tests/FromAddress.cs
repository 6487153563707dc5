using System.Net;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;

namespace Froe.Server.Tests;

/// <summary>Requests come from an address, as they do over a network; the test's own server has none.</summary>
internal sealed class FromAddress(IPAddress address) : IStartupFilter
{
    public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) => app =>
    {
        app.Use((context, further) =>
        {
            context.Connection.RemoteIpAddress = address;
            return further(context);
        });
        next(app);
    };
}
