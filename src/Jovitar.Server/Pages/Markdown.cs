using Ganss.Xss;
using Markdig;
using Microsoft.AspNetCore.Components;

namespace Jovitar.Server.Pages;

/// <summary>Words written in Markdown (CommonMark), as HTML that can do no harm.</summary>
internal static class Markdown
{
    static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().UseAutoLinks().Build();

    /// <summary>Whether a text can be shown: not nested more deeply than the renderer goes.</summary>
    public static bool CanRender(string text)
    {
        try
        {
            _ = Render(text);
            return true;
        }
        catch (ArgumentException)
        {
            return false;
        }
    }

    /// <summary>What visitors read; a text that cannot be rendered is shown as it was typed.</summary>
    public static MarkupString Shown(string text)
    {
        try
        {
            return Render(text);
        }
        catch (ArgumentException)
        {
            return new MarkupString($"<p>{System.Net.WebUtility.HtmlEncode(text)}</p>");
        }
    }

    /// <summary>Its words alone, without what marks them.</summary>
    public static string Plain(string text)
    {
        try
        {
            return Markdig.Markdown.ToPlainText(text, Pipeline).Trim();
        }
        catch (ArgumentException)
        {
            return text;
        }
    }

    static MarkupString Render(string text)
    {
        // A sanitiser is not safe to share between threads.
        var sanitizer = new HtmlSanitizer(new HtmlSanitizerOptions
        {
            AllowedTags = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "p", "br", "strong", "em", "a", "ul", "ol", "li", "h2", "h3", "h4", "blockquote", "code", "pre", "hr" },
            AllowedAttributes = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "href", "title" },
            AllowedSchemes = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "http", "https", "mailto" },
            UriAttributes = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { "href" },
        });
        var html = Markdig.Markdown.ToHtml(text, Pipeline);
        // The page's heading is the first level; the text's own headings begin beneath it.
        html = html.Replace("<h1>", "<h2>", StringComparison.Ordinal).Replace("</h1>", "</h2>", StringComparison.Ordinal);
        return new MarkupString(sanitizer.Sanitize(html));
    }
}
