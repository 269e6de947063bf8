using System.Text;
using CsCheck;
using Jovitar.Core.Access;

namespace Jovitar.Core.Tests;

/// <summary>The second step of signing in: codes that a phone shows, and those on paper.</summary>
public sealed class OneTimeCodeTests
{
    static readonly byte[] Secret = Encoding.ASCII.GetBytes("12345678901234567890");

    static DateTimeOffset At(long seconds) => DateTimeOffset.FromUnixTimeSeconds(seconds);

    /// <summary>RFC 6238, appendix B, the lines of SHA-1.</summary>
    [Theory]
    [InlineData(59, "94287082")]
    [InlineData(1111111109, "07081804")]
    [InlineData(1111111111, "14050471")]
    [InlineData(1234567890, "89005924")]
    [InlineData(2000000000, "69279037")]
    [InlineData(20000000000, "65353130")]
    public void Codes_are_those_of_the_standard(long seconds, string code)
    {
        Assert.Equal(code, OneTimeCode.Of(Secret, OneTimeCode.StepOf(At(seconds)), digits: 8));
        Assert.Equal(code[2..], OneTimeCode.Of(Secret, OneTimeCode.StepOf(At(seconds))));
    }

    /// <summary>RFC 4226, appendix D: the codes of the first ten counts.</summary>
    [Fact]
    public void Counts_give_the_codes_of_the_standard() =>
        Assert.Equal(["755224", "287082", "359152", "969429", "338314", "254676", "287922", "162583", "399871", "520489"], Enumerable.Range(0, 10).Select(n => OneTimeCode.Of(Secret, n)));

    /// <summary>RFC 4648, §10, without padding.</summary>
    [Theory]
    [InlineData("", "")]
    [InlineData("f", "MY")]
    [InlineData("fo", "MZXQ")]
    [InlineData("foo", "MZXW6")]
    [InlineData("foob", "MZXW6YQ")]
    [InlineData("fooba", "MZXW6YTB")]
    [InlineData("foobar", "MZXW6YTBOI")]
    public void Secrets_are_written_as_the_standard_has_it(string text, string written) => Assert.Equal(written, OneTimeCode.Base32(Encoding.ASCII.GetBytes(text)));

    [Fact]
    public void A_code_is_good_about_its_half_minute_and_once() =>
        Gen.Select(Gen.Byte.Array[20], Gen.Long[1_000_000, 4_000_000_000], Gen.Long[-4, 4]).Sample((secret, seconds, away) =>
        {
            var (now, step) = (At(seconds), OneTimeCode.StepOf(At(seconds)));
            var code = OneTimeCode.Of(secret, step + away);
            var others = Enumerable.Range(-1, 3).Any(d => d != away && OneTimeCode.Of(secret, step + d) == code);
            if (others)
            {
                return;
            }

            Assert.Equal(Math.Abs(away) <= 1 ? step + away : null, OneTimeCode.Accepts(secret, $" {code[..3]} {code[3..]}", now, used: 0));
            Assert.Null(OneTimeCode.Accepts(secret, code, now, used: step + away));
            Assert.All(new[] { "", "1", $"{code}0", code[1..], "abcdef", "١٢٣٤٥٦" }, wrong => Assert.Null(OneTimeCode.Accepts(secret, wrong, now, used: 0)));
        });

    [Fact]
    public void A_phone_reads_who_and_where()
    {
        Assert.Equal("otpauth://totp/The%20Guild%3A%20A%26B:odile%40example.test?secret=GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ&issuer=The%20Guild%3A%20A%26B", OneTimeCode.Address("The Guild: A&B", "odile@example.test", Secret));
        Assert.Equal(20, OneTimeCode.NewSecret().Length);
        Assert.NotEqual(OneTimeCode.NewSecret(), OneTimeCode.NewSecret());
    }

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
