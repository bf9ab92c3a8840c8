using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>Why two tags may mean the same.</summary>
public enum TwinReason
{
    /// <summary>Their names have the same words but for their endings.</summary>
    SameStems,

    /// <summary>Their names are spelled nearly alike.</summary>
    NearSpelling,

    /// <summary>Another name of one is nearly a name of the other.</summary>
    Alias,

    /// <summary>Most observations that carry one carry the other too.</summary>
    Overlap,
}

/// <summary>A tag as twins are looked for.</summary>
/// <param name="Id">Which it is.</param>
/// <param name="Name">Its name.</param>
/// <param name="Aliases">Its other names.</param>
/// <param name="ParentId">The tag that it stands under.</param>
/// <param name="Observations">How many observations carry it.</param>
public sealed record TwinTag(TagId Id, string Name, IReadOnlyList<string> Aliases, TagId? ParentId, int Observations);

/// <summary>Two tags that may mean the same.</summary>
/// <param name="One">The one that more observations carry.</param>
/// <param name="Other">The other.</param>
/// <param name="Reasons">Why, the strongest first.</param>
/// <param name="Both">How many observations carry both.</param>
public sealed record TwinPair(TagId One, TagId Other, IReadOnlyList<TwinReason> Reasons, int Both);

/// <summary>Finds tags that may mean the same. Common practice, no source, but for the distances (see <see cref="Spelling"/>).</summary>
public static class NearTwins
{
    /// <summary>Names from this likeness on are spelled nearly alike.</summary>
    public const double LikeFrom = 0.94;

    /// <summary>The share of observations with both, of those with either, from which two tags overlap heavily.</summary>
    public const double OverlapFrom = 0.6;

    /// <summary>On fewer observations than these, overlap says nothing.</summary>
    public const int OverlapLeast = 4;

    /// <summary>The pairs, those with the strongest reasons first. A tag and the one that it stands under are no twins.</summary>
    /// <param name="tags">All tags.</param>
    /// <param name="both">How many observations carry two tags, where any do; the smaller id first.</param>
    public static IReadOnlyList<TwinPair> Of(IReadOnlyList<TwinTag> tags, IReadOnlyDictionary<(TagId, TagId), int> both)
    {
        var named = tags.Select(t => (Tag: t, Own: Named(t.Name), Others: t.Aliases.Select(Named).ToList())).ToList();
        var found = new List<TwinPair>[tags.Count];
        Parallel.For(
            0,
            tags.Count,
            i =>
            {
                found[i] = [];
                for (var j = i + 1; j < named.Count; j++)
                {
                    var (one, other) = (named[i], named[j]);
                    if (one.Tag.ParentId == other.Tag.Id || other.Tag.ParentId == one.Tag.Id)
                        continue;
                    var shared = both.GetValueOrDefault(
                        one.Tag.Id.Value < other.Tag.Id.Value ? (one.Tag.Id, other.Tag.Id) : (other.Tag.Id, one.Tag.Id)
                    );
                    var reasons = Reasons(one, other, shared).ToList();
                    if (reasons.Count > 0)
                        found[i]
                            .Add(
                                one.Tag.Observations >= other.Tag.Observations
                                    ? new TwinPair(one.Tag.Id, other.Tag.Id, reasons, shared)
                                    : new TwinPair(other.Tag.Id, one.Tag.Id, reasons, shared)
                            );
                }
            }
        );
        return [.. found.SelectMany(f => f).OrderBy(p => p.Reasons[0]).ThenByDescending(p => p.Reasons.Count)];
    }

    private static IEnumerable<TwinReason> Reasons(
        (TwinTag Tag, Spelled Own, List<Spelled> Others) one,
        (TwinTag Tag, Spelled Own, List<Spelled> Others) other,
        int both
    )
    {
        if (one.Own.Stems.Length > 0 && one.Own.Stems == other.Own.Stems)
            yield return TwinReason.SameStems;
        else if (Near(one.Own.Folded, other.Own.Folded))
            yield return TwinReason.NearSpelling;
        if (one.Others.Any(o => Alike(o, other.Own)) || other.Others.Any(o => Alike(o, one.Own)))
            yield return TwinReason.Alias;
        var either = one.Tag.Observations + other.Tag.Observations - both;
        if (both >= OverlapLeast && both >= OverlapFrom * either)
            yield return TwinReason.Overlap;
    }

    private static bool Alike(Spelled one, Spelled other) =>
        (one.Stems.Length > 0 && one.Stems == other.Stems) || Near(one.Folded, other.Folded);

    private static bool Near(string one, string other)
    {
        var (shorter, longer) = (Math.Min(one.Length, other.Length), Math.Max(one.Length, other.Length));
        var allowed =
            shorter < 4 ? 0
            : shorter < 8 ? 1
            : 2;
        // Numbers tell tags apart that are spelled alike: "wave 1", "wave 2".
        if (allowed == 0 || Digits(one) != Digits(other))
            return false;
        return (longer - shorter <= allowed && Spelling.Distance(one, other) <= allowed) || Spelling.Likeness(one, other) >= LikeFrom;
    }

    private static string Digits(string name) => string.Concat(name.Where(char.IsDigit));

    private sealed record Spelled(string Folded, string Stems);

    private static Spelled Named(string name)
    {
        var words = Words.In(name, 0, name.Length).Select(w => Vocabulary.Folded(w.Of(name))).ToList();
        var telling = words.Where(w => !StopWords.Has(w)).ToList();
        return new Spelled(
            string.Join(' ', words),
            string.Join(' ', (telling.Count > 0 ? telling : words).Select(EnglishStem.Of).Distinct().Order(StringComparer.Ordinal))
        );
    }
}
