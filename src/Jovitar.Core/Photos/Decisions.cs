namespace Jovitar.Core.Photos;

/// <summary>What was decided about a photo, by the names it is kept under.</summary>
public static class Decisions
{
    public const string None = "";
    public const string Keep = "keep";
    public const string Doubt = "doubt";
    public const string LeaveOut = "leave_out";
}
