using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Finding;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Media;
using Vitrine.Storage.Text;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>Finds observations by their words and under conditions.</summary>
public sealed class ObservationFinder(StudyTexts texts, SeenStudies indexes, TranscriptsInStep inStep)
{
    /// <summary>
    /// The observations (places in the arrays) whose words hold what is looked for; for null, all that fit the conditions.
    /// </summary>
    /// <param name="viewer">Who looks.</param>
    public (StudyIndex Index, IReadOnlyList<int> Found) Find(StudyId studyId, AccountId viewer, FindQuery? query, Conditions? where)
    {
        var index = indexes.Load(studyId, viewer, where);
        if (query is null)
            return (index, [.. Enumerable.Range(0, index.Marks.Count)]);
        var study = texts.Load(studyId);
        Finder finder;
        lock (study.Gate)
            finder = new Finder(query, study.Vocabulary);
        var textOf = study.Sources.ToDictionary(s => s.Id, s => s.Text);
        var holds = new bool[index.Marks.Count];
        // A clip is found by what is said in it.
        var clips = inStep.Clips();
        var bySource = Enumerable
            .Range(0, holds.Length)
            .Select(o => (Observation: o, At: clips.WordsOf(index.Sources[index.Marks.SourceOf[o]].Id, index.Marks.AnchorOf[o])))
            .Where(o => o.At is not null)
            .GroupBy(o => o.At!.Value.Source, o => (o.Observation, Range: o.At!.Value.Words))
            .ToList();
        Parallel.ForEach(
            bySource,
            here =>
            {
                if (!textOf.TryGetValue(here.Key, out var text))
                    return;
                var stretches = here.ToList();
                var found = finder.Holding(text, stretches.ConvertAll(o => o.Range));
                for (var i = 0; i < stretches.Count; i++)
                    holds[stretches[i].Observation] = found[i];
            }
        );
        return (index, [.. Enumerable.Range(0, holds.Length).Where(o => holds[o])]);
    }
}
