using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>What tests of albums and categories do again and again: make them, say where they stand, see what visitors find.</summary>
internal static partial class StandingSteps
{
    public static async Task<JsonElement> AlbumAsync(HttpClient who, string album) => await (await who.GetAsync($"/api/albums/{album}")).ReadAsync();

    /// <summary>Says where an album stands, as far as it is said here; the rest stays.</summary>
    public static async Task<HttpResponseMessage> StandAsync(
        HttpClient who, string album, string[]? categories = null, string[]? first = null, bool? shown = null, string? address = null, string? dated = null, string[]? tags = null, bool? putFirst = null, string? opens = null, bool? byLot = null, bool? comments = null, bool? ratings = null, bool? talkKnown = null)
    {
        var line = await AlbumAsync(who, album);
        var standing = line.GetProperty("standing");
        var body = new
        {
            address = address ?? standing.GetProperty("address").GetString(),
            dated = dated ?? standing.GetProperty("dated").GetString(),
            shown = shown ?? standing.GetProperty("shown").GetBoolean(),
            putFirst = putFirst ?? standing.GetProperty("putFirst").GetBoolean(),
            opens = opens ?? standing.GetProperty("opens").GetString(),
            byLot = byLot ?? standing.GetProperty("byLot").GetBoolean(),
            comments = comments ?? standing.GetProperty("comments").GetBoolean(),
            ratings = ratings ?? standing.GetProperty("ratings").GetBoolean(),
            talkKnown = talkKnown ?? standing.GetProperty("talkKnown").GetBoolean(),
            categories = categories?.Select(c => new { category = c, putFirst = first?.Contains(c) ?? false })
                ?? standing.GetProperty("categories").EnumerateArray().Select(c => new { category = c.GetProperty("category").GetString()!, putFirst = c.GetProperty("putFirst").GetBoolean() }),
            tags = tags ?? [.. standing.GetProperty("tags").EnumerateArray().Select(t => t.GetString()!)],
        };
        return await who.SendAsync(HttpMethod.Put, $"/api/albums/{album}/standing", body, line.GetProperty("version").GetInt64());
    }

    public static async Task<string> CategoryAsync(HttpClient who, string name, string? parent = null) =>
        (await (await who.PostAsJsonAsync("/api/categories", new { name, parent })).ReadAsync()).GetProperty("id").GetString()!;

    public static async Task<JsonElement> LineAsync(HttpClient who, string category) =>
        (await (await who.GetAsync("/api/categories")).ReadAsync()).GetProperty("categories").EnumerateArray().Single(c => c.GetProperty("id").GetString() == category);

    public static async Task<HttpResponseMessage> SetAsync(HttpClient who, string category, bool? shown = null, object? page = null)
    {
        var line = await LineAsync(who, category);
        return await who.SendAsync(
            HttpMethod.Put, $"/api/categories/{category}", new { name = line.GetProperty("name").GetString(), parent = line.GetProperty("parent").GetString(), shown, page }, line.GetProperty("version").GetInt64());
    }

    public static async Task<string> MakeAsync(HttpClient who, string name, IEnumerable<string> photos)
    {
        var album = (await (await who.PostAsJsonAsync("/api/albums", new { workingName = name })).ReadAsync()).GetProperty("id").GetString()!;
        await (await who.PostAsJsonAsync($"/api/albums/{album}/photos", new { photos })).ReadAsync();
        return album;
    }

    public static async Task<(Site Site, HttpClient Owner, HttpClient Visitor, string[] Photos)> StartAsync(int count, int scale = 1, int? mail = null)
    {
        var site = await Site.StartAsync(mail: mail);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var photos = new string[count];
        for (var i = 0; i < count; i++)
        {
            photos[i] = (await owner.BringAsync(intake, $"p{i}.jpg", Acts.Photo(i, 90 * scale, 60 * scale))).GetProperty("photo").GetString()!;
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready'", count);
        return (site, owner, site.Visitor(), photos);
    }

    /// <summary>Writes a word of a photo.</summary>
    public static async Task WriteAsync(HttpClient who, string photo, string field, string text) =>
        await (await who.PostAsJsonAsync("/api/words", new { photos = new[] { photo }, changes = new[] { new { write = new { field, pattern = new[] { new { text } } } } } })).ReadAsync();

    [GeneratedRegex("<strong>([^<]+)</strong>")]
    public static partial Regex Headings();

    /// <summary>What an index lists, in its order.</summary>
    public static async Task<string[]> IndexAsync(HttpClient visitor, string path) => [.. Headings().Matches(await visitor.GetStringAsync(path)).Select(m => m.Groups[1].Value)];

    public static async Task<HttpStatusCode> GetAsync(HttpClient visitor, string path) => (await visitor.GetAsync(path)).StatusCode;
}
