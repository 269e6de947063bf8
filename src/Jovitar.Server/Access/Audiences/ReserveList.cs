using System.Collections.Frozen;
using System.Text.Json;
using System.Text.Json.Nodes;
using Jovitar.Core.Access;

namespace Jovitar.Server.Access.Audiences;

/// <summary>What albums and categories reserve at a moment.</summary>
internal sealed class ReserveList(IEnumerable<Reserve> reserves)
{
    public static readonly ReserveList None = new([]);

    readonly FrozenDictionary<Guid, Reserve> all = reserves.ToFrozenDictionary(r => r.Thing);

    public IReadOnlyList<Reserve> All => all.Values;

    /// <summary>Those of a photo or an album: of what a row names, as far as it still reserves something.</summary>
    public IReadOnlyList<Reserve> Of(Guid[] things) => all.Count == 0 ? [] : [.. things.Distinct().Select(all.GetValueOrDefault).OfType<Reserve>().OrderBy(r => r.Kind, StringComparer.Ordinal).ThenBy(r => r.Name, StringComparer.Ordinal)];
}

/// <summary>What is reserved, as the database keeps it: an object of what is not for everyone.</summary>
internal static class ReservedText
{
    static readonly (string Name, Func<Reserved, Whom> Of)[] Parts = [("save", r => r.Save), ("saveFull", r => r.SaveFull), ("talk", r => r.Talk), ("choose", r => r.Choose)];

    public static string Write(Reserved reserved)
    {
        var written = new JsonObject();
        foreach (var (name, of) in Parts.Where(p => p.Of(reserved).Who != ForWhom.Everyone))
        {
            var whom = of(reserved);
            written[name] = new JsonObject { ["who"] = whom.Who.ToString(), ["chosen"] = new JsonArray([.. whom.Chosen.Select(c => JsonValue.Create(c.ToString()))]) };
        }

        return written.ToJsonString();
    }

    /// <exception cref="JsonException">It is no such text.</exception>
    public static Reserved Read(string text)
    {
        using var read = JsonDocument.Parse(text);
        Whom Of(string name) => read.RootElement.TryGetProperty(name, out var whom)
            ? new Whom(Enum.Parse<ForWhom>(whom.GetProperty("who").GetString()!)) { Chosen = [.. whom.GetProperty("chosen").EnumerateArray().Select(c => c.GetGuid())] }
            : Whom.All;
        return new Reserved(Of("save"), Of("saveFull"), Of("talk"), Of("choose"));
    }
}
