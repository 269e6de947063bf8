using System.Net;
using Jovitar.Server.Demo;

namespace Jovitar.Server.Tests;

/// <summary>Many rows for trials of speed.</summary>
public sealed class TrialTests
{
    [Fact]
    public async Task Trial_photos_have_no_bytes_of_their_own_and_are_shown_and_found_like_others()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, _, _) = await site.PublishedAsync(owner, 2);
        await site.UntilAsync("select count(*) from photo where stage = 2", 2);
        await (await owner.GetAsync("/api/photos")).ReadAsync();
        var files = Directory.GetFiles(site.Data, "*", SearchOption.AllDirectories).Length;
        await site.Part<TrialPhotos>().AddUpToAsync(300, CancellationToken.None);
        Assert.Equal(files, Directory.GetFiles(site.Data, "*", SearchOption.AllDirectories).Length);
        var sheet = await (await owner.GetAsync("/api/photos?q=trial&sort=name")).ReadAsync();
        Assert.Equal(298, sheet.GetProperty("total").GetInt32());
        var trial = sheet.GetProperty("photos")[0];
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync($"/api/renditions/{trial.GetProperty("picture").GetString()}/480")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await owner.GetAsync($"/api/photos/{trial.GetProperty("id").GetString()}/original")).StatusCode);
        // Another process knows where their bytes are, too, and what people do with them is an act like any other.
        site.Process(workers: 0);
        var other = await site.OwnerAsync();
        Assert.Equal(300, (await (await other.GetAsync("/api/photos")).ReadAsync()).GetProperty("total").GetInt32());
        await site.Part<TrialPhotos>().FindBytesAsync(CancellationToken.None);
        Assert.Equal(HttpStatusCode.OK, (await other.GetAsync($"/api/renditions/{trial.GetProperty("picture").GetString()}/480")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await other.GetAsync($"/api/renditions/{new string('a', 64)}/480")).StatusCode);
        await site.VerifyAsync();
        Assert.Equal(2, photos.Length);
    }
}
