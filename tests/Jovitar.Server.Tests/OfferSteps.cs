using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Steps of tests about what visitors may do with an album's photos besides seeing them.</summary>
internal static class OfferSteps
{
    public static async Task<JsonElement> OffersAsync(HttpClient staff, string album) => await (await staff.GetAsync($"/api/albums/{album}/offers")).ReadAsync();

    public static async Task<HttpResponseMessage> OfferAsync(HttpClient staff, string album, string saves = "nothing", string knownSave = "nothing", object? choosing = null) =>
        await staff.PutAsJsonAsync($"/api/albums/{album}/offers", new { offers = new { saves, knownSave, choosing }, was = await OffersAsync(staff, album) });

    /// <summary>Has an album ask for favourites.</summary>
    public static async Task AskAsync(HttpClient staff, string album, int? most = null, string? until = null, string asks = "") =>
        (await OfferAsync(staff, album, choosing: new { most, until, asks })).EnsureSuccessStatusCode();

    public static async Task<HttpStatusCode> MarkAsync(HttpClient visitor, string album, string photo) => (await visitor.PutAsync($"/site/choosing/{album}/{photo}", null)).StatusCode;

    public static async Task<HttpStatusCode> LetGoAsync(HttpClient visitor, string album, string photo) => (await visitor.DeleteAsync($"/site/choosing/{album}/{photo}")).StatusCode;

    public static async Task<HttpResponseMessage> SendAsync(HttpClient visitor, string album, string words = "") => await visitor.PostAsJsonAsync($"/site/choosing/{album}/sent", new { words });

    /// <summary>What a visitor has chosen.</summary>
    public static async Task<string[]> ChosenAsync(HttpClient visitor, string album) =>
        [.. (await StateAsync(visitor, album)).GetProperty("photos").EnumerateArray().Select(p => p.GetProperty("id").GetString()!)];

    public static async Task<JsonElement> StateAsync(HttpClient visitor, string album) => await (await visitor.GetAsync($"/site/choosing/{album}")).ReadAsync();

    /// <summary>What those who asked have of it.</summary>
    public static async Task<JsonElement[]> ChoicesAsync(HttpClient staff, string album) =>
        [.. (await (await staff.GetAsync($"/api/choices?album={album}")).ReadAsync()).GetProperty("choices").EnumerateArray()];
}
