using System.Globalization;

namespace Jovitar.Server.Site.Drawing;

/// <summary>Days as visitors read them.</summary>
public static class SiteDates
{
    public static string Whole(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
}
