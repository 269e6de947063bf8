using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>Drafts of pages as the workroom sends them.</summary>
internal static class Drafts
{
    static readonly object NoColours = new { ground = (string?)null, text = (string?)null, accent = (string?)null, line = (string?)null };
    static readonly object Frame = Framed(Ground());
    public static readonly object Nowhere = new { kind = "address", thing = (string?)null, address = "" };

    /// <summary>A heading that says the title, a text where there is one, and the photos of an album, if any, with a filter bar.</summary>
    public static object Of(string title, string? album = null, string text = "", IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240) =>
        Page(title, [.. text.Length > 0 ? (object[])[Text(text)] : [], .. album is null ? (object[])[] : [Photos(album, categories, tags, size)]]);

    public static object Page(string title, params object[] blocks) => Post(title, null, blocks);

    /// <summary>What of the look is otherwise on a page.</summary>
    public static object Look(object? light = null, string? headings = null, object? corners = null, string? choices = null, int? edge = null, string? shadow = null, string? viewer = null, int? gap = null) =>
        new { light = light ?? NoColours, dark = NoColours, headings, words = (string?)null, corners, choices, edge, gap, shadow, viewer };

    /// <summary>How the site looks.</summary>
    public static object Theme(string name, string? scheme = null, object? light = null, string? headings = null, object? corners = null, int? edge = null, object? logo = null, string? foot = null, int? gap = null) =>
        new { name, logo, foot, scheme, light = light ?? NoColours, dark = NoColours, headings, words = (string?)null, corners, choices = (string?)null, head = (string?)null, edge, gap, shadow = (string?)null, viewer = (string?)null };

    /// <param name="posted">The day that it is a post of, as 2026-06-14; null for a page that is none.</param>
    public static object Post(string title, string? posted, object[] blocks, bool unlisted = false, string description = "", bool wide = false, bool bare = false, object? look = null) =>
        new { schema = Core.Pages.PageContent.Current, title, description, posted, unlisted, wide, bare, look = look ?? Look(), blocks = new[] { Block("heading", 1, new { words = "", size = "large" }) }.Concat(blocks).ToArray() };

    public static Dictionary<string, object?> Text(string words, int number = 2) => Block("text", number, new { words });

    public static Dictionary<string, object?> Photos(string album, IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240, int number = 3) =>
        Photos(Source("albums", albums: [album]), categories, tags, size, number);

    public static Dictionary<string, object?> Photos(object source, IEnumerable<string>? categories = null, IEnumerable<string>? tags = null, int size = 240, int number = 3, object? layout = null, object? absent = null, object? bar = null, object? more = null, object? press = null, object? words = null, object? touch = null) =>
        Block("photos", number, new { source, layout = layout ?? Layout("rows", size), bar = bar ?? Bar([Group([.. (categories ?? []).Select(c => Button("category", c, beneath: true))]), Group([.. (tags ?? []).Select(t => Button("tag", t))])]), absent = absent ?? Absent(), more = more ?? new { by = "scrolling", step = 60 }, press = press ?? Press(), words = words ?? Words(), touch = touch ?? Touch() });

    /// <summary>The words with photos.</summary>
    public static object Words(string? first = "title", string? second = "caption", object? desktop = null, object? tablet = null, object? phone = null) => new { first, second, desktop = desktop ?? Set(), tablet, phone };

    /// <summary>When words stand with photos on a device, and how they look.</summary>
    public static object Set(string first = "never", string second = "never", string size = "usual", string? colour = null, string? ground = null, int dense = 72, int padding = 8, bool whole = false) =>
        new { first, second, size, align = "left", colour, ground, dense, padding, whole };

    /// <summary>What becomes of photos that are touched.</summary>
    public static object Touch(string zoom = "none", string tone = "lighter", string tint = "none", string tintColour = "#161616", int border = 0, string come = "fade", string entrance = "none", object? phone = null) =>
        new { desktop = new { zoom, zoomBy = 6, tone, toneBy = 7, tint, tintColour, tintBy = 50, border, borderColour = "#fafafa", come, entrance }, tablet = (object?)null, phone };

    /// <summary>What a press on a photo does.</summary>
    public static object Press(string to = "viewer", string sign = "never", string drawing = "", IEnumerable<string>? words = null, string save = "nothing") =>
        new { to, sign, drawing, words = words ?? ["title", "caption", "credit", "licence"], save };

    /// <summary>A filter bar of groups.</summary>
    public static object Bar(object[] groups, bool off = false, bool all = true, string allWords = "", string align = "left", bool counts = true, string[]? folded = null, string[]? still = null, string[]? search = null, string hint = "", string[]? orders = null) =>
        new { off, groups, all, allWords, align, counts, folded = folded ?? [], still = still ?? [], search = new { fields = search ?? [], hint }, orders = orders ?? [] };

    public static object Group(object[] buttons, string words = "", bool one = false) => new { words, one, buttons };

    public static object Button(string kind, string? thing, string words = "", bool beneath = false, bool preset = false) => new { kind, thing, words, beneath, preset };

    /// <summary>Photos that do not stand there on some devices.</summary>
    public static object Absent(string[]? phone = null, string[]? tablet = null, string[]? desktop = null) => new { phone = phone ?? [], tablet = tablet ?? [], desktop = desktop ?? [] };

    /// <summary>A layout, all sizes alike.</summary>
    /// <param name="large">By what photos stand large in a mosaic.</param>
    /// <param name="cell">Of a grid; its photos stand whole in it.</param>
    public static object Layout(string kind, int size = 240, int? gap = 6, string large = "rating", string[]? chosen = null, object? cell = null, string height = "pixels", string turn = "fade", string pace = "still", bool loops = false)
    {
        var measures = new { size, gap, tablet = (int?)null, phone = (int?)null, across = (object?)null };
        var motion = new { pace, arrows = true, loops, shuffles = false };
        return new
        {
            kind,
            rows = measures,
            columns = measures,
            grid = measures,
            cells = new { shape = cell, whole = cell is not null },
            mosaic = measures,
            large = new { by = large, photos = chosen ?? [] },
            list = measures,
            strip = measures,
            along = new { height, motion },
            slides = new { turn, shape = cell, fills = false, motion },
        };
    }

    public static object Source(string kind, string[]? albums = null, string[]? photos = null, string? category = null, string? tag = null, string? sort = null, bool reversed = false, int? most = null, bool byLot = false) =>
        new { kind, albums = albums ?? [], photos = photos ?? [], category, tag, sort, reversed, most, byLot };

    public static object Ground(string kind = "none", string colour = "#e8dfce", string? photo = null, int veil = 35, string? words = null, string height = "content") =>
        new { kind, colour, photo, veil, words, height };

    /// <summary>A block's place with what lies behind it there.</summary>
    public static object Framed(object ground, string width = "full", object? look = null) => new { width, align = "left", ground, look = look ?? Look() };

    /// <summary>A block on a ground.</summary>
    public static Dictionary<string, object?> On(object ground, Dictionary<string, object?> block, string width = "full") => new(block) { ["frame"] = Framed(ground, width) };

    /// <summary>A block that looks otherwise than its page.</summary>
    public static Dictionary<string, object?> Looking(object look, Dictionary<string, object?> block, object? ground = null) => new(block) { ["frame"] = Framed(ground ?? Ground(), look: look) };

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
