using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>Why two tags may mean the same.</summary>
public enum LookAlikeReason
{
    /// <summary>Their names have the same words, in any of their forms and in any order.</summary>
    SameStems,

    /// <summary>Their names are spelled nearly alike.</summary>
    NearSpelling,

    /// <summary>Another name of one is nearly a name of the other.</summary>
    Alias,

    /// <summary>Most observations that carry one carry the other too.</summary>
    Overlap,
}

/// <summary>A tag as look-alikes are looked for.</summary>
/// <param name="Id">Which it is.</param>
/// <param name="Name">Its name.</param>
/// <param name="Aliases">Its other names.</param>
/// <param name="ParentId">The tag that it stands under.</param>
/// <param name="Observations">How many observations carry it.</param>
public sealed record LookAlikeTag(TagId Id, string Name, IReadOnlyList<string> Aliases, TagId? ParentId, int Observations);

/// <summary>Two tags that may mean the same.</summary>
/// <param name="One">The one that more observations carry.</param>
/// <param name="Other">The other.</param>
/// <param name="Reasons">Why, the strongest first.</param>
/// <param name="Both">How many observations carry both.</param>
public sealed record LookAlikePair(TagId One, TagId Other, IReadOnlyList<LookAlikeReason> Reasons, int Both);

/// <summary>Finds tags that may mean the same. Common practice, no source, but for the distances (see <see cref="Spelling"/>).</summary>
public static class LookAlikes
{
    /// <summary>Names from this likeness on are spelled nearly alike.</summary>
    public const double LikeFrom = 0.94;

    /// <summary>The share of observations with both, of those with either, from which two tags overlap heavily.</summary>
    public const double OverlapFrom = 0.6;

    /// <summary>On fewer observations than these, overlap says nothing.</summary>
    public const int OverlapLeast = 4;

    /// <summary>The pairs, those with the strongest reasons first. A tag and the one that it stands under are no look-alikes.</summary>
    /// <param name="tags">All tags.</param>
    /// <param name="both">How many observations carry two tags, where any do; the smaller id first.</param>
    public static IReadOnlyList<LookAlikePair> Of(IReadOnlyList<LookAlikeTag> tags, IReadOnlyDictionary<(TagId, TagId), int> both)
    {
        var named = tags.Select(t => (Tag: t, Own: Named(t.Name), Others: t.Aliases.Select(Named).ToList())).ToList();
        var found = new List<LookAlikePair>[tags.Count];
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
                                    ? new LookAlikePair(one.Tag.Id, other.Tag.Id, reasons, shared)
                                    : new LookAlikePair(other.Tag.Id, one.Tag.Id, reasons, shared)
                            );
                }
            }
        );
        return [.. found.SelectMany(f => f).OrderBy(p => p.Reasons[0]).ThenByDescending(p => p.Reasons.Count)];
    }

    private static IEnumerable<LookAlikeReason> Reasons(
        (LookAlikeTag Tag, Spelled Own, List<Spelled> Others) one,
        (LookAlikeTag Tag, Spelled Own, List<Spelled> Others) other,
        int both
    )
    {
        if (one.Own.Stems.Length > 0 && one.Own.Stems == other.Own.Stems)
            yield return LookAlikeReason.SameStems;
        else if (Near(one.Own, other.Own))
            yield return LookAlikeReason.NearSpelling;
        if (one.Others.Any(o => Alike(o, other.Own)) || other.Others.Any(o => Alike(o, one.Own)))
            yield return LookAlikeReason.Alias;
        var either = one.Tag.Observations + other.Tag.Observations - both;
        if (both >= OverlapLeast && both >= OverlapFrom * either)
            yield return LookAlikeReason.Overlap;
    }

    private static bool Alike(Spelled one, Spelled other) => (one.Stems.Length > 0 && one.Stems == other.Stems) || Near(one, other);

    private static bool Near(Spelled one, Spelled other)
    {
        var (a, b) = (one.Folded.Length, other.Folded.Length);
        var (shorter, longer) = (Math.Min(a, b), Math.Max(a, b));
        var allowed =
            shorter < 4 ? 0
            : shorter < 8 ? 1
            : 2;
        // Numbers tell tags apart that are spelled alike: "wave 1", "wave 2".
        if (allowed == 0 || one.Digits != other.Digits)
            return false;
        // Most pairs have too few letters in common to be near, however these stand: no distance has to be measured.
        var shared = Shared(one.Letters, other.Letters);
        if (longer - shared <= allowed && longer - shorter <= allowed && Spelling.Distance(one.Folded, other.Folded) <= allowed)
            return true;
        var most = (((double)shared / a) + ((double)shared / b) + 1) / 3;
        return most + (MostBegun * (1 - most)) >= LikeFrom && Spelling.Likeness(one.Folded, other.Folded) >= LikeFrom;
    }

    /// <summary>What a common beginning adds at most to a likeness, of what it lacks (see <see cref="Spelling"/>).</summary>
    private const double MostBegun = 0.4;

    /// <summary>How many letters two names have in common, each as often as in both; both come sorted.</summary>
    private static int Shared(string one, string other)
    {
        var shared = 0;
        for (int i = 0, j = 0; i < one.Length && j < other.Length; )
        {
            if (one[i] == other[j])
                (shared, i, j) = (shared + 1, i + 1, j + 1);
            else if (one[i] < other[j])
                i++;
            else
                j++;
        }
        return shared;
    }

    /// <param name="Folded">Its words without case and accents.</param>
    /// <param name="Stems">The stems of its telling words, sorted.</param>
    /// <param name="Letters">Its letters, sorted.</param>
    /// <param name="Digits">Its digits.</param>
    private sealed record Spelled(string Folded, string Stems, string Letters, string Digits);

    private static Spelled Named(string name)
    {
        var words = Words.In(name, 0, name.Length).Select(w => Vocabulary.Folded(w.Of(name))).ToList();
        var telling = words.Where(w => !StopWords.Has(w)).ToList();
        var folded = string.Join(' ', words);
        return new Spelled(
            folded,
            string.Join(' ', (telling.Count > 0 ? telling : words).Select(EnglishStem.Of).Distinct().Order(StringComparer.Ordinal)),
            string.Concat(folded.Order()),
            string.Concat(folded.Where(char.IsDigit))
        );
    }
}
