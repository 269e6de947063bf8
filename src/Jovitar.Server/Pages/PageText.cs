using System.Text.Json;
using System.Text.Json.Serialization;
using Jovitar.Core;
using Jovitar.Core.Layout;
using Jovitar.Core.Pages;
using Jovitar.Core.Themes;
using Jovitar.Server.Platform;

namespace Jovitar.Server.Pages;

/// <summary>What is set on pages, as it is kept.</summary>
internal static class PageText
{
    static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new BarText(), new TypedIdConverters(), new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        // The database keeps the fields of an object in an order of its own.
        AllowOutOfOrderMetadataProperties = true,
    };

    /// <summary>Filter bars; up to the sixth form one was a list of categories and one of tags.</summary>
    sealed class BarText : JsonConverter<BarSettings>
    {
        sealed record Before(IReadOnlyList<CategoryId> Categories, IReadOnlyList<TagId> Tags);

        static readonly JsonSerializerOptions Plain = new(JsonSerializerDefaults.Web) { Converters = { new TypedIdConverters(), new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

        public override BarSettings Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            var bar = JsonElement.ParseValue(ref reader);
            if (bar.TryGetProperty("groups", out _))
            {
                var now = bar.Deserialize<BarSettings>(Plain)!;
                return (now with { Search = now.Search ?? BarSearch.None, Orders = now.Orders ?? [] }).Whole();
            }

            var before = bar.Deserialize<Before>(Plain)!;
            return BarSettings.Of(before.Categories, before.Tags);
        }

        public override void Write(Utf8JsonWriter writer, BarSettings value, JsonSerializerOptions options) => JsonSerializer.Serialize(writer, value, Plain);
    }

    /// <summary>The blocks of a page of the first form have the same names whenever it is read.</summary>
    static readonly BlockId[] Firsts = [.. Enumerable.Range(1, 3).Select(n => new BlockId(new Guid(n, 0, 0, new byte[8])))];

    /// <summary>The first form: one heading, one text, the photos of the page's album.</summary>
    sealed record First(string? Heading, string? Text, LayoutSettings? Layout, IReadOnlyList<CategoryId>? FilterCategories, IReadOnlyList<TagId>? FilterTags);

    public static string Write(PageContent content) => JsonSerializer.Serialize(content, Json);

    /// <summary>Reads what is kept of a page, whatever form it was written in.</summary>
    /// <param name="album">The album it was made for, whose photos a page of the first form shows.</param>
    public static PageContent Read(string json, AlbumId? album)
    {
        using var document = JsonDocument.Parse(json);
        return document.RootElement.TryGetProperty("schema", out _) ? Whole(document.Deserialize<PageContent>(Json)!) : Upgraded(document.Deserialize<First>(Json)!, album);
    }

    public static string Write(Block block) => JsonSerializer.Serialize(block, Json);

    /// <summary>Reads a block that is kept by itself, whatever form it was written in.</summary>
    public static Block ReadBlock(string json) => Whole(JsonSerializer.Deserialize<Block>(json, Json)!);

    public static string WriteMenu(IReadOnlyList<MenuEntry> entries) => JsonSerializer.Serialize(entries, Json);

    public static IReadOnlyList<MenuEntry> ReadMenu(string json) => JsonSerializer.Deserialize<IReadOnlyList<MenuEntry>>(json, Json)!;

    static PageContent Upgraded(First first, AlbumId? album)
    {
        var layout = first.Layout ?? new LayoutSettings(LayoutKind.Rows, 240, 6);
        return PageContent.Made(
            first.Heading ?? "", "",
            [
                new HeadingBlock(Firsts[0], BlockFrame.Usual, "", HeadingSize.Large),
                .. string.IsNullOrWhiteSpace(first.Text) ? (Block[])[] : [new TextBlock(Firsts[1], BlockFrame.Usual, first.Text)],
                new PhotosBlock(
                    Firsts[2], BlockFrame.Usual, PhotosSource.Of(album is { } id ? [id] : []), BlockLayout.Of(layout.Kind, layout.Size, layout.Gap),
                    BarSettings.Of(first.FilterCategories ?? [], first.FilterTags ?? []), Absent.None, More.Usual, PressSettings.Usual, FrameWords.Usual, FrameTouch.Usual),
            ]);
    }

    /// <summary>Nothing is missing and nothing named twice: what a field or a list was not written for yet is as usual, and things that were merged are one.</summary>
    static PageContent Whole(PageContent page) => page with { Description = page.Description ?? "", Look = page.Look ?? LookChange.None, Blocks = [.. page.Blocks.Select(Whole)] };

    /// <summary>Of the second form there were rows, columns and a grid.</summary>
    static BlockLayout Whole(BlockLayout layout)
    {
        var usual = BlockLayout.Usual;
        return layout with
        {
            Cells = layout.Cells ?? usual.Cells,
            Mosaic = layout.Mosaic ?? usual.Mosaic,
            Large = layout.Large ?? usual.Large,
            List = layout.List ?? usual.List,
            Strip = layout.Strip ?? usual.Strip,
            Along = layout.Along ?? usual.Along,
            Slides = layout.Slides ?? usual.Slides,
        };
    }

    static Absent Whole(Absent absent) => new([.. absent.Phone.Distinct()], [.. absent.Tablet.Distinct()], [.. absent.Desktop.Distinct()]);

    static Block Whole(Block block)
    {
        var frame = block.Frame ?? BlockFrame.Usual;
        var framed = block with { Frame = frame with { Ground = frame.Ground ?? Ground.None, Look = frame.Look ?? LookChange.None } };
        return framed switch
        {
            PhotosBlock photos => photos with
            {
                Source = photos.Source with { Albums = [.. photos.Source.Albums.Distinct()], Photos = [.. photos.Source.Photos.Distinct()] },
                Layout = Whole(photos.Layout),
                Absent = Whole(photos.Absent ?? Absent.None),
                More = photos.More ?? More.Usual,
                Press = photos.Press ?? PressSettings.Usual,
                Words = photos.Words ?? FrameWords.Usual,
                Touch = photos.Touch ?? FrameTouch.Usual,
            },
            FilesBlock files => files with { Files = [.. files.Files.DistinctBy(f => f.File)] },
            IndexBlock index => index with { Albums = [.. index.Albums.Distinct()] },
            BesideBlock beside => beside with { Blocks = [.. beside.Blocks.Select(Whole)] },
            _ => framed,
        };
    }
}
