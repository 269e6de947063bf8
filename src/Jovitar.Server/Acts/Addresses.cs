using Jovitar.Core.Pages;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Acts;

/// <summary>Addresses of what visitors open. Pages, albums and categories have theirs each for themselves; what is in the bin leaves its own free.</summary>
internal static class Addresses
{
    /// <summary>When visitors know the address of a thing, of a row called <c>t</c>: one that nobody knew leads nowhere afterwards.</summary>
    static readonly Dictionary<string, string> Known = new(StringComparer.Ordinal)
    {
        ["page"] = "t.published is not null",
        ["album"] = "t.shown and exists (select from album_category as ac join category as c on c.id = ac.category where ac.album = t.id and c.in_view)",
        ["category"] = "t.in_view",
    };

    /// <summary>Kinds of things that have addresses.</summary>
    public static IEnumerable<string> Kinds => Known.Keys;

    /// <summary>Whether visitors know a thing's address, of a row called <c>t</c>.</summary>
    public static string IsKnown(string kind) => Known[kind];

    /// <summary>Until the act is done nobody else takes an address; asked for after the rows that are written are locked.</summary>
    public static Task<int> HoldAsync(Act act, CancellationToken ct) => act.RunAsync("select pg_advisory_xact_lock(@work)", ct, ("work", Alone.ChoosingAddresses));

    /// <summary>An address like the one wished for that is free, and stays so until the act is done.</summary>
    /// <param name="self">The thing it is for; what it has or had itself is free.</param>
    public static async Task<string> FreeAsync(Act act, string kind, string wish, Guid self, CancellationToken ct)
    {
        await HoldAsync(act, ct);
        var stem = wish[..Math.Min(wish.Length, PageAddress.Longest - 6)];
        await using var command = act.Command(
            $"""
            select address from {kind} where binned is null and id <> @self and (address = @wish or address like @stem || '-%')
            union
            select address from former_address where kind = '{kind}' and thing <> @self and (address = @wish or address like @stem || '-%')
            """,
            ("wish", wish), ("stem", stem), ("self", self));
        var taken = (await command.AllAsync(r => r.GetString(0), ct)).ToHashSet(StringComparer.Ordinal);
        return taken.Contains(wish) ? Enumerable.Range(2, taken.Count + 1).Select(n => $"{stem}-{n}").First(a => !taken.Contains(a)) : wish;
    }

    /// <summary>Whether another thing of the kind has an address now.</summary>
    public static async Task<bool> IsTakenAsync(Act act, string kind, string address, Guid self, CancellationToken ct)
    {
        await HoldAsync(act, ct);
        await using var taken = act.Command($"select exists (select from {kind} where address = @address and binned is null and id <> @self)", ("address", address), ("self", self));
        return (bool)(await taken.ExecuteScalarAsync(ct))!;
    }

    /// <summary>
    /// Gives things that come back, and whose address another has taken meanwhile or has, too, and comes back with them, one beside it:
    /// told apart by the end of what names them, for they begin with the moment they were made (RFC 9562, version 7).
    /// </summary>
    public static async Task FreeThoseBackAsync(Act act, string kind, IReadOnlyList<Guid> ids, CancellationToken ct)
    {
        if (ids.Count == 0)
        {
            return;
        }

        await HoldAsync(act, ct);
        await act.RunAsync(
            $"""
            update {kind} as t
               set address = left(t.address, 70) || '-' || right(t.id::text, 8)
             where t.id = any(@ids) and t.binned is not null
               and exists (
                 select
                   from {kind} as other
                  where other.address = t.address and (other.binned is null or other.id = any(@ids) and other.id < t.id))
            """,
            ct, ("ids", ids.ToArray()));
    }

    /// <summary>A former address gives way to whoever uses it now; one that visitors knew leads to the new one, but to what is found by its link alone.</summary>
    public static async Task FollowAsync(Act act, string kind, CancellationToken ct)
    {
        await act.RunAsync(
            """
            delete from former_address as f
             using act_change as c
             where c.act = @act and c.kind = @kind and f.kind = @kind and f.address = c.after ->> 'address'
            """,
            ct, ("act", act.Id.Value), ("kind", kind));
        await act.RunAsync(
            $"""
            insert into former_address (kind, address, thing)
            select '{kind}', c.before ->> 'address', t.id
              from act_change as c
              join {kind} as t on t.id = c.thing and {IsKnown(kind)}
             where c.act = @act and c.kind = '{kind}' and c.before ? 'address' and c.after ? 'address'
               and t.audience <> 'WithLink'
               and not exists (select from {kind} as other where other.address = c.before ->> 'address' and other.binned is null)
            on conflict (kind, address) do update set thing = excluded.thing
            """,
            ct, ("act", act.Id.Value));
    }
}
