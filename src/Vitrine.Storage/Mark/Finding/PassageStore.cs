using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>Which passages are looked for.</summary>
/// <param name="Unit">What a passage is.</param>
/// <param name="Team">Whether words of the team are looked through too.</param>
/// <param name="Where">
/// Whose words, where; and what is asked of observations: one that fits touches the passage, or, for untagged ones, none with a tag does.
/// </param>
/// <param name="NewFor">Only what does not carry this tag yet and was not refused for it.</param>
public sealed record FindScope(PassageUnit Unit, bool Team, Conditions Where, TagId? NewFor);

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
public sealed class PassageStore(Workspace workspace, StudyTexts texts, SeenStudies indexes)
{
    /// <summary>At most so many passages are found at once.</summary>
    public const int Most = 10_000;

    /// <summary>The passages that hold what was typed; for null, none.</summary>
    /// <param name="viewer">Who looks.</param>
    public FoundInStudy Find(StudyId studyId, AccountId viewer, FindQuery? query, FindScope scope)
    {
        var index = indexes.Load(studyId, viewer);
        var inScope = indexes
            .Load(
                studyId,
                viewer,
                scope.Where with
                {
                    TagIds = [],
                    AuthorIds = [],
                    Sentiments = [],
                    Untagged = false,
                    Starred = false,
                    Unsure = false,
                    Reviewed = false,
                }
            )
            .InScope;
        if (query is null)
            return new FoundInStudy(index, [], BreadthOf(index, [], inScope), true);
        var study = texts.Load(studyId);
        Finder finder;
        lock (study.Gate)
            finder = new Finder(query, study.Vocabulary);
        var fits = Fitting(index, viewer, scope);
        var placeOf = index.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        var found = new List<PlacedPassage>();
        var refused = scope.NewFor is { } tag ? Refused(studyId, tag) : [];
        var within = study.Sources.Where(s => placeOf.TryGetValue(s.Id, out var place) && fits.Sources[place]).ToList();
        var byText = finder.InAll([.. within.Select(s => s.Text)], scope.Unit, t => scope.Team || !t.IsTeam, Most);
        for (var i = 0; i < byText.Count; i++)
        {
            var (source, place) = (within[i], placeOf[within[i].Id]);
            foreach (var passage in byText[i])
            {
                var person = PersonOf(index, place, source.Text.Turns[passage.Turn]);
                if (scope.Where.OfPeople && (person is not { } p || !fits.People[p]))
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
        return new FoundInStudy(index, shown, BreadthOf(index, shown, inScope), byText.Count == within.Count && found.Count <= Most);
    }

    /// <summary>How broad passages are, as if each were an observation.</summary>
    private static Breadth BreadthOf(StudyIndex index, IReadOnlyList<PlacedPassage> passages, bool[] inScope)
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
        return Breadth.Of(marks, [.. Enumerable.Range(0, passages.Count)], inScope);
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

    private (bool[] Sources, bool[] People, Func<int, TextRange, bool> Passage) Fitting(StudyIndex index, AccountId viewer, FindScope scope)
    {
        var where = scope.Where;
        using var connection = workspace.Open();
        var (sources, people) = (SeenStudies.SourcesFitting(connection, index, where), SeenStudies.PeopleFitting(connection, index, where));
        var marked = MarkedText.Of(index);
        var newFor = scope.NewFor is { } tag ? index.PlaceOfTag(tag) : null;
        // What is asked of observations, asked of those that touch a passage.
        var asked = where with
        {
            Untagged = false,
            Reviewed = false,
        };
        var fitting = asked.OfMarks ? MarkedText.Of(indexes.Load(index.StudyId, viewer, where with { Untagged = false })) : null;
        if (fitting is null && !where.Untagged && newFor is null)
            return (sources, people, (_, _) => true);
        return (
            sources,
            people,
            (s, words) =>
                (fitting is null || fitting.Touching(s, words).Any())
                && (!where.Untagged || !marked.Touching(s, words).Any(o => index.Marks.TagsOn(o).Length > 0))
                && (newFor is not { } own || !marked.Touching(s, words).Any(o => index.Marks.TagsAndBundlesOn(o).Contains(own)))
        );
    }

    /// <summary>Whose words a turn holds.</summary>
    internal static int? PersonOf(StudyIndex index, int source, TurnOf turn) =>
        Attribution.PersonOf(
            new SpokenTurn(
                turn.Words,
                Person: turn.Person is { } person ? index.PlaceOfPerson(person) : null,
                HasSpeaker: turn.IsTeam || turn.HasSpeaker
            ),
            index.OnlyOf(source)
        );
}
