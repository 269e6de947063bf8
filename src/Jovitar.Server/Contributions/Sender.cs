using Jovitar.Core.Contributions;
using Jovitar.Core.People;

namespace Jovitar.Server.Contributions;

/// <summary>By what a contribution is somebody's: the account that sent it, or what was handed out to whoever began it without one.</summary>
/// <param name="Contribution">By its id, where an account has it.</param>
internal sealed record Sender(Guid? Contribution, Guid? Account, byte[]? Receipt)
{
    /// <summary>Of what stands at the end of its address.</summary>
    /// <param name="member">Who is signed in as a member; null for nobody.</param>
    /// <returns>Null for what cannot be one.</returns>
    public static Sender? Of(string key, Guid? member) =>
        Guid.TryParseExact(key, "D", out var id) ? member is null ? null : new Sender(id, member, null)
        : LinkSecret.Hash(key) is { } hash ? new Sender(null, null, hash)
        : null;

    /// <summary>The condition that a contribution <c>c</c> is theirs.</summary>
    public string Sql => Receipt is null ? "c.id = @contribution and c.account = @account" : "c.receipt = @receipt";

    public (string, object?)[] Parameters => Receipt is null ? [("contribution", Contribution), ("account", Account)] : [("receipt", Receipt)];
}

/// <summary>How something that a sender did ended.</summary>
/// <param name="IsThere">Their contribution, or the photo in it, is there.</param>
/// <param name="Refusal">Why it was not done; null where it was.</param>
/// <param name="Most">So many photos fit.</param>
internal sealed record SenderAnswer(bool IsThere, SendingRefusal? Refusal = null, int Most = Sending.MostPhotos)
{
    public static readonly SenderAnswer Gone = new(false);
    public static readonly SenderAnswer Done = new(true);
}
