using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Steps of tests about photos that are sent in.</summary>
internal static class ContributionSteps
{
    /// <summary>Makes a contribution link.</summary>
    /// <returns>Where it is opened.</returns>
    public static async Task<string> LinkAsync(HttpClient staff, string title = "Regatta", string? album = null, string agree = "", bool forMembers = false, int most = 20, DateTimeOffset? ends = null)
    {
        var made = await staff.PostAsJsonAsync("/api/contribution-links", new { title, words = "From a boat, please.", agree, album, ends, forMembers, most });
        Assert.True(made.IsSuccessStatusCode, await made.Content.ReadAsStringAsync());
        return (await LinksAsync(staff)).First(l => l.GetProperty("title").GetString() == title).GetProperty("path").GetString()!;
    }

    public static async Task<JsonElement[]> LinksAsync(HttpClient staff) => [.. (await (await staff.GetAsync("/api/contribution-links")).ReadAsync()).GetProperty("links").EnumerateArray()];

    /// <summary>Begins a contribution.</summary>
    /// <returns>Where it is put together.</returns>
    public static async Task<string> BeginAsync(HttpClient sender, string path)
    {
        var begun = await sender.PostAsync(path, null);
        Assert.Equal(HttpStatusCode.SeeOther, begun.StatusCode);
        return begun.Headers.Location!.ToString();
    }

    public static async Task<HttpResponseMessage> AddAsync(HttpClient sender, string sent, byte[] bytes, string name = "one.jpg")
    {
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        return await sender.PostAsync($"{sent}/photos?name={Uri.EscapeDataString(name)}", content);
    }

    public static async Task<HttpResponseMessage> SendAsync(HttpClient sender, string sent, string name = "Silke", string email = "", string words = "", bool agreed = true, object? album = null) =>
        await sender.PostAsJsonAsync($"{sent}/sent", new { name, email, words, agreed, album });

    public static async Task<JsonElement> StateAsync(HttpClient sender, string sent) => await (await sender.GetAsync($"{sent}/state")).ReadAsync();

    /// <summary>Sends photos in by a link.</summary>
    /// <returns>Where it is seen to, and the photos' ids.</returns>
    public static async Task<(string Sent, string[] Photos)> SentAsync(HttpClient sender, string path, int photos = 2, string name = "Silke", string email = "", object? album = null, int seed = 500)
    {
        var sent = await BeginAsync(sender, path);
        var ids = new string[photos];
        for (var i = 0; i < photos; i++)
        {
            ids[i] = (await (await AddAsync(sender, sent, Acts.Photo(seed + i), $"s{i}.jpg")).ReadAsync()).GetProperty("id").GetString()!;
        }

        var answer = await SendAsync(sender, sent, name, email, album: album);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return (sent, ids);
    }

    public static async Task<JsonElement[]> WaitingAsync(HttpClient staff) => [.. (await (await staff.GetAsync("/api/contributions?waiting=true")).ReadAsync()).GetProperty("contributions").EnumerateArray()];

    public static async Task<JsonElement> ShownAsync(HttpClient staff, string contribution) => await (await staff.GetAsync($"/api/contributions/{contribution}")).ReadAsync();

    public static async Task<int> DecideAsync(HttpClient staff, string contribution, string how, IEnumerable<string> photos, string why = "") =>
        (await (await staff.PostAsJsonAsync($"/api/contributions/{contribution}/{how}", new { photos, why })).ReadAsync()).GetProperty("count").GetInt32();

    /// <summary>Says whether a member sends photos in.</summary>
    public static async Task ContributesAsync(HttpClient staff, Guid member, string contributing) => (await staff.PutAsJsonAsync($"/api/members/{member}/contributing", new { contributing })).EnsureSuccessStatusCode();

    public static string Id(JsonElement one) => one.GetProperty("id").GetString()!;

    public static string[] States(JsonElement shown) => [.. shown.GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("state").GetString()!)];
}
