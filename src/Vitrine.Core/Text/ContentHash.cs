using System.Security.Cryptography;
using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// The SHA-256 (FIPS 180-4) of a text's UTF-8 bytes, in small hexadecimal digits: by which the same words are known again.
/// </summary>
public static class ContentHash
{
    /// <summary>The hash of a text: SHA-256 of its UTF-8 bytes, 64 hexadecimal digits.</summary>
    public static string Of(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
}
