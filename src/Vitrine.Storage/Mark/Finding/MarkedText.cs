using System.Runtime.CompilerServices;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>Which observations touch a stretch of a text.</summary>
public sealed class MarkedText
{
    private readonly Dictionary<int, (int[] Observations, TextRange[] Ranges, int[] Reach)> bySource = [];

    private static readonly ConditionalWeakTable<StudyIndex, MarkedText> Kept = [];

    /// <summary>That of a study; made once for each edition of it.</summary>
    public static MarkedText Of(StudyIndex index) => Kept.GetValue(index, static i => new MarkedText(i));

    private MarkedText(StudyIndex index)
    {
        foreach (
            var source in Enumerable
                .Range(0, index.Observations.Length)
                .Where(o => index.Marks.AnchorOf[o] is TextAnchor)
                .GroupBy(o => index.Marks.SourceOf[o])
        )
        {
            // They are in the order of their beginnings; up to each, how far those reach that have begun.
            int[] observations = [.. source];
            TextRange[] ranges = [.. observations.Select(o => ((TextAnchor)index.Marks.AnchorOf[o]).Range)];
            var reach = new int[ranges.Length];
            for (var i = 0; i < reach.Length; i++)
                reach[i] = Math.Max(ranges[i].End, i == 0 ? 0 : reach[i - 1]);
            bySource[source.Key] = (observations, ranges, reach);
        }
    }

    /// <summary>Observations (places in the study's arrays) that share a unit with a stretch, in the order of the text.</summary>
    public IEnumerable<int> Touching(int source, TextRange words)
    {
        if (!bySource.TryGetValue(source, out var here))
            yield break;
        var at = Array.BinarySearch(here.Reach, words.Start + 1);
        if (at < 0)
            at = ~at;
        while (at > 0 && here.Reach[at - 1] > words.Start)
            at--;
        for (; at < here.Ranges.Length && here.Ranges[at].Start < words.End; at++)
        {
            if (here.Ranges[at].Touches(words))
                yield return here.Observations[at];
        }
    }
}
