using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Records;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Records;

/// <summary>Something that a visitor did, to be written down.</summary>
/// <param name="Kind">"page", "album" or "category".</param>
/// <param name="Network">Where they came from, shortened.</param>
internal sealed record ToRecord(DateTimeOffset At, Recorded What, string Kind, Guid Thing, PhotoId? Photo, Guid? Account, Guid? Entry, string Network);

/// <summary>What is recorded of a visitor.</summary>
/// <param name="Called">The thing as it is called now; empty for one that is gone.</param>
/// <param name="PhotoName">Of a photo that was saved and is there; empty for none.</param>
/// <param name="Who">Who it was; empty for somebody unknown who was turned away.</param>
internal sealed record RecordLine(Guid Id, DateTimeOffset At, Recorded What, string Kind, Guid Thing, string Called, PhotoId? Photo, string PhotoName, Guid? Member, Guid? Entry, string Who, string Network);

/// <summary>Records, the latest first.</summary>
/// <param name="Kept">For so many days they are kept; 0 for not at all.</param>
/// <param name="Offered">The numbers of days to choose from.</param>
/// <param name="Who">Whose they are, where they are somebody's; empty for everybody's.</param>
/// <param name="Counted">So many of each are counted; a larger number means that there are more.</param>
/// <param name="Further">There are more behind the last.</param>
internal sealed record RecordList(int Kept, IReadOnlyList<int> Offered, string Who, int Opened, int Saved, int Refused, int Counted, IReadOnlyList<RecordLine> Records, bool Further);

/// <summary>Whose records, and of what.</summary>
internal sealed record RecordQuery(Recorded? What, Guid? Member, Guid? Entry, Guid? Behind);

/// <summary>What is recorded of visitors whom the site knows, and of those it turned away.</summary>
internal sealed class RecordStore(NpgsqlDataSource db, ActRunner acts, TimeProvider clock)
{
    /// <summary>So many stand in one answer.</summary>
    const int Step = 100;

    /// <summary>So many of each kind are counted.</summary>
    const int MostCounted = 1000;

    /// <summary>Writes down what happened, where anything is to be recorded at all. Who came to the same a moment ago has not come again.</summary>
    public async Task AddAsync(IReadOnlyList<ToRecord> records, CancellationToken ct)
    {
        // As a set they would not know of each other.
        var once = records.Where(r => !Keeping.IsOnceAVisit(r.What))
            .Concat(records.Where(r => Keeping.IsOnceAVisit(r.What)).GroupBy(r => (r.What, r.Thing, r.Account, r.Entry, r.Account is null && r.Entry is null ? r.Network : "")).Select(g => g.First()))
            .OrderBy(r => r.At).ToArray();
        await using var command = db.Command(
            """
            insert into access_record (id, at, what, kind, thing, photo, account, entry, network)
            select w.id, w.at, w.what, w.kind, w.thing, p.id, w.account, w.entry, w.network
              from unnest(@ids, @ats, @whats, @kinds, @things, @photos, @accounts, @entries, @networks)
                as w(id, at, what, kind, thing, photo, account, entry, network)
              left join photo as p on p.id = w.photo
             where (select records_kept from site) > 0
               and (w.account is null or exists (select from account as a where a.id = w.account))
               and (w.entry is null or exists (select from entry as e where e.id = w.entry))
               and (w.what <> all(@once) or not exists (
                 select from access_record as b
                  where b.thing = w.thing and b.at > w.at - @visit and b.what = w.what
                    and b.account is not distinct from w.account and b.entry is not distinct from w.entry
                    and (w.account is not null or w.entry is not null or b.network = w.network)))
            """,
            ("ids", once.Select(r => Guid.CreateVersion7(r.At)).ToArray()), ("ats", once.Select(r => r.At).ToArray()), ("whats", once.Select(r => r.What.ToString()).ToArray()), ("kinds", once.Select(r => r.Kind).ToArray()),
            ("things", once.Select(r => r.Thing).ToArray()), ("photos", once.Select(r => r.Photo?.Value).ToArray()), ("accounts", once.Select(r => r.Account).ToArray()), ("entries", once.Select(r => r.Entry).ToArray()),
            ("networks", once.Select(r => r.Network).ToArray()), ("visit", Keeping.SameVisit), ("once", Enum.GetValues<Recorded>().Where(Keeping.IsOnceAVisit).Select(r => r.ToString()).ToArray()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Forgets what was kept as long as it is to be.</summary>
    public async Task ForgetAsync(CancellationToken ct)
    {
        await using var command = db.Command("delete from access_record where at < @since", ("since", Keeping.Since(await KeptAsync(ct), clock.GetUtcNow())));
        await command.ExecuteNonQueryAsync(ct);
    }

    async Task<int> KeptAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select records_kept from site");
        return (int)(await command.ExecuteScalarAsync(ct))!;
    }

    /// <summary>Says for how long records are kept. What is older is forgotten at once.</summary>
    /// <param name="days">One of <see cref="Keeping.Choices"/>.</param>
    public async Task<Done> SayAsync(Actor who, int days, CancellationToken ct)
    {
        var (_, done) = await acts.RunAsync(
            who, ActKind.Records,
            async act =>
            {
                act.Says = _ => RecordWords.Kept(days);
                return await act.RunAsync("update site set records_kept = @days where records_kept <> @days", ct, ("days", days));
            },
            ct);
        await ForgetAsync(ct);
        return done;
    }

    /// <summary>Records, the latest first, and how many there are of each kind.</summary>
    public async Task<RecordList> ListAsync(RecordQuery query, CancellationToken ct)
    {
        var whose = query.Member is not null ? "r.account = @member" : query.Entry is not null ? "r.entry = @entry" : "true";
        var which = query.What switch { null => "true", Recorded.Saved => "r.what in ('Saved', 'SavedAll')", _ => "r.what = @what" };
        (string, object?)[] parameters = [("member", query.Member), ("entry", query.Entry), ("what", query.What?.ToString()), ("behind", query.Behind), ("most", Step + 1)];
        await using var command = db.Command(
            $"""
            select r.id, r.at, r.what, r.kind, r.thing, r.photo, r.account, r.entry, r.network,
                   coalesce(
                     case when pg.id is not null then page_title(coalesce(pg.published, pg.draft)) end,
                     al.working_name, ca.name, '') as called,
                   coalesce(nullif(p.title, ''), p.file_name, '') as photo_name, coalesce(ac.name, e.name, '') as who
              from access_record as r
              left join page as pg on pg.id = r.thing and r.kind = 'page' and pg.binned is null
              left join album as al on al.id = r.thing and r.kind = 'album' and al.binned is null
              left join category as ca on ca.id = r.thing and r.kind = 'category' and ca.binned is null
              left join photo as p on p.id = r.photo and p.binned is null
              left join account as ac on ac.id = r.account
              left join entry as e on e.id = r.entry
             where {whose} and {which}
               and (@behind::uuid is null or (r.at, r.id) < (select b.at, b.id from access_record as b where b.id = @behind))
             order by r.at desc, r.id desc
             limit @most
            """,
            parameters);
        var found = await command.AllAsync(Read, ct);
        await using var count = db.Command(
            $"""
            select {Counted("r.what = 'Opened'", whose)} as opened, {Counted("r.what in ('Saved', 'SavedAll')", whose)} as saved,
                   {Counted("r.what = 'Refused'", whose)} as refused,
                   coalesce(
                     (select name from account where id = @member::uuid),
                     (select name from entry where id = @entry::uuid), '') as who
            """,
            parameters);
        var kept = await KeptAsync(ct);
        return (await count.FirstAsync(
            r => new RecordList(kept, Keeping.Choices, r.Get<string>("who"), r.Get<int>("opened"), r.Get<int>("saved"), r.Get<int>("refused"), MostCounted, [.. found.Take(Step)], found.Count > Step), ct))!;
    }

    /// <summary>How many records there are of a kind, counted no further than it is of interest.</summary>
    static string Counted(string what, string whose) =>
        $"(select count(*)::int from (select from access_record as r where {whose} and {what} limit {MostCounted + 1}) as found)";

    static RecordLine Read(NpgsqlDataReader r) => new(
        r.Get<Guid>("id"), r.Get<DateTimeOffset>("at"), Enum.Parse<Recorded>(r.Get<string>("what")), r.Get<string>("kind"), r.Get<Guid>("thing"), r.Get<string>("called"),
        r.MaybeId("photo") is { } photo ? new PhotoId(photo) : null, r.Get<string>("photo_name"), r.MaybeId("account"), r.MaybeId("entry"), r.Get<string>("who"), r.Get<string>("network"));
}
