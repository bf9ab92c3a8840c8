using System.Text;

namespace Vitrine.Formats.Documents;

/// <summary>Control words of the format that stand for something of their own.</summary>
internal static class RtfWords
{
    /// <summary>Destinations that hold no words of the text.</summary>
    public static readonly HashSet<string> Skipped = new(StringComparer.Ordinal)
    {
        "fonttbl",
        "colortbl",
        "stylesheet",
        "info",
        "pict",
        "object",
        "header",
        "headerl",
        "headerr",
        "headerf",
        "footer",
        "footerl",
        "footerr",
        "footerf",
        "fldinst",
        "listtable",
        "listoverridetable",
        "revtbl",
        "rsidtbl",
        "generator",
        "xmlnstbl",
        "themedata",
        "colorschememapping",
        "datastore",
        "latentstyles",
        "annotation",
        "atnid",
        "atnauthor",
        "bkmkstart",
        "bkmkend",
        "nonshppict",
        "filetbl",
        "pgptbl",
        "mmathPr",
        "pntext",
        "pnseclvl",
    };

    /// <summary>Words that stand for one character.</summary>
    public static readonly Dictionary<string, string> Characters = new(StringComparer.Ordinal)
    {
        ["emdash"] = "—",
        ["endash"] = "–",
        ["bullet"] = "•",
        ["lquote"] = "‘",
        ["rquote"] = "’",
        ["ldblquote"] = "“",
        ["rdblquote"] = "”",
        ["emspace"] = "\u2003",
        ["enspace"] = "\u2002",
        ["qmspace"] = "\u2005",
    };

    /// <summary>The encoding of a code page; that of Western Europe for one that is not known.</summary>
    public static Encoding EncodingOf(int codePage)
    {
        try
        {
            return Encoding.GetEncoding(codePage);
        }
        catch (Exception problem) when (problem is ArgumentException or NotSupportedException)
        {
            return Encoding.GetEncoding(1252);
        }
    }
}
