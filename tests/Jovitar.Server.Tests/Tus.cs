using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Text;

namespace Jovitar.Server.Tests;

/// <summary>The upload protocol spoken by hand, as its text has it (tus resumable upload protocol 1.0.0).</summary>
internal static class Tus
{
    public static string Metadata(string intake, string name, string path = "") =>
        string.Join(',', new[] { ("intake", intake), ("filename", name), ("path", path) }.Select(p => $"{p.Item1} {Convert.ToBase64String(Encoding.UTF8.GetBytes(p.Item2))}"));

    public static async Task<HttpResponseMessage> TusAsync(this HttpClient client, HttpMethod method, string address, HttpContent? content = null, params (string, string)[] headers)
    {
        using var request = new HttpRequestMessage(method, address) { Content = content };
        request.Headers.Add("Tus-Resumable", "1.0.0");
        foreach (var (name, value) in headers)
        {
            request.Headers.TryAddWithoutValidation(name, value);
        }

        return await client.SendAsync(request);
    }

    /// <summary>Announces an upload and gives its address.</summary>
    public static async Task<string> CreateAsync(this HttpClient client, string intake, string name, long bytes, string path = "")
    {
        var answer = await client.TusAsync(HttpMethod.Post, "/api/uploads", null, ("Upload-Length", bytes.ToString(CultureInfo.InvariantCulture)), ("Upload-Metadata", Metadata(intake, name, path)));
        Assert.Equal(HttpStatusCode.Created, answer.StatusCode);
        return answer.Headers.Location!.ToString();
    }

    public static Task<HttpResponseMessage> PatchAsync(this HttpClient client, string address, long offset, HttpContent part, params (string, string)[] headers)
    {
        part.Headers.ContentType = new MediaTypeHeaderValue("application/offset+octet-stream");
        return client.TusAsync(HttpMethod.Patch, address, part, [("Upload-Offset", offset.ToString(CultureInfo.InvariantCulture)), .. headers]);
    }

    public static async Task<long> OffsetAsync(this HttpClient client, string address)
    {
        var answer = await client.TusAsync(HttpMethod.Head, address);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return long.Parse(answer.Headers.GetValues("Upload-Offset").Single(), CultureInfo.InvariantCulture);
    }

    /// <summary>Bytes whose line breaks after some of them.</summary>
    public sealed class Broken(byte[] bytes, int after) : HttpContent
    {
        protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
        {
            await stream.WriteAsync(bytes.AsMemory(0, after));
            await stream.FlushAsync();
            throw new IOException("the line broke");
        }

        protected override bool TryComputeLength(out long length)
        {
            length = bytes.Length;
            return true;
        }
    }
}
