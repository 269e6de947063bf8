using Jovitar.Core;
using Jovitar.Core.Narrowings;
using Microsoft.AspNetCore.WebUtilities;

namespace Jovitar.Server.Narrowings;

/// <summary>What the address of a sheet says behind its question mark: what it narrows to, and in which order it shows that.</summary>
/// <param name="Sort">Null where it says none.</param>
internal sealed record SheetAddress(Narrowing Narrowing, SheetSort? Sort, bool Reversed)
{
    /// <summary>Whether every part of it is text that can be kept.</summary>
    public static bool IsSound(string search) => Text.IsSound(Uri.UnescapeDataString(search));

    public static SheetAddress Read(string search)
    {
        var said = QueryHelpers.ParseQuery(search);
        string? One(string name) => said.TryGetValue(name, out var value) ? value[0] : null;
        return new SheetAddress(Narrowing.Read(One), Enum.TryParse<SheetSort>(One("sort"), ignoreCase: true, out var named) && Enum.IsDefined(named) ? named : null, One("reversed") == "true");
    }

    /// <summary>As addresses are written here: parts in their order, nothing that means nothing.</summary>
    public override string ToString() =>
        string.Join('&', ((string[])[Narrowing.ToString(), Sort is { } sort ? $"sort={sort.ToString().ToLowerInvariant()}" : "", Reversed ? "reversed=true" : ""]).Where(p => p.Length > 0));
}
