using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sql;
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
/// <param name="StillBlind">Sources that are left out: they are still tagged blind.</param>
public sealed record AgreementFound(
    IReadOnlyList<SourceId> Sources,
    int Units,
    int People,
    IReadOnlyList<AgreementOnTag> Tags,
    FourFold Together,
    CohensKappa All,
    IReadOnlyList<SourceId> StillBlind
);

/// <summary>What two people have come to.</summary>
/// <param name="FirstAccountId">Who was called the first.</param>
public sealed record SettledAs(SettlementId Id, Outcome Outcome, AccountId FirstAccountId, string By, DateTimeOffset At);

/// <summary>A unit that one of the two has marked with a tag and the other has not.</summary>
/// <param name="Start">Where it begins in the text; in milliseconds where seconds are compared.</param>
/// <param name="InTime">Whether it is a stretch of time; then it has no words.</param>
/// <param name="First">Whether it was the first.</param>
/// <param name="FirstTagIds">What the first has on the unit, as it was before anything was settled.</param>
/// <param name="SecondTagIds">What the second has.</param>
/// <param name="Marks">The tags on observations in which they differ there.</param>
/// <param name="Late">Whether one of these came after a source that was tagged blind had been opened.</param>
/// <param name="Settled">What they have come to; null while nothing.</param>
public sealed record Disagreement(
    SourceId SourceId,
    int Start,
    int End,
    bool InTime,
    string Before,
    string Words,
    string After,
    bool First,
    IReadOnlyList<TagId> FirstTagIds,
    IReadOnlyList<TagId> SecondTagIds,
    IReadOnlyList<TagOn> Marks,
    bool Late,
    SettledAs? Settled
);

/// <summary>A unit as it is settled.</summary>
/// <param name="InTime">Whether it is a stretch of time, in milliseconds.</param>
public sealed record UnitGiven(SourceId SourceId, int Start, int End, bool InTime);

/// <summary>
/// Compares what people have marked, over sentences or turns of what participants say, or over seconds of recordings. A unit is marked with
/// a tag when an observation that carries it, or a tag under it, touches the unit; what a search has found and nobody has looked at is
/// nobody's. What was settled counts as it was before.
/// </summary>
public sealed class AgreementStore(Workspace workspace, StudyTexts texts, StudyIndexStore indexes, TranscriptsInStep inStep)
{
    /// <summary>How much of a turn is shown around a unit, in characters.</summary>
    private const int Around = 120;

    /// <summary>
    /// Those who have marked a study, by name, as far as the viewer may see it, and those who tag one of its sources blind.
    /// </summary>
    public IReadOnlyList<Tagger> Taggers(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        var marked = connection
            .Query<(AccountId, string, int)>(
                """
                SELECT a.id, a.name, count(DISTINCT o.source_id) FROM observation o JOIN account a ON a.id = o.created_by
                WHERE o.study_id = @studyId AND (o.start IS NOT NULL OR o.begin_ms IS NOT NULL) AND o.found = 0
                GROUP BY a.id
                """,
                new { studyId }
            )
            .Select(t => new Tagger(t.Item1, t.Item2, t.Item3));
        var blind = connection
            .Query<(AccountId, string)>(
                """
                SELECT DISTINCT a.id, a.name FROM blind_tagger t JOIN blind_tagging b ON b.id = t.blind_tagging_id
                JOIN account a ON a.id = t.account_id WHERE b.study_id = @studyId AND b.opened_at IS NULL
                """,
                new { studyId }
            )
            .Select(t => new Tagger(t.Item1, t.Item2, 0));
        return [.. marked.Concat(blind).DistinctBy(t => t.AccountId).OrderBy(t => t.Name, StringComparer.Ordinal).ThenBy(t => t.AccountId)];
    }

    /// <summary>How far two people agree.</summary>
    /// <param name="only">The only sources that count; empty for all that both have marked.</param>
    /// <exception cref="Refusal">It is one and the same person.</exception>
    public AgreementFound Compare(
        StudyId studyId,
        AccountId first,
        AccountId second,
        AgreementUnit unit,
        IReadOnlyCollection<SourceId> only
    )
    {
        using var connection = workspace.Open();
        var (read, index) = Read(connection, studyId, first, second, unit, only);
        var of = read.People.Concat([first, second]).Distinct().ToDictionary(p => p, read.UnitsByTag);
        var none = new bool[read.Units];
        List<int> tags = [.. of[first].Keys.Union(of[second].Keys).Order()];
        var found = new AgreementOnTag[tags.Count];
        Parallel.For(0, tags.Count, i => found[i] = OnTag(tags[i]));
        // Each mark once: every tag by what carries it itself, without those above it and the bundles it is in.
        var (own, theirs) = (read.UnitsByOwnTag(first), read.UnitsByOwnTag(second));
        var together = own
            .Keys.Union(theirs.Keys)
            .Select(tag => FourFold.Of(own.GetValueOrDefault(tag, none), theirs.GetValueOrDefault(tag, none)))
            .Aggregate(default(FourFold), (all, one) => all + one);
        return new AgreementFound(
            [.. read.Sources.Select(s => s.Id)],
            read.Units,
            read.People.Count,
            found,
            together,
            CohensKappa.Of(together),
            read.StillBlind
        );

        AgreementOnTag OnTag(int tag)
        {
            var table = FourFold.Of(of[first].GetValueOrDefault(tag, none), of[second].GetValueOrDefault(tag, none));
            // Units by how many have marked them: all that alpha and Fleiss' kappa ask for.
            var marked = new int[read.People.Count + 1];
            var ofEach = read.People.Select(p => of[p].GetValueOrDefault(tag, none)).ToList();
            for (var u = 0; u < read.Units; u++)
            {
                var yes = 0;
                foreach (var one in ofEach)
                    yes += one[u] ? 1 : 0;
                marked[yes]++;
            }
            IReadOnlyList<(IReadOnlyList<int>, int)> kinds =
            [
                .. marked.Select((units, yes) => ((IReadOnlyList<int>)[read.People.Count - yes, yes], units)).Where(k => k.units > 0),
            ];
            return new AgreementOnTag(
                index.Tags[tag],
                table,
                CohensKappa.Of(table),
                KrippendorffsAlpha.OfKinds(kinds),
                FleissKappa.OfKinds(kinds)
            );
        }
    }

    /// <summary>The units on which two people disagree about a tag, in the order of sources and texts.</summary>
    public IReadOnlyList<Disagreement> Disagreements(
        StudyId studyId,
        AccountId first,
        AccountId second,
        AgreementUnit unit,
        TagId tagId,
        IReadOnlyCollection<SourceId> only
    )
    {
        using var connection = workspace.Open();
        var (read, index) = Read(connection, studyId, first, second, unit, only);
        var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        var none = new bool[read.Units];
        var (one, other) = (read.UnitsByTag(first).GetValueOrDefault(tag, none), read.UnitsByTag(second).GetValueOrDefault(tag, none));
        var settled = SettledIn(connection, studyId, first, second);
        var found = new List<Disagreement>();
        for (var s = 0; s < read.Sources.Count; s++)
        {
            var source = read.Sources[s];
            for (var u = 0; u < source.Units.Count; u++)
            {
                if (one[source.First + u] == other[source.First + u])
                    continue;
                var (turn, range) = source.Units[u];
                List<MarkCompared> ofFirst = [.. read.Touching(first, s, range)];
                List<MarkCompared> ofSecond = [.. read.Touching(second, s, range)];
                var differ = Settlement.Of(TagsOn(ofFirst), TagsOn(ofSecond), Outcome.Talk).Select(d => d.Mark).ToList();
                var whole = source.Text?.Turns[turn].Words.Cover(range);
                var text = source.Text?.Text ?? "";
                // Only those of the tag that is looked at: the others are other tags' disagreements.
                var about = differ.Where(m => read.CountsFor(m.Tag).Contains(tag)).ToList();
                found.Add(
                    new Disagreement(
                        source.Id,
                        range.Start,
                        range.End,
                        source.Text is null,
                        whole is { } w ? Excerpt.Ending(text[w.Start..range.Start], Around) : "",
                        whole is null ? "" : range.Of(text),
                        whole is { } turnOf ? Excerpt.Beginning(text[range.End..turnOf.End], Around) : "",
                        one[source.First + u],
                        [.. ofFirst.SelectMany(m => m.Tags).Distinct()],
                        [.. ofSecond.SelectMany(m => m.Tags).Distinct()],
                        differ,
                        ofFirst.Concat(ofSecond).Any(m => m.Late),
                        about.Count > 0 && about.TrueForAll(settled.ContainsKey) ? settled[about[0]] : null
                    )
                );
            }
        }
        return found;
    }

    /// <summary>Settles a unit: tags that are not to stand are taken off their observations, and stay known as what was marked.</summary>
    /// <exception cref="Refusal">They do not differ there, or it is one and the same person.</exception>
    public Step Settle(Actor actor, StudyId studyId, AccountId first, AccountId second, UnitGiven unit, Outcome outcome)
    {
        using var connection = workspace.Open();
        var (read, _) = Read(
            connection,
            studyId,
            first,
            second,
            unit.InTime ? AgreementUnit.Second : AgreementUnit.Sentence,
            [unit.SourceId]
        );
        if (read.Sources.Count == 0 || unit.End <= unit.Start || unit.Start < 0)
            throw Refusal.Because("They do not both mark this source any more. Open the page again.", "unit");
        var range = new TextRange(unit.Start, unit.End);
        var differ = Settlement.Of(TagsOn(read.Touching(first, 0, range)), TagsOn(read.Touching(second, 0, range)), outcome);
        if (differ.Count == 0)
            throw Refusal.Because("They mark this passage alike by now. Open the page again.", "unit");
        return workspace.Write(
            actor,
            studyId,
            outcome == Outcome.Talk ? "Put a passage aside to be talked about" : "Settled a passage",
            writing =>
            {
                writing.Expect("source", unit.SourceId.Value, "study_id", studyId.Value);
                UndoEarlier(writing, differ.Select(d => d.Mark));
                var id = writing.Insert(
                    "settlement",
                    new
                    {
                        studyId,
                        sourceId = unit.SourceId,
                        firstAccountId = first,
                        secondAccountId = second,
                        outcome = StoredName.Of(outcome),
                    }
                );
                foreach (var ((observationId, tagId), taken) in differ)
                {
                    var given = Given(writing, observationId, tagId) ?? throw Refusal.Missing("observation");
                    writing.Insert(
                        "settled_mark",
                        new
                        {
                            settlementId = id,
                            observationId,
                            tagId,
                            taken,
                            given.Value,
                            given.Example,
                            given.GivenBy,
                            given.GivenAt,
                        }
                    );
                    if (taken)
                        writing.Delete("observation_tag", given.Id);
                }
                return id;
            }
        );
    }

    /// <summary>What was settled about these marks before is not settled any more: tags that went come back as they were given.</summary>
    private static void UndoEarlier(Writing writing, IEnumerable<TagOn> marks)
    {
        foreach (var (observationId, tagId) in marks)
        {
            var earlier = writing
                .Connection.Query<(long Id, long Settlement, bool Taken, double? Value, bool Example, AccountId By, string At)>(
                    """
                    SELECT id, settlement_id, taken, value, example, given_by, given_at FROM settled_mark
                    WHERE observation_id = @observationId AND tag_id = @tagId
                    """,
                    new { observationId, tagId }
                )
                .ToList();
            foreach (var (id, settlement, taken, value, example, createdBy, createdAt) in earlier)
            {
                writing.Remove("settled_mark", id);
                if (taken && Given(writing, observationId, tagId) is null)
                    writing.Insert(
                        "observation_tag",
                        new
                        {
                            observationId,
                            tagId,
                            value,
                            example,
                            createdBy,
                            createdAt,
                        }
                    );
                var left = writing.Connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM settled_mark WHERE settlement_id = @settlement",
                    new { settlement }
                );
                if (!left)
                    writing.Remove("settlement", settlement);
            }
        }
    }

    /// <summary>A tag as it stands on an observation.</summary>
    private sealed record TagGiven
    {
        public long Id { get; init; }
        public double? Value { get; init; }
        public bool Example { get; init; }
        public AccountId GivenBy { get; init; }
        public string GivenAt { get; init; } = "";
    }

    private static TagGiven? Given(Writing writing, ObservationId observationId, TagId tagId) =>
        writing.Connection.QueryFirstOrDefault<TagGiven>(
            """
            SELECT id, value, example, created_by AS given_by, created_at AS given_at FROM observation_tag
            WHERE observation_id = @observationId AND tag_id = @tagId
            """,
            new { observationId, tagId }
        );

    private static IReadOnlyCollection<TagOn> TagsOn(IEnumerable<MarkCompared> marks) =>
        [.. marks.SelectMany(m => m.Tags.Select(t => new TagOn(m.Id, t)))];

    private static Dictionary<TagOn, SettledAs> SettledIn(
        SqliteConnection connection,
        StudyId studyId,
        AccountId first,
        AccountId second
    ) =>
        connection
            .Query<(ObservationId Observation, TagId Tag, SettlementId Id, string Outcome, AccountId First, string By, DateTimeOffset At)>(
                """
                SELECT m.observation_id, m.tag_id, s.id, s.outcome, s.first_account_id, a.name, s.created_at
                FROM settled_mark m JOIN settlement s ON s.id = m.settlement_id JOIN account a ON a.id = s.created_by
                WHERE s.study_id = @studyId AND s.first_account_id IN (@first, @second) AND s.second_account_id IN (@first, @second)
                ORDER BY m.id
                """,
                new
                {
                    studyId,
                    first,
                    second,
                }
            )
            .GroupBy(m => new TagOn(m.Observation, m.Tag))
            .ToDictionary(
                g => g.Key,
                g => g.Last() is var m ? new SettledAs(m.Id, Enum.Parse<Outcome>(m.Outcome, ignoreCase: true), m.First, m.By, m.At) : null!
            );

    private (SourcesCompared Read, StudyIndex Index) Read(
        SqliteConnection connection,
        StudyId studyId,
        AccountId first,
        AccountId second,
        AgreementUnit unit,
        IReadOnlyCollection<SourceId> only
    )
    {
        if (first == second)
            throw Refusal.Because("With oneself one always agrees. Choose two people.", "second");
        var index = indexes.Load(studyId);
        return (new SourcesCompared(connection, texts.Load(studyId), index, unit, inStep, [first, second], only), index);
    }
}
