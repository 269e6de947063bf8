using System.Net;
using System.Text.Json;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Who bought is forgotten: nothing that names them is left anywhere, except what the law asks to keep, and that until then.</summary>
public sealed class ForgettingTests
{
    static object Selling(int? months = null, int invoiceYears = 10) => new
    {
        isOpen = true,
        currency = "EUR",
        postage = Postage(),
        tax = new { kind = "none", percent = "", name = "" },
        payment = "Pay into the account.",
        invoices = new { areWritten = true, seller = "Marram Bay Kite Guild\nThe sail loft", taxNumber = "", prefix = "G-", first = 1, foot = "" },
        forgetting = new { months, invoiceYears },
    };

    /// <summary>The tables in which a word stands somewhere.</summary>
    static async Task<string> WhereAsync(Site site, string word) => await site.ScalarAsync<string>(
        $$"""
        create or replace function pg_temp.tables_with(word text) returns text language plpgsql as $f$
        declare
          name text;
          is_there boolean;
          found text := '';
        begin
          for name in select table_name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1 loop
            execute format('select exists (select from %I as t where t::text ilike %L)', name, '%' || word || '%') into is_there;
            found := found || case when is_there then name || ' ' else '' end;
          end loop;
          return trim(found);
        end $f$;
        select pg_temp.tables_with('{{word}}')
        """);

    static async Task<JsonElement> OneAsync(Sale sale, string order) => await (await sale.Owner.GetAsync($"/api/orders/{order}")).ReadAsync();

    static async Task<HttpResponseMessage> ForgetAsync(HttpClient staff, Sale sale, string order, long? version = null) =>
        await staff.SendAsync(HttpMethod.Post, $"/api/orders/{order}/forget", new { }, version ?? (await OneAsync(sale, order)).GetProperty("version").GetInt64());

    static async Task<(string Order, string Link)> BoughtAsync(Sale sale, params string[] steps)
    {
        var before = (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("id").GetString()).ToHashSet();
        var link = await BuyAsync(sale.Site.Visitor(), sale, sale.Print);
        var order = (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("id").GetString()!).Single(o => !before.Contains(o));
        foreach (var step in steps)
        {
            (await StepAsync(sale.Owner, order, step)).EnsureSuccessStatusCode();
        }

        return (order, link);
    }

    static Task SettledAsync(Site site) => site.UntilAsync("select count(*) from sale_order where to_bill", 0);

    [Fact]
    public async Task Whoever_bought_is_forgotten_in_all_that_is_done_and_their_links_open_nothing()
    {
        await using var sale = await SaleAsync(1, Selling());
        var (first, link) = await BoughtAsync(sale, "pay", "send");
        var (second, _) = await BoughtAsync(sale, "cancel");
        var (open, openLink) = await BoughtAsync(sale, "pay");
        await SettledAsync(sale.Site);
        foreach (var note in new[] { "Nell’s aunt fetches it.", "Nell herself does." })
        {
            await sale.Owner.SendAsync(HttpMethod.Put, $"/api/orders/{first}/note", new { note }, (await OneAsync(sale, first)).GetProperty("version").GetInt64());
        }

        var seen = await OneAsync(sale, first);
        Assert.True(seen.GetProperty("canForget").GetBoolean());
        Assert.Equal(DateTimeOffset.UtcNow.Year + 10, seen.GetProperty("namedUntil").GetInt32());
        Assert.False((await OneAsync(sale, open)).GetProperty("canForget").GetBoolean());
        Assert.Equal(HttpStatusCode.Conflict, (await ForgetAsync(sale.Owner, sale, open)).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await ForgetAsync(sale.Owner, sale, first, version: 1)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await ForgetAsync(sale.Owner, sale, Guid.NewGuid().ToString(), version: 1)).StatusCode);

        (await ForgetAsync(sale.Owner, sale, first)).EnsureSuccessStatusCode();
        foreach (var order in new[] { first, second })
        {
            var forgotten = await OneAsync(sale, order);
            Assert.Equal(("", "", 0), (forgotten.GetProperty("name").GetString(), forgotten.GetProperty("email").GetString(), forgotten.GetProperty("note").GetString()!.Length));
            Assert.Equal("EUR 8.50", forgotten.GetProperty("total").GetString());
            Assert.Equal(JsonValueKind.String, forgotten.GetProperty("forgotten").ValueKind);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await sale.Site.Visitor().GetAsync(link)).StatusCode);
        // The one that is still to be sent is whole, and opens.
        Assert.Equal("Nell Garrow", (await OneAsync(sale, open)).GetProperty("name").GetString());
        Assert.Equal(HttpStatusCode.OK, (await sale.Site.Visitor().GetAsync(openLink)).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await ForgetAsync(sale.Owner, sale, first)).StatusCode);

        // Letters that have left are forgotten with the last of theirs.
        await sale.Site.WriteAsync("insert into letter (id, to_name, to_address, subject, made, until, sent) values (gen_random_uuid(), 'Nell Garrow', 'Nell@example.test', 'Your order', now(), now(), now())");
        // Once the last of theirs is done, nothing of them is left but the invoices.
        (await StepAsync(sale.Owner, open, "send")).EnsureSuccessStatusCode();
        await SettledAsync(sale.Site);
        (await ForgetAsync(sale.Owner, sale, open)).EnsureSuccessStatusCode();
        Assert.Equal("invoice", await WhereAsync(sale.Site, "nell"));
        Assert.Equal("invoice", await WhereAsync(sale.Site, "Ropewalk"));
        // Which name nobody any more after ten years, and are numbered as before.
        var papers = sale.Site.Part<Sales.Forgetting.ForgettingStore>();
        await papers.ForgetAsync(DateTimeOffset.UtcNow.AddYears(10), CancellationToken.None);
        Assert.Equal("invoice", await WhereAsync(sale.Site, "nell"));
        await papers.ForgetAsync(DateTimeOffset.UtcNow.AddYears(11), CancellationToken.None);
        Assert.Equal("", await WhereAsync(sale.Site, "nell"));
        Assert.Equal(2L, await sale.Site.ScalarAsync<long>("select count(*) from invoice where content::text like '%8.50%'"));
        Assert.Equal(HttpStatusCode.OK, (await sale.Owner.GetAsync($"/api/orders/{first}/invoices/1")).StatusCode);
    }

    [Fact]
    public async Task The_shop_forgets_by_itself_as_it_says_and_only_what_is_done()
    {
        await using var sale = await SaleAsync(1, Selling());
        var (done, _) = await BoughtAsync(sale, "pay", "send");
        var (unpaid, _) = await BoughtAsync(sale, "send");
        var store = sale.Site.Part<Sales.Forgetting.ForgettingStore>();
        var later = DateTimeOffset.UtcNow.AddMonths(12).AddDays(1);
        await store.ForgetAsync(later, CancellationToken.None);
        Assert.Equal("Nell Garrow", (await OneAsync(sale, done)).GetProperty("name").GetString());
        (await ShopAsync(sale.Owner, Selling(months: 12))).EnsureSuccessStatusCode();
        await store.ForgetAsync(DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.Equal("Nell Garrow", (await OneAsync(sale, done)).GetProperty("name").GetString());
        await store.ForgetAsync(later, CancellationToken.None);
        Assert.Equal("", (await OneAsync(sale, done)).GetProperty("name").GetString());
        Assert.Equal("Nell Garrow", (await OneAsync(sale, unpaid)).GetProperty("name").GetString());
        var acts = await (await sale.Owner.GetAsync("/api/acts")).ReadAsync();
        Assert.Contains("who bought is forgotten.", acts.ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.BadRequest, (await ShopAsync(sale.Owner, Selling(months: 0))).StatusCode);
    }

    [Fact]
    public async Task Two_who_forget_the_same_buyer_at_once_do_it_once()
    {
        await using var sale = await SaleAsync(1, Selling());
        string[] orders = [(await BoughtAsync(sale, "cancel")).Order, (await BoughtAsync(sale, "cancel")).Order, (await BoughtAsync(sale, "cancel")).Order];
        var answers = await Task.WhenAll(orders.Select(async o => (await ForgetAsync(sale.Owner, sale, o)).StatusCode));
        // Whoever comes second finds it another than they looked at, or forgotten.
        Assert.Single(answers, HttpStatusCode.OK);
        Assert.All(answers, a => Assert.True(a is HttpStatusCode.OK or HttpStatusCode.Conflict or HttpStatusCode.PreconditionFailed, $"{a}"));
        Assert.Equal("", await WhereAsync(sale.Site, "nell"));
    }
}
