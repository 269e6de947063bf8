using Jovitar.Core.Photos;

namespace Jovitar.Imaging.Tests;

/// <summary>What is taken from a photo's look, on pictures that ImageMagick made.</summary>
public sealed class LookTests
{
    /// <summary>A landscape-like picture: clouds over a gradient, another for each seed.</summary>
    static string Scene(int seed, params string[] more)
    {
        var path = Tools.NewPath(".jpg");
        Tools.Run(Tools.Convert, ["-size", "900x600", "-seed", $"{seed}", "plasma:fractal", "-blur", "0x6", .. more, "-quality", "92", path]);
        return path;
    }

    static ulong Hash(string path) => PerceptualHash.Of(Picture.RenderSheet(path, 480, PerceptualHash.Side).Grey);

    [Fact]
    public void Another_size_and_another_quality_are_near_and_another_scene_is_not()
    {
        var original = Scene(3);
        var (small, poor, brighter) = (Tools.NewPath(".jpg"), Tools.NewPath(".jpg"), Tools.NewPath(".png"));
        Tools.Run(Tools.Convert, original, "-resize", "500x", small);
        Tools.Run(Tools.Convert, original, "-quality", "25", poor);
        Tools.Run(Tools.Convert, original, "-brightness-contrast", "8x10", brighter);
        var hash = Hash(original);
        foreach (var copy in (string[])[small, poor, brighter])
        {
            Assert.InRange(PerceptualHash.Distance(hash, Hash(copy)), 0, Repeats.SamePicture);
        }

        for (var seed = 10; seed < 20; seed++)
        {
            Assert.True(PerceptualHash.Distance(hash, Hash(Scene(seed))) > Repeats.SameScene, $"scene {seed} counts as near");
        }
    }

    [Fact]
    public void A_blurred_photo_is_less_sharp_than_the_same_in_focus()
    {
        var sharp = Scene(4, "-attenuate", "0.6", "+noise", "Gaussian");
        var soft = Tools.NewPath(".jpg");
        Tools.Run(Tools.Convert, sharp, "-blur", "0x3", soft);
        Assert.True(Look.Sharpness(Tools.Render(sharp, 480)) > 1.5 * Look.Sharpness(Tools.Render(soft, 480)));
    }
}
