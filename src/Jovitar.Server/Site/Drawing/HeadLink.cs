using System.Net;
using Microsoft.AspNetCore.Components;

namespace Jovitar.Server.Site.Drawing;

/// <summary>What a page offers in another form.</summary>
public static class HeadLink
{
    /// <summary>A link to it. Programs look for the type, and not all of them read the character references that a plus sign is otherwise written with.</summary>
    public static MarkupString Of(string type, string title, string href) =>
        (MarkupString)$"<link rel=\"alternate\" type=\"{type}\" title=\"{WebUtility.HtmlEncode(title)}\" href=\"{WebUtility.HtmlEncode(href)}\" />";
}
