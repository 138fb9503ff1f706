using System.Xml.Linq;
using Dapper;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Npgsql;

namespace VelvetGate.Web.Shared;

/// <summary>Keeps the keys of cookies and antiforgery tokens in PostgreSQL, so that every instance and every restart reads them.</summary>
public sealed class DataProtectionKeys(NpgsqlDataSource db) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements()
    {
        using var connection = db.OpenConnection();
        return [.. connection.Query<string>("select xml from web.data_protection_key").Select(XElement.Parse)];
    }

    public void StoreElement(XElement element, string friendlyName)
    {
        using var connection = db.OpenConnection();
        connection.Execute(
            "insert into web.data_protection_key (name, xml) values (@friendlyName, @xml) on conflict (name) do update set xml = "
                + "excluded.xml",
            new { friendlyName, xml = element.ToString(SaveOptions.DisableFormatting) }
        );
    }
}
