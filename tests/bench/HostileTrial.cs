using System.Buffers.Binary;
using System.IO.Compression;
using System.Net.Http.Headers;
using System.Text;

namespace Jovitar.Bench;

/// <summary>Sends files made to grow when they are read, and watches the server's memory.</summary>
internal static class HostileTrial
{
    /// <param name="say">Told how much resident memory rose above idle at its highest, and how much was left of that a while later; MiB.</param>
    public static async Task RunAsync(string address, int process, Action<double, double> say)
    {
        using var client = await IntakeTrial.SignInAsync(address);
        var intake = await IntakeTrial.BeginAsync(client);
        var idle = IntakeTrial.Memory(process);
        var most = idle;
        using var watched = new CancellationTokenSource();
        var watching = Task.Run(async () =>
        {
            while (!watched.IsCancellationRequested)
            {
                most = Math.Max(most, IntakeTrial.Memory(process));
                await Task.Delay(20);
            }
        });
        await Parallel.ForEachAsync(Files(), new ParallelOptions { MaxDegreeOfParallelism = 4 }, async (file, ct) =>
        {
            using var content = new ByteArrayContent(file.Bytes);
            content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            (await client.PostAsync(new Uri($"/api/intakes/{intake}/files?name={file.Name}", UriKind.Relative), content, ct)).EnsureSuccessStatusCode();
        });
        await Task.Delay(TimeSpan.FromSeconds(15));
        await watched.CancelAsync();
        await watching;
        await Task.Delay(TimeSpan.FromSeconds(20));
        say(most - idle, IntakeTrial.Memory(process) - idle);
    }

    static IEnumerable<(string Name, byte[] Bytes)> Files()
    {
        var gigabyte = Packed(1L << 30);
        byte[] text = [.. "Comment"u8, 0, 0, .. gigabyte];
        byte[] international = [.. "XML:com.adobe.xmp"u8, 0, 1, 0, 0, 0, .. gigabyte];
        byte[] profile = [.. "Wide"u8, 0, 0, .. Packed(1L << 29)];
        byte[] twelve = [.. "Comment"u8, 0, 0, .. Packed(12L << 20)];
        for (var i = 0; i < 6; i++)
        {
            yield return ($"text{i}.png", Png(i, Chunk("zTXt", text)));
            yield return ($"international{i}.png", Png(i, Chunk("iTXt", international)));
            yield return ($"profile{i}.png", Png(i, Chunk("iCCP", profile)));
            yield return ($"many{i}.png", Png(i, [.. Enumerable.Range(0, 40).SelectMany(_ => Chunk("zTXt", twelve))]));
            yield return ($"large{i}.png", Flat(i, 14_000, 14_000));
            yield return ($"segments{i}.jpg", Segments(i, 2_000, _ => [.. "http://ns.adobe.com/xap/1.0/\0"u8, .. Encoding.ASCII.GetBytes(new string('<', 60_000))]));
            yield return ($"extension{i}.jpg", Segments(i, 3, n => [.. "http://ns.adobe.com/xmp/extension/\0"u8, .. Encoding.ASCII.GetBytes(new string('A', 32)), .. Big(3_000_000_000), .. Big(n), .. new byte[1000]]));
            yield return ($"interlaced{i}.png", Flat(i, 10_000, 9_000 + i, interlaced: true));
            yield return ($"frame{i}.gif", Gif(i, 6_000, 3));
            yield return ($"counts{i}.tif", Tiff(i));
            yield return ($"frames{i}.gif", Gif(i, 10_000, 100_000));
            yield return ($"drawing{i}.svg", Encoding.ASCII.GetBytes($"<svg xmlns='http://www.w3.org/2000/svg' width='100000' height='100000'><!-- {i} --></svg>"));
        }
    }

    static byte[] Big(long value)
    {
        var bytes = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(bytes, (uint)value);
        return bytes;
    }

    /// <summary>A PNG chunk (ISO/IEC 15948 §5.3); readers that check its CRC leave a text with a wrong one alone, so it is right.</summary>
    static byte[] Chunk(string kind, byte[] data)
    {
        byte[] named = [.. Encoding.ASCII.GetBytes(kind), .. data];
        var crc = uint.MaxValue;
        foreach (var b in named)
        {
            crc ^= b;
            for (var k = 0; k < 8; k++)
            {
                crc = (crc & 1) != 0 ? 0xEDB88320u ^ (crc >> 1) : crc >> 1;
            }
        }

        return [.. Big(data.Length), .. named, .. Big(~crc)];
    }

    static byte[] Packed(long zeros)
    {
        using var memory = new MemoryStream();
        using (var pack = new ZLibStream(memory, CompressionLevel.SmallestSize, leaveOpen: true))
        {
            var block = new byte[1 << 20];
            for (long i = 0; i < zeros; i += block.Length)
            {
                pack.Write(block);
            }
        }

        return memory.ToArray();
    }

    static byte[] Png(int seed, byte[] extra) => Assemble(64, 64, extra, Packed(64 * 193L), seed);

    /// <summary>As many pixels as the site takes, packed to almost nothing.</summary>
    static byte[] Flat(int seed, int width, int height, bool interlaced = false) => Assemble(width, height, [], Packed(height * ((width * 3L) + 1)), seed, interlaced);

    static byte[] Assemble(int width, int height, byte[] extra, byte[] data, int seed, bool interlaced = false) =>
        [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, .. Chunk("IHDR", [.. Big(width), .. Big(height), 8, 2, 0, 0, (byte)(interlaced ? 1 : 0)]), .. Chunk("tEXt", Encoding.ASCII.GetBytes($"Seed\0{seed}")), .. extra, .. Chunk("IDAT", data), .. Chunk("IEND", [])];

    static byte[] Segments(int seed, int count, Func<int, byte[]> data)
    {
        using var memory = new MemoryStream();
        memory.Write([0xFF, 0xD8]);
        for (var i = 0; i < count; i++)
        {
            var bytes = data(i);
            memory.Write([0xFF, 0xE1, .. Big(bytes.Length + 2)[2..], .. bytes]);
        }

        // A frame header of 64 by 64 so that its size can be measured; there is no picture behind it.
        memory.Write([0xFF, 0xC0, 0, 11, 8, 0, 64, 0, 64, 1, 1, 0x11, 0, 0xFF, 0xFE, 0, 3, (byte)seed, 0xFF, 0xD9]);
        return memory.ToArray();
    }

    /// <summary>A TIFF whose entries all say that they have two thousand million values (TIFF 6.0 §2).</summary>
    static byte[] Tiff(int seed)
    {
        using var memory = new MemoryStream();
        memory.Write([0x4D, 0x4D, 0, 42, 0, 0, 0, 8, 0, 40]);
        for (var i = 0; i < 40; i++)
        {
            memory.Write([.. Big(0x0100 + i + seed)[2..], 0, 4, .. Big(2_000_000_000), .. Big(8)]);
        }

        memory.Write(Big(0));
        return memory.ToArray();
    }

    /// <summary>A GIF with frames as large as its screen (GIF89a §20), each almost nothing.</summary>
    static byte[] Gif(int seed, int side, int frames)
    {
        using var memory = new MemoryStream();
        byte[] size = [(byte)side, (byte)(side >> 8), (byte)side, (byte)(side >> 8)];
        memory.Write([.. "GIF89a"u8, .. size, 0x80, 0, 0, 0, 0, 0, 255, 255, (byte)seed]);
        for (var i = 0; i < frames; i++)
        {
            memory.Write([0x2C, 0, 0, 0, 0, .. size, 0, 2, 2, 0x4C, 1, 0]);
        }

        memory.WriteByte(0x3B);
        return memory.ToArray();
    }
}
