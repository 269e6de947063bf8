using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Jovitar.Server.Tests.StandingSteps;

namespace Jovitar.Server.Tests;

/// <summary>Steps of tests about who sees what, and what lets them in.</summary>
internal static class AudienceSteps
{
    public static async Task<JsonElement> ReadAsync(HttpClient owner, string kind, string thing) => await (await owner.GetAsync($"/api/audiences/{kind}/{thing}")).ReadAsync();

    public static async Task<HttpResponseMessage> SayAsync(HttpClient owner, string kind, string thing, string who, string? from = null, string? until = null, params Guid[] chosen) =>
        await owner.PutAsJsonAsync($"/api/audiences/{kind}/{thing}", new { audience = new { who, from, until, chosen }, was = (await ReadAsync(owner, kind, thing)).GetProperty("audience") });

    /// <summary>Makes an entry link or a passcode.</summary>
    public static async Task<(string Id, string Secret)> EntryAsync(HttpClient owner, string kind, string thing, string how = "link", int? most = null, string? ends = null)
    {
        (await owner.PostAsJsonAsync($"/api/audiences/{kind}/{thing}/entries", new { name = "The Harrow family", kind = how, most, ends })).EnsureSuccessStatusCode();
        var made = (await ReadAsync(owner, kind, thing)).GetProperty("entries")[0];
        return (made.GetProperty("id").GetString()!, made.GetProperty("secret").GetString()!);
    }

    public static async Task<HttpStatusCode> EnterAsync(HttpClient visitor, string secret) => (await visitor.PostAsync($"/enter/{secret}", null)).StatusCode;

    public static async Task<HttpResponseMessage> TypeAsync(HttpClient visitor, string passcode, string to = "/album/night") =>
        await visitor.PostAsync("/site/enter", new FormUrlEncodedContent(new Dictionary<string, string> { ["to"] = to, ["passcode"] = passcode }));

    /// <summary>An album in a category and on a page, an open album beside it, and what everyone finds anyway.</summary>
    public static async Task<(Site Site, HttpClient Owner, HttpClient Visitor, string[] Photos, string Album, string Category)> NightAsync(int photos = 3, int scale = 1, int? mail = null)
    {
        var (site, owner, visitor, p) = await StartAsync(photos + 1, scale, mail);
        var album = await MakeAsync(owner, "Night", p[..^1]);
        var category = await CategoryAsync(owner, "Festival");
        await (await StandAsync(owner, album, categories: [category], comments: true, ratings: true)).ReadAsync();
        await (await StandAsync(owner, await MakeAsync(owner, "Day", [p[^1]]), categories: [category])).ReadAsync();
        await owner.ShownAsync(null, "both", Drafts.Page("Both", Drafts.Photos(album)));
        return (site, owner, visitor, p, album, category);
    }

    public static async Task<string> HashAsync(HttpClient owner, string photo) => (await (await owner.GetAsync($"/api/photos/{photo}")).ReadAsync()).GetProperty("picture").GetString()!;

    /// <summary>What an answer says, whatever its status.</summary>
    public static async Task<string> TextAsync(HttpClient client, string path) => await (await client.GetAsync(path)).Content.ReadAsStringAsync();
}
