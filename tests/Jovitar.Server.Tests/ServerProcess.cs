using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;

namespace Jovitar.Server.Tests;

/// <summary>The server as a process of its own, reached over a real socket: what can be killed, and whose lines can break.</summary>
internal static class ServerProcess
{
    /// <summary>The repository around these tests.</summary>
    public static string Root()
    {
        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
        {
            if (File.Exists(Path.Combine(at.FullName, "Jovitar.slnx")))
            {
                return at.FullName;
            }
        }

        throw new InvalidOperationException("The repository is not around these tests.");
    }

    /// <summary>How long a start may take on a machine that is busy with something else.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromMinutes(1);

    /// <summary>Starts a process on a site's database and data, and signs its owner in.</summary>
    public static async Task<(Process Process, HttpClient Owner)> StartAsync(Site site, params (string Name, string Value)[] settings)
    {
        for (var tries = 1; ; tries++)
        {
            var address = $"http://127.0.0.1:{FreePort()}";
            var process = Start(site, address, settings);
            var client = new HttpClient(new SocketsHttpHandler { UseCookies = true }) { BaseAddress = new Uri(address) };
            try
            {
                if (await IsReadyAsync(process, client))
                {
                    await SignInAsync(client);
                    return (process, client);
                }

                // Somebody else may have taken its port before it did.
                Assert.True(tries < 3, $"The server ended by itself with {process.ExitCode}.");
                client.Dispose();
                process.Dispose();
            }
            catch
            {
                process.Kill();
                throw;
            }
        }
    }

    static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    static Process Start(Site site, string address, (string Name, string Value)[] settings)
    {
        var start = new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Jovitar.Server.dll"), "--contentRoot", Path.Combine(Root(), "src", "Jovitar.Server"), "--urls", address]) { RedirectStandardOutput = true };
        start.Environment["Jovitar__Data"] = site.Data;
        start.Environment["Jovitar__Database"] = site.Connection;
        start.Environment["Jovitar__Lease"] = "00:00:02";
        start.Environment["Jovitar__Log"] = "Fatal";
        foreach (var (name, value) in settings)
        {
            start.Environment[name] = value;
        }

        return Process.Start(start)!;
    }

    /// <summary>Waits until a process answers; false when it has ended before it did.</summary>
    static async Task<bool> IsReadyAsync(Process process, HttpClient client)
    {
        for (var end = DateTime.UtcNow + Patience; !process.HasExited;)
        {
            try
            {
                (await client.GetAsync("/health/ready")).EnsureSuccessStatusCode();
                return true;
            }
            catch (HttpRequestException) when (DateTime.UtcNow < end)
            {
                await Task.Delay(100);
            }
        }

        return false;
    }

    static async Task SignInAsync(HttpClient client)
    {
        await Site.TokenAsync(client);
        var owner = new { siteTitle = "Trial", name = "Odile", email = "odile@example.test", password = "ten characters and more" };
        if ((await client.PostAsJsonAsync("/api/owner", owner)).StatusCode == HttpStatusCode.Conflict)
        {
            (await client.PostAsJsonAsync("/api/session", owner)).EnsureSuccessStatusCode();
        }

        await Site.TokenAsync(client);
    }
}
