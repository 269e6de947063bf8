using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Jovitar.Core.Themes;

namespace Jovitar.Server.Site;

/// <summary>The names that the build gave to scripts and styles, from its manifest.</summary>
public sealed class SiteAssets
{
    /// <summary>Of each family the file with the letters of western languages.</summary>
    readonly string[] fonts;

    readonly Dictionary<string, long> fontBytes;
    readonly long codeBytes;

    public SiteAssets(IWebHostEnvironment environment)
    {
        var path = Path.Combine(environment.WebRootPath ?? "", "assets", ".vite", "manifest.json");
        if (!File.Exists(path))
        {
            throw new InvalidOperationException($"The web part is not built: {path} is missing. Run ./start, which builds it.");
        }

        var bytes = File.ReadAllBytes(path);
        using var manifest = JsonDocument.Parse(bytes);
        Version = Convert.ToHexStringLower(SHA256.HashData(bytes))[..8];
        (SiteScript, SiteStyles) = Entry(manifest.RootElement, "src/site/main.ts");
        fonts = [.. manifest.RootElement.GetProperty("src/site/main.ts").GetProperty("assets").EnumerateArray().Select(a => $"/assets/{a.GetString()}").Where(a => a.Contains("-latin-wght-", StringComparison.Ordinal))];
        codeBytes = SiteStyles.Append(SiteScript).Sum(f => Compressed(Read(environment, f)));
        // Fonts are compressed already.
        fontBytes = fonts.ToDictionary(f => f, f => Read(environment, f).LongLength);
        EmbedScript = Read(environment, Entry(manifest.RootElement, "src/site/embedding.ts").Script);
        (ShopScript, var shop) = Entry(manifest.RootElement, "src/site/shop.ts");
        ShopStyles = [.. shop.Except(SiteStyles)];
        (WorkroomScript, WorkroomStyles) = Entry(manifest.RootElement, "src/workroom/main.tsx");
    }

    /// <summary>Changes with any change of scripts or styles.</summary>
    public string Version { get; }

    public string SiteScript { get; }

    public IReadOnlyList<string> SiteStyles { get; }

    /// <summary>The fonts that a page set in some families needs at once.</summary>
    public IEnumerable<string> FontsOf(IEnumerable<TypeFamily> families) =>
        families.Distinct().Select(f => fonts.FirstOrDefault(a => a.StartsWith($"/assets/{f.Face().Slug}-", StringComparison.Ordinal))).OfType<string>();

    /// <summary>Bytes of the script, the styles and the fonts that a visitor's first page needs, compressed, if it is set in some families.</summary>
    public long BytesOf(IEnumerable<TypeFamily> families) => codeBytes + FontsOf(families).Sum(f => fontBytes[f]);

    /// <summary>What other websites load beside an embed.</summary>
    public byte[] EmbedScript { get; }

    /// <summary>What the pages have besides on which visitors buy; other visitors do not fetch it.</summary>
    public string ShopScript { get; }

    /// <inheritdoc cref="ShopScript"/>
    public IReadOnlyList<string> ShopStyles { get; }

    public string WorkroomScript { get; }

    public IReadOnlyList<string> WorkroomStyles { get; }

    /// <summary>The one document of the workroom; its script does the rest.</summary>
    public string WorkroomHtml => new StringBuilder()
        .Append("<!DOCTYPE html><html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width, initial-scale=1\"><title>Workroom</title><link rel=\"icon\" href=\"/assets/mark.svg\" type=\"image/svg+xml\">")
        .AppendJoin("", WorkroomStyles.Select(s => $"<link rel=\"stylesheet\" href=\"{s}\">"))
        .Append("<script type=\"module\" src=\"").Append(WorkroomScript).Append("\"></script></head><body><div id=\"workroom\"></div><noscript>The workroom needs JavaScript. The site itself works without.</noscript></body></html>")
        .ToString();

    static byte[] Read(IWebHostEnvironment environment, string address) => File.ReadAllBytes(Path.Combine(environment.WebRootPath, address.TrimStart('/')));

    static long Compressed(byte[] bytes)
    {
        var small = new byte[BrotliEncoder.GetMaxCompressedLength(bytes.Length)];
        return BrotliEncoder.TryCompress(bytes, small, out var length, quality: 1, window: 22) ? length : bytes.Length;
    }

    static (string Script, IReadOnlyList<string> Styles) Entry(JsonElement manifest, string name)
    {
        var styles = new List<string>();
        void Gather(string key)
        {
            var part = manifest.GetProperty(key);
            if (part.TryGetProperty("imports", out var imports))
            {
                foreach (var import in imports.EnumerateArray())
                {
                    Gather(import.GetString()!);
                }
            }

            if (part.TryGetProperty("css", out var css))
            {
                styles.AddRange(css.EnumerateArray().Select(c => $"/assets/{c.GetString()}").Where(c => !styles.Contains(c)));
            }
        }

        Gather(name);
        return ($"/assets/{manifest.GetProperty(name).GetProperty("file").GetString()}", styles);
    }
}
