using Jovitar.Core.Acts;
using Jovitar.Core.People;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.People.Members;

/// <summary>A group of members.</summary>
/// <param name="Members">How many are in it.</param>
internal sealed record GroupLine(Guid Id, string Name, int Members);

/// <summary>What became of a change of a group.</summary>
/// <param name="Id">Of the group, where there is one.</param>
/// <param name="Refused">Why it was not done; null where it was.</param>
internal sealed record GroupChange(Guid? Id, string? Refused);

/// <summary>Groups of members: what is shown to some is shown to these.</summary>
internal sealed class GroupStore(NpgsqlDataSource db, ActRunner acts)
{
    public async Task<IReadOnlyList<GroupLine>> ListAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand(
            """
            select g.id, g.name, (select count(*)::int from member_of as m where m."group" = g.id) as members
              from member_group as g
             order by g.name_key
            """);
        return await command.AllAsync(r => new GroupLine(r.Get<Guid>("id"), r.Get<string>("name"), r.Get<int>("members")), ct);
    }

    public async Task<GroupChange> MakeAsync(Actor who, string name, CancellationToken ct)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                await act.RunAsync("lock table member_group in share row exclusive mode", ct);
                await using var count = act.Command(
                    "select (select count(*)::int from member_group) as groups, exists (select from member_group where name_key = @key) as is_taken", ("key", Key(name)));
                var (groups, isTaken) = (await count.FirstAsync(r => Tuple.Create(r.Get<int>("groups"), r.Get<bool>("is_taken")), ct))!;
                if (isTaken || groups >= MemberRules.MostGroups)
                {
                    return act.Drop(new GroupChange(null, isTaken ? Taken(name) : $"There is room for {MemberRules.MostGroups} groups."));
                }

                var id = Guid.CreateVersion7(act.Now);
                await act.RunAsync("insert into member_group (id, name, name_key, made) values (@id, @name, @key, @now)", ct, ("id", id), ("name", name), ("key", Key(name)), ("now", act.Now));
                (act.IsKept, act.Says) = (true, _ => MemberWords.MadeGroup(name));
                return new GroupChange(id, null);
            },
            ct);
        return answer;
    }

    public async Task<GroupChange> RenameAsync(Actor who, Guid group, string name, CancellationToken ct)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                await act.RunAsync("lock table member_group in share row exclusive mode", ct);
                await using var find = act.Command(
                    "select name, exists (select from member_group where name_key = @key and id <> @group) as is_taken from member_group where id = @group", ("group", group), ("key", Key(name)));
                if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Get<bool>("is_taken")), ct) is not var (before, isTaken))
                {
                    return act.Drop(new GroupChange(null, null));
                }

                if (isTaken || before == name)
                {
                    return act.Drop(new GroupChange(group, isTaken ? Taken(name) : null));
                }

                await act.RunAsync("update member_group set name = @name, name_key = @key where id = @group", ct, ("group", group), ("name", name), ("key", Key(name)));
                (act.IsKept, act.Says) = (true, _ => MemberWords.RenamedGroup(before, name));
                return new GroupChange(group, null);
            },
            ct);
        return answer;
    }

    /// <summary>Removes a group; its members stay members. One that something is for is not removed over it: what it keeps would be for nobody.</summary>
    public async Task<GroupChange> RemoveAsync(Actor who, Guid group, CancellationToken ct)
    {
        var (answer, _) = await acts.RunAsync(
            who, ActKind.Members,
            async act =>
            {
                await using var find = act.Command("select name from member_group where id = @group for update", ("group", group));
                if (await find.ExecuteScalarAsync(ct) is not string name)
                {
                    return act.Drop(new GroupChange(null, null));
                }

                await using var used = act.Command(
                    """
                    select 'page “' || page_title(draft) || '”' as what, 'is' as does
                      from page
                     where is_gate and @group = any(chosen) and binned is null
                    union all
                    select 'album “' || working_name || '”', 'is'
                      from album
                     where is_gate and @group = any(chosen) and binned is null
                    union all
                    select 'category “' || name || '”', 'is'
                      from category
                     where is_gate and @group = any(chosen) and binned is null
                    union all
                    select 'photo “' || coalesce(nullif(p.title, ''), p.file_name) || '”', 'is'
                      from photo_gate as g
                      join photo as p on p.own_gate = g.id and p.binned is null
                     where @group = any(g.chosen)
                    union all
                    select 'album “' || working_name || '”', 'spares'
                      from album
                     where unmarked = 'Chosen' and @group = any(unmarked_for) and binned is null
                    union all
                    select 'category “' || name || '”', 'spares'
                      from category
                     where unmarked = 'Chosen' and @group = any(unmarked_for) and binned is null
                    union all
                    select 'site', 'spares' from watermark where unmarked = 'Chosen' and @group = any(unmarked_for)
                    union all
                    select 'album “' || working_name || '”', 'reserves'
                      from album
                     where reserves <> '{}' and strpos(reserves::text, @group::text) > 0 and binned is null
                    union all
                    select 'category “' || name || '”', 'reserves'
                      from category
                     where reserves <> '{}' and strpos(reserves::text, @group::text) > 0 and binned is null
                    limit 1
                    """,
                    ("group", group));
                if (await used.FirstAsync(r => Tuple.Create(r.Get<string>("what"), r.Get<string>("does")), ct) is var (what, does))
                {
                    return act.Drop(new GroupChange(group, does switch
                    {
                        "spares" => $"The {what} spares this group the watermark. Say first whom it spares instead.",
                        "reserves" => $"The {what} reserves something for this group. Say first for whom it is instead.",
                        _ => $"The {what} is for this group. Say first who else is to see it.",
                    }));
                }

                await act.RunAsync("delete from member_group where id = @group", ct, ("group", group));
                (act.IsKept, act.Says) = (true, _ => MemberWords.RemovedGroup(name));
                return new GroupChange(group, null);
            },
            ct);
        return answer;
    }

    static string Taken(string name) => $"There is a group “{name}” already.";

    static string Key(string name) => name.ToLowerInvariant();
}
