using System.Text;
using CsCheck;
using Jovitar.Server.Access;

namespace Jovitar.Server.Tests;

/// <summary>The second step of signing in: codes that a phone shows, and those on paper.</summary>
public sealed class OneTimeCodeTests
{
    static readonly byte[] Secret = Encoding.ASCII.GetBytes("12345678901234567890");

    static DateTimeOffset At(long seconds) => DateTimeOffset.FromUnixTimeSeconds(seconds);

    /// <summary>RFC 6238, appendix B, the lines of SHA-1: the last six of their eight digits are the code of six.</summary>
    [Theory]
    [InlineData(59, "287082", 1)]
    [InlineData(1111111109, "081804", 37037036)]
    [InlineData(1111111111, "050471", 37037037)]
    [InlineData(1234567890, "005924", 41152263)]
    [InlineData(2000000000, "279037", 66666666)]
    [InlineData(20000000000, "353130", 666666666)]
    public void Codes_are_those_of_the_standard(long seconds, string code, long step)
    {
        Assert.Equal(step, OneTimeCode.Accepts(Secret, code, At(seconds), used: 0));
        Assert.Equal(code, Phone.CodeOf(Secret, step));
    }

    /// <summary>RFC 4226, appendix D: the codes of the first ten counts.</summary>
    [Fact]
    public void Counts_give_the_codes_of_the_standard()
    {
        string[] codes = ["755224", "287082", "359152", "969429", "338314", "254676", "287922", "162583", "399871", "520489"];
        Assert.Equal(codes, Enumerable.Range(0, 10).Select(n => Phone.CodeOf(Secret, n)));
        Assert.All(Enumerable.Range(1, 9), n => Assert.Equal(n, OneTimeCode.Accepts(Secret, codes[n], At(n * 30), used: 0)));
    }

    [Fact]
    public void A_code_is_good_about_its_half_minute_and_once() =>
        Gen.Select(Gen.Byte.Array[20], Gen.Long[1_000_000, 4_000_000_000], Gen.Long[-4, 4]).Sample((secret, seconds, away) =>
        {
            var (now, step) = (At(seconds), seconds / 30);
            var code = Phone.CodeOf(secret, step + away);
            if (Enumerable.Range(-1, 3).Any(d => d != away && Phone.CodeOf(secret, step + d) == code))
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
        Gen.Byte.Array[20].Sample(secret => Assert.Equal(secret, Phone.SecretOf(OneTimeCode.Written(secret))));
    }
}
