using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.Mvc.Testing.Handlers;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;

namespace Vitrine.Server.Tests;

/// <summary>The real server over a folder of its own within this process, spoken to over HTTP.</summary>
public sealed class TestServer : WorkspaceClient, IDisposable
{
    private readonly string folder = MigratedTemplate.Folder("vitrine-server-test-");
    private readonly WebApplicationFactory<Program> factory;
    private readonly Dictionary<HttpClient, CookieContainer> cookies = [];

    public TestServer(string mode = "serve", params (string Name, string Value)[] settings)
        : this(_ => { }, mode, settings) { }

    /// <param name="change">What is put in the place of the server's own parts.</param>
    public TestServer(Action<IServiceCollection> change, string mode = "serve", params (string Name, string Value)[] settings)
    {
        factory = new WebApplicationFactory<Program>().WithWebHostBuilder(host =>
            settings
                .Aggregate(host, (h, s) => h.UseSetting(s.Name, s.Value))
                .UseSetting("data", folder)
                .UseSetting("mode", mode)
                .UseSetting("urls", "http://127.0.0.1:0")
                .UseSetting("password-iterations", settings.FirstOrDefault(s => s.Name == "password-iterations").Value ?? "1")
                .ConfigureServices(services => services.AddSingleton<IStartupFilter, FromThisMachine>())
                .ConfigureTestServices(change)
        );
        Http = Stranger();
    }

    /// <summary>A browser that keeps its cookie.</summary>
    public override HttpClient Http { get; }

    /// <summary>Another browser, signed out.</summary>
    public HttpClient Stranger()
    {
        var jar = new CookieContainerHandler();
        var http = factory.CreateDefaultClient(new PageTokenHandler(), jar);
        cookies[http] = jar.Container;
        return http;
    }

    /// <summary>The live line of somebody's page.</summary>
    public HubConnection Line(HttpClient who) =>
        new HubConnectionBuilder()
            .WithUrl(
                new Uri(Host.BaseAddress, "/api/live"),
                o =>
                {
                    o.HttpMessageHandlerFactory = _ => Host.CreateHandler();
                    o.Transports = HttpTransportType.LongPolling;
                    o.Headers["Cookie"] = CookieOf(who);
                }
            )
            .Build();

    /// <summary>Another browser, in which someone of the given role has signed in for the first time.</summary>
    public async Task<HttpClient> Person(string name, string role)
    {
        var (email, password) = ($"{name.ToLowerInvariant()}@vitrine.example", "ten letters and more");
        await Post(
            "accounts",
            new
            {
                name,
                email,
                password,
                role,
            }
        );
        var http = Stranger();
        (await http.PostAsJsonAsync("/api/sign-in", new { email, password })).EnsureSuccessStatusCode();
        return http;
    }

    /// <summary>The steward's cookie without the page's token: what a browser sends when another site makes it.</summary>
    public HttpClient Forged()
    {
        var http = factory.CreateDefaultClient();
        http.DefaultRequestHeaders.Add("Cookie", CookieOf(Http));
        return http;
    }

    public string CookieOf(HttpClient http) => cookies[http].GetCookieHeader(factory.Server.BaseAddress);

    public Microsoft.AspNetCore.TestHost.TestServer Host => factory.Server;

    public string Folder => folder;

    /// <summary>The host without a network tells no address; requests come from this machine.</summary>
    private sealed class FromThisMachine : IStartupFilter
    {
        public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
            app =>
            {
                app.Use(
                    (context, rest) =>
                    {
                        context.Connection.RemoteIpAddress ??= IPAddress.Loopback;
                        return rest();
                    }
                );
                next(app);
            };
    }

    public void Dispose()
    {
        factory.Dispose();
        Directory.Delete(folder, recursive: true);
    }
}
