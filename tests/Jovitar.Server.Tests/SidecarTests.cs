using System.IO.Compression;
using System.Text.Json;
using Jovitar.Core.Photos;
using Jovitar.Imaging.Writing;

namespace Jovitar.Server.Tests;

/// <summary>Sidecars speak for the photos they lie beside, whichever of the two comes first.</summary>
public sealed class SidecarTests
{
    static byte[] Sidecar(string title, string caption = "", int rating = 0, DateTime? taken = null, params string[] tags) =>
        WordsWriter.Sidecar(new LeavingWords { Title = title, Caption = caption, Rating = rating, Taken = taken is { } local ? new(local, null) : null, Tags = tags });

    static async Task<string> PhotoAsync(HttpClient who, string intake, string name, byte[] bytes) => (await who.BringAsync(intake, name, bytes)).GetProperty("photo").GetString()!;

    static async Task<JsonElement> LineAsync(HttpClient who, string intake) => (await (await who.GetAsync($"/api/intakes/{intake}")).ReadAsync()).GetProperty("intake");

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_sidecar_says_its_photos_words_whichever_comes_first(bool first)
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var sidecar = Sidecar("The beam at dusk", "Keepers’ stair", 4, new DateTime(2026, 6, 13, 14, 5, 0), "lighthouse", "dusk");
        if (first)
        {
            Assert.Equal("sidecar", (await owner.BringAsync(intake, "BEAM.XMP", sidecar)).GetProperty("outcome").GetString());
            Assert.Equal(1, (await LineAsync(owner, intake)).GetProperty("alone").GetInt32());
        }

        var photo = await PhotoAsync(owner, intake, "beam.jpg", Acts.Photo(1));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 1);
        if (!first)
        {
            await owner.BringAsync(intake, "beam.jpg.xmp", sidecar);
        }

        Assert.Equal(
            "The beam at dusk|Keepers’ stair|4|2026-06-13 14:05:00|dusk lighthouse|file|The beam at dusk",
            await site.ScalarAsync<string>("select concat_ws('|', title, caption, rating, taken, tag_words, said ->> 'title', file_words ->> 'title') from photo"));
        var line = await LineAsync(owner, intake);
        Assert.Equal((1, 0, 1), (line.GetProperty("sidecars").GetInt32(), line.GetProperty("alone").GetInt32(), line.GetProperty("ready").GetInt32()));
        var history = await (await owner.GetAsync($"/api/photos/{photo}/history")).ReadAsync();
        Assert.Contains("BEAM", history.GetRawText(), StringComparison.OrdinalIgnoreCase);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_sidecar_speaks_before_the_file_and_after_people_and_the_closer_one_before_the_other()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var (one, two) = (await PhotoAsync(owner, intake, "one.jpg", Acts.Photo(1)), await PhotoAsync(owner, intake, "one.webp", Acts.Photo(2)));
        await PhotoAsync(owner, intake, "another.jpg", Acts.Photo(3));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        await site.WriteAsync("""update photo set caption = 'From the file', said = '{"caption":"file"}', file_words = '{"caption":"From the file"}'""");
        var version = (await (await owner.GetAsync($"/api/photos/{one}")).ReadAsync()).GetProperty("version").GetInt32();
        await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{one}", new { title = "Typed by hand" }, version)).ReadAsync();
        await owner.BringAsync(intake, "one.jpg.xmp", Sidecar("Of the JPEG", "Told beside"));
        await owner.BringAsync(intake, "one.xmp", Sidecar("Of both", "Told of both"));
        Assert.Equal(
            "another.jpg||From the file,one.jpg|Typed by hand|Told beside,one.webp|Of both|Told of both",
            await site.ScalarAsync<string>("select string_agg(file_name || '|' || title || '|' || caption, ',' order by file_name) from photo"));
        // What is too long is cut, and said to be: a sidecar is not kept itself.
        var cut = await owner.BringAsync(intake, "another.xmp", Sidecar(new string('x', 400), "Fits"));
        Assert.Equal("It says more than is kept here (title), and was cut.", cut.GetProperty("reason").GetString());
        Assert.Equal((300, "Fits"), (await site.ScalarAsync<int>("select length(title) from photo where file_name = 'another.jpg'"), await site.ScalarAsync<string>("select caption from photo where file_name = 'another.jpg'")));
        // Written anew, it speaks anew; what a person has said stays.
        await owner.BringAsync(intake, "one.jpg.xmp", Sidecar("Again", "Told better"));
        Assert.Equal("Typed by hand|Told better", await site.ScalarAsync<string>($"select title || '|' || caption from photo where id = '{one}'"));
        Assert.Equal("Of both", await site.ScalarAsync<string>($"select title from photo where id = '{two}'"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Sidecars_in_a_ZIP_are_read_folder_by_folder_and_what_is_none_is_refused_in_words()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in new (string, byte[])[]
            {
                ("day 1/a.xmp", Sidecar("Day one")), ("day 1/a.jpg", Acts.Photo(1)), ("day 2/a.jpg", Acts.Photo(2)), ("day 2/a.xmp", Sidecar("Day two")), ("day 3/a.jpg", Acts.Photo(3)), ("day 4/b.xmp", Sidecar("Nobody")),
                ("c.xmp", "no XMP at all"u8.ToArray()), ("d.xmp", """<!DOCTYPE x [<!ENTITY a "aaaaaaaa">]><x>&a;</x>"""u8.ToArray()),
            })
            {
                await using var entry = zip.CreateEntry(name).Open();
                await entry.WriteAsync(content);
            }
        }

        await owner.BringAsync(intake, "days.zip", bytes.ToArray());
        await site.UntilAsync("select count(*) from photo where state = 'ready'", 3);
        await site.UntilAsync("select count(*) from intake_file where cause = 'SidecarUnreadable'", 2);
        Assert.Equal(
            "days/day 1 Day one,days/day 2 Day two,days/day 3 ",
            await site.ScalarAsync<string>("select string_agg(f.path || ' ' || p.title, ',' order by f.path) from intake_file as f join photo as p on p.id = f.photo"));
        var line = await LineAsync(owner, intake);
        Assert.Equal((3, 1, 2), (line.GetProperty("sidecars").GetInt32(), line.GetProperty("alone").GetInt32(), line.GetProperty("failed").GetInt32()));
        Assert.Contains("not XMP or is damaged", await owner.GetStringAsync($"/api/intakes/{intake}"), StringComparison.Ordinal);
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Photos_and_their_sidecars_brought_at_once_all_find_each_other()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        const int many = 24;
        var all = Enumerable.Range(0, many).SelectMany(i => new (string Name, byte[] Bytes)[] { ($"p{i}.jpg", Acts.Photo(i, 90, 60)), ($"p{i}.xmp", Sidecar($"Title {i}", tags: [$"t{i % 5}", $"t{(i + 2) % 5}"])) }).ToArray();
        Random.Shared.Shuffle(all);
        await Parallel.ForEachAsync(all, new ParallelOptions { MaxDegreeOfParallelism = 8 }, async (one, _) => await owner.BringAsync(intake, one.Name, one.Bytes));
        await site.UntilAsync("select count(*) from photo where state = 'ready'", many);
        Assert.Equal(many, await site.ScalarAsync<long>("select count(*) from photo where file_name = replace(title, 'Title ', 'p') || '.jpg' and array_length(string_to_array(tag_words, ' '), 1) = 2"));
        Assert.Equal(0, (await LineAsync(owner, intake)).GetProperty("alone").GetInt32());
        await site.VerifyAsync();
    }
}
