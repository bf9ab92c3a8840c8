using System.Buffers;
using System.Globalization;
using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// Splits speech and prose into sentences. A sentence ends at a mark that ends one (. ! ? … and those of other scripts) with the quotes and
/// brackets that close behind it, at an empty line, and before a line of a list. It does not end behind what is shortened ("Mr.", "e.g."),
/// behind an initial, inside a number, or before a small letter. Rules in the manner of Unicode Standard Annex 29, with what it leaves to
/// languages (abbreviations, initials, ellipses, lines that a program broke) added for English and German (common practice, no source):
/// these two it knows, German ordinals ("am 3. Mai"), quotes („…“, »…«) and abbreviations among them. Other languages are split by the
/// annex, their own abbreviations end a sentence where a capital follows.
/// </summary>
/// <example>
/// "Mr. Brack came at 10.30. Nobody knew… why." has two: "Mr. Brack came at 10.30." and "Nobody knew… why." The odd case: "plan B. Then we
/// left." ends at "B.", for "Then" often opens a sentence; "J. Sorrel left." does not end at "J.".
/// </example>
public static class Sentences
{
    /// <summary>A line shorter than this ends where its author ended it; a longer one may have been broken by a program.</summary>
    private const int ShortLine = 40;

    private static readonly SearchValues<char> Ends = SearchValues.Create(".!?…‽⁇⁈⁉؟۔।॥。！？｡．");
    private static readonly SearchValues<char> Strong = SearchValues.Create("!?‽⁇⁈⁉؟");
    private static readonly SearchValues<char> Ideographic = SearchValues.Create("。！？｡．");
    private static readonly SearchValues<char> Closing = SearchValues.Create("\"'”’»›)]}」』）］】〉》");
    private static readonly SearchValues<char> Opening = SearchValues.Create("\"'“‘„‚«‹([{「『（［【〈《¿¡");
    private static readonly SearchValues<char> Bullets = SearchValues.Create("-•*–—◦▪‣·");

    /// <summary>Never the last word of a sentence: a name follows.</summary>
    private static readonly HashSet<string> Titles = Words(
        "Mr Mrs Ms Mx Dr Prof St Rev Capt Sgt Lt Col Gen Hon Messrs Mt Ft e.g i.e cf vs viz "
            + "Hr Hrn Fr Frl bzw vgl ggf evtl inkl exkl sog bspw z.B d.h u.a z.T i.d.R u.U o.Ä Dipl Ing"
    );

    /// <summary>Shortened before a number.</summary>
    private static readonly HashSet<string> BeforeNumbers = Words(
        "no nos nr p pp fig figs vol ch sec art ca approx max min Jan Feb Mar Apr Jun Jul Aug Sep Sept Oct Nov Dec "
            + "Mon Tue Wed Thu Fri Sat Sun Nr Abs Abb Kap Bd Mär Mai Okt Dez Mo Di Mi Do Sa"
    );

    /// <summary>Shortened in the middle of a sentence, and at times its last word: then what often opens a sentence follows.</summary>
    private static readonly HashSet<string> Shortened = Words(
        "co ltd inc corp bros dept est rd ave blvd jr sr al etc usw Str Mio Mrd Std Min Tel geb gest Jh Jhd"
    );

    private static readonly HashSet<string> Openers = Words(
        "a after all an and anyway as at because before but did do does everybody everyone for he her here his how "
            + "i if in is it its maybe my no nobody not nothing now of oh ok on one or our she so some somebody that the "
            + "their then there these they this those to was we well what when where who why yes you your "
            + "ich wir er sie es und aber dann danach da das der ein eine ja nein weil wenn jetzt hier dort wer wo wie warum ihr mein"
    );

    /// <summary>Before a number they make it an ordinal, where a noun follows: "am 3. Mai", "der 2. Versuch".</summary>
    private static readonly HashSet<string> BeforeOrdinals = Words(
        "am vom zum beim im der die das dem den des ein eine einen einem einer jeder jede jedes jeden dieser diese dieses ab bis "
            + "seit ihr ihre sein seine mein meine unser unsere"
    );

    /// <summary>Behind a number they make it an ordinal.</summary>
    private static readonly HashSet<string> BehindOrdinals = Words(
        "Januar Februar März April Mai Juni Juli August September Oktober November Dezember Jahrhundert "
            + "Jahrhunderts Stock Klasse Etage Mal Versuch Tag Woche Monat Jahr"
    );

    private static HashSet<string> Words(string apart) => new(apart.Split(' '), StringComparer.OrdinalIgnoreCase);

    /// <summary>The sentences of a stretch of a text, in order; white space at their edges belongs to none.</summary>
    /// <param name="text">The whole text.</param>
    /// <param name="within">The stretch: a turn, or a paragraph.</param>
    public static IReadOnlyList<TextRange> In(string text, TextRange within)
    {
        var span = within.Of(text);
        if (!span.Any(IsUnseen))
            return Split(text, within);
        // Marks over letters and signs of direction belong to what stands before them; they are looked past.
        var places = Enumerable.Range(0, span.Length).Where(i => !IsUnseen(span[i])).ToList();
        if (places.Count == 0)
            return TextRange.Tidy(text, within.Start, within.End) is { } whole ? [whole] : [];
        var seen = string.Concat(places.Select(i => span[i]));
        var cuts = Split(seen, new TextRange(0, seen.Length)).Select(s => places[s.Start]).Skip(1).Append(span.Length).ToList();
        var from = within.Start;
        var found = new List<TextRange>();
        foreach (var cut in cuts)
        {
            if (TextRange.Tidy(text, from, within.Start + cut) is { } sentence)
                found.Add(sentence);
            from = within.Start + cut;
        }
        return found;
    }

    private static bool IsUnseen(char c) =>
        c >= 0x80
        && CharUnicodeInfo.GetUnicodeCategory(c)
            is UnicodeCategory.Format
                or UnicodeCategory.NonSpacingMark
                or UnicodeCategory.EnclosingMark;

    private static List<TextRange> Split(string text, TextRange within)
    {
        var found = new List<TextRange>();
        var from = within.Start;
        void End(int at)
        {
            if (TextRange.Tidy(text, from, at) is { } sentence)
                found.Add(sentence);
            from = at;
        }
        for (var at = within.Start; at < within.End; at++)
        {
            if (text[at] == '\n')
            {
                if (IsEndOfLine(text, from, at, within.End))
                    End(at);
            }
            else if (Ends.Contains(text[at]))
            {
                var after = AfterMarks(text, from, at, within.End, out var closed);
                if (IsEnd(text, from, at, after, within.End, closed))
                    End(AfterSigns(text, after, within.End));
                at = after - 1;
            }
        }
        End(within.End);
        return found;
    }

    /// <summary>Whether the mark at a place, with all that closes behind it, ends a sentence.</summary>
    private static bool IsEnd(string text, int from, int mark, int after, int end, bool closed)
    {
        var marks = text.AsSpan(mark, after - mark);
        if (after >= end)
            return true;
        var spaced = char.IsWhiteSpace(text[after]);
        if (!spaced && AfterSigns(text, after, end) > after)
            return true;
        if (!spaced)
            return !closed && (marks.ContainsAny(Ideographic) || (text[mark] is '!' or '?' && char.IsUpper(text[after])));
        if (Ideographic.Contains(text[mark]))
            return true;
        var next = after;
        while (next < end && char.IsWhiteSpace(text[next]) && text[next] != '\n')
            next++;
        if (next >= end || text[next] == '\n')
            return next >= end || IsEndOfLine(text, from, next, end) || !IsLower(text, next + 1, end);
        var signs = AfterSigns(text, after, end);
        if (signs > next)
            return true;
        if (text[next] == '[')
            return !marks.Contains(']') || !IsLower(text, next, end);
        var strong = marks.ContainsAny(Strong);
        // A question put in between: the sentence goes on behind its dash.
        if (text[next] is '—' or '–' && next + 1 < end && char.IsWhiteSpace(text[next + 1]) && IsLower(text, next + 1, end))
            return false;
        if (strong && !closed)
            return true;
        if (IsLower(text, next, end))
            return false;
        if (text[mark] == '…' || (marks.Length >= 2 && marks.StartsWith("..")))
            return WordAt(text, next, end) is not ("I" or "I'm" or "I’m" or "I'd" or "I’d" or "I've" or "I’ve" or "I'll" or "I’ll");
        return strong || marks[0] != '.' || closed || !IsShortened(text, from, mark, next, end);
    }

    /// <summary>Whether the full stop behind a word shortens it, as far as can be told from the word and the one that follows.</summary>
    private static bool IsShortened(string text, int from, int stop, int next, int end)
    {
        var start = stop;
        while (
            start > from && !char.IsWhiteSpace(text[start - 1]) && !Opening.Contains(text[start - 1]) && text[start - 1] is not ('/' or '—')
        )
            start--;
        var word = text[start..stop];
        if (word.Length == 0)
            return false;
        var opens = Openers.Contains(WordAt(text, next, end));
        if (Titles.Contains(word))
            return true;
        if (char.IsAsciiDigit(text[next]) && BeforeNumbers.Contains(word))
            return true;
        if (word is "a.m" or "p.m" or "A.M" or "P.M")
            return false;
        if (word.Length <= 3 && word.All(char.IsAsciiDigit) && IsOrdinal(text, from, start, WordAt(text, next, end)))
            return true;
        // The number of a list's line, at its beginning.
        if (word.All(char.IsAsciiDigit) && word.Length <= 3 && TextRange.Tidy(text, from, start) is null)
            return true;
        var initial = word.Length == 1 && char.IsLetter(word[0]);
        var dotted =
            word.Contains('.', StringComparison.Ordinal) && word.Split('.').All(part => part.Length is 1 or 2 && part.All(char.IsLetter));
        return (initial || dotted || Shortened.Contains(word)) && !opens;
    }

    /// <summary>Whether a number with a stop is a German ordinal, by the words before and behind it.</summary>
    private static bool IsOrdinal(string text, int from, int start, string behind)
    {
        if (behind.Length == 0 || !char.IsUpper(behind[0]) || Openers.Contains(behind))
            return false;
        if (BehindOrdinals.Contains(behind) && behind is not ("April" or "August" or "September" or "November" or "Mal"))
            return true;
        var before = text[from..start].Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        // "I am 30. Brack is older" is English.
        return before is [.., var last] && BeforeOrdinals.Contains(last) && !(last == "am" && before is [.., "I" or "i", _]);
    }

    /// <summary>
    /// Whether a quote closes that opens in other languages: “ of „…“, ‘ of ‚…‘, « of »…« and ‹ of ›…‹; the opening one stands before it
    /// in the same sentence.
    /// </summary>
    private static bool Closes(string text, int from, int at)
    {
        var opening = text[at] switch
        {
            '“' => '„',
            '‘' => '‚',
            '«' => '»',
            '‹' => '›',
            _ => '\0',
        };
        if (opening == '\0' || at <= from)
            return false;
        var opened = text.LastIndexOf(opening, at - 1, at - from);
        return opened >= 0
            && !text.AsSpan(opened, at - opened).Contains(text[at])
            && (opened == from || char.IsWhiteSpace(text[opened - 1]) || Opening.Contains(text[opened - 1]) || opening is '„' or '‚');
    }

    /// <summary>
    /// Whether a line break ends a sentence: at an empty line, before a list, and behind what is no line that a program broke.
    /// </summary>
    private static bool IsEndOfLine(string text, int from, int newline, int end)
    {
        var next = newline + 1;
        while (next < end && text[next] is ' ' or '\t')
            next++;
        if (next >= end || text[next] == '\n' || IsListLine(text, next, end))
            return true;
        var start = newline > 0 ? text.LastIndexOf('\n', newline - 1) + 1 : 0;
        return newline - Math.Max(start, from) < ShortLine && !IsLower(text, next, end);
    }

    private static bool IsListLine(string text, int at, int end)
    {
        if (Bullets.Contains(text[at]))
            return at + 1 < end && text[at + 1] == ' ';
        var digits = at;
        while (digits < end && char.IsAsciiDigit(text[digits]))
            digits++;
        return digits > at && digits - at <= 3 && digits + 1 < end && text[digits] is '.' or ')' && text[digits + 1] == ' ';
    }

    /// <summary>Behind the marks that follow each other, and all that closes behind them.</summary>
    private static int AfterMarks(string text, int from, int at, int end, out bool closed)
    {
        closed = false;
        while (at < end && (Ends.Contains(text[at]) || Closing.Contains(text[at]) || Closes(text, from, at)))
        {
            // A straight quote behind white space would open; here nothing stands between.
            closed |= !Ends.Contains(text[at]);
            at++;
        }
        return at;
    }

    /// <summary>
    /// Behind signs such as 😀 that stand by themselves after the end of a sentence, with the space before them; else the place itself.
    /// </summary>
    private static int AfterSigns(string text, int at, int end)
    {
        var next = at;
        while (next < end && text[next] == ' ')
            next++;
        var last = at;
        while (next < end && Rune.TryGetRuneAt(text, next, out var rune) && IsSign(rune))
            last = next += rune.Utf16SequenceLength;
        return last > at && (last >= end || char.IsWhiteSpace(text[last])) ? last : at;
    }

    private static bool IsSign(Rune rune) =>
        Rune.GetUnicodeCategory(rune) is UnicodeCategory.OtherSymbol or UnicodeCategory.ModifierSymbol || rune.Value is 0x200D or 0xFE0F;

    private static bool IsLower(string text, int at, int end)
    {
        while (at < end && (Opening.Contains(text[at]) || text[at] is '»' or '›' || char.IsWhiteSpace(text[at])))
            at++;
        return at < end && (char.IsLower(text, at) || text[at] is ',' or ';' or ':');
    }

    private static string WordAt(string text, int at, int end)
    {
        while (at < end && (Opening.Contains(text[at]) || text[at] is '»' or '›'))
            at++;
        var to = at;
        while (to < end && (char.IsLetterOrDigit(text[to]) || text[to] is '\'' or '’'))
            to++;
        return text[at..to];
    }
}
