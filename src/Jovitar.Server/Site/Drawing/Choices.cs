using System.Globalization;
using Microsoft.AspNetCore.Http.Extensions;

namespace Jovitar.Server.Site.Drawing;

/// <summary>What a visitor chose on a page, as it stands in its address: of each walk which buttons, and from which place on; and the visit's lot.</summary>
public sealed class Choices(IReadOnlyDictionary<int, (string Show, int From)> chosen, int lot = 0)
{
    public static readonly Choices None = new(new Dictionary<int, (string, int)>());

    /// <summary>Reads an address; <c>show</c> and <c>from</c> are the first walk's, <c>show2</c> the second's.</summary>
    public static Choices Read(SitePage page, IQueryCollection query) => query.Count == 0 ? None : new Choices(page.Walks.ToDictionary(
        w => w.Number,
        w => (query[Name("show", w.Number)].ToString(), Number(query, Name("from", w.Number)) ?? 1)),
        page.Walks.Any(w => w.ByLot) && Number(query, "lot") is { } lot and <= Core.Pages.Lot.Most ? lot : 0);

    static int? Number(IQueryCollection query, string name) => int.TryParse(query[name], NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>What is drawn by lot is drawn by this one; 0 for none.</summary>
    public int Lot => lot;


    public string Show(int walk) => chosen.TryGetValue(walk, out var c) ? c.Show : "";

    /// <summary>The place to begin at, from 1.</summary>
    public int From(int walk) => chosen.TryGetValue(walk, out var c) ? Math.Max(1, c.From) : 1;

    public Choices With(int walk, string show, int from = 1) => new(new Dictionary<int, (string, int)>(chosen) { [walk] = (show, from) }, lot);

    /// <summary>As it stands behind an address; empty where nothing was chosen.</summary>
    public string Query
    {
        get
        {
            var query = new QueryBuilder();
            foreach (var (walk, (show, from)) in chosen.OrderBy(c => c.Key))
            {
                if (show.Length > 0)
                {
                    query.Add(Name("show", walk), show);
                }

                if (from > 1)
                {
                    query.Add(Name("from", walk), from.ToString(CultureInfo.InvariantCulture));
                }
            }

            if (lot > 0)
            {
                query.Add("lot", lot.ToString(CultureInfo.InvariantCulture));
            }

            // A comma may stand in a query as it is (RFC 3986 §3.4), and reads better.
            return query.ToString().Replace("%2C", ",", StringComparison.OrdinalIgnoreCase);
        }
    }

    static string Name(string what, int walk) => walk == 1 ? what : string.Create(CultureInfo.InvariantCulture, $"{what}{walk}");
}
