using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>Which passages are looked for; of each list, any is enough, and an empty one leaves nothing out.</summary>
/// <param name="Unit">What a passage is.</param>
/// <param name="Team">Whether words of the team are looked through too.</param>
/// <param name="People">Whose words.</param>
/// <param name="Sources">In which sources.</param>
/// <param name="Kinds">In which kinds of source.</param>
/// <param name="Tags">Touched by an observation with one of these tags, or one under it.</param>
/// <param name="Unmarked">Only passages that no observation touches.</param>
/// <param name="NewFor">Only what does not carry this tag yet and was not refused for it.</param>
public sealed record FindScope(
    PassageUnit Unit,
    bool Team,
    IReadOnlyCollection<ParticipantId> People,
    IReadOnlyCollection<SourceId> Sources,
    IReadOnlyCollection<SourceKind> Kinds,
    IReadOnlyCollection<TagId> Tags,
    bool Unmarked,
    TagId? NewFor
);

/// <summary>A passage with where it stands in the study's arrays.</summary>
/// <param name="Source">Its place among the study's sources.</param>
/// <param name="Person">Whose words it holds: a place among the study's people; null for nobody's.</param>
/// <param name="Words">Its stretch of the text.</param>
/// <param name="Hits">Where in the text what was looked for stands.</param>
public sealed record PlacedPassage(FindableSource In, int Source, int? Person, TextRange Words, IReadOnlyList<TextRange> Hits);

/// <summary>What was found in a study.</summary>
/// <param name="Passages">In the order of sources and texts.</param>
/// <param name="Breadth">How many passages, in how many sources, of how many people.</param>
/// <param name="All">Whether these are all; else only the first.</param>
public sealed record FoundInStudy(StudyIndex Index, IReadOnlyList<PlacedPassage> Passages, Breadth Breadth, bool All);

/// <summary>Looks through the texts of a study.</summary>
public sealed class PassageStore(Workspace workspace, StudyTexts texts, StudyIndexStore indexes)
{
    /// <summary>At most so many passages are found at once.</summary>
    public const int Most = 10_000;

    /// <summary>The passages that hold what was typed; for null, none.</summary>
    public FoundInStudy Find(StudyId studyId, FindQuery? query, FindScope scope)
    {
        var index = indexes.Load(studyId);
        if (query is null)
            return new FoundInStudy(index, [], BreadthOf(index, []), true);
        var study = texts.Load(studyId);
        Finder finder;
        lock (study.Gate)
            finder = new Finder(query, study.Vocabulary);
        var people = scope.People.ToHashSet();
        var fits = Fitting(index, scope);
        var placeOf = index.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var found = new List<PlacedPassage>();
        var refused = scope.NewFor is { } tag ? Refused(studyId, tag) : [];
        var within = study.Sources.Where(s => placeOf.TryGetValue(s.Id, out var place) && fits.Source(place)).ToList();
        var byText = finder.InAll([.. within.Select(s => s.Text)], scope.Unit, t => scope.Team || !t.IsTeam, Most);
        for (var i = 0; i < byText.Count; i++)
        {
            var (source, place) = (within[i], placeOf[within[i].Id]);
            foreach (var passage in byText[i])
            {
                var person = PersonOf(index, place, source.Text.Turns[passage.Turn]);
                if (people.Count > 0 && (person is not { } p || !people.Contains(index.People[p])))
                    continue;
                if (
                    !fits.Passage(place, passage.Passage)
                    || (refused.Count > 0 && refused.Contains((source.Id, ContentHash.Of(passage.Passage.Of(source.Text.Text)))))
                )
                    continue;
                found.Add(new PlacedPassage(source, place, person, passage.Passage, passage.Hits));
            }
        }
        var shown = found.Count > Most ? found.GetRange(0, Most) : found;
        return new FoundInStudy(index, shown, BreadthOf(index, shown), byText.Count == within.Count && found.Count <= Most);
    }

    /// <summary>How broad passages are, as if each were an observation.</summary>
    public static Breadth BreadthOf(StudyIndex index, IReadOnlyList<PlacedPassage> passages)
    {
        var marks = new StudyMarks
        {
            SourceOf = [.. passages.Select(p => p.Source)],
            PersonOf = [.. passages.Select(p => p.Person)],
            AnchorOf = [.. passages.Select(p => (Anchor)new TextAnchor(p.Words))],
            TagStarts = new int[passages.Count + 1],
            TagOf = [],
            Tags = index.Marks.Tags,
            SourceCount = index.Marks.SourceCount,
            PersonCount = index.Marks.PersonCount,
        };
        return Breadth.Of(marks, [.. Enumerable.Range(0, passages.Count)], index.InScope);
    }

    /// <summary>The words that were refused for a tag, by their hash.</summary>
    public HashSet<(SourceId Source, string Hash)> Refused(StudyId studyId, TagId tag)
    {
        using var connection = workspace.Open();
        return
        [
            .. connection.Query<(SourceId, string)>(
                "SELECT source_id, words_hash FROM refused_passage WHERE study_id = @studyId AND tag_id = @tag",
                new { studyId, tag }
            ),
        ];
    }

    private (Func<int, bool> Source, Func<int, TextRange, bool> Passage) Fitting(StudyIndex index, FindScope scope)
    {
        var (sources, kinds) = (scope.Sources.ToHashSet(), scope.Kinds.ToHashSet());
        bool Source(int s) =>
            (sources.Count == 0 || sources.Contains(index.Sources[s].Id)) && (kinds.Count == 0 || kinds.Contains(index.Sources[s].Kind));
        if (scope is { Tags.Count: 0, Unmarked: false, NewFor: null })
            return (Source, (_, _) => true);
        var marked = new MarkedText(index);
        var tags = scope.Tags.Select(t => index.PlaceOfTag(t) ?? -1).ToHashSet();
        var newFor = scope.NewFor is { } tag ? index.PlaceOfTag(tag) : null;
        return (
            Source,
            (s, words) =>
            {
                var touching = marked.Touching(s, words).ToList();
                return (!scope.Unmarked || touching.Count == 0)
                    && (tags.Count == 0 || touching.Exists(o => Tagged(o, tags)))
                    && (newFor is not { } own || !touching.Exists(o => index.Marks.TagsOn(o).Contains(own)));
            }
        );

        bool Tagged(int observation, HashSet<int> wanted)
        {
            foreach (var t in index.Marks.TagsOn(observation))
            {
                if (index.Marks.Tags.WithAncestors(t).Any(wanted.Contains))
                    return true;
            }
            return false;
        }
    }

    /// <summary>Whose words a turn holds: its speaker's, else those of the source's only participant.</summary>
    internal static int? PersonOf(StudyIndex index, int source, TurnOf turn) =>
        turn.Person is { } person && index.PlaceOfPerson(person) is { } place ? place
        : index.PeopleOf[source].Count == 1 ? index.PeopleOf[source].First()
        : null;
}
