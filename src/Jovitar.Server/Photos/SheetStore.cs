using Jovitar.Core;
using Jovitar.Core.Photos;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>A photo as a frame of the sheet shows it.</summary>
/// <param name="Renditions">The widths that are made already; others are not worth asking for yet.</param>
internal sealed record SheetPhoto(
    PhotoId Id, string Hash, string FileName, string Title, int Width, int Height, string State, string? Failure, bool Preview, string Decision, IReadOnlyList<int> Renditions);

/// <summary>One window of a sheet.</summary>
internal sealed record SheetWindow(IReadOnlyList<SheetPhoto> Photos);

/// <summary>The whole sheet in outline: how many photos it has, and the key at which every window begins.</summary>
internal sealed record SheetMap(int Total, int Step, IReadOnlyList<string> Keys);

/// <summary>A photo's neighbours in a sheet.</summary>
/// <param name="Position">Its place, 1 = first.</param>
internal sealed record SheetNeighbours(PhotoId? Before, PhotoId? After, int Position, int Total);

/// <summary>Windows of the sheet, by key and never by counting rows off.</summary>
internal sealed class SheetStore(NpgsqlDataSource db)
{
    /// <summary>Photos a window.</summary>
    public const int Step = 120;

    const string Columns = "p.id, encode(p.hash, 'hex') as hash, p.file_name, p.title, p.width, p.height, p.state, p.failure, p.preview, p.decision, p.stage";

    static SheetPhoto Read(NpgsqlDataReader r) => new(
        new PhotoId(r.Get<Guid>("id")), r.Get<string>("hash"), r.Get<string>("file_name"), r.Get<string>("title"), r.Get<int>("width"), r.Get<int>("height"),
        r.Get<string>("state"), r.MaybeText("failure"), r.Get<bool>("preview"), r.Get<string>("decision"), Renditions.There(r.Get<short>("stage"), r.Get<int>("width")));

    /// <summary>The window that begins at a key, or the first one.</summary>
    public async Task<SheetWindow> WindowAsync(SheetQuery query, SheetKey? from, CancellationToken ct)
    {
        var sql = new SheetSql(query);
        var begin = from is null ? "" : $" and {sql.Compared(">=", "@key", "@id")}";
        await using var command = sql.Fill(db.Command($"select {Columns} from {sql.From} where {sql.Where}{begin} order by {sql.Order} limit {Step}"));
        if (from is { } key)
        {
            command.With(("key", key.Value), ("id", key.Id));
        }

        return new SheetWindow(await command.AllAsync(Read, ct));
    }

    public async Task<SheetMap> MapAsync(SheetQuery query, CancellationToken ct)
    {
        var sql = new SheetSql(query);
        await using var command = sql.Fill(db.Command(
            $"""
            select key, id, total
              from (select {sql.Column}::text as key, p.id, row_number() over (order by {sql.Order}) as n, count(*) over () as total
                      from {sql.From} where {sql.Where}) as numbered
             where n % {Step} = 1
             order by n
            """));
        var total = 0;
        var keys = await command.AllAsync(
            r =>
            {
                total = (int)r.GetInt64(2);
                return new SheetKey(r.GetString(0), r.GetGuid(1)).ToString();
            },
            ct);
        return new SheetMap(total, Step, keys);
    }

    /// <summary>The photos from one to another in a sheet, both counted in, however they are named.</summary>
    public async Task<IReadOnlyList<PhotoId>> BetweenAsync(SheetQuery query, PhotoId one, PhotoId other, int most, CancellationToken ct)
    {
        var sql = new SheetSql(query);
        if (await KeyAsync(sql, one, ct) is not { } a || await KeyAsync(sql, other, ct) is not { } b)
        {
            return [];
        }

        await using var command = sql.Fill(db.Command(
            $"""
            select p.id from {sql.From}
             where {sql.Where}
               and (({sql.Column}, p.id) between (@a::{sql.Type}, @aid::uuid) and (@b::{sql.Type}, @bid::uuid)
                 or ({sql.Column}, p.id) between (@b::{sql.Type}, @bid::uuid) and (@a::{sql.Type}, @aid::uuid))
             order by {sql.Order} limit @most
            """,
            ("a", a.Value), ("aid", a.Id), ("b", b.Value), ("bid", b.Id), ("most", most)));
        return await command.AllAsync(r => new PhotoId(r.GetGuid(0)), ct);
    }

    public async Task<SheetNeighbours?> NeighboursAsync(SheetQuery query, PhotoId photo, CancellationToken ct)
    {
        var sql = new SheetSql(query);
        if (await KeyAsync(sql, photo, ct) is not { } key)
        {
            return null;
        }

        await using var command = sql.Fill(db.Command(
            $"""
            select (select p.id from {sql.From} where {sql.Where} and {sql.Compared("<", "@key", "@id")} order by {sql.Backwards} limit 1),
                   (select p.id from {sql.From} where {sql.Where} and {sql.Compared(">", "@key", "@id")} order by {sql.Order} limit 1),
                   (select count(*) from {sql.From} where {sql.Where} and {sql.Compared("<", "@key", "@id")}),
                   (select count(*) from {sql.From} where {sql.Where})
            """,
            ("key", key.Value), ("id", key.Id)));
        return await command.FirstAsync(
            r => new SheetNeighbours(r.IsDBNull(0) ? null : new PhotoId(r.GetGuid(0)), r.IsDBNull(1) ? null : new PhotoId(r.GetGuid(1)), (int)r.GetInt64(2) + 1, (int)r.GetInt64(3)), ct);
    }

    /// <summary>Photos by name, in the order asked for; those that are gone are left out.</summary>
    public async Task<IReadOnlyList<SheetPhoto>> TheseAsync(IReadOnlyList<PhotoId> photos, CancellationToken ct)
    {
        await using var command = db.Command(
                $"""
                select {Columns}
                  from unnest(@ids) with ordinality as wanted(id, n)
                  join photo as p on p.id = wanted.id
                 where p.binned is null
                 order by wanted.n
                """,
            ("ids", photos.Select(p => p.Value).ToArray()));
        return await command.AllAsync(Read, ct);
    }

    async Task<SheetKey?> KeyAsync(SheetSql sql, PhotoId photo, CancellationToken ct)
    {
        await using var command = sql.Fill(db.Command($"select {sql.Column}::text from {sql.From} where {sql.Where} and p.id = @id", ("id", photo.Value)));
        return await command.ExecuteScalarAsync(ct) is string value ? new SheetKey(value, photo.Value) : null;
    }
}
