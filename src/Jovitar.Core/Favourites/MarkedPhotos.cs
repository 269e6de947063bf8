using System.Buffers.Text;
using System.Diagnostics.CodeAnalysis;

namespace Jovitar.Core.Favourites;

/// <summary>The photos that a visitor has marked, in the order of marking, each once: all of it is in its address, so that it can be sent without being kept.</summary>
public sealed class MarkedPhotos
{
    /// <summary>More would not fit into an address that every program takes (common practice: 8,000 characters for all of it).</summary>
    public const int Most = 300;

    const int Bytes = 16;

    MarkedPhotos(IReadOnlyList<PhotoId> photos) => Photos = photos;

    /// <summary>At least one, at most <see cref="Most"/>.</summary>
    public IReadOnlyList<PhotoId> Photos { get; }

    /// <summary>What names them in an address: their ids, 16 bytes each in network order, as base64url without padding (RFC 4648 §5).</summary>
    public string Address
    {
        get
        {
            var bytes = new byte[Photos.Count * Bytes];
            for (var i = 0; i < Photos.Count; i++)
            {
                _ = Photos[i].Value.TryWriteBytes(bytes.AsSpan(i * Bytes, Bytes), bigEndian: true, out _);
            }

            return Base64Url.EncodeToString(bytes);
        }
    }

    /// <summary>Reads an address. One that names a photo twice, or that could be written in another way, is none: each choice has one address.</summary>
    public static bool TryParse(string address, [NotNullWhen(true)] out MarkedPhotos? marked)
    {
        marked = null;
        if (address.Length is 0 || address.Length > Base64Url.GetEncodedLength(Most * Bytes) || !Base64Url.IsValid(address, out var length) || length % Bytes != 0)
        {
            return false;
        }

        var bytes = Base64Url.DecodeFromChars(address);
        var photos = bytes.Chunk(Bytes).Select(id => new PhotoId(new Guid(id, bigEndian: true))).ToArray();
        var read = new MarkedPhotos(photos);
        if (photos.Distinct().Count() != photos.Length || read.Address != address)
        {
            return false;
        }

        marked = read;
        return true;
    }

    /// <exception cref="ArgumentException">None, too many, or one of them twice.</exception>
    public static MarkedPhotos Of(IReadOnlyList<PhotoId> photos) =>
        photos.Count is > 0 and <= Most && photos.Distinct().Count() == photos.Count ? new MarkedPhotos(photos) : throw new ArgumentException($"These are not 1 to {Most} different photos.", nameof(photos));
}
