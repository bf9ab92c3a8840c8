using System.Text;
using UtfUnknown;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .txt and .md files and pasted text, in UTF-8, UTF-16, UTF-32 (with a byte order mark), Windows-1252 and what UTF.Unknown detects.
/// </summary>
public static class TextFile
{
    static TextFile() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>Reads pasted text; <paramref name="isKnown"/> says which names are speakers at first sight.</summary>
    /// <exception cref="UnreadableException">Nothing but white space.</exception>
    public static ReadSource Read(string pasted, Func<string, bool>? isKnown = null)
    {
        var text = CanonicalText.From(pasted).Trim('\n');
        if (string.IsNullOrWhiteSpace(text))
            throw new UnreadableException("There are no words in it. Paste or choose a text with something to read.");
        var (bare, numbered) = LineNumbers.Without(text);
        return ReadSource.Recognised(
            CanonicalText.From(bare).Trim('\n'),
            isKnown,
            numbered ? ["Numbers of lines, as a print has them, were left out."] : []
        );
    }

    /// <summary>Reads the bytes of a file.</summary>
    /// <exception cref="UnreadableException">Empty, not text, or in no known encoding.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        var (decoded, remark) = Decode(bytes);
        var read = Read(decoded, isKnown);
        return remark is null ? read : read with { Remarks = [remark, .. read.Remarks] };
    }

    /// <summary>The text of the bytes, and a remark when the encoding had to be guessed.</summary>
    /// <exception cref="UnreadableException">Not text, or in no known encoding.</exception>
    public static (string Text, string? Remark) Decode(byte[] bytes)
    {
        if (MarkedEncoding(bytes) is { } marked)
            return (marked.GetString(bytes), null);
        if (Utf16WithoutMark(bytes) is { } utf16)
            return (utf16.GetString(bytes), "The file does not name its encoding; it was read as UTF-16.");
        if (LooksBinary(bytes))
            throw new UnreadableException("This is not a text file, whatever its name says. Save it as plain text and add it again.");
        try
        {
            return (new UTF8Encoding(false, true).GetString(bytes), null);
        }
        catch (DecoderFallbackException)
        {
            return DecodeByDetection(bytes);
        }
    }

    private static (string Text, string? Remark) DecodeByDetection(byte[] bytes)
    {
        var found = CharsetDetector.DetectFromBytes(bytes).Detected;
        // Without enough to go by, Windows-1252 is what word processors wrote before UTF-8.
        var encoding = found is { Confidence: > 0.5f, Encoding: { } sure } ? sure : Encoding.GetEncoding(1252);
        if (encoding.CodePage is 28591 or 20127)
            encoding = Encoding.GetEncoding(1252);
        return (
            encoding.GetString(bytes),
            $"The file does not name its encoding; it was read as {encoding.WebName}. Look at its accents and quotation marks."
        );
    }

    private static Encoding? MarkedEncoding(byte[] b) =>
        b switch
        {
            [0xEF, 0xBB, 0xBF, ..] => Encoding.UTF8,
            [0xFF, 0xFE, 0, 0, ..] => Encoding.UTF32,
            [0xFF, 0xFE, ..] => Encoding.Unicode,
            [0xFE, 0xFF, ..] => Encoding.BigEndianUnicode,
            _ => null,
        };

    /// <summary>Mostly-Latin UTF-16 has a NUL in almost every other byte and in no other place.</summary>
    private static Encoding? Utf16WithoutMark(byte[] bytes)
    {
        var length = Math.Min(bytes.Length & ~1, 4096);
        if (length < 8)
            return null;
        int even = 0,
            odd = 0;
        for (var i = 0; i < length; i += 2)
        {
            if (bytes[i] == 0)
                even++;
            if (bytes[i + 1] == 0)
                odd++;
        }
        var pairs = length / 2;
        if (odd > pairs * 0.6 && even == 0)
            return Encoding.Unicode;
        return even > pairs * 0.6 && odd == 0 ? Encoding.BigEndianUnicode : null;
    }

    private static bool LooksBinary(byte[] bytes)
    {
        var sample = bytes.AsSpan(0, Math.Min(bytes.Length, 64 * 1024));
        var odd = 0;
        foreach (var b in sample)
        {
            if (b == 0)
                return true;
            if (b < 32 && b is not (9 or 10 or 11 or 12 or 13 or 27))
                odd++;
        }
        return odd * 50 > sample.Length;
    }
}
