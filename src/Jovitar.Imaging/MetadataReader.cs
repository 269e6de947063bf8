using System.Buffers.Binary;
using System.Globalization;
using System.Security.Cryptography;
using Jovitar.Core.Photos;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using MetadataExtractor.Formats.Iptc;
using MetadataExtractor.Formats.Photoshop;
using MetadataExtractor.Formats.Xmp;
using XmpCore;

namespace Jovitar.Imaging;

/// <summary>Reads what cameras and programs wrote into a photo: EXIF 2.32, IPTC-IIM 4.2 and XMP (ISO 16684-1).</summary>
public static class MetadataReader
{
    const string Dc = "http://purl.org/dc/elements/1.1/";
    const string Xmp = "http://ns.adobe.com/xap/1.0/";
    const string Photoshop = "http://ns.adobe.com/photoshop/1.0/";
    const string IptcCore = "http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/";
    const string IptcExt = "http://iptc.org/std/Iptc4xmpExt/2008-02-29/";
    const string Rights = "http://ns.adobe.com/xap/1.0/rights/";
    const string Exif = "http://ns.adobe.com/exif/1.0/";

    /// <summary>Reads a file's metadata. Blocks that cannot be read count as absent: a photo never fails for its words.</summary>
    public static PhotoMetadata Read(string path)
    {
        var kind = KindOf(path);
        if (FileParts.Judge(path, kind) is not { TooFar: false, WordsReadable: true })
        {
            return new PhotoMetadata { Words = new MetadataBlock() };
        }

        var blocks = Blocks(path, kind);
        var ifd0 = blocks.OfType<ExifIfd0Directory>().FirstOrDefault();
        var sub = blocks.OfType<ExifSubIfdDirectory>().FirstOrDefault(d => d.ContainsTag(ExifDirectoryBase.TagDateTimeOriginal) || d.ContainsTag(ExifDirectoryBase.TagFNumber)) ?? blocks.OfType<ExifSubIfdDirectory>().FirstOrDefault();
        var iptc = blocks.OfType<IptcDirectory>().FirstOrDefault();
        var xmp = blocks.OfType<XmpDirectory>().Select(d => d.XmpMeta).OfType<IXmpMeta>().ToArray();
        return new PhotoMetadata
        {
            Words = MetadataReconciliation.Reconcile(FromExif(ifd0, sub), FromIim(iptc), FromXmp(xmp), IimChanged(path, blocks), FromExplorer(ifd0)),
            Camera = Camera(ifd0),
            Lens = MetadataReconciliation.Clean(sub?.GetString(ExifDirectoryBase.TagLensModel)),
            Exposure = new Exposure(Number(sub, ExifDirectoryBase.TagExposureTime), Number(sub, ExifDirectoryBase.TagFNumber), (int?)Number(sub, ExifDirectoryBase.TagIsoEquivalent), Number(sub, ExifDirectoryBase.TagFocalLength)),
            Position = Where(blocks),
        };
    }

    /// <summary>Reads a sidecar: a file that is one packet of XMP and nothing else, taken into memory whole. Its words are settled as those of a photo's own packet.</summary>
    /// <returns>Null when it is not XMP, cannot be read, or declares a document type, which XMP has none of (ISO 16684-1, 7.1) and through which a small file grows large.</returns>
    public static PhotoMetadata? ReadSidecar(string path) => ReadSidecar(File.ReadAllBytes(path));

    /// <inheritdoc cref="ReadSidecar(string)"/>
    public static PhotoMetadata? ReadSidecar(byte[] packet)
    {
        if (XmpSidecar.Parse(packet) is not { } xmp)
        {
            return null;
        }

        var nothing = new MetadataBlock();
        return new PhotoMetadata { Words = MetadataReconciliation.Reconcile(nothing, nothing, FromXmp([xmp]), false), Position = XmpSidecar.Where(xmp) };
    }

    /// <summary>Whether a file says anywhere where on Earth it was taken, in EXIF or within any property of XMP. One that cannot be read says nothing.</summary>
    public static bool SaysWhere(string path)
    {
        var blocks = Blocks(path, KindOf(path));
        return blocks.OfType<GpsDirectory>().Any(g => g.ContainsTag(GpsDirectory.TagLatitude) || g.ContainsTag(GpsDirectory.TagLongitude))
            || blocks.OfType<XmpDirectory>().Select(d => d.XmpMeta).OfType<IXmpMeta>().Any(x => x.Properties.Any(p => p.Path?.Contains("GPS", StringComparison.Ordinal) == true));
    }

    static IReadOnlyList<MetadataExtractor.Directory> Blocks(string path, PictureKind kind) =>
        kind switch { PictureKind.Avif => MetadataBlocks.OfAvif(path), PictureKind.Jpeg => MetadataBlocks.OfJpeg(path), _ => MetadataBlocks.Of(path) };

    static MetadataBlock FromExif(ExifIfd0Directory? ifd0, ExifSubIfdDirectory? sub) => new()
    {
        Caption = ifd0?.GetDescription(ExifDirectoryBase.TagImageDescription),
        Creator = Utf8(ifd0, ExifDirectoryBase.TagArtist),
        Copyright = Utf8(ifd0, ExifDirectoryBase.TagCopyright),
        Taken = Taken(sub?.GetString(ExifDirectoryBase.TagDateTimeOriginal), "yyyy:MM:dd HH:mm:ss", sub?.GetString(ExifDirectoryBase.TagTimeZoneOriginal)),
    };

    static PictureKind KindOf(string path)
    {
        Span<byte> head = stackalloc byte[PictureKinds.BytesNeeded];
        using var file = File.OpenRead(path);
        return PictureKinds.Judge(head[..file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false)]);
    }

    /// <summary>Words that file explorers write: UTF-16 in tags of their own in EXIF's first block, keywords with semicolons between (common practice).</summary>
    static MetadataBlock FromExplorer(ExifIfd0Directory? ifd0)
    {
        string? Words(int tag) => ifd0?.GetByteArray(tag) is { } bytes ? System.Text.Encoding.Unicode.GetString(bytes).TrimEnd('\0') : null;
        return new MetadataBlock
        {
            Title = Words(ExifDirectoryBase.TagWinTitle),
            Caption = Words(ExifDirectoryBase.TagWinComment) ?? Words(ExifDirectoryBase.TagWinSubject),
            Creator = Words(ExifDirectoryBase.TagWinAuthor),
            Keywords = Words(ExifDirectoryBase.TagWinKeywords)?.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries) ?? [],
            Rating = ifd0 is not null && ifd0.TryGetInt32(ExifDirectoryBase.TagRating, out var rating) ? rating : null,
        };
    }

    static MetadataBlock FromIim(IptcDirectory? iptc)
    {
        if (iptc is null)
        {
            return new MetadataBlock();
        }

        var date = iptc.GetString(IptcDirectory.TagDateCreated);
        var time = iptc.GetString(IptcDirectory.TagTimeCreated)?.Replace(":", "", StringComparison.Ordinal) ?? "000000";
        return new MetadataBlock
        {
            Title = iptc.GetString(IptcDirectory.TagObjectName),
            Caption = iptc.GetString(IptcDirectory.TagCaption),
            Keywords = iptc.GetStringArray(IptcDirectory.TagKeywords) ?? [],
            Creator = iptc.GetString(IptcDirectory.TagByLine),
            Credit = iptc.GetString(IptcDirectory.TagCredit),
            Copyright = iptc.GetString(IptcDirectory.TagCopyrightNotice),
            Place = iptc.GetString(IptcDirectory.TagSubLocation) ?? iptc.GetString(IptcDirectory.TagCity),
            Origin = iptc.GetString(IptcDirectory.TagSource),
            Taken = date is null ? null : Taken($"{date.Replace(":", "", StringComparison.Ordinal)} {time[..Math.Min(6, time.Length)]}", "yyyyMMdd HHmmss", time.Length >= 11 ? $"{time[6..9]}:{time[9..11]}" : null),
        };
    }

    /// <summary>A packet and its extension are one: what the first does not have is looked for in the next.</summary>
    static MetadataBlock FromXmp(IReadOnlyList<IXmpMeta> packets)
    {
        var all = packets.Select(FromXmp).ToArray();
        string? First(Func<MetadataBlock, string?> of) => all.Select(of).FirstOrDefault(text => !string.IsNullOrWhiteSpace(text));
        return new MetadataBlock
        {
            Title = First(b => b.Title),
            Caption = First(b => b.Caption),
            Alt = First(b => b.Alt),
            Keywords = all.Select(b => b.Keywords).FirstOrDefault(k => k.Count > 0) ?? [],
            Creator = First(b => b.Creator),
            Credit = First(b => b.Credit),
            Copyright = First(b => b.Copyright),
            Place = First(b => b.Place),
            People = all.Select(b => b.People).FirstOrDefault(p => p.Count > 0) ?? [],
            Licence = First(b => b.Licence),
            Origin = First(b => b.Origin),
            Rating = all.Select(b => b.Rating).FirstOrDefault(r => r is not null),
            Taken = all.Select(b => b.Taken).FirstOrDefault(t => t is not null),
        };
    }

    static MetadataBlock FromXmp(IXmpMeta xmp)
    {
        string? Simple(string space, string name)
        {
            try
            {
                return xmp.GetPropertyString(space, name);
            }
            catch (XmpException)
            {
                return null;
            }
        }

        string? Localised(string space, string name)
        {
            try
            {
                return xmp.GetLocalizedText(space, name, null, "x-default")?.Value;
            }
            catch (XmpException)
            {
                return null;
            }
        }

        List<string> Items(string space, string name)
        {
            try
            {
                return [.. Enumerable.Range(1, xmp.CountArrayItems(space, name)).Select(i => xmp.GetArrayItem(space, name, i).Value)];
            }
            catch (XmpException)
            {
                return [];
            }
        }

        var date = Simple(Photoshop, "DateCreated") ?? Simple(Exif, "DateTimeOriginal") ?? Simple(Xmp, "CreateDate");
        return new MetadataBlock
        {
            Title = Localised(Dc, "title"),
            Caption = Localised(Dc, "description"),
            Alt = Localised(IptcCore, "AltTextAccessibility"),
            Keywords = Items(Dc, "subject"),
            Creator = Items(Dc, "creator") is { Count: > 0 } creators ? string.Join(", ", creators) : null,
            Credit = Simple(Photoshop, "Credit"),
            Copyright = Localised(Dc, "rights"),
            Place = Simple(IptcCore, "Location") ?? Simple(Photoshop, "City"),
            People = Items(IptcExt, "PersonInImage"),
            Licence = Localised(Rights, "UsageTerms"),
            Origin = Simple(Photoshop, "Source"),
            Rating = double.TryParse(Simple(Xmp, "Rating"), CultureInfo.InvariantCulture, out var rating) ? (int)rating : null,
            Taken = XmpDate(date),
        };
    }

    /// <summary>XMP dates are ISO 8601 with or without a zone.</summary>
    static TakenAt? XmpDate(string? text)
    {
        if (text is null || text.Length < 10)
        {
            return null;
        }

        var zoned = text.Length > 16 && (text.EndsWith('Z') || text.LastIndexOf('+') > 10 || text.LastIndexOf('-') > 10);
        return zoned && DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.None, out var moment)
            ? Sane(new TakenAt(moment.DateTime, moment.Offset))
            : DateTime.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.None, out var local) ? Sane(new TakenAt(DateTime.SpecifyKind(local, DateTimeKind.Unspecified), null)) : null;
    }

    static TakenAt? Taken(string? text, string format, string? offset)
    {
        if (!DateTime.TryParseExact(text?.Trim('\0', ' '), format, CultureInfo.InvariantCulture, DateTimeStyles.None, out var local))
        {
            return null;
        }

        TimeSpan? zone = offset is { Length: >= 6 } && TimeSpan.TryParseExact(offset[1..6], "hh\\:mm", CultureInfo.InvariantCulture, out var away) ? (offset[0] == '-' ? -away : away) : null;
        return Sane(new TakenAt(local, zone));
    }

    /// <summary>Cameras whose clock was never set write years that cannot be.</summary>
    static TakenAt? Sane(TakenAt taken) => taken.Local.Year is >= 1826 and <= 2200 ? taken : null;

    /// <summary>The digest of the IIM block is an MD5 kept in image resource 0x0425 (IPTC Photo Metadata Standard, "synchronisation").</summary>
    static bool IimChanged(string path, IReadOnlyList<MetadataExtractor.Directory> blocks)
    {
        if (blocks.OfType<PhotoshopDirectory>().FirstOrDefault(d => d.ContainsTag(PhotoshopDirectory.TagCaptionDigest))?.GetByteArray(PhotoshopDirectory.TagCaptionDigest) is not { Length: 16 } digest)
        {
            return false;
        }

        // The reader of the words does not keep the block's bytes; libvips hands them over as they stand.
        using var image = NetVips.Image.NewFromFile(path, access: NetVips.Enums.Access.Sequential);
        if (!image.Contains("iptc-data") || Resource((byte[])image.Get("iptc-data"), 0x0404) is not { } iim)
        {
            return false;
        }

#pragma warning disable CA5351 // The standard's digest is MD5; it guards nothing.
        return !MD5.HashData(iim).AsSpan().SequenceEqual(digest);
#pragma warning restore CA5351
    }

    /// <summary>One image resource out of a JPEG's APP13 segment: "8BIM", number, padded name, length, padded bytes.</summary>
    static byte[]? Resource(ReadOnlySpan<byte> segment, int wanted)
    {
        var at = segment.StartsWith("Photoshop 3.0\0"u8) ? 14 : 0;
        while (at + 12 <= segment.Length && segment.Slice(at, 4).SequenceEqual("8BIM"u8))
        {
            var number = BinaryPrimitives.ReadUInt16BigEndian(segment[(at + 4)..]);
            var name = segment[at + 6] + 1;
            at += 6 + name + (name & 1);
            if (at + 4 > segment.Length)
            {
                return null;
            }

            var length = BinaryPrimitives.ReadInt32BigEndian(segment[at..]);
            at += 4;
            if (length < 0 || length > segment.Length - at)
            {
                return null;
            }

            if (number == wanted)
            {
                return segment.Slice(at, length).ToArray();
            }

            at += length + (length & 1);
        }

        return null;
    }

    static string? Camera(ExifIfd0Directory? ifd0)
    {
        var make = MetadataReconciliation.Clean(ifd0?.GetString(ExifDirectoryBase.TagMake));
        var model = MetadataReconciliation.Clean(ifd0?.GetString(ExifDirectoryBase.TagModel));
        return model is null ? make : make is null || model.StartsWith(make.Split(' ')[0], StringComparison.OrdinalIgnoreCase) ? model : $"{make} {model}";
    }

    /// <summary>EXIF text is ASCII by its standard, yet UTF-8 in practice.</summary>
    static string? Utf8(MetadataExtractor.Directory? block, int tag) =>
        block?.GetObject(tag) is StringValue value ? value.ToString(System.Text.Encoding.UTF8) : block?.GetString(tag);

    static double? Number(MetadataExtractor.Directory? block, int tag) => block?.GetObject(tag) is Rational exact ? (exact.Denominator == 0 ? null : (double)exact.Numerator / exact.Denominator)
        : block is not null && block.TryGetDouble(tag, out var value) && double.IsFinite(value) ? value : null;

    /// <summary>Where it was taken. Zero over zero is how cameras without a fix write that they do not know.</summary>
    static Position? Where(IReadOnlyList<MetadataExtractor.Directory> blocks) =>
        blocks.OfType<GpsDirectory>().FirstOrDefault() is { } gps && IsKnown(gps, GpsDirectory.TagLatitude) && IsKnown(gps, GpsDirectory.TagLongitude)
            && gps.GetGeoLocation() is { IsZero: false } at && Math.Abs(at.Latitude) <= 90 && Math.Abs(at.Longitude) <= 180
            ? new Position(at.Latitude, at.Longitude)
            : null;

    static bool IsKnown(GpsDirectory gps, int tag) => gps.GetRationalArray(tag) is { Length: > 0 } parts && parts.All(p => p.Denominator != 0);
}
