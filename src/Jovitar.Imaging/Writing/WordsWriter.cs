using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Writing;

/// <summary>
/// Writes words into files that leave, without touching their picture: EXIF 2.32, IPTC-IIM 4.2 and XMP (ISO 16684-1) in JPEG and
/// TIFF, EXIF and XMP in PNG and WebP. What others wrote besides stays; where a photo was taken only leaves when it is said.
/// </summary>
public static class WordsWriter
{
    /// <summary>Whether words are written into files of a kind; for the others they stand in a sidecar beside them.</summary>
    public static bool CanEmbed(PictureKind kind) => kind is PictureKind.Jpeg or PictureKind.Png or PictureKind.WebP or PictureKind.Tiff;

    /// <summary>A sidecar: an XMP packet in a file of its own.</summary>
    public static byte[] Sidecar(LeavingWords words) => XmpWords.Packet(null, words);

    /// <summary>Writes a JPEG that is in memory with the words in it.</summary>
    public static Task WriteAsync(byte[] jpeg, LeavingWords words, Stream to, CancellationToken ct) => JpegWords.WriteAsync(new MemoryStream(jpeg, writable: false), words, to, ct);

    /// <summary>Makes a file with the words in it.</summary>
    /// <param name="original">Its path; it is only read.</param>
    /// <param name="scratch">Where it is put together: a path that nobody else uses; it is removed when the stream is closed.</param>
    /// <returns>The file from its beginning; null when it is of a kind into which none are written, or is damaged where they stand.</returns>
    public static async Task<Stream?> MakeAsync(string original, LeavingWords words, string scratch, CancellationToken ct)
    {
        await using var from = new FileStream(original, FileMode.Open, FileAccess.Read, FileShare.Read, 64 * 1024, useAsync: true);
        var head = new byte[PictureKinds.BytesNeeded];
        var kind = PictureKinds.Judge(head.AsSpan(0, await from.ReadAtLeastAsync(head, head.Length, throwOnEndOfStream: false, ct)));
        if (!CanEmbed(kind) || FileParts.Judge(original, kind).TooFar)
        {
            return null;
        }

        // Put together first: what turns out to be damaged half-way is seen before anything of it has left.
        var made = new FileStream(scratch, FileMode.Create, FileAccess.ReadWrite, FileShare.None, 64 * 1024, FileOptions.DeleteOnClose | FileOptions.Asynchronous);
        try
        {
            switch (kind)
            {
                case PictureKind.Jpeg:
                    await JpegWords.WriteAsync(from, words, made, ct);
                    break;
                case PictureKind.Png:
                    await PngWords.WriteAsync(from, words, made, ct);
                    break;
                case PictureKind.WebP:
                    await WebPWords.WriteAsync(from, words, made, ct);
                    break;
                default:
                    from.Position = 0;
                    await from.CopyToAsync(made, ct);
                    var (xmp, iim) = TiffWords.Blocks(made);
                    if (!TiffWords.Apply(made, words, XmpWords.Packet(xmp, words), IimWords.Block(iim, words)))
                    {
                        throw new InvalidDataException("Its directories are damaged.");
                    }

                    break;
            }

            made.Position = 0;
            return made;
        }
        catch (Exception e)
        {
            await made.DisposeAsync();
            if (e is EndOfStreamException or InvalidDataException or OverflowException)
            {
                return null;
            }

            throw;
        }
    }
}
