using System.Text.Json;
using Jovitar.Core;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Server.Access;
using Jovitar.Server.Albums;
using Jovitar.Server.Intake;
using Jovitar.Server.Pages;
using Jovitar.Server.Photos;
using Jovitar.Server.Platform;
using Jovitar.Server.Taxonomy;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Jovitar.Server.Demo;

internal sealed record DemoScenario(
    DemoSite Site, IReadOnlyList<DemoCategory> Categories, IReadOnlyList<DemoAlbum> Albums, IReadOnlyList<DemoPick> Picks, IReadOnlyList<DemoPage> Pages);

internal sealed record DemoSite(string Title, string Tagline, DemoOwner Owner);

internal sealed record DemoOwner(string Name, string Email, string Password);

internal sealed record DemoCategory(string Name, IReadOnlyList<string> Children);

internal sealed record DemoAlbum(string Name, string Title, string Description, IReadOnlyList<DemoPhoto> Photos);

internal sealed record DemoPhoto(string File, IReadOnlyList<string> Categories);

internal sealed record DemoPick(string Name, string Title, string Description, IReadOnlyList<string> Files);

internal sealed record DemoPage(string Album, string Heading, string Address, string Text, string Layout, int Size, int Gap, IReadOnlyList<string> Filter, bool Published);

/// <summary>Loads the demo scenario through the same doors as everybody: its photos are taken in, its words read out of the files.</summary>
internal sealed class DemoLoader(
    AccountStore accounts, IPasswordHasher<Account> hasher, TaxonomyStore taxonomy, IntakeStore intake, Receiver receiver, AlbumStore albums, PageStore pages, Storage storage, NpgsqlDataSource db)
{
    readonly Dictionary<string, PhotoId> photos = [];
    readonly Dictionary<string, CategoryId> categories = [];

    /// <summary>Loads the scenario when the database holds nothing yet; otherwise does nothing.</summary>
    public async Task LoadOnceAsync(string folder, CancellationToken ct)
    {
        if (await accounts.AnyAsync(ct))
        {
            return;
        }

        await using var file = File.OpenRead(Path.Combine(folder, "scenario.json"));
        var scenario = (await JsonSerializer.DeserializeAsync<DemoScenario>(file, JsonSerializerOptions.Web, ct))!;
        foreach (var top in scenario.Categories)
        {
            var parent = categories[top.Name] = await taxonomy.MakeCategoryAsync(top.Name, null, ct);
            foreach (var child in top.Children)
            {
                categories[child] = await taxonomy.MakeCategoryAsync(child, parent, ct);
            }
        }

        var all = scenario.Albums.SelectMany(a => a.Photos).ToArray();
        var batch = await intake.BeginAsync(IntakeAbout.Nothing, scenario.Site.Owner.Name, ct);
        foreach (var photo in all)
        {
            await TakeInAsync(batch, Path.Combine(folder, "photos", photo.File), ct);
        }

        foreach (var album in scenario.Albums)
        {
            await MakeAlbumAsync(album.Name, album.Title, album.Description, album.Photos.Select(p => p.File), ct);
            foreach (var group in album.Photos.SelectMany(p => p.Categories.Select(c => (c, p.File))).GroupBy(t => t.c, t => t.File))
            {
                await taxonomy.ChangeCategoriesAsync(new CategoryChange([.. group.Select(f => photos[f])], [categories[group.Key]], []), ct);
            }
        }

        foreach (var pick in scenario.Picks)
        {
            await MakeAlbumAsync(pick.Name, pick.Title, pick.Description, pick.Files, ct);
        }

        await WaitUntilReadyAsync(all.Length, ct);
        foreach (var page in scenario.Pages)
        {
            await MakePageAsync(page, ct);
        }

        await using var words = db.Command("update site set tagline = @tagline", ("tagline", scenario.Site.Tagline));
        await words.ExecuteNonQueryAsync(ct);
        // Last of all, so that an interrupted load is not taken for a finished one.
        var owner = scenario.Site.Owner;
        await accounts.MakeOwnerAsync(owner.Email, owner.Name, hasher.HashPassword(null!, owner.Password), scenario.Site.Title, ct);
    }

    async Task TakeInAsync(IntakeId batch, string path, CancellationToken ct)
    {
        await using var from = File.OpenRead(path);
        var arrived = await storage.ReceiveAsync(from, long.MaxValue, ct);
        var file = await receiver.TakeAsync(batch, new Incoming(Path.GetFileName(path)), arrived, ct);
        Storage.Drop(arrived);
        photos[Path.GetFileName(path)] = file!.Photo!.Value;
    }

    async Task MakeAlbumAsync(string name, string title, string description, IEnumerable<string> files, CancellationToken ct)
    {
        if ((await albums.ListAsync(null, ct)).Any(a => a.WorkingName == name))
        {
            return;
        }

        var album = await albums.MakeAsync(name, title, description, ct);
        await albums.PutAsync(album, [.. files.Select(f => photos[f])], ct);
    }

    async Task MakePageAsync(DemoPage page, CancellationToken ct)
    {
        var album = (await albums.ListAsync(null, ct)).First(a => a.WorkingName == page.Album);
        if (album.Page is not null)
        {
            return;
        }

        var tags = (await taxonomy.TagsAsync(null, 1000, ct)).ToDictionary(t => t.Name, t => t.Id);
        var content = new PageContent(
            page.Heading, page.Text, new LayoutSettings(Enum.Parse<LayoutKind>(page.Layout, ignoreCase: true), page.Size, page.Gap),
            [.. page.Filter.Where(categories.ContainsKey).Select(f => categories[f])], [.. page.Filter.Where(tags.ContainsKey).Select(f => tags[f])]);
        var id = (await pages.MakeAsync(album.Id, page.Heading, ct))!.Value;
        if (PageAddress.TryParse(page.Address, out var address, out _))
        {
            await pages.EditAsync(id, address, content, 1, ct);
        }

        if (page.Published)
        {
            await pages.PublishAsync(id, ct);
        }
    }

    async Task WaitUntilReadyAsync(int count, CancellationToken ct)
    {
        for (var said = DateTime.UtcNow; ;)
        {
            await using var command = db.CreateCommand("select count(*) from photo where state <> 'waiting'");
            var done = (long)(await command.ExecuteScalarAsync(ct))!;
            if (done >= count)
            {
                return;
            }

            if (DateTime.UtcNow - said > TimeSpan.FromSeconds(2))
            {
                Console.WriteLine($"  loading the demo: {done} of {count} photographs");
                said = DateTime.UtcNow;
            }

            await Task.Delay(150, ct);
        }
    }
}
