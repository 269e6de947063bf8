using System.Globalization;

namespace Jovitar.Server.Site.Drawing;

/// <summary>How large a file is, for visitors; in steps of 1,024, as in the workroom.</summary>
internal static class SiteBytes
{
    const long Step = 1024;

    /// <summary>As “2.1 MB”.</summary>
    public static string Said(long bytes) => bytes switch
    {
        < Step => $"{bytes} bytes",
        < Step * Step => string.Create(CultureInfo.InvariantCulture, $"{(double)bytes / Step:0} KB"),
        < Step * Step * Step => string.Create(CultureInfo.InvariantCulture, $"{(double)bytes / (Step * Step):0.0} MB"),
        _ => string.Create(CultureInfo.InvariantCulture, $"{(double)bytes / (Step * Step * Step):0.0} GB"),
    };
}
