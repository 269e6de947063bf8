using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using NetVips;

namespace Jovitar.Server.Tests;

/// <summary>
/// Who said what of a photo: files, intakes and people say whatever the dice want, and every photo is compared with a record of
/// plain dictionaries in which each of them says and takes back only what is its own.
/// </summary>
public sealed class ProvenanceTests
{
    static readonly string[] Tags = ["dawn", "delta", "launch"];
    static readonly string[] Credits = ["", "Guild", "Ines Calloway"];

    /// <summary>What is known of one photo: each tag and category, and the credit, with who said it.</summary>
    sealed class Known(string name, string? credit, string[] tags)
    {
        public string Name { get; } = name;

        public string FileCredit { get; } = credit ?? "";

        public string[] FileTags { get; } = tags;

        public string? Id { get; set; }

        public SortedDictionary<string, string> Said { get; } = new(StringComparer.Ordinal);

        public (string Text, string By) Credit { get; set; } = ("", "nobody");

        public override string ToString() => $"{Name}: {string.Join(", ", Said.Select(s => $"{s.Key} by {s.Value}"))}; credit “{Credit.Text}” by {Credit.By}";
    }

    /// <summary>What is said of all that an intake brings, with what it has brought.</summary>
    sealed record Saying(string Id, List<Known> Photos)
    {
        public HashSet<string> Things { get; set; } = [];

        public string Credit { get; set; } = "";

        public string By => $"intake:{Id}";
    }

    /// <summary>A small JPEG whose XMP (ISO 16684-1) carries a credit and keywords.</summary>
    static byte[] Photo(int seed, Known known)
    {
        using var plain = Image.NewFromBuffer(Acts.Photo(seed, 90, 60));
        var subject = string.Concat(known.FileTags.Select(t => $"<rdf:li>{t}</rdf:li>"));
        var packet = $"""
            <x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about=""
              xmlns:photoshop="http://ns.adobe.com/photoshop/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/" photoshop:Credit="{known.FileCredit}">
              <dc:subject><rdf:Bag>{subject}</rdf:Bag></dc:subject></rdf:Description></rdf:RDF></x:xmpmeta>
            """;
        using var told = plain.Mutate(m => m.Set(GValue.BlobType, "xmp-data", Encoding.UTF8.GetBytes(packet)));
        return told.JpegsaveBuffer(q: 80);
    }

    /// <summary>A site at which they all speak, and the record of what they said.</summary>
    sealed class Talk(Site site, HttpClient owner, Random dice, Dictionary<string, string> categories)
    {
        readonly List<Saying> intakes = [];
        readonly List<Known> photos = [];
        public List<string> Told { get; } = [];

        T Any<T>(IReadOnlyList<T> list) => list[dice.Next(list.Count)];

        string[] Some(IEnumerable<string> all) => [.. all.Where(_ => dice.Next(3) == 0)];

        object About(HashSet<string> things, string credit) => new
        {
            album = (string?)null,
            categories = things.Where(categories.ContainsKey).Select(c => categories[c]).ToArray(),
            tags = things.Where(t => !categories.ContainsKey(t)).ToArray(),
            credit,
            copyright = "",
            licence = "",
            origin = "",
        };

        public async Task BeginAsync()
        {
            var (things, credit) = (Some([.. Tags, .. categories.Keys]).ToHashSet(), Any(Credits));
            var id = (await (await owner.PostAsJsonAsync("/api/intakes", new { about = About(things, credit) })).ReadAsync()).GetProperty("id").GetString()!;
            intakes.Add(new Saying(id, []) { Things = things, Credit = credit });
        }

        /// <summary>A photo arrives: a new one, or one that was here already.</summary>
        public async Task ArriveAsync()
        {
            var intake = Any(intakes);
            var again = photos.Count > 0 && dice.Next(2) == 0;
            var known = again ? Any(photos) : new Known($"p{photos.Count}", dice.Next(2) == 0 ? "The file's" : null, Some(Tags));
            Told.Add($"{known.Name} arrives in {intakes.IndexOf(intake)}{(again ? " again" : $" and says {string.Join(" ", known.FileTags)}, {known.FileCredit}")}");
            var number = again ? photos.IndexOf(known) : photos.Count;
            known.Id = (await owner.BringAsync(intake.Id, $"{known.Name}.jpg", Photo(number, known))).GetProperty("photo").GetString()!;
            await site.UntilAsync("select count(*) from photo where state <> 'ready'", 0);
            foreach (var thing in intake.Things)
            {
                known.Said.TryAdd(thing, intake.By);
            }

            if (known.Credit.Text == "" && intake.Credit != "")
            {
                known.Credit = (intake.Credit, intake.By);
            }

            if (!intake.Photos.Contains(known))
            {
                intake.Photos.Add(known);
            }

            if (again)
            {
                return;
            }

            photos.Add(known);
            foreach (var tag in known.FileTags)
            {
                known.Said[tag] = "file";
            }

            if (known.Credit.Text == "" && known.FileCredit != "")
            {
                known.Credit = (known.FileCredit, "file");
            }
        }

        /// <summary>Something else is said of an intake; who else says the same of a photo goes on saying it.</summary>
        public Task SayOtherwiseAsync() => SayAsync(Any(intakes), Some([.. Tags, .. categories.Keys]).ToHashSet(), Any(Credits));

        public async Task SayNothingMoreAsync()
        {
            foreach (var intake in intakes)
            {
                await SayAsync(intake, [], "");
            }
        }

        async Task SayAsync(Saying intake, HashSet<string> things, string credit)
        {
            Told.Add($"of {intakes.IndexOf(intake)} it is said: {string.Join(" ", things)}, {credit}");
            var answer = await (await owner.SendAsync(HttpMethod.Put, $"/api/intakes/{intake.Id}/about", About(things, credit))).ReadAsync();
            var (before, beforeCredit) = (intake.Things, intake.Credit);
            (intake.Things, intake.Credit) = (things, credit);
            foreach (var known in intake.Photos)
            {
                foreach (var gone in before.Except(things).Where(t => known.Said.GetValueOrDefault(t) == intake.By))
                {
                    known.Said.Remove(gone);
                    if (Others(intake, known).FirstOrDefault(o => o.Things.Contains(gone)) is { } other)
                    {
                        known.Said[gone] = other.By;
                    }
                }

                foreach (var more in things.Except(before))
                {
                    known.Said.TryAdd(more, intake.By);
                }

                if (credit != beforeCredit && (known.Credit.By == intake.By || (credit != "" && known.Credit.Text == "")))
                {
                    known.Credit = credit != "" ? (credit, intake.By)
                        : known.FileCredit != "" ? (known.FileCredit, "file")
                        : Others(intake, known).FirstOrDefault(o => o.Credit != "") is { } other ? (other.Credit, other.By)
                        : ("", "nobody");
                }
            }

            if (dice.Next(4) == 0 && answer.GetProperty("done").GetProperty("act").ValueKind == JsonValueKind.String)
            {
                // Taken back and done again, all stands as it stood.
                var now = await site.ScalarAsync<string>(All);
                await owner.UndoAsync(answer);
                var undo = await site.ScalarAsync<Guid>("select id from act order by made desc, id desc limit 1");
                await (await owner.PostAsync($"/api/acts/{undo}/undo", null)).ReadAsync();
                Assert.Equal(now, await site.ScalarAsync<string>(All));
            }
        }

        const string All = "select coalesce(string_agg(p.id || p.credit || p.tag_words || p.said, ',' order by p.id), '') from photo as p";

        IEnumerable<Saying> Others(Saying intake, Known known) => intakes.Where(o => o != intake && o.Photos.Contains(known));

        /// <summary>Somebody of the workroom says something of a few photos.</summary>
        public async Task PersonAsync()
        {
            var some = photos.Where(_ => dice.Next(2) == 0).ToArray();
            if (some.Length == 0)
            {
                return;
            }

            var ids = some.Select(p => p.Id).ToArray();
            var (on, off) = (Any(Tags), Any(Tags));
            var category = Any([.. categories.Keys]);
            switch (dice.Next(3))
            {
                case 0:
                    Told.Add($"a person tags {string.Join(" ", some.Select(p => p.Name))}: {on} instead of {off}");
                    var tag = (await (await owner.GetAsync("/api/tags")).ReadAsync()).GetProperty("tags").EnumerateArray().FirstOrDefault(t => t.GetProperty("name").GetString() == off);
                    var remove = tag.ValueKind == JsonValueKind.Undefined || on == off ? [] : new[] { tag.GetProperty("id").GetString()! };
                    await (await owner.PostAsJsonAsync("/api/photos/tags", new { photos = ids, add = new[] { on }, remove })).ReadAsync();
                    foreach (var known in some)
                    {
                        SaidByPerson(known, on);
                        if (remove.Length > 0)
                        {
                            known.Said.Remove(off);
                        }
                    }

                    break;
                case 1:
                    var puts = dice.Next(2) == 0;
                    Told.Add($"a person {(puts ? "puts in" : "takes out of")} {category}: {string.Join(" ", some.Select(p => p.Name))}");
                    var (add, take) = puts ? ((string[])[categories[category]], (string[])[]) : ([], [categories[category]]);
                    await (await owner.PostAsJsonAsync("/api/photos/categories", new { photos = ids, add, remove = take })).ReadAsync();
                    foreach (var known in some)
                    {
                        if (puts)
                        {
                            SaidByPerson(known, category);
                        }
                        else
                        {
                            known.Said.Remove(category);
                        }
                    }

                    break;
                default:
                    var credit = Any([.. Credits, "Somebody typed this"]);
                    Told.Add($"a person credits {some[0].Name}: {credit}");
                    var version = (await (await owner.GetAsync($"/api/photos/{ids[0]}")).ReadAsync()).GetProperty("version").GetInt64();
                    await (await owner.SendAsync(HttpMethod.Patch, $"/api/photos/{ids[0]}", new { credit }, version)).ReadAsync();
                    some[0].Credit = (credit, "person");
                    break;
            }
        }

        /// <summary>What a person says is the person's, whoever of the intakes had said it before; what the file says stays the file's.</summary>
        static void SaidByPerson(Known known, string thing) => known.Said[thing] = known.Said.GetValueOrDefault(thing) == "file" ? "file" : "person";

        /// <summary>Every photo as the tables have it is every photo as it was told.</summary>
        public async Task CompareAsync()
        {
            await using var read = site.Db.CreateCommand(
                """
                select p.file_name, p.credit, coalesce(p.said ->> 'credit', 'nobody'),
                       (select coalesce(jsonb_object_agg(s.name, s.by), '{}')
                          from (select t.name, pt.said_by from photo_tag as pt join tag as t on t.id = pt.tag where pt.photo = p.id
                                union all
                                select c.name, pc.said_by from photo_category as pc join category as c on c.id = pc.category where pc.photo = p.id) as s(name, by))::text
                  from photo as p
                 order by p.id
                """);
            await using var rows = await read.ExecuteReaderAsync();
            foreach (var known in photos)
            {
                Assert.True(await rows.ReadAsync(), $"{known.Name} is gone");
                var there = new Known(Path.GetFileNameWithoutExtension(rows.GetString(0)), null, []) { Credit = (rows.GetString(1), rows.GetString(2)) };
                foreach (var (name, by) in JsonSerializer.Deserialize<Dictionary<string, string>>(rows.GetString(3))!)
                {
                    there.Said[name] = by;
                }

                Assert.True(known.ToString() == there.ToString(), $"Told:\n{string.Join("\n", Told)}\nwanted {known}\nfound  {there}");
            }
        }
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public async Task Files_intakes_and_people_each_take_back_only_what_they_said(int seed)
    {
        await using var site = await Site.StartAsync(workers: 1);
        var owner = await site.OwnerAsync();
        var categories = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var name in (string[])["Boats", "Races"])
        {
            categories[name] = (await (await owner.PostAsJsonAsync("/api/categories", new { name, parent = (string?)null })).ReadAsync()).GetProperty("id").GetString()!;
        }

        var dice = new Random(seed);
        var talk = new Talk(site, owner, dice, categories);
        for (var i = 0; i < 3; i++)
        {
            await talk.BeginAsync();
        }

        for (var i = 0; i < 50; i++)
        {
            await (dice.Next(3) switch { 0 => talk.ArriveAsync(), 1 => talk.SayOtherwiseAsync(), _ => talk.PersonAsync() });
            await talk.CompareAsync();
        }

        // When no intake says anything any more, only what files and people say is left.
        await talk.SayNothingMoreAsync();
        await talk.CompareAsync();
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_tag where said_by like 'intake:%'"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo_category where said_by like 'intake:%'"));
        await site.VerifyAsync();
    }
}
