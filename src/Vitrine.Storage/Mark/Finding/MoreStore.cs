using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>A passage that may be meant too.</summary>
/// <param name="Passage">The passage; its hits are the words that carried it.</param>
/// <param name="Unheard">Whether nobody's words under the tag are of this person yet.</param>
public sealed record OfferedPassage(PlacedPassage Passage, bool Unheard);

/// <summary>Passages that are most like those under a tag.</summary>
/// <param name="Given">The observations that it began with, as places in the arrays.</param>
/// <param name="Left">How many passages could be offered at all.</param>
public sealed record MoreFound(StudyIndex Index, IReadOnlyList<OfferedPassage> Offered, IReadOnlyList<int> Given, int Left);

/// <summary>Finds passages that mean the same without using the same words; see <see cref="FindMore"/>.</summary>
public sealed class MoreStore(StudyTexts texts, SeenStudies indexes, PassageStore passages)
{
    /// <param name="studyId">The study.</param>
    /// <param name="viewer">Who looks.</param>
    /// <param name="tagId">For which tag.</param>
    /// <param name="like">With which of its observations it begins; null for all that carry it, or a tag under it.</param>
    /// <param name="taken">Observations that were taken since it began.</param>
    /// <param name="unit">What a passage is.</param>
    /// <param name="most">How many are offered.</param>
    public MoreFound Find(
        StudyId studyId,
        AccountId viewer,
        TagId tagId,
        ObservationId? like,
        IReadOnlyCollection<ObservationId> taken,
        PassageUnit unit,
        int most
    )
    {
        var study = texts.Load(studyId);
        var index = indexes.Load(studyId, viewer);
        var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        var carrying = Tally.ByTag(index.Marks, rollUp: true)[tag];
        var since = taken.Select(index.PlaceOfObservation).OfType<int>().ToHashSet();
        var given = like is { } one
            ? (IReadOnlyList<int>)[index.PlaceOfObservation(one) ?? throw Refusal.Missing("observation")]
            : [.. carrying.Where(o => !since.Contains(o))];
        var set = study.Passages(unit, team: false);
        var bySource = study.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var placeOf = index.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var refused = passages.Refused(studyId, tagId);
        var marked = MarkedText.Of(index);
        var heard = carrying.Select(o => index.Marks.PersonOf[o]).OfType<int>().ToHashSet();
        lock (study.Gate)
        {
            var open = new bool[set.Count];
            var no = new List<IReadOnlyDictionary<int, int>>();
            for (var p = 0; p < open.Length; p++)
            {
                var (text, _, range) = set.At(p);
                var source = study.Sources[text];
                if (!placeOf.TryGetValue(source.Id, out var place))
                    continue;
                if (refused.Count > 0 && refused.Contains((source.Id, ContentHash.Of(range.Of(source.Text.Text)))))
                    no.Add(set.BagOf(source.Text, range));
                else
                    open[p] = !marked.Touching(place, range).Any(o => index.Marks.TagsOn(o).Contains(tag));
            }
            var more = new FindMore(set);
            var query = more.Query([.. Bags(given)], [.. Bags(since)], no);
            var offered = more.Ranked(query, p => open[p], p => PersonAt(p) is { } person && !heard.Contains(person), most)
                .Select(found =>
                {
                    var (text, _, range) = set.At(found.Passage);
                    var source = study.Sources[text];
                    var person = PersonAt(found.Passage);
                    return new OfferedPassage(
                        new PlacedPassage(
                            source,
                            placeOf[source.Id],
                            person,
                            range,
                            WordsOf(source.Text, range, found.Carried, study.Vocabulary)
                        ),
                        person is { } p && !heard.Contains(p)
                    );
                })
                .ToList();
            return new MoreFound(index, offered, given, open.Count(o => o));

            int? PersonAt(int passage)
            {
                var (text, turn, _) = set.At(passage);
                return placeOf.TryGetValue(study.Sources[text].Id, out var place)
                    ? PassageStore.PersonOf(index, place, study.Sources[text].Text.Turns[turn])
                    : null;
            }

            IEnumerable<IReadOnlyDictionary<int, int>> Bags(IEnumerable<int> observations) =>
                observations
                    .Where(o => index.Marks.AnchorOf[o] is TextAnchor && bySource.ContainsKey(index.Sources[index.Marks.SourceOf[o]].Id))
                    .Select(o =>
                        set.BagOf(
                            study.Sources[bySource[index.Sources[index.Marks.SourceOf[o]].Id]].Text,
                            ((TextAnchor)index.Marks.AnchorOf[o]).Range
                        )
                    );
        }
    }

    /// <summary>Where in a passage words of the given stems stand.</summary>
    private static List<TextRange> WordsOf(IndexedText text, TextRange range, IReadOnlyList<int> stems, Vocabulary vocabulary)
    {
        var (from, to) = text.WordsIn(range);
        return [.. Enumerable.Range(from, to - from).Where(w => stems.Contains(vocabulary.StemOf(text.Forms[w]))).Select(text.Range)];
    }
}
