using System.Globalization;
using CsCheck;
using Jovitar.Core.Describing;

namespace Jovitar.Core.Tests;

/// <summary>Patterns, replacing, letters, dates and people, by worked examples and by what must always hold.</summary>
public sealed class DescribingTests
{
    static Gen<T> Among<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    static Described Photo(string name = "IMG_0001.JPG", string taken = "2026-06-13T14:05:09", string title = "", string caption = "", string album = "", string camera = "", int? offset = null, params string[] people) => new(
        Guid.NewGuid(), name, camera, album, taken.Length == 0 ? null : DateTime.Parse(taken, CultureInfo.InvariantCulture), offset,
        [.. WordFields.All.Select(f => f switch { WordField.Title => title, WordField.Caption => caption, _ => "" })], people, ["dusk", "Sea"]);

    static PatternPart T(string text) => new(Text: text);

    static PatternPart Say(Told told) => new(Told: told);

    static PatternPart N(int digits = 1, int from = 1, bool eachDay = false) => new(Counter: new Counter(digits, from, eachDay));

    static string[] Titles(PatternPart[] pattern, params Described[] photos)
    {
        var changer = new WordChanger([new WriteWord(WordField.Title, pattern)]);
        return [.. photos.Select(p => changer.Next(p)).Select((a, i) => a.Words[(int)WordField.Title] ?? photos[i][WordField.Title])];
    }

    [Fact]
    public void A_pattern_puts_text_counters_dates_and_words_together()
    {
        Assert.Equal(["Kite 007", "Kite 008", "Kite 009"], Titles([T("Kite "), N(3, 7)], Photo(), Photo(), Photo()));
        Assert.Equal(["IMG_0001 on 13 June 2026"], Titles([Say(Told.FileName), T(" on "), new(Taken: DateForm.Day)], Photo()));
        Assert.Equal(["2026-06-13, Saturday, June 2026, 2026, 14:05"], Titles(
            [new(Taken: DateForm.Iso), T(", "), new(Taken: DateForm.Weekday), T(", "), new(Taken: DateForm.Month), T(", "), new(Taken: DateForm.Year), T(", "), new(Taken: DateForm.Time)], Photo()));
        // A prefix to what is there, and a suffix.
        Assert.Equal(["Final: Over the pier"], Titles([T("Final: "), Say(Told.Before)], Photo(title: "Over the pier")));
        Assert.Equal(["Over the pier (1)", "Over the pier (2)"], Titles([Say(Told.Before), T(" ("), N(), T(")")], Photo(title: "Over the pier"), Photo(title: "Over the pier")));
        Assert.Equal(["Ines, Tam; dusk, Sea; Festival; Corvid S"], Titles([Say(Told.People), T("; "), Say(Told.Tags), T("; "), Say(Told.Album), T("; "), Say(Told.Camera)], Photo(album: "Festival", camera: "Corvid S", people: ["Ines", "Tam"])));
        // Two counters count for themselves.
        Assert.Equal(["1/10", "2/11"], Titles([N(), T("/"), N(2, 10)], Photo(), Photo()));
    }

    [Fact]
    public void A_counter_may_begin_anew_each_day()
    {
        Described[] photos = [Photo(taken: "2026-06-13T23:59:00"), Photo(taken: "2026-06-13T10:00:00"), Photo(taken: "2026-06-14T00:01:00"), Photo(taken: "2026-06-13T11:00:00"), Photo(taken: ""), Photo(taken: "2026-06-14T09:00:00"), Photo(taken: "")];
        Assert.Equal(["1", "2", "1", "3", "1", "2", "2"], Titles([N(eachDay: true)], photos));
    }

    [Fact]
    public void A_part_with_nothing_to_say_leaves_no_hole()
    {
        Assert.Equal(["Kites over the sea"], Titles([T("Kites "), new(Taken: DateForm.Day), T(" over the sea")], Photo(taken: "")));
        Assert.Equal(["over the sea"], Titles([Say(Told.Album), T(" over the sea")], Photo()));
        Assert.Equal(["Kites"], Titles([T("Kites "), Say(Told.Place)], Photo()));
        Assert.Equal(["a , b"], Titles([T("a "), Say(Told.Place), T(", b")], Photo()));
        var lacks = new WordChanger([new WriteWord(WordField.Title, [T("x"), Say(Told.Album)])]);
        Assert.True(lacks.Next(Photo()).Lacks);
        Assert.False(lacks.Next(Photo(album: "Festival")).Lacks);
        // What the word said before may be nothing: that is no lack.
        Assert.False(new WordChanger([new WriteWord(WordField.Title, [T("x"), Say(Told.Before)])]).Next(Photo()).Lacks);
    }

    [Fact]
    public void Changes_come_one_after_another_and_each_sees_what_the_one_before_made()
    {
        var changer = new WordChanger([
            new WriteWord(WordField.Title, [T("the pier at "), new(Taken: DateForm.Time)]), new RecaseWords([WordField.Title], Casing.Sentence),
            new WriteWord(WordField.Caption, [Say(Told.Title), T(".")]), new ReplaceInWords([WordField.Title, WordField.Caption], new Replacing("pier", "mole", true, true))]);
        var anew = changer.Next(Photo(caption: "x"));
        Assert.Equal(("The mole at 14:05", "The mole at 14:05."), (anew.Words[0], anew.Words[1]));
        // A word that is what it was is not changed, and one that is cleared is.
        var clear = new WordChanger([new WriteWord(WordField.Title, []), new WriteWord(WordField.Caption, [])]).Next(Photo(caption: "x"));
        Assert.Equal((null, ""), (clear.Words[0], clear.Words[1]));
    }

    [Fact]
    public void A_word_that_does_not_fit_is_cut_at_a_character_and_a_link_must_lead_somewhere()
    {
        var family = "👩‍👩‍👧‍👦";
        var cut = new WordChanger([new WriteWord(WordField.Title, [T(new string('a', 295)), T(family)])]).Next(Photo());
        Assert.Equal((true, new string('a', 295)), (cut.Cut, cut.Words[0]));
        Assert.Equal("one line", new WordChanger([new WriteWord(WordField.Title, [T("one\r\nline")])]).Next(Photo()).Words[0]);
        Assert.Equal("two\nlines", new WordChanger([new WriteWord(WordField.Caption, [T("two\nlines")])]).Next(Photo()).Words[1]);
        foreach (var (link, leads) in new[] { ("https://guild.example/kites", true), ("mailto:odile@guild.example", true), ("javascript:alert(1)", false), ("guild.example", false), ("https://", false), ("https://a:b@guild.example/", false), ("data:text/html,x", false) })
        {
            var anew = new WordChanger([new WriteWord(WordField.Link, [T(link)])]).Next(Photo());
            Assert.Equal((leads ? link : null, !leads), (anew.Words[(int)WordField.Link], anew.Refused));
        }
    }

    [Theory]
    [InlineData("Pier, pier, PIER, piers", "pier", "mole", false, false, "mole, mole, mole, moles")]
    [InlineData("Pier, pier, PIER, piers", "pier", "mole", true, true, "Pier, mole, PIER, piers")]
    [InlineData("aaaa", "aa", "b", true, false, "bb")]
    [InlineData("aaa", "aa", "a", true, false, "aa")]
    [InlineData("a.b", ".", "", true, false, "ab")]
    [InlineData("x2 2 2x", "2", "two", true, true, "x2 two 2x")]
    [InlineData("nothing", "pier", "mole", false, false, "nothing")]
    [InlineData("cafe\u0301 cafe", "cafe", "bar", false, false, "cafe\u0301 bar")]
    [InlineData("$1 (.*)", "(.*)", "\\1", true, false, "$1 \\1")]
    [InlineData("end pier", "pier", "", true, true, "end ")]
    public void What_is_found_is_replaced(string text, string find, string with, bool matchCase, bool whole, string expected) =>
        Assert.Equal(expected, new Replacing(find, with, matchCase, whole).In(text));

    [Fact]
    public void Without_conditions_replacing_is_what_dotnet_does() =>
        Gen.Select(Gen.String[Gen.Char["abA "], 0, 40], Gen.String[Gen.Char["abA"], 1, 3], Gen.String[Gen.Char["xyab"], 0, 3], Gen.Bool).Sample((text, find, with, matchCase) =>
            Assert.Equal(text.Replace(find, with, matchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase), new Replacing(find, with, matchCase, false).In(text)));

    [Theory]
    [InlineData(Casing.Sentence, "OVER THE PIER. AND BACK", "Over the pier. And back")]
    [InlineData(Casing.Sentence, "over The pier", "Over the pier")]
    [InlineData(Casing.Sentence, "the RAF and McKay at sea", "The RAF and McKay at sea")]
    [InlineData(Casing.Title, "over the pier and far away", "Over the Pier and Far Away")]
    [InlineData(Casing.Title, "what the kite is for", "What the Kite Is For")]
    [InlineData(Casing.Title, "odile's kite: the second day", "Odile's Kite: The Second Day")]
    [InlineData(Casing.Title, "ÉMILE À LA PLAGE", "Émile À La Plage")]
    [InlineData(Casing.Lower, "Over THE Pier", "over the pier")]
    [InlineData(Casing.Upper, "straße", "STRAßE")]
    [InlineData(Casing.Sentence, "", "")]
    [InlineData(Casing.Title, "…", "…")]
    public void Letters_are_written_large_and_small(Casing casing, string text, string expected) => Assert.Equal(expected, Casings.Apply(casing, text));

    [Fact]
    public void Writing_letters_anew_changes_nothing_else_and_nothing_the_second_time() =>
        // Letters that have one large and one small form each; a few signs (the Kelvin sign, the dotted İ) have more.
        Gen.Select(Gen.String[Gen.OneOf(Gen.Char[' ', '~'], Gen.Char['\u00c0', '\u012f'], Gen.Char['\u0410', '\u044f']), 0, 60], Among(Casing.Sentence, Casing.Title, Casing.Lower, Casing.Upper)).Sample((text, casing) =>
        {
            var once = Casings.Apply(casing, text);
            Assert.Equal(text.ToUpperInvariant(), once.ToUpperInvariant());
            if (once.EnumerateRunes().Any(System.Text.Rune.IsLower))
            {
                // Where all is large now (“a RAF” as a title), it cannot be told any more which words were large before.
                Assert.Equal(once, Casings.Apply(casing, once));
            }
        });

    [Fact]
    public void A_wrong_clock_is_set_right_for_one_camera_or_all()
    {
        var photo = Photo(camera: "Corvid S", offset: 120);
        Assert.Equal((new DateTime(2026, 6, 13, 13, 5, 9, DateTimeKind.Unspecified), 120), new WordChanger([new ShiftTaken(TimeSpan.FromHours(-1), null)]).Next(photo).Taken);
        Assert.Null(new WordChanger([new ShiftTaken(TimeSpan.FromHours(-1), "Halyard")]).Next(photo).Taken);
        Assert.NotNull(new WordChanger([new ShiftTaken(TimeSpan.FromHours(-1), "Corvid S")]).Next(photo).Taken);
        // Out of all years, or without a date, nothing moves.
        Assert.Null(new WordChanger([new ShiftTaken(TimeSpan.FromDays(-366 * 201), null)]).Next(photo).Taken);
        Assert.Null(new WordChanger([new ShiftTaken(TimeSpan.MaxValue, null)]).Next(photo).Taken);
        var unknown = new WordChanger([new ShiftTaken(TimeSpan.FromDays(1), null)]).Next(Photo(taken: ""));
        Assert.Equal((null, true), (unknown.Taken, unknown.Lacks));
    }

    [Theory]
    [InlineData("2026-06-13T12:00:00", null, "Europe/London", "Europe/Berlin", "2026-06-13T13:00:00", 120)]
    [InlineData("2026-01-13T12:00:00", null, "Europe/London", "Europe/Berlin", "2026-01-13T13:00:00", 60)]
    [InlineData("2026-01-13T23:30:00", null, "America/New_York", "Asia/Tokyo", "2026-01-14T13:30:00", 540)]
    [InlineData("2026-06-13T12:00:00", 0, "Europe/Berlin", "Asia/Kolkata", "2026-06-13T17:30:00", 330)]
    [InlineData("2026-06-13T12:00:00", null, "UTC", "Asia/Kathmandu", "2026-06-13T17:45:00", 345)]
    public void A_camera_set_to_another_zone_tells_the_same_moment(string taken, int? offset, string from, string to, string expected, int away)
    {
        var move = new MoveTaken(TimeZoneInfo.FindSystemTimeZoneById(from), TimeZoneInfo.FindSystemTimeZoneById(to), null);
        Assert.Equal((DateTime.Parse(expected, CultureInfo.InvariantCulture), away), new WordChanger([move]).Next(Photo(taken: taken, offset: offset)).Taken);
    }

    [Fact]
    public void There_and_back_again_it_was_taken_when_it_was() =>
        Gen.Select(Gen.Int[0, 40_000_000], Among("Europe/Berlin", "America/St_Johns", "Pacific/Auckland", "Asia/Kathmandu"), Among("UTC", "Europe/London", "Pacific/Kiritimati")).Sample((minutes, there, here) =>
        {
            var (a, b) = (TimeZoneInfo.FindSystemTimeZoneById(here), TimeZoneInfo.FindSystemTimeZoneById(there));
            var moment = DateTime.SpecifyKind(new DateTime(1975, 1, 1).AddMinutes(minutes), DateTimeKind.Utc);
            var local = TimeZoneInfo.ConvertTimeFromUtc(moment, a);
            var photo = Photo() with { Taken = DateTime.SpecifyKind(local, DateTimeKind.Unspecified), Offset = (int)a.GetUtcOffset(moment).TotalMinutes };
            var anew = new WordChanger([new MoveTaken(b, b, null), new MoveTaken(b, a, null)]).Next(photo);
            Assert.Null(anew.Taken);
        });

    [Fact]
    public void People_are_named_once_whatever_the_case_and_others_stay()
    {
        Assert.Equal(["Ines", "Tam"], new WordChanger([new ChangePeople(["tam", " Tam ", ""], ["ODILE"])]).Next(Photo(people: ["Ines", "Odile"])).People!.Select(n => n == "tam" ? "Tam" : n));
        Assert.Null(new WordChanger([new ChangePeople(["INES"], ["nobody"])]).Next(Photo(people: ["Ines"])).People);
        Assert.Equal(Persons.Most, Persons.All(Enumerable.Range(0, 300).Select(i => $"P{i}")).Count);
    }

    [Fact]
    public void Names_that_leave_together_differ_on_every_disk()
    {
        var names = new LeavingNames();
        Assert.Equal(
            ["a.jpg", "A (2).JPG", "a (3).jpg", "a (2) (2).jpg", "photo.jpg", "photo", "c-d-.png", "x", "tail", "tail.jpg"],
            new[] { "a.jpg", "A.JPG", "a.jpg", "a (2).jpg", ".jpg", "..", "c:d?.png", "x", "tail .", "tail. .jpg" }.Select(n => names.Next(n)));
        Assert.Equal("a.xmp", names.Next("a.jpg", ".xmp"));
        var long_ = names.Next($"{new string('é', 300)}.jpeg");
        Assert.Equal((185, true), (long_.Length, long_.EndsWith(".jpeg", StringComparison.Ordinal)));
    }

    static readonly Gen<PatternPart> Part = Gen.OneOf(
        Gen.String[Gen.OneOf(Gen.Char['a', 'd'], Gen.Const(' ')), 0, 5].Select(t => new PatternPart(Text: t)),
        Gen.Select(Gen.Int[1, 4], Gen.Int[0, 120], Gen.Bool).Select((digits, from, each) => new PatternPart(Counter: new Counter(digits, from, each))),
        Among(Enum.GetValues<DateForm>()).Select(f => new PatternPart(Taken: f)),
        Among(Enum.GetValues<Told>()).Select(t => new PatternPart(Told: t)));

    static readonly Gen<Described> Anyone =
        from taken in Gen.Int[-1, 5]
        from title in Among("", "Over the pier", "b")
        from album in Among("", "Festival")
        from people in Among("Ines", "Tam").Array[0, 2]
        select Photo("IMG_0001.JPG", taken < 0 ? "" : $"2026-06-{13 + (taken / 2):d2}T{10 + taken}:05:00", title, album: album, people: [.. people.Distinct()]);

    /// <summary>What a pattern is said to mean, in the plainest words.</summary>
    static string Plainly(PatternPart[] parts, Described[] photos, int at)
    {
        var photo = photos[at];
        string Says(PatternPart part) => part switch
        {
            { Text: { } text } => text,
            { Counter: { } c } => (c.From + photos.Take(at).Count(p => !c.EachDay || p.Taken?.Date == photo.Taken?.Date)).ToString(new string('0', c.Digits), CultureInfo.InvariantCulture),
            { Taken: DateForm.Iso } => photo.Taken is { } t ? $"{t:yyyy-MM-dd}" : "",
            { Taken: DateForm.Year } => photo.Taken is { } t ? $"{t.Year}" : "",
            { Taken: DateForm.Time } => photo.Taken is { } t ? $"{t.Hour:d2}:{t.Minute:d2}" : "",
            { Taken: DateForm.Day } => photo.Taken is { } t ? $"{t.Day} June 2026" : "",
            { Taken: DateForm.Month } => photo.Taken is null ? "" : "June 2026",
            { Taken: DateForm.Weekday } => photo.Taken is { } t ? t.DayOfWeek.ToString() : "",
            { Told: Told.Before or Told.Title } => photo[WordField.Title],
            { Told: Told.FileName } => "IMG_0001",
            { Told: Told.Album } => photo.Album,
            { Told: Told.People } => string.Join(", ", photo.People),
            { Told: Told.Tags } => "dusk, Sea",
            _ => "",
        };
        return string.Concat(parts.Select(Says));
    }

    /// <summary>But for blanks, which close up around what says nothing, a pattern is its parts in a row.</summary>
    [Fact]
    public void A_pattern_is_its_parts_in_a_row() =>
        Gen.Select(Part.Array[0, 6], Anyone.Array[1, 6]).Sample((parts, photos) =>
        {
            static string Bare(string text) => text.Replace(" ", "", StringComparison.Ordinal);
            var titles = Titles(parts, photos);
            for (var i = 0; i < photos.Length; i++)
            {
                var plainly = Plainly(parts, photos, i);
                Assert.Equal(Bare(plainly), Bare(titles[i]));
                Assert.Equal(titles[i].Trim(), titles[i]);
                Assert.True(titles[i].Length <= plainly.Length);
            }
        });

    static readonly Gen<string> Cells = Gen.String[Gen.OneOf(Gen.Char[' ', '~'], Among('=', '+', '-', '@', '\t', '\'', 'é', '夕', ';')), 0, 12];

    [Fact]
    public void No_cell_is_run_and_each_says_what_was_meant() => Cells.Sample(text =>
    {
        var cell = WordsTable.Cell(text);
        Assert.False(cell.Length > 0 && "=+-@\t\r".Contains(cell[0], StringComparison.Ordinal));
        Assert.Equal(text, WordsTable.Said(cell));
    });

    [Fact]
    public void A_row_that_is_written_out_and_read_in_changes_nothing() =>
        Gen.Select(Cells, Cells, Gen.Int[-1, 5], Among("Ines", "Tam Ö.", "-minus").Array[0, 3]).Sample((title, caption, rating, people) =>
        {
            var photo = Photo(title: title.Trim(), caption: caption.Trim(), people: [.. people.Distinct()]);
            var cells = new Dictionary<string, string>
            {
                ["title"] = WordsTable.Cell(photo[WordField.Title]),
                ["caption"] = WordsTable.Cell(photo[WordField.Caption]),
                ["people"] = WordsTable.Cell(WordsTable.Several(photo.People)),
                ["date taken"] = WordsTable.Date(photo.Taken),
                ["rating"] = rating < 0 ? "" : $"{rating}",
            };
            var (row, wrong) = WordsTable.Read(photo.Id, cells.GetValueOrDefault, clears: true);
            Assert.Null(wrong);
            var anew = row!.Of(photo with { Taken = photo.Taken!.Value.AddTicks(-(photo.Taken.Value.Ticks % TimeSpan.TicksPerSecond)) });
            Assert.False(anew.Changes);
            Assert.Equal(Math.Max(0, rating), row.Rating);
        });

    [Fact]
    public void A_row_says_only_what_differs_and_links_that_lead_nowhere_are_refused()
    {
        var photo = Photo(title: "Over the pier", caption: "x", people: ["Ines"]);
        var row = new WordsRow(photo.Id, new Dictionary<WordField, string> { [WordField.Title] = " Over the pier ", [WordField.Caption] = "two\r\nlines", [WordField.Place] = "one\nline", [WordField.Link] = "nowhere" }, People: ["ines", "Tam"]);
        var anew = row.Of(photo);
        Assert.Equal((null, "two\nlines", "one line", null, true), (anew.Words[(int)WordField.Title], anew.Words[(int)WordField.Caption], anew.Words[(int)WordField.Place], anew.Words[(int)WordField.Link], anew.Refused));
        Assert.Equal(["ines", "Tam"], anew.People!);
        Assert.Equal("Wrote words from “guild.csv” on 2 photos.", Acts.ActWords.FromTable(new Acts.ActTally(2, []), "guild.csv"));
        Assert.Equal("Cleared title, wrote place of 1 photo.", Acts.ActWords.Described(new Acts.ActTally(1, []), ["cleared title", "wrote place"]));
    }
}
