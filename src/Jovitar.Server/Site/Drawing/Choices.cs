using System.Globalization;
using Jovitar.Core.Filtering;
using Microsoft.AspNetCore.Http.Extensions;

namespace Jovitar.Server.Site.Drawing;

/// <summary>What a visitor chose in one walk.</summary>
/// <param name="Show">Which buttons, as the bar writes them.</param>
/// <param name="From">The place to begin at, from 1.</param>
/// <param name="To">So many are to stand there, where more come at a button; 0 for as many as at first.</param>
/// <param name="Find">Words.</param>
/// <param name="Order">The order, as an address names it; empty for the one they stand in.</param>
public sealed record Choice(string Show, int From, int To, string Find, string Order)
{
    public static readonly Choice None = new("", 1, 0, "", "");
}

/// <summary>What a visitor chose on a page, as it stands in its address: of each walk which buttons, words, order, and from which place on; and the visit's lot.</summary>
public sealed class Choices(IReadOnlyDictionary<int, Choice> chosen, int lot = 0)
{
    public static readonly Choices None = new(new Dictionary<int, Choice>());

    /// <summary>Nothing is chosen; what is drawn by lot is drawn by this one, 0 for none.</summary>
    public static Choices OfLot(int lot) => lot == 0 ? None : new(new Dictionary<int, Choice>(), lot);

    /// <summary>Reads an address; <c>show</c>, <c>find</c>, <c>order</c>, <c>from</c> and <c>to</c> are the first walk's, <c>show2</c> the second's.</summary>
    public static Choices Read(SitePage page, IQueryCollection query) => query.Count == 0 ? None : new Choices(
        page.Walks.ToDictionary(w => w.Number, w => new Choice(
            query[Name("show", w.Number)].ToString(), Math.Max(1, Number(query, Name("from", w.Number)) ?? 1), Number(query, Name("to", w.Number)) ?? 0, PhotoSearch.Read(query[Name("find", w.Number)].ToString()), query[Name("order", w.Number)].ToString())),
        page.Walks.Any(w => w.ByLot) && Number(query, "lot") is { } lot and <= Core.Pages.Lot.Most ? lot : 0);

    static int? Number(IQueryCollection query, string name) => int.TryParse(query[name], NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>What is drawn by lot is drawn by this one; 0 for none.</summary>
    public int Lot => lot;

    public Choice Of(int walk) => chosen.GetValueOrDefault(walk, Choice.None);

    /// <summary>Somebody has typed words.</summary>
    public bool HasWords => chosen.Values.Any(c => c.Find.Length > 0);

    public Choices With(int walk, Choice choice) => new(new Dictionary<int, Choice>(chosen) { [walk] = choice }, lot);

    /// <summary>What stands behind an address, name by name.</summary>
    public IEnumerable<(string Name, string Value)> Parts()
    {
        foreach (var (walk, choice) in chosen.OrderBy(c => c.Key))
        {
            if (choice.Show.Length > 0)
            {
                yield return (Name("show", walk), choice.Show);
            }

            if (choice.Find.Length > 0)
            {
                yield return (Name("find", walk), choice.Find);
            }

            if (choice.Order.Length > 0)
            {
                yield return (Name("order", walk), choice.Order);
            }

            if (choice.From > 1)
            {
                yield return (Name("from", walk), choice.From.ToString(CultureInfo.InvariantCulture));
            }

            if (choice.To > 0)
            {
                yield return (Name("to", walk), choice.To.ToString(CultureInfo.InvariantCulture));
            }
        }

        if (lot > 0)
        {
            yield return ("lot", lot.ToString(CultureInfo.InvariantCulture));
        }
    }

    /// <summary>As it stands behind an address; empty where nothing was chosen.</summary>
    public string Query
    {
        get
        {
            var query = new QueryBuilder();
            foreach (var (name, value) in Parts())
            {
                query.Add(name, value);
            }

            // A comma may stand in a query as it is (RFC 3986 §3.4), and reads better.
            return query.ToString().Replace("%2C", ",", StringComparison.OrdinalIgnoreCase);
        }
    }

    /// <summary>What a part of an address is called that is about a walk.</summary>
    public static string Name(string what, int walk) => walk == 1 ? what : string.Create(CultureInfo.InvariantCulture, $"{what}{walk}");
}
