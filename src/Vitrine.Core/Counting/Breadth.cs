using Vitrine.Core.Statistics;

namespace Vitrine.Core.Counting;

/// <summary>
/// How broad a selection of observations is: the triple, out of how many people, and each person's part for the people strip.
/// </summary>
/// <param name="Triple">Observations, sources, people.</param>
/// <param name="OutOf">The denominator for people: everyone in scope who was asked. Never less than the people counted.</param>
/// <param name="Interval">95 % adjusted-Wald interval of people out of <paramref name="OutOf"/>; null when nobody is in scope.</param>
/// <param name="Strip">Observations of each person, in the study's order of participants.</param>
/// <param name="Against">Contradicting observations of each person, where the selection has stances.</param>
/// <param name="Asked">Whether each person is in scope and was asked.</param>
/// <param name="NotReviewed">How many of the observations were found by a search and not looked at yet.</param>
public sealed record Breadth(Triple Triple, int OutOf, Interval? Interval, int[] Strip, int[] Against, bool[] Asked, int NotReviewed = 0)
{
    /// <summary>
    /// Weighs a selection. In scope are participants with a source that somebody has begun to read; those in <paramref name="notAsked"/>
    /// leave the denominator,
    /// unless they said something after all.
    /// </summary>
    public static Breadth Of(
        StudyMarks marks,
        IReadOnlyCollection<int> observations,
        IReadOnlyList<bool> inScope,
        IReadOnlySet<int>? notAsked = null,
        IReadOnlyCollection<int>? contradicting = null
    )
    {
        var against = Tally.PerPerson(marks, contradicting ?? []);
        var strip = Tally.PerPerson(marks, observations);
        var asked = new bool[marks.PersonCount];
        for (var person = 0; person < asked.Length; person++)
        {
            var spoke = strip[person] > 0 || against[person] > 0;
            asked[person] = spoke || (inScope[person] && notAsked?.Contains(person) != true);
        }
        var triple = Tally.Of(marks, observations);
        var outOf = asked.Count(a => a);
        return new Breadth(
            triple,
            outOf,
            AdjustedWald.Of(triple.People, outOf),
            strip,
            against,
            asked,
            marks.CountNotReviewed(observations)
        );
    }
}
