using System.IO.Compression;
using System.Text;

namespace Jovitar.Server.Platform;

/// <summary>A ZIP that goes out while it is being made: what was put into it has left before the next thing is.</summary>
internal sealed class ZipOut
{
    readonly ZipArchive zip;
    readonly Gathering gathering;

    ZipOut(ZipArchive zip, Gathering gathering) => (this.zip, this.gathering) = (zip, gathering);

    /// <param name="fill">Puts things into it, one after the other.</param>
    public static async Task SendAsync(Stream to, Func<ZipOut, Task> fill, CancellationToken ct)
    {
        var gathering = new Gathering(to);
        await using (var zip = await ZipArchive.CreateAsync(gathering, ZipArchiveMode.Create, leaveOpen: true, Encoding.UTF8, ct))
        {
            await fill(new ZipOut(zip, gathering));
        }

        await gathering.FlushAsync(ct);
    }

    /// <summary>Puts something into it as it is: pictures and papers are packed already.</summary>
    /// <param name="write">Writes its bytes, to their end.</param>
    public async Task PackedAsync(string name, Func<Stream, Task> write, CancellationToken ct)
    {
        await using (var entry = await zip.CreateEntry(name, CompressionLevel.NoCompression).OpenAsync(ct))
        {
            await write(entry);
        }

        await gathering.FlushAsync(ct);
    }

    /// <inheritdoc cref="PackedAsync(string, Func{Stream, Task}, CancellationToken)"/>
    public Task PackedAsync(string name, Stream bytes, CancellationToken ct) => PackedAsync(name, entry => bytes.CopyToAsync(entry, ct), ct);

    public async Task TextAsync(string name, ReadOnlyMemory<byte> bytes, CancellationToken ct)
    {
        await using (var entry = await zip.CreateEntry(name).OpenAsync(ct))
        {
            await entry.WriteAsync(bytes, ct);
        }

        await gathering.FlushAsync(ct);
    }
}
