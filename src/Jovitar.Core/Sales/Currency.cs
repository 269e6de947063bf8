using System.Collections.Frozen;

namespace Jovitar.Core.Sales;

/// <summary>A currency, as ISO 4217 names it and as it is counted.</summary>
public sealed record Currency
{
    /// <summary>Those in use that are counted otherwise than in hundredths (ISO 4217, list one).</summary>
    static readonly Dictionary<int, string> Otherwise = new()
    {
        [0] = "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX VND VUV XAF XOF XPF",
        [3] = "BHD IQD JOD KWD LYD OMR TND",
    };

    const string Hundredths =
        "AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP CRC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VED VES WST XCD YER ZAR ZMW";

    static readonly FrozenDictionary<string, Currency> Known = Otherwise
        .SelectMany(o => o.Value.Split(' ').Select(code => new Currency(code, o.Key)))
        .Concat(Hundredths.Split(' ').Select(code => new Currency(code, 2)))
        .ToFrozenDictionary(c => c.Code, StringComparer.Ordinal);

    Currency(string code, int digits) => (Code, Digits) = (code, digits);

    /// <summary>Three capital letters.</summary>
    public string Code { get; }

    /// <summary>How many digits its minor unit takes behind the point: 2 for most, none where there is no such unit.</summary>
    public int Digits { get; }

    /// <summary>Those that can be sold in, by code.</summary>
    public static IReadOnlyList<Currency> All { get; } = [.. Known.Values.OrderBy(c => c.Code, StringComparer.Ordinal)];

    /// <summary>A currency by its code, however it is written; null when there is none such.</summary>
    public static Currency? Find(string code) => Known.GetValueOrDefault(code.Trim().ToUpperInvariant());

    public override string ToString() => Code;
}
