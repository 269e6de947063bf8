namespace Jovitar.Server.Platform;

/// <summary>
/// Lets what writes a little at a time without waiting write into an answer, where everybody must wait: the little is gathered, and
/// goes out before the next that waits. Once written to its end it is to be flushed.
/// </summary>
internal sealed class Gathering(Stream to) : Stream
{
    readonly MemoryStream gathered = new();

    public override bool CanRead => false;

    public override bool CanSeek => false;

    public override bool CanWrite => true;

    public override long Length => throw new NotSupportedException();

    public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

    public override void Write(byte[] buffer, int offset, int count) => gathered.Write(buffer, offset, count);

    public override void Write(ReadOnlySpan<byte> buffer) => gathered.Write(buffer);

    public override Task WriteAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) => WriteAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public override async ValueTask WriteAsync(ReadOnlyMemory<byte> buffer, CancellationToken cancellationToken = default)
    {
        await SendAsync(cancellationToken);
        await to.WriteAsync(buffer, cancellationToken);
    }

    public override void Flush()
    {
    }

    public override async Task FlushAsync(CancellationToken cancellationToken)
    {
        await SendAsync(cancellationToken);
        await to.FlushAsync(cancellationToken);
    }

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    async ValueTask SendAsync(CancellationToken ct)
    {
        if (gathered.Length > 0)
        {
            await to.WriteAsync(gathered.GetBuffer().AsMemory(0, (int)gathered.Length), ct);
            gathered.SetLength(0);
        }
    }
}
