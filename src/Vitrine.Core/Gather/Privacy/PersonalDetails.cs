using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>What gives a person away.</summary>
public enum DetailKind
{
    /// <summary>A participant's real name, or a part of it.</summary>
    Name,

    /// <summary>An e-mail address.</summary>
    EmailAddress,

    /// <summary>A telephone number.</summary>
    PhoneNumber,

    /// <summary>A word that a researcher gave.</summary>
    Word,
}

/// <summary>A place in a text that gives a person away, and what stands there for readers instead.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Range">Where, in UTF-16 units of the text.</param>
/// <param name="Words">The words there.</param>
/// <param name="Replacement">What is proposed instead.</param>
public sealed record FoundDetail(DetailKind Kind, TextRange Range, string Words, string Replacement);

/// <summary>Finds names, e-mail addresses, phone numbers and given words, for a person to look over before anything is masked.</summary>
public static partial class PersonalDetails
{
    /// <summary>Fewest digits of a phone number that begins with a plus or a nought.</summary>
    private const int FewestDigits = 8;

    /// <summary>Most digits of a phone number (ITU-T E.164), with a prefix for calls abroad before it.</summary>
    private const int MostDigits = 17;

    /// <summary>What readers see for an e-mail address.</summary>
    public const string EmailReplacement = "[e-mail address]";

    /// <summary>What readers see for a telephone number.</summary>
    public const string PhoneReplacement = "[phone number]";

    /// <summary>What readers see for other masked words.</summary>
    public const string WordReplacement = "[left out]";

    /// <summary>
    /// Everything found, in text order; no two overlap. A name is found as a whole and by each of its parts, as <see cref="NameMask"/> has
    /// it.
    /// </summary>
    /// <param name="text">The text.</param>
    /// <param name="people">Those whose real names are known.</param>
    /// <param name="words">Words or phrases that a researcher gives; found as whole words, in any case.</param>
    public static IReadOnlyList<FoundDetail> Find(string text, IReadOnlyList<NamedPerson> people, IReadOnlyList<string> words)
    {
        var found = new List<FoundDetail>();
        // An address holds words of a name; what is longer is looked for first.
        Add(DetailKind.EmailAddress, Of(Email().Matches(text), EmailReplacement));
        Add(DetailKind.Word, NameMask.FindMasked(text, [.. words.Select(w => (w.Trim(), WordReplacement))]));
        Add(DetailKind.Name, NameMask.Find(text, people));
        Add(
            DetailKind.PhoneNumber,
            Of(
                Phone()
                    .Matches(text)
                    .Where(m => m.Value.Count(char.IsAsciiDigit) is >= FewestDigits and <= MostDigits && !Date().IsMatch(m.Value)),
                PhoneReplacement
            )
        );
        return [.. found.OrderBy(f => f.Range.Start)];

        IEnumerable<Mask> Of(IEnumerable<Match> matches, string replacement) =>
            matches.Select(m => new Mask(new TextRange(m.Index, m.Index + m.Length), replacement));

        void Add(DetailKind kind, IEnumerable<Mask> masks)
        {
            foreach (var (range, replacement) in masks)
            {
                if (!found.Any(f => f.Range.Touches(range)))
                    found.Add(new FoundDetail(kind, range, range.Of(text), replacement));
            }
        }
    }

    /// <summary>An addr-spec (RFC 5322) of a dot-atom and a domain, as people write it.</summary>
    [GeneratedRegex(
        @"(?<![\p{L}\p{N}._%+-])[\p{L}\p{N}!#$%&'*+/=?^_`{|}~-]+(?:\.[\p{L}\p{N}!#$%&'*+/=?^_`{|}~-]+)*"
            + @"@(?:[\p{L}\p{N}](?:[\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+[\p{L}]{2,}(?![\p{L}\p{N}-])"
    )]
    private static partial Regex Email();

    /// <summary>Digits with a plus or a nought before them, in groups.</summary>
    [GeneratedRegex(@"(?<![\p{L}\p{N}.:])(?:\+|\(?0)(?:[ \u00A0./()‐‑–-]{0,3}\d){7,16}(?![\p{L}\p{N}:])")]
    private static partial Regex Phone();

    [GeneratedRegex(@"^\d{1,2}[./-]\d{1,2}[./-](?:\d{2}|\d{4})$")]
    private static partial Regex Date();
}
