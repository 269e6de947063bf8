using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using CsvHelper;
using Jovitar.Core;
using Jovitar.Core.Favourites;
using Jovitar.Imaging;
using static Jovitar.Server.Tests.BuyingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Orders are printed from files of exactly the right size, whatever became of their photos since.</summary>
public sealed class PrintFileTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("jovitar-prints").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    async Task<(int Width, int Height)> SizeAsync(Stream jpeg)
    {
        var path = Path.Combine(folder, $"{Guid.NewGuid():N}.jpg");
        await using (var to = File.Create(path))
        {
            await jpeg.CopyToAsync(to);
        }

        return Picture.Measure(path) is var size ? (size.Width, size.Height) : default;
    }

    static async Task<ZipArchive> ZipAsync(HttpClient staff, string order = "")
    {
        var answer = await staff.GetAsync($"/api/orders/{(order == "" ? "" : $"{order}/")}prints.zip");
        Assert.Equal((HttpStatusCode.OK, "application/zip"), (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType));
        Assert.True(answer.Headers.CacheControl is { Private: true, NoStore: true });
        return new ZipArchive(await answer.Content.ReadAsStreamAsync(), ZipArchiveMode.Read);
    }

    /// <summary>What the sheet tells of each file, the same in both forms.</summary>
    static JsonElement[] Sheet(ZipArchive zip)
    {
        using var json = zip.GetEntry("prints.json")!.Open();
        var told = JsonDocument.Parse(json).RootElement.GetProperty("prints").EnumerateArray().ToArray();
        using var csv = new CsvReader(new StreamReader(zip.GetEntry("prints.csv")!.Open()), CultureInfo.InvariantCulture);
        csv.Read();
        csv.ReadHeader();
        foreach (var one in told)
        {
            Assert.True(csv.Read());
            Assert.Equal((one.GetProperty("file").GetString(), one.GetProperty("pixelsWide").GetInt32(), one.GetProperty("missing").GetString()), (csv.GetField("file"), csv.GetField<int>("pixels wide"), csv.GetField("missing")));
        }

        Assert.False(csv.Read());
        return told;
    }

    static string[] Files(ZipArchive zip) => [.. zip.Entries.Select(e => e.FullName)];

    /// <summary>An order of two prints of one photo, a print of another, and a file.</summary>
    static async Task<string> OrderOfThreeAsync(HttpClient visitor, Sale sale)
    {
        await AddAsync(visitor, sale, sale.Photos[0], sale.Print, "2");
        await AddAsync(visitor, sale, sale.Photos[1], sale.Print);
        await AddAsync(visitor, sale, sale.Photos[0], sale.File);
        Assert.Equal(HttpStatusCode.SeeOther, (await OrderAsync(visitor, await CheckOutAsync(visitor))).StatusCode);
        return (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
    }

    [Fact]
    public async Task An_order_leaves_as_files_of_the_size_that_is_printed_and_a_sheet_that_tells_of_them()
    {
        await using var sale = await SaleAsync();
        var order = await OrderOfThreeAsync(sale.Site.Visitor(), sale);
        using (var zip = await ZipAsync(sale.Owner, order))
        {
            Assert.Equal(4, zip.Entries.Count);
            var told = Sheet(zip);
            Assert.Equal([1, 2], told.Select(t => t.GetProperty("line").GetInt32()));
            Assert.Equal([2, 1], told.Select(t => t.GetProperty("pieces").GetInt32()));
            foreach (var one in told)
            {
                // 10 by 15 centimetres at 300 pixels an inch, as the photo stands.
                await using var jpeg = zip.GetEntry(one.GetProperty("file").GetString()!)!.Open();
                Assert.Equal((1772, 1181), await SizeAsync(jpeg));
                Assert.Equal((1772, 1181, 300, 0), (one.GetProperty("pixelsWide").GetInt32(), one.GetProperty("pixelsHigh").GetInt32(), one.GetProperty("pixelsPerInch").GetInt32(), one.GetProperty("bleed").GetInt32()));
                Assert.Equal((150, 100), (one.GetProperty("width").GetInt32(), one.GetProperty("height").GetInt32()));
                // The photo has 900 pixels for 15 centimetres.
                Assert.Equal(152, one.GetProperty("photoPixelsPerInch").GetInt32());
            }

            var sheet = await new StreamReader(zip.GetEntry("prints.json")!.Open()).ReadToEndAsync();
            Assert.Contains("10 × 15 cm print", sheet, StringComparison.Ordinal);
            Assert.DoesNotContain("Garrow", sheet, StringComparison.Ordinal);
        }

        // As the lab asks for them: 10 pixels a millimetre, and 3 mm to be cut off.
        (await ShopAsync(sale.Owner, ShopWith(254, 3))).EnsureSuccessStatusCode();
        var seen = await (await sale.Owner.GetAsync($"/api/orders/{order}")).ReadAsync();
        var print = seen.GetProperty("lines")[0].GetProperty("print");
        Assert.Equal((1560, 1060, 254, true), (print.GetProperty("width").GetInt32(), print.GetProperty("height").GetInt32(), print.GetProperty("pixelsPerInch").GetInt32(), print.GetProperty("isEnlarged").GetBoolean()));
        Assert.Equal(JsonValueKind.Null, seen.GetProperty("lines")[2].GetProperty("print").ValueKind);
        var single = await sale.Owner.GetAsync($"/api/orders/{order}/prints/2");
        Assert.Equal(("image/jpeg", true), (single.Content.Headers.ContentType?.MediaType, single.Content.Headers.ContentDisposition!.FileName!.StartsWith($"{seen.GetProperty("number")}-02-1x-10x15cm-print-", StringComparison.Ordinal)));
        Assert.Equal((1560, 1060), await SizeAsync(await single.Content.ReadAsStreamAsync()));
        Assert.Equal("Said how print files are made.", (await (await sale.Owner.GetAsync("/api/acts")).ReadAsync()).GetProperty("acts")[0].GetProperty("sentence").GetString());
    }

    static object ShopWith(int pixelsPerInch, int bleed) => new
    {
        isOpen = true,
        currency = "EUR",
        postage = Postage(),
        payment = "Pay into the account.",
        tax = new { kind = "none", percent = "", name = "" },
        prints = new { pixelsPerInch, bleed },
    };

    [Fact]
    public async Task What_is_wanted_whole_stays_so_from_the_basket_to_its_print_file()
    {
        await using var sale = await SaleAsync(1);
        var options = new object[] { new { id = sale.Print, kind = "print", size = "10x10 cm", price = "4.00" }, new { id = sale.File, kind = "wrap", size = "5x5 cm", edge = 10, price = "9.00" } };
        var version = (await (await sale.Owner.GetAsync($"/api/prices/{sale.List}")).ReadAsync()).GetProperty("version").GetInt64();
        await (await sale.Owner.SendAsync(HttpMethod.Put, $"/api/prices/{sale.List}", new { name = "Prints", currency = "EUR", limits = new { good = 300, fair = 200, least = 120 }, sellsSmall = false, options }, version)).ReadAsync();
        var visitor = sale.Site.Visitor();
        Task<HttpResponseMessage> PutAsync(string option, string fit) =>
            FormAsync(visitor, "/basket", ("album", sale.Album), ("photo", sale.Photos[0]), ("option", option), ("count", "1"), ("fit", fit), ("at", "0"));

        Assert.Contains("value=\"whole\"", await visitor.GetStringAsync($"/buy/{sale.Album}/{sale.Photos[0]}"), StringComparison.Ordinal);
        // What was wanted stays so where something else of the form is wrong.
        var wrong = await FormAsync(visitor, "/basket", ("album", sale.Album), ("photo", sale.Photos[0]), ("option", sale.Print), ("count", "none"), ("fit", "whole"));
        Assert.Contains("value=\"whole\" checked", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // What goes round edges cannot be whole; what was put in whole is as it was wanted last.
        await PutAsync(sale.File, "whole");
        await PutAsync(sale.Print, "");
        Assert.DoesNotContain("with a white border", await visitor.GetStringAsync("/basket"), StringComparison.Ordinal);
        await PutAsync(sale.Print, "whole");
        var basket = await visitor.GetStringAsync("/basket");
        Assert.Equal(2, basket.Split("with a white border").Length);
        Assert.Contains("class=\"printed-paper\"", basket, StringComparison.Ordinal);
        var page = (await OrderAsync(visitor, await CheckOutAsync(visitor))).Headers.Location!.ToString();
        Assert.Contains("10 × 10 cm print, with a white border, 2 pieces", WebUtility.HtmlDecode(await visitor.GetStringAsync(page)), StringComparison.Ordinal);

        var order = (await OrdersAsync(sale.Owner))[0].GetProperty("id").GetString()!;
        var line = (await (await sale.Owner.GetAsync($"/api/orders/{order}")).ReadAsync()).GetProperty("lines").EnumerateArray().Single(l => l.GetProperty("kind").GetString() == "print");
        // 900 by 600 pixels on a square: 150 of them white above, and 150 below; 900 on 10 centimetres.
        var crop = line.GetProperty("crop");
        Assert.Equal((0, -0.25, 1, 1.5, 228), (crop.GetProperty("x").GetDouble(), crop.GetProperty("y").GetDouble(), crop.GetProperty("width").GetDouble(), crop.GetProperty("height").GetDouble(), line.GetProperty("pixelsPerInch").GetInt32()));
        using var zip = await ZipAsync(sale.Owner, order);
        Assert.Contains("10 × 10 cm print, with a white border", Sheet(zip).Select(t => t.GetProperty("option").GetString()));
        // The packing slip is drawn with it, and several at once are wanted so as well.
        Assert.Equal(HttpStatusCode.OK, (await sale.Owner.GetAsync($"/api/orders/{order}/packing-slip.pdf")).StatusCode);
        var marks = MarkedPhotos.Of([new PhotoId(Guid.Parse(sale.Photos[0]))]).Address;
        foreach (var option in new[] { sale.Print, sale.File })
        {
            Assert.Equal(HttpStatusCode.SeeOther, (await FormAsync(visitor, "/basket/several", ("photos", marks), ("option", option), ("count", "1"), ("fit", "whole"), ("photo", sale.Photos[0]))).StatusCode);
        }

        Assert.Equal(sale.Print, await sale.Site.ScalarAsync<string>("select string_agg(option::text, ' ') from basket_line where is_whole"));
        await sale.Site.VerifyAsync();
    }

    [Fact]
    public async Task What_lies_in_the_bin_is_printed_and_what_is_gone_is_told()
    {
        await using var sale = await SaleAsync();
        var order = await OrderOfThreeAsync(sale.Site.Visitor(), sale);
        await (await sale.Owner.PostAsJsonAsync("/api/bin", new { photos = new[] { sale.Photos[0] } })).ReadAsync();
        using (var binned = await ZipAsync(sale.Owner, order))
        {
            Assert.Equal(["", ""], Sheet(binned).Select(t => t.GetProperty("missing").GetString()));
            Assert.Equal(4, binned.Entries.Count);
        }

        // As long as something of the order is to be done its photos are not removed for good.
        var bin = await (await sale.Owner.GetAsync("/api/bin")).ReadAsync();
        Assert.Equal([sale.Photos[0]], bin.GetProperty("needed").EnumerateArray().Select(n => n.GetString()!));
        var kept = await sale.Owner.EmptyBinAsync();
        Assert.Equal((0, 1), (kept.GetProperty("count").GetInt32(), kept.GetProperty("needed").GetInt32()));
        foreach (var step in new[] { "pay", "send" })
        {
            (await StepAsync(sale.Owner, order, step)).EnsureSuccessStatusCode();
        }

        // It is sent, and a file of the photo may be fetched twice, for thirty days.
        Assert.Equal(1, (await sale.Owner.EmptyBinAsync()).GetProperty("needed").GetInt32());
        await sale.Site.WriteAsync("update sale_order_line set fetched = 2 where place = 3");
        var gone = await sale.Owner.EmptyBinAsync();
        Assert.Equal((1, 0), (gone.GetProperty("count").GetInt32(), gone.GetProperty("needed").GetInt32()));
        await sale.Site.UntilAsync($"select count(*) from photo where id = '{sale.Photos[0]}'", 0);
        using var zip = await ZipAsync(sale.Owner, order);
        var told = Sheet(zip);
        Assert.Equal(["The photo was removed for good.", ""], told.Select(t => t.GetProperty("missing").GetString()));
        Assert.Equal("", told[0].GetProperty("file").GetString());
        Assert.Equal([told[1].GetProperty("file").GetString()!, "prints.json", "prints.csv"], Files(zip));
        Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.GetAsync($"/api/orders/{order}/prints/1")).StatusCode);
    }

    [Fact]
    public async Task A_file_that_is_damaged_is_told_and_the_others_leave()
    {
        await using var sale = await SaleAsync();
        var order = await OrderOfThreeAsync(sale.Site.Visitor(), sale);
        var hash = await sale.Site.ScalarAsync<string>($"select encode(hash, 'hex') from photo where id = '{sale.Photos[0]}'");
        var path = Directory.GetFiles(Path.Combine(sale.Site.Data, "originals"), $"{hash}*", SearchOption.AllDirectories).Single();
        await File.WriteAllBytesAsync(path, (await File.ReadAllBytesAsync(path))[..500]);
        using var zip = await ZipAsync(sale.Owner, order);
        Assert.Equal(["The photo’s file is missing or damaged.", ""], Sheet(zip).Select(t => t.GetProperty("missing").GetString()));
        Assert.Equal(3, zip.Entries.Count);
    }

    [Fact]
    public async Task All_that_is_to_be_printed_leaves_at_once_and_only_for_those_who_sell()
    {
        await using var sale = await SaleAsync();
        for (var i = 0; i < 4; i++)
        {
            await BuyAsync(sale.Site.Visitor(), sale, i == 3 ? sale.File : sale.Print, i == 3 ? "Files" : "Post");
        }

        // The latest first: a file that is paid, and prints of which one is paid, one in work, and one neither.
        var (file, neither, begun, paid) = (await OrdersAsync(sale.Owner)).Select(o => o.GetProperty("id").GetString()!).ToArray() is [var a, var b, var c, var d] ? (a, b, c, d) : default;
        foreach (var (order, step) in new[] { (file, "pay"), (begun, "begin"), (paid, "pay") })
        {
            (await StepAsync(sale.Owner, order, step)).EnsureSuccessStatusCode();
        }

        Assert.Equal(2, (await (await sale.Owner.GetAsync("/api/orders")).ReadAsync()).GetProperty("toPrint").GetInt32());
        using (var zip = await ZipAsync(sale.Owner))
        {
            Assert.Equal(2, Sheet(zip).Length);
            Assert.Equal(["1001/1001-01-1x-10x15cm-print-", "1002/1002-01-1x-10x15cm-print-"], Files(zip)[..2].Select(f => f[..30]));
        }

        foreach (var order in new[] { begun, paid })
        {
            (await StepAsync(sale.Owner, order, "send")).EnsureSuccessStatusCode();
        }

        using (var nothing = await ZipAsync(sale.Owner))
        {
            Assert.Equal(["prints.json", "prints.csv"], Files(nothing));
        }

        // What is a file, what is no line, what is no order.
        foreach (var address in new[] { $"{file}/prints/1", $"{paid}/prints/2", $"{paid}/prints/0", $"{Guid.NewGuid()}/prints/1", $"{Guid.NewGuid()}/prints.zip" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await sale.Owner.GetAsync($"/api/orders/{address}")).StatusCode);
        }

        var member = await MemberSteps.MemberAsync(sale.Site, sale.Owner, "Ada");
        foreach (var address in new[] { "prints.zip", $"{neither}/prints.zip", $"{neither}/prints/1" })
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await sale.Site.Visitor().GetAsync($"/api/orders/{address}")).StatusCode);
            Assert.Contains((await member.GetAsync($"/api/orders/{address}")).StatusCode, (HttpStatusCode[])[HttpStatusCode.Forbidden, HttpStatusCode.Unauthorized]);
        }
    }
}
