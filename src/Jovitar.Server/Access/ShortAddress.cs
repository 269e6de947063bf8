using System.Net;

namespace Jovitar.Server.Access;

/// <summary>Where somebody came from, without what tells one of a household or a house from another.</summary>
internal static class ShortAddress
{
    /// <summary>An address as it is kept: three bytes of four, of IPv6 six of sixteen, <c>192.0.2.0/24</c>; empty for none.</summary>
    public static string Of(IPAddress? address)
    {
        address = address is { IsIPv4MappedToIPv6: true } ? address.MapToIPv4() : address;
        if (address is null)
        {
            return "";
        }

        var bytes = address.GetAddressBytes();
        var kept = bytes.Length == 4 ? 3 : 6;
        bytes.AsSpan(kept).Clear();
        return $"{new IPAddress(bytes)}/{kept * 8}";
    }
}
