using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Drafts of pages as the workroom sends them.</summary>
internal static class Drafts
{
    static readonly object Frame = new { width = "full", align = "left" };
    public static readonly object Nowhere = new { kind = "address", thing = (string?)null, address = "" };

    /// <summary>A heading that says the title, a text where there is one, and the photos of an album, if any, with a filter bar.</summary>
    public static object Of(string title, string? album = null, string text = "", IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240) =>
        Page(title, [.. text.Length > 0 ? (object[])[Text(text)] : [], .. album is null ? (object[])[] : [Photos(album, categories, tags, size)]]);

    public static object Page(string title, params object[] blocks) =>
        new { schema = 2, title, description = "", blocks = new[] { Block("heading", 1, new { words = "", size = "large" }) }.Concat(blocks).ToArray() };

    public static Dictionary<string, object?> Text(string words, int number = 2) => Block("text", number, new { words });

    public static Dictionary<string, object?> Photos(string album, IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240, int number = 3) =>
        Photos(Source("albums", albums: [album]), categories, tags, size, number);

    public static Dictionary<string, object?> Photos(object source, IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240, int number = 3)
    {
        var measures = new { size, gap = 6, tablet = (int?)null, phone = (int?)null };
        return Block("photos", number, new { source, layout = new { kind = "rows", rows = measures, columns = measures, grid = measures }, bar = new { categories = categories ?? [], tags = tags ?? [] } });
    }

    public static object Source(string kind, string[]? albums = null, string[]? photos = null, string? category = null, string? tag = null, string? sort = null, bool reversed = false, int? most = null) =>
        new { kind, albums = albums ?? [], photos = photos ?? [], category, tag, sort, reversed, most };

    /// <summary>A block of a kind; its number names it.</summary>
    public static Dictionary<string, object?> Block(string kind, int number, object fields)
    {
        var block = new Dictionary<string, object?> { ["kind"] = kind, ["id"] = new Guid(number, 7, 7, new byte[8]).ToString(), ["frame"] = Frame };
        foreach (var field in fields.GetType().GetProperties())
        {
            block[field.Name] = field.GetValue(fields);
        }

        return block;
    }

    public static async Task<JsonElement> PageAsync(this HttpClient owner, string page) => await (await owner.GetAsync($"/api/pages/{page}")).ReadAsync();

    /// <summary>Writes a draft over what stands there.</summary>
    public static async Task<HttpResponseMessage> DraftAsync(this HttpClient owner, string page, string address, object draft, object? was = null, long? version = null) =>
        await owner.SendAsync(HttpMethod.Put, $"/api/pages/{page}", new { address, draft, was, over = false }, version ?? (await owner.PageAsync(page)).GetProperty("edited").GetInt64());
}
