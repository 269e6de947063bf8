using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;

namespace Jovitar.Server.Tests;

/// <summary>Uploads against the protocol's own text: tus resumable upload protocol 1.0.0.</summary>
public sealed class UploadTests
{
    [Fact]
    public async Task An_upload_in_three_parts_is_one_photo()
    {
        await using var site = await Site.StartAsync();
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(1);
        var address = await owner.CreateAsync(await owner.IntakeAsync(), "one.jpg", bytes.Length, "day 2/pier");
        foreach (var (from, to) in ((int, int)[])[(0, 1000), (1000, 5000), (5000, bytes.Length)])
        {
            var answer = await owner.PatchAsync(address, from, new ByteArrayContent(bytes[from..to]));
            Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
            Assert.Equal(to, int.Parse(answer.Headers.GetValues("Upload-Offset").Single(), System.Globalization.CultureInfo.InvariantCulture));
            Assert.Equal("1.0.0", answer.Headers.GetValues("Tus-Resumable").Single());
            Assert.True(answer.Headers.Contains("Upload-Expires"));
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 1);
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), await site.ScalarAsync<string>("select encode(hash, 'hex') from photo"));
        Assert.Equal("day 2/pier/one.jpg", await site.ScalarAsync<string>("select path || '/' || file_name from intake_file"));
        Assert.Equal(bytes.Length, await owner.OffsetAsync(address));
        await site.VerifyAsync();
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
    }

    [Fact]
    public async Task Uploads_cut_at_random_bytes_go_on_where_they_stopped()
    {
        await using var site = await Site.StartAsync(process: false);
        var (process, owner) = await ServerProcess.StartAsync(site);
        var intake = await owner.IntakeAsync();
        var random = new Random(77);
        for (var n = 0; n < 12; n++)
        {
            var bytes = Acts.Photo(100 + n, 1200, 800);
            var address = await owner.CreateAsync(intake, $"cut{n}.jpg", bytes.Length);
            var offset = 0L;
            for (var breaks = 0; breaks < 4; breaks++)
            {
                var rest = bytes[(int)offset..];
                await Assert.ThrowsAnyAsync<Exception>(() => owner.PatchAsync(address, offset, new Tus.Broken(rest, random.Next(rest.Length))));
                var stands = await owner.OffsetAsync(address);
                Assert.InRange(stands, offset, bytes.Length);
                offset = stands;
            }

            // What came before the last break may be noted only now: then the sender is told where it stands, and goes on from there.
            HttpResponseMessage answer;
            while ((answer = await owner.PatchAsync(address, offset, new ByteArrayContent(bytes[(int)offset..]))).StatusCode == HttpStatusCode.Conflict)
            {
                offset = await owner.OffsetAsync(address);
            }

            Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
            Assert.Equal(1, await site.ScalarAsync<long>($"select count(*) from photo where hash = decode('{Convert.ToHexStringLower(SHA256.HashData(bytes))}', 'hex')"));
        }

        await site.UntilAsync("select count(*) from photo where state = 'ready' and stage = 2", 12);
        Assert.Equal(12, await site.ScalarAsync<long>("select count(*) from intake_file"));
        await site.VerifyAsync();
        process.Kill();
        process.Dispose();
    }

    [Fact]
    public async Task A_part_that_does_not_fit_its_checksum_is_not_kept()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(2);
        var address = await owner.CreateAsync(await owner.IntakeAsync(), "sum.jpg", bytes.Length);
        string Sum(byte[] of) => $"sha256 {Convert.ToBase64String(SHA256.HashData(of))}";
        Assert.Equal(460, (int)(await owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..4000]), ("Upload-Checksum", Sum(bytes[..3999])))).StatusCode);
        Assert.Equal(0, await owner.OffsetAsync(address));
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..4000]), ("Upload-Checksum", "crc7 abc"))).StatusCode);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..4000]), ("Upload-Checksum", Sum(bytes[..4000])))).StatusCode);
        Assert.Equal(4000, await owner.OffsetAsync(address));
    }

    [Fact]
    public async Task What_the_protocol_forbids_is_answered_as_it_says()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var options = await owner.SendAsync(new HttpRequestMessage(HttpMethod.Options, "/api/uploads"));
        Assert.Equal(HttpStatusCode.NoContent, options.StatusCode);
        Assert.Equal("1.0.0", options.Headers.GetValues("Tus-Version").Single());
        Assert.Contains("creation-with-upload", options.Headers.GetValues("Tus-Extension").Single(), StringComparison.Ordinal);
        var noVersion = await owner.PostAsync("/api/uploads", null);
        Assert.Equal(HttpStatusCode.PreconditionFailed, noVersion.StatusCode);
        Assert.Equal("1.0.0", noVersion.Headers.GetValues("Tus-Version").Single());
        Assert.Equal(HttpStatusCode.BadRequest, (await owner.TusAsync(HttpMethod.Post, "/api/uploads", null, ("Upload-Metadata", Tus.Metadata(intake, "a.jpg")))).StatusCode);
        var address = await owner.CreateAsync(intake, "a.jpg", 100);
        Assert.Equal(HttpStatusCode.Conflict, (await owner.PatchAsync(address, 5, new ByteArrayContent(new byte[5]))).StatusCode);
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, (await owner.TusAsync(HttpMethod.Patch, address, new StringContent("x"), ("Upload-Offset", "0"))).StatusCode);
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await owner.PatchAsync(address, 0, new ByteArrayContent(new byte[101]))).StatusCode);
        Assert.Equal(0, await owner.OffsetAsync(address));
        Assert.Equal(HttpStatusCode.NoContent, (await owner.TusAsync(HttpMethod.Delete, address)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.TusAsync(HttpMethod.Head, address)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PatchAsync(address, 0, new ByteArrayContent(new byte[5]))).StatusCode);
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
        var visitor = site.Visitor();
        Assert.Equal(HttpStatusCode.Unauthorized, (await visitor.TusAsync(HttpMethod.Head, address)).StatusCode);
    }

    [Fact]
    public async Task A_file_over_the_limit_is_refused_before_a_byte_is_sent_and_stands_in_the_intake_with_its_reason()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var answer = await owner.TusAsync(HttpMethod.Post, "/api/uploads", null, ("Upload-Length", $"{300L << 20}"), ("Upload-Metadata", Tus.Metadata(intake, "large.jpg")));
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.StatusCode);
        Assert.Contains("200 MB", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var detail = await (await owner.GetAsync($"/api/intakes/{intake}")).ReadAsync();
        Assert.Equal(1, detail.GetProperty("intake").GetProperty("failed").GetInt32());
        Assert.Equal("TooManyBytes", detail.GetProperty("failures")[0].GetProperty("cause").GetString());
    }

    [Fact]
    public async Task An_upload_whose_end_was_never_written_down_is_taken_in_when_it_is_asked_after()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(3);
        var address = await owner.CreateAsync(await owner.IntakeAsync(), "left.jpg", bytes.Length);
        // What a process leaves that is killed between the last byte and its row: somebody's claim, which runs out.
        var id = address.Split('/')[^1];
        await site.ScalarAsync<Guid>($"update upload set claim = gen_random_uuid(), claimed_until = now() + interval '1 hour' where id = '{id}' returning id");
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes))).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from photo"));
        await site.ScalarAsync<Guid>($"update upload set claimed_until = now() - interval '1 second' where id = '{id}' returning id");
        Assert.Equal(bytes.Length, await owner.OffsetAsync(address));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from photo"));
        Assert.Equal(bytes.Length, await owner.OffsetAsync(address));
        Assert.Equal(1, await site.ScalarAsync<long>("select count(*) from intake_file"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task Two_connections_that_write_to_one_upload_do_not_mix()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var bytes = Acts.Photo(31, 900, 600);
        var address = await owner.CreateAsync(await owner.IntakeAsync(), "twice.jpg", bytes.Length);
        var half = bytes.Length / 2;
        // Both believe to stand at the beginning: a line that seemed dead was only slow.
        var answers = await Task.WhenAll(owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..half])), owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..half])));
        Assert.Equal([HttpStatusCode.NoContent, HttpStatusCode.Conflict], answers.Select(a => a.StatusCode).Order());
        Assert.Equal(half, await owner.OffsetAsync(address));
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, half, new ByteArrayContent(bytes[half..]))).StatusCode);
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), await site.ScalarAsync<string>("select encode(hash, 'hex') from photo"));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task A_large_file_lies_in_parts_and_becomes_one_original()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var bytes = new byte[(34 << 20) + 5];
        Acts.Photo(33).CopyTo(bytes, 0);
        bytes[^1] = 9;
        var hash = SHA256.HashData(bytes);
        var address = await owner.CreateAsync(intake, "large.jpg", bytes.Length);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..^5]))).StatusCode);
        Assert.Equal(3, await site.ScalarAsync<long>("select count(*) from upload_part"));
        Assert.Equal(bytes.Length - 5, await owner.OffsetAsync(address));
        // With a checksum all of a request counts or nothing, however many parts it is.
        var wrong = await owner.PatchAsync(address, bytes.Length - 5, new ByteArrayContent(bytes[^5..]), ("Upload-Checksum", $"sha256 {Convert.ToBase64String(hash)}"));
        Assert.Equal(460, (int)wrong.StatusCode);
        var right = await owner.PatchAsync(address, bytes.Length - 5, new ByteArrayContent(bytes[^5..]), ("Upload-Checksum", $"sha256 {Convert.ToBase64String(SHA256.HashData(bytes[^5..]))}"));
        Assert.Equal(HttpStatusCode.NoContent, right.StatusCode);
        Assert.Equal(Convert.ToHexStringLower(hash), await site.ScalarAsync<string>("select encode(hash, 'hex') from photo"));
        Assert.Equal(Mark(bytes), await site.ScalarAsync<string>("select encode(mark, 'hex') from intake_file"));
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from upload_part"));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "arriving")));
        Assert.Empty(Directory.GetFiles(Path.Combine(site.Data, "unfinished")));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task An_upload_that_lacks_a_part_is_named_and_begins_again()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var bytes = Acts.Photo(34);
        var address = await owner.CreateAsync(intake, "lost.jpg", bytes.Length);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 0, new ByteArrayContent(bytes[..1000]))).StatusCode);
        File.Delete(Directory.GetFiles(Path.Combine(site.Data, "arriving")).Single());
        var said = new StringWriter();
        Assert.False(await Verify.DataCheck.RunAsync(site.Data, site.Connection, said, CancellationToken.None));
        Assert.Contains("uploads on their way lack a part", said.ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.PatchAsync(address, 1000, new ByteArrayContent(bytes[1000..]))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await owner.TusAsync(HttpMethod.Head, address)).StatusCode);
        Assert.Equal(0, await site.ScalarAsync<long>("select count(*) from intake_file"));
        await site.VerifyAsync();
    }

    [Fact]
    public async Task What_a_version_before_this_one_had_begun_goes_on_where_it_stopped()
    {
        await using var site = await Site.StartAsync(process: false);
        var (process, owner) = await ServerProcess.StartAsync(site);
        var bytes = Acts.Photo(32, 900, 600);
        var address = await owner.CreateAsync(await owner.IntakeAsync(), "older.jpg", bytes.Length);
        process.Kill();
        process.Dispose();
        // It wrote one file each, named after the upload, and its length was where it stood.
        await File.WriteAllBytesAsync(Path.Combine(site.Data, "arriving", Guid.Parse(address.Split('/')[^1]).ToString("N")), bytes[..5000]);
        (process, owner) = await ServerProcess.StartAsync(site);
        await site.UntilAsync("select come from upload", 5000);
        Assert.Equal(5000, await owner.OffsetAsync(address));
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(address, 5000, new ByteArrayContent(bytes[5000..]))).StatusCode);
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), await site.ScalarAsync<string>("select encode(hash, 'hex') from photo"));
        process.Kill();
        process.Dispose();
    }

    [Fact]
    public async Task After_a_reload_the_server_knows_what_is_here_and_what_stopped_where()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        var (one, two) = (Acts.Photo(4), Acts.Photo(5));
        await owner.BringAsync(intake, "one.jpg", one);
        var address = await owner.CreateAsync(intake, "two.jpg", two.Length, "pier");
        await owner.PatchAsync(address, 0, new ByteArrayContent(two[..700]));
        var here = await (await owner.SendAsync(HttpMethod.Post, $"/api/intakes/{intake}/here", new { files = new[] { new { fileName = "two.jpg", path = "pier", bytes = two.Length }, new { fileName = "one.jpg", path = "", bytes = one.Length } } })).ReadAsync();
        // The first came by itself and nobody said when it was changed: its content must say whether it is the same.
        Assert.Equal(0, here.GetProperty("here").GetArrayLength());
        Assert.Equal([1], here.GetProperty("perhaps").EnumerateArray().Select(n => n.GetInt32()));
        var asked = await (await owner.SendAsync(HttpMethod.Post, $"/api/intakes/{intake}/here", new { files = new[] { new { fileName = "one.jpg", path = "", bytes = one.Length, mark = Mark(one) } } })).ReadAsync();
        Assert.Equal([0], asked.GetProperty("here").EnumerateArray().Select(n => n.GetInt32()));
        Assert.Equal(700, here.GetProperty("open")[0].GetProperty("sent").GetInt64());
        Assert.EndsWith(here.GetProperty("open")[0].GetProperty("id").GetString()!, address, StringComparison.Ordinal);
    }

    /// <summary>SHA-256 of the SHA-256s of pieces of 4 MiB, as a browser works it out.</summary>
    static string Mark(byte[] bytes) => Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData([.. bytes.Chunk(4 << 20).SelectMany(System.Security.Cryptography.SHA256.HashData)]));

    [Fact]
    public async Task Two_files_of_one_name_folder_and_length_are_two()
    {
        await using var site = await Site.StartAsync(workers: 0);
        var owner = await site.OwnerAsync();
        var intake = await owner.IntakeAsync();
        // As two cameras write them: the same name, the same number of bytes, another picture. They differ in their last bytes only, past the first piece.
        var one = new byte[(4 << 20) + 300_000];
        Acts.Photo(8).CopyTo(one, 0);
        var two = one.ToArray();
        two[^1] = 7;
        async Task<string> SendAsync(byte[] bytes, string changed)
        {
            var answer = await owner.TusAsync(
                HttpMethod.Post, "/api/uploads", null, ("Upload-Length", $"{bytes.Length}"), ("Upload-Metadata", $"{Tus.Metadata(intake, "IMG_0001.jpg", "DCIM")},changed {Convert.ToBase64String(System.Text.Encoding.ASCII.GetBytes(changed))}"));
            return answer.Headers.Location!.ToString();
        }

        async Task<(int[] Here, int[] Perhaps)> AskAsync(object file)
        {
            var said = await (await owner.PostAsJsonAsync($"/api/intakes/{intake}/here", new { files = new[] { file } })).ReadAsync();
            int[] All(string name) => [.. said.GetProperty(name).EnumerateArray().Select(n => n.GetInt32())];
            return (All("here"), All("perhaps"));
        }

        // Both have begun; the end of the first does not take the second away.
        var (first, second) = (await SendAsync(one, "1000"), await SendAsync(two, "2000"));
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(first, 0, new ByteArrayContent(one))).StatusCode);
        var (here, perhaps) = await AskAsync(new { fileName = "IMG_0001.jpg", path = "DCIM", bytes = one.Length, changed = 1000L });
        Assert.Equal([0], here);
        Assert.Empty(perhaps);
        (here, perhaps) = await AskAsync(new { fileName = "IMG_0001.jpg", path = "DCIM", bytes = two.Length, changed = 2000L });
        Assert.Empty(here);
        Assert.Equal([0], perhaps);
        (here, _) = await AskAsync(new { fileName = "IMG_0001.jpg", path = "DCIM", bytes = two.Length, changed = 2000L, mark = Mark(two) });
        Assert.Empty(here);
        (here, _) = await AskAsync(new { fileName = "IMG_0001.jpg", path = "DCIM", bytes = one.Length, changed = 3000L, mark = Mark(one) });
        Assert.Equal([0], here);
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PatchAsync(second, 0, new ByteArrayContent(two))).StatusCode);
        Assert.Equal(2, await site.ScalarAsync<long>("select count(*) from photo"));
    }
}
