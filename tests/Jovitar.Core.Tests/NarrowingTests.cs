using CsCheck;
using Jovitar.Core.Narrowings;

namespace Jovitar.Core.Tests;

/// <summary>Narrowings, orders and counts over random libraries that change, against a naive evaluation photo by photo.</summary>
public sealed class NarrowingTests
{
    static Gen<T> Among<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    static readonly Guid[] Things = [.. Enumerable.Range(1, 6).Select(i => new Guid($"00000000-0000-7000-8000-{i:d12}"))];

    /// <summary>The second stands beneath the first, the third beneath the second, the fifth beneath the fourth.</summary>
    static readonly Dictionary<Guid, Guid?> Parents = new() { [Things[0]] = null, [Things[1]] = Things[0], [Things[2]] = Things[1], [Things[3]] = null, [Things[4]] = Things[3], [Things[5]] = null };

    static readonly string[] Titles = ["", "", "Pier at dusk", "Ångström's kite", "pier 2", "ŒUVRE, 100 %"];
    static readonly string[] Names = ["IMG_0001.jpg", "img_0002.JPG", "Dsc-77.tif", "scan.png"];

    /// <summary>Where intakes came from: two of them from one scanner.</summary>
    static readonly Dictionary<Guid, string> Sources = new()
    {
        [Things[0]] = "computer",
        [Things[1]] = "computer",
        [Things[2]] = "scanner:Attic",
        [Things[3]] = "scanner:Attic",
        [Things[4]] = "watched:Club, room 2",
        [Things[5]] = "sent",
    };

    static readonly Gen<Guid[]> Some = Gen.Int[0, 5].Array[0, 3].Select(all => all.Select(i => Things[i]).Distinct().ToArray());

    static readonly Gen<PhotoFacts> Facts =
        from id in Gen.Int[1, 60]
        from here in Gen.Int[0, 7]
        from taken in Gen.Int[-8, 900]
        from arrived in Gen.Int[0, 40]
        from name in Gen.Int[0, 3]
        from title in Gen.Int[0, 5]
        from flags in Gen.Int[0, 3]
        from rating in Gen.Int[0, 5]
        from views in Gen.Int[0, 4]
        from decision in Among("", "keep", "doubt", "leave_out")
        from clearance in Among("", "cleared", "not_cleared")
        from width in Among(800, 1600, 3000, 6000)
        from height in Among(800, 1600, 3000)
        from camera in Among("", "Corvid S", "Halyard, model 2")
        from tags in Some
        from categories in Some
        from albums in Some
        from intakes in Some
        from people in Among("Ines", "Odile, the elder", "Tam").Array[0, 2]
        from corrected in Among("cropped", "grey", "print").Array[0, 2]
        select new PhotoFacts(
            new Guid($"00000000-0000-7000-9000-{id:d12}"), here > 0, taken < 0 ? null : new DateTime(2024, 1, 1, 9, 0, 0, DateTimeKind.Unspecified).AddDays(taken), new DateTime(2026, 1, 1, 0, 0, 0, DateTimeKind.Unspecified).AddMinutes(arrived),
            Names[name], Titles[title], $"{Titles[title]} {Names[name]} {string.Join(' ', tags.Select(t => $"tag{Array.IndexOf(Things, t)}"))}", (flags & 1) != 0, (flags & 2) != 0, rating, decision, width, height, camera, "", 10 + id,
            tags, categories, albums, intakes, [.. people.Distinct()], [.. corrected.Distinct()])
        {
            Views = views,
            Clearance = clearance,
        };

    static readonly string[] Ids = [.. Things.Select(t => t.ToString()), Narrowing.None, "garbage"];

    static readonly Gen<NarrowingPart> Part =
        from kind in Among(Enum.GetValues<PartKind>().Where(k => k is not PartKind.Lens).ToArray())
        from not in Gen.Bool
        from choices in Among(kind switch
        {
            PartKind.Album or PartKind.Category or PartKind.Tag or PartKind.Intake => Ids,
            PartKind.Source => [.. Sources.Values.Distinct(), "scanner", Narrowing.None],
            PartKind.Taken => ["2024", "2025-02", "2024-03-05", "2024-02--2024-04-15", Narrowing.None, "2024-13", "2025--2024"],
            PartKind.People => ["Ines", "Odile, the elder", "ines", Narrowing.None],
            PartKind.Corrected => ["cropped", "grey", "print", "turned", Narrowing.None],
            PartKind.Camera => ["Corvid S", "Halyard, model 2", Narrowing.None, "corvid s"],
            PartKind.Rating => ["0", "3", "5", "6", "03"],
            PartKind.Decision => ["keep", "doubt", "leave_out", Narrowing.None],
            PartKind.Clearance => ["cleared", "not_cleared", Narrowing.None, "ended"],
            PartKind.Shape => [.. PictureShape.All, "round"],
            PartKind.Pixels => ["0-1599", "1600-2399", "6000-", "900-100", "x-2"],
            _ => ["title", "alt", "credit", "clearance", "sense"],
        }).Array[1, 3]
        select new NarrowingPart(kind, not, [.. choices.Distinct()]);

    static readonly Gen<Narrowing> Narrowings =
        from words in Among("", "", "", "pier", "PI", "angstrom", "img 0001", "dusk pier", "oeuvre", "%", "tag2", "zzz")
        from parts in Part.Array[0, 3]
        select new Narrowing(words, parts.DistinctBy(p => (p.Kind, p.Not)));

    /// <summary>What a part is said to mean, for one photo.</summary>
    static bool Fits(PhotoFacts p, NarrowingPart part) => part.Choices.Any(c => part.Kind switch
    {
        PartKind.Album => c == Narrowing.None ? p.Albums.Count == 0 : p.Albums.Any(a => a.ToString() == c),
        PartKind.Intake => c == Narrowing.None ? p.Intakes.Count == 0 : p.Intakes.Any(a => a.ToString() == c),
        PartKind.Source => c == Narrowing.None ? p.Intakes.Count == 0 : p.Intakes.Any(i => Sources[i] == c),
        PartKind.People => c == Narrowing.None ? p.People.Count == 0 : p.People.Contains(c),
        PartKind.Corrected => c == Narrowing.None ? p.Corrected.Count == 0 : p.Corrected.Contains(c),
        PartKind.Tag => c == Narrowing.None ? p.Tags.Count == 0 : p.Tags.Any(a => a.ToString() == c),
        PartKind.Category => c == Narrowing.None ? p.Categories.Count == 0 : p.Categories.Any(a => Above(a).Any(u => u.ToString() == c)),
        PartKind.Taken => p.Taken is not { } taken ? c == Narrowing.None : c switch
        {
            "2024" => taken.Year == 2024,
            "2025-02" => taken is { Year: 2025, Month: 2 },
            "2024-03-05" => taken.Date == new DateTime(2024, 3, 5, 0, 0, 0, DateTimeKind.Unspecified),
            "2024-02--2024-04-15" => taken.Year == 2024 && taken.DayOfYear >= 32 && taken.DayOfYear <= 31 + 29 + 31 + 15,
            _ => false,
        },
        PartKind.Camera => p.Camera.Length == 0 ? c == Narrowing.None : p.Camera == c,
        PartKind.Rating => c == $"{p.Rating}",
        PartKind.Decision => p.Decision.Length == 0 ? c == Narrowing.None : p.Decision == c,
        PartKind.Clearance => p.Clearance.Length == 0 ? c == Narrowing.None : p.Clearance == c,
        PartKind.Shape => PictureShape.Of(p.Width, p.Height) == c,
        PartKind.Pixels => c switch { "0-1599" => Math.Max(p.Width, p.Height) < 1600, "1600-2399" => Math.Max(p.Width, p.Height) is >= 1600 and < 2400, "6000-" => Math.Max(p.Width, p.Height) >= 6000, _ => false },
        _ => c switch { "title" => p.Title.Length == 0, "alt" => !p.HasAlt, "credit" => !p.HasCredit, "clearance" => p.Clearance.Length == 0, _ => false },
    });

    static IEnumerable<Guid> Above(Guid category)
    {
        for (Guid? at = category; at is { } id; at = Parents[id])
        {
            yield return id;
        }
    }

    /// <summary>Words by hand: what stands in the titles and names above, folded.</summary>
    static bool Says(PhotoFacts p, string words)
    {
        var said = p.Words.ToLowerInvariant().Replace("å", "a", StringComparison.Ordinal).Replace("ö", "o", StringComparison.Ordinal).Split([' ', '_', '.', '-', ',', '\'', '%'], StringSplitOptions.RemoveEmptyEntries);
        return words.ToLowerInvariant().Split([' ', '%'], StringSplitOptions.RemoveEmptyEntries).All(w => said.Any(s => s.StartsWith(w, StringComparison.Ordinal)));
    }

    static IEnumerable<PhotoFacts> Naive(IEnumerable<PhotoFacts> all, Narrowing n, bool inBin = false) => all.Where(p => p.Here != inBin && Says(p, n.Words) && n.Parts.All(part => Fits(p, part) != part.Not));

    static Comparison<PhotoFacts> By(SheetSort sort) => sort switch
    {
        SheetSort.Arrived => (a, b) => a.Arrived.CompareTo(b.Arrived),
        SheetSort.Name => (a, b) => string.CompareOrdinal(a.FileName.ToLowerInvariant(), b.FileName.ToLowerInvariant()),
        SheetSort.Rating => (a, b) => a.Rating.CompareTo(b.Rating),
        SheetSort.Views => (a, b) => a.Views.CompareTo(b.Views),
        SheetSort.Title => (a, b) => string.CompareOrdinal((a.Title.Length == 0 ? "\uffff" + a.FileName : a.Title).ToLowerInvariant(), (b.Title.Length == 0 ? "\uffff" + b.FileName : b.Title).ToLowerInvariant()),
        _ => (a, b) => a.SortTaken.CompareTo(b.SortTaken),
    };

    static (PhotoIndex Index, Dictionary<Guid, PhotoFacts> Told) Tell(IEnumerable<PhotoFacts> facts)
    {
        var (index, told) = (new PhotoIndex(), new Dictionary<Guid, PhotoFacts>());
        index.Tree(Parents);
        Assert.Equal(Sources.Keys.Order(), index.WithoutSource([.. Things, .. Things]).Order());
        index.Came(Sources);
        Assert.Empty(index.WithoutSource(Things));
        var n = 0;
        foreach (var photo in facts)
        {
            if (++n % 9 == 0 && told.Remove(photo.Id))
            {
                index.Remove(photo.Id);
                continue;
            }

            index.Set(photo);
            told[photo.Id] = photo;
            if (n % 5 == 0)
            {
                // Asked for in between, orders and outcomes that are kept must follow what comes later.
                index.Window(Narrowing.Nothing, SheetSort.Title, false, 0, 9);
                index.Window(new Narrowing("pier", []), SheetSort.Taken, false, 0, 9);
            }
        }

        return (index, told);
    }

    [Fact]
    public void Windows_standings_spans_and_totals_are_what_a_naive_evaluation_gives() =>
        Gen.Select(Facts.Array[0, 150], Narrowings, Among(SheetSort.Taken, SheetSort.Arrived, SheetSort.Name, SheetSort.Title, SheetSort.Rating, SheetSort.Views), Gen.Bool, Gen.Int[0, 50], Gen.Int[0, 50]).Sample(
            (facts, narrowing, sort, down, a, b) =>
            {
                var (index, told) = Tell(facts);
                var expected = Naive(told.Values, narrowing).ToList();
                var by = By(sort);
                expected.Sort((x, y) => (by(x, y) is not 0 and var c ? c : x.Id.CompareTo(y.Id)) * (down ? -1 : 1));
                var ids = expected.Select(p => p.Id).ToArray();
                Assert.Equal(ids.Length, index.Count(narrowing));
                Assert.Equal(told.Values.Sum(p => p.Bytes), index.Bytes);
                var window = index.Window(narrowing, sort, down, a, b);
                Assert.Equal(ids.Length, window.Total);
                Assert.Equal(ids.Skip(a).Take(b), window.Photos);
                if (ids.Length > 0)
                {
                    var (one, other) = (a % ids.Length, b % ids.Length);
                    Assert.Equal(new Standing(one > 0 ? ids[one - 1] : null, one + 1 < ids.Length ? ids[one + 1] : null, one + 1, ids.Length), index.Stands(narrowing, sort, down, ids[one]));
                    Assert.Equal(ids[Math.Min(one, other)..(Math.Max(one, other) + 1)], index.Between(narrowing, sort, down, ids[one], ids[other], 1000));
                }
            });

    [Fact]
    public void Words_that_were_looked_for_before_find_what_came_and_lost_them_since()
    {
        var index = new PhotoIndex();
        var words = new Narrowing("pier", []);
        var photos = Enumerable.Range(0, 9000).Select(i => new PhotoFacts(Guid.NewGuid(), true, null, DateTime.UnixEpoch, $"{i}.jpg", "", "the old pier", false, false, 0, "", 900, 600, "", "", 1, [], [], [], [], [], [])).ToArray();
        foreach (var (photo, n) in photos.Select((p, i) => (p, i)))
        {
            index.Set(photo);
            if (n % 1000 == 0)
            {
                Assert.Equal(n + 1, index.Count(words));
            }
        }

        index.Set(photos[8999] with { Words = "a boat" });
        index.Remove(photos[0].Id);
        Assert.Equal(8998, index.Count(words));
    }

    [Fact]
    public void A_count_is_what_one_would_see_with_that_choice_alone_in_its_part() =>
        Gen.Select(Facts.Array[0, 120], Narrowings).Sample((facts, narrowing) =>
        {
            var (index, told) = Tell(facts);
            foreach (var (kind, choices) in index.Counts(narrowing, 1000))
            {
                foreach (var (choice, count) in choices)
                {
                    var instead = new Narrowing(narrowing.Words, narrowing.Without(kind).Parts.Append(new NarrowingPart(kind, false, [choice])));
                    Assert.True(index.Count(instead) == count, $"{kind} {choice} of {narrowing}: {count}, found {index.Count(instead)}");
                }

                // And no choice that somebody has is left out.
                var among = Naive(told.Values, narrowing.Without(kind)).ToArray();
                Assert.Equal(among.Length == 0 || kind is PartKind.Missing && among.All(p => p is { HasAlt: true, HasCredit: true, Title.Length: > 0, Clearance.Length: > 0 }), choices.Count == 0);
            }
        });

    [Fact]
    public void What_lies_in_the_bin_is_found_and_counted_by_the_same_rules_and_by_nothing_else() =>
        Gen.Select(Facts.Array[0, 120], Narrowings).Sample((facts, narrowing) =>
        {
            var (index, told) = Tell(facts);
            Assert.Equal(Naive(told.Values, narrowing, inBin: true).Select(p => p.Id).Order(), index.InBin(narrowing).Order());
            foreach (var (kind, choices) in index.Counts(narrowing, 1000, inBin: true))
            {
                foreach (var (choice, count) in choices)
                {
                    var instead = new Narrowing(narrowing.Words, narrowing.Without(kind).Parts.Append(new NarrowingPart(kind, false, [choice])));
                    Assert.True(index.InBin(instead).Count == count, $"{kind} {choice} of {narrowing}: {count}, found {index.InBin(instead).Count}");
                }
            }
        });

    [Theory]
    [InlineData("computer", "", "computer")]
    [InlineData("sent", "By Ines", "sent")]
    [InlineData("scanner", "Attic", "scanner:Attic")]
    [InlineData("watched", "Club computer/June/13", "watched:Club computer")]
    [InlineData("watched", "", "watched")]
    public void A_source_is_the_way_and_which_of_several(string cameBy, string label, string source) => Assert.Equal(source, PhotoSource.Of(cameBy, label));

    [Fact]
    public void The_order_made_by_hand_is_kept_and_narrowed() =>
        Gen.Select(Facts.Array[1, 80], Narrowings, Gen.Bool).Sample((facts, narrowing, down) =>
        {
            var (index, told) = Tell(facts);
            var byHand = told.Keys.OrderBy(id => id.GetHashCode()).ToArray();
            var fits = Naive(told.Values, narrowing).Select(p => p.Id).ToHashSet();
            var ids = byHand.Where(fits.Contains).ToArray();
            Assert.Equal(down ? ids.Reverse() : ids, index.Window(narrowing, SheetSort.Place, down, 0, 1000, byHand).Photos);
        });

    [Fact]
    public void The_highest_rated_of_each_album_and_category_are_those_a_look_at_every_photo_finds() =>
        Gen.Select(Facts.Array[0, 120], Gen.Bool).Sample((facts, needed) =>
        {
            var (index, told) = Tell(facts);
            var shown = new Narrowing("", ForVisitors.Shown(needed));
            foreach (var kind in (PartKind[])[PartKind.Album, PartKind.Category])
            {
                IEnumerable<Guid> In(PhotoFacts p) => kind == PartKind.Album ? p.Albums : p.Categories;
                var found = index.HighestRated(kind, 3, shown);
                var used = told.Values.Where(p => p.Here && p.Rating > 0 && p.Decision != "leave_out" && p.Clearance != "not_cleared" && (p.Clearance == "cleared" || !needed)).ToArray();
                Assert.Equal(used.SelectMany(In).Distinct().Order(), found.Keys.Order());
                foreach (var (holder, best) in found)
                {
                    var held = used.Where(p => In(p).Contains(holder)).ToArray();
                    var naive = held.Where(p => p.Rating == held.Max(h => h.Rating)).Select(p => p.Id).ToHashSet();
                    Assert.Equal(Math.Min(3, naive.Count), best.Count);
                    Assert.Subset(naive, best.ToHashSet());
                    Assert.Equal(best, Assert.Single(index.HighestRated(kind, 3, shown, [holder])).Value);
                }
            }
        });

    [Fact]
    public void Whether_any_of_a_few_is_found_is_what_looking_at_all_says() =>
        Gen.Select(Facts.Array[1, 60], Narrowings, Gen.Int[1, 9]).Sample((facts, narrowing, every) =>
        {
            var (index, told) = Tell(facts);
            var few = told.Keys.Where((_, i) => i % every == 0).Append(Guid.NewGuid()).ToArray();
            Assert.Equal(Naive(told.Values, narrowing).Any(p => few.Contains(p.Id)), index.FindsAny(narrowing, few));
            var all = index.Window(Narrowing.Nothing, SheetSort.Rating, true, 0, 1000).Photos;
            Assert.Equal(all.Where(few.Contains), index.InOrder(few.Reverse(), SheetSort.Rating, true));
        });

    [Fact]
    public void What_is_written_into_an_address_is_read_back() => Narrowings.Sample(narrowing =>
    {
        var parameters = narrowing.ToString().Split('&', StringSplitOptions.RemoveEmptyEntries).Select(p => p.Split('=')).ToDictionary(p => p[0], p => Uri.UnescapeDataString(p[1]));
        var read = Narrowing.Read(parameters.GetValueOrDefault);
        Assert.Equal(narrowing, read);
        Assert.Equal(narrowing.Parts.Select(p => string.Join('/', p.Choices)), read.Parts.Select(p => string.Join('/', p.Choices)));
    });

    [Theory]
    [InlineData(",", 0)]
    [InlineData(@"\", 0)]
    [InlineData("garbage", 0)]
    [InlineData("none", 1)]
    public void What_makes_no_sense_shows_nothing_rather_than_everything(string tag, int found)
    {
        var index = new PhotoIndex();
        index.Set(new PhotoFacts(Things[0], true, null, DateTime.UnixEpoch, "a.jpg", "", "a.jpg", false, false, 0, "", 3, 2, "", "", 1, [], [], [], [], [], []));
        Assert.Equal(found, index.Count(Narrowing.Read(name => name == "tag" ? tag : null)));
    }

    [Theory]
    [InlineData("Ångström", "angstrom")]
    [InlineData("ﬁne Çà", "fine ca")]
    [InlineData("MBK_4301.JPG", "mbk 4301 jpg")]
    [InlineData("Ελλάδα 2026", "ελλαδα 2026")]
    [InlineData("東京タワー", "東京タワー")]
    [InlineData("don't", "don t")]
    [InlineData("\ud800", "")]
    public void Words_are_folded(string text, string folded) => Assert.Equal(folded, string.Join(' ', WordIndex.Fold(text)));

    [Fact]
    public void Many_words_are_found_by_their_beginning_however_they_came()
    {
        var words = new WordIndex();
        for (var i = 0; i < 9000; i++)
        {
            words.Set(i, $"w{i} same");
        }

        words.Set(17, "w17 other");
        PhotoSet Beginning(string start) => words.Beginning(9000, start);
        Assert.Equal(8999, Beginning("sa").Count);
        Assert.Equal(1 + 10 + 100 + 1000, Beginning("w8").Count);
        Assert.True(Beginning("oth").Contains(17) && !Beginning("same").Contains(17));
        Assert.Equal(0, Beginning("x").Count);
    }
}
