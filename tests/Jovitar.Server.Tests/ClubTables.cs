namespace Jovitar.Server.Tests;

/// <summary>What the tables say of what people made, and what must hold of them.</summary>
internal static class ClubTables
{
    /// <summary>All that people made and can see, written out: what is in the bin counts only where photos are, and places count as an order.</summary>
    public const string State =
        """
        select string_agg(line, E'\n' order by line) from (
          select 'photo ' || p.id || ' ' || jsonb_build_array(p.title, p.caption, p.alt, p.credit, p.rating, p.decision, p.said, p.tag_words, p.binned is not null,
                   p.people, p.clearance, p.cleared_by, p.cleared_until, p.people_say, p.people_until, p.place, p.link, p.taken, p.taken_offset_minutes, p.latitude, p.longitude)
            from photo as p
          union all
          select 'person ' || o.id || ' ' || jsonb_build_array(o.name, o.says, o.until, o.said_by) from person as o where o.struck is null
          union all
          select 'site '::text || jsonb_build_array(s.clearance_needed) from site as s
          union all
          select 'tag ' || t.id || ' ' || t.name from tag as t where t.binned is null
          union all
          select 'category ' || c.id || ' ' || jsonb_build_array(c.name, c.parent, rank() over (partition by c.parent order by c.place), c.shown, c.address, c.cover, c.beneath, c.sort,
                   c.audience, c.seen_from, c.seen_until, c.chosen, c.unmarked, c.unmarked_for)
            from category as c where c.binned is null
          union all
          select 'album ' || a.id || ' ' || jsonb_build_array(a.working_name, a.title, a.description, a.cover, a.address, a.dated, a.shown, a.put_first,
                   a.audience, a.seen_from, a.seen_until, a.chosen, a.unmarked, a.unmarked_for)
            from album as a where a.binned is null
          union all
          select 'stands in ' || ac.album || ' ' || ac.category || ' ' || ac.put_first from album_category as ac
          union all
          select 'album tagged ' || at.album || ' ' || at.tag from album_tag as at
          union all
          select 'page ' || g.id || ' ' || jsonb_build_array(g.album, g.address, g.draft, g.published, g.audience, g.seen_from, g.seen_until, g.chosen)
            from page as g where g.binned is null
          union all
          select 'in album ' || ap.album || ' ' || jsonb_agg(ap.photo order by ap.place, ap.photo) from album_photo as ap group by ap.album
          union all
          select 'tagged ' || pt.photo || ' ' || pt.tag || ' ' || pt.said_by from photo_tag as pt
          union all
          select 'categorised ' || pc.photo || ' ' || pc.category || ' ' || pc.said_by from photo_category as pc) as s(line)
        """;

    /// <summary>What must hold of the tables at any time; each row found is a fault.</summary>
    public const string Faults =
        """
        select string_agg(fault, E'\n') from (
          select 'a link to something in the bin: ' || ap.album || ' ' || ap.photo
            from album_photo as ap join album as a on a.id = ap.album join photo as p on p.id = ap.photo
           where a.binned is not null or p.binned is not null
          union all
          select 'a tag on or in the bin: ' || pt.photo || ' ' || pt.tag
            from photo_tag as pt join tag as t on t.id = pt.tag join photo as p on p.id = pt.photo
           where t.binned is not null or p.binned is not null
          union all
          select 'a category on or in the bin: ' || pc.photo || ' ' || pc.category
            from photo_category as pc join category as c on c.id = pc.category join photo as p on p.id = pc.photo
           where c.binned is not null or p.binned is not null
          union all
          select 'an album or category of the shelf in the bin: ' || ac.album || ' ' || ac.category
            from album_category as ac join album as a on a.id = ac.album join category as c on c.id = ac.category
           where a.binned is not null or c.binned is not null
          union all
          select 'in view or out of it, and noted otherwise: ' || c.id
            from category as c
           where c.in_view <> (c.id in (
             with recursive seen as (
               select id from category where parent is null and shown and binned is null
               union
               select b.id from category as b join seen as s on b.parent = s.id where b.shown and b.binned is null)
             select id from seen))
          union all
          select 'gates that are not its own and of those above it: ' || c.id
            from category as c
           where array(select g from unnest(c.gates) as g order by g) <> array(
             with recursive above as (
               select id, parent, is_gate from category where id = c.id
               union
               select b.id, b.parent, b.is_gate from category as b join above as a on b.id = a.parent)
             select id from above where is_gate order by id)
          union all
          select 'marks that are not its own and of those above it: ' || c.id
            from category as c
           where array(select m from unnest(c.marks) as m order by m) <> array(
             with recursive above as (
               select id, parent, unmarked from category where id = c.id
               union
               select b.id, b.parent, b.unmarked from category as b join above as a on b.id = a.parent)
             select id from above where unmarked <> 'Everyone' order by id)
          union all
          select 'held though both ends are here: ' || h.kind || ' ' || h.thing || ' ' || h.other
            from held as h
           where h.kind = 'album_photo' and exists (select from album as a where a.id = h.thing and a.binned is null)
             and exists (select from photo as p where p.id = h.other and p.binned is null)
          union all
          select 'words of tags that are not its tags: ' || p.id
            from photo as p
           where p.tag_words <> coalesce((select string_agg(t.name, ' ' order by t.key) from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id), '')
          union all
          select 'what is noted of those whom it shows is not what they say: ' || p.id
            from photo as p
            left join lateral photo_people_say(p.people) as s on p.people <> '{}'
           where (p.people_say, p.people_until) is distinct from (coalesce(s.say, ''), s.until)
          union all
          select 'a cover in the bin: ' || a.id
            from (select id, cover, binned from album union all select id, cover, binned from category) as a join photo as p on p.id = a.cover
           where p.binned is not null and a.binned is null
          union all
          select 'visitors'' things of a page they do not have: ' || g.id from page as g join page_thing as pt on pt.page = g.id and pt.live where g.published is null
          union all
          select 'an album shown that the draft does not name: ' || g.id from page as g join page_thing as pt on pt.page = g.id and not pt.live and pt.kind = 'album'
           where g.draft::text not like '%' || pt.thing || '%' and g.draft ? 'schema'
          union all
          select 'beneath a category in the bin: ' || c.id from category as c join category as above on above.id = c.parent where c.binned is null and above.binned is not null
          union all
          select 'in the bin and not listed in it, or the other way round: ' || x.id
            from (select id, binned from photo union all select id, binned from album union all select id, binned from category union all select id, binned from tag union all select id, binned from page) as x(id, binned)
           where (x.binned is not null) <> exists (select from bin as b where b.thing = x.id)) as f(fault)
        """;
}
