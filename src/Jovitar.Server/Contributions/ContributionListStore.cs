using Jovitar.Core;
using Jovitar.Core.Contributions;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Contributions;

/// <summary>What somebody sent in, for those who decide on it.</summary>
/// <param name="Member">Who it was, where they are a member still.</param>
/// <param name="IsTrusted">What that member sends of their own accord is accepted by itself.</param>
/// <param name="Link">By which link it came; empty for a member's own.</param>
/// <param name="AlbumName">Where accepted photos are put: an album that is there, or that is made of them; empty for nowhere.</param>
/// <param name="IsNewAlbum">It is made with the first that is accepted.</param>
/// <param name="CategoryName">Where that stands; empty for nowhere.</param>
/// <param name="Photos">The first of them, to know it by.</param>
internal sealed record ContributionLine(
    Guid Id, string Name, Guid? Member, bool IsTrusted, string Link, string AlbumName, bool IsNewAlbum, string CategoryName, DateTimeOffset Sent, int Waiting, int Accepted, int Refused, int Withdrawn, IReadOnlyList<Guid> Photos);

/// <summary>What was sent in, the latest first.</summary>
/// <param name="Further">There are more behind the last.</param>
internal sealed record ContributionList(IReadOnlyList<ContributionLine> Contributions, bool Further);

/// <summary>A photo that somebody sent in.</summary>
/// <param name="Photo">What it became, where that is here.</param>
/// <param name="IsHere">The same bytes are a photo here already.</param>
/// <param name="IsComing">It was accepted a moment ago and becomes a photo.</param>
/// <param name="CanAccept">It can be accepted, also after it was refused.</param>
/// <param name="HasPicture">There is a picture of it.</param>
internal sealed record ContributedPhoto(
    Guid Id, string FileName, int Width, int Height, long Bytes, string Title, string Caption, SentState State, string Reason, string DecidedBy, PhotoId? Photo, bool IsHere, bool IsComing, bool CanAccept, bool HasPicture);

/// <summary>What somebody sent in, with its photos in their order.</summary>
/// <param name="Email">Where they are told; empty for nowhere.</param>
/// <param name="Words">What they say with it.</param>
/// <param name="Agreed">What they said yes to; empty for nothing.</param>
internal sealed record ContributionShown(ContributionLine Contribution, string Email, string Words, string Agreed, IReadOnlyList<ContributedPhoto> Photos);

/// <summary>What visitors sent in, for those who decide on it.</summary>
internal sealed class ContributionListStore(NpgsqlDataSource db)
{
    /// <summary>So many stand in one answer.</summary>
    const int Step = 60;

    /// <summary>So many photos of each are shown in the list.</summary>
    const int MostShown = 5;

    const string Columns =
        $"""
        c.id, coalesce(m.name, c.name) as name, m.id as member,
               coalesce(m.contributing = 'Trusted', false) as is_trusted,
               coalesce(l.title, '') as link,
               coalesce(a.working_name, c.album_title) as album_name, a.id is null and c.album_title <> '' as is_new,
               coalesce(k.name, '') as category, c.sent, c.email, c.words, c.agreed,
               s.*, array(
                 select p.id
                   from contribution_photo as p
                  where p.contribution = c.id and (p.is_kept or p.state = 'Accepted')
                  order by p.place, p.id
                  limit @shown) as photos
        """;

    const string From =
        $"""
        contribution as c
              left join contribution_link as l on l.id = c.link
              left join account as m on m.id = c.account and m.role = 'Member'
              left join album as a on a.id = c.album and a.binned is null
              left join category as k on k.id = c.album_category and k.binned is null
             cross join lateral ({SentStore.Counts}) as s
        """;

    static ContributionLine Read(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<string>("name"), r.MaybeId("member"), r.Get<bool>("is_trusted"), r.Get<string>("link"), r.Get<string>("album_name"),
        r.Get<bool>("is_new"), r.Get<string>("category"), r.Get<DateTimeOffset>("sent"), r.Get<int>("waiting"), r.Get<int>("accepted"), r.Get<int>("refused"), r.Get<int>("withdrawn"), r.Get<Guid[]>("photos"));

    /// <param name="waiting">Only those with photos that nobody has decided on.</param>
    /// <param name="behind">The last one that is known; null from the beginning.</param>
    public async Task<ContributionList> ListAsync(bool waiting, Guid? behind, CancellationToken ct)
    {
        var which = waiting ? "exists (select from contribution_photo as w where w.contribution = c.id and w.state = 'Waiting')" : "true";
        await using var command = db.Command(
            $"""
            select {Columns}
              from {From}
             where c.sent is not null and {which}
               and (@behind::uuid is null or (c.sent, c.id) < (select b.sent, b.id from contribution as b where b.id = @behind))
             order by c.sent desc, c.id desc
             limit @most
            """,
            ("behind", behind), ("most", Step + 1), ("shown", MostShown));
        var found = await command.AllAsync(Read, ct);
        return new ContributionList([.. found.Take(Step)], found.Count > Step);
    }

    /// <returns>Null when it is not there.</returns>
    public async Task<ContributionShown?> FindAsync(Guid contribution, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from {From} where c.id = @id and c.sent is not null", ("id", contribution), ("shown", MostShown));
        if (await command.FirstAsync(r => new ContributionShown(Read(r), r.Get<string>("email"), r.Get<string>("words"), r.Get<string>("agreed"), []), ct) is not { } shown)
        {
            return null;
        }

        await using var photos = db.Command(
            """
            select p.*, q.id as became,
                   p.photo is null and exists (select from photo as h where h.hash = p.hash and h.binned is null) as is_here
              from contribution_photo as p
              left join photo as q on q.id = p.photo and q.binned is null
             where p.contribution = @id
             order by p.place, p.id
            """,
            ("id", contribution));
        return shown with
        {
            Photos = await photos.AllAsync(
                r =>
                {
                    var (state, isKept) = (Enum.Parse<SentState>(r.Get<string>("state")), r.Get<bool>("is_kept"));
                    return new ContributedPhoto(
                        r.Get<Guid>("id"), r.Get<string>("file_name"), r.Get<int>("width"), r.Get<int>("height"), r.Get<long>("bytes"), r.Get<string>("title"), r.Get<string>("caption"), state, r.Get<string>("reason"),
                        r.Get<string>("decided_by"), r.MaybeId("became") is { } photo ? new PhotoId(photo) : null, r.Get<bool>("is_here"), isKept && state == SentState.Accepted, Sending.CanDecide(state, isKept, SentState.Accepted), isKept || state == SentState.Accepted);
                },
                ct),
        };
    }
}
