using System.Net;
using System.Text.Json;
using static Jovitar.Server.Tests.BuyingSteps;
using static Jovitar.Server.Tests.MemberSteps;

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

    [Fact]
    public async Task A_member_who_is_erased_is_forgotten_as_a_buyer_too()
    {
        await using var sale = await SaleAsync(1, Selling());
        var member = await MemberAsync(sale.Site, sale.Owner, "Quilliam");
        var id = await IdAsync(sale.Owner, "Quilliam");
        async Task<string> OrderedAsync(HttpClient buyer, string email)
        {
            await AddAsync(buyer, sale, sale.Photos[0], sale.Print);
            Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(buyer, await CheckOutAsync(buyer), name: "Quilliam Rook", email: email)).StatusCode);
            return (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        }

        // Signed in, and another time without.
        foreach (var order in new[] { await OrderedAsync(member, "elsewhere@example.test"), await OrderedAsync(sale.Site.Visitor(), "Quilliam@example.test") })
        {
            (await StepAsync(sale.Owner, order, "cancel")).EnsureSuccessStatusCode();
        }

        (await sale.Owner.PostAsync($"/api/members/{id}/erase", null)).EnsureSuccessStatusCode();
        Assert.Equal("", await WhereAsync(sale.Site, "quilliam"));
        Assert.Equal("", await WhereAsync(sale.Site, "elsewhere@example.test"));
        Assert.Equal(2, (await OrdersAsync(sale.Owner)).Length);
    }

    [Fact]
    public async Task One_that_cannot_be_read_keeps_nobody_else_from_being_forgotten()
    {
        await using var sale = await SaleAsync(1, Selling(months: 12));
        var (broken, _) = await BoughtAsync(sale, "cancel");
        var (whole, _) = await BoughtAsync(sale, "cancel");
        await sale.Site.WriteAsync($"update sale_order set content = '{{}}' where id = '{broken}'");
        await sale.Site.Part<Sales.Forgetting.ForgettingStore>().ForgetAsync(DateTimeOffset.UtcNow.AddMonths(13), CancellationToken.None);
        Assert.Equal($"{broken}", await sale.Site.ScalarAsync<string>("select string_agg(id::text, ' ') from sale_order where forgotten is null"));
        Assert.Equal("", (await OneAsync(sale, whole)).GetProperty("name").GetString());
    }

    [Fact]
    public async Task Nobody_makes_a_new_way_to_what_is_forgotten()
    {
        await using var sale = await SaleAsync(1, Selling());
        var (order, _) = await BoughtAsync(sale, "cancel");
        await sale.Owner.SendAsync(HttpMethod.Put, $"/api/orders/{order}/note", new { note = "Nell called." }, (await OneAsync(sale, order)).GetProperty("version").GetInt64());
        var forgotten = await (await ForgetAsync(sale.Owner, sale, order)).ReadAsync();
        var version = forgotten.GetProperty("order").GetProperty("version").GetInt64();
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.SendAsync(HttpMethod.Post, $"/api/orders/{order}/link", new { }, version)).StatusCode);
        // Whatever is taken back, nobody is known again.
        foreach (var act in (await (await sale.Owner.GetAsync("/api/acts")).ReadAsync()).GetProperty("acts").EnumerateArray().Take(4).ToArray())
        {
            var undone = await sale.Owner.PostAsync($"/api/acts/{act.GetProperty("id").GetString()}/undo", null);
            Assert.True((int)undone.StatusCode < 500, $"{act}");
        }

        Assert.Equal("", await WhereAsync(sale.Site, "nell"));
    }
}
