using CsCheck;
using Jovitar.Core.Files;
using Jovitar.Core.Intake;

namespace Jovitar.Core.Tests;

public sealed class IntakeRulesTests
{
    [Fact]
    public void Every_problem_has_a_sentence_that_ends_and_says_what_helps()
    {
        foreach (var problem in Enum.GetValues<IntakeProblem>())
        {
            var sentence = IntakeRefusal.Sentence(problem, new IntakeLimits());
            Assert.EndsWith(".", sentence, StringComparison.Ordinal);
            Assert.StartsWith(IntakeRefusal.What(problem, new IntakeLimits()), sentence, StringComparison.Ordinal);
            Assert.NotEmpty(IntakeRefusal.Remedy(problem));
            Assert.EndsWith(IntakeRefusal.Remedy(problem), sentence, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void A_limit_is_told_as_the_site_has_set_it()
    {
        var limits = new IntakeLimits(Bytes: 30L << 20, Megapixels: 45);
        Assert.Contains("30 MB", IntakeRefusal.Sentence(IntakeProblem.TooManyBytes, limits), StringComparison.Ordinal);
        Assert.Contains("2,048 MB", IntakeRefusal.Sentence(IntakeProblem.TooManyBytes, limits, limits.VideoBytes), StringComparison.Ordinal);
        Assert.Contains("45 million", IntakeRefusal.Sentence(IntakeProblem.TooManyPixels, limits), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("day 2/pier.jpg", true)]
    [InlineData("..dots in front.jpg", true)]
    [InlineData("a/../../etc/passwd", false)]
    [InlineData("../pier.jpg", false)]
    [InlineData("..\\pier.jpg", false)]
    [InlineData("/etc/passwd", false)]
    [InlineData("\\\\server\\share\\a.jpg", false)]
    [InlineData("C:\\pier.jpg", false)]
    [InlineData("pi\0er.jpg", false)]
    [InlineData("", false)]
    public void Names_that_lead_out_of_their_folder_are_not_safe(string name, bool safe)
    {
        Assert.Equal(safe, ArchiveRules.IsSafe(name, isLink: false));
        Assert.False(ArchiveRules.IsSafe(name, isLink: true));
    }

    [Fact]
    public void Photographs_are_never_too_dense_and_bombs_always_are()
    {
        // Deflate at its best, 1032 to 1 (RFC 1951), against a photograph that shrank to a third.
        Gen.Long[1 << 20, 1L << 32].Sample(size => Assert.False(ArchiveRules.IsTooDense(size / 3, size)));
        Gen.Long[4L << 20, 1L << 40].Sample(size => Assert.True(ArchiveRules.IsTooDense(size / 1032, size)));
        Assert.False(ArchiveRules.IsTooLarge(3_000_000_000, [1_600_000_000, 1_500_000_000]));
        Assert.True(ArchiveRules.IsTooLarge(42_374, [4_507_981_343_026_016]));
        // Two that say they come to 2^63−1 bytes each: their sum is no 64-bit number any more.
        Assert.True(ArchiveRules.IsTooLarge(1_000, [long.MaxValue, long.MaxValue]));
    }

    [Theory]
    [InlineData("__MACOSX/a/._pier.jpg", true)]
    [InlineData("a/.DS_Store", true)]
    [InlineData("a/Thumbs.db", true)]
    [InlineData("a/pier.jpg", false)]
    public void Litter_is_known(string name, bool litter) => Assert.Equal(litter, ArchiveRules.IsLitter(name));

    [Fact]
    public void Time_left_is_what_remains_at_the_pace_so_far()
    {
        Assert.Equal(TimeSpan.FromSeconds(90), TimeLeft.Estimate(30, 20, TimeSpan.FromSeconds(60)));
        Assert.Equal(TimeSpan.Zero, TimeLeft.Estimate(0, 0, TimeSpan.Zero));
        Assert.Null(TimeLeft.Estimate(10, 0, TimeSpan.FromMinutes(1)));
    }

    [Fact]
    public void Only_what_cannot_carry_script_may_be_shown_in_place()
    {
        Assert.False(FileKinds.MayShow(FileKind.Office));
        Assert.False(FileKinds.MayShow(FileKind.Text));
        Assert.True(FileKinds.MayShow(FileKind.Sound));
        Assert.Equal(7, FileKinds.Most(FileKind.Video, new IntakeLimits(VideoBytes: 7)));
    }

    [Theory]
    [InlineData("IMG_1.xmp", "img_1", "IMG_1.JPG")]
    [InlineData("IMG_1.JPG.XMP", "img_1.jpg", "img_1.jpg")]
    [InlineData("my.photo.xmp", "my.photo", "My.Photo.tif")]
    [InlineData("bare.xmp", "bare", "bare")]
    public void A_sidecar_bears_its_photos_name(string sidecar, string beside, string photo)
    {
        Assert.True(SidecarNames.IsSidecar(sidecar));
        Assert.Equal(beside, SidecarNames.Beside(sidecar));
        Assert.Contains(beside, SidecarNames.Of(photo));
        Assert.Equal(SidecarNames.Common(photo), SidecarNames.Common(sidecar));
    }

    [Theory]
    [InlineData(".xmp")]
    [InlineData("xmp")]
    [InlineData("a.xmp.jpg")]
    public void What_has_no_name_or_another_ending_is_no_sidecar(string name)
    {
        Assert.False(SidecarNames.IsSidecar(name));
        Assert.Throws<ArgumentException>(() => SidecarNames.Beside(name));
    }

    [Fact]
    public void The_whole_name_is_closer_than_the_name_without_ending() => Assert.Equal(["img_1.jpg", "img_1"], SidecarNames.Of("IMG_1.jpg"));
}
