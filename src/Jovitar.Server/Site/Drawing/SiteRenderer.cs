using System.IO.Compression;
using System.Text;
using Jovitar.Core;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Buying;
using Jovitar.Server.Site.Contributions;
using Jovitar.Server.Site.Drawing.Components;
using Jovitar.Server.Site.Embedding;
using Jovitar.Server.Site.Entering;
using Jovitar.Server.Themes;
using Microsoft.AspNetCore.Components;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site.Drawing;

/// <summary>A finished page: its bytes as they are and compressed, and what its style sheet adds to the policy.</summary>
internal sealed record Rendered(byte[] Html, byte[] Brotli, string Policy);

/// <summary>Makes visitors' HTML, and keeps it for as long as its version stands.</summary>
internal sealed class SiteRenderer(IServiceProvider services, ILoggerFactory logs, SiteStore store, SiteIndexStore indexes, SiteLinks links, SettingsStore settings, ThemeStore themes, SiteAssets assets, SightStore sights) : IDisposable
{
    /// <summary>Bytes of pages and models that are kept at most.</summary>
    const long MostKept = 96L * 1024 * 1024;

    readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>The page's model at a version; read from the database once.</summary>
    public async Task<SitePage?> ModelAsync(PageVersion version)
    {
        // There are as many favourites as anybody can think of, each for a few: they are not kept in the place of what many ask for.
        if (version.Page is { } read)
        {
            return read;
        }

        // The site's look has a say in where its photos stand.
        return await OnceAsync(
            (version.Key, "model"),
            async () => version.Kind switch
            {
                SiteKind.Page => await store.PageAsync(new PageId(version.Id), draft: false, version.Sight, CancellationToken.None),
                SiteKind.Album => await store.AlbumAsync(version.Id, version.Sight, CancellationToken.None),
                _ => await store.CategoryAsync(new CategoryId(version.Id), version.Sight, CancellationToken.None),
            },
            page => page?.Weight);
    }

    /// <summary>A page as a visitor narrowed it, made once for each version, whoever asks.</summary>
    public async Task<Rendered?> PageAsync(PageVersion version, Uri root, IQueryCollection query, CancellationToken ct)
    {
        // Most visitors come without a choice: their page is found before anything is computed.
        if (query.Count == 0 && kept.TryGetValue((version.Key, root, ""), out Task<Rendered>? known))
        {
            return await known!;
        }

        if (await ModelAsync(version) is not { } page)
        {
            return null;
        }

        var drawn = new DrawnPage(page, Choices.Read(page, query), page.Path, draft: false);
        // Words that somebody types are seldom typed again: what they find is not kept either.
        if (drawn.Choices.HasWords || version.Page is not null)
        {
            return await PageAsync(drawn, root, ct);
        }

        // Whoever asked first may go; the others still wait for it.
        return await OnceAsync((version.Key, root, drawn.Choices.Query), () => PageAsync(drawn, root, CancellationToken.None));
    }

    /// <summary>A page as an embed shows it, made once for each version; null where nothing of it stands in one.</summary>
    public async Task<Rendered?> EmbedAsync(PageVersion version, Embed embed, IQueryCollection query)
    {
        if (await ModelAsync(version) is not { } page || !EmbedBlocks.Has(page))
        {
            return null;
        }

        // Nobody chooses anything in it; what is drawn by lot is drawn as it was for the visit.
        var lot = Choices.Read(page, query).Lot;
        return await OnceAsync((version.Key, "embed", embed, lot), () =>
        {
            var shown = EmbedBlocks.Of(page, embed);
            var drawn = new DrawnPage(shown, Choices.OfLot(lot), page.Path, draft: false, $"{SiteAddress.View}{SiteAddress.Embed}{page.Path}");
            int? held = page.Walks.Sum(w => w.Photos.Count) is var all && all > shown.Walks.Sum(w => w.Count) ? all : null;
            return RenderAsync<EmbedView>(drawn.CspSources, [], null, null, page.Look, [("Page", drawn), ("Held", held)], page.Sight, CancellationToken.None, framedAnywhere: true, drawn.Looks);
        });
    }

    /// <summary>What an embed shows of a page that is no longer for everybody: made once, for the websites that still show it have visitors, too.</summary>
    public async Task<Rendered> MissingEmbedAsync(CancellationToken ct) =>
        await OnceAsync(("no embed", (await settings.ReadAsync(ct)).Version), () => RenderAsync<EmbedView>("", [], null, null, LookChange.None, [], null, CancellationToken.None, framedAnywhere: true));

    /// <summary>All that visitors find of a site that is closed.</summary>
    public async Task<Rendered> ClosedPageAsync(CancellationToken ct) =>
        await OnceAsync(("closed", (await settings.ReadAsync(ct)).Version), () => RenderAsync<ClosedPage>("", [], null, null, LookChange.None, [], null, CancellationToken.None));

    Task<Rendered> OnceAsync(object key, Func<Task<Rendered>> make) => OnceAsync(key, make, rendered => rendered.Html.Length + rendered.Brotli.Length);

    /// <summary>Makes something once, however many ask for it while it is made, and keeps it.</summary>
    /// <param name="size">How many bytes it takes; null for what is not kept.</param>
    async Task<T> OnceAsync<T>(object key, Func<Task<T>> make, Func<T, long?> size)
    {
        Task<T> making;
        TaskCompletionSource<T>? mine = null;
        lock (kept)
        {
            if (!kept.TryGetValue(key, out making!))
            {
                mine = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
                making = kept.Set(key, mine.Task, new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) });
            }
        }

        if (mine is null)
        {
            return await making;
        }

        try
        {
            var made = await make();
            mine.SetResult(made);
            if (size(made) is { } bytes)
            {
                _ = kept.Set(key, making, new MemoryCacheEntryOptions { Size = bytes, SlidingExpiration = TimeSpan.FromMinutes(30) });
            }
            else
            {
                kept.Remove(key);
            }

            return made;
        }
        catch (Exception e)
        {
            kept.Remove(key);
            mine.SetException(e);
            // Nobody may be waiting for it but whoever asked first, who is told below.
            _ = mine.Task.Exception;
            throw;
        }
    }

    /// <summary>A page.</summary>
    /// <param name="root">The site's address; null for a draft, which nobody is told of.</param>
    /// <param name="look">Another one than visitors have; null for that.</param>
    public Task<Rendered> PageAsync(DrawnPage page, Uri? root, CancellationToken ct, Look? look = null) =>
        RenderAsync<PageView>(page.CspSources, page.Elsewhere, root is null ? null : site => Told.Of(root, page.Page, site.Title), look, page.Page.Look, [("Page", page), ("Came", page.Page.Sight?.Came ?? Came.Freely)], page.Page.Sight, ct, blocks: page.Looks);

    /// <summary>A photo's own page.</summary>
    /// <param name="root">The site's address; null for a draft, which nobody is told of.</param>
    /// <param name="talk">What is said about it; null where nothing may be.</param>
    public Task<Rendered> PhotoPageAsync(SitePage page, Narrowed view, int photo, Uri? root, TalkShown? talk, CancellationToken ct) =>
        RenderAsync<PhotoPage>(
            "", [], root is null ? null : _ => Told.Of(root, page, view.Walk, view.Walk.Photos[photo]), null, page.Look,
            [("Title", page.Title), ("IsUnlisted", page.Unlisted), ("View", view), ("Photo", view.Walk.Photos[photo]), ("Ways", view.WaysFrom(photo)), ("Draft", root is null), ("Talk", talk), ("Came", page.Sight?.Came ?? Came.Freely)], page.Sight, ct);

    /// <summary>The start page, made once for each version of what it shows.</summary>
    public async Task<Rendered> StartPageAsync(string version, Uri root, Sight sight, CancellationToken ct)
    {
        if (kept.TryGetValue(("start", version, root), out Rendered? rendered))
        {
            return rendered!;
        }

        var entries = await indexes.StartAsync(sight, ct);
        var picture = entries.Select(e => e.Cover).OfType<SitePhoto>().FirstOrDefault();
        rendered = await RenderAsync<StartPage>("", [], site => Told.Of(root, site.Title, site.Tagline, picture), null, LookChange.None, [("Entries", entries), ("Came", sight.Came)], sight, ct);
        return kept.Set(("start", version, root), rendered, new MemoryCacheEntryOptions { Size = rendered.Html.Length + rendered.Brotli.Length, SlidingExpiration = TimeSpan.FromMinutes(30) });
    }

    /// <summary>The page at which somebody comes in.</summary>
    /// <param name="entering">Null where a link opens nothing.</param>
    public Task<Rendered> EnteringPageAsync(ToEnter? entering, CancellationToken ct) => RenderAsync<EnteringPage>("", [], null, null, LookChange.None, [("ToEnter", entering)], null, ct);

    /// <summary>The page at which a member signs in.</summary>
    public Task<Rendered> SignInPageAsync(ToSignIn asked, CancellationToken ct) => RenderAsync<SignInPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>What can be bought of a photo.</summary>
    public Task<Rendered> BuyPageAsync(ToBuy asked, CancellationToken ct) => RenderAsync<BuyPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>What can be bought of several photos at once.</summary>
    public Task<Rendered> BuySeveralPageAsync(ToBuySeveral asked, CancellationToken ct) => RenderAsync<BuySeveralPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>A visitor's basket.</summary>
    public Task<Rendered> BasketPageAsync(ToBasket asked, CancellationToken ct) => RenderAsync<BasketPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>The page on which an order is placed.</summary>
    public Task<Rendered> CheckOutPageAsync(ToCheckOut asked, CancellationToken ct) => RenderAsync<CheckOutPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>An order, for who placed it.</summary>
    public Task<Rendered> OrderPageAsync(ToSeeOrder asked, CancellationToken ct) => RenderAsync<OrderPage>("", [], null, null, LookChange.None, [("Seen", asked)], null, ct);

    /// <summary>What a contribution link leads to.</summary>
    public Task<Rendered> ContributePageAsync(ToContribute asked, CancellationToken ct) => RenderAsync<ContributePage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>The page on which photos are put together, and seen to once they are sent.</summary>
    public Task<Rendered> SendPageAsync(ToSend asked, CancellationToken ct) => RenderAsync<SendPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>A member's own place.</summary>
    public Task<Rendered> YoursPageAsync(Yours yours, CancellationToken ct) => RenderAsync<YoursPage>("", [], null, null, LookChange.None, [("Yours", yours)], null, ct);

    /// <summary>The page at which somebody asks to become a member.</summary>
    public Task<Rendered> JoinPageAsync(ToJoin asked, CancellationToken ct) => RenderAsync<JoinPage>("", [], null, null, LookChange.None, [("Asked", asked)], null, ct);

    /// <summary>An entry link or a passcode on paper, to be handed out.</summary>
    /// <param name="called">What it opens, as visitors call it.</param>
    /// <param name="address">Where it is opened.</param>
    public Task<Rendered> EntrySheetAsync(EntryLine entry, string called, string address, CancellationToken ct) =>
        RenderAsync<EntrySheet>("", [], null, null, LookChange.None, [("Entry", entry), ("Called", called), ("Address", address)], null, ct);

    /// <summary>What staff find who look at the site as somebody else and want to change something.</summary>
    public Task<Rendered> OnlyLookingPageAsync(CancellationToken ct) => RenderAsync<OnlyLookingPage>("", [], null, null, LookChange.None, [], null, ct);

    /// <summary>The line at the top of a page that staff see as somebody else.</summary>
    /// <param name="said">Who that is.</param>
    /// <param name="to">Where they stay when they stop.</param>
    public Task<string> SeenAsLineAsync(string said, string to) => HtmlAsync<SeenAsLine>(new Dictionary<string, object?> { ["Said"] = said, ["To"] = to });

    public Task<Rendered> MissingPageAsync(CancellationToken ct) => RenderAsync<MissingPage>("", [], null, null, LookChange.None, [], null, ct);

    /// <param name="styles">What a Content-Security-Policy must name for the page's own style sheets.</param>
    /// <param name="elsewhere">Where its videos lie.</param>
    /// <param name="tells">What the page tells of itself; null for nothing.</param>
    /// <param name="look">Another one of the site than visitors have; null for that.</param>
    /// <param name="otherwise">What is otherwise on this page.</param>
    /// <param name="sight">For whom it is; null for everyone.</param>
    /// <param name="framedAnywhere">Other websites may show it in a frame.</param>
    /// <param name="blocks">Those of its blocks that look otherwise than it does.</param>
    async Task<Rendered> RenderAsync<TComponent>(
        string styles, IReadOnlyList<string> elsewhere, Func<SiteSettings, Told>? tells, Look? look, LookChange otherwise, IReadOnlyList<(string Name, object? Value)> parameters, Sight? sight, CancellationToken ct, bool framedAnywhere = false, IReadOnlyList<BlockLook>? blocks = null)
        where TComponent : IComponent
    {
        var all = parameters.ToDictionary(p => p.Name, p => p.Value);
        var site = await settings.ReadAsync(ct);
        all["Site"] = site;
        if (tells is not null)
        {
            all["Told"] = tells(site);
        }

        var theme = look is null ? await ThemeAsync(site.Version, ct) : new ThemeStyle(look, []);
        if (otherwise != LookChange.None || blocks is { Count: > 0 })
        {
            theme = new ThemeStyle(otherwise.On(theme.Look), blocks ?? []);
        }

        all["Theme"] = theme;
        all["Built"] = assets;
        all["Menu"] = await MenuAsync(site.Version, sight ?? await sights.EveryoneAsync(ct), ct);
        var bytes = Encoding.UTF8.GetBytes(await HtmlAsync<TComponent>(all));
        using var small = new MemoryStream();
        await using (var brotli = new BrotliStream(small, CompressionLevel.Optimal))
        {
            await brotli.WriteAsync(bytes, ct);
        }

        return new Rendered(bytes, small.ToArray(), Security.ContentPolicy($"{Security.StyleSource(theme.Css)} {styles}", elsewhere, framedAnywhere));
    }

    async Task<string> HtmlAsync<TComponent>(Dictionary<string, object?> parameters)
        where TComponent : IComponent
    {
        await using var renderer = new HtmlRenderer(services, logs);
        return await renderer.Dispatcher.InvokeAsync(async () => (await renderer.RenderComponentAsync<TComponent>(ParameterView.FromDictionary(parameters))).ToHtmlString());
    }

    /// <summary>The menu; whatever changes in it, or of what it leads to, is another version of the site.</summary>
    async Task<IReadOnlyList<SiteMenuEntry>> MenuAsync(long version, Sight sight, CancellationToken ct) =>
        kept.TryGetValue(("menu", version, sight.Key), out IReadOnlyList<SiteMenuEntry>? menu)
            ? menu!
            : kept.Set(("menu", version, sight.Key), await links.MenuAsync(sight, ct), new MemoryCacheEntryOptions { Size = 10_000, SlidingExpiration = TimeSpan.FromMinutes(30) });

    /// <summary>How the site looks; another look is another version of the site.</summary>
    async Task<ThemeStyle> ThemeAsync(long version, CancellationToken ct) =>
        kept.TryGetValue(("theme", version), out ThemeStyle? theme)
            ? theme!
            : kept.Set(("theme", version), new ThemeStyle((await themes.PublishedAsync(ct)).Look(), []), new MemoryCacheEntryOptions { Size = 2_000, SlidingExpiration = TimeSpan.FromMinutes(30) });

    public void Dispose() => kept.Dispose();
}

internal static class ReadOnlyListExtensions
{
    public static int IndexOf<T>(this IReadOnlyList<T> list, T wanted)
    {
        for (var i = 0; i < list.Count; i++)
        {
            if (EqualityComparer<T>.Default.Equals(list[i], wanted))
            {
                return i;
            }
        }

        return -1;
    }
}
