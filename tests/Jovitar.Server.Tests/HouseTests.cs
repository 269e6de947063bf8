using System.Text.RegularExpressions;

namespace Jovitar.Server.Tests;

/// <summary>The shape of the house, read out of the source.</summary>
public sealed partial class HouseTests
{
    /// <summary>Each area knows only those before it.</summary>
    static readonly string[] Areas = ["Platform", "Acts", "Access", "People", "Opening", "Themes", "Watermarks", "Narrowings", "Taxonomy", "Photos", "Clearance", "Files", "Albums", "Corrections", "Describing", "Pages", "Starters", "Sales", "Bins", "Intake", "Contributions", "Visits", "Records", "Comments", "Favourites", "PersonalData", "Site", "Desk", "Demo", "Verify"];

    /// <summary>Tables whose changes are acts.</summary>
    const string Tracked = "photo|tag|category|album|page|file|intake|narrowing|price_list|menu|theme|watermark|site|person|comment|photo_tag|photo_category|album_photo|album_without|album_file|photo_near";

    static IEnumerable<(string Area, string Name, string Text)> Sources()
    {
        var server = Path.Combine(ServerProcess.Root(), "src", "Jovitar.Server");
        return Areas.SelectMany(area => Directory.GetFiles(Path.Combine(server, area), "*.*", SearchOption.AllDirectories)
            .Where(f => f.EndsWith(".cs", StringComparison.Ordinal) || f.EndsWith(".razor", StringComparison.Ordinal)).Select(f => (area, Path.GetFileName(f), File.ReadAllText(f))));
    }

    [Fact]
    public void Arrows_between_areas_run_one_way()
    {
        var server = Path.Combine(ServerProcess.Root(), "src", "Jovitar.Server");
        Assert.Equal(Areas.Order(), Directory.GetDirectories(server).Select(Path.GetFileName).Where(d => d is not ("bin" or "obj" or "wwwroot" or "Migrations" or "Properties")).Order());
        var wrong = Sources().SelectMany(s => Named().Matches(s.Text).Select(m => m.Groups[1].Value).Where(named => Array.IndexOf(Areas, named) > Array.IndexOf(Areas, s.Area)).Distinct().Select(named => $"{s.Area}/{s.Name} knows {named}")).ToArray();
        Assert.True(wrong.Length == 0, string.Join('\n', wrong));
    }

    /// <summary>What writes a tracked table has an act to write it in: the database refuses it otherwise, and here it is seen before it runs.</summary>
    [Fact]
    public void Whatever_writes_a_tracked_table_holds_an_act()
    {
        var wrong = Sources()
            .SelectMany(s => Writes().Matches(s.Text).Select(m => (s, m)))
            .Where(w => !Technical().IsMatch(w.m.Value) && !w.s.Text.Contains("Act act", StringComparison.Ordinal) && !w.s.Text.Contains("act =>", StringComparison.Ordinal))
            .Select(w => $"{w.s.Area}/{w.s.Name}: {w.m.Value[..Math.Min(80, w.m.Value.Length)]}").ToArray();
        Assert.True(wrong.Length == 0, string.Join('\n', wrong));
    }

    [Fact]
    public void SQL_reads_like_SQL()
    {
        var wide = new List<string>();
        foreach (var (area, name, text) in Sources())
        {
            var inside = false;
            foreach (var (line, number) in text.Split('\n').Select((line, i) => (line, i + 1)))
            {
                var quotes = Quotes().Count(line);
                if ((inside && quotes == 0 && line.Length > 140) || (quotes == 0 && OneLine().Match(line) is { Success: true, Length: > 140 }))
                {
                    wide.Add($"{area}/{name}:{number} {line.Length}");
                }

                inside ^= quotes % 2 == 1;
            }
        }

        Assert.True(wide.Count == 0, string.Join('\n', wide));
    }

    /// <summary>Where bytes lie is known in the storage alone. The others that touch a disk read what is not in it: the demo's scenario, folders that are watched, the built scripts.</summary>
    [Fact]
    public void Nothing_but_the_storage_knows_where_bytes_lie()
    {
        string[] others = ["DemoLoader.cs", "WatchedFolderWorker.cs", "WatchedFolderEndpoints.cs", "SiteAssets.cs"];
        var touch = Sources().Where(s => s.Name != "Storage.cs" && !others.Contains(s.Name) && Disk().IsMatch(s.Text)).Select(s => $"{s.Area}/{s.Name}");
        Assert.Empty(touch);
    }

    /// <summary>Who may see is decided in Core: no SQL text and no script asks the states that the decision rests on in order to show something to visitors.</summary>
    [Fact]
    public void Nothing_but_the_decision_says_what_visitors_see()
    {
        var decides = Sources().Where(s => s.Area is "Site" && (s.Text.Contains("'ready'", StringComparison.Ordinal) || s.Text.Contains("leave_out", StringComparison.Ordinal))).Select(s => s.Name);
        Assert.Empty(decides);
        var site = Path.Combine(ServerProcess.Root(), "web", "src", "site");
        Assert.DoesNotContain(Directory.GetFiles(site, "*.ts*"), f => File.ReadAllText(f).Contains("leave_out", StringComparison.Ordinal));
    }

    [GeneratedRegex(@"\b(File\.(Exists|Open|Read|Write|Delete|Move|Create)|FileStream\(|FileInfo\(|DirectoryInfo\(|Directory\.|PhysicalFile|Path\.Combine)")]
    private static partial Regex Disk();

    [GeneratedRegex(@"\bJovitar\.Server\.(\w+)")]
    private static partial Regex Named();

    [GeneratedRegex($@"\b(?:insert into|update|delete from) (?:{Tracked})\b(?! set (?:claimed_until|wanted|stage))[^""]{{0,200}}")]
    private static partial Regex Writes();

    /// <summary>Columns that only workers write, and what visitors do.</summary>
    [GeneratedRegex(@"^update (?:photo\b(?: as p)?\s+set (?:claimed_until|wanted|stage)|page\s+set version = version \+ 1|intake\s+set watched|site\s+set (?:version = version \+ 1|first_hour))|^insert into comment ")]
    private static partial Regex Technical();

    [GeneratedRegex("\"\"\"")]
    private static partial Regex Quotes();

    [GeneratedRegex(@"""(?:select|insert|update|delete) [^""]*""")]
    private static partial Regex OneLine();
}
