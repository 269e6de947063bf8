using Jovitar.Core.People;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>Who buys, and where it goes.</summary>
/// <param name="Country">Its code (ISO 3166-1).</param>
public sealed record Buyer(string Name, string Email, string Street, string Further, string Postcode, string Town, string Region, string Country)
{
    public const int LongestLine = 120;
    const int LongestPostcode = 16;

    public static readonly Buyer Nobody = new("", "", "", "", "", "", "", "");

    /// <summary>Nobody knows who it was any more.</summary>
    public bool IsForgotten => Name.Length == 0;

    /// <summary>What stays of somebody who is forgotten: the country, for what was taxed and sent there.</summary>
    public Buyer Forgotten() => Nobody with { Country = Country };

    /// <summary>The same as it is kept.</summary>
    /// <param name="isSent">Something goes to their address; else that is not kept.</param>
    /// <param name="isPlaced">It matters in which country they are, though nothing goes there.</param>
    public Buyer AsKept(bool isSent, bool isPlaced = false) => isSent
        ? new(Text.Name(Name), Email.Trim(), Text.Name(Street), Text.Name(Further), Text.Name(Postcode), Text.Name(Town), Text.Name(Region), Country.Trim().ToUpperInvariant())
        : Nobody with { Name = Text.Name(Name), Email = Email.Trim(), Country = isPlaced ? Country.Trim().ToUpperInvariant() : "" };

    /// <summary>What is wrong with it, by field; empty for nothing.</summary>
    /// <param name="isSent">Something goes to their address.</param>
    /// <param name="isPlaced">It matters in which country they are.</param>
    public IReadOnlyDictionary<string, string> Faults(bool isSent, bool isPlaced = false)
    {
        var faults = new Dictionary<string, string>();
        void Say(string field, string value, string? missing, int longest = LongestLine)
        {
            if ((missing is not null && value.Trim().Length == 0 ? missing : Text.Fault(value, longest)) is { } fault)
            {
                faults[field] = fault;
            }
        }

        Say("name", Name, "Say who you are.");
        if (!MailAddress.IsOne(Email.Trim()))
        {
            faults["email"] = "Give an e-mail address: what becomes of the order is told there.";
        }

        var country = Ordering.Country.Find(Country);
        if (country is null && (isSent || isPlaced))
        {
            faults["country"] = "Say in which country.";
        }

        if (!isSent)
        {
            return faults;
        }

        Say("street", Street, "Give the street and the number.");
        Say("further", Further, null);
        Say("postcode", Postcode, country?.HasPostcode != false ? "Give the postcode." : null, LongestPostcode);
        Say("town", Town, "Give the town.");
        Say("region", Region, country?.HasRegion == true ? "Give the state or the province." : null);
        return faults;
    }

    /// <summary>The address as it stands on a parcel, line by line, without the country at home.</summary>
    public IReadOnlyList<string> Lines(string home) =>
    [
        .. new[] { Name, Street, Further, $"{Postcode} {Town}".Trim(), Region }.Where(l => l.Length > 0), .. Abroad(home),
    ];

    /// <summary>Where they are, unless at home or nobody knows where.</summary>
    public IEnumerable<string> Abroad(string home) => Country != home && Ordering.Country.Find(Country) is { } abroad ? [abroad.Name] : [];
}
