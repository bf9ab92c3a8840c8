using System.Net;
using System.Net.Sockets;

namespace Vitrine.Tests;

/// <summary>Ports that nobody on this machine listens on.</summary>
internal static class FreePort
{
    public static int Next()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
