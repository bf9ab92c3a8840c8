using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// The one form in which a source's text is kept, so that positions mean the same everywhere:
/// Unicode NFC (Unicode Standard Annex 15), LF line ends, no byte order mark, no NUL, no unpaired surrogate, no white space at line ends.
/// </summary>
public static class CanonicalText
{
    /// <summary>Brings any text into canonical form. Applying it twice changes nothing more.</summary>
    public static string From(string raw)
    {
        var text = new StringBuilder(raw.Length);
        for (var i = 0; i < raw.Length; i++)
        {
            var c = raw[i];
            switch (c)
            {
                case '\uFEFF' or '\0':
                    continue;
                case '\r':
                    TrimLineEnd(text);
                    text.Append('\n');
                    if (i + 1 < raw.Length && raw[i + 1] == '\n')
                        i++;
                    continue;
                case '\n' or '\u0085' or '\u2028' or '\u2029':
                    TrimLineEnd(text);
                    text.Append('\n');
                    continue;
            }
            if (char.IsHighSurrogate(c) && i + 1 < raw.Length && char.IsLowSurrogate(raw[i + 1]))
                text.Append(c).Append(raw[++i]);
            else
                text.Append(char.IsSurrogate(c) ? '\uFFFD' : c);
        }
        TrimLineEnd(text);
        return text.ToString().Normalize(NormalizationForm.FormC);
    }

    private static void TrimLineEnd(StringBuilder text)
    {
        while (text.Length > 0 && text[^1] is ' ' or '\t')
            text.Length--;
    }
}
