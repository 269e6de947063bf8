using System.Security.Cryptography;

namespace Jovitar.Server.Platform.Storing;

/// <summary>A stream that can only be read on and on.</summary>
internal abstract class OnlyRead : Stream
{
    public override bool CanRead => true;

    public override bool CanSeek => false;

    public override bool CanWrite => false;

    public override long Length => throw new NotSupportedException();

    public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) => ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    public abstract override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default);

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override void Flush()
    {
    }
}

/// <summary>Measures bytes while they are read: how many, their hashes, the first of them.</summary>
internal sealed class Measuring(Stream from, long most) : OnlyRead
{
    /// <summary>So many first bytes are enough to judge what a file is.</summary>
    public const int HeadBytes = 1024;

    /// <summary>Of so many bytes is a piece whose hash counts towards the mark.</summary>
    public const int PieceBytes = 4 << 20;

    readonly IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    readonly IncrementalHash marks = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    readonly IncrementalHash piece = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    readonly byte[] head = new byte[HeadBytes];
    int left = PieceBytes;
    long count;

    /// <exception cref="TooManyBytesException">More than the most came.</exception>
    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var read = await from.ReadAsync(buffer, cancellationToken);
        Take(buffer.Span[..read]);
        return read;
    }

    void Take(ReadOnlySpan<byte> bytes)
    {
        if (count < head.Length)
        {
            bytes[..(int)Math.Min(bytes.Length, head.Length - count)].CopyTo(head.AsSpan((int)count));
        }

        count += bytes.Length;
        if (count > most)
        {
            throw new TooManyBytesException();
        }

        hash.AppendData(bytes);
        while (bytes.Length > 0)
        {
            var part = bytes[..Math.Min(left, bytes.Length)];
            piece.AppendData(part);
            bytes = bytes[part.Length..];
            left -= part.Length;
            if (left == 0)
            {
                EndPiece();
            }
        }
    }

    void EndPiece()
    {
        marks.AppendData(piece.GetHashAndReset());
        left = PieceBytes;
    }

    /// <summary>What was read, all of it lying under this key.</summary>
    public Arrived Of(string key)
    {
        if (left < PieceBytes)
        {
            EndPiece();
        }

        return new Arrived(key, hash.GetHashAndReset(), marks.GetHashAndReset(), count, head[..(int)Math.Min(count, head.Length)]);
    }

    protected override void Dispose(bool disposing)
    {
        hash.Dispose();
        marks.Dispose();
        piece.Dispose();
        base.Dispose(disposing);
    }
}
