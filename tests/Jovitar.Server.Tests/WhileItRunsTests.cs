using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>What a person sees while an intake runs.</summary>
public sealed class WhileItRunsTests
{
    /// <summary>A photo with a small picture in its EXIF block, as cameras write it.</summary>
    static byte[] WithThumbnail()
    {
        using var photo = Image.NewFromBuffer(Acts.Photo(1));
        using var small = photo.ThumbnailImage(160);
        using var described = photo.Mutate(m => m.Set(GValue.BlobType, "jpeg-thumbnail-data", small.JpegsaveBuffer(q: 70)));
        return described.JpegsaveBuffer(q: 85);
    }

    [Fact]
    public async Task A_photo_stands_on_the_sheet_with_its_own_small_picture_before_anything_is_made_of_it()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var id = (await owner.BringAsync(await owner.IntakeAsync(), "camera.jpg", WithThumbnail())).GetProperty("photo").GetString();
        var frame = (await (await owner.GetAsync("/api/photos")).ReadAsync()).GetProperty("photos")[0];
        Assert.Equal("waiting", frame.GetProperty("state").GetString());
        Assert.True(frame.GetProperty("preview").GetBoolean());
        using var preview = Image.NewFromBuffer(await owner.GetByteArrayAsync($"/api/photos/{id}/preview"));
        Assert.Equal((160, 107), (preview.Width, preview.Height));
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync($"/api/photos/{id}/preview")).StatusCode);
    }

    [Fact]
    public async Task The_server_tells_by_itself_when_something_changes_and_only_to_staff()
    {
        await using var site = await Site.StartAsync(workers: 1);
        var owner = await site.OwnerAsync();
        Assert.Equal(HttpStatusCode.Unauthorized, (await site.Visitor().GetAsync("/api/desk/news")).StatusCode);
        using var ends = new CancellationTokenSource(TimeSpan.FromSeconds(40));
        using var news = await owner.GetAsync("/api/desk/news", HttpCompletionOption.ResponseHeadersRead, ends.Token);
        Assert.Equal("text/event-stream", news.Content.Headers.ContentType!.MediaType);
        using var lines = new StreamReader(await news.Content.ReadAsStreamAsync(ends.Token));
        async Task<JsonElement> NextAsync()
        {
            while (true)
            {
                // WHATWG HTML, "server-sent events": a field a line, "data:" carries the message.
                if (await lines.ReadLineAsync(ends.Token) is { } line && line.StartsWith("data: {", StringComparison.Ordinal))
                {
                    return JsonDocument.Parse(line[6..]).RootElement;
                }
            }
        }

        Assert.Equal(0, (await NextAsync()).GetProperty("photos").GetInt32());
        await owner.BringAsync(await owner.IntakeAsync(), "new.jpg", Acts.Photo(2));
        var told = await NextAsync();
        Assert.Equal(1, told.GetProperty("photos").GetInt32());
        while (told.GetProperty("waiting").GetInt32() + told.GetProperty("larger").GetInt32() > 0)
        {
            told = await NextAsync();
        }

        Assert.Equal(0, told.GetProperty("failed").GetInt32());
    }

    [Fact]
    public async Task Failures_stand_by_cause_with_what_helps_and_are_tried_again_or_dropped()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        for (var i = 0; i < 3; i++)
        {
            var bytes = Acts.Photo(10 + i);
            await owner.BringAsync(intake, $"cut{i}.jpg", bytes[..(bytes.Length / 2)]);
        }

        await owner.BringAsync(intake, "empty.jpg", []);
        await site.UntilAsync("select count(*) from photo where state = 'failed'", 3);
        async Task<JsonElement> GroupsAsync() => (await (await owner.GetAsync($"/api/intakes/{intake}")).ReadAsync()).GetProperty("failures");
        var first = (await GroupsAsync())[0];
        Assert.Equal(("CutShort", 3, 3), (first.GetProperty("cause").GetString(), first.GetProperty("count").GetInt32(), first.GetProperty("canRetry").GetInt32()));
        Assert.Equal("The file is cut short: its end is missing.", first.GetProperty("sentence").GetString());
        Assert.Equal("Copy it again from the camera or card.", first.GetProperty("remedy").GetString());
        Assert.Equal(3, (await (await owner.PostAsync($"/api/intakes/{intake}/retry", null)).ReadAsync()).GetProperty("count").GetInt32());
        await site.UntilAsync("select count(*) from photo where state = 'failed'", 3);
        await (await owner.PostAsJsonAsync($"/api/intakes/{intake}/drop", new { cause = "CutShort" })).ReadAsync();
        Assert.Equal("Empty", Assert.Single((await GroupsAsync()).EnumerateArray()).GetProperty("cause").GetString());
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from bin"));
    }
}
