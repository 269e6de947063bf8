using System.Security.Cryptography;
using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Comments;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Comments;

/// <summary>A comment as visitors read it.</summary>
public sealed record ShownComment(Guid Id, string Name, string Words, DateTimeOffset Said);

/// <summary>What visitors say about a photo, as far as they may.</summary>
/// <param name="Comments">Oldest first; null where nobody comments.</param>
/// <param name="Ratings">Null where nobody rates.</param>
public sealed record PhotoTalk(IReadOnlyList<ShownComment>? Comments, Ratings? Ratings)
{
    /// <summary>Another one when anything of it is another.</summary>
    public string Version()
    {
        var bytes = (Comments ?? []).SelectMany(c => c.Id.ToByteArray()).Concat(BitConverter.GetBytes(Ratings?.Count ?? -1)).Concat(BitConverter.GetBytes(Ratings?.Sum ?? -1)).Append(Comments is null ? (byte)0 : (byte)1);
        return Convert.ToHexStringLower(SHA256.HashData([.. bytes]).AsSpan(0, 6));
    }
}

/// <summary>How a visitor's word about a photo was taken.</summary>
public enum Taken
{
    Written,

    /// <summary>Nobody may say anything there, or not any more.</summary>
    NotOffered,

    /// <summary>More came from there than one person writes.</summary>
    TooMany,

    /// <summary>So many wait to be read that no more are taken.</summary>
    Full,
}

/// <summary>What visitors say about photos: they need no account, and nothing is kept of them but their name, their words and what they gave.</summary>
internal sealed class TalkStore(NpgsqlDataSource db, AccessStore access, TryCount tries, TimeProvider clock)
{
    /// <summary>Comments a minute from one address: a class behind one line may talk.</summary>
    public const int CommentsAMinute = 6;

    /// <summary>Ratings a minute from one address.</summary>
    public const int RatingsAMinute = 120;

    /// <summary>So many comments may wait to be read.</summary>
    public const int MostWaiting = 2000;

    /// <summary>So many comments of one photo are shown, the latest.</summary>
    const int MostShown = 500;

    static readonly TimeSpan Window = TimeSpan.FromMinutes(1);

    /// <summary>What visitors say about a photo; null where they may say nothing.</summary>
    public async Task<PhotoTalk?> OfAsync(PhotoId photo, Sight sight, CancellationToken ct)
    {
        if (await access.TalkAsync(photo, sight, ct) is not { } thing)
        {
            return null;
        }

        var (comments, ratings) = (access.May(sight.Viewer, Right.Comment, thing), access.May(sight.Viewer, Right.Rate, thing));
        return !comments && !ratings ? null : new PhotoTalk(comments ? await CommentsAsync(photo, ct) : null, ratings ? await RatingsAsync(photo, ct) : null);
    }

    async Task<IReadOnlyList<ShownComment>> CommentsAsync(PhotoId photo, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            select id, name, words, said
              from comment
             where photo = @photo and state = 'Shown'
             order by said desc, id desc
             limit @most
            """,
            ("photo", photo.Value), ("most", MostShown));
        var latest = await command.AllAsync(r => new ShownComment(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<string>("words"), r.Get<DateTimeOffset>("said")), ct);
        return [.. latest.AsEnumerable().Reverse()];
    }

    async Task<Ratings> RatingsAsync(PhotoId photo, CancellationToken ct)
    {
        await using var command = db.Command("select count(*) as count, coalesce(sum(value), 0) as sum from visitor_rating where photo = @photo", ("photo", photo.Value));
        return (await command.AllAsync(r => new Ratings(r.Get<long>("count"), r.Get<long>("sum")), ct))[0];
    }

    /// <summary>Takes a comment; it waits until staff show it.</summary>
    /// <param name="comment">Without faults.</param>
    /// <param name="address">Where it comes from; forgotten within the hour.</param>
    public async Task<Taken> WriteAsync(PhotoId photo, Comment comment, string address, Sight sight, CancellationToken ct)
    {
        if (await access.TalkAsync(photo, sight, ct) is not { } thing || !access.May(sight.Viewer, Right.Comment, thing))
        {
            return Taken.NotOffered;
        }

        if (await IsOverAsync($"c {address}", CommentsAMinute, ct))
        {
            return Taken.TooMany;
        }

        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            insert into comment (id, photo, name, words, said)
            select @id, p.id, @name, @words, @now
              from photo as p
             where p.id = @photo
               and (
                 select count(*)
                   from comment as c
                   join photo as q on q.id = c.photo and q.binned is null
                  where c.state = 'Waiting') < @most
            """,
            ("id", Guid.CreateVersion7(now)), ("photo", photo.Value), ("name", comment.Name), ("words", comment.Words), ("now", now), ("most", MostWaiting));
        return await command.ExecuteNonQueryAsync(ct) > 0 ? Taken.Written : Taken.Full;
    }

    /// <summary>Takes what a visitor gives a photo, in place of what they gave it before.</summary>
    /// <param name="visitor">What their browser calls itself.</param>
    /// <param name="value">From <see cref="Ratings.Least"/> to <see cref="Ratings.Most"/>; null takes it back.</param>
    public async Task<Taken> RateAsync(PhotoId photo, string visitor, int? value, string address, Sight sight, CancellationToken ct)
    {
        if (await access.TalkAsync(photo, sight, ct) is not { } thing || !access.May(sight.Viewer, Right.Rate, thing))
        {
            return Taken.NotOffered;
        }

        if (await IsOverAsync($"r {address}", RatingsAMinute, ct))
        {
            return Taken.TooMany;
        }

        // Of another photo the same visitor is another: nobody learns from the table what one person likes.
        var key = SHA256.HashData([.. photo.Value.ToByteArray(), .. System.Text.Encoding.UTF8.GetBytes(visitor)]).AsSpan(0, 16).ToArray();
        await using var command = value is { } given
            ? db.Command(
                """
                insert into visitor_rating (photo, visitor, value)
                select p.id, @visitor, @value from photo as p where p.id = @photo
                on conflict (photo, visitor) do update set value = excluded.value
                """,
                ("photo", photo.Value), ("visitor", key), ("value", (short)given))
            : db.Command("delete from visitor_rating where photo = @photo and visitor = @visitor", ("photo", photo.Value), ("visitor", key));
        await command.ExecuteNonQueryAsync(ct);
        return Taken.Written;
    }

    async Task<bool> IsOverAsync(string key, int most, CancellationToken ct)
    {
        var wait = await tries.WaitAsync(Window, ct, (key, most));
        await tries.ForgetAsync(ct);
        return wait is not null;
    }
}
