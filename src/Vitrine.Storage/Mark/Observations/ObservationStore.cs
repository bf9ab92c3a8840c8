using System.Globalization;
using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Observations;

/// <summary>Observations: marking, tagging, noting.</summary>
public sealed partial class ObservationStore(Workspace workspace)
{
    /// <summary>
    /// Marks a place of a source and tags it, as one step. The same place marked again by the same person gets the tags added.
    /// </summary>
    public Step Make(
        Actor actor,
        SourceId sourceId,
        AnchorGiven given,
        IReadOnlyList<TagId> tagIds,
        IReadOnlyList<NewTag> newTags,
        string? basedOn = null
    )
    {
        var studyId = StudyOfSource(sourceId);
        return workspace.Write(
            actor,
            studyId,
            "Marked a stretch",
            writing =>
            {
                var ground = ObservationRows.GroundOf(writing.Connection, sourceId);
                var anchor = Placing.Fitting(Placing.Following(writing, sourceId, given, basedOn), ground);
                writing.Label = $"Marked {Placing.InWords(anchor, ground)}";
                var id =
                    Same(writing.Connection, sourceId, anchor, actor.AccountId)
                    ?? ObservationRows.Insert(writing, studyId, sourceId, anchor);
                AddTags(writing, id, [.. tagIds, .. TagNames.FindOrMake(writing, studyId, newTags)]);
                return id.Value;
            }
        );
    }

    /// <summary>
    /// Puts an observation on another place of its source. Whatever was to be looked at about its words is settled by it.
    /// </summary>
    /// <param name="was">Where the person saw it; null for wherever it is.</param>
    /// <exception cref="Refusal">It does not stand there any more: somebody else has moved it.</exception>
    public Step Move(Actor actor, ObservationId id, AnchorGiven given, AnchorGiven? was = null) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Moved an observation",
            writing =>
            {
                var ground = ObservationRows.GroundOf(
                    writing.Connection,
                    writing.Connection.QuerySingle<long>("SELECT source_id FROM observation WHERE id = @id", new { id })
                );
                var anchor = Placing.Fitting(given, ground);
                if (was is not null && AnchorOf(writing.Connection, id) is var stands && stands != Placing.Fitting(was, ground))
                    throw new Refusal(
                        RefusalKind.Conflict,
                        $"This observation was moved in the meantime, and stands on {Placing.InWords(stands, ground)} now. "
                            + TrailStore.LastChange(writing.Connection, actor.AccountId, "observation", id.Value)
                    );
                writing.Label = $"Put an observation on {Placing.InWords(anchor, ground)}";
                writing.Update("observation", id.Value, AnchorRow.Of(anchor));
                writing.DeleteAll("correction_look", "observation_id", id.Value);
                return id.Value;
            }
        );

    /// <summary>Rewrites the note that the person saw as <paramref name="was"/>.</summary>
    public Step SetNote(Actor actor, ObservationId id, string was, string note) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Wrote a note on an observation",
            writing =>
            {
                writing.Rewrite("observation", id.Value, "note", was, note);
                return id.Value;
            }
        );

    public Step SetSentiment(Actor actor, ObservationId id, Sentiment? sentiment) =>
        Change(
            actor,
            id,
            sentiment is null ? "Took a sentiment away" : $"Set the sentiment {sentiment.ToString()!.ToLowerInvariant()}",
            new { sentiment }
        );

    public Step SetStar(Actor actor, ObservationId id, bool starred) =>
        Change(actor, id, starred ? "Starred an observation" : "Took a star away", new { starred });

    public Step SetUnsure(Actor actor, ObservationId id, bool unsure) =>
        Change(actor, id, unsure ? "Marked an observation as unsure" : "Marked an observation as sure", new { unsure });

    private Step Change(Actor actor, ObservationId id, string label, object change) =>
        workspace.Write(
            actor,
            StudyOf(id),
            label,
            writing =>
            {
                writing.Update("observation", id.Value, change);
                return id.Value;
            }
        );

    /// <summary>Puts tags on many observations as one step.</summary>
    public Step Tag(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<ObservationId> ids,
        IReadOnlyList<TagId> tagIds,
        IReadOnlyList<NewTag> newTags
    ) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Tagged an observation" : $"Tagged {ids.Count} observations",
            writing =>
            {
                var tags = tagIds.Concat(TagNames.FindOrMake(writing, studyId, newTags)).ToList();
                foreach (var id in ids)
                    AddTags(writing, id, tags);
            }
        );

    /// <summary>Takes a tag off observations as one step.</summary>
    public Step Untag(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> ids, TagId tagId) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a tag",
            writing =>
            {
                var links = writing
                    .Connection.Query<(long Id, string Name)>(
                        """
                        SELECT x.id, t.name FROM observation_tag x JOIN observation o ON o.id = x.observation_id, tag t
                        WHERE t.id = @tagId AND x.tag_id = t.id AND o.study_id = @studyId AND o.id IN (SELECT value FROM json_each(@all))
                        """,
                        new
                        {
                            studyId,
                            tagId,
                            all = Ids.Json(ids),
                        }
                    )
                    .ToList();
                var off = ids.Count == 1 ? "an observation" : $"{ids.Count} observations";
                writing.Label = $"Removed “{links.FirstOrDefault().Name}” from {off}";
                links.ForEach(link => writing.Delete("observation_tag", link.Id));
                return ids[0].Value;
            }
        );

    /// <summary>Gives an observation a value on the scale of one of its tags, or for null takes it away.</summary>
    public Step SetValue(Actor actor, ObservationId id, TagId tagId, double? value) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Gave a value",
            writing =>
            {
                var (link, name, scale) =
                    writing.Connection.QueryFirstOrDefault<(long, string, Scale?)?>(
                        """
                        SELECT x.id, t.name, t.scale FROM observation_tag x JOIN tag t ON t.id = x.tag_id WHERE x.observation_id = @id
                        AND x.tag_id = @tagId
                        """,
                        new { id, tagId }
                    ) ?? throw Refusal.Missing("tag");
                if (scale is null)
                    throw Refusal.Because($"“{name}” carries no scale. Give it one in the tag set first.", "value");
                if (value is { } given && !scale.Fits(given))
                    throw Refusal.Because(
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"“{name}” goes from {scale.Least} to {scale.Most} in steps of {scale.Step}; {given} is not on it."
                        ),
                        "value"
                    );
                writing.Label = value is { } v
                    ? string.Create(CultureInfo.InvariantCulture, $"Gave “{name}” the value {v}")
                    : $"Took the value of “{name}” away";
                writing.Update("observation_tag", link, new { value });
                return id.Value;
            }
        );

    /// <summary>Takes an observation as an example of what one of its tags means, or not any more.</summary>
    public Step SetExample(Actor actor, ObservationId id, TagId tagId, bool example) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Chose an example",
            writing =>
            {
                var (link, name) =
                    writing.Connection.QueryFirstOrDefault<(long, string)?>(
                        """
                        SELECT x.id, t.name FROM observation_tag x JOIN tag t ON t.id = x.tag_id
                        WHERE x.observation_id = @id AND x.tag_id = @tagId
                        """,
                        new { id, tagId }
                    ) ?? throw Refusal.Missing("tag");
                writing.Label = example ? $"Chose an example of “{name}”" : $"Took an example of “{name}” back";
                writing.Update("observation_tag", link, new { example });
                return id.Value;
            }
        );

    /// <summary>Removes observations as one step.</summary>
    public Step Remove(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> ids) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Removed an observation" : $"Removed {ids.Count} observations",
            writing =>
            {
                foreach (var id in ids)
                    writing.Remove("observation", id.Value);
            }
        );

    /// <summary>Puts those tags on an observation that it lacks.</summary>
    internal static void AddTags(Writing writing, ObservationId id, IReadOnlyList<TagId> tagIds)
    {
        var there = writing.Connection.Query<TagId>("SELECT tag_id FROM observation_tag WHERE observation_id = @id", new { id });
        foreach (var tagId in tagIds.Distinct().Except(there))
            writing.Insert("observation_tag", new { observationId = id, tagId });
    }
}
