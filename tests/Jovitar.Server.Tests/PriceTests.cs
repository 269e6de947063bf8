using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Price lists and sales galleries, from the door to the database and back.</summary>
public sealed class PriceTests
{
    static async Task<JsonElement> GetAsync(HttpClient client, string address) => await (await client.GetAsync(address)).ReadAsync();

    static object Option(string size, string price, string? id = null, string kind = "print", object? breaks = null, bool isOff = false, int? longestEdge = null, string name = "") => new
    {
        id = id ?? Guid.NewGuid().ToString(),
        kind,
        name,
        size,
        price,
        breaks = breaks ?? Array.Empty<object>(),
        isOff,
        longestEdge,
    };

    static object Said(string name, params object[] options) => new { name, currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options };

    static async Task<string> BeginAsync(HttpClient client, string name = "Prints") =>
        (await (await client.PostAsJsonAsync("/api/prices", new { name, currency = "EUR" })).ReadAsync()).GetProperty("seen").GetProperty("id").GetString()!;

    static Task<HttpResponseMessage> WriteAsync(HttpClient client, string list, long version, object said) => client.SendAsync(HttpMethod.Put, $"/api/prices/{list}", said, version);

    static readonly object Nothing = new { list = (string?)null, without = Array.Empty<string>() };

    static object By(string list, params string[] without) => new { list, without };

    static Task<HttpResponseMessage> SellAsync(HttpClient client, string album, object selling, object was) => client.PutAsJsonAsync($"/api/albums/{album}/selling", new { selling, was });

    static async Task<string> AlbumAsync(HttpClient owner, string name = "Sale") => (await (await owner.PostAsJsonAsync("/api/albums", new { workingName = name })).ReadAsync()).GetProperty("id").GetString()!;

    static string[] Ids(JsonElement seen) => [.. seen.GetProperty("list").GetProperty("options").EnumerateArray().Select(o => o.GetProperty("id").GetString()!)];

    static async Task<string> LastActAsync(HttpClient owner) => (await GetAsync(owner, "/api/acts")).GetProperty("acts")[0].GetProperty("sentence").GetString()!;

    [Fact]
    public async Task A_list_is_written_whole_told_in_the_history_and_taken_back()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var list = await BeginAsync(owner);
        var print = Guid.NewGuid().ToString();
        var written = await (await WriteAsync(owner, list, 1, Said("Prints", Option("20x30 cm", "12,5", print), Option("", "5", kind: "digital")))).ReadAsync();
        var seen = written.GetProperty("seen");
        Assert.Equal(["20 × 30 cm print", "File, full size"], seen.GetProperty("called").EnumerateArray().Select(c => c.GetString()));
        // As it is kept, not as it was typed.
        Assert.Equal(("20 × 30 cm", "12.50"), (seen.GetProperty("list").GetProperty("options")[0].GetProperty("size").GetString(), seen.GetProperty("list").GetProperty("options")[0].GetProperty("price").GetString()));
        var dearer = await (await WriteAsync(owner, list, 2, Said("Prints", Option("20 × 30 cm", "14", print)))).ReadAsync();
        Assert.Equal("Prints: 20 × 30 cm print costs 14.00 EUR instead of 12.50 EUR.", await LastActAsync(owner));
        await owner.UndoAsync(dearer);
        Assert.Equal(["12.50", "5.00"], (await GetAsync(owner, $"/api/prices/{list}")).GetProperty("list").GetProperty("options").EnumerateArray().Select(o => o.GetProperty("price").GetString()));
        Assert.Equal(1, (await GetAsync(owner, "/api/prices")).GetProperty("lists").GetArrayLength());
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Two_editors_lose_nothing_of_each_others_and_what_is_wrong_is_said_of_the_option()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        var list = await BeginAsync(owner);
        await (await WriteAsync(owner, list, 1, Said("Prints", Option("20x30 cm", "12")))).ReadAsync();
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await WriteAsync(editor, list, 1, Said("Mine"))).StatusCode);
        var (good, bad) = (Guid.NewGuid().ToString(), Guid.NewGuid().ToString());
        var worse = Guid.NewGuid().ToString();
        var refused = await WriteAsync(owner, list, 2, Said("Prints", Option("10x15 cm", "3", good), Option("10x15", "3", bad), Option("A4", "a lot", worse)));
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Equal([bad, worse], (await refused.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("fields").EnumerateObject().Select(f => f.Name));
        foreach (var wrong in new[]
        {
            Said("Prints", Option("10x15 cm", "three")), Said("Prints", Option("10x15 cm", "3", good), Option("20x30 cm", "3", good)), Said(" "), Said("Prints", [.. Enumerable.Range(0, 121).Select(i => Option($"{i + 10}x30 cm", "3"))]),
            Said("Prints", Option("10x15 cm", "3", breaks: new[] { new { from = 1, each = "2" } })), Said("Prints", Option("10x15 cm", "3", name: new string('x', 81))), Said("Prints", Option("10x15 cm", "99999999999")),
            Said("Prints", [null!]), Said("Prints", Option("10x15 cm", "3", breaks: new object?[] { null })),
        })
        {
            Assert.Equal(HttpStatusCode.BadRequest, (await WriteAsync(owner, list, 2, wrong)).StatusCode);
        }

        Assert.Equal(HttpStatusCode.Conflict, (await editor.PostAsJsonAsync("/api/prices", new { name = "PRINTS", currency = "EUR" })).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await editor.PostAsJsonAsync("/api/prices", new { name = "Walls", currency = "XXY" })).StatusCode);
        Assert.Equal("12.00", (await GetAsync(owner, $"/api/prices/{list}")).GetProperty("list").GetProperty("options")[0].GetProperty("price").GetString());
    }

    [Fact]
    public async Task An_album_sells_by_a_list_until_that_is_said_otherwise()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (list, album) = (await BeginAsync(owner), await AlbumAsync(owner));
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/albums/{album}/fit")).StatusCode);
        var sold = await (await SellAsync(owner, album, By(list), Nothing)).ReadAsync();
        Assert.Equal("The photos of the album “Sale” are sold by the price list “Prints”.", await LastActAsync(owner));
        // Who looked before does not overrule.
        Assert.Equal(HttpStatusCode.Conflict, (await SellAsync(owner, album, Nothing, Nothing)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await SellAsync(owner, album, By(Guid.NewGuid().ToString()), By(list))).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await owner.SendAsync(HttpMethod.Delete, $"/api/prices/{list}", null, 1)).StatusCode);
        Assert.Equal("Sale", (await GetAsync(owner, $"/api/prices/{list}")).GetProperty("galleries")[0].GetProperty("name").GetString());
        await owner.UndoAsync(sold);
        Assert.Equal(JsonValueKind.Null, (await GetAsync(owner, $"/api/albums/{album}/selling")).GetProperty("list").ValueKind);
        var gone = await (await owner.SendAsync(HttpMethod.Delete, $"/api/prices/{list}", null, 1)).ReadAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await SellAsync(owner, album, By(list), Nothing)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.GetAsync($"/api/prices/{list}")).StatusCode);
        await owner.UndoAsync(gone);
        (await SellAsync(owner, album, By(list), Nothing)).EnsureSuccessStatusCode();
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_list_that_goes_the_moment_an_album_would_sell_by_it_leaves_no_album_without_its_list()
    {
        await using var site = await Site.StartAsync(workers: 0);
        site.Process(workers: 0);
        var owner = await site.OwnerAsync();
        var editor = await site.EditorAsync("Tomas");
        for (var round = 0; round < 8; round++)
        {
            var (list, album) = (await BeginAsync(owner, $"List {round}"), await AlbumAsync(owner, $"Album {round}"));
            var answers = await Task.WhenAll(SellAsync(editor, album, By(list), Nothing), owner.SendAsync(HttpMethod.Delete, $"/api/prices/{list}", null, 1));
            Assert.Equal(1, answers.Count(a => a.IsSuccessStatusCode));
        }

        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from album as a join price_list as l on l.id = a.price_list where l.binned is not null"));
    }

    [Fact]
    public async Task How_photos_fit_is_known_before_anybody_buys_them()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (list, album) = (await BeginAsync(owner), await AlbumAsync(owner));
        var intake = await owner.IntakeAsync(album);
        var photos = new List<string>();
        foreach (var (name, width, height) in new[] { ("wide.jpg", 1800, 1200), ("square.jpg", 1200, 1200), ("small.jpg", 120, 80) })
        {
            photos.Add((await owner.BringAsync(intake, name, Acts.Photo(photos.Count, width, height))).GetProperty("photo").GetString()!);
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        var seen = (await (await WriteAsync(owner, list, 1, Said("Prints", Option("10x15 cm", "4"), Option("8x10 in", "9"), Option("", "5", kind: "digital", longestEdge: 1600)))).ReadAsync()).GetProperty("seen");
        var ids = Ids(seen);
        (await SellAsync(owner, album, By(list), Nothing)).EnsureSuccessStatusCode();
        async Task<(string Photo, string Cells)[]> FitAsync(string query = "") =>
            [.. (await GetAsync(owner, $"/api/albums/{album}/fit{query}")).GetProperty("listed").EnumerateArray().Select(p => (p.GetProperty("fileName").GetString()!, string.Join(' ', p.GetProperty("cells").EnumerateArray().Select(c => $"{c.GetProperty("why").GetString()}/{c.GetProperty("grade")}"))))];
        // 1,800 by 1,200 pixels: 304 an inch on 10 by 15 centimetres, 150 on 8 by 10 inches, of which a sixth is lost; a file of 1,600.
        Assert.Equal([("wide.jpg", "no/good no/poor no/"), ("square.jpg", "no/fair no/poor tooSmall/tooSmall"), ("small.jpg", "tooSmall/tooSmall tooSmall/tooSmall tooSmall/tooSmall")], await FitAsync());
        var wide = (await GetAsync(owner, $"/api/albums/{album}/fit")).GetProperty("listed")[0].GetProperty("cells")[1];
        Assert.Equal((0.1667, 150), (wide.GetProperty("lost").GetDouble(), wide.GetProperty("pixelsPerInch").GetInt32()));
        Assert.Equal([("small.jpg", "tooSmall/tooSmall tooSmall/tooSmall tooSmall/tooSmall")], await FitAsync("?nothing=true"));

        // Turned out of a photo and out of the album, and back by undo.
        var without = await (await owner.PostAsJsonAsync("/api/photos/selling", new { photos = new[] { photos[0] }, without = new[] { ids[0] }, with = Array.Empty<string>() })).ReadAsync();
        (await SellAsync(owner, album, By(list, ids[1]), By(list))).EnsureSuccessStatusCode();
        Assert.Equal("byPhoto/good byAlbum/poor no/", (await FitAsync())[0].Cells);
        await owner.UndoAsync(without);
        Assert.Equal("no/good byAlbum/poor no/", (await FitAsync())[0].Cells);
        var summary = (await GetAsync(owner, $"/api/albums/{album}/fit")).GetProperty("options");
        Assert.Equal((2, false), (summary[0].GetProperty("fits").GetProperty("offered").GetInt32(), summary[1].GetProperty("here").GetBoolean()));

        // By its corrections: cut to a square, the wide one fits as the square one does.
        await (await owner.PostAsJsonAsync("/api/corrections", new { photos = photos[..1], shape = "square" })).ReadAsync();
        Assert.Equal("no/fair byAlbum/poor tooSmall/tooSmall", (await FitAsync())[0].Cells);
    }

    static ByteArrayContent Csv(string text, Encoding? encoding = null)
    {
        var content = new ByteArrayContent((encoding ?? Encoding.UTF8).GetBytes(text));
        content.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        return content;
    }

    [Fact]
    public async Task A_list_goes_into_a_spreadsheet_and_comes_back_changed()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var list = await BeginAsync(owner);
        await (await WriteAsync(owner, list, 1, Said("Prints", Option("20x30 cm", "12"), Option("", "5", kind: "other", name: "=Frame, oak")))).ReadAsync();
        var table = await owner.GetStringAsync($"/api/prices/{list}/table.csv");
        // What a spreadsheet would run is written so that it does not.
        Assert.DoesNotContain(",=Frame", table, StringComparison.Ordinal);
        var same = await (await owner.PostAsync($"/api/prices/{list}/table/preview", Csv(table))).ReadAsync();
        Assert.Equal((2, 0, 0), (same.GetProperty("rows").GetInt32(), same.GetProperty("changed").GetInt32(), same.GetProperty("rejectedCount").GetInt32()));
        var changed = table.Replace(",12.00,", ",13.00,", StringComparison.Ordinal) + "\r\n,card,A6,gefaltet für dich,3,,,,,,,,,,,\r\n,poster,,,3,,,,,,,,,,,\r\n";
        var preview = await (await owner.PostAsync($"/api/prices/{list}/table/preview?encoding=windows-1252", Csv(changed, CodePagesEncodingProvider.Instance.GetEncoding(1252)))).ReadAsync();
        Assert.Equal((2, 1, 1), (preview.GetProperty("changed").GetInt32(), preview.GetProperty("added").GetInt32(), preview.GetProperty("rejectedCount").GetInt32()));
        Assert.Equal(["20 × 30 cm print: 12.00 EUR, then 13.00 EUR", "A6 gefaltet für dich: new, 3.00 EUR"], preview.GetProperty("changes").EnumerateArray().Select(c => c.GetString()));
        Assert.Equal(2, (await GetAsync(owner, $"/api/prices/{list}")).GetProperty("version").GetInt64());
        var done = await (await owner.PostAsync($"/api/prices/{list}/table?name=prices.csv", Csv(changed))).ReadAsync();
        Assert.Equal("Took 2 options of the price list “Prints” in from prices.csv.", await LastActAsync(owner));
        Assert.Equal(3, Ids(await GetAsync(owner, $"/api/prices/{list}")).Length);
        await owner.UndoAsync(done);
        Assert.Equal(2, Ids(await GetAsync(owner, $"/api/prices/{list}")).Length);
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PostAsync($"/api/prices/{list}/table/preview", Csv("colour,taste\r\nred,sweet\r\n"))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PostAsync($"/api/prices/{Guid.NewGuid()}/table/preview", Csv(table))).StatusCode);
    }
}
