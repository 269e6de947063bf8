using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Steps of tests about members and their groups.</summary>
internal static class MemberSteps
{
    public static async Task<JsonElement> AddAsync(HttpClient staff, string list, Guid? group = null, bool write = false)
    {
        var answer = await staff.PostAsJsonAsync("/api/members", new { list, group, write });
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await answer.ReadAsync();
    }

    public static async Task<Guid> GroupAsync(HttpClient staff, string name)
    {
        (await staff.PostAsJsonAsync("/api/groups", new { name })).EnsureSuccessStatusCode();
        return (await (await staff.GetAsync("/api/groups")).ReadAsync()).GetProperty("all").EnumerateArray().Single(g => g.GetProperty("name").GetString() == name).GetProperty("id").GetGuid();
    }

    public static async Task<JsonElement> MembersAsync(HttpClient staff, string query = "") => await (await staff.GetAsync($"/api/members?{query}")).ReadAsync();

    public static async Task<Guid> IdAsync(HttpClient staff, string name) =>
        (await MembersAsync(staff, $"q={Uri.EscapeDataString(name)}")).GetProperty("members").EnumerateArray().Single(m => m.GetProperty("name").GetString() == name).GetProperty("id").GetGuid();

    /// <summary>The end of a link that signs a member in.</summary>
    public static async Task<string> LinkAsync(HttpClient staff, Guid member) =>
        (await (await staff.PostAsync($"/api/members/{member}/link", null)).ReadAsync()).GetProperty("link").GetString()!.Split("/sign-in/")[1];

    public static async Task<HttpResponseMessage> UseAsync(HttpClient visitor, string secret, string password = "") =>
        await visitor.PostAsync($"/sign-in/{secret}", new FormUrlEncodedContent(new Dictionary<string, string> { ["password"] = password }));

    public static async Task<HttpResponseMessage> SignInAsync(HttpClient visitor, string email, string password, string to = "/", string by = "password") =>
        await visitor.PostAsync("/site/sign-in", new FormUrlEncodedContent(new Dictionary<string, string> { ["to"] = to, ["email"] = email, ["password"] = password, ["by"] = by }));

    /// <summary>Makes somebody a member and signs a browser of theirs in.</summary>
    public static async Task<HttpClient> MemberAsync(Site site, HttpClient staff, string name, Guid? group = null)
    {
        await AddAsync(staff, $"{name}, {name.ToLowerInvariant()}@example.test", group);
        var member = site.Visitor();
        Assert.Equal(HttpStatusCode.SeeOther, (await UseAsync(member, await LinkAsync(staff, await IdAsync(staff, name)))).StatusCode);
        return member;
    }
}
