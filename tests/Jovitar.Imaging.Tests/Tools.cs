using System.Diagnostics;
using System.Globalization;
using System.Runtime.CompilerServices;
using NetVips;

namespace Jovitar.Imaging.Tests;

/// <summary>The outside programs that results are checked against: ImageMagick and ExifTool, from Debian's packages.</summary>
internal static class Tools
{
    /// <summary>ImageMagick where Debian puts it; another program of that name may stand earlier on the path.</summary>
    public const string Convert = "/usr/bin/convert";

    public static readonly string Folder = Directory.CreateTempSubdirectory("jovitar-imaging").FullName;

    public static string NewPath(string ending, [CallerMemberName] string name = "") => Path.Combine(Folder, $"{name}-{Guid.NewGuid():N}{ending}");

    public static string Run(string program, params string[] arguments)
    {
        var start = new ProcessStartInfo(program) { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in arguments)
        {
            start.ArgumentList.Add(argument);
        }

        using var process = Process.Start(start)!;
        var errors = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, $"{program} said: {errors.Result}");
        return output.Trim();
    }

    /// <summary>A picture of four coloured quarters over a gradient, so that turning and mirroring show.</summary>
    public static string Quarters(string ending, params string[] more)
    {
        var path = NewPath(ending);
        Run(Tools.Convert, ["-size", "300x200", "gradient:gray30-gray60", "-fill", "#d02020", "-draw", "rectangle 0,0 149,99", "-fill", "#20a040", "-draw", "rectangle 150,0 299,99", "-fill", "#2040c0", "-draw", "rectangle 0,100 149,199", .. more, "-quality", "95", path]);
        return path;
    }

    /// <summary>The mean colour around a point given in shares of width and height, as ImageMagick sees it, 0 to 255.</summary>
    public static int[] Colour(string path, double x, double y)
    {
        var size = Run("identify", "-format", "%w %h", $"{path}[0]").Split(' ').Select(s => int.Parse(s, CultureInfo.InvariantCulture)).ToArray();
        var (left, top) = ((int)(size[0] * x) - 4, (int)(size[1] * y) - 4);
        var text = Run(Tools.Convert, $"{path}[0]", "-alpha", "off", "-crop", $"8x8+{Math.Max(0, left)}+{Math.Max(0, top)}", "+repage", "-resize", "1x1!", "-depth", "8", "-format", "%[fx:round(255*p{0,0}.r)] %[fx:round(255*p{0,0}.g)] %[fx:round(255*p{0,0}.b)]", "info:");
        return [.. text.Split(' ').Select(s => int.Parse(s, CultureInfo.InvariantCulture))];
    }

    public static void Near(int[] expected, int[] found, int tolerance) =>
        Assert.True(expected.Zip(found).All(p => Math.Abs(p.First - p.Second) <= tolerance), $"expected {string.Join(',', expected)}, found {string.Join(',', found)}");

    /// <summary>Makes one rendition and gives its path.</summary>
    public static string Render(string original, int width)
    {
        var path = NewPath(".webp");
        File.WriteAllBytes(path, Picture.Render(original, [width]).Single().Bytes);
        return path;
    }

    /// <summary>Writes a profile that libvips knows by name to a file, for ImageMagick to convert with.</summary>
    public static string Profile(string name)
    {
        var path = NewPath(".icc");
        File.WriteAllBytes(path, Image.ProfileLoad(name));
        return path;
    }
}
