using System.Net;
using Microsoft.AspNetCore.HttpOverrides;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Access;

/// <summary>
/// What stands between Vitrine and its people, when the settings name it: who asks and whether the way is secure is then told by it, and by
/// nobody else.
/// </summary>
internal static class Proxies
{
    /// <summary>
    /// Believes the named addresses, and only them, about where a request comes from: for the limits on guessing, and for cookies that only
    /// travel securely.
    /// </summary>
    /// <param name="named">IP addresses with commas between.</param>
    public static void UseProxies(this WebApplication app, string named)
    {
        var options = new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto };
        options.KnownIPNetworks.Clear();
        options.KnownProxies.Clear();
        foreach (var address in Read(named))
            options.KnownProxies.Add(address);
        app.UseForwardedHeaders(options);
    }

    /// <exception cref="Refusal">One of them is no IP address.</exception>
    private static IEnumerable<IPAddress> Read(string named) =>
        named
            .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(n =>
                IPAddress.TryParse(n, out var address)
                    ? address
                    : throw Refusal.Because($"“{n}” is not the address of a proxy. Write its IP address, such as 127.0.0.1.", "proxy")
            );
}
