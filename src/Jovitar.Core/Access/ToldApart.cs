using System.Security.Cryptography;

namespace Jovitar.Core.Access;

/// <summary>Digits and small letters of which none is taken for another, for what is read aloud and typed.</summary>
internal static class ToldApart
{
    const string Letters = "23456789abcdefghjkmnpqrstuvwxyz";
    const int Group = 4;

    /// <summary>So many of them by lot: each is worth 4.95 bits.</summary>
    public static string New(int length) => RandomNumberGenerator.GetString(Letters, length);

    /// <summary>The same as it is read aloud: <c>abcd-efgh-jkmn</c>.</summary>
    public static string NewGrouped(int length) => string.Join('-', New(length).Chunk(Group).Select(c => new string(c)));

    /// <summary>Whether a text is so many of them.</summary>
    public static bool Is(string text, int length) => text.Length == length && text.All(Letters.Contains);
}
