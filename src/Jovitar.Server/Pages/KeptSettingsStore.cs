using Jovitar.Core;
using Jovitar.Core.Acts;
using Jovitar.Core.Pages;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Pages;

/// <summary>Settings that are kept.</summary>
/// <param name="Kind">Of which kind of block.</param>
internal sealed record KeptSettings(KeptSettingsId Id, string Name, string Kind);

/// <summary>Settings of blocks, kept under names to be used on any page.</summary>
internal sealed class KeptSettingsStore(NpgsqlDataSource db, ActRunner acts)
{
    /// <summary>More than anybody finds again in a list.</summary>
    public const int Most = 200;

    public async Task<IReadOnlyList<KeptSettings>> ListAsync(CancellationToken ct)
    {
        await using var command = db.Command("select id, name, kind from kept_settings where binned is null order by lower(name), id limit @most", ("most", Most));
        return await command.AllAsync(r => new KeptSettings(new KeptSettingsId(r.Get<Guid>("id")), r.Get<string>("name"), r.Get<string>("kind")), ct);
    }

    /// <summary>Keeps the settings of a block; in place of those that are kept under the same name for blocks of its kind.</summary>
    /// <returns>Null where so many are kept already.</returns>
    public async Task<Done?> KeepAsync(Actor who, string name, Block block, CancellationToken ct)
    {
        var (written, done) = await acts.RunAsync(
            who, ActKind.KeptSettings,
            async act =>
            {
                act.Says = _ => ActWords.KeptSettings(name);
                return await act.RunAsync(
                    """
                    insert into kept_settings (id, name, kind, block, made)
                    select @id, @name, b.block ->> 'kind', b.block, @now
                      from (select @block::jsonb as block) as b
                     where (select count(*)
                              from kept_settings
                             where binned is null and (kind <> b.block ->> 'kind' or lower(name) <> lower(@name))) < @most
                    on conflict (kind, lower(name)) where binned is null do update set name = excluded.name, block = excluded.block
                    """,
                    ct, ("id", Guid.CreateVersion7()), ("name", name), ("block", PageText.Write(block)), ("now", act.Now), ("most", Most)) > 0;
            },
            ct);
        return written ? done : null;
    }

    /// <summary>A block with settings that are kept.</summary>
    /// <returns>Null where they are gone, or kept for blocks of another kind.</returns>
    public async Task<Block?> OnAsync(KeptSettingsId id, Block block, CancellationToken ct)
    {
        await using var command = db.Command("select block::text as block from kept_settings where id = @id and binned is null", ("id", id.Value));
        return await command.FirstAsync(r => PageText.ReadBlock(r.Get<string>("block")), ct) is { } kept ? BlockSettings.On(kept, block) : null;
    }

    /// <summary>Lets settings go; blocks that were set by them stay as they are.</summary>
    public async Task<Done?> LetGoAsync(Actor who, KeptSettingsId id, CancellationToken ct)
    {
        var (there, done) = await acts.RunAsync(
            who, ActKind.KeptSettings,
            async act =>
            {
                await using var go = act.Command("update kept_settings set binned = @now where id = @id and binned is null returning name", ("id", id.Value), ("now", act.Now));
                if (await go.ExecuteScalarAsync(ct) is not string name)
                {
                    return act.Drop(false);
                }

                act.Says = _ => ActWords.LetSettingsGo(name);
                return true;
            },
            ct);
        return there ? done : null;
    }
}
