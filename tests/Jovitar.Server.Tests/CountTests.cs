using System.Net.Http.Json;

namespace Jovitar.Server.Tests;

/// <summary>Counts beside the choices of a narrowing, with their names.</summary>
public sealed class CountTests
{
    static async Task<Dictionary<string, (string? Name, string? Within, int Count)>> PartAsync(HttpClient owner, string kind, string narrowing = "") =>
        (await (await owner.GetAsync($"/api/photos/counts?{narrowing}")).ReadAsync()).GetProperty("parts").EnumerateArray().Single(p => p.GetProperty("kind").GetString() == kind).GetProperty("choices")
            .EnumerateArray().ToDictionary(c => c.GetProperty("choice").GetString()!, c => (c.GetProperty("name").GetString(), c.GetProperty("within").GetString(), c.GetProperty("count").GetInt32()));

    static async Task<string> MadeAsync(HttpClient owner, string address, object body) => (await (await owner.PostAsJsonAsync(address, body)).ReadAsync()).GetProperty("id").GetString()!;

    [Fact]
    public async Task Choices_have_their_names_and_stand_beneath_one_another_and_what_is_chosen_is_named_though_it_finds_nothing()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (album, p, _, _) = await site.PublishedAsync(owner, 5);
        var sea = await MadeAsync(owner, "/api/categories", new { name = "Sea", parent = (string?)null });
        var harbour = await MadeAsync(owner, "/api/categories", new { name = "Harbour", parent = sea });
        await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p[..3], add = new[] { harbour }, remove = Array.Empty<string>() });
        await owner.PostAsJsonAsync("/api/photos/categories", new { photos = p[2..4], add = new[] { sea }, remove = Array.Empty<string>() });
        await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[..2], add = new[] { "Fog" }, remove = Array.Empty<string>() });
        await owner.PostAsJsonAsync("/api/photos/tags", new { photos = p[4..], add = new[] { "Sun" }, remove = Array.Empty<string>() });
        var tags = (await (await owner.GetAsync("/api/tags")).ReadAsync()).GetProperty("tags").EnumerateArray().ToDictionary(t => t.GetProperty("name").GetString()!, t => t.GetProperty("id").GetString()!);

        var categories = await PartAsync(owner, "category");
        Assert.Equal(("Sea", null, 4), categories[sea]);
        Assert.Equal(("Harbour", sea, 3), categories[harbour]);
        Assert.Equal(1, categories["none"].Count);
        Assert.Equal(("Trial album", null, 5), (await PartAsync(owner, "album"))[album]);
        Assert.Equal(5, (await PartAsync(owner, "missing"))["title"].Count);
        Assert.Equal(5, (await PartAsync(owner, "shape"))["landscape"].Count);
        Assert.Equal(5, (await PartAsync(owner, "decision"))["none"].Count);
        Assert.Single(await PartAsync(owner, "intake"));

        // Narrowed to the fog there is no sun; what is chosen keeps its name even where nothing else leaves any of it.
        Assert.Equal(("Fog", null, 2), (await PartAsync(owner, "tag", $"tag={tags["Fog"]}"))[tags["Fog"]]);
        Assert.Equal(("Sun", null, 0), (await PartAsync(owner, "tag", $"tag={tags["Sun"]}&category={harbour}"))[tags["Sun"]]);

        // In the bin it is no choice any more, and its photos have one less.
        await (await owner.DeleteAsync($"/api/tags/{tags["Fog"]}")).ReadAsync();
        var left = await PartAsync(owner, "tag");
        Assert.Equal((false, 4), (left.ContainsKey(tags["Fog"]), left["none"].Count));
        await (await owner.DeleteAsync($"/api/categories/{sea}")).ReadAsync();
        Assert.Equal(5, (await PartAsync(owner, "category"))["none"].Count);
    }
}
