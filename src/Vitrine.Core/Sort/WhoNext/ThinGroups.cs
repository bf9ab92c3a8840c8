namespace Vitrine.Core.Sort.WhoNext;

/// <summary>A value of an attribute that people share.</summary>
/// <param name="Attribute">Which attribute, by its place.</param>
/// <param name="Value">Which value of it.</param>
public readonly record struct GroupValue(int Attribute, string Value);

/// <summary>A group of people of whom few were heard.</summary>
/// <param name="Values">What they share: one value, or one each of two attributes.</param>
/// <param name="People">How many there are in the study.</param>
/// <param name="Heard">How many of them were heard.</param>
/// <param name="Expected">
/// Of a combination, how many would have been heard if the two had nothing to do with each other: the product of those heard with each,
/// over all that were heard. Null of one value.
/// </param>
public sealed record ThinGroup(IReadOnlyList<GroupValue> Values, int People, int Heard, double? Expected);

/// <summary>Finds groups, and combinations of two attributes, of whom few or none were heard. From counts alone.</summary>
public static class ThinGroups
{
    /// <summary>With so many heard, a group has more than one voice.</summary>
    private const int Enough = 2;

    /// <summary>A combination of which at least so many would be expected is missed; of fewer, nobody is no surprise.</summary>
    private const double LeastExpected = 1;

    /// <summary>
    /// Groups with fewer than two people heard, the least heard first, of these the largest; then combinations of which nobody was heard
    /// although each of the two has enough, the most expected first. The bounds are our rule: common practice, no source.
    /// </summary>
    /// <param name="values">Of each person, the value of each attribute; null where it is not known.</param>
    /// <param name="heard">Of each person, whether they were heard.</param>
    public static IReadOnlyList<ThinGroup> Of(IReadOnlyList<IReadOnlyList<string?>> values, IReadOnlyList<bool> heard)
    {
        var all = heard.Count(h => h);
        var groups = new Dictionary<GroupValue, (int People, int Heard)>();
        var pairs = new Dictionary<(GroupValue, GroupValue), (int People, int Heard)>();
        for (var person = 0; person < values.Count; person++)
        {
            var known = values[person].Select((v, a) => (v, a)).Where(x => x.v is not null).Select(x => new GroupValue(x.a, x.v!)).ToList();
            for (var i = 0; i < known.Count; i++)
            {
                Count(groups, known[i], heard[person]);
                for (var j = i + 1; j < known.Count; j++)
                    Count(pairs, (known[i], known[j]), heard[person]);
            }
        }
        var rich = groups
            .Where(g => g.Value.Heard >= Enough)
            .OrderBy(g => g.Key.Attribute)
            .ThenBy(g => g.Key.Value, StringComparer.Ordinal);
        return
        [
            .. groups
                .Where(g => g.Value.Heard < Enough)
                .Select(g => new ThinGroup([g.Key], g.Value.People, g.Value.Heard, null))
                .OrderBy(g => g.Heard)
                .ThenByDescending(g => g.People)
                .ThenBy(g => g.Values[0].Attribute)
                .ThenBy(g => g.Values[0].Value, StringComparer.Ordinal),
            .. rich.SelectMany(a => rich.Where(b => b.Key.Attribute > a.Key.Attribute).Select(b => (A: a, B: b)))
                .Select(x => (Of: (x.A.Key, x.B.Key), Expected: (double)x.A.Value.Heard * x.B.Value.Heard / all))
                .Where(x => x.Expected >= LeastExpected && pairs.GetValueOrDefault(x.Of).Heard == 0)
                .OrderByDescending(x => x.Expected)
                .Select(x => new ThinGroup([x.Of.Item1, x.Of.Item2], pairs.GetValueOrDefault(x.Of).People, 0, x.Expected)),
        ];
    }

    private static void Count<T>(Dictionary<T, (int People, int Heard)> counts, T key, bool heard)
        where T : notnull
    {
        var (people, of) = counts.GetValueOrDefault(key);
        counts[key] = (people + 1, of + (heard ? 1 : 0));
    }
}
