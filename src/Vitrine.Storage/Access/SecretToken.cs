using System.Security.Cryptography;
using Vitrine.Core.Text;

namespace Vitrine.Storage.Access;

/// <summary>A secret in a link: 256 random bits, shown once; the workspace keeps its hash alone.</summary>
internal static class SecretToken
{
    private const int Bytes = 32;

    public static string Make() =>
        Convert.ToBase64String(RandomNumberGenerator.GetBytes(Bytes)).TrimEnd('=').Replace('+', '-').Replace('/', '_');

    public static string HashOf(string token) => ContentHash.Of(token);
}
