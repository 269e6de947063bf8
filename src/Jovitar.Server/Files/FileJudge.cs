using System.Buffers.Binary;
using System.Text;
using Jovitar.Core.Files;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Files;

/// <summary>What a file that is no picture is, judged by its content.</summary>
/// <param name="MediaType">As registered with IANA.</param>
internal sealed record JudgedFile(FileKind Kind, string MediaType);

/// <summary>Tells kinds of files apart by the marks their standards set, never by their name.</summary>
internal static class FileJudge
{
    static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    /// <summary>A ZIP that is to be unpacked, and not a document that happens to be packed as one.</summary>
    public static bool IsArchive(ReadOnlySpan<byte> head) => IsZip(head) && Packed(head) is null;

    /// <summary>The kind of a file, or null when it is none that is kept.</summary>
    public static JudgedFile? Judge(ReadOnlySpan<byte> head)
    {
        if (IsZip(head))
        {
            return Packed(head);
        }

        // ISO base media: ISO/IEC 14496-12 §4.3, the brand says what is in it.
        if (head.Length >= 12 && head[4..8].SequenceEqual("ftyp"u8))
        {
            var brand = head[8..12];
            return brand.SequenceEqual("M4A "u8) || brand.SequenceEqual("M4B "u8) ? new(FileKind.Sound, "audio/mp4")
                : brand.SequenceEqual("heic"u8) || brand.SequenceEqual("mif1"u8) ? null : new(FileKind.Video, "video/mp4");
        }

        // Matroska: EBML (RFC 8794) with the document type named within the first bytes.
        if (head.StartsWith((ReadOnlySpan<byte>)[0x1A, 0x45, 0xDF, 0xA3]))
        {
            return head[..Math.Min(head.Length, 64)].IndexOf("webm"u8) > 0 ? new(FileKind.Video, "video/webm") : null;
        }

        // Ogg: RFC 3533. MPEG audio: ISO/IEC 11172-3 frame sync, or an ID3 tag before it.
        if (head.StartsWith("OggS"u8))
        {
            return new(FileKind.Sound, "audio/ogg");
        }

        if (head.StartsWith("ID3"u8) || IsMpegAudio(head))
        {
            return new(FileKind.Sound, "audio/mpeg");
        }

        if (head.StartsWith("%PDF-"u8))
        {
            return new(FileKind.Pdf, "application/pdf");
        }

        // Compound files carry the older office formats ([MS-CFB] §2.2).
        if (head.StartsWith((ReadOnlySpan<byte>)[0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1]))
        {
            return new(FileKind.Office, "application/x-ole-storage");
        }

        if (head.StartsWith("{\\rtf"u8))
        {
            return new(FileKind.Office, "application/rtf");
        }

        return IsText(head) ? new(FileKind.Text, "text/plain") : null;
    }

    static bool IsZip(ReadOnlySpan<byte> head) => head.StartsWith("PK\u0003\u0004"u8) || head.StartsWith("PK\u0005\u0006"u8);

    /// <summary>Documents that are packed say so in their first entry: OpenDocument and EPUB as "mimetype", Office Open XML as "[Content_Types].xml".</summary>
    static JudgedFile? Packed(ReadOnlySpan<byte> head)
    {
        if (head.Length < 38)
        {
            return null;
        }

        var length = BinaryPrimitives.ReadUInt16LittleEndian(head[26..]);
        var extra = BinaryPrimitives.ReadUInt16LittleEndian(head[28..]);
        if (30 + length > head.Length)
        {
            return null;
        }

        var name = head.Slice(30, length);
        if (name.SequenceEqual("[Content_Types].xml"u8) || name.StartsWith("_rels/"u8) || name.StartsWith("docProps/"u8))
        {
            return new(FileKind.Office, "application/vnd.openxmlformats-officedocument");
        }

        if (name.SequenceEqual("mimetype"u8) && 30 + length + extra < head.Length)
        {
            var content = head[(30 + length + extra)..];
            if (content.StartsWith("application/vnd.oasis.opendocument"u8))
            {
                return new(FileKind.Office, "application/vnd.oasis.opendocument");
            }
        }

        return null;
    }

    static bool IsMpegAudio(ReadOnlySpan<byte> head) =>
        head.Length >= 4 && head[0] == 0xFF && (head[1] & 0xE6) == 0xE2 && (head[2] & 0xF0) is not 0xF0 and not 0 && (head[2] & 0x0C) != 0x0C;

    /// <summary>UTF-8 without control characters, and not a page or script in disguise.</summary>
    static bool IsText(ReadOnlySpan<byte> head)
    {
        if (head.Length == 0)
        {
            return false;
        }

        // The last character may be cut in two where the head ends.
        for (var cut = 0; cut < 4 && cut < head.Length; cut++)
        {
            try
            {
                var text = Strict.GetString(head[..^cut]);
                return !text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t' or '\f')) && !text.TrimStart('\uFEFF', ' ', '\n', '\r', '\t').StartsWith('<');
            }
            catch (DecoderFallbackException) when (head.Length == Measuring.HeadBytes)
            {
            }
            catch (DecoderFallbackException)
            {
                return false;
            }
        }

        return false;
    }
}
