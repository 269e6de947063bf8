namespace Jovitar.Server.Access;

/// <summary>Marks a door for anybody that is open on a closed site, too: signing in, the workroom's empty page, what a closed site shows of itself.</summary>
internal sealed record AlwaysOpen
{
    public static readonly AlwaysOpen Instance = new();
}
