using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>A participant's real name and what to write in its place.</summary>
public sealed record NamedPerson(string RealName, string Pseudonym);

/// <summary>
/// Finds participants' real names and their pseudonyms in text that leaves the team: the whole name first, then each part of it
/// of two letters or more, as a whole word, in any case for the whole name and with its capital for a part ("Rose" but not "rose").
/// </summary>
public static class NameMask
{
    /// <summary>Where the given people's real names stand in a text; a longer form comes before the shorter ones in it.</summary>
    public static IEnumerable<Mask> Find(string text, IEnumerable<NamedPerson> people) =>
        Forms(people)
            .SelectMany(f =>
                Regex
                    .Matches(text, Whole(f.Name), f.Options | RegexOptions.CultureInvariant)
                    .Select(found => new Mask(new TextRange(found.Index, found.Index + found.Length), f.Pseudonym))
            );

    /// <summary>Every form in which the names are looked for, the longest first, whole names before their parts.</summary>
    internal static IReadOnlyList<(string Name, string Pseudonym, RegexOptions Options)> Forms(IEnumerable<NamedPerson> people)
    {
        var named = people.Where(p => !string.IsNullOrWhiteSpace(p.RealName)).OrderByDescending(p => p.RealName.Length).ToList();
        return
        [
            .. named.Select(p => (p.RealName.Trim(), p.Pseudonym, RegexOptions.IgnoreCase)),
            .. named.SelectMany(p => Parts(p.RealName).Select(part => (part, p.Pseudonym, RegexOptions.None))),
        ];
    }

    /// <summary>The parts of a name that are looked for on their own.</summary>
    public static IEnumerable<string> Parts(string name) =>
        name.Split([' ', '-'], StringSplitOptions.RemoveEmptyEntries).Where(p => p.Length > 1 && char.IsUpper(p[0]));

    /// <summary>A pattern for the words as they stand, not as part of other words.</summary>
    public static string Whole(string words) => $@"(?<![\p{{L}}\p{{N}}]){Regex.Escape(words)}(?![\p{{L}}\p{{N}}])";
}
