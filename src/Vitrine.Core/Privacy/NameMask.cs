using System.Text.RegularExpressions;

namespace Vitrine.Core.Privacy;

/// <summary>A participant's real name and what to write in its place.</summary>
public sealed record NamedPerson(string RealName, string Pseudonym);

/// <summary>
/// Replaces participants' real names by their pseudonyms in text that leaves the team: the whole name first, then each part of it
/// of two letters or more, as a whole word, in any case for the whole name and with its capital for a part ("Rose" but not "rose").
/// </summary>
public static class NameMask
{
    /// <summary>The text without the given people's real names.</summary>
    public static string Apply(string text, IEnumerable<NamedPerson> people)
    {
        var named = people.Where(p => !string.IsNullOrWhiteSpace(p.RealName)).OrderByDescending(p => p.RealName.Length).ToList();
        foreach (var person in named) text = Replace(text, person.RealName.Trim(), person.Pseudonym, RegexOptions.IgnoreCase);
        foreach (var person in named)
        {
            foreach (var part in person.RealName.Split([' ', '-'], StringSplitOptions.RemoveEmptyEntries).Where(p => p.Length > 1 && char.IsUpper(p[0])))
            {
                text = Replace(text, part, person.Pseudonym, RegexOptions.None);
            }
        }
        return text;
    }

    private static string Replace(string text, string name, string pseudonym, RegexOptions options) =>
        Regex.Replace(text, $@"(?<![\p{{L}}\p{{N}}]){Regex.Escape(name)}(?![\p{{L}}\p{{N}}])", pseudonym.Replace("$", "$$"), options | RegexOptions.CultureInvariant);
}
