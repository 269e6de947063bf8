using System.Xml.Linq;
using Jovitar.Server.Platform;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>Keeps the keys that cookies are sealed with in the database, so that every server process reads every cookie.</summary>
internal sealed class DataProtectionKeys(NpgsqlDataSource db) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements()
    {
        using var command = db.CreateCommand("select xml from data_protection_key");
        using var reader = command.ExecuteReader();
        var all = new List<XElement>();
        while (reader.Read())
        {
            all.Add(XElement.Parse(reader.GetString(0)));
        }

        return all;
    }

    public void StoreElement(XElement element, string friendlyName)
    {
        using var command = db.Command(
            "insert into data_protection_key (name, xml) values (@name, @xml) on conflict (name) do update set xml = excluded.xml",
            ("name", friendlyName), ("xml", element.ToString(SaveOptions.DisableFormatting)));
        command.ExecuteNonQuery();
    }
}
