using System.Net;
using System.Text;
using System.Text.Json;
using Jovitar.Server.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;

namespace Jovitar.Server.Tests;

/// <summary>Every door there is, found from the description and from the routes themselves: who gets through, and what happens to what makes no sense.</summary>
public sealed class EndpointTests
{
    /// <summary>What visitors say about photos: they have no account that anybody could use in their name.</summary>
    static readonly string[] FromVisitors = ["POST /site/rate/{photo}", "PUT /site/choosing/{album}/{photo}", "DELETE /site/choosing/{album}/{photo}", "POST /site/choosing/{album}/sent", "POST /{address}/photo/{photo}", "POST /album/{address}/photo/{photo}", "POST /category/{address}/photo/{photo}", "POST /favourites/{address}/photo/{photo}", "POST /enter/{secret}", "POST /site/enter", "POST /site/leave", "POST /site/sign-in", "POST /sign-in/{secret}", "POST /site/join", "POST /site/account/password", "POST /site/account/others", "POST /send/{secret}", "POST /sent/yours", "POST /sent/{key}/photos", "PUT /sent/{key}/photos/{photo}", "DELETE /sent/{key}/photos/{photo}", "PUT /sent/{key}/order", "POST /sent/{key}/sent", "POST /basket", "POST /basket/lines", "POST /basket/several", "POST /basket/coupons", "POST /basket/check-out", "POST /order/{secret}/pay", "POST /payments/notices"];

    /// <summary>Forms of the workroom that open in a window of their own, where no script could send the token: they change nothing but a cookie, and not for a form of another website.</summary>
    static readonly string[] FromForms = ["POST /site/as", "POST /site/as/end"];

    /// <summary>Operations that anybody may call; a new one must be added here on purpose.</summary>
    static readonly HashSet<string> ForAnybody =
    [
        "GET /api/session", "POST /api/session", "DELETE /api/session", "POST /api/owner", "POST /api/session/passkey/begin", "POST /api/session/passkey", "POST /api/invitation/look", "POST /api/invitation", "POST /api/way-in", "POST /api/way-in/look", "POST /api/way-in/use", "GET /site/view/{address}", "GET /site/view/album/{address}", "GET /site/view/category/{address}", "GET /album/{address}", "GET /album/{address}/photo/{photo}", "GET /category/{address}",
        "GET /category/{address}/photo/{photo}", SaysSeen, .. FromVisitors,
        "GET /favourites/{address}", "GET /favourites/{address}/photo/{photo}", "GET /favourites/{address}/photo/{photo}/save", "GET /site/view/favourites/{address}", "GET /embed/favourites/{address}", "GET /site/view/embed/favourites/{address}",
        // Not in the description: pages, renditions that are public, health, the description itself, and the empty workroom that signs one in.
        "GET /", "GET /feed.xml", "GET /album/{address}/feed.xml", "GET /category/{address}/feed.xml", "GET /robots.txt", "GET /sitemap.xml", "GET /sitemap/{part:int}.xml", "GET /i/{picture}/{recipe:int}-{width:int}.webp", "GET /i/{picture}/{recipe:int}-card.jpg", "GET /file/{file:guid}/{name}", "GET /{address}", "GET /{address}/photo/{photo}", "GET /{address}/photo/{photo}/save", "GET /album/{address}/photo/{photo}/save", "GET /category/{address}/photo/{photo}/save", "GET /{address}/save", "GET /album/{address}/save", "GET /category/{address}/save", "GET /favourites/{address}/save", "ANY /health/live", "ANY /health/ready", "GET /openapi/{documentName}.json",
        "GET /embed/{address}", "GET /embed/album/{address}", "GET /embed/category/{address}", "GET /site/view/embed/{address}", "GET /site/view/embed/album/{address}", "GET /site/view/embed/category/{address}", "GET /oembed", "GET /embed.js", "GET /enter/{secret}", "GET /site/choosing/{album}", "GET /sign-in", "GET /sign-in/join", "GET /sign-in/{secret}", "GET /logo/{picture}.webp",
        "GET /site/account/kept.json", "GET /send/{secret}", "GET /sent/yours", "GET /sent/{key}", "GET /sent/{key}/state", "GET /sent/{key}/photos/{photo:guid}/{width:int}.webp",
        "GET /buy/{album}/{photo}", "GET /buy/several/{photos}", "GET /basket", "GET /basket/check-out", "GET /order/{secret}", "GET /order/{secret}/files/{line:int}", "GET /order/{secret}/invoices/{number:int}",
        "GET /workroom", "GET /workroom/{**station}", "ANY /{*path:nonfile}",
    ];

    /// <summary>Operations for whoever is signed in, whatever their role: one's own account.</summary>
    static readonly HashSet<string> ForOneself = ["GET /api/account", "PUT /api/account/password", "DELETE /api/account/sessions/{session}", "POST /api/account/passkeys/begin", "POST /api/account/passkeys", "DELETE /api/account/passkeys/{passkey}", "POST /api/account/second-step", "PUT /api/account/second-step", "POST /api/account/second-step/off"];

    /// <summary>Operations for who looks after the site itself.</summary>
    static readonly HashSet<string> ForTheOwner =
    [
        "PUT /api/site", "PUT /api/shop", "POST /api/orders/{order}/refunds", "POST /api/orders/{order}/forget", "PUT /api/clearance", "PUT /api/records/kept", "POST /api/comments/remove", "GET /api/people", "POST /api/people/invitations", "POST /api/people/invitations/{invitation}/again", "DELETE /api/people/invitations/{invitation}",
        "PUT /api/members/joining", "GET /api/members/{member}/kept.json", "POST /api/members/{member}/erase", "PUT /api/people/{account}/role", "DELETE /api/people/{account}", "DELETE /api/people/{account}/sessions", "DELETE /api/people/{account}/second-step",
    ];

    /// <param name="Takes">The kind of body it takes.</param>
    sealed record Door(string Method, string Pattern, string Takes = "application/json")
    {
        public string Name => $"{Method} {Pattern}";

        /// <summary>An address of it with something of the right kind in every place.</summary>
        public string Address() => System.Text.RegularExpressions.Regex.Replace(Pattern, @"\{([^}:]+)(:[^}]+)?\}", m => m.Groups[1].Value switch
        {
            "picture" => new string('a', 64),
            "recipe" => "1",
            "width" => "480",
            "documentName" => "v1",
            "address" => "somewhere",
            "scanner" => "none",
            "part" => "1",
            "line" or "number" => "1",
            _ => Guid.Empty.ToString(),
        }).Replace("*", "", StringComparison.Ordinal);
    }

    /// <summary>That a visitor has looked at a photo: counted, and nothing that people made is changed by it.</summary>
    const string SaysSeen = "POST /site/seen/{photo}";

    static IReadOnlyList<Door> Doors(Site site) =>
        [.. site.Part<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .SelectMany(e => (e.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods is { Count: > 0 } methods ? methods : ["ANY"]).Select(m => new Door(m, $"/{e.RoutePattern.RawText!.Trim('/')}", e.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes[0] ?? "application/json")))
            .Distinct()];

    static async Task<HttpStatusCode> CallAsync(HttpClient client, Door door)
    {
        using var request = new HttpRequestMessage(new HttpMethod(door.Method == "ANY" ? "GET" : door.Method), door.Address());
        request.Headers.TryAddWithoutValidation("If-Match", "1");
        request.Headers.TryAddWithoutValidation("Tus-Resumable", "1.0.0");
        if (door.Method is "POST" or "PUT" or "PATCH")
        {
            request.Content = new StringContent("{}", Encoding.UTF8, door.Takes);
        }

        using var time = new CancellationTokenSource(TimeSpan.FromSeconds(10));
        using var answer = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, time.Token);
        return answer.StatusCode;
    }

    [Fact]
    public async Task Every_door_is_closed_to_those_it_is_not_for()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var (nobody, noRole, member, editor) = (site.Visitor(), await site.AccountAsync("Guest", "None"), await site.AccountAsync("Ada", "None"), await site.EditorAsync("Tomas"));
        await site.WriteAsync("update account set role = 'Member' where name = 'Ada'");
        await Site.TokenAsync(nobody);
        var doors = Doors(site);
        Assert.True(doors.Count > 80, $"only {doors.Count} doors were found");
        var described = (await (await owner.GetAsync("/openapi/v1.json")).ReadAsync()).GetProperty("paths").EnumerateObject()
            .SelectMany(p => p.Value.EnumerateObject().Select(o => $"{o.Name.ToUpperInvariant()} {p.Name}")).ToHashSet();
        Assert.Subset(doors.Select(d => d.Name.Replace(":int", "", StringComparison.Ordinal)).ToHashSet(), described);
        foreach (var door in doors)
        {
            var asNobody = await CallAsync(nobody, door);
            if (ForAnybody.Contains(door.Name))
            {
                Assert.True(asNobody is not (HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden) || door.Name == "POST /api/session", $"{door.Name} answers anybody {asNobody}");
                continue;
            }

            Assert.True(asNobody == HttpStatusCode.Unauthorized, $"{door.Name} answers nobody {asNobody}");
            var asNoRole = await CallAsync(noRole, door);
            Assert.True(asNoRole == HttpStatusCode.Forbidden != ForOneself.Contains(door.Name), $"{door.Name} answers an account without a role {asNoRole}");
            var asMember = await CallAsync(member, door);
            Assert.True(asMember == HttpStatusCode.Forbidden != ForOneself.Contains(door.Name), $"{door.Name} answers a member {asMember}");
            if (door.Pattern != "/api/desk/news" && door.Name != "DELETE /api/account/sessions/{session}")
            {
                var asEditor = await CallAsync(editor, door);
                Assert.True(asEditor is not HttpStatusCode.Unauthorized && asEditor == HttpStatusCode.Forbidden == ForTheOwner.Contains(door.Name) && (int)asEditor < 500, $"{door.Name} answers an editor {asEditor}");
            }
        }
    }

    /// <summary>Also one that is added tomorrow: it is shut there without saying anything of it.</summary>
    [Fact]
    public async Task On_a_closed_site_every_door_for_anybody_is_shut_but_those_that_say_that_they_never_are()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var nobody = site.Visitor();
        await Site.TokenAsync(nobody);
        await site.WriteAsync("update site set is_open = false");
        var always = site.Part<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>().Where(e => e.Metadata.GetMetadata<AlwaysOpen>() is not null).Select(e => $"/{e.RoutePattern.RawText!.Trim('/')}").ToHashSet();
        var shut = Doors(site).Where(d => ForAnybody.Contains(d.Name) && !always.Contains(d.Pattern)).ToArray();
        Assert.True(shut.Length > 20, $"only {shut.Length} doors for visitors were found");
        foreach (var door in shut)
        {
            Assert.True(await CallAsync(nobody, door) == HttpStatusCode.ServiceUnavailable, $"{door.Name} lets a visitor in");
        }
    }

    [Fact]
    public async Task Every_door_that_changes_something_asks_for_the_token_of_the_one_who_calls()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var (owner, editor) = (await site.OwnerAsync(), await site.EditorAsync("Tomas"));
        var others = editor.DefaultRequestHeaders.GetValues("X-Jovitar-Forgery").Single();
        var unsafeDoors = Doors(site).Where(d => d.Method is not ("GET" or "HEAD" or "OPTIONS" or "ANY") && d.Name != SaysSeen && !FromVisitors.Contains(d.Name) && !FromForms.Contains(d.Name)).ToArray();
        Assert.True(unsafeDoors.Length > 40, $"only {unsafeDoors.Length} doors that change something were found");
        var before = await site.ScalarAsync<long>("select count(*) from act");
        foreach (var token in (string?[])[null, "", "AAAA", others])
        {
            owner.DefaultRequestHeaders.Remove("X-Jovitar-Forgery");
            if (token is not null)
            {
                owner.DefaultRequestHeaders.Add("X-Jovitar-Forgery", token);
            }

            foreach (var door in unsafeDoors)
            {
                var answer = await CallAsync(owner, door);
                Assert.True(answer == HttpStatusCode.BadRequest, $"{door.Name} answers {answer} to the token “{token}”");
            }
        }

        Assert.Equal(before, await site.ScalarAsync<long>("select count(*) from act"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from album"));
    }

    [Fact]
    public async Task What_says_nothing_of_whom_it_is_open_to_is_open_to_editors_only()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var policies = site.Part<IAuthorizationPolicyProvider>();
        var fallback = await policies.GetFallbackPolicyAsync();
        Assert.NotNull(fallback);
        Assert.Contains(fallback.Requirements, r => r is Access.RightNeeded { Right: Core.Access.Right.Change });
    }

    /// <summary>Bodies that are no bodies: nothing, the wrong kind, too much, characters that no text has.</summary>
    static IEnumerable<string> Senseless(JsonElement schema, JsonElement schemas)
    {
        yield return "";
        yield return "null";
        yield return "{}";
        yield return "[]";
        yield return "\"text\"";
        yield return "{\"photos\":[null]}";
        yield return new string('[', 2000);
        foreach (var value in (string[])
            ["null", "1", "99", "-1", "\"\"", "\" \"", "\"a\\u0000b\"", "\"\\ud800\"", "[]", "[null]", "{}", "true", "1e400", "99999999999999999999", "\"00000000-0000-0000-0000-000000000000\"",
             $"\"{new string('x', 30000)}\"", $"[{string.Join(',', Enumerable.Repeat("\"x\"", 6000))}]", "\"9999-99-99T99:99:99Z\"", "\"0001-01-01T00:00:00Z\""])
        {
            foreach (var field in Resolve(schema, schemas).TryGetProperty("properties", out var fields) ? fields.EnumerateObject().ToArray() : [])
            {
                // Everything else as it should be, so that this one field is what is met.
                yield return $"{{{string.Join(',', fields.EnumerateObject().Select(f => $"\"{f.Name}\":{(f.Name == field.Name ? value : Sensible(f.Value, schemas))}"))}}}";
            }
        }
    }

    static JsonElement Resolve(JsonElement schema, JsonElement schemas)
    {
        while (true)
        {
            if (schema.TryGetProperty("$ref", out var reference))
            {
                schema = schemas.GetProperty(reference.GetString()!.Split('/')[^1]);
            }
            else if (schema.TryGetProperty("oneOf", out var one))
            {
                schema = one.EnumerateArray().First(s => s.TryGetProperty("$ref", out _));
            }
            else
            {
                return schema;
            }
        }
    }

    static string Sensible(JsonElement field, JsonElement schemas)
    {
        var schema = Resolve(field, schemas);
        if (schema.TryGetProperty("enum", out var choices))
        {
            return choices[0].GetRawText();
        }

        var type = schema.TryGetProperty("type", out var t) ? (t.ValueKind == JsonValueKind.Array ? t.EnumerateArray().Select(e => e.GetString()).First(s => s != "null") : t.GetString()) : "object";
        var format = schema.TryGetProperty("format", out var f) ? f.GetString() : "";
        return (type, format) switch
        {
            ("string", "uuid") => "\"00000000-0000-0000-0000-000000000001\"",
            ("string", "date-time") => "\"2026-06-13T09:00:00Z\"",
            ("string", _) => "\"album\"",
            ("integer" or "number", _) => "1",
            ("boolean", _) => "false",
            ("array", _) => "[]",
            _ => schema.TryGetProperty("properties", out var inner) ? $"{{{string.Join(',', inner.EnumerateObject().Select(p => $"\"{p.Name}\":{Sensible(p.Value, schemas)}"))}}}" : "{}",
        };
    }

    [Fact]
    public async Task No_body_whatever_is_the_servers_fault()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var document = await (await owner.GetAsync("/openapi/v1.json")).ReadAsync();
        var schemas = document.GetProperty("components").GetProperty("schemas");
        var faults = new List<string>();
        var sent = 0;
        foreach (var path in document.GetProperty("paths").EnumerateObject())
        {
            foreach (var operation in path.Value.EnumerateObject())
            {
                if (!operation.Value.TryGetProperty("requestBody", out var body) || !body.GetProperty("content").TryGetProperty("application/json", out var content))
                {
                    continue;
                }

                var door = new Door(operation.Name.ToUpperInvariant(), path.Name);
                foreach (var senseless in Senseless(content.GetProperty("schema"), schemas))
                {
                    using var request = new HttpRequestMessage(new HttpMethod(door.Method), door.Address()) { Content = new StringContent(senseless, Encoding.UTF8, "application/json") };
                    request.Headers.TryAddWithoutValidation("If-Match", "1");
                    using var answer = await owner.SendAsync(request);
                    sent++;
                    if ((int)answer.StatusCode >= 500)
                    {
                        faults.Add($"{door.Name} {(int)answer.StatusCode} {senseless[..Math.Min(120, senseless.Length)]}");
                    }
                    else if (answer.StatusCode == HttpStatusCode.BadRequest)
                    {
                        var problem = await answer.Content.ReadAsStringAsync();
                        Assert.Contains("\"title\"", problem, StringComparison.Ordinal);
                    }
                }
            }
        }

        Assert.True(sent > 800, $"only {sent} were sent");
        Assert.True(faults.Count == 0, string.Join('\n', faults.Distinct().Take(30)));
    }

    [Theory]
    [InlineData("/api/photos?q=%00")]
    [InlineData("/api/photos?at=-5")]
    [InlineData("/api/photos?at=2147483647&sort=title")]
    [InlineData("/api/photos?at=infinity")]
    [InlineData("/api/photos?taken=9999-99,0000,2026-06-13--1&pixels=99999999999-,-,4--")]
    [InlineData("/api/photos/counts?tag=%5C&notTag=,&q=%EF%BF%BF&camera=%25%5C%5C,")]
    [InlineData("/api/photos?album=nothing")]
    [InlineData("/api/photos?reversed=perhaps")]
    [InlineData("/api/tags?typed=%00")]
    [InlineData("/api/tags?typed=%25%5C_")]
    [InlineData("/api/intakes/00000000-0000-0000-0000-000000000000/files?after=99999999999")]
    [InlineData("/api/bin?until=yesterday")]
    [InlineData("/api/acts?before=nothing")]
    [InlineData("/api/files?after=nothing")]
    [InlineData("/site/view/somewhere?width=NaN")]
    [InlineData("/site/view/somewhere?width=Infinity")]
    [InlineData("/site/view/somewhere?width=wide")]
    [InlineData("/somewhere/photo/nothing")]
    [InlineData("/i/xyz/1-480.webp")]
    [InlineData("/api/renditions/xyz/480")]
    public async Task No_address_whatever_is_the_servers_fault(string address)
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        Assert.True((int)(await owner.GetAsync(address)).StatusCode < 500);
        Assert.True((int)(await site.Visitor().GetAsync(address)).StatusCode < 500);
    }

    [Fact]
    public async Task Versions_of_writes_are_asked_for_in_the_standards_words()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var photo = (await owner.BringAsync(await owner.IntakeAsync(), "one.jpg", Acts.Photo(1))).GetProperty("photo").GetString();
        async Task<HttpResponseMessage> WriteAsync(string? version)
        {
            using var request = new HttpRequestMessage(HttpMethod.Patch, $"/api/photos/{photo}") { Content = new StringContent("{\"title\":\"x\"}", Encoding.UTF8, "application/json") };
            if (version is not null)
            {
                request.Headers.TryAddWithoutValidation("If-Match", version);
            }

            return await owner.SendAsync(request);
        }

        // RFC 6585 §3, RFC 9110 §13.1.1 and §15.5.13.
        Assert.Equal(HttpStatusCode.PreconditionRequired, (await WriteAsync(null)).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await WriteAsync("latest")).StatusCode);
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await WriteAsync("7")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await WriteAsync("\"1\"")).StatusCode);
        Assert.Equal("application/problem+json", (await WriteAsync("7")).Content.Headers.ContentType!.MediaType);
    }

    [Fact]
    public async Task Head_answers_as_get_without_its_body()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var (_, photos, page, address) = await site.PublishedAsync(owner, 1);
        var hash = await site.ScalarAsync<string>("select encode(hash, 'hex') from photo");
        foreach (var (client, at) in new[]
        {
            (site.Visitor(), "/"), (site.Visitor(), $"/{address}"), (site.Visitor(), $"/{address}/photo/{photos[0]}"), (site.Visitor(), "/nowhere"), (site.Visitor(), "/workroom"), (site.Visitor(), $"/i/{hash}/1-480.webp"),
            (owner, $"/preview/{page}"), (owner, $"/api/photos/{photos[0]}/original"), (owner, $"/api/renditions/{hash}/480"),
        })
        {
            var get = await client.GetAsync(at);
            using var request = new HttpRequestMessage(HttpMethod.Head, at);
            var head = await client.SendAsync(request);
            Assert.True(get.StatusCode == head.StatusCode, $"{at}: {get.StatusCode}, {head.StatusCode}");
            Assert.Empty(await head.Content.ReadAsByteArrayAsync());
            Assert.Equal(get.Headers.ETag, head.Headers.ETag);
            Assert.Equal(get.Content.Headers.ContentType, head.Content.Headers.ContentType);
        }
    }
}
