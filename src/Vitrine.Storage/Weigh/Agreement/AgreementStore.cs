using Dapper;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Weigh.Agreement;

/// <summary>Somebody who has marked in a study.</summary>
/// <param name="Sources">In how many sources.</param>
public sealed record Tagger(AccountId AccountId, string Name, int Sources);

/// <summary>How far two people agree on a tag.</summary>
/// <param name="Table">Their units, four ways.</param>
/// <param name="Cohen">Their agreement beyond chance.</param>
/// <param name="Alpha">That of all who have marked in these sources.</param>
/// <param name="Fleiss">The same by Fleiss; null where it is undefined.</param>
public sealed record AgreementOnTag(TagId TagId, FourFold Table, CohensKappa Cohen, KrippendorffsAlpha Alpha, double? Fleiss);

/// <summary>How far people agree who have marked the same sources.</summary>
/// <param name="Sources">The sources that both have marked, and that count.</param>
/// <param name="Units">How many units these have.</param>
/// <param name="People">How many have marked in all of these sources; alpha and Fleiss' kappa are theirs.</param>
/// <param name="Tags">Tags that one of the two has given there.</param>
/// <param name="All">All tags together.</param>
public sealed record AgreementFound(
    IReadOnlyList<SourceId> Sources,
    int Units,
    int People,
    IReadOnlyList<AgreementOnTag> Tags,
    FourFold Together,
    CohensKappa All
);

/// <summary>A unit that one of the two has marked with a tag and the other has not.</summary>
/// <param name="First">Whether it was the first.</param>
/// <param name="ObservationIds">With which of their observations.</param>
public sealed record Disagreement(
    SourceId SourceId,
    int Start,
    int End,
    string Before,
    string Words,
    string After,
    bool First,
    IReadOnlyList<ObservationId> ObservationIds
);

/// <summary>
/// Compares what people have marked, over sentences or turns of what participants say. A unit is marked with a tag when an observation
/// that carries it, or a tag under it, touches the unit; what a search has found and nobody has looked at is nobody's.
/// </summary>
public sealed class AgreementStore(Workspace workspace, StudyTexts texts, StudyIndexStore indexes)
{
    /// <summary>How much of a turn is shown around a unit, in characters.</summary>
    private const int Around = 120;

    /// <summary>Those who have marked texts of a study, by name.</summary>
    public IReadOnlyList<Tagger> Taggers(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(AccountId, string, int)>(
                """
                SELECT a.id, a.name, count(DISTINCT o.source_id) FROM observation o JOIN account a ON a.id = o.created_by
                WHERE o.study_id = @studyId AND o.start IS NOT NULL AND o.found = 0 GROUP BY a.id ORDER BY a.name, a.id
                """,
                new { studyId }
            )
            .Select(t => new Tagger(t.Item1, t.Item2, t.Item3))
            .ToList();
    }

    /// <summary>How far two people agree.</summary>
    /// <param name="only">The only sources that count; empty for all that both have marked.</param>
    /// <exception cref="Refusal">It is one and the same person.</exception>
    public AgreementFound Compare(StudyId studyId, AccountId first, AccountId second, PassageUnit unit, IReadOnlyCollection<SourceId> only)
    {
        if (first == second)
            throw Refusal.Because("With oneself one always agrees. Choose two people.", "second");
        var read = new Reading(workspace, texts.Load(studyId), indexes.Load(studyId), unit, [first, second], only);
        // Those who have marked in every one of these sources have read them all.
        var people = read.People.Where(p => read.Sources.All(s => s.Marks.ContainsKey(p))).ToList();
        var tags = read.TagsOf([first, second]).Order().ToList();
        var found = new List<AgreementOnTag>();
        var together = default(FourFold);
        foreach (var tag in tags)
        {
            var of = people.ToDictionary(p => p, p => read.UnitsWith(p, tag));
            var table = FourFold.Of(of[first], of[second]);
            together += table;
            IReadOnlyList<IReadOnlyList<int?>> values =
            [
                .. Enumerable.Range(0, read.Units).Select(u => (IReadOnlyList<int?>)[.. people.Select(p => (int?)(of[p][u] ? 1 : 0))]),
            ];
            found.Add(
                new AgreementOnTag(
                    read.Index.Tags[tag],
                    table,
                    CohensKappa.Of(table),
                    KrippendorffsAlpha.Of(values),
                    FleissKappa.Of([.. values.Select(v => (IReadOnlyList<int>)[v.Count(x => x == 0), v.Count(x => x == 1)])])
                )
            );
        }
        return new AgreementFound(
            [.. read.Sources.Select(s => s.Source.Id)],
            read.Units,
            people.Count,
            found,
            together,
            CohensKappa.Of(together)
        );
    }

    /// <summary>The units on which two people disagree about a tag, in the order of sources and texts.</summary>
    public IReadOnlyList<Disagreement> Disagreements(
        StudyId studyId,
        AccountId first,
        AccountId second,
        PassageUnit unit,
        TagId tagId,
        IReadOnlyCollection<SourceId> only
    )
    {
        var read = new Reading(workspace, texts.Load(studyId), indexes.Load(studyId), unit, [first, second], only);
        var tag = read.Index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        var (one, other) = (read.UnitsWith(first, tag), read.UnitsWith(second, tag));
        var found = new List<Disagreement>();
        var u = 0;
        foreach (var source in read.Sources)
        {
            foreach (var (turn, words) in source.Units)
            {
                if (one[u] != other[u])
                {
                    var text = source.Source.Text.Text;
                    var whole = source.Source.Text.Turns[turn].Words.Cover(words);
                    found.Add(
                        new Disagreement(
                            source.Source.Id,
                            words.Start,
                            words.End,
                            Excerpt.Ending(text[whole.Start..words.Start], Around),
                            words.Of(text),
                            Excerpt.Beginning(text[words.End..whole.End], Around),
                            one[u],
                            read.Touching(source, one[u] ? first : second, tag, words)
                        )
                    );
                }
                u++;
            }
        }
        return found;
    }

    private sealed record SourceRead(
        FindableSource Source,
        IReadOnlyList<(int Turn, TextRange Words)> Units,
        IReadOnlyDictionary<AccountId, List<(ObservationId Id, TextRange Words)>> Marks
    );

    /// <summary>What is needed of the sources that two people have marked.</summary>
    private sealed class Reading
    {
        public Reading(
            Workspace workspace,
            TextsOfStudy study,
            StudyIndex index,
            PassageUnit unit,
            IReadOnlyList<AccountId> both,
            IReadOnlyCollection<SourceId> only
        )
        {
            Index = index;
            using var connection = workspace.Open();
            var marks = connection
                .Query<(long Id, long Source, long By, int Start, int End)>(
                    """
                    SELECT id, source_id, created_by, start, "end" FROM observation
                    WHERE study_id = @StudyId AND start IS NOT NULL AND found = 0 ORDER BY source_id, start, id
                    """,
                    new { index.StudyId }
                )
                .ToLookup(m => (SourceId)m.Source);
            Sources =
            [
                .. study
                    .Sources.Where(s => only.Count == 0 || only.Contains(s.Id))
                    .Select(s => new SourceRead(
                        s,
                        [
                            .. Enumerable
                                .Range(0, s.Text.Turns.Count)
                                .Where(t => !s.Text.Turns[t].IsTeam)
                                .SelectMany(t => Passages.Of(s.Text, t, unit).Select(words => (t, words))),
                        ],
                        marks[s.Id]
                            .Where(m => m.End <= s.Text.Text.Length)
                            .GroupBy(m => (AccountId)m.By)
                            .ToDictionary(g => g.Key, g => g.Select(m => ((ObservationId)m.Id, new TextRange(m.Start, m.End))).ToList())
                    ))
                    .Where(s => both.All(s.Marks.ContainsKey)),
            ];
            Units = Sources.Sum(s => s.Units.Count);
        }

        public StudyIndex Index { get; }
        public IReadOnlyList<SourceRead> Sources { get; }
        public int Units { get; }
        public IEnumerable<AccountId> People => Sources.SelectMany(s => s.Marks.Keys).Distinct().OrderBy(p => p.Value);

        /// <summary>The tags that some people have given, as places in the study's arrays.</summary>
        public HashSet<int> TagsOf(IReadOnlyList<AccountId> people) =>
            [
                .. Sources
                    .SelectMany(s => people.SelectMany(p => s.Marks.GetValueOrDefault(p, [])))
                    .SelectMany(m => Index.PlaceOfObservation(m.Id) is { } o ? Index.Marks.TagsOn(o).ToArray() : []),
            ];

        /// <summary>Which units a person has marked with a tag.</summary>
        public bool[] UnitsWith(AccountId person, int tag) =>
            [.. Sources.SelectMany(s => s.Units.Select(u => Touching(s, person, tag, u.Words).Count > 0))];

        public IReadOnlyList<ObservationId> Touching(SourceRead source, AccountId person, int tag, TextRange words) =>
            [
                .. source
                    .Marks.GetValueOrDefault(person, [])
                    .Where(m => m.Words.Touches(words) && Index.PlaceOfObservation(m.Id) is { } o && Carries(o, tag))
                    .Select(m => m.Id),
            ];

        private bool Carries(int observation, int tag)
        {
            foreach (var t in Index.Marks.TagsOn(observation))
            {
                if (Index.Marks.Tags.WithAncestors(t).Contains(tag))
                    return true;
            }
            return false;
        }
    }
}
