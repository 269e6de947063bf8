using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Narrowings;
using Jovitar.Core.Opening;
using Jovitar.Server.Access;
using Jovitar.Server.Acts;
using Jovitar.Server.Albums;
using Jovitar.Server.Files;
using Jovitar.Server.Intake;
using Jovitar.Server.Opening;
using Jovitar.Server.Pages;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;
using Jovitar.Server.Taxonomy;
using Jovitar.Server.Themes;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Jovitar.Server.Demo;

internal sealed record DemoScenario(
    DemoSite Site, IReadOnlyList<DemoCategory> Categories, IReadOnlyList<DemoAlbum> Albums, IReadOnlyList<DemoPick> Picks, IReadOnlyList<DemoFilled> Filled,
    IReadOnlyList<DemoStanding> Standing, IReadOnlyList<DemoDescribed> Described, IReadOnlyList<DemoPage> Pages, IReadOnlyList<DemoEntry> Menu, DemoSaid Talk, DemoCleared Clearance, DemoStaff Staff, DemoMembership Members, IReadOnlyList<DemoAudience> Audiences, IReadOnlyList<DemoException> Exceptions, IReadOnlyList<DemoReserve> Reserves, DemoMark Watermark, IReadOnlyList<DemoPriceList> Prices, DemoSold Shop, IReadOnlyList<DemoAsked> Favourites, DemoContributed Contributions);

/// <param name="Foot">Words at the end of every page, Markdown.</param>
internal sealed record DemoSite(string Title, string Tagline, string Foot, DemoOwner Owner);

internal sealed record DemoOwner(string Name, string Email, string Password);

internal sealed record DemoCategory(string Name, IReadOnlyList<string> Children);

internal sealed record DemoAlbum(string Name, string Title, string Description, IReadOnlyList<DemoPhoto> Photos);

internal sealed record DemoPhoto(string File, IReadOnlyList<string> Categories);

internal sealed record DemoPick(string Name, string Title, string Description, IReadOnlyList<string> Files);

/// <summary>An album that fills itself.</summary>
internal sealed record DemoFilled(string Name, string Title, string Description, string Rule, string Sort, int Most);

/// <summary>Where an album stands: in which categories, in which of them first.</summary>
internal sealed record DemoStanding(string Album, IReadOnlyList<string> In, IReadOnlyList<string> First, DateOnly? Dated, IReadOnlyList<string> Tags);

internal sealed record DemoDescribed(string Category, string Description);

/// <summary>Loads the demo scenario through the same doors as everybody: its photos are taken in, its words read out of the files.</summary>
internal sealed class DemoLoader(
    AccountStore accounts, IPasswordHasher<Account> hasher, CategoryStore taxonomy, TagStore tagStore, IntakeStore intake, Receiver receiver, AlbumStore albums, AlbumPhotoStore albumPhotos, StandingStore standing, PageStore pages, VersionStore versions, MenuStore menus, ThemeStore themes, FrontStore front, FileStore files, Arrivals arrivals, DemoTalk talk, DemoClearance clearance, DemoPeople people, DemoMembers members, DemoAudiences audiences, DemoWatermark watermark, DemoPrices prices, DemoShop shop, DemoFavourites favourites, DemoContributions contributions, NpgsqlDataSource db)
{
    static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    Actor owner = Actor.Worker("demo");
    readonly Dictionary<string, PhotoId> photos = [];
    readonly Dictionary<string, CategoryId> categories = [];

    /// <summary>Loads the scenario when the database holds nothing yet; otherwise does nothing.</summary>
    public async Task LoadOnceAsync(string folder, CancellationToken ct)
    {
        // One process loads it; another that starts at once waits and finds it there.
        await using var alone = await Alone.WaitAsync(db, Alone.LoadingDemo, ct);
        if (await accounts.AnyAsync(ct))
        {
            return;
        }

        await using var file = File.OpenRead(Path.Combine(folder, "scenario.json"));
        var scenario = (await JsonSerializer.DeserializeAsync<DemoScenario>(file, Json, ct))!;
        owner = Actor.Worker(scenario.Site.Owner.Name);
        foreach (var top in scenario.Categories)
        {
            categories[top.Name] = await taxonomy.AtAsync(owner, [top.Name], ct);
            foreach (var child in top.Children)
            {
                categories[child] = await taxonomy.AtAsync(owner, [top.Name, child], ct);
            }
        }

        var all = scenario.Albums.SelectMany(a => a.Photos).ToArray();
        var batch = await intake.BeginAsync(IntakeAbout.Nothing, owner, ct);
        foreach (var photo in all)
        {
            await TakeInAsync(batch, Path.Combine(folder, "photos", photo.File), ct);
        }

        foreach (var path in Directory.EnumerateFiles(Path.Combine(folder, "files")).Order(StringComparer.Ordinal))
        {
            await TakeInAsync(batch, path, ct);
        }

        foreach (var album in scenario.Albums)
        {
            await MakeAlbumAsync(album.Name, album.Title, album.Description, album.Photos.Select(p => p.File), ct);
            foreach (var group in album.Photos.SelectMany(p => p.Categories.Select(c => (c, p.File))).GroupBy(t => t.c, t => t.File))
            {
                await taxonomy.ChangePhotosAsync(owner, new CategoryChange([.. group.Select(f => photos[f])], [categories[group.Key]], []), ct);
            }
        }

        foreach (var pick in scenario.Picks)
        {
            await MakeAlbumAsync(pick.Name, pick.Title, pick.Description, pick.Files, ct);
        }

        foreach (var filled in scenario.Filled)
        {
            if (!await IsThereAsync(filled.Name, ct))
            {
                var filling = new AlbumFilling(filled.Rule, filled.Most, Enum.Parse<SheetSort>(filled.Sort, ignoreCase: true));
                await albums.MakeAsync(owner, filled.Name, filled.Title, filled.Description, FillingStore.Read(filling), ct);
            }
        }

        var made = await albums.ListAsync(null, ct);
        foreach (var stands in scenario.Standing)
        {
            var album = made.First(a => a.WorkingName == stands.Album);
            AlbumPlace[] places = [.. stands.In.Select(c => new AlbumPlace(categories[c], stands.First.Contains(c)))];
            await standing.SayAsync(owner, album.Id, album.Standing with { Dated = stands.Dated, Categories = places, Tags = stands.Tags }, album.Version, ct);
        }

        var tree = await taxonomy.ListAsync(ct);
        foreach (var described in scenario.Described)
        {
            var line = tree.First(c => c.Id == categories[described.Category]);
            await taxonomy.ChangeAsync(owner, line.Id, new CategoryWish(line.Name, line.Parent, null, described.Description, null, null), line.Version, ct);
        }

        await WaitUntilReadyAsync(all.Length, ct);
        var byName = (await albums.ListAsync(null, ct)).ToDictionary(a => a.WorkingName, a => a.Id);
        var making = new DemoPages(
            pages, versions, menus, owner, byName, photos, (await files.ListAsync(null, null, "", null, 1000, ct)).ToDictionary(f => f.FileName, f => f.Id), categories,
            (await tagStore.TagsAsync(null, [], 1000, ct)).ToDictionary(t => t.Name, t => t.Id));
        await making.MakeAsync(scenario.Pages, ct);
        await making.MakeAsync(scenario.Menu, ct);
        var groups = await members.GroupsAsync(scenario.Members, owner, ct);
        await audiences.MakeAsync(scenario.Audiences, byName, groups, owner, ct);
        await audiences.MakeAsync(scenario.Exceptions, photos, groups, owner, ct);
        await audiences.MakeAsync(scenario.Reserves, categories, owner, ct);
        await watermark.MakeAsync(scenario.Watermark, byName, groups, owner, ct);
        await prices.MakeAsync(scenario.Prices, byName, photos, owner, ct);
        await talk.MakeAsync(scenario.Talk, photos, owner, ct);
        await clearance.MakeAsync(scenario.Clearance, await File.ReadAllBytesAsync(Path.Combine(folder, scenario.Clearance.List), ct), photos, owner, ct);

        var look = await themes.ReadAsync(ct);
        if (look.Draft.Foot is null && await themes.WriteAsync(owner, look.Draft with { Foot = scenario.Site.Foot }, look.Edited, ct) is not null)
        {
            await themes.PublishAsync(owner, look.Edited + 1, ct);
        }

        var opened = await front.ReadAsync(ct);
        await front.WriteAsync(owner, new Front(scenario.Site.Title, scenario.Site.Tagline, IsOpen: true, opened.Front.Meanwhile, opened.Front.IsListed, opened.Front.StartsAt, HasFavourites: true), opened.Edited, ct);
        await front.SayAsync(new FirstHourSaid(IsOn: false, IsDressed: true), ct);
        // After all else, so that an interrupted load is not taken for a finished one.
        var person = scenario.Site.Owner;
        await accounts.MakeOwnerAsync(person.Email, person.Name, hasher.HashPassword(null!, person.Password), scenario.Site.Title, ct);
        await people.MakeAsync(scenario.Staff, owner, ct);
        await members.MakeAsync(scenario.Members, groups, owner, ct);
        await favourites.MakeAsync(scenario.Favourites, photos, owner, ct);
        await shop.MakeAsync(scenario.Shop, byName, photos, owner, ct);
        await contributions.MakeAsync(scenario.Contributions, file => File.OpenRead(Path.Combine(folder, "sent", file)), categories, owner, ct);
    }

    async Task TakeInAsync(IntakeId batch, string path, CancellationToken ct)
    {
        await using var from = File.OpenRead(path);
        var arrived = await arrivals.ReceiveAsync(from, long.MaxValue, ct);
        var file = await receiver.TakeAsync(batch, new Incoming(Path.GetFileName(path)), arrived, ct);
        await arrivals.DropAsync(arrived);
        if (file!.Photo is { } photo)
        {
            photos[Path.GetFileName(path)] = photo;
        }
    }

    async Task MakeAlbumAsync(string name, string title, string description, IEnumerable<string> files, CancellationToken ct)
    {
        if (!await IsThereAsync(name, ct))
        {
            var album = await albums.MakeAsync(owner, name, title, description, ct);
            await albumPhotos.PutAsync(owner, album, [.. files.Select(f => photos[f])], ct);
        }
    }

    async Task<bool> IsThereAsync(string album, CancellationToken ct) => (await albums.ListAsync(null, ct)).Any(a => a.WorkingName == album);

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
