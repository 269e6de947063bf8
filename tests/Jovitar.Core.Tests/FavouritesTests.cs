using CsCheck;
using Jovitar.Core.Access;
using Jovitar.Core.Favourites;

namespace Jovitar.Core.Tests;

/// <summary>What visitors mark, as addresses tell it.</summary>
public sealed class FavouritesTests
{
    static readonly Gen<PhotoId[]> Photos = Gen.Guid.Array[1, 40].Select(ids => ids.Distinct().Select(PhotoId.From).ToArray());

    [Fact]
    public void Whatever_is_marked_is_read_out_of_its_address_in_its_order() =>
        Photos.Sample(photos => Assert.True(MarkedPhotos.TryParse(MarkedPhotos.Of(photos).Address, out var read) && read.Photos.SequenceEqual(photos)));

    /// <summary>Python's <c>base64.urlsafe_b64encode(uuid.bytes)</c> of two ids, in their order.</summary>
    [Fact]
    public void An_address_is_the_bytes_of_the_ids_in_network_order() =>
        Assert.Equal(
            "AZr1SfcAdxGAAKvN74___wGa9Un3AHcRgACrze-P__4",
            MarkedPhotos.Of([new PhotoId(Guid.Parse("019af549-f700-7711-8000-abcdef8fffff")), new PhotoId(Guid.Parse("019af549-f700-7711-8000-abcdef8ffffe"))]).Address);

    [Fact]
    public void Each_choice_has_one_address_and_whatever_else_is_typed_is_none()
    {
        var one = Guid.CreateVersion7();
        var address = MarkedPhotos.Of([new PhotoId(one)]).Address;
        // The last letter of one id bears two bits of it; the other four are nothing.
        var twin = address[..^1] + (char)(address[^1] + 1);
        foreach (var typed in (string[])["", "A", " ", address + address, twin, address + "==", address[1..], address + "A", $"{address}/", one.ToString(), new('A', 22 * 400)])
        {
            Assert.False(MarkedPhotos.TryParse(typed, out var _), typed);
        }

        Gen.String.Sample(typed => !MarkedPhotos.TryParse(typed, out var read) || read.Address == typed);
        Assert.Throws<ArgumentException>(() => MarkedPhotos.Of([]));
        Assert.Throws<ArgumentException>(() => MarkedPhotos.Of([.. Enumerable.Range(0, MarkedPhotos.Most + 1).Select(_ => new PhotoId(Guid.CreateVersion7()))]));
    }

    [Fact]
    public void As_many_as_may_be_marked_fit_into_an_address()
    {
        var all = MarkedPhotos.Of([.. Enumerable.Range(0, MarkedPhotos.Most).Select(_ => new PhotoId(Guid.CreateVersion7()))]);
        Assert.True(MarkedPhotos.TryParse(all.Address, out var read) && read.Photos.Count == MarkedPhotos.Most);
        Assert.True(all.Address.Length < 7000, "room is left for the site's own address and a photo's");
    }

    [Fact]
    public void Visitors_open_what_is_marked_where_marking_is_offered()
    {
        Assert.Equal([Reason.Offered], Access.Access.Decide(Viewer.Nobody, Right.See, new FavouritesThing(Offered: true), DateTimeOffset.UnixEpoch).Reasons);
        Assert.Equal([Reason.NotOffered], Access.Access.Decide(Viewer.Nobody, Right.See, new FavouritesThing(Offered: false), DateTimeOffset.UnixEpoch).Reasons);
    }
}
