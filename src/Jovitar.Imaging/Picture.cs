using Jovitar.Core.Corrections;
using NetVips;

namespace Jovitar.Imaging;

/// <summary>The size of a photo as it is meant to be seen, pixels, after its orientation has been applied.</summary>
/// <param name="AtOnce">Bytes that decoding holds at once; zero for what is decoded row by row.</param>
public readonly record struct PictureSize(int Width, int Height, long AtOnce = 0)
{
    public long Pixels => (long)Width * Height;

    /// <summary>Its measures alone.</summary>
    public PixelSize Measures => new(Width, Height);
}

/// <summary>A rendition: how wide it was asked for, and its bytes, WebP.</summary>
public sealed record Rendition(int Width, byte[] Bytes);

/// <summary>A file that cannot be decoded.</summary>
/// <param name="cutShort">Its end is missing, rather than that it is damaged.</param>
public sealed class PictureException(string message, bool cutShort, Exception? inner = null) : Exception(message, inner)
{
    public bool CutShort { get; } = cutShort;
}

/// <summary>Reads pictures and makes renditions with libvips: shrunk while decoding, in sRGB, upright, without metadata.</summary>
public static class Picture
{
    const int WebPQuality = 80;

    static Picture()
    {
        // One thread a picture: the workers are as many as there are cores. The operation cache would only hold memory.
        NetVips.NetVips.Concurrency = 1;
        Cache.Max = 0;
        Cache.MaxMem = 0;
        Cache.MaxFiles = 0;
        // What libvips warns of it also throws where it matters; on the console it would only be noise.
        Log.SetLogHandler("VIPS", Enums.LogLevelFlags.Warning, (_, _, _) => { });
    }

    /// <summary>Reads the size from the header without decoding.</summary>
    /// <exception cref="PictureException">The header cannot be read.</exception>
    public static PictureSize Measure(string path)
    {
        try
        {
            using var image = Image.NewFromFile(path, access: Enums.Access.Sequential);
            var turned = image.Contains("orientation") && (int)image.Get("orientation") is >= 5 and <= 8;
            var atOnce = DecodingMemory.Of(image);
            return turned ? new PictureSize(image.Height, image.Width, atOnce) : new PictureSize(image.Width, image.Height, atOnce);
        }
        catch (VipsException e)
        {
            throw Explain(e, path);
        }
    }

    /// <summary>Makes renditions, the widest first and each smaller one from the one before it.</summary>
    /// <param name="correction">How the picture is to be corrected; null as it is.</param>
    /// <param name="stamp">The watermark on it; null for none.</param>
    /// <exception cref="PictureException">The picture cannot be decoded to its end.</exception>
    public static IReadOnlyList<Rendition> Render(string original, IReadOnlyList<int> widths, Correction? correction = null, Stamp? stamp = null)
    {
        if (widths.Count == 0)
        {
            return [];
        }

        var size = Measure(original);
        using var room = DecodingMemory.Take(Room(size, correction, widths.Max()));
        var renditions = new List<Rendition>();
        try
        {
            Image? wider = null;
            try
            {
                foreach (var width in widths.OrderDescending())
                {
                    var made = wider is null ? Decode(original, size, correction, width, widths.Count > 1) : wider.ThumbnailImage(Math.Min(width, wider.Width), height: 10_000_000, size: Enums.Size.Down);
                    if (wider is null && widths.Count > 1)
                    {
                        wider = made;
                    }

                    renditions.Add(new Rendition(width, Encode(made, stamp)));
                    if (!ReferenceEquals(made, wider))
                    {
                        made.Dispose();
                    }
                }
            }
            finally
            {
                wider?.Dispose();
            }
        }
        catch (VipsException e)
        {
            throw Explain(e, original);
        }

        return renditions;
    }

    /// <summary>Makes a rendition with a watermark from a wider one without, which takes a part of the time that the original would.</summary>
    /// <exception cref="PictureException">The wider one cannot be decoded.</exception>
    public static byte[] Marked(string wider, int width, Stamp stamp)
    {
        try
        {
            using var made = Image.Thumbnail(wider, width, height: 10_000_000, size: Enums.Size.Down);
            return Encode(made, stamp);
        }
        catch (VipsException e)
        {
            throw Explain(e, wider);
        }
    }

    /// <summary>Makes the sheet's rendition and says how it looks, from one decoding.</summary>
    /// <param name="side">Pixels a side of the grey picture.</param>
    /// <returns>The rendition, and grey values, row after row, whatever shape the photo has.</returns>
    /// <exception cref="PictureException">The picture cannot be decoded to its end.</exception>
    public static (Rendition Rendition, byte[] Grey) RenderSheet(string original, int width, int side)
    {
        using var room = DecodingMemory.Take(Measure(original).AtOnce);
        try
        {
            using var made = Decode(original, width, keep: true);
            return (new Rendition(width, Encode(made, stamp: null)), Look.Grey(made, side));
        }
        catch (VipsException e)
        {
            throw Explain(e, original);
        }
    }

    /// <summary>A picture that leaves: JPEG, sRGB, upright, corrected, without metadata.</summary>
    /// <param name="edge">The longer edge, pixels, where the picture is larger.</param>
    /// <param name="quality">1 to 100, as JPEG encoders count it.</param>
    /// <param name="stamp">The watermark on it; null for none.</param>
    /// <exception cref="PictureException">The picture cannot be decoded to its end.</exception>
    public static byte[] Jpeg(string original, int edge, int quality, Correction? correction = null, Stamp? stamp = null)
    {
        var size = Measure(original);
        var seen = correction is null ? size.Measures : Framing.Size(correction, size.Measures);
        var width = seen.Width >= seen.Height ? edge : (int)Math.Max(1, Math.Round(edge * seen.Ratio));
        using var room = DecodingMemory.Take(Room(size, correction, width));
        try
        {
            using var made = Decode(original, size, correction, width, keep: false);
            using var flat = made.HasAlpha() ? made.Flatten(background: [255, 255, 255]) : made.Copy();
            using var marked = stamp?.On(flat);
            return (marked ?? flat).JpegsaveBuffer(q: quality, optimizeCoding: true, interlace: true, keep: Enums.ForeignKeep.None);
        }
        catch (VipsException e)
        {
            throw Explain(e, original);
        }
    }

    /// <summary>A small picture of bare pixels, three bytes each, row after row, none of its sides longer than asked for.</summary>
    /// <exception cref="PictureException">The picture cannot be decoded to its end.</exception>
    public static (byte[] Rgb, PixelSize Size) Small(string original, int side)
    {
        var size = Measure(original);
        using var room = DecodingMemory.Take(size.AtOnce);
        try
        {
            using var made = Decode(original, size.Width >= size.Height ? side : (int)Math.Max(1, Math.Round(side * size.Measures.Ratio)), keep: true);
            using var flat = made.HasAlpha() ? made.Flatten(background: [255, 255, 255]) : made.Copy();
            return (flat.WriteToMemory<byte>(), new PixelSize(flat.Width, flat.Height));
        }
        catch (VipsException e)
        {
            throw Explain(e, original);
        }
    }

    /// <summary>Bytes held while a picture is decoded and corrected.</summary>
    internal static long Room(PictureSize size, Correction? correction, int width) =>
        size.AtOnce + (correction is { ChangesPixels: true } ? Correcting.Holds(correction, size.Measures, width) : 0);

    /// <summary>Decodes to a width, corrected; kept in memory when more renditions are made from it.</summary>
    internal static Image Decode(string original, PictureSize size, Correction? correction, int width, bool keep)
    {
        if (correction is not { ChangesPixels: true })
        {
            return Decode(original, width, keep);
        }

        var across = Math.Min(width, Framing.Size(correction, size.Measures).Width);
        using var whole = Decode(original, Correcting.WholeWidth(correction, size.Measures, across), keep: false);
        using var made = Correcting.Apply(whole, correction, size.Measures, across);
        return keep ? made.CopyMemory() : made.Copy();
    }

    /// <summary>Decodes to a width, upright and in sRGB; kept in memory when more renditions are made from it.</summary>
    static Image Decode(string original, int width, bool keep)
    {
        // A missing end must fail and not come out grey: the decoder stops at the first thing it is not sure of.
        // Without a profile of its own a picture counts as sRGB; sending it through the colour engine all the same would take five times as long.
        var colour = SourceColour.Of(original);
        using var shrunk = Image.Thumbnail(
            original, width, height: 10_000_000, size: Enums.Size.Down, outputProfile: colour.IsOwn ? "srgb" : null, inputProfile: colour.Profile, intent: Enums.Intent.Relative, failOn: Enums.FailOn.Truncated);
        using var seen = colour.Gamma is { } gamma ? SourceColour.FromGamma(shrunk, gamma) : shrunk.Copy();
        using var plain = Plain(seen);
        return keep ? plain.CopyMemory() : plain.Copy();
    }

    /// <summary>Eight bits a band, sRGB, with at most an alpha band besides.</summary>
    static Image Plain(Image image)
    {
        using var colour = image.Interpretation == Enums.Interpretation.Srgb ? image.Copy() : image.Colourspace(Enums.Interpretation.Srgb);
        using var bands = colour.Bands > 4 ? colour.ExtractBand(0, n: 4) : colour.Copy();
        return bands.Format == Enums.BandFormat.Uchar ? bands.Copy() : bands.Cast(Enums.BandFormat.Uchar);
    }

    static byte[] Encode(Image image, Stamp? stamp)
    {
        using var made = stamp?.On(image);
        return (made ?? image).WebpsaveBuffer(q: WebPQuality, effort: 2, smartSubsample: false, keep: Enums.ForeignKeep.None);
    }

    internal static PictureException Explain(VipsException e, string path)
    {
        string[] signs = ["premature end", "truncated", "unexpected end", "end of file", "end of stream", "not enough data", "read error", "out of order read", "eof", "too short", "short read"];
        // The file is asked first: libvips keeps one text for all threads, and where two fail at once one of them has none.
        var cut = LacksEnd(path) || signs.Any(s => e.Message.Contains(s, StringComparison.OrdinalIgnoreCase));
        return new PictureException(e.Message, cut, e);
    }

    /// <summary>
    /// Whether what every whole file of its kind ends in is missing: a JPEG's EOI (ITU-T T.81 B.1.1.3), a PNG's IEND (PNG §11.2.5), a
    /// GIF's trailer (GIF89a §27); a WebP file says at its start how long it is (RFC 9649 §2.4). Something else may stand behind it.
    /// </summary>
    static bool LacksEnd(string path)
    {
        const int Tail = 64 * 1024;
        using var file = File.OpenRead(path);
        var head = new byte[64];
        var read = file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
        var kind = PictureKinds.Judge(head.AsSpan(0, read));
        file.Seek(Math.Max(0, file.Length - Tail), SeekOrigin.Begin);
        var tail = new byte[Math.Min(Tail, file.Length)];
        file.ReadExactly(tail);
        return kind switch
        {
            PictureKind.Jpeg => tail.AsSpan().IndexOf((ReadOnlySpan<byte>)[0xFF, 0xD9]) < 0,
            PictureKind.Png => tail.AsSpan().IndexOf("IEND"u8) < 0,
            PictureKind.Gif => !tail.AsSpan().TrimEnd((byte)0).EndsWith((ReadOnlySpan<byte>)[0x3B]),
            PictureKind.WebP => read >= 12 && BitConverter.ToUInt32(head.AsSpan(4, 4)) + 8L > file.Length,
            _ => false,
        };
    }
}
