using Dapper;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Finding;

/// <summary>A passage as a request names it.</summary>
/// <param name="Start">Its first UTF-16 unit in the source's text.</param>
/// <param name="End">One past its last.</param>
/// <param name="BasedOn">The hash of the text on which it was found.</param>
public sealed record PassageGiven(SourceId SourceId, int Start, int End, string BasedOn);

/// <summary>A search that stays with its tag.</summary>
public sealed record TagSearch
{
    public TagSearchId Id { get; init; }
    public TagId TagId { get; init; }
    public string Typed { get; init; } = "";
    public PassageUnit Unit { get; init; }

    /// <summary>Whether words of the team are looked through too.</summary>
    public bool Team { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }
}

/// <summary>Passages that a search has found become observations; what was found is looked at, and accepted or dropped.</summary>
public sealed class FoundStore(Workspace workspace)
{
    /// <summary>So many passages are tagged before others who write have their turn.</summary>
    private const int OfPart = 20;

    /// <summary>Tags passages in one step.</summary>
    /// <param name="reviewed">Whether each was looked at; else they are found, not reviewed.</param>
    /// <param name="search">The search that stays with the first tag; null for none.</param>
    /// <returns>The step, with the id of the first tag.</returns>
    public Step Tag(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<PassageGiven> passages,
        IReadOnlyList<TagId> tagIds,
        IReadOnlyList<NewTag> newTags,
        bool reviewed,
        (string Typed, PassageUnit Unit, bool Team, bool Whole)? search
    )
    {
        if (tagIds.Count + newTags.Count == 0 && !reviewed)
            throw Refusal.Because("Name the tag that the passages get.", "tagIds");
        var bySource = passages.OrderBy(p => p.SourceId.Value).ThenBy(p => p.Start).ToList();
        List<TagId> tags = [];
        var next = 0;
        return workspace.WriteInParts(
            actor,
            studyId,
            tagIds.Count + newTags.Count == 0 ? $"Marked {(passages.Count == 1 ? "a passage" : $"{passages.Count} passages")}"
                : passages.Count == 1 ? "Tagged a passage"
                : $"Tagged {passages.Count} passages",
            writing =>
            {
                if (next == 0)
                {
                    tags = [.. tagIds, .. TagNames.FindOrMake(writing, studyId, newTags)];
                    if (search is { } kept && tags.Count > 0)
                        Keep(writing, studyId, tags[0], kept);
                }
                foreach (var group in bySource.Skip(next).Take(OfPart).GroupBy(p => (p.SourceId, p.BasedOn)))
                    TagIn(writing, actor, studyId, group.Key.SourceId, [.. group], tags, reviewed);
                next += OfPart;
                return (next < bySource.Count, tags.Count > 0 ? tags[0].Value : null);
            }
        );
    }

    private static void TagIn(
        Writing writing,
        Actor actor,
        StudyId studyId,
        SourceId source,
        IReadOnlyList<PassageGiven> passages,
        IReadOnlyList<TagId> tags,
        bool reviewed
    )
    {
        writing.Expect("source", source.Value, "study_id", studyId.Value);
        var ground = ObservationRows.GroundOf(writing.Connection, source);
        var asIs = ContentHash.Of(ground.Text) == passages[0].BasedOn;
        var own = writing
            .Connection.Query<(ObservationId Id, int Start, int End)>(
                """
                SELECT id, start, "end" FROM observation WHERE source_id = @source AND created_by = @AccountId AND start IS NOT NULL
                ORDER BY id DESC
                """,
                new { source, actor.AccountId }
            )
            .ToLookup(o => (o.Start, o.End), o => o.Id);
        foreach (var passage in passages)
        {
            var given = new AnchorGiven(AnchorKind.Text, passage.Start, passage.End);
            var anchor = Placing.Fitting(asIs ? given : Placing.Following(writing, source, given, passage.BasedOn), ground);
            ObservationId? there = anchor is TextAnchor at && own[(at.Start, at.End)].LastOrDefault() is { Value: > 0 } one ? one : null;
            // What was chosen with care is not mixed with what was found.
            if (there is { } same && !reviewed && !IsFound(writing, same))
            {
                if (Carries(writing, same, tags))
                    continue;
                there = null;
            }
            if (there is { } mine)
                ObservationStore.AddTags(writing, mine, tags);
            else
            {
                var observationId = ObservationRows.Insert(writing, studyId, source, anchor, found: !reviewed);
                foreach (var tagId in tags.Distinct())
                    writing.Insert("observation_tag", new { observationId, tagId });
            }
        }
    }

    private static bool IsFound(Writing writing, ObservationId id) =>
        writing.Connection.QuerySingle<bool>("SELECT found FROM observation WHERE id = @id", new { id });

    private static bool Carries(Writing writing, ObservationId id, IReadOnlyList<TagId> tags) =>
        !tags.Except(writing.Connection.Query<TagId>("SELECT tag_id FROM observation_tag WHERE observation_id = @id", new { id })).Any();

    private static void Keep(Writing writing, StudyId studyId, TagId tagId, (string Typed, PassageUnit Unit, bool Team, bool Whole) search)
    {
        var unit = StoredName.Of(search.Unit);
        var goneThroughAt = search.Whole ? writing.Now : null;
        var there = writing.Connection.QueryFirstOrDefault<long?>(
            """
            SELECT id FROM tag_search
            WHERE study_id = @studyId AND tag_id = @tagId AND typed = @Typed AND unit = @unit AND team = @Team
            """,
            new
            {
                studyId,
                tagId,
                search.Typed,
                unit,
                search.Team,
            }
        );
        if (there is { } id && goneThroughAt is not null)
            writing.Update("tag_search", id, new { goneThroughAt });
        else if (there is null)
            writing.Insert(
                "tag_search",
                new
                {
                    studyId,
                    tagId,
                    search.Typed,
                    unit,
                    search.Team,
                    goneThroughAt,
                }
            );
    }

    /// <summary>What was found and looked at is as good as what was chosen.</summary>
    public Step Accept(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> ids) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Accepted what a search had found" : $"Accepted {ids.Count} that a search had found",
            writing =>
            {
                foreach (var id in ids)
                {
                    writing.Expect("observation", id.Value, "study_id", studyId.Value);
                    writing.Update("observation", id.Value, new { found = false });
                }
            }
        );

    /// <summary>What was found and is not meant goes away, and is not found again for its tags.</summary>
    /// <exception cref="Refusal">One of them is not found, but chosen.</exception>
    public Step Drop(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> ids) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Dropped what a search had found" : $"Dropped {ids.Count} that a search had found",
            writing =>
            {
                foreach (var id in ids)
                {
                    writing.Expect("observation", id.Value, "study_id", studyId.Value);
                    if (!IsFound(writing, id))
                        throw Refusal.Because("One of them was accepted in the meantime. Remove it where it stands.", "observationIds");
                    var (source, text) = writing.Connection.QuerySingle<(SourceId, string)>(
                        """
                        SELECT o.source_id, t.text FROM observation o JOIN source_text t ON t.source_id = o.source_id WHERE o.id = @id
                        """,
                        new { id }
                    );
                    var words = ObservationStore.AnchorOf(writing.Connection, id) is TextAnchor at ? at.Range.Of(text) : "";
                    foreach (
                        var tag in writing
                            .Connection.Query<TagId>("SELECT tag_id FROM observation_tag WHERE observation_id = @id", new { id })
                            .ToList()
                    )
                        Refuse(writing, studyId, source, tag, words);
                    writing.Remove("observation", id.Value);
                }
            }
        );

    /// <summary>Passages that are not meant by a tag are not offered for it again.</summary>
    public Step Refuse(Actor actor, StudyId studyId, TagId tagId, IReadOnlyList<PassageGiven> passages) =>
        workspace.Write(
            actor,
            studyId,
            passages.Count == 1 ? "Said no to a passage" : $"Said no to {passages.Count} passages",
            writing =>
            {
                foreach (var passage in passages)
                {
                    writing.Expect("source", passage.SourceId.Value, "study_id", studyId.Value);
                    var ground = ObservationRows.GroundOf(writing.Connection, passage.SourceId);
                    var given = Placing.Following(
                        writing,
                        passage.SourceId,
                        new AnchorGiven(AnchorKind.Text, passage.Start, passage.End),
                        passage.BasedOn
                    );
                    if (Placing.Fitting(given, ground) is TextAnchor text)
                        Refuse(writing, studyId, passage.SourceId, tagId, text.Range.Of(ground.Text));
                }
            }
        );

    private static void Refuse(Writing writing, StudyId studyId, SourceId sourceId, TagId tagId, string words)
    {
        var wordsHash = ContentHash.Of(words);
        var there = writing.Connection.ExecuteScalar<bool>(
            "SELECT count(*) FROM refused_passage WHERE tag_id = @tagId AND source_id = @sourceId AND words_hash = @wordsHash",
            new
            {
                tagId,
                sourceId,
                wordsHash,
            }
        );
        if (!there)
            writing.Insert(
                "refused_passage",
                new
                {
                    studyId,
                    sourceId,
                    tagId,
                    wordsHash,
                }
            );
    }

    /// <summary>The searches that stay with the tags of a study, oldest first.</summary>
    public IReadOnlyList<TagSearch> Searches(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<TagSearch>(
                """
                SELECT x.id, x.tag_id, x.typed, x.unit, x.team, a.name AS created_by, x.created_at
                FROM tag_search x JOIN account a ON a.id = x.created_by WHERE x.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            )
            .ToList();
    }

    /// <summary>A search does not stay with its tag any more; what it has found stays.</summary>
    public Step RemoveSearch(Actor actor, StudyId studyId, TagSearchId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a search from its tag",
            writing =>
            {
                writing.Expect("tag_search", id.Value, "study_id", studyId.Value);
                writing.Remove("tag_search", id.Value);
            }
        );

    /// <summary>What was found in a study and nobody has looked at, as far as the viewer may see it, by tag.</summary>
    public IReadOnlyDictionary<TagId, int> NotReviewed(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<(TagId, int)>(
                """
                SELECT x.tag_id, count(*) FROM observation o JOIN observation_tag x ON x.observation_id = o.id
                WHERE o.study_id = @studyId AND o.found = 1 GROUP BY x.tag_id
                """,
                new { studyId }
            )
            .ToDictionary(t => t.Item1, t => t.Item2);
    }
}
