using Jovitar.Core;
using Jovitar.Core.Files;
using Jovitar.Core.Intake;
using Jovitar.Imaging;
using Jovitar.Server.Files;
using Jovitar.Server.Platform;
using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Intake;

/// <summary>Takes in what has arrived whole, whichever way it came: judges it by its content, keeps its bytes, and writes down what became of it.</summary>
internal sealed class Receiver(IntakeStore store, SettingsStore site, Originals originals, Storage storage)
{
    /// <summary>The site's limits.</summary>
    public async Task<IntakeLimits> LimitsAsync(CancellationToken ct) => (await site.ReadAsync(ct)).Limits;

    /// <summary>Takes in one file that has arrived; what it arrived under is the caller's to drop unless it is a ZIP.</summary>
    /// <returns>Null when the intake is not there.</returns>
    public async Task<IntakeFile?> TakeAsync(IntakeId intake, Incoming incoming, Arrived arrived, CancellationToken ct)
    {
        var limits = await LimitsAsync(ct);
        if (incoming.Unpacking is null && FileJudge.IsArchive(arrived.Head))
        {
            return arrived.Bytes > limits.ArchiveBytes
                ? await RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, arrived.Bytes, limits, ct, limits.ArchiveBytes)
                : await store.UnpackAsync(intake, incoming, arrived, arrived.Name, ct);
        }

        using var copy = await storage.LocalAsync(arrived.Key) ?? throw new IOException($"What arrived as “{incoming.FileName}” is gone.");
        if (SidecarNames.IsSidecar(incoming.FileName))
        {
            return arrived.Bytes > SidecarNames.Most ? await RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, arrived.Bytes, limits, ct, SidecarNames.Most)
                : MetadataReader.ReadSidecar(copy.Path) is { } says ? await store.KeepSidecarAsync(intake, incoming, arrived, says, ct)
                : await RefuseAsync(intake, incoming, IntakeProblem.SidecarUnreadable, arrived.Bytes, limits, ct);
        }

        var (problem, kind, size) = JudgePicture(arrived, copy.Path, limits);
        if (problem is IntakeProblem.NotAPicture && !Endings.IsPicture(incoming.FileName))
        {
            return await KeepFileAsync(intake, incoming, arrived, limits, ct);
        }

        if (problem is { } found)
        {
            return await RefuseAsync(intake, incoming, found, arrived.Bytes, limits, ct);
        }

        // Noted first, so that whatever a killed process leaves of it is found; the bytes get their lasting name with their row.
        await originals.DoubtAsync(arrived.Hash, ct);
        var preview = EmbeddedPreview.Extract(copy.Path);
        if (preview is not null)
        {
            await storage.PutMadeAsync(StorageKeys.Preview(arrived.HashText), preview, ct);
        }

        return await store.AddAsync(intake, incoming, arrived, kind, size, preview is not null, ct);
    }

    public async Task<IntakeFile?> RefuseAsync(IntakeId intake, Incoming incoming, IntakeProblem problem, long bytes, IntakeLimits limits, CancellationToken ct, long? limit = null) =>
        await store.RefuseAsync(intake, incoming, problem, IntakeRefusal.Sentence(problem, limits, limit), bytes, ct);

    async Task<IntakeFile?> KeepFileAsync(IntakeId intake, Incoming incoming, Arrived arrived, IntakeLimits limits, CancellationToken ct)
    {
        if (incoming.Unpacking is not null)
        {
            return await RefuseAsync(intake, incoming, IntakeProblem.NotUnpacked, arrived.Bytes, limits, ct);
        }

        if (FileJudge.Judge(arrived.Head) is not { } judged)
        {
            return await RefuseAsync(intake, incoming, IntakeProblem.UnknownKind, arrived.Bytes, limits, ct);
        }

        var most = FileKinds.Most(judged.Kind, limits);
        if (arrived.Bytes > most)
        {
            return await RefuseAsync(intake, incoming, IntakeProblem.TooManyBytes, arrived.Bytes, limits, ct, most);
        }

        await originals.DoubtAsync(arrived.Hash, ct);
        return await store.KeepFileAsync(intake, incoming, arrived, judged, ct);
    }

    /// <summary>What speaks against a file as a photo that can be told from its first bytes and its header.</summary>
    public static (IntakeProblem? Problem, PictureKind Kind, PictureSize Size) JudgePicture(Arrived arrived, string path, IntakeLimits limits)
    {
        if (arrived.Bytes == 0)
        {
            return (IntakeProblem.Empty, default, default);
        }

        var kind = PictureKinds.Judge(arrived.Head);
        if (kind is PictureKind.None or PictureKind.Other)
        {
            return (kind == PictureKind.None ? IntakeProblem.NotAPicture : IntakeProblem.UnknownPicture, kind, default);
        }

        if (arrived.Bytes > limits.Bytes)
        {
            return (IntakeProblem.TooManyBytes, kind, default);
        }

        // Before any library reads it: what would grow without end in one is left alone.
        if (FileParts.Judge(path, kind).TooFar)
        {
            return (IntakeProblem.ExpandsTooFar, kind, default);
        }

        try
        {
            var size = Picture.Measure(path);
            return (size.Pixels > limits.Megapixels * 1_000_000L ? IntakeProblem.TooManyPixels : size.AtOnce > DecodingMemory.Most ? IntakeProblem.TooManyAtOnce : null, kind, size);
        }
        catch (PictureException e)
        {
            return (e.CutShort ? IntakeProblem.CutShort : IntakeProblem.Unreadable, kind, default);
        }
    }
}
