using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Puts the page's token on every write, as the browser's client does.</summary>
internal sealed class PageTokenHandler : DelegatingHandler
{
    protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
    {
        if (request.Method != HttpMethod.Get)
        {
            using var asked = new HttpRequestMessage(HttpMethod.Get, new Uri(request.RequestUri!, "/api/me"));
            using var me = await base.SendAsync(asked, cancellationToken);
            request.Headers.Remove("X-Vitrine-Token");
            request.Headers.Add("X-Vitrine-Token", (await me.Content.ReadFromJsonAsync<JsonNode>(cancellationToken))!["pageToken"]!.GetValue<string>());
        }
        return await base.SendAsync(request, cancellationToken);
    }
}
