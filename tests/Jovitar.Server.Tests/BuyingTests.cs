using System.Net;
using System.Net.Http.Json;
using static Jovitar.Server.Tests.AudienceSteps;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.MemberSteps;

namespace Jovitar.Server.Tests;

/// <summary>Visitors buy: what they are offered, their basket, and the order that it becomes; and what nobody gets by other ways.</summary>
public sealed class BuyingTests
{
    [Fact]
    public async Task A_visitor_buys_from_the_page_to_the_order()
    {
        await using var sale = await SaleAsync();
        var visitor = sale.Site.Visitor();
        Assert.Contains($"data-sold=\"{sale.Album}\"", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Contains($"href=\"/buy/{sale.Album}/{sale.Photos[0]}\"", await visitor.GetStringAsync($"/album/night/photo/{sale.Photos[0]}"), StringComparison.Ordinal);
        // Where nothing of the album stands alone nothing is bought.
        Assert.DoesNotContain("data-sold", await visitor.GetStringAsync("/album/day"), StringComparison.Ordinal);
        var offered = await visitor.GetStringAsync($"/buy/{sale.Album}/{sale.Photos[0]}");
        // 900 by 600 pixels: 152 an inch on 10 by 15 centimetres.
        Assert.Contains("It looks soft from close by", offered, StringComparison.Ordinal);
        Assert.Contains("File, 600 pixels", offered, StringComparison.Ordinal);
        Assert.Equal("/basket", (await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "3")).Headers.Location!.ToString());
        await AddAsync(visitor, sale, sale.Photos[1], sale.Print, "1");
        // The same once more is one more of it: five of one option, of two photos.
        await AddAsync(visitor, sale, sale.Photos[1], sale.Print);
        var basket = await visitor.GetStringAsync("/basket");
        Assert.Contains("EUR 17.00", basket, StringComparison.Ordinal);
        Assert.Equal(2, (await LinesAsync(visitor)).Length);
        var page = await CheckOutAsync(visitor);
        var forgot = await OrderAsync(visitor, page, town: "");
        Assert.Equal((HttpStatusCode.UnprocessableEntity, true), (forgot.StatusCode, (await forgot.Content.ReadAsStringAsync()).Contains("Give the town.", StringComparison.Ordinal)));
        // A form in parts brings letters that the database has none of.
        using var parts = new MultipartFormDataContent();
        foreach (var (name, value) in new[] { ("order", page.Order), ("seen", page.Seen), ("act", "order"), ("way", "Post"), ("name", "Nell"), ("email", "nell@example.test"), ("street", "7 Ropewalk"), ("postcode", "X91"), ("town", "Hollin Quay"), ("country", "IE"), ("at", "IE"), ("message", "a\0b") })
        {
            parts.Add(new StringContent(value), name);
        }

        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await visitor.PostAsync("/basket/check-out", parts)).StatusCode);
        var placed = await OrderAsync(visitor, page, message: "No bill, please.");
        var order = placed.Headers.Location!.ToString();
        var shown = WebUtility.HtmlDecode(await visitor.GetStringAsync(order));
        foreach (var said in new[] { "Order 1001", "Waits for payment", "Pay into the account.", "EUR 21.50", "X91 Hollin Quay", "No bill, please.", "10 × 15 cm print, 3 pieces" })
        {
            Assert.Contains(said, shown, StringComparison.Ordinal);
        }

        Assert.Empty(await LinesAsync(visitor));
        var line = Assert.Single(await OrdersAsync(sale.Owner, "open"));
        Assert.Equal(("Nell Garrow", 5, "EUR 21.50", "Waits for payment"), (line.GetProperty("name").GetString(), line.GetProperty("things").GetInt32(), line.GetProperty("total").GetString(), line.GetProperty("standing").GetString()));
        Assert.Equal(1, (await (await sale.Owner.GetAsync("/api/desk")).ReadAsync()).GetProperty("figures").GetProperty("orders").GetInt32());
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task An_order_is_taken_further_step_by_step_and_back()
    {
        await using var sale = await SaleAsync(1);
        var (visitor, editor) = (sale.Site.Visitor(), await sale.Site.EditorAsync("Tomas"));
        var link = await BuyAsync(visitor, sale, sale.Print);
        var id = (await OrdersAsync(editor))[0].GetProperty("id").GetString()!;
        Assert.Equal(HttpStatusCode.Conflict, (await StepAsync(editor, id, "handOver")).StatusCode);
        await (await StepAsync(editor, id, "pay")).ReadAsync();
        // Who looked before does not do it twice, nor something else.
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await StepAsync(sale.Owner, id, "cancel", 1)).StatusCode);
        Assert.Empty(await OrdersAsync(editor, "unpaid"));
        var sent = await (await StepAsync(editor, id, "send")).ReadAsync();
        Assert.Equal(("Sent", 0), (sent.GetProperty("order").GetProperty("standing").GetString(), sent.GetProperty("order").GetProperty("next").GetArrayLength()));
        Assert.Contains("<p class=\"standing\" role=\"status\">Sent</p>", await visitor.GetStringAsync(link), StringComparison.Ordinal);
        Assert.Empty(await OrdersAsync(editor, "open"));
        Assert.Contains("Order 1001: it is sent.", await editor.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        await editor.UndoAsync(sent);
        Assert.Equal(["begin", "send", "cancel"], (await (await editor.GetAsync($"/api/orders/{id}")).ReadAsync()).GetProperty("next").EnumerateArray().Select(n => n.GetString()));
        var version = (await (await editor.GetAsync($"/api/orders/{id}")).ReadAsync()).GetProperty("version").GetInt64();
        var noted = await (await editor.SendAsync(HttpMethod.Put, $"/api/orders/{id}/note", new { note = " Paper comes on Tuesday. " }, version)).ReadAsync();
        Assert.Equal("Paper comes on Tuesday.", noted.GetProperty("order").GetProperty("note").GetString());
        // What those who sell note is for themselves.
        Assert.DoesNotContain("Tuesday", await visitor.GetStringAsync(link), StringComparison.Ordinal);
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task Prices_of_the_browser_count_for_nothing_and_one_that_changed_is_asked_about()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var page = await CheckOutAsync(visitor);
        await PriceAsync(sale, "6.00");
        var asked = await OrderAsync(visitor, page);
        Assert.Equal(HttpStatusCode.Conflict, asked.StatusCode);
        Assert.Contains("EUR 10.50", await asked.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Conflict, (await OrderAsync(visitor, page with { Seen = "4.00" })).StatusCode);
        Assert.Empty(await OrdersAsync(sale.Owner));
        var again = await CheckOutAsync(visitor);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, again)).StatusCode);
        // What was ordered stays as it was.
        await PriceAsync(sale, "9.00");
        Assert.Equal("EUR 10.50", Assert.Single(await OrdersAsync(sale.Owner)).GetProperty("total").GetString());
    }

    [Fact]
    public async Task What_is_not_sold_any_more_is_left_out_and_said_to_be()
    {
        await using var sale = await SaleAsync(2);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        await AddAsync(visitor, sale, sale.Photos[1], sale.Print);
        var page = await CheckOutAsync(visitor);
        (await sale.Owner.PostAsJsonAsync("/api/photos/selling", new { photos = new[] { sale.Photos[1] }, without = new[] { sale.Print }, with = Array.Empty<string>() })).EnsureSuccessStatusCode();
        Assert.Contains("It is not sold any more, and left out of the order.", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Conflict, (await OrderAsync(visitor, page)).StatusCode);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AddAsync(visitor, sale, sale.Photos[1], sale.Print)).StatusCode);
        // The last of it: whose gate is shut, and a shop that is closed.
        (await SayAsync(sale.Owner, "album", sale.Album, "staff")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/buy/{sale.Album}/{sale.Photos[0]}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await AddAsync(visitor, sale, sale.Photos[0], sale.Print)).StatusCode);
        Assert.Equal("/basket", (await visitor.GetAsync("/basket/check-out")).Headers.Location!.ToString());
        (await SayAsync(sale.Owner, "album", sale.Album, "everyone")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
        // What was not ordered is still there.
        Assert.Contains("It is not sold any more", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        (await ShopAsync(sale.Owner, Shop(isOpen: false))).EnsureSuccessStatusCode();
        Assert.DoesNotContain("data-sold", await visitor.GetStringAsync("/album/night"), StringComparison.Ordinal);
        Assert.Contains("Nothing is sold here at the moment.", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_album_is_sold_only_in_the_shop_s_currency()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        // Whatever is changed, pages that were made before say so at once.
        async Task<bool> SellsAsync() => (await visitor.GetStringAsync("/album/night")).Contains("data-sold", StringComparison.Ordinal);
        Assert.True(await SellsAsync());
        (await ShopAsync(sale.Owner, Shop(currency: "GBP"))).EnsureSuccessStatusCode();
        Assert.False(await SellsAsync());
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync($"/buy/{sale.Album}/{sale.Photos[0]}")).StatusCode);
        (await ShopAsync(sale.Owner, Shop())).EnsureSuccessStatusCode();
        Assert.True(await SellsAsync());
        var by = new { list = (string?)sale.List, without = Array.Empty<string>() };
        (await sale.Owner.PutAsJsonAsync($"/api/albums/{sale.Album}/selling", new { selling = new { list = (string?)null, without = Array.Empty<string>() }, was = by })).EnsureSuccessStatusCode();
        Assert.False(await SellsAsync());
    }

    [Fact]
    public async Task Pressed_again_and_again_an_order_is_placed_once()
    {
        await using var sale = await SaleAsync(1);
        sale.Site.Process(workers: 0);
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var page = await CheckOutAsync(visitor);
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => OrderAsync(visitor, page)));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.SeeOther, a.StatusCode));
        var order = Assert.Single(answers.Select(a => a.Headers.Location!.ToString()).Distinct(), a => a.StartsWith("/order/", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(order)).StatusCode);
        Assert.Single(await OrdersAsync(sale.Owner));
        // Two pages of one basket are one order, too: the second finds nothing to order.
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        var (one, other) = (await CheckOutAsync(visitor), await CheckOutAsync(visitor));
        await Task.WhenAll(OrderAsync(visitor, one), OrderAsync(visitor, other));
        Assert.Equal(2, (await OrdersAsync(sale.Owner)).Length);
    }

    [Fact]
    public async Task Numbers_have_no_gaps_however_many_order_at_once()
    {
        await using var sale = await SaleAsync(1);
        sale.Site.Process(workers: 0);
        await Task.WhenAll(Enumerable.Range(0, 12).Select(_ => BuyAsync(sale.Site.Visitor(), sale, sale.Print)));
        Assert.Equal(Enumerable.Range(1001, 12).Select(n => (long)n), (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("number").GetInt64()).Order());
    }

    [Fact]
    public async Task Nobody_comes_to_another_s_basket_or_order()
    {
        await using var sale = await SaleAsync(1);
        var (visitor, other) = (sale.Site.Visitor(), sale.Site.Visitor());
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        await AddAsync(other, sale, sale.Photos[0], sale.File);
        var line = Assert.Single(await LinesAsync(visitor));
        await FormAsync(other, "/basket/lines", ($"count-{line}", "9"), ("out", line));
        Assert.Contains("value=\"1\"", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        // The link of an order that somebody else sends with a form of their own places nothing, and tells nothing but to who has it.
        var page = await CheckOutAsync(visitor);
        var link = (await OrderAsync(visitor, page)).Headers.Location!.ToString();
        await OrderAsync(other, (page.Order, (await CheckOutAsync(other)).Seen));
        Assert.Single(await LinesAsync(other));
        Assert.Single(await OrdersAsync(sale.Owner));
        foreach (var wrong in new[] { $"{link[..^1]}{(link[^1] == 'A' ? 'B' : 'A')}", "/order/1001", $"/order/{Guid.NewGuid()}", $"{link}/files/1", $"{link}/files/0", $"{link}/files/9" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(wrong)).StatusCode);
        }

        foreach (var from in new[] { "cross-site", "same-site" })
        {
            using var forged = new HttpRequestMessage(HttpMethod.Post, "/basket") { Content = new FormUrlEncodedContent([KeyValuePair.Create("album", sale.Album)]) };
            forged.Headers.Add("Sec-Fetch-Site", from);
            Assert.Equal(HttpStatusCode.NotFound, (await visitor.SendAsync(forged)).StatusCode);
        }

        // Orders are no page that anything between may keep, or that a search engine finds.
        var shown = await visitor.GetAsync(link);
        Assert.Equal(("private, no-store", "noindex", "no-referrer"), (string.Join(", ", shown.Headers.GetValues("Cache-Control")).Replace("no-store, private", "private, no-store", StringComparison.Ordinal), shown.Headers.GetValues("X-Robots-Tag").Single(), shown.Headers.GetValues("Referrer-Policy").Single()));
    }

    [Fact]
    public async Task A_file_is_fetched_once_it_is_paid_as_often_and_as_long_as_it_was_sold()
    {
        await using var sale = await SaleAsync(1);
        var visitor = sale.Site.Visitor();
        var link = await BuyAsync(visitor, sale, sale.File, "Files");
        var file = $"{link}/files/1";
        Assert.Equal(HttpStatusCode.Forbidden, (await visitor.GetAsync(file)).StatusCode);
        var id = (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        await (await StepAsync(sale.Owner, id, "pay")).ReadAsync();
        Assert.Contains(file, await visitor.GetStringAsync(link), StringComparison.Ordinal);
        // Asking what it is like is not fetching it. A photo that was withdrawn or thrown away since was sold all the same.
        using var head = new HttpRequestMessage(HttpMethod.Head, file);
        Assert.Equal(HttpStatusCode.OK, (await visitor.SendAsync(head)).StatusCode);
        await (await sale.Owner.PostAsJsonAsync("/api/bin", new { photos = sale.Photos[..1] })).ReadAsync();
        var fetched = await visitor.GetAsync(file);
        Assert.Equal(HttpStatusCode.OK, fetched.StatusCode);
        using var picture = NetVips.Image.NewFromBuffer(await fetched.Content.ReadAsByteArrayAsync());
        Assert.Equal((600, 400), (picture.Width, picture.Height));
        var both = await Task.WhenAll(visitor.GetAsync(file), visitor.GetAsync(file));
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Forbidden], both.Select(b => b.StatusCode).Order());
        Assert.Equal(2, (await (await sale.Owner.GetAsync($"/api/orders/{id}")).ReadAsync()).GetProperty("lines")[0].GetProperty("fetched").GetInt32());
        await sale.Site.WriteAsync("update sale_order_line set fetched = 0");
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(file)).StatusCode);
        await sale.Site.WriteAsync("begin; set local jovitar.act = '00000000-0000-0000-0000-000000000001'; update sale_order set paid = paid - interval '31 days'; commit");
        Assert.Equal(HttpStatusCode.Forbidden, (await visitor.GetAsync(file)).StatusCode);
        Assert.Contains("It was there for 30 days", await visitor.GetStringAsync(link), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_an_order_goes_says_what_it_costs_and_whether_it_comes()
    {
        await using var sale = await SaleAsync(1, Shop(postage: Postage(collected: "At the workshop.", abroad: "perItem", abroadCosts: "6.00"), tax: "added", percent: "20"));
        var visitor = sale.Site.Visitor();
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "2");
        var page = await CheckOutAsync(visitor);
        var looked = await OrderAsync(visitor, page, country: "FR", act: "look");
        // (8.00 + 2 × 6.00) × 1.2
        Assert.Contains("EUR 24.00", await looked.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Empty(await OrdersAsync(sale.Owner));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await OrderAsync(visitor, page, way: "Express")).StatusCode);
        var collected = await OrderAsync(visitor, page, way: "Collect", town: "");
        Assert.Equal(HttpStatusCode.SeeOther, collected.StatusCode);
        var order = await (await sale.Owner.GetAsync($"/api/orders/{(await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()}")).ReadAsync();
        Assert.Equal(("EUR 9.60", 0), (order.GetProperty("total").GetString(), order.GetProperty("address").GetArrayLength()));
        // Nothing is kept of where somebody lives who comes and collects it.
        Assert.DoesNotContain("Ropewalk", await sale.Site.ScalarAsync<string>("select content::text from sale_order"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.SeeOther, (await AddAsync(visitor, sale, sale.Photos[0], sale.Print)).StatusCode);
        (await ShopAsync(sale.Owner, Shop())).EnsureSuccessStatusCode();
        var nowhere = await OrderAsync(visitor, await CheckOutAsync(visitor), country: "FR");
        Assert.Equal((HttpStatusCode.UnprocessableEntity, true), (nowhere.StatusCode, (await nowhere.Content.ReadAsStringAsync()).Contains("Nothing is sent to France.", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task An_order_of_nothing_is_paid_at_once()
    {
        await using var sale = await SaleAsync(1, Shop(postage: Postage(atHome: "", collected: "At the workshop.")));
        await PriceAsync(sale, "0");
        await BuyAsync(sale.Site.Visitor(), sale, sale.Print, "Collect");
        var line = Assert.Single(await OrdersAsync(sale.Owner));
        Assert.Equal(("EUR 0.00", true), (line.GetProperty("total").GetString(), line.GetProperty("isPaid").GetBoolean()));
    }

    [Fact]
    public async Task Buyer_and_seller_have_a_letter_and_the_link_in_it_opens_the_order()
    {
        await using var sale = await SaleAsync(1);
        sale.Site.Process(workers: 0, mail: 2525);
        var visitor = sale.Site.Visitor();
        var link = await BuyAsync(visitor, sale, sale.Print);
        Assert.Contains(link, await sale.Site.ScalarAsync<string>("select body from letter where to_address = 'nell@example.test'"), StringComparison.Ordinal);
        Assert.Contains("Nell Garrow has ordered:", await sale.Site.ScalarAsync<string>("select body from letter where to_address <> 'nell@example.test'"), StringComparison.Ordinal);
        // Nobody has letters sent to one address without end.
        for (var i = 0; i < 2; i++)
        {
            await BuyAsync(visitor, sale, sale.Print);
        }

        await AddAsync(visitor, sale, sale.Photos[0], sale.Print);
        Assert.Equal(HttpStatusCode.TooManyRequests, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
        Assert.Equal(3, (await OrdersAsync(sale.Owner)).Length);
    }

    [Fact]
    public async Task A_buyer_who_has_lost_the_link_has_a_new_one_and_the_former_opens_nothing()
    {
        await using var standin = await Standin.StartAsync(Path.GetTempPath());
        await using var sale = await SaleAsync(mail: standin.MailPort);
        var visitor = sale.Site.Visitor();
        var former = await BuyAsync(visitor, sale, sale.Print);
        var order = (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/link", new { }, 9)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{Guid.NewGuid()}/link", new { }, 1)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync(former)).StatusCode);
        var answer = await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/link", new { }, 1);
        Assert.True(answer.Headers.CacheControl?.NoStore);
        var made = await answer.ReadAsync();
        var link = made.GetProperty("link").GetString()!;
        Assert.Equal(2, made.GetProperty("order").GetProperty("version").GetInt64());
        Assert.Contains("Order 1001", await visitor.GetStringAsync(new Uri(link).AbsolutePath), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await visitor.GetAsync(former)).StatusCode);
        Assert.Contains(await standin.LettersAsync(3), l => l.Subject == "The link of your order 1001 from Trial" && l.To.Contains("nell@example.test", StringComparison.Ordinal) && l.Text.Contains(link, StringComparison.Ordinal));
        // It is not taken back, and the database has no link.
        Assert.Equal("Entry", await sale.Site.ScalarAsync<string>("select kind from act where sentence = 'Order 1001: made a new link; the former one opens nothing any more.'"));
        Assert.Equal(HttpStatusCode.Conflict, (await sale.Owner.PostAsJsonAsync($"/api/acts/{made.GetProperty("done").GetProperty("act").GetString()}/undo", new { })).StatusCode);
        await sale.Site.UntilAsync("select count(*) from letter where body is not null", 0);
    }

    [Fact]
    public async Task The_shop_is_the_owner_s_and_two_who_change_it_lose_nothing()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, editor) = (await site.OwnerAsync(), await site.EditorAsync("Tomas"));
        Assert.Equal(HttpStatusCode.Forbidden, (await ShopAsync(editor, Shop())).StatusCode);
        var opened = await (await ShopAsync(owner, Shop())).ReadAsync();
        Assert.Contains("Opened the shop.", await owner.GetStringAsync("/api/acts"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await owner.SendAsync(HttpMethod.Put, "/api/shop", Shop(isOpen: false), 1)).StatusCode);
        foreach (var wrong in new[] { Shop(payment: ""), Shop(currency: "XXY"), Shop(tax: "added", percent: "much"), Shop(postage: Postage(atHome: "four")) })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(owner, wrong)).StatusCode);
        }

        // What it cannot do without is taken back: it counts as closed, and nothing else is amiss.
        await owner.UndoAsync(opened);
        var shop = await (await editor.GetAsync("/api/shop")).ReadAsync();
        Assert.Equal((false, 249), (shop.GetProperty("shop").GetProperty("isOpen").GetBoolean(), shop.GetProperty("countries").GetArrayLength()));
        await site.VerifyAsync();
    }

    [Theory]
    [InlineData("0", 0.0)]
    [InlineData("100", 0.25)]
    [InlineData("", 0.125)]
    [InlineData("elsewhere", 0.125)]
    [InlineData("1e9", 0.25)]
    [InlineData("NaN", 0.125)]
    public async Task What_a_buyer_moves_of_a_print_is_kept_with_the_order(string at, double x)
    {
        await using var sale = await SaleAsync(1);
        var version = (await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync()).GetProperty("version").GetInt64();
        // 900 by 600 pixels on 10 by 11.25 centimetres: a quarter of the picture is cut off at its sides.
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options = new object[] { new { id = sale.Print, kind = "print", size = "10x11.25 cm", price = "4" } } }, version)).ReadAsync();
        var visitor = sale.Site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, (await AddAsync(visitor, sale, sale.Photos[0], sale.Print, at: at)).StatusCode);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
        var crop = (await (await sale.Owner.GetAsync($"/api/orders/{(await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()}")).ReadAsync()).GetProperty("lines")[0].GetProperty("crop");
        Assert.Equal((x, 0.75), (crop.GetProperty("x").GetDouble(), crop.GetProperty("width").GetDouble()));
    }
}
