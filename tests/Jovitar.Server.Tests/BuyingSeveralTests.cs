using System.Net;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Visitors buy the same of several photos at once: only what is sold, and only of what they see.</summary>
public sealed class BuyingSeveralTests
{
    static string Marks(params IEnumerable<string> photos) => MarkedPhotos.Of([.. photos.Select(p => new PhotoId(Guid.Parse(p)))]).Address;

    static Task<HttpResponseMessage> PutAsync(HttpClient visitor, string marks, string option, string count, params string[] photos) =>
        FormAsync(visitor, "/basket/several", [("photos", marks), ("option", option), ("count", count), .. photos.Select(p => ("photo", p))]);

    [Fact]
    public async Task What_is_sold_of_several_photos_goes_into_the_basket_at_once_in_their_order()
    {
        await using var sale = await SaleAsync(4);
        var p = sale.Photos;
        var marks = Marks(p[2], p[0], p[3]);
        await sale.Site.WriteAsync("update site set has_favourites = true");
        var visitor = sale.Site.Visitor();
        Assert.Contains($"href=\"/buy/several/{marks}\"", await visitor.GetStringAsync($"/favourites/{marks}"), StringComparison.Ordinal);
        var page = await visitor.GetStringAsync($"/buy/several/{marks}");
        Assert.Equal(3, page.Split("type=\"checkbox\"").Length - 1);
        Assert.Equal(HttpStatusCode.SeeOther, (await PutAsync(visitor, marks, sale.Print, "2", p[3], p[2])).StatusCode);
        // As they were marked, whatever the form's order; one that is there already becomes more.
        Assert.Equal(HttpStatusCode.SeeOther, (await PutAsync(visitor, marks, sale.Print, "1", p[2])).StatusCode);
        Assert.Equal($"{p[2]} 3, {p[3]} 2", await sale.Site.ScalarAsync<string>("select string_agg(photo::text || ' ' || count, ', ' order by added, id) from basket_line"));
        // Five in all: what each costs goes by that.
        Assert.Contains("17.00", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nothing_is_put_in_that_is_not_sold_to_whoever_asks()
    {
        await using var sale = await SaleAsync(3);
        var p = sale.Photos;
        // One of them is sold without prints, another not in the address.
        await sale.Site.WriteAsync($"begin; set local jovitar.act = '00000000-0000-0000-0000-000000000001'; update photo set unsold = array['{sale.Print}'::uuid] where id = '{p[1]}'; commit");
        var marks = Marks(p[0], p[1]);
        var visitor = sale.Site.Visitor();
        Assert.Contains("Of 1 of these 2 photographs", await visitor.GetStringAsync($"/buy/several/{marks}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await PutAsync(visitor, marks, sale.Print, "1", p[0], p[1], p[2])).StatusCode);
        Assert.Equal(p[0], await sale.Site.ScalarAsync<string>("select string_agg(photo::text, ' ') from basket_line"));
        foreach (var (marked, option, count, photos, status) in new (string, string, string, string[], HttpStatusCode)[]
        {
            (marks, Guid.NewGuid().ToString(), "1", [p[0]], HttpStatusCode.UnprocessableEntity), (marks, sale.Print, "0", [p[0]], HttpStatusCode.UnprocessableEntity), (marks, sale.Print, "1001", [p[0]], HttpStatusCode.UnprocessableEntity),
            (marks, sale.Print, "1", [], HttpStatusCode.UnprocessableEntity), (marks, sale.Print, "1", [p[1]], HttpStatusCode.UnprocessableEntity), (marks, sale.Print, "1", ["x"], HttpStatusCode.UnprocessableEntity),
            ("nothing", sale.Print, "1", [p[0]], HttpStatusCode.NotFound), ("", sale.Print, "1", [p[0]], HttpStatusCode.NotFound),
        })
        {
            Assert.Equal(status, (await PutAsync(visitor, marked, option, count, photos)).StatusCode);
        }

        Assert.Equal(1L, await sale.Site.ScalarAsync<long>("select sum(count) from basket_line"));
        // Who does not see the album buys nothing of it, and is told of no price.
        (await SayAsync(sale.Owner, "album", sale.Album, "members")).EnsureSuccessStatusCode();
        Assert.Contains("Nothing is sold of these photographs", await visitor.GetStringAsync($"/buy/several/{marks}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await PutAsync(visitor, marks, sale.Print, "1", p[0])).StatusCode);
    }

    [Fact]
    public async Task A_basket_never_holds_more_than_it_may()
    {
        await using var sale = await SaleAsync(3);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        // All but two of its places are taken.
        await FillAsync(sale, 497);
        var marks = Marks(sale.Photos);
        var full = await PutAsync(visitor, marks, sale.File, "1", sale.Photos);
        Assert.Equal((HttpStatusCode.UnprocessableEntity, true), (full.StatusCode, (await full.Content.ReadAsStringAsync()).Contains("A basket holds 500 different things.", StringComparison.Ordinal)));
        Assert.Equal(498L, await sale.Site.ScalarAsync<long>("select count(*) from basket_line"));
        // One that is there already takes no place.
        Assert.Equal(HttpStatusCode.SeeOther, (await PutAsync(visitor, marks, sale.Print, "1", sale.Photos)).StatusCode);
        Assert.Equal(500L, await sale.Site.ScalarAsync<long>("select count(*) from basket_line"));
    }

    [Fact]
    public async Task A_closed_shop_offers_nothing_of_several()
    {
        await using var sale = await SaleAsync(2);
        var marks = Marks(sale.Photos);
        await sale.Site.WriteAsync("update site set has_favourites = true");
        (await ShopAsync(sale.Owner, Shop(isOpen: false))).EnsureSuccessStatusCode();
        var visitor = sale.Site.Visitor();
        Assert.DoesNotContain("Buy some of them", await visitor.GetStringAsync($"/favourites/{marks}"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/buy/several/{marks}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await PutAsync(visitor, marks, sale.Print, "1", sale.Photos)).StatusCode);
    }
}
