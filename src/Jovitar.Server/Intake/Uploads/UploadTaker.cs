using Jovitar.Server.Platform.Storing;

namespace Jovitar.Server.Intake.Uploads;

/// <summary>Takes in uploads whose last byte is here: one at it at a time, whichever process it is.</summary>
/// <param name="settings">How long a claim holds without being renewed. Between two renewals lies at most the reading of one part.</param>
internal sealed class UploadTaker(UploadStore store, Receiver receiver, Arrivals arrivals, WorkerSettings settings)
{
    /// <returns>Its line in the intake; null when somebody else is at it, or the intake takes nothing.</returns>
    public async Task<IntakeFile?> TakeAsync(Upload upload, CancellationToken ct)
    {
        if (await store.ClaimAsync(upload.Id, settings.Lease, ct) is not { } claim)
        {
            return null;
        }

        IntakeFile? file = null;
        Arrived? arrived = null;
        var lost = false;
        var parts = await store.PartsAsync(upload.Id, ct);
        try
        {
            arrived = await arrivals.JoinAsync(parts, () => store.RenewAsync(upload.Id, claim, settings.Lease, ct), ct);
            lost = arrived is null;
            file = arrived is null ? null : await receiver.TakeAsync(upload.Intake, upload.Incoming, arrived, ct);
        }
        finally
        {
            // A ZIP stays where it arrived until it is unpacked.
            var kept = file is { Outcome: "archive" } ? arrived!.Key : null;
            if (arrived is not null && kept is null && !parts.Contains(arrived.Key))
            {
                await arrivals.DropAsync(arrived);
            }

            if (lost)
            {
                // A part of it is not there: nothing can be made of the rest. Whoever sends it is told that it is gone, and sends it again.
                await store.EndAsync(upload.Id, CancellationToken.None);
            }
            else if (file is null)
            {
                await store.RenewAsync(upload.Id, claim, TimeSpan.Zero, CancellationToken.None);
            }
            else
            {
                await store.ForgetPartsAsync(upload.Id, parts, kept, CancellationToken.None);
            }
        }

        return file;
    }
}
