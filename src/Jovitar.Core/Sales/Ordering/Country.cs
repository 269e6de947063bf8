using System.Collections.Frozen;

namespace Jovitar.Core.Sales.Ordering;

/// <summary>A country, as it is coded and as people call it.</summary>
public sealed record Country
{
    /// <summary>Codes (ISO 3166-1, two letters), each with the country's name.</summary>
    const string Codes =
        "AD Andorra|AE United Arab Emirates|AF Afghanistan|AG Antigua and Barbuda|AI Anguilla|AL Albania|AM Armenia|AO Angola|AQ Antarctica|AR Argentina|AS American Samoa|AT Austria|AU Australia|AW Aruba|AX Åland Islands|AZ Azerbaijan|"
        + "BA Bosnia and Herzegovina|BB Barbados|BD Bangladesh|BE Belgium|BF Burkina Faso|BG Bulgaria|BH Bahrain|BI Burundi|BJ Benin|BL Saint Barthélemy|BM Bermuda|BN Brunei|BO Bolivia|BQ Caribbean Netherlands|BR Brazil|BS Bahamas|BT Bhutan|BV Bouvet Island|BW Botswana|BY Belarus|BZ Belize|"
        + "CA Canada|CC Cocos Islands|CD Congo (Kinshasa)|CF Central African Republic|CG Congo (Brazzaville)|CH Switzerland|CI Côte d’Ivoire|CK Cook Islands|CL Chile|CM Cameroon|CN China|CO Colombia|CR Costa Rica|CU Cuba|CV Cabo Verde|CW Curaçao|CX Christmas Island|CY Cyprus|CZ Czechia|"
        + "DE Germany|DJ Djibouti|DK Denmark|DM Dominica|DO Dominican Republic|DZ Algeria|EC Ecuador|EE Estonia|EG Egypt|EH Western Sahara|ER Eritrea|ES Spain|ET Ethiopia|FI Finland|FJ Fiji|FK Falkland Islands|FM Micronesia|FO Faroe Islands|FR France|"
        + "GA Gabon|GB United Kingdom|GD Grenada|GE Georgia|GF French Guiana|GG Guernsey|GH Ghana|GI Gibraltar|GL Greenland|GM Gambia|GN Guinea|GP Guadeloupe|GQ Equatorial Guinea|GR Greece|GS South Georgia|GT Guatemala|GU Guam|GW Guinea-Bissau|GY Guyana|"
        + "HK Hong Kong|HM Heard and McDonald Islands|HN Honduras|HR Croatia|HT Haiti|HU Hungary|ID Indonesia|IE Ireland|IL Israel|IM Isle of Man|IN India|IO British Indian Ocean Territory|IQ Iraq|IR Iran|IS Iceland|IT Italy|JE Jersey|JM Jamaica|JO Jordan|JP Japan|"
        + "KE Kenya|KG Kyrgyzstan|KH Cambodia|KI Kiribati|KM Comoros|KN Saint Kitts and Nevis|KP North Korea|KR South Korea|KW Kuwait|KY Cayman Islands|KZ Kazakhstan|LA Laos|LB Lebanon|LC Saint Lucia|LI Liechtenstein|LK Sri Lanka|LR Liberia|LS Lesotho|LT Lithuania|LU Luxembourg|LV Latvia|LY Libya|"
        + "MA Morocco|MC Monaco|MD Moldova|ME Montenegro|MF Saint Martin|MG Madagascar|MH Marshall Islands|MK North Macedonia|ML Mali|MM Myanmar|MN Mongolia|MO Macao|MP Northern Mariana Islands|MQ Martinique|MR Mauritania|MS Montserrat|MT Malta|MU Mauritius|MV Maldives|MW Malawi|MX Mexico|MY Malaysia|MZ Mozambique|"
        + "NA Namibia|NC New Caledonia|NE Niger|NF Norfolk Island|NG Nigeria|NI Nicaragua|NL Netherlands|NO Norway|NP Nepal|NR Nauru|NU Niue|NZ New Zealand|OM Oman|PA Panama|PE Peru|PF French Polynesia|PG Papua New Guinea|PH Philippines|PK Pakistan|PL Poland|PM Saint Pierre and Miquelon|PN Pitcairn|PR Puerto Rico|PS Palestine|PT Portugal|PW Palau|PY Paraguay|"
        + "QA Qatar|RE Réunion|RO Romania|RS Serbia|RU Russia|RW Rwanda|SA Saudi Arabia|SB Solomon Islands|SC Seychelles|SD Sudan|SE Sweden|SG Singapore|SH Saint Helena|SI Slovenia|SJ Svalbard and Jan Mayen|SK Slovakia|SL Sierra Leone|SM San Marino|SN Senegal|SO Somalia|SR Suriname|SS South Sudan|ST São Tomé and Príncipe|SV El Salvador|SX Sint Maarten|SY Syria|SZ Eswatini|"
        + "TC Turks and Caicos Islands|TD Chad|TF French Southern Territories|TG Togo|TH Thailand|TJ Tajikistan|TK Tokelau|TL Timor-Leste|TM Turkmenistan|TN Tunisia|TO Tonga|TR Türkiye|TT Trinidad and Tobago|TV Tuvalu|TW Taiwan|TZ Tanzania|UA Ukraine|UG Uganda|UM US Outlying Islands|US United States|UY Uruguay|UZ Uzbekistan|"
        + "VA Vatican City|VC Saint Vincent|VE Venezuela|VG British Virgin Islands|VI US Virgin Islands|VN Vietnam|VU Vanuatu|WF Wallis and Futuna|WS Samoa|YE Yemen|YT Mayotte|ZA South Africa|ZM Zambia|ZW Zimbabwe";

    /// <summary>Those whose addresses have no postcode (common practice of the Universal Postal Union's members).</summary>
    const string WithoutPostcode = "AE AG AO AW BF BI BJ BO BS BW BZ CD CF CG CI CK CM DJ DM ER FJ GD GM GQ GY HK KI KM KN KP LC ML MO MR MW NR NU PA QA RW SB SC SL SR ST SY TD TG TK TL TO TV UG VU YE ZW";

    /// <summary>Those in whose addresses the state or the province stands.</summary>
    const string WithRegion = "AU BR CA IN MX MY US";

    static readonly FrozenDictionary<string, Country> Known = Codes.Split('|')
        .Select(c => new Country(c[..2], c[3..], !WithoutPostcode.Contains(c[..2], StringComparison.Ordinal), WithRegion.Contains(c[..2], StringComparison.Ordinal)))
        .ToFrozenDictionary(c => c.Code, StringComparer.Ordinal);

    Country(string code, string name, bool hasPostcode, bool hasRegion) => (Code, Name, HasPostcode, HasRegion) = (code, name, hasPostcode, hasRegion);

    /// <summary>Two capital letters.</summary>
    public string Code { get; }

    public string Name { get; }

    /// <summary>Letters find their way there by a postcode.</summary>
    public bool HasPostcode { get; }

    /// <summary>An address there names the state or the province.</summary>
    public bool HasRegion { get; }

    /// <summary>All there are, by name.</summary>
    public static IReadOnlyList<Country> All { get; } = [.. Known.Values.OrderBy(c => c.Name, StringComparer.InvariantCultureIgnoreCase)];

    /// <summary>A country by its code, however it is written; null when there is none such.</summary>
    public static Country? Find(string code) => Known.GetValueOrDefault(code.Trim().ToUpperInvariant());

    public override string ToString() => Name;
}
