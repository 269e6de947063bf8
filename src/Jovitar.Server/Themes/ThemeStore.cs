using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core.Acts;
using Jovitar.Core.Themes;
using Jovitar.Server.Acts;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Themes;

/// <summary>How the site looks, as staff have it.</summary>
/// <param name="Draft">What they work on.</param>
/// <param name="IsPublished">Visitors have the site like that.</param>
/// <param name="Edited">Counts the edits; expected by the next write.</param>
internal sealed record OpenedTheme(Theme Draft, bool IsPublished, long Edited);

/// <summary>How the site looks: a draft, and what visitors have.</summary>
internal sealed class ThemeStore(NpgsqlDataSource db, ActRunner acts)
{
    static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    static Theme Parse(string json)
    {
        var theme = JsonSerializer.Deserialize<Theme>(json, Json)!;
        return theme with { Light = theme.Light ?? PaletteChange.None, Dark = theme.Dark ?? PaletteChange.None };
    }

    public async Task<OpenedTheme> ReadAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select draft::text as draft, published::text as published, edited from theme");
        return (await command.FirstAsync(
            r =>
            {
                var (draft, published) = (Parse(r.Get<string>("draft")), Parse(r.Get<string>("published")));
                return new OpenedTheme(draft, draft == published, r.Get<long>("edited"));
            },
            ct))!;
    }

    /// <summary>The theme as visitors have it.</summary>
    public async Task<Theme> PublishedAsync(CancellationToken ct)
    {
        await using var command = db.CreateCommand("select published::text as published from theme");
        return (await command.FirstAsync(r => Parse(r.Get<string>("published")), ct))!;
    }

    /// <summary>Changes the draft.</summary>
    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public Task<Done?> WriteAsync(Actor who, Theme theme, long expected, CancellationToken ct) =>
        RunAsync(who, ActKind.Theme, "Worked on the theme.", "draft = @theme::jsonb", expected, ct, ("theme", JsonSerializer.Serialize(theme, Json)));

    /// <summary>Visitors have the site as the draft is.</summary>
    /// <returns>What was done; null when somebody else has changed it since it was read.</returns>
    public Task<Done?> PublishAsync(Actor who, long expected, CancellationToken ct) => RunAsync(who, ActKind.PublishedTheme, "Put the theme on the site.", "published = draft", expected, ct);

    async Task<Done?> RunAsync(Actor who, ActKind kind, string says, string change, long expected, CancellationToken ct, params (string, object?)[] parameters)
    {
        var (written, done) = await acts.RunAsync(
            who, kind,
            async act =>
            {
                await using var write = act.Command($"update theme set {change}, edited = edited + 1 where edited = @expected returning id", [.. parameters, ("expected", expected)]);
                if (await write.ExecuteScalarAsync(ct) is not Guid id)
                {
                    return act.Drop(false);
                }

                act.GoesOn = id;
                act.Says = _ => says;
                return true;
            },
            ct);
        return written ? done : null;
    }

    /// <summary>Gives all pages another look when visitors are to have one, by whatever act.</summary>
    public static async Task FollowAsync(Act act, IReadOnlySet<string> kinds, CancellationToken ct)
    {
        if (kinds.Contains("theme"))
        {
            await act.RunAsync(
                """
                update site
                   set version = version + 1
                 where exists (
                   select
                     from act_change as c
                    where c.act = @act and c.kind = 'theme' and (c.before ? 'published' or c.after ? 'published'))
                """,
                ct, ("act", act.Id.Value));
        }
    }
}
