using System.Diagnostics;

namespace Jovitar.Server.Tests;

/// <summary>Poppler's tools, which read PDF that our own code has drawn.</summary>
internal static class Poppler
{
    /// <summary>What a tool says of a file; it has nothing to complain of.</summary>
    public static async Task<string> RunAsync(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true })!;
        var (text, errors) = (await process.StandardOutput.ReadToEndAsync(), await process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        Assert.Equal((0, ""), (process.ExitCode, errors));
        return text;
    }

    /// <summary>The words of a document, as they stand on its pages.</summary>
    public static Task<string> WordsAsync(string path) => RunAsync("pdftotext", "-layout", path, "-");
}
