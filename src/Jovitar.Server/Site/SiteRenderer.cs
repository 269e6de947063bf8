using System.IO.Compression;
using System.Text;
using Jovitar.Core;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Jovitar.Server.Site.Components;
using Microsoft.AspNetCore.Components;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>A finished page: its bytes as they are and compressed, and what its style sheet adds to the policy.</summary>
internal sealed record Rendered(byte[] Html, byte[] Brotli, string Policy);

/// <summary>Makes visitors' HTML, and keeps it for as long as its version stands.</summary>
internal sealed class SiteRenderer(IServiceProvider services, ILoggerFactory logs, SiteStore store, SiteIndexStore indexes, SettingsStore settings, SiteAssets assets) : IDisposable
{
    /// <summary>Bytes of pages and models that are kept at most.</summary>
    const long MostKept = 96L * 1024 * 1024;

    readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>The page's model at a version; read from the database once.</summary>
    public async Task<SitePage?> PageAsync(PageVersion version, CancellationToken ct)
    {
        var key = (version.Id, version.Version, "model");
        if (kept.TryGetValue(key, out SitePage? page))
        {
            return page;
        }

        page = version.Kind switch
        {
            SiteKind.Page => await store.PageAsync(new PageId(version.Id), draft: false, ct),
            SiteKind.Album => await store.AlbumAsync(version.Id, ct),
            _ => await store.CategoryAsync(new CategoryId(version.Id), ct),
        };
        return page is null ? null : kept.Set(key, page, new MemoryCacheEntryOptions { Size = 2000 + (page.Photos.Count * 700L), SlidingExpiration = TimeSpan.FromMinutes(30) });
    }

    /// <summary>A page narrowed to a choice, made once for each version.</summary>
    public async Task<Rendered?> AlbumPageAsync(PageVersion version, string? show, CancellationToken ct)
    {
        // Most visitors come without a choice: their page is found before anything is computed.
        if (string.IsNullOrEmpty(show) && kept.TryGetValue((version.Id, version.Version, version.Site, ""), out Rendered? rendered))
        {
            return rendered;
        }

        if (await PageAsync(version, ct) is not { } page)
        {
            return null;
        }

        var view = new Narrowed(page, show, page.Path);
        var key = (version.Id, version.Version, version.Site, view.Choice);
        if (kept.TryGetValue(key, out rendered))
        {
            return rendered!;
        }

        rendered = await AlbumPageAsync(page, view, page.Path, draft: false, ct);
        return kept.Set(key, rendered, new MemoryCacheEntryOptions { Size = rendered.Html.Length + rendered.Brotli.Length, SlidingExpiration = TimeSpan.FromMinutes(30) });
    }

    public async Task<Rendered> AlbumPageAsync(SitePage page, Narrowed view, string basePath, bool draft, CancellationToken ct)
    {
        var style = new LayoutStyle(page.Content.Layout, view.Shapes);
        return await RenderAsync<AlbumPage>(style.CspSource, ct, ("Page", page), ("View", view), ("Style", style), ("BasePath", basePath), ("Draft", draft));
    }

    public Task<Rendered> PhotoPageAsync(SitePage page, Narrowed view, int photo, string basePath, bool draft, CancellationToken ct)
    {
        var at = view.Shown.IndexOf(photo);
        SitePhoto? Beside(int by) => at >= 0 && at + by >= 0 && at + by < view.Shown.Count ? page.Photos[view.Shown[at + by]] : null;
        return RenderAsync<PhotoPage>("", ct, ("Page", page), ("Photo", page.Photos[photo]), ("Before", Beside(-1)), ("After", Beside(1)), ("BasePath", basePath), ("Choice", at < 0 ? "" : view.Choice), ("Draft", draft));
    }

    /// <summary>The start page, made once for each version of what it shows.</summary>
    public async Task<Rendered> StartPageAsync(string version, CancellationToken ct)
    {
        if (kept.TryGetValue(("start", version), out Rendered? rendered))
        {
            return rendered!;
        }

        rendered = await RenderAsync<StartPage>("", ct, ("Entries", await indexes.StartAsync(ct)));
        return kept.Set(("start", version), rendered, new MemoryCacheEntryOptions { Size = rendered.Html.Length + rendered.Brotli.Length, SlidingExpiration = TimeSpan.FromMinutes(30) });
    }

    public Task<Rendered> MissingPageAsync(CancellationToken ct) => RenderAsync<MissingPage>("", ct);

    async Task<Rendered> RenderAsync<TComponent>(string policy, CancellationToken ct, params (string Name, object? Value)[] parameters)
        where TComponent : IComponent
    {
        var all = parameters.ToDictionary(p => p.Name, p => p.Value);
        all["Site"] = await settings.ReadAsync(ct);
        all["Built"] = assets;
        await using var renderer = new HtmlRenderer(services, logs);
        var html = await renderer.Dispatcher.InvokeAsync(async () => (await renderer.RenderComponentAsync<TComponent>(ParameterView.FromDictionary(all))).ToHtmlString());
        var bytes = Encoding.UTF8.GetBytes(html);
        using var small = new MemoryStream();
        await using (var brotli = new BrotliStream(small, CompressionLevel.Optimal))
        {
            await brotli.WriteAsync(bytes, ct);
        }

        return new Rendered(bytes, small.ToArray(), Security.ContentPolicy(policy));
    }

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
