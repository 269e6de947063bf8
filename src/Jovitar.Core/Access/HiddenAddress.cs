using Jovitar.Core.Pages;

namespace Jovitar.Core.Access;

/// <summary>Addresses that nobody guesses: what is found by its link alone has one.</summary>
public static class HiddenAddress
{
    /// <summary>31 to the 26th are more than 2 to the 128th.</summary>
    public const int Length = 26;

    /// <summary>An address made hard to guess, still to be told from others by whoever reads it; another one each time.</summary>
    public static string Of(string address)
    {
        var plain = Plain(address);
        return $"{plain[..Math.Min(plain.Length, PageAddress.Longest - Length - 1)].TrimEnd('-')}-{ToldApart.New(Length)}";
    }

    /// <summary>Whether an address is one.</summary>
    public static bool Is(string address) => Plain(address).Length < address.Length;

    /// <summary>What it was made of.</summary>
    static string Plain(string address) =>
        address.LastIndexOf('-') is > 0 and var at && ToldApart.Is(address[(at + 1)..], Length) ? address[..at] : address;
}
