using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Favourites;

/// <summary>What a visitor chose of an album, for those who asked for it.</summary>
/// <param name="Name">Who that is: a member, or for whom the entry is that they came by.</param>
/// <param name="IsMember">Else everyone who came by the same entry chose it together.</param>
/// <param name="Member">They are one still.</param>
/// <param name="Most">So many the album asks for; null for any number.</param>
/// <param name="Words">What they say with it.</param>
/// <param name="Sent">When they said that they are done.</param>
/// <param name="IsNoted">Somebody has taken note of that.</param>
internal sealed record ChoiceLine(Guid Id, AlbumId Album, string AlbumName, string Name, bool IsMember, Guid? Member, Guid? Entry, int Photos, int? Most, string Words, DateTimeOffset Changed, DateTimeOffset? Sent, bool IsNoted);

/// <summary>What visitors chose, the latest first.</summary>
/// <param name="Further">There are more behind the last.</param>
internal sealed record ChoiceList(IReadOnlyList<ChoiceLine> Choices, bool Further);

/// <summary>How many visitors have chosen of an album.</summary>
/// <param name="Sent">How many of those are done.</param>
internal sealed record ChoiceCount(int All, int Sent);

/// <summary>A photo that a visitor chose.</summary>
/// <param name="Name">Its title, else its file's name.</param>
internal sealed record ChosenPhoto(PhotoId Id, string Picture, int Width, int Height, string Name, string FileName);

/// <summary>A choice with its photos, in the order in which they were chosen.</summary>
internal sealed record ChoiceShown(ChoiceLine Choice, IReadOnlyList<ChosenPhoto> Photos);

/// <summary>What visitors chose, for those who asked for it.</summary>
internal sealed class ChoiceListStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>So many stand in one answer.</summary>
    const int Step = 100;

    const string Columns =
        """
        c.id, c.album, a.working_name, coalesce(m.name, c.name) as name, c.account, c.entry, c.words, c.changed, c.sent,
               c.noted is not null as is_noted, a.choosing_most, (
                 select count(*)::int
                   from choice_photo as cp
                   join photo as p on p.id = cp.photo and p.binned is null
                  where cp.choice = c.id) as photos
        """;

    const string From =
        """
        choice as c
              join album as a on a.id = c.album and a.binned is null
              left join account as m on m.id = c.account
        """;

    static ChoiceLine Read(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), new AlbumId(r.Get<Guid>("album")), r.Get<string>("working_name"), r.Get<string>("name"), r.MaybeId("entry") is null, r.MaybeId("account"), r.MaybeId("entry"), r.Get<int>("photos"),
        r.Maybe<int>("choosing_most"), r.Get<string>("words"), r.Get<DateTimeOffset>("changed"), r.Maybe<DateTimeOffset>("sent"), r.Get<bool>("is_noted"));

    /// <summary>The choices of an album, or of all, the latest first.</summary>
    /// <param name="album">Null for all.</param>
    /// <param name="behind">The last one that is known; null from the beginning.</param>
    public async Task<ChoiceList> ListAsync(AlbumId? album, Guid? behind, CancellationToken ct)
    {
        var which = album is null ? "true" : "c.album = @album";
        await using var command = db.Command(
            $"""
            select {Columns}
              from {From}
             where {which}
               and (@behind::uuid is null
                 or (coalesce(c.sent, c.changed), c.id) < (select coalesce(b.sent, b.changed), b.id from choice as b where b.id = @behind))
             order by coalesce(c.sent, c.changed) desc, c.id desc
             limit @most
            """,
            ("album", album?.Value), ("behind", behind), ("most", Step + 1));
        var found = await command.AllAsync(Read, ct);
        return new ChoiceList([.. found.Take(Step)], found.Count > Step);
    }

    public async Task<ChoiceCount> CountAsync(AlbumId album, CancellationToken ct)
    {
        await using var command = db.Command("select count(*)::int as all, count(sent)::int as sent from choice where album = @album", ("album", album.Value));
        return (await command.FirstAsync(r => new ChoiceCount(r.Get<int>("all"), r.Get<int>("sent")), ct))!;
    }

    /// <summary>Those that were sent and that nobody has taken note of, the eldest first.</summary>
    public async Task<IReadOnlyList<ChoiceLine>> WaitingAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            $"""
            select {Columns}
              from {From}
             where c.sent is not null and c.noted is null
             order by c.sent, c.id
             limit @most
            """,
            ("most", Step));
        return await command.AllAsync(Read, ct);
    }

    /// <returns>Null when it is not there.</returns>
    public async Task<ChoiceShown?> FindAsync(Guid choice, CancellationToken ct)
    {
        await using var command = db.Command($"select {Columns} from {From} where c.id = @choice", ("choice", choice));
        if (await command.FirstAsync(Read, ct) is not { } line)
        {
            return null;
        }

        await using var photos = db.Command(
            """
            select p.id, p.picture, p.width, p.height, coalesce(nullif(p.title, ''), p.file_name) as name, p.file_name
              from choice_photo as cp
              join photo as p on p.id = cp.photo and p.binned is null
             where cp.choice = @choice
             order by cp.at, p.id
            """,
            ("choice", choice));
        return new ChoiceShown(line, await photos.AllAsync(r => new ChosenPhoto(new PhotoId(r.Get<Guid>("id")), r.Get<string>("picture"), r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("name"), r.Get<string>("file_name")), ct));
    }

    /// <summary>Takes note of a choice that was sent: it waits on the desk no longer.</summary>
    /// <returns>False when it is not there, or was not sent.</returns>
    public Task<bool> NoteAsync(Actor who, Guid choice, CancellationToken ct) => ChangeAsync(who, choice, "noted = coalesce(c.noted, @now)", OfferWords.Noted, ct);

    /// <summary>Lets a visitor change again what they sent.</summary>
    /// <returns>False when it is not there, or was not sent.</returns>
    public Task<bool> ReopenAsync(Actor who, Guid choice, CancellationToken ct) => ChangeAsync(who, choice, "sent = null, noted = null, changed = @now", OfferWords.Reopened, ct);

    /// <summary>Changes a choice that was sent.</summary>
    /// <param name="says">The sentence of the history, with who chose and the album.</param>
    async Task<bool> ChangeAsync(Actor who, Guid choice, string change, Func<string, string, string> says, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Choices,
        async act =>
        {
            await using var run = act.Command(
                $"""
                update choice as c
                   set {change}
                  from album as a
                 where c.id = @choice and c.sent is not null and a.id = c.album and a.binned is null
                returning c.name, a.working_name
                """,
                ("choice", choice), ("now", act.Now));
            if (await run.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Get<string>("working_name")), ct) is not var (name, album))
            {
                return act.Drop(false);
            }

            act.IsKept = true;
            act.Says = _ => says(name, album);
            return true;
        },
        ct)).Answer;

    /// <summary>A choice as a spreadsheet's file: the name of each photo's file, and its title.</summary>
    public static async Task<byte[]> TableAsync(ChoiceShown choice)
    {
        using var file = new MemoryStream();
        await using (var rows = new CsvRows(file))
        {
            await rows.AddAsync(["file", "title"]);
            foreach (var photo in choice.Photos)
            {
                await rows.AddAsync([photo.FileName, photo.Name == photo.FileName ? "" : photo.Name]);
            }
        }

        return file.ToArray();
    }
}
