using System.Globalization;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Turns;

/// <summary>What may be the beginning of a turn: a line that opens with a name, a time, or a mark that another speaks.</summary>
/// <param name="Style">As which style of transcript the line is written.</param>
/// <param name="Name">The name as it is written; null where the line gives none.</param>
/// <param name="Time">When it begins, where the line says so.</param>
/// <param name="LineStart">Where the line begins.</param>
/// <param name="WordsStart">Where the words behind the label begin; the line's end where there are none.</param>
/// <param name="Alone">Whether nothing follows the label on its line.</param>
/// <param name="Loose">Whether nothing but spaces stands between label and words.</param>
internal sealed record TurnHead(
    TurnStyle Style,
    string? Name,
    ClockTime? Time,
    int LineStart,
    int WordsStart,
    bool Alone,
    bool Loose = false
);

/// <summary>A time or a range of times as a transcript writes it.</summary>
/// <param name="BeginMs">Milliseconds from zero o'clock or from the beginning, as it is written.</param>
/// <param name="EndMs">The end of a range.</param>
/// <param name="OfDay">Whether it is a time of day: it says AM or PM, or a day stands before it.</param>
internal readonly record struct ClockTime(int BeginMs, int? EndMs, bool OfDay);

/// <summary>Finds the beginnings of turns in single lines (the layouts are common practice, no source).</summary>
internal static class TurnHeads
{
    /// <summary>Further into a line no label reaches.</summary>
    private const int Reach = 200;

    private const int LongestName = 60;

    /// <summary>"Int.", "Dr. A."</summary>
    private const int LongestAbbreviation = 6;

    /// <summary>Every way in which a line may open a turn, the likeliest of each style first.</summary>
    public static IEnumerable<TurnHead> Of(string text, int start, int end)
    {
        var whole = end - start <= Reach;
        var written = text.Substring(start, whole ? end - start : Reach);
        // A soft hyphen in a name is none of its letters.
        var line = HiddenSigns.Without(written);
        int At(int position) => start + HiddenSigns.PlaceIn(written, position);
        foreach (var (style, form) in Forms)
        {
            var match = form.Match(line);
            if (!match.Success)
                continue;
            var alone = match.Length == line.Length;
            if (alone && !whole)
                continue;
            var name = match.Groups["n"] is { Success: true } n ? n.Value.Trim().TrimEnd('-', '.', '/', '&', '#', '+').Trim() : null;
            if (name is { Length: 0 or > LongestName })
                continue;
            // A line that ends like a sentence is said.
            if (style == TurnStyle.NameOnItsOwnLine && line.EndsWith('.') && line.TrimEnd().Length > LongestAbbreviation)
                continue;
            // What follows a mark is words, unless it can be a name.
            if (style == TurnStyle.ChangeMarks && name is not null && SpeakerLabel.Of(name) == LabelLook.Prose)
                yield return new TurnHead(style, null, null, start, At(Mark.Match(line).Length), false);
            else
                yield return new TurnHead(style, name, TimeOf(match), start, At(match.Length), alone, form == NameThenTimeThenWords);
        }
    }

    /// <summary>The time of a line that holds nothing else.</summary>
    public static ClockTime? TimeOnly(string text, int start, int end) =>
        end - start <= Reach && TimeAlone.Match(HiddenSigns.Without(text[start..end])) is { Success: true } match ? TimeOf(match) : null;

    /// <summary>The time of a cell that holds nothing else.</summary>
    public static ClockTime? TimeOnly(string cell) => TimeOnly(cell, 0, cell.Length);

    /// <summary>Milliseconds of "12:03", "1:12:03", "00:12:03.250" or "2:05 PM".</summary>
    public static int Milliseconds(string time)
    {
        var parts = HalfOfDay.Replace(time, "").Trim().Replace(',', '.').Split(':', ';');
        // The fourth part of a time code counts frames; how many make a second, it does not say.
        if (parts.Length == 4)
            parts = parts[..3];
        if (parts.Length == 1)
            return AtHalf(int.Parse(parts[0], CultureInfo.InvariantCulture) * 3_600_000, time);
        var seconds = double.Parse(parts[^1], CultureInfo.InvariantCulture);
        var minutes = int.Parse(parts[^2], CultureInfo.InvariantCulture);
        var hours = parts.Length > 2 ? int.Parse(parts[0], CultureInfo.InvariantCulture) : 0;
        var ofDay = HalfOfDay.IsMatch(time);
        // With two parts a time of day is hours and minutes, any other minutes and seconds.
        return parts.Length == 2 && ofDay
            ? AtHalf((int)(minutes * 3_600_000L + seconds * 60_000), time)
            : AtHalf((int)Math.Round((hours * 3600 + minutes * 60 + seconds) * 1000), time);
    }

    private static int AtHalf(int ms, string time)
    {
        const int Half = 43_200_000;
        if (HalfOfDay.Match(time) is not { Success: true } half)
            return ms;
        var morning = ms >= Half ? ms - Half : ms;
        return half.Value.Contains('p', StringComparison.OrdinalIgnoreCase) ? morning + Half : morning;
    }

    private static ClockTime? TimeOf(Match match)
    {
        if (match.Groups["t"] is not { Success: true } t)
            return null;
        int? until = match.Groups["u"] is { Success: true } u ? Milliseconds(u.Value) : null;
        var begin = Milliseconds(t.Value);
        return new ClockTime(begin, until > begin ? until : null, match.Groups["d"].Success || HalfOfDay.IsMatch(t.Value));
    }

    private const string Half = @"(?:\s?[AaPp]\.?\s?[Mm]\b\.?)";
    private const string Clock =
        @"(?:[0-9]{1,2}:[0-9]{2}:[0-9]{2}[:;][0-9]{2}|(?:[0-9]{1,2}:)?[0-9]{1,2}:[0-9]{2}(?:[.,][0-9]{1,3})?"
        + Half
        + @"?|[0-9]{1,2}"
        + Half
        + ")";
    private const string Open = @"[\[({<【（「]";
    private const string Close = @"[\])}>】）」]";
    private const string Times =
        Day + @"(?<t>" + Clock + @")(?:" + Close + @"?\s*(?:-->|-|–|—|→|to)\s*" + Open + "?(?<u>" + Clock + @"))?(?![0-9]|:[0-9])";
    private const string InName = @"[\p{L}\p{M}\p{N}.'’_/&#+-]*";

    /// <summary>Up to five words, and what is said of the person in brackets: "Dr. Ana Reed (P3, commuter)".</summary>
    private const string Name =
        @"(?<n>\p{L}"
        + InName
        + @"(?:[ \u00A0][\p{L}\p{N}&#]"
        + InName
        + @"){0,4}(?:\s?[(\[（](?!\s*"
        + Clock
        + @")[^()\[\]（）]{1,40}[)\]）])?)";
    private const string Number = @"^\s*(?:#?[\[(]?[0-9]{1,5}[\])]?[.):|]?[ \t]+|[-–—*•·][ \t]+)?";
    private const string Colon = @"(?:\s*:(?!//)(?:[ \t]+|$|(?=[\p{Lu}“""‘¿¡(\[]))|\s*：[ \t]*)";
    private const string Day = @"(?<d>[0-9]{1,4}[-./][0-9]{1,2}[-./][0-9]{1,4},?[ \t]+)?";
    private const string Dash = @"[ \t]+(?:[-–—|])[ \t]+";
    private const string Between = @"(?:[ \t]*[-–—|,·•/@][ \t]*|[ \t]+)";

    // Interpreted: translated at build time these are 40,000 lines of code, and half the time of the build.
    private static readonly Regex Chevrons = new(@"^\s*(?:>>+|»)[ \t]*(?:" + Name + Colon + ")?");

    private static readonly Regex QuestionOrAnswer = new(@"^\s*(?<n>[QA])(?:[0-9]{1,3})?[.)][ \t]+");

    private static readonly Regex TimeThenName = new(
        Number + Open + "?" + Times + Close + "?" + Between + Open + "?" + Name + Close + "?(?:" + Colon + @"|[ \t]*$|" + Dash + ")"
    );

    private static readonly Regex TimeThenBracketedName = new(
        Number + Open + "?" + Times + Close + "?" + Between + "?" + Open + Name + Close + @"(?:\s*[:：])?[ \t]*"
    );

    private static readonly Regex NameThenTimeThenWords = new(Number + Name + "[ \t]+" + Times + @"[ \t]+(?=\S)");

    private static readonly Regex BracketedNameThenTime = new(
        Number + Open + Name + Close + Between + "?" + Open + "?" + Times + Close + @"?(?:\s*[:：])?(?:[ \t]+|$)"
    );

    private static readonly Regex NameThenColonThenTime = new(Number + Name + @"\s*[:：][ \t]*" + Open + Times + Close + @"[ \t]*");

    /// <summary>"Ana Reed, researcher: words".</summary>
    private static readonly Regex NameWithCommaThenColon = new(
        Number
            + @"(?<n>\p{Lu}"
            + InName
            + @"(?: \p{Lu}"
            + InName
            + @"){0,3},[ ]?\p{L}"
            + InName
            + @"(?: \p{L}"
            + InName
            + @"){0,2})"
            + Colon
    );

    /// <summary>A name in quotes, or bold or in italics as plain text writes it, its colon inside or outside.</summary>
    private static readonly Regex MarkedNameThenColon = new(
        Number + @"(?:\*{1,2}|_{1,2}|[“""])" + Name + @"(?:\s*[:：](?:\*{1,2}|_{1,2}|[”""])|(?:\*{1,2}|_{1,2}|[”""])\s*[:：])[ \t]*"
    );

    private static readonly Regex Mark = new(@"^\s*(?:>>+|»)[ \t]*");

    private static readonly Regex BracketedBoth = new(
        Number + Open + "(?:" + Name + Between + Times + ")" + Close + @"(?:\s*[:：])?[ \t]*"
    );

    private static readonly Regex NameThenBracketedTime = new(
        Number + Name + Between + "?" + Open + Times + Close + @"(?:\s*[:：]|[ \t]+[-–—|](?=[ \t]|$))?[ \t]*"
    );

    private static readonly Regex NameThenTime = new(
        Number + Name + Between + Times + "(?:" + Colon + @"|[ \t]*$|[ \t]*[-–—|][ \t]+|[ \t]{2,}|\t)"
    );

    private static readonly Regex NameThenColon = new(
        Number + @"(?:\*\*|__)?" + Name + @"(?:\*\*|__)?" + Colon + @"(?:(?:\*\*|__)[ \t]*)?"
    );

    private static readonly Regex BracketedName = new(Number + Open + Name + Close + @"(?:\s*[:：])?[ \t]*");

    private static readonly Regex NameThenDash = new(Number + Name + "(?:" + Dash + @"|[ \t]*[—>»][ \t]*|[ \t]+(?:=|/|:{2,})[ \t]+)(?=\S)");

    private static readonly Regex TimeThenWords = new(@"^\s*" + Open + "?" + Times + Close + @"?(?:\s*[:：|–—-])?[ \t]+(?=\S)");

    private static readonly Regex NameAlone = new(@"^[ \t]*(?:\*\*|__)?" + Name + @"(?:\*\*|__)?[ \t]*$");

    private static readonly Regex TimeAlone = new(
        @"^\s*(?:[0-9]{1,5}[.)]?[ \t]+)?(?:from[ \t]+)?" + Open + "?" + Times + Close + @"?\s*[:：|–—-]?\s*$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    );

    private static readonly Regex HalfOfDay = new(Half);

    private static readonly (TurnStyle Style, Regex Form)[] Forms =
    [
        (TurnStyle.ChangeMarks, Chevrons),
        (TurnStyle.QuestionAndAnswer, QuestionOrAnswer),
        (TurnStyle.TimeAndName, TimeThenName),
        (TurnStyle.TimeAndName, TimeThenBracketedName),
        (TurnStyle.TimeAndName, BracketedBoth),
        (TurnStyle.TimeAndName, BracketedNameThenTime),
        (TurnStyle.TimeAndName, NameThenColonThenTime),
        (TurnStyle.TimeAndName, NameThenBracketedTime),
        (TurnStyle.TimeAndName, NameThenTime),
        (TurnStyle.NameAndColon, NameThenColon),
        (TurnStyle.NameAndColon, NameWithCommaThenColon),
        (TurnStyle.NameAndColon, MarkedNameThenColon),
        (TurnStyle.TimeAndName, NameThenTimeThenWords),
        (TurnStyle.NameInBrackets, BracketedName),
        (TurnStyle.NameAndDash, NameThenDash),
        (TurnStyle.TimesAlone, TimeThenWords),
        (TurnStyle.NameOnItsOwnLine, NameAlone),
    ];
}
