using System.Collections.Concurrent;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Records;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Access.Entries;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Mailing;
using Jovitar.Server.Records;
using Jovitar.Server.Site.Drawing;
using Jovitar.Server.Site.Entering;
using Jovitar.Server.Visits;
using Microsoft.Extensions.Caching.Memory;

namespace Jovitar.Server.Site;

/// <summary>What an answer to a visitor is made with.</summary>
internal sealed class SiteDoor(SiteStore store, SiteRenderer renderer, SiteAssets built, AccessStore access, ActRunner acts, VisitCounter visits, SiteOrigin origin, SightStore sights, EntryStore entries, MailSettings mail, RecordWriter records) : IDisposable
{
    /// <summary>What was found a moment ago and is for visitors is so still, unless anything was done here since; what others do is seen after this.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromSeconds(1);

    readonly MemoryCache found = new(new MemoryCacheOptions { SizeLimit = 20_000 });
    readonly ConcurrentDictionary<(SiteKind, string, long, string), Lazy<Task<PageVersion?>>> looks = new();

    public VisitCounter Visits => visits;

    /// <summary>Notes what somebody did on a page whom the site knows, or that they were turned away. What they marked is nothing that anybody keeps.</summary>
    public void Note(HttpContext http, Recorded what, PageVersion version, Sight sight, PhotoId? photo = null)
    {
        if (version.Kind != SiteKind.Favourites)
        {
            records.Note(http, what, version.Kind.ToString().ToLowerInvariant(), version.Id, sight, Core.Access.Access.GatesOf(version.Thing), photo);
        }
    }

    public SiteRenderer Renderer => renderer;

    public SiteOrigin Origin => origin;

    /// <summary>Where the visitor stands who asks.</summary>
    public ValueTask<Sight> SightAsync(HttpContext http, CancellationToken ct) => sights.OfAsync(http, ct);

    /// <summary>Where everyone stands: for what other websites and programs are told.</summary>
    public ValueTask<Sight> EveryoneAsync(CancellationToken ct) => sights.EveryoneAsync(ct);

    /// <summary>Answers somebody who finds nothing at an address: with the entrance where there is something behind gates that holders pass, or members.</summary>
    public async Task TurnAwayAsync(HttpContext http, SiteKind kind, string address, Sight sight, CancellationToken ct)
    {
        var to = $"{http.Request.Path}{http.Request.QueryString}";
        // Most who find nothing mistyped something: that is found out by one question.
        var version = await store.FindAsync(kind, address, sight, ct);
        if (version is not null && Core.Access.Access.GatesOf(version.Thing).Any(g => !g.LetsIn(sight.Viewer, access.Now)))
        {
            Note(http, Recorded.Refused, version, sight);
        }

        if (version is not null && await ShutAsync(version, kind, address, sight, ct) is { } gates)
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            EnteringEndpoints.Hide(http);
            await SiteEndpoints.SendAsync(http, await renderer.EnteringPageAsync(new ToEnter(to, Link: false, await entries.HasPasscodeAsync(gates, ct)), ct), ct);
        }
        else if (version is not null && sight.Viewer.Role != Role.Member && await IsForMembersAsync(version, kind, address, sight, ct))
        {
            http.Response.StatusCode = StatusCodes.Status403Forbidden;
            EnteringEndpoints.Hide(http);
            await SiteEndpoints.SendAsync(http, await renderer.SignInPageAsync(new ToSignIn(to, mail.IsSet, IsTurnedAway: true), ct), ct);
        }
        else
        {
            await SiteEndpoints.Missing(http, renderer, ct);
        }
    }

    /// <summary>Whether some of those who sign in find something at an address, or come as far as to where a passcode is asked for.</summary>
    async Task<bool> IsForMembersAsync(PageVersion version, SiteKind kind, string address, Sight sight, CancellationToken ct)
    {
        Gate[] shut = [.. Core.Access.Access.GatesOf(version.Thing).Where(g => !g.LetsIn(sight.Viewer, access.Now))];
        return shut.Any(g => g.Audience.Who is Admitted.Members or Admitted.Chosen) && shut.All(g => g.Audience.Who != Admitted.Staff && g.Audience.IsOn(access.Now))
            && await store.FindAsync(kind, address, Sight.Somebody, ct) is { } opened && access.May(Viewer.Somebody, Right.See, opened.Thing);
    }

    /// <summary>The things whose gates keep a visitor out of what is at an address, and who holds an entry link or a passcode passes; null for nothing but those.</summary>
    public async Task<IReadOnlyList<Guid>?> ShutAsync(SiteKind kind, string address, Sight sight, CancellationToken ct) =>
        await store.FindAsync(kind, address, sight, ct) is { } version ? await ShutAsync(version, kind, address, sight, ct) : null;

    async Task<IReadOnlyList<Guid>?> ShutAsync(PageVersion version, SiteKind kind, string address, Sight sight, CancellationToken ct)
    {
        if (Core.Access.Access.GatesOf(version.Thing).Where(g => !g.LetsIn(sight.Viewer, access.Now)).Select(g => g.Thing).ToArray() is not { Length: > 0 } shut)
        {
            return null;
        }

        var holder = Sight.Of(sight.Viewer with { Holds = sight.Viewer.Holds.Concat(shut).ToHashSet() }, sight.Gates, access.Now);
        return await store.FindAsync(kind, address, holder, ct) is { } opened && access.May(holder.Viewer, Right.See, opened.Thing) ? shut : null;
    }

    /// <summary>Where what an entry opens is, from the site's root.</summary>
    public async Task<string> PathAsync(EntryFound entry, CancellationToken ct) => await store.PathAsync(entry.Kind, entry.Thing, ct) ?? "/";

    /// <summary>What is at an address, if a visitor may see it.</summary>
    public async Task<PageVersion?> FindAsync(SiteKind kind, string address, Sight sight, CancellationToken ct)
    {
        // Each is asked for by a few, and its address is long: it is looked for anew.
        if (kind == SiteKind.Favourites)
        {
            return await store.FindAsync(kind, address, sight, ct) is { } version && access.May(sight.Viewer, Right.See, version.Thing) ? version : null;
        }

        var now = acts.Finished;
        if (found.TryGetValue((kind, address, sight.Key), out (PageVersion Version, long Acts) known) && known.Acts == now)
        {
            return known.Version;
        }

        // Who asks while it is looked for gets what is found for the first of them.
        var key = (kind, address, now, sight.Key);
        var looking = looks.GetOrAdd(key, _ => new Lazy<Task<PageVersion?>>(() => LookAsync(kind, address, now, sight)));
        try
        {
            return await looking.Value.WaitAsync(ct);
        }
        finally
        {
            looks.TryRemove(key, out _);
        }
    }

    async Task<PageVersion?> LookAsync(SiteKind kind, string address, long finished, Sight sight)
    {
        if (await store.FindAsync(kind, address, sight, CancellationToken.None) is not { } version || !access.May(sight.Viewer, Right.See, version.Thing))
        {
            return null;
        }

        found.Set((kind, address, sight.Key), (version, finished), new MemoryCacheEntryOptions { Size = 1, AbsoluteExpirationRelativeToNow = Kept });
        return version;
    }

    public void Dispose() => found.Dispose();

    public string Tag(PageVersion version) => $"{version.Id:N}-{version.Version}-{version.Site}-{version.Sight.Key}-{built.Version}";
}
