using System.ComponentModel;
using System.Globalization;
using System.Text.RegularExpressions;
using Jovitar.Core;
using Jovitar.Server.Platform;
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
        var where = new List<string> { "p.binned is null" };
        var from = "photo as p";
        var sort = SortOf(query);
        if (query.Album is { } album)
        {
            from = "album_photo as ap join photo as p on p.id = ap.photo";
            where.Add("ap.album = @album");
            parameters.Add(("album", album.Value));
        }

        foreach (var word in (query.Q ?? "").ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(8))
        {
            where.Add($"p.search like @word{parameters.Count}");
            parameters.Add(($"word{parameters.Count}", $"%{Database.LikeText(word)}%"));
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
                    union
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
            SheetSort.Place => ("ap.place", "bigint"),
            _ => ("p.sort_taken", "timestamp"),
        };
        // Newest first is how an evening's work is found; names and hand-made orders run forward.
        Down = (sort is SheetSort.Taken or SheetSort.Arrived) != (query.Reversed ?? false);
        From = from;
        Where = string.Join(" and ", where);
    }

    /// <summary>What a query is sorted by; the order made by hand only exists in an album.</summary>
    public static SheetSort SortOf(SheetQuery query) =>
        Enum.TryParse<SheetSort>(query.Sort, ignoreCase: true, out var named) && Enum.IsDefined(named) && (named != SheetSort.Place || query.Album is not null) ? named : SheetSort.Taken;

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
internal readonly partial record struct SheetKey(string Value, Guid Id)
{
    /// <summary>Reads a key of a query's order; null for the beginning.</summary>
    /// <returns>False when it cannot be one of this order.</returns>
    public static bool Read(SheetQuery query, string? text, out SheetKey? key)
    {
        key = null;
        if (text is null)
        {
            return true;
        }

        var cut = text.LastIndexOf('~');
        if (cut < 0 || !Guid.TryParse(text.AsSpan(cut + 1), out var id))
        {
            return false;
        }

        key = new SheetKey(text[..cut], id);
        return SheetSql.SortOf(query) switch
        {
            SheetSort.Name => true,
            SheetSort.Place => long.TryParse(key.Value.Value, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out _),
            _ => Times().IsMatch(key.Value.Value) && DateTime.TryParse(key.Value.Value, CultureInfo.InvariantCulture, DateTimeStyles.None, out _),
        };
    }

    public override string ToString() => $"{Value}~{Id}";

    /// <summary>A time as PostgreSQL writes it (ISO 8601 with a blank).</summary>
    [GeneratedRegex(@"^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d(\.\d{1,6})?([+-]\d\d(:\d\d)?)?$")]
    private static partial Regex Times();
}
