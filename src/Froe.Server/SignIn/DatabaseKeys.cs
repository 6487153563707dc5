using System.Xml.Linq;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection.Repositories;

namespace Froe.Server.SignIn;

/// <summary>Keeps the keys of cookies and grants in the database, so that every server instance accepts every session.</summary>
internal sealed class DatabaseKeys(Database database) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements() =>
        Task.Run(() => database.ListAsync("SELECT xml FROM server_key", r => XElement.Parse(r.GetString(0)), [])).GetAwaiter().GetResult();

    public void StoreElement(XElement element, string friendlyName) =>
        Task.Run(() => database.RunAsync("INSERT INTO server_key (name, xml) VALUES ($1, $2) ON CONFLICT DO NOTHING", [friendlyName, element.ToString(SaveOptions.DisableFormatting)])).GetAwaiter().GetResult();
}
