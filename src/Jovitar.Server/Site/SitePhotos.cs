using Jovitar.Core;
using Jovitar.Core.Access;
using Jovitar.Core.Comments;
using Jovitar.Core.Corrections;
using Jovitar.Core.Pages;
using Jovitar.Core.Photos;
using Jovitar.Server.Access;
using Jovitar.Server.Access.Audiences;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Site;

/// <summary>Photos as visitors have them, and whether they have them: the decision, with what a row says.</summary>
internal sealed class SitePhotos(AccessStore access)
{
    /// <summary>The columns of a photo called <c>p</c>, for those whom <c>@shut</c> keeps out of the rest and who get it from <c>@marking</c> with the watermark.</summary>
    public static readonly string Columns =
        $"""
        p.id, p.picture, p.width, p.height, p.title, p.caption, p.alt, p.rating, p.correction::text as correction,
          coalesce(nullif(p.credit, ''), p.creator) as credit, p.place, p.taken, p.camera, p.licence, p.link,
          p.creator, p.copyright, p.file_name, p.arrived,
          {AccessStore.TalkColumn},
          {AccessStore.PhotoColumns}, {AccessStore.MarkColumn}
        """;

    /// <summary>A photo of a row with <see cref="Columns"/> as a visitor has it; null where they do not see it.</summary>
    public SitePhoto? Read(NpgsqlDataReader r, ShownOn on, Sight sight) =>
        ThingOf(r, on, sight) is { } thing ? Read(r, PictureOf(r, thing, sight)) with { Talk = TalkOf(r, thing, sight), Saves = Reserve.Saves(thing.Reserves, sight.Viewer, Saving.Full) } : null;

    /// <summary>The photo of a row, with all that the decision rests on; null where a visitor does not see it.</summary>
    PhotoThing? ThingOf(NpgsqlDataReader r, ShownOn on, Sight sight)
    {
        var thing = AccessStore.Photo(r, on, sight.Gates);
        return access.May(sight.Viewer, Right.See, thing) ? AccessStore.Marked(r, thing, sight.Gates) : null;
    }

    /// <summary>What a visitor may say about it: "comments", or where there are only those "ratings"; null for nothing.</summary>
    string? TalkOf(NpgsqlDataReader r, PhotoThing thing, Sight sight)
    {
        var talk = AccessStore.TalkOf(r, thing);
        return (talk.Comments, talk.Ratings) == (TalkFor.Nobody, TalkFor.Nobody) ? null : access.May(sight.Viewer, Right.Comment, talk) ? "comments" : access.May(sight.Viewer, Right.Rate, talk) ? "ratings" : null;
    }

    /// <summary>What a visitor has of the photo of a row with its picture, <see cref="AccessStore.PhotoColumns"/> and <see cref="AccessStore.MarkColumn"/>: with the watermark where they get it so; null where they do not see it.</summary>
    public string? PictureOf(NpgsqlDataReader r, ShownOn on, Sight sight) => ThingOf(r, on, sight) is { } thing ? PictureOf(r, thing, sight) : null;

    string PictureOf(NpgsqlDataReader r, PhotoThing thing, Sight sight) => PictureName.Marked(r.Get<string>("picture"), access.MarkOf(thing, sight));

    static SitePhoto Read(NpgsqlDataReader r, string picture) => new(
        new PhotoId(r.Get<Guid>("id")), picture, r.Get<int>("width"), r.Get<int>("height"), r.Get<string>("title"), r.Get<string>("caption"), r.Get<string>("alt"), r.Get<string>("credit"), CorrectionText.Seen(r.MaybeText("correction")), r.Get<short>("rating"))
    {
        Facts = new PhotoFacts(r.Get<string>("place"), r.Maybe<DateTime>("taken") is { } taken ? DateOnly.FromDateTime(taken) : null, r.MaybeText("camera") ?? "", r.Get<string>("licence"), r.Get<string>("link"), r.Get<string>("creator"), r.Get<string>("copyright"), r.Get<string>("file_name"), r.Get<DateTime>("arrived")),
    };

    /// <summary>Whether a visitor may see the photo of a row with <see cref="AccessStore.PhotoColumns"/>.</summary>
    public bool Sees(NpgsqlDataReader r, ShownOn on, Sight sight) => access.May(sight.Viewer, Right.See, AccessStore.Photo(r, on, sight.Gates));

    /// <summary>Whether a visitor may see the album of a row with <see cref="AccessStore.ShownOnOfAlbums"/>, which knows what keeps them out.</summary>
    public bool SeesAlbum(NpgsqlDataReader r, Sight sight) => access.May(sight.Viewer, Right.See, new AlbumThing(Binned: false, AccessStore.On(r)));

    /// <summary>Whether a visitor comes upon that album in lists, of a row that has <see cref="AccessStore.ByLink"/> besides.</summary>
    public bool FindsAlbum(NpgsqlDataReader r, Sight sight) => access.May(sight.Viewer, Right.Find, new AlbumThing(Binned: false, AccessStore.On(r)) { ByLinkAlone = r.Get<bool>("by_link") });

    /// <summary>Whether a visitor may know of an album on a page that shows its photos.</summary>
    /// <param name="isShown">It is in view, and its gates let them in.</param>
    public bool SeesOnPage(bool isShown, bool isBinned, Sight sight) => access.May(sight.Viewer, Right.See, new AlbumThing(isBinned, OnPage(isShown)));

    /// <summary>What a page shows of an album: nothing of one that is out of view.</summary>
    public static ShownOn OnPage(bool isShown) => isShown ? new ShownOn(1) : new ShownOn(0, OutOfView: 1);
}
