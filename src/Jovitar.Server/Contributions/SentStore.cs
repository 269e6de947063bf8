using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Contributions;
using Jovitar.Server.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>A photo that somebody sends in, for them.</summary>
/// <param name="Reason">Why it was refused; empty for nothing said.</param>
public sealed record SentPhoto(Guid Id, string FileName, int Width, int Height, string Title, string Caption, SentState State, string Reason);

/// <summary>An album that a contribution is put into, as whoever sends it says.</summary>
/// <param name="Album">One that was made of what they sent before; null for none.</param>
/// <param name="Title">Of one that is made of this; empty for none.</param>
/// <param name="Category">Where that stands, one of those that are offered; null for nowhere.</param>
/// <param name="Comments">Visitors may comment on its photos.</param>
public sealed record AlbumWish(AlbumId? Album = null, [Words(Sending.LongestTitle)] string Title = "", CategoryId? Category = null, bool Comments = false)
{
    public static readonly AlbumWish None = new();
}

/// <summary>Something that can be chosen by its name.</summary>
public sealed record NamedChoice(Guid Id, string Name);

/// <summary>What somebody sends in, or has sent.</summary>
/// <param name="Title">What it was sent for; empty for a member's own.</param>
/// <param name="Instructions">What whoever made the link asks for.</param>
/// <param name="Agree">What they must say yes to; empty for nothing.</param>
/// <param name="IsKnown">By an account: their name is known.</param>
/// <param name="Most">So many photos fit.</param>
/// <param name="IsOpen">It can still be sent.</param>
/// <param name="Albums">Albums that were made of what they sent before; null where they have no say in that.</param>
/// <param name="Categories">Where an album of theirs may stand.</param>
/// <param name="Standing">How many photos stand where, a sentence.</param>
internal sealed record SentContribution(
    string Title, string Instructions, string Agree, bool IsKnown, int Most, bool IsOpen, string Name, string Email, string Words, AlbumWish Album, IReadOnlyList<NamedChoice>? Albums, IReadOnlyList<NamedChoice> Categories,
    DateTimeOffset? Sent, string Standing, IReadOnlyList<SentPhoto> Photos);

/// <summary>A contribution in its sender's list.</summary>
/// <param name="Link">What it was sent for; empty for a member's own.</param>
/// <param name="Photos">The first of its photos, to know it by.</param>
public sealed record OwnContribution(Guid Id, string Link, string Album, DateTimeOffset Begun, DateTimeOffset? Sent, int Count, string Standing, IReadOnlyList<Guid> Photos);

/// <summary>What visitors sent in, for whoever did.</summary>
internal sealed class SentStore(NpgsqlDataSource db, AccessStore access, TimeProvider clock)
{
    /// <summary>So many of a member's contributions are listed.</summary>
    const int MostListed = 100;

    /// <summary>So many photos of each are shown in that list.</summary>
    const int MostShown = 4;

    /// <summary>A contribution's photos by where they stand.</summary>
    public const string Counts =
        """
        select count(*) filter (where p.state = 'Waiting')::int as waiting,
               count(*) filter (where p.state = 'Accepted')::int as accepted,
               count(*) filter (where p.state = 'Refused')::int as refused,
               count(*) filter (where p.state = 'Withdrawn')::int as withdrawn
          from contribution_photo as p
         where p.contribution = c.id
        """;

    public static string Standing(NpgsqlDataReader r) => SendingWords.Standing(r.Get<int>("waiting"), r.Get<int>("accepted"), r.Get<int>("refused"), r.Get<int>("withdrawn"));

    /// <summary>Whether an account sends photos in of its own accord.</summary>
    public async Task<Contributing> ContributingAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command("select contributing from account where id = @account and role = 'Member'", ("account", account));
        return await command.ExecuteScalarAsync(ct) is string text ? Enum.Parse<Contributing>(text) : Contributing.No;
    }

    /// <summary>Whether an account sends photos in, or ever did.</summary>
    public async Task<bool> SendsAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command(
            "select contributing <> 'No' or exists (select from contribution as c where c.account = a.id) from account as a where a.id = @account", ("account", account));
        return await command.ExecuteScalarAsync(ct) is true;
    }

    /// <summary>What somebody sends in, or has sent; null when there is no such.</summary>
    public async Task<SentContribution?> FindAsync(Sender sender, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select c.id, c.name, c.email, c.words, c.album, c.album_title, c.album_category, c.album_comments, c.sent, c.account,
                   c.link is not null as by_link, l.title, l.words as instructions, l.agree, l.most, l.ends, l.revoked, l.for_members,
                   coalesce(a.contributing, 'No') as contributing, s.*
              from contribution as c
              left join contribution_link as l on l.id = c.link
              left join account as a on a.id = c.account and a.role = 'Member'
             cross join lateral ({Counts}) as s
             where {sender.Sql}
            """,
            sender.Parameters);
        var now = clock.GetUtcNow();
        var found = await command.FirstAsync(
            r =>
            {
                var byLink = r.Get<bool>("by_link");
                var link = byLink ? new LinkWords(r.Get<string>("title"), r.Get<string>("instructions"), r.Get<string>("agree"), r.Maybe<DateTimeOffset>("ends"), r.Get<bool>("for_members"), r.Get<int>("most")) : null;
                var account = r.MaybeId("account");
                var state = new SentContribution(
                    link?.Title ?? "", link?.Words ?? "", link?.Agree ?? "", account is not null, link?.Most ?? Sending.MostPhotos, Takes(access, link?.Thing(r.Maybe<DateTimeOffset>("revoked") is not null, now), account, Enum.Parse<Contributing>(r.Get<string>("contributing"))),
                    r.Get<string>("name"), r.Get<string>("email"), r.Get<string>("words"),
                    new AlbumWish(r.MaybeId("album") is { } album ? new AlbumId(album) : null, r.Get<string>("album_title"), r.MaybeId("album_category") is { } category ? new CategoryId(category) : null, r.Get<bool>("album_comments")),
                    null, [], r.Maybe<DateTimeOffset>("sent"), Standing(r), []);
                return Tuple.Create(r.Get<Guid>("id"), state, account);
            },
            ct);
        if (found is not var (id, shown, who))
        {
            return null;
        }

        return shown with
        {
            Album = who is not null && shown.Title.Length == 0 ? shown.Album : AlbumWish.None,
            Photos = await PhotosAsync(id, ct),
            Albums = who is { } member && shown.Title.Length == 0 ? await AlbumsAsync(member, ct) : null,
            Categories = who is not null && shown.Title.Length == 0 ? await CategoriesAsync(ct) : [],
        };
    }

    /// <summary>Whether photos are taken from somebody in some way.</summary>
    /// <param name="call">By which they are sent; null for a member's own.</param>
    public static bool Takes(AccessStore access, CallForPhotos? call, Guid? account, Contributing contributing) =>
        access.May(new Viewer(account is null ? Role.None : Role.Member), Right.Contribute, call is null ? new OwnPlace(contributing) : call);

    async Task<IReadOnlyList<SentPhoto>> PhotosAsync(Guid contribution, CancellationToken ct)
    {
        await using var command = db.Command(
            "select id, file_name, width, height, title, caption, state, reason from contribution_photo where contribution = @id order by place, id", ("id", contribution));
        return await command.AllAsync(ReadPhoto, ct);
    }

    public static SentPhoto ReadPhoto(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<string>("file_name"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("title"), r.Get<string>("caption"), Enum.Parse<SentState>(r.Get<string>("state")), r.Get<string>("reason"));

    /// <summary>Albums that were made of what a member sent.</summary>
    async Task<IReadOnlyList<NamedChoice>> AlbumsAsync(Guid member, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select a.id, coalesce(nullif(a.title, ''), a.working_name) as name
              from album as a
             where a.binned is null
               and a.id in (select c.album from contribution as c where c.account = @member and c.link is null and c.album is not null)
             order by lower(coalesce(nullif(a.title, ''), a.working_name)), a.id
             limit 200
            """,
            ("member", member));
        return await command.AllAsync(r => new NamedChoice(r.Get<Guid>("id"), r.Get<string>("name")), ct);
    }

    /// <summary>The categories that members may put albums of their own into.</summary>
    public async Task<IReadOnlyList<NamedChoice>> CategoriesAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select c.id, c.name
              from category as c
             where c.binned is null and c.id = any((select offered_categories from site)::uuid[])
             order by lower(c.name), c.id
            """);
        return await command.AllAsync(r => new NamedChoice(r.Get<Guid>("id"), r.Get<string>("name")), ct);
    }

    /// <summary>What a member has sent, or is putting together, the latest first.</summary>
    public async Task<IReadOnlyList<OwnContribution>> OfAsync(Guid member, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select c.id, coalesce(l.title, '') as link, coalesce(nullif(a.title, ''), a.working_name, c.album_title) as album,
                   c.begun, c.sent, s.*, array(
                     select p.id
                       from contribution_photo as p
                      where p.contribution = c.id and (p.is_kept or p.state = 'Accepted')
                      order by p.place, p.id
                      limit @shown) as photos
              from contribution as c
              left join contribution_link as l on l.id = c.link
              left join album as a on a.id = c.album and a.binned is null and c.link is null
             cross join lateral ({Counts}) as s
             where c.account = @member
             order by coalesce(c.sent, c.begun) desc, c.id desc
             limit @most
            """,
            ("member", member), ("most", MostListed), ("shown", MostShown));
        return await command.AllAsync(
            r => new OwnContribution(
                r.Get<Guid>("id"), r.Get<string>("link"), r.Get<string>("album"), r.Get<DateTimeOffset>("begun"), r.Maybe<DateTimeOffset>("sent"),
                r.Get<int>("waiting") + r.Get<int>("accepted") + r.Get<int>("refused") + r.Get<int>("withdrawn"), Standing(r), r.Get<Guid[]>("photos")),
            ct);
    }

    /// <summary>Whose a photo is that was sent in: whether a sender may see it.</summary>
    public async Task<bool> IsOfAsync(Sender sender, Guid photo, CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select 1
              from contribution_photo as p
              join contribution as c on c.id = p.contribution
             where p.id = @photo and (p.is_kept or p.state = 'Accepted') and {sender.Sql}
            """,
            [("photo", photo), .. sender.Parameters]);
        return await command.ExecuteScalarAsync(ct) is not null;
    }
}
