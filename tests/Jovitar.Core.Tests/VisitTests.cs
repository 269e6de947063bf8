using Jovitar.Core.Visits;

namespace Jovitar.Core.Tests;

public sealed class VisitTests
{
    [Theory]
    [InlineData("Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:128.0) Gecko/20100101 Firefox/128.0", null, true)]
    [InlineData("Mozilla/5.0 (iPhone; CPU iPhone OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.5 Mobile/15E148 Safari/604.1", "", true)]
    [InlineData("Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0.0.0 Safari/537.36", "prefetch;prerender", false)]
    [InlineData("Mozilla/5.0 (compatible; ExampleBot/2.1; +https://crawler.example/bot.html)", null, false)]
    [InlineData("ExampleSpider", null, false)]
    [InlineData("curl/8.5.0", null, false)]
    [InlineData("python-requests/2.31", null, false)]
    [InlineData("", null, false)]
    [InlineData(null, null, false)]
    public void Who_looks_counts_and_what_reads_without_looking_does_not(string? agent, string? purpose, bool counts) => Assert.Equal(counts, Visit.Counts(agent, purpose));
}
