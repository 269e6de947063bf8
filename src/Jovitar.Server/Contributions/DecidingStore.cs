using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Contributions;
using Jovitar.Server.Acts;
using Jovitar.Server.Bins;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Contributions;

/// <summary>Decides on what visitors sent in, and says who sends in and whereto.</summary>
internal sealed class DecidingStore(ActRunner acts)
{
    /// <summary>Accepts photos: they become photos here in a moment, whoever is at work then.</summary>
    /// <returns>How many were; null when the contribution is not there.</returns>
    public Task<int?> AcceptAsync(Actor who, Guid contribution, IReadOnlyList<Guid> photos, CancellationToken ct) => DecideAsync(who, contribution, photos, SentState.Accepted, "", ct);

    /// <summary>Refuses photos.</summary>
    /// <param name="why">What whoever sent them is told; empty for nothing.</param>
    /// <returns>How many were; null when the contribution is not there.</returns>
    public Task<int?> RefuseAsync(Actor who, Guid contribution, IReadOnlyList<Guid> photos, string why, CancellationToken ct) => DecideAsync(who, contribution, photos, SentState.Refused, why, ct);

    async Task<int?> DecideAsync(Actor who, Guid contribution, IReadOnlyList<Guid> photos, SentState to, string why, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            // Whoever sent it changes it before or after this.
            await using var hold = act.Command("select name from contribution where id = @id and sent is not null for no key update", ("id", contribution));
            if (await hold.ExecuteScalarAsync(ct) is not string name)
            {
                return act.Drop<int?>(null);
            }

            await using var find = act.Command(
                "select id, state, is_kept from contribution_photo where contribution = @id and id = any(@photos) order by id for no key update", ("id", contribution), ("photos", photos.ToArray()));
            var found = await find.AllAsync(r => (Id: r.Get<Guid>("id"), State: Enum.Parse<SentState>(r.Get<string>("state")), IsKept: r.Get<bool>("is_kept")), ct);
            var decided = found.Where(p => Sending.CanDecide(p.State, p.IsKept, to)).Select(p => p.Id).ToArray();
            await act.RunAsync(
                "update contribution_photo set state = @to, reason = @why, decided = @now, decided_by = @by where id = any(@decided)", ct,
                ("decided", decided), ("to", to.ToString()), ("why", why), ("now", act.Now), ("by", act.Who.Name));
            (act.IsKept, act.Says) = (decided.Length > 0, _ => to == SentState.Accepted ? ContributionWords.Accepted(decided.Length, name) : ContributionWords.Refused(decided.Length, name, why));
            return decided.Length;
        },
        ct)).Answer;

    /// <summary>Whoever sent a photo in takes it back after it was accepted: it goes into the bin.</summary>
    /// <param name="sent">The photo as it was sent in.</param>
    public Task TakeBackAsync(Guid sent, AcceptedPhoto accepted, CancellationToken ct) => acts.RunAsync(
        new Actor(accepted.Account, accepted.Name), ActKind.Contributions,
        async act =>
        {
            await BinStore.ThrowAsync(act, [accepted.Photo], [], ct);
            await using var mark = act.Command(
                """
                update contribution_photo
                   set state = 'Withdrawn', is_kept = false, decided = @now
                 where id = @sent and state = 'Accepted' and photo = @photo
                returning coalesce(nullif(title, ''), file_name)
                """,
                ("sent", sent), ("photo", accepted.Photo.Value), ("now", act.Now));
            if (await mark.ExecuteScalarAsync(ct) is not string called)
            {
                return act.Drop(false);
            }

            (act.IsKept, act.Says) = (true, _ => ContributionWords.Withdrew(accepted.Name, called));
            return true;
        },
        ct);

    /// <summary>Says whether a member sends photos in, and whether those wait.</summary>
    /// <returns>False where they are no member any more.</returns>
    public async Task<bool> SayAsync(Actor who, Guid member, Contributing contributing, CancellationToken ct) => (await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            // The table before its rows, as whoever adds and invites takes them.
            await act.RunAsync("lock table account in row exclusive mode", ct);
            await using var say = act.Command(
                "update account set contributing = @contributing where id = @member and role = 'Member' returning name",
                ("member", member), ("contributing", contributing.ToString()));
            if (await say.ExecuteScalarAsync(ct) is not string name)
            {
                return act.Drop(false);
            }

            (act.IsKept, act.Says) = (true, _ => ContributionWords.Said(name, contributing));
            return true;
        },
        ct)).Answer;

    /// <summary>Says into which categories members may put albums of their own.</summary>
    public async Task OfferAsync(Actor who, IReadOnlyList<CategoryId> categories, CancellationToken ct) => await acts.RunAsync(
        who, ActKind.Contributions,
        async act =>
        {
            act.Says = _ => ContributionWords.Offered(categories.Count);
            return await act.RunAsync(
                """
                update site
                   set offered_categories = array(
                         select c.id from category as c where c.id = any(@categories) and c.binned is null order by c.id)
                """,
                ct, ("categories", categories.Values().Distinct().ToArray()));
        },
        ct);
}
