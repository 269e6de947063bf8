using System.IO.Compression;
using System.Text;
using Jovitar.Core.Intake;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Intake.Archives;

/// <summary>Unpacks a ZIP (APPNOTE.TXT 6.3) into its intake, one entry after another, each streamed to storage; nothing is ever written under a name out of the ZIP.</summary>
internal sealed class Unpacker(UnpackingStore store, Receiver receiver, Arrivals arrivals, Storage storage)
{
    const int LinkMode = 0xA000;
    const int ModeMask = 0xF000;

    /// <summary>Unpacks what is not unpacked yet.</summary>
    /// <exception cref="IOException">The disk is full, or cannot be read for now.</exception>
    public async Task UnpackAsync(Unpacking work, TimeSpan lease, CancellationToken ct)
    {
        var limits = await receiver.LimitsAsync(ct);
        Task Refuse(Incoming what, IntakeProblem problem, long bytes) => receiver.RefuseAsync(work.Intake, what, problem, bytes, limits, ct);
        var whole = new Incoming(work.FileName) { Unpacking = work.Id, Entry = -1 };
        var done = await store.DoneAsync(work.Id, ct);
        await using var file = await storage.OpenAsync(StorageKeys.Arriving(work.Stored));
        if (done.Contains(-1) || file is null)
        {
            await EndAsync(work, ct);
            return;
        }

        var stopped = false;
        try
        {
            using var archive = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true, new ZipNames());
            if (archive.Entries.Count > ArchiveRules.MostEntries)
            {
                await Refuse(whole, IntakeProblem.ArchiveTooMany, file.Length);
            }
            else if (ArchiveRules.IsTooLarge(file.Length, archive.Entries.Select(e => e.Length)))
            {
                await Refuse(whole, IntakeProblem.ArchiveTooLarge, file.Length);
            }
            else
            {
                for (var i = 0; i < archive.Entries.Count && !stopped; i++)
                {
                    // Before each: nothing more is taken out once its intake was taken back, or another goes on with it.
                    stopped = !await store.ProgressAsync(work, archive.Entries.Count, i, lease, ct);
                    if (!stopped && !done.Contains(i))
                    {
                        await EntryAsync(work, archive.Entries[i], i, limits, ct);
                    }
                }
            }
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException or NotSupportedException)
        {
            await Refuse(whole, IntakeProblem.ArchiveUnreadable, 0);
        }

        if (!stopped)
        {
            await EndAsync(work, ct);
        }
    }

    /// <summary>A ZIP at which work stopped again and again without an end.</summary>
    public async Task GiveUpAsync(Unpacking work, CancellationToken ct)
    {
        await receiver.RefuseAsync(work.Intake, new Incoming(work.FileName) { Unpacking = work.Id, Entry = -1 }, IntakeProblem.Unforeseen, 0, await receiver.LimitsAsync(ct), ct);
        await EndAsync(work, ct);
    }

    async Task EndAsync(Unpacking work, CancellationToken ct)
    {
        if (await store.EndAsync(work, ct))
        {
            await storage.DeleteAsync(StorageKeys.Arriving(work.Stored));
        }
    }

    async Task EntryAsync(Unpacking work, ZipArchiveEntry entry, int number, IntakeLimits limits, CancellationToken ct)
    {
        var isFolder = entry.FullName.EndsWith('/') || entry.FullName.EndsWith('\\');
        if (isFolder || ArchiveRules.IsLitter(entry.FullName))
        {
            return;
        }

        var isLink = ((entry.ExternalAttributes >> 16) & ModeMask) == LinkMode;
        var incoming = Incoming.Named(entry.FullName, Path.GetFileNameWithoutExtension(work.FileName)) with { Unpacking = work.Id, Entry = number };
        Task Refuse(IntakeProblem problem) => receiver.RefuseAsync(work.Intake, incoming, problem, entry.Length, limits, ct);
        if (!ArchiveRules.IsSafe(entry.FullName, isLink))
        {
            await Refuse(IntakeProblem.ArchivePath);
        }
        else if (entry.IsEncrypted)
        {
            await Refuse(IntakeProblem.ArchiveLocked);
        }
        else if (ArchiveRules.IsTooDense(entry.CompressedLength, entry.Length))
        {
            await Refuse(IntakeProblem.ArchiveTooDense);
        }
        else
        {
            await ReceiveAsync(work, entry, incoming, limits, ct);
        }
    }

    async Task ReceiveAsync(Unpacking work, ZipArchiveEntry entry, Incoming incoming, IntakeLimits limits, CancellationToken ct)
    {
        Task Refuse(IntakeProblem problem) => receiver.RefuseAsync(work.Intake, incoming, problem, entry.Length, limits, ct);
        Arrived arrived;
        try
        {
            await using var content = entry.Open();
            // What the ZIP says of its sizes need not be so: one byte more than declared ends it.
            arrived = await arrivals.ReceiveAsync(content, Math.Min(entry.Length, limits.Bytes), ct);
        }
        catch (TooManyBytesException)
        {
            await Refuse(entry.Length > limits.Bytes ? IntakeProblem.TooManyBytes : IntakeProblem.ArchiveTooDense);
            return;
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException)
        {
            await Refuse(IntakeProblem.Unreadable);
            return;
        }

        try
        {
            if (arrived.Bytes < entry.Length)
            {
                await Refuse(IntakeProblem.CutShort);
                return;
            }

            await receiver.TakeAsync(work.Intake, incoming, arrived, ct);
        }
        finally
        {
            await arrivals.DropAsync(arrived);
        }
    }

    /// <summary>Names without the sign for UTF-8 are mostly UTF-8 all the same; only what cannot be is read as code page 437, as the standard has it (APPNOTE.TXT, appendix D).</summary>
    sealed class ZipNames : Encoding
    {
        static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);
        static readonly Encoding Old = CodePagesEncodingProvider.Instance.GetEncoding(437)!;

        static Encoding For(byte[] bytes, int index, int count)
        {
            try
            {
                _ = Strict.GetCharCount(bytes, index, count);
                return Strict;
            }
            catch (DecoderFallbackException)
            {
                return Old;
            }
        }

        public override int GetByteCount(char[] chars, int index, int count) => Strict.GetByteCount(chars, index, count);

        public override int GetBytes(char[] chars, int charIndex, int charCount, byte[] bytes, int byteIndex) => Strict.GetBytes(chars, charIndex, charCount, bytes, byteIndex);

        public override int GetCharCount(byte[] bytes, int index, int count) => For(bytes, index, count).GetCharCount(bytes, index, count);

        public override int GetChars(byte[] bytes, int byteIndex, int byteCount, char[] chars, int charIndex) => For(bytes, byteIndex, byteCount).GetChars(bytes, byteIndex, byteCount, chars, charIndex);

        public override int GetMaxByteCount(int charCount) => Strict.GetMaxByteCount(charCount);

        public override int GetMaxCharCount(int byteCount) => byteCount + 1;
    }
}
