using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.RegularExpressions;
using Jovitar.Core.Acts;
using Jovitar.Server.Acts;
using Jovitar.Server.Contributions;
using Jovitar.Server.People.Members;
using Jovitar.Server.Platform;
using Jovitar.Server.Sales.Forgetting;
using Npgsql;

namespace Jovitar.Server.PersonalData;

/// <summary>What is kept of a member: handed to them, and erased.</summary>
internal sealed class PersonalDataStore(NpgsqlDataSource db, ActRunner acts, SettingsStore settings, SentFiles files, TimeProvider clock)
{
    static readonly JsonSerializerOptions Written = new() { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>All of it that is kept by their account, each a list of rows under a name that says what they are.</summary>
    static readonly (string Name, string Sql)[] Parts =
    [
        ("account", """
            select a.name, a.email as "e-mail", a.made as "member since", a.password_hash <> '' as "has a password",
                   a.contributing as "sends photos in", array(
                     select g.name
                       from member_of as m
                       join member_group as g on g.id = m."group"
                      where m.account = a.id
                      order by g.name_key) as groups
              from account as a
             where a.id = @member
            """),
        ("signed in", """
            select s.made as since, s.seen as "last here", s.browser
              from session as s
             where s.account = @member and s.expires > @now
             order by s.made
            """),
        ("opened and saved", """
            select r.at, r.what, r.kind,
                   coalesce(
                     case when pg.id is not null then page_title(coalesce(pg.published, pg.draft)) end, al.working_name, ca.name, '')
                     as called,
                   coalesce(nullif(p.title, ''), p.file_name, '') as photo, r.network as "from"
              from access_record as r
              left join page as pg on pg.id = r.thing
              left join album as al on al.id = r.thing
              left join category as ca on ca.id = r.thing
              left join photo as p on p.id = r.photo
             where r.account = @member
             order by r.at, r.id
            """),
        ("favourites", """
            select a.working_name as album, c.changed, c.sent, c.words, array(
                     select coalesce(nullif(p.title, ''), p.file_name)
                       from choice_photo as cp
                       join photo as p on p.id = cp.photo
                      where cp.choice = c.id
                      order by cp.at, p.id) as photos
              from choice as c
              join album as a on a.id = c.album
             where c.account = @member
             order by c.changed, c.id
            """),
        ("photos sent in", """
            select c.sent, coalesce(l.title, '') as "sent for", c.words, c.agreed as "said yes to",
                   p.file_name as file, p.title, p.caption, p.state, p.reason
              from contribution as c
              join contribution_photo as p on p.contribution = c.id
              left join contribution_link as l on l.id = c.link
             where c.account = @member
             order by c.begun, c.id, p.place, p.id
            """),
        ("ordered", """
            select o.number, o.placed, o.name, o.email as "e-mail", o.content -> 'buyer' ->> 'street' as street,
                   o.content -> 'buyer' ->> 'postcode' as postcode, o.content -> 'buyer' ->> 'town' as town,
                   o.content ->> 'message' as message, o.currency, o.content ->> 'total' as total, o.state, o.paid, array(
                     select (l ->> 'called') || ', ' || (l ->> 'count')
                       from jsonb_array_elements(o.content -> 'lines') as l) as photos
              from sale_order as o
             where o.account = @member
             order by o.placed, o.id
            """),
        ("in the basket", """
            select a.working_name as album, coalesce(nullif(p.title, ''), p.file_name) as photo, l.count, l.added
              from basket as b
              join basket_line as l on l.basket = b.id
              join album as a on a.id = l.album
              join photo as p on p.id = l.photo
             where b.account = @member
             order by l.added, l.id
            """),
        ("coupons in the basket", """
            select c.code as coupon, k.added
              from basket as b
              join basket_coupon as k on k.basket = b.id
              join coupon as c on c.id = k.coupon
             where b.account = @member
             order by k.added, c.id
            """),
        ("letters", """
            select l.made, l.subject, l.sent
              from letter as l
             where l.to_address = (select a.email from account as a where a.id = @member)
             order by l.made
            """),
    ];

    /// <summary>What is kept of a member, JSON (RFC 8259).</summary>
    /// <returns>Null where they are no member any more.</returns>
    public async Task<byte[]?> ExportAsync(Guid member, CancellationToken ct)
    {
        var all = new Dictionary<string, object> { ["site"] = (await settings.ReadAsync(ct)).Title, ["made"] = clock.GetUtcNow() };
        foreach (var (name, sql) in Parts)
        {
            await using var command = db.Command(sql, ("member", member), ("now", clock.GetUtcNow()));
            all[name] = await command.AllAsync(r => Enumerable.Range(0, r.FieldCount).ToDictionary(r.GetName, i => r.IsDBNull(i) ? null : r.GetValue(i)), ct);
        }

        return ((System.Collections.ICollection)all["account"]).Count == 0 ? null : JsonSerializer.SerializeToUtf8Bytes(all, Written);
    }

    /// <summary>
    /// Ends a membership and erases what is kept of whoever it was, also their name where something stays that others need: favourites
    /// that were sent, and photos that were accepted, with the credit that they carry. It cannot be taken back.
    /// </summary>
    /// <returns>False where they are no member any more.</returns>
    public async Task<bool> EraseAsync(Actor who, Guid member, CancellationToken ct)
    {
        var (gone, _) = await acts.RunAsync<IReadOnlyList<Guid>?>(
            who, ActKind.Members,
            async act =>
            {
                // The table before its rows, as whoever adds and invites takes them.
                await act.RunAsync("lock table account in row exclusive mode", ct);
                await using var find = act.Command("select name, email from account where id = @member and role = 'Member' for update", ("member", member));
                if (await find.FirstAsync(r => Tuple.Create(r.Get<string>("name"), r.Get<string>("email")), ct) is not var (name, email))
                {
                    return act.Drop<IReadOnlyList<Guid>?>(null);
                }

                (act.IsKept, act.Says) = (true, _ => MemberWords.Erased);
                var dropped = await ForgetAsync(act, member, name, ct);
                await ForgettingStore.ForgetAsync(act, member, email, ct);
                await act.RunAsync("delete from letter where lower(to_address) = lower(@email)", ct, ("email", email));
                await act.RunAsync("delete from member_wish where email_key = (select email_key from account where id = @member)", ct, ("member", member));
                // With it go their sessions, links, passkeys, groups, and what is recorded of them.
                await act.RunAsync("delete from account where id = @member", ct, ("member", member));
                await act.RunAsync(MemberStore.Told, ct);
                return dropped;
            },
            ct);
        if (gone is null)
        {
            return false;
        }

        await files.DropAsync(gone, pictures: true);
        return true;
    }

    /// <summary>Forgets whose it was, wherever it stays.</summary>
    /// <returns>The photos that were sent in and are kept no longer.</returns>
    static async Task<IReadOnlyList<Guid>> ForgetAsync(Act act, Guid member, string name, CancellationToken ct)
    {
        foreach (var called in await NamesAsync(act, name, ct))
        {
            await ForgetNameAsync(act, member, called, ct);
        }

        (string, object?)[] parameters = [("member", member), ("forgotten", MemberWords.Forgotten)];
        await act.RunAsync("delete from choice where account = @member and sent is null", ct, parameters);
        await act.RunAsync("update choice set name = @forgotten, words = '' where account = @member", ct, parameters);
        // What waits is theirs and goes; what was accepted is a photo of the site's.
        await using var drop = act.Command(
            """
            delete from contribution_photo as p
             using contribution as c
             where c.id = p.contribution and c.account = @member and not p.is_in
            returning p.id
            """,
            parameters);
        var dropped = await drop.AllAsync(r => r.GetGuid(0), ct);
        await act.RunAsync(
            "delete from contribution as c where c.account = @member and not exists (select from contribution_photo as p where p.contribution = c.id)", ct, parameters);
        await act.RunAsync("update contribution set name = @forgotten, email = '', words = '' where account = @member", ct, parameters);
        return dropped;
    }

    /// <summary>What they are called, and were before: longer names first, for one may stand in another.</summary>
    static async Task<IEnumerable<string>> NamesAsync(Act act, string name, CancellationToken ct)
    {
        await using var renamed = act.Command(
            "select sentence from act where kind = 'Members' and sentence like @renamed order by id desc", ("renamed", MemberWords.Renamed("%", "%")));
        var sentences = await renamed.AllAsync(r => r.GetString(0), ct);
        var names = new HashSet<string> { name };
        foreach (var sentence in sentences)
        {
            names.UnionWith(names.Select(n => MemberWords.CalledBefore(sentence, n)).OfType<string>().ToArray());
        }

        return names.OrderByDescending(n => n.Length);
    }

    /// <summary>Forgets a name, wherever it says who did something.</summary>
    static async Task ForgetNameAsync(Act act, Guid member, string name, CancellationToken ct)
    {
        (string, object?)[] parameters = [("member", member), ("forgotten", MemberWords.Forgotten), ("name", name), ("word", $@"(?<!\w){Regex.Escape(name)}(?!\w)")];
        await act.RunAsync(
            """
            update intake as i
               set label = @forgotten, begun_by = case when i.begun_by = @name then @forgotten else i.begun_by end
             where i.id in (select c.intake from contribution as c where c.account = @member)
            """,
            ct, parameters);
        // Also what it was before, which is noted with each change.
        await act.RunAsync(
            """
            update act_change
               set before = replace(before::text, n.said, @forgotten)::jsonb, after = replace(after::text, n.said, @forgotten)::jsonb
              from (select trim(both '"' from to_jsonb(@name::text)::text) as said) as n
             where kind = 'intake' and thing in (select c.intake from contribution as c where c.account = @member)
            """,
            ct, parameters);
        await act.RunAsync(
            """
            update act
               set sentence = replace(sentence, @name, @forgotten), who = case when who = @name then @forgotten else who end
             where id in (
               select i.act from intake as i join contribution as c on c.intake = i.id where c.account = @member)
            """,
            ct, parameters);
        await act.RunAsync(
            """
            update act
               set sentence = regexp_replace(sentence, @word, @forgotten, 'g'),
                   who = case when account = @member then @forgotten else who end
             where kind in ('Members', 'Contributions', 'Choices', 'Audience') and (sentence ~ @word or account = @member)
            """,
            ct, parameters);
        await act.RunAsync(
            """
            update bin
               set binned_by = @forgotten
             where binned_by = @name and thing in (
               select p.photo from contribution_photo as p join contribution as c on c.id = p.contribution where c.account = @member)
            """,
            ct, parameters);
    }
}
