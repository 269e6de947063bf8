using Jovitar.Core.Access;

namespace Jovitar.Core.Tests;

/// <summary>Codes on paper, for when the phone is lost.</summary>
public sealed class RescueCodeTests
{
    [Fact]
    public void Codes_on_paper_are_known_however_they_are_typed()
    {
        var codes = RescueCodes.New();
        Assert.Equal(RescueCodes.Count, codes.Distinct().Count());
        Assert.All(codes, c => Assert.Matches("^[2-9a-hjkmnp-z]{4}(-[2-9a-hjkmnp-z]{4}){3}$", c));
        Assert.All(codes, c => Assert.Equal(RescueCodes.Hash(c), RescueCodes.Hash($" {c.ToUpperInvariant().Replace('-', ' ')} ")));
        Assert.NotEqual(RescueCodes.Hash(codes[0]), RescueCodes.Hash(codes[1]));
    }
}
