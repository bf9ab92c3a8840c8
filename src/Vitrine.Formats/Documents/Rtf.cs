using System.Globalization;
using System.Text;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .rtf strictly by Microsoft's "Rich Text Format (RTF) Specification", version 1.9.1 (2008): groups, control words, code pages and
/// Unicode; paragraphs, headings by outline level or by the name of their style,
/// list text, table rows, bold and italics. Pictures, objects, notes' marks, headers, footers, field codes and deleted text are left out.
/// Written here because no well-kept package reads it.
/// </summary>
public sealed class Rtf
{
    private const int DeepestGroup = 500;

    private readonly byte[] bytes;
    private readonly ShapedText built = new();
    private readonly Stack<State> groups = new();
    private readonly StringBuilder pending = new();
    private State now = new(false, false, false, 1, 1252, false, null);
    private readonly Dictionary<int, int> codePages = [];

    private readonly RtfStyles styles = new();

    /// <summary>How deep the list of styles stands; each style is a group in it.</summary>
    private int sheet;
    private bool InStyle => now.Destination == "stylesheet" && groups.Count == sheet + 1;
    private int at;
    private bool open;
    private bool inRow;
    private int outline = 9;
    private int pictures;
    private int comments;

    private Rtf(byte[] bytes) => this.bytes = bytes;

    private sealed record State(bool Skip, bool Bold, bool Italic, int UnicodeSkip, int CodePage, bool Hidden, string? Destination);

    static Rtf() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <exception cref="UnreadableException">No RTF, groups that do not end, or without words.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        if (bytes.Length < 6 || !bytes.AsSpan().StartsWith("{\\rtf"u8))
            throw new UnreadableException(
                "This is not an .rtf file, whatever its name says. Open it in the program that made it, save it as .rtf, and add it again."
            );
        var reader = new Rtf(bytes);
        var whole = reader.All();
        string[] remarks =
        [
            .. ReadSource.LeftOut(reader.pictures),
            .. ReadSource.CommentsLeftOut(reader.comments, "save the file as .docx to have it in the margin"),
            .. whole ? (string[])[] : ["The file ends in the middle; everything up to there was read."],
        ];
        return ReadSource.Of(reader.built, isKnown, remarks);
    }

    private bool All()
    {
        while (at < bytes.Length)
        {
            var b = bytes[at++];
            switch (b)
            {
                case (byte)'{':
                    Say();
                    if (groups.Count >= DeepestGroup)
                        throw new UnreadableException(
                            "The groups of this .rtf file go deeper than any document’s. Save it anew from the program that made it."
                        );
                    groups.Push(now);
                    if (InStyle)
                        styles.Begin();
                    if (Ahead("\\*"))
                    {
                        at += 2;
                        now = now with { Skip = now.Skip || !KnownDestination() };
                    }
                    break;
                case (byte)'}':
                    Say();
                    if (groups.Count == 0)
                        return false;
                    now = groups.Pop();
                    if (groups.Count == 0)
                        return End();
                    break;
                case (byte)'\\':
                    Control();
                    break;
                case (byte)'\r' or (byte)'\n':
                    break;
                default:
                    Byte(b);
                    break;
            }
        }
        End();
        return false;
    }

    private bool End()
    {
        Say();
        built.End();
        return true;
    }

    private bool Ahead(string what) => at + what.Length <= bytes.Length && Encoding.ASCII.GetString(bytes, at, what.Length) == what;

    // A destination that a reader need not know is skipped, unless it holds text that others show.
    private bool KnownDestination() => Ahead("\\shppict") is false && Ahead("\\shptxt");

    private void Control()
    {
        if (at >= bytes.Length)
            return;
        var c = (char)bytes[at];
        if (!char.IsAsciiLetter(c))
        {
            at++;
            Symbol(c);
            return;
        }
        var from = at;
        while (at < bytes.Length && char.IsAsciiLetter((char)bytes[at]))
            at++;
        var word = Encoding.ASCII.GetString(bytes, from, at - from);
        int? number = null;
        from = at;
        if (at < bytes.Length && bytes[at] == '-')
            at++;
        while (at < bytes.Length && char.IsAsciiDigit((char)bytes[at]))
            at++;
        if (
            int.TryParse(
                Encoding.ASCII.GetString(bytes, from, at - from),
                NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out var n
            )
        )
            number = n;
        if (at < bytes.Length && bytes[at] == ' ')
            at++;
        Word(word, number);
    }

    private void Symbol(char c)
    {
        switch (c)
        {
            case '\'':
                if (
                    at + 2 <= bytes.Length
                    && byte.TryParse(
                        Encoding.ASCII.GetString(bytes, at, 2),
                        NumberStyles.HexNumber,
                        CultureInfo.InvariantCulture,
                        out var code
                    )
                )
                    Byte(code);
                at = Math.Min(bytes.Length, at + 2);
                break;
            case '~':
                Put("\u00A0");
                break;
            case '_':
                Put("\u2011");
                break;
            case '-':
                break;
            case '\r' or '\n':
                Paragraph();
                break;
            case '\\' or '{' or '}':
                Put(c.ToString());
                break;
        }
    }

    private void Word(string word, int? number)
    {
        Say();
        if (RtfWords.Skipped.Contains(word))
        {
            if (word is "pict" or "object" && !now.Skip)
                pictures++;
            if (word == "annotation")
                comments++;
            if (word == "stylesheet")
                sheet = groups.Count;
            now = now with { Skip = true, Destination = word };
            return;
        }
        switch (word)
        {
            case "f" when number is { } font && codePages.TryGetValue(font, out var page):
                now = now with { CodePage = page };
                break;
            case "ansicpg" when number is { } page:
                now = now with { CodePage = page };
                break;
            case "mac":
                now = now with { CodePage = 10000 };
                break;
            case "pc":
                now = now with { CodePage = 437 };
                break;
            case "pca":
                now = now with { CodePage = 850 };
                break;
            case "uc" when number is { } skip:
                now = now with { UnicodeSkip = skip };
                break;
            case "u" when number is { } unit:
                Put(((char)(ushort)unit).ToString());
                SkipFallback();
                break;
            case "b":
                now = now with { Bold = number != 0 };
                break;
            case "i":
                now = now with { Italic = number != 0 };
                break;
            case "v":
                now = now with { Hidden = number != 0 };
                break;
            case "deleted":
                now = now with { Hidden = number != 0 };
                break;
            case "plain":
                now = now with { Bold = false, Italic = false, Hidden = false };
                break;
            case "pard":
                outline = 9;
                if (!open)
                    inRow = false;
                break;
            case "intbl":
                inRow = true;
                break;
            case "outlinelevel" when number is { } level && InStyle:
                styles.Outline(level);
                break;
            case "outlinelevel" when number is { } level:
                outline = level;
                break;
            case "s" when number is { } called && InStyle:
                styles.Number(called);
                break;
            case "s" when number is { } called && styles.LevelOf(called) is { } level && outline > 8:
                outline = level;
                break;
            case "par" or "sect":
                Paragraph();
                break;
            case "page" when !now.Skip:
                Paragraph();
                break;
            case "line":
                Put("\n");
                break;
            case "tab":
                Put("\t");
                break;
            case "cell" or "nestcell":
                Cell();
                break;
            case "row" or "nestrow":
                if (!now.Skip)
                    built.End();
                open = inRow = false;
                break;
            case "bin" when number is > 0:
                at = (int)Math.Min(bytes.Length, at + (long)number);
                break;
            default:
                if (RtfWords.Characters.TryGetValue(word, out var character))
                    Put(character);
                break;
        }
    }

    private void SkipFallback()
    {
        for (var i = 0; i < now.UnicodeSkip && at < bytes.Length; i++)
        {
            if (bytes[at] is (byte)'{' or (byte)'}')
                return;
            if (bytes[at] == '\\' && at + 1 < bytes.Length && bytes[at + 1] == '\'')
                at += 4;
            else if (bytes[at] == '\\')
                return;
            else
                at++;
        }
        at = Math.Min(at, bytes.Length);
    }

    private readonly List<byte> encoded = [];

    private void Byte(byte b)
    {
        if (InStyle)
            styles.Letter((char)b);
        if (now.Skip || now.Hidden)
            return;
        encoded.Add(b);
    }

    /// <summary>Bytes wait until a control word or group ends them, because a character of an East Asian code page may take two.</summary>
    private void Say()
    {
        if (encoded.Count > 0)
        {
            pending.Append(RtfWords.EncodingOf(now.CodePage).GetString([.. encoded]));
            encoded.Clear();
        }
        if (pending.Length == 0)
            return;
        // Half a surrogate pair waits for its other half.
        if (char.IsHighSurrogate(pending[^1]))
            return;
        var words = pending.ToString();
        pending.Clear();
        Open();
        built.Add(words, now.Bold && outline > 8, now.Italic);
    }

    private void Put(string words)
    {
        if (InStyle)
            foreach (var letter in words)
                styles.Letter(letter);
        if (now.Skip || now.Hidden)
            return;
        if (encoded.Count > 0)
        {
            pending.Append(RtfWords.EncodingOf(now.CodePage).GetString([.. encoded]));
            encoded.Clear();
        }
        pending.Append(words);
        if (words is "\n" or "\t")
            Say();
    }

    private void Open()
    {
        if (open)
            return;
        open = true;
        if (inRow)
        {
            built.Begin(BlockKind.TableRow);
            built.NextCell();
        }
        else if (outline < 9)
        {
            built.Begin(BlockKind.Heading, outline + 1);
        }
        else
        {
            built.Begin(BlockKind.Paragraph);
        }
    }

    private void Cell()
    {
        if (now.Skip)
            return;
        inRow = true;
        Open();
        built.NextCell();
    }

    private void Paragraph()
    {
        if (now.Skip)
            return;
        Say();
        if (inRow)
        {
            if (open)
                built.Add("\n");
            return;
        }
        built.End();
        open = false;
    }
}
