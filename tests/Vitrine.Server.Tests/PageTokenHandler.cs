using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Puts the page's token on every write, as the browser's client does; asked for once a sign-in.</summary>
internal sealed class PageTokenHandler : DelegatingHandler
{
    private static readonly string[] OtherSignIn = ["/set-up", "/sign-in", "/sign-out", "/sign-out-everywhere", "/password", "/join/"];

    private string? token;

    protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
    {
        if (request.Method == HttpMethod.Get)
            return await base.SendAsync(request, cancellationToken);
        var otherSignIn = OtherSignIn.Any(p => request.RequestUri!.AbsolutePath.Contains(p, StringComparison.Ordinal));
        if (token is null || otherSignIn)
        {
            using var asked = new HttpRequestMessage(HttpMethod.Get, new Uri(request.RequestUri!, "/api/me"));
            using var me = await base.SendAsync(asked, cancellationToken);
            token = (await me.Content.ReadFromJsonAsync<JsonNode>(cancellationToken))!["pageToken"]!.GetValue<string>();
        }
        request.Headers.Remove("X-Vitrine-Token");
        request.Headers.Add("X-Vitrine-Token", token);
        if (otherSignIn)
            token = null;
        return await base.SendAsync(request, cancellationToken);
    }
}
