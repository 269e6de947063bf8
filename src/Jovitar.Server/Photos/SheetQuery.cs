using System.ComponentModel;
using Jovitar.Core;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Jovitar.Server.Photos;

/// <summary>What a sheet is sorted by.</summary>
internal enum SheetSort
{
    Taken,
    Arrived,
    Name,

    /// <summary>The order made by hand in an album.</summary>
    Place,
}

/// <summary>Which photos a sheet shows, and in which order.</summary>
internal sealed record SheetQuery
{
    [Description("Words to look for in title, caption, file name and tags.")]
    [FromQuery(Name = "q")]
    public string? Q { get; init; }
    [FromQuery(Name = "album")]
    public AlbumId? Album { get; init; }
    [FromQuery(Name = "tag")]
    public TagId? Tag { get; init; }
    [Description("Only photos that an intake brought.")]
    [FromQuery(Name = "intake")]
    public IntakeId? Intake { get; init; }
    [FromQuery(Name = "category")]
    public CategoryId? Category { get; init; }

    [Description("Only photos that lack something: title, alt, album or tag; or use, for those left out everywhere.")]
    [FromQuery(Name = "without")]
    public string? Without { get; init; }
    [Description("What the sheet is sorted by: taken, arrived, name, or, in an album, place. Anything else means taken.")]
    [FromQuery(Name = "sort")]
    public string? Sort { get; init; }
    [FromQuery(Name = "reversed")]
    public bool? Reversed { get; init; }
}

/// <summary>A query turned to SQL. All of it is fixed text; values travel as parameters.</summary>
internal sealed class SheetSql
{
    readonly List<(string, object?)> parameters = [];

    public SheetSql(SheetQuery query)
    {
        // What lies in the bin stands on no sheet.
        var where = new List<string> { "p.state <> 'binned'" };
        var from = "photo as p";
        var sort = Enum.TryParse<SheetSort>(query.Sort, ignoreCase: true, out var named) && Enum.IsDefined(named) ? named : SheetSort.Taken;
        if (query.Album is { } album)
        {
            from = "album_photo as ap join photo as p on p.id = ap.photo";
            where.Add("ap.album = @album");
            parameters.Add(("album", album.Value));
        }
        else if (sort == SheetSort.Place)
        {
            sort = SheetSort.Taken;
        }

        foreach (var word in (query.Q ?? "").ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(8))
        {
            where.Add($"p.search like @word{parameters.Count}");
            parameters.Add(($"word{parameters.Count}", $"%{word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%"));
        }

        if (query.Tag is { } tag)
        {
            where.Add("exists (select from photo_tag as pt where pt.photo = p.id and pt.tag = @tag)");
            parameters.Add(("tag", tag.Value));
        }

        if (query.Intake is { } intake)
        {
            where.Add("p.id in (select f.photo from intake_file as f where f.intake = @intake and f.photo is not null)");
            parameters.Add(("intake", intake.Value));
        }

        if (query.Category is { } category)
        {
            where.Add("""
                p.id in (
                  with recursive beneath as (
                    select id from category where id = @category
                    union all
                    select c.id from category as c join beneath as b on c.parent = b.id)
                  select pc.photo from photo_category as pc join beneath as b on b.id = pc.category)
                """);
            parameters.Add(("category", category.Value));
        }

        where.AddRange(query.Without switch
        {
            "title" => ["p.title = ''"],
            "alt" => ["p.alt = ''"],
            "album" => ["not exists (select from album_photo as a where a.photo = p.id)"],
            "tag" => ["not exists (select from photo_tag as t where t.photo = p.id)"],
            "use" => ["p.decision = 'leave_out'"],
            _ => (string[])[],
        });
        (Column, Type) = sort switch
        {
            SheetSort.Arrived => ("p.arrived", "timestamptz"),
            SheetSort.Name => ("p.sort_name", "text"),
            SheetSort.Place => ("ap.place", "int"),
            _ => ("p.sort_taken", "timestamp"),
        };
        // Newest first is how an evening's work is found; names and hand-made orders run forward.
        Down = (sort is SheetSort.Taken or SheetSort.Arrived) != (query.Reversed ?? false);
        From = from;
        Where = where.Count == 0 ? "true" : string.Join(" and ", where);
    }

    public string From { get; }

    public string Where { get; }

    /// <summary>The column of the order; the photo's id settles ties.</summary>
    public string Column { get; }

    /// <summary>The column's type, for keys that travel as text.</summary>
    public string Type { get; }

    public bool Down { get; }

    public string Order => Down ? $"{Column} desc, p.id desc" : $"{Column}, p.id";

    public string Backwards => Down ? $"{Column}, p.id" : $"{Column} desc, p.id desc";

    /// <summary>The condition that a row stands at or after a key (or strictly before, at or before, after).</summary>
    public string Compared(string sign, string key, string id)
    {
        var turned = !Down ? sign : sign.Replace('>', '#').Replace('<', '>').Replace('#', '<');
        return $"({Column}, p.id) {turned} ({key}::{Type}, {id})";
    }

    public NpgsqlCommand Fill(NpgsqlCommand command)
    {
        foreach (var (name, value) in parameters)
        {
            command.Parameters.AddWithValue(name, value!);
        }

        return command;
    }
}

/// <summary>Where a row stands in an order: the sorted value as text and the photo's id.</summary>
internal readonly record struct SheetKey(string Value, Guid Id)
{
    public static SheetKey? Read(string? text)
    {
        var cut = text?.LastIndexOf('~') ?? -1;
        return cut >= 0 && Guid.TryParse(text.AsSpan(cut + 1), out var id) ? new SheetKey(text![..cut], id) : null;
    }

    public override string ToString() => $"{Value}~{Id}";
}
