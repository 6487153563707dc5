using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Froe.Bench;

/// <summary>A server process of its own on a database, as people use it.</summary>
internal sealed class BenchServer : IDisposable
{
    /// <summary>Everybody's password.</summary>
    public const string Password = "bench password, long enough";

    private readonly Process process;
    private readonly string address;

    private BenchServer(Process process, string address) => (this.process, this.address) = (process, address);

    /// <summary>Starts one; the first sign-in waits until it answers.</summary>
    /// <param name="more">Settings besides, by their names in the environment.</param>
    public static BenchServer Start(string database, int port, params (string Name, string Value)[] more)
    {
        var address = $"http://127.0.0.1:{port}";
        // A server left by a bench that was ended would answer in this one's place.
        if (System.Net.NetworkInformation.IPGlobalProperties.GetIPGlobalProperties().GetActiveTcpListeners().Any(l => l.Port == port))
            throw new InvalidOperationException($"Something listens on port {port} already, perhaps a server of an earlier bench. End it first.");
        var start = new ProcessStartInfo("dotnet") { WorkingDirectory = Path.Combine(Figure.Env("FROE_ROOT"), "src", "Froe.Server"), RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var a in (string[])[Figure.Env("FROE_SERVER"), "--urls", address]) start.ArgumentList.Add(a);
        start.Environment["Froe__Database"] = database;
        start.Environment["Froe__FreeGuesses"] = "100000";
        // What is measured is the pages, not the hourly work beside them.
        start.Environment["Froe__SealMinutes"] = "0";
        start.Environment["Froe__Reader"] = Figure.Env("FROE_TOOL");
        foreach (var (name, value) in more) start.Environment[name] = value;
        var process = Process.Start(start)!;
        // What a server said while it was measured is there when a figure surprises.
        var log = TextWriter.Synchronized(new StreamWriter(Path.Combine(Figure.Env("FROE_BENCH"), $"server-{port}.log")) { AutoFlush = true });
        process.OutputDataReceived += (_, line) => log.WriteLine(line.Data);
        process.ErrorDataReceived += (_, line) => log.WriteLine(line.Data);
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        return new BenchServer(process, address);
    }

    /// <summary>A signed-in person's client.</summary>
    /// <param name="Http">For what is not measured, or measured one at a time.</param>
    /// <param name="Lean">For measuring how much the server can do.</param>
    /// <param name="Cookie">The session, as a header.</param>
    /// <param name="Token">The form token.</param>
    public sealed record SignedIn(HttpClient Http, LeanConnection Lean, string Cookie, string Token);

    /// <summary>Signs a person in.</summary>
    public async Task<SignedIn> SignInAsync(string login)
    {
        var cookies = new CookieContainer();
        var http = new HttpClient(new SocketsHttpHandler { MaxConnectionsPerServer = 32, CookieContainer = cookies }) { BaseAddress = new Uri(address) };
        for (var i = 0; ; i++)
            try
            {
                await RefreshAsync();
                break;
            }
            catch (HttpRequestException) when (i < 100)
            {
                await Task.Delay(200);
            }
        (await http.PostAsJsonAsync("/api/session", new { login, password = Password })).EnsureSuccessStatusCode();
        await RefreshAsync();
        var (cookie, token) = (cookies.GetCookieHeader(http.BaseAddress), http.DefaultRequestHeaders.GetValues("X-Froe-Form").Single());
        return new SignedIn(http, new LeanConnection(http.BaseAddress, cookie, token), cookie, token);

        async Task RefreshAsync()
        {
            var session = await http.GetFromJsonAsync<JsonElement>("/api/session");
            http.DefaultRequestHeaders.Remove("X-Froe-Form");
            http.DefaultRequestHeaders.Add("X-Froe-Form", session.GetProperty("formToken").GetString());
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        process.Kill(entireProcessTree: true);
        process.Dispose();
    }
}
