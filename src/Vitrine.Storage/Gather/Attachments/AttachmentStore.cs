using Dapper;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Media;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Attachments;

/// <summary>A file that is kept as it is.</summary>
public sealed record Attachment
{
    public AttachmentId Id { get; init; }
    public string Title { get; init; } = "";
    public string Note { get; init; } = "";
    public string FileName { get; init; } = "";
    public string Type { get; init; } = "";
    public long Bytes { get; init; }
    public long Version { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }
    public List<TagId> TagIds { get; init; } = [];

    /// <summary>The insights whose context it is.</summary>
    public List<InsightId> InsightIds { get; init; } = [];
}

/// <summary>Attachments: tagged like observations, counted in nothing.</summary>
public sealed class AttachmentStore(Workspace workspace)
{
    public IReadOnlyList<Attachment> In(StudyId studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var all = connection
            .Query<Attachment>(
                """
                SELECT t.id, t.title, t.note, m.name AS file_name, m.type, m.bytes, t.version, a.name AS created_by, t.created_at
                FROM attachment t JOIN media m ON m.id = t.media_id JOIN account a ON a.id = t.created_by WHERE t.study_id = @studyId
                  ORDER BY t.id
                """,
                new { studyId }
            )
            .ToList();
        var byId = all.ToDictionary(a => a.Id);
        foreach (
            var (attachment, tag) in connection.Query<(long, long)>(
                """
                SELECT x.attachment_id, x.tag_id FROM attachment_tag x JOIN attachment t ON t.id = x.attachment_id
                WHERE t.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            )
        )
            byId[attachment].TagIds.Add(tag);
        foreach (
            var (attachment, insight) in connection.Query<(long, long)>(
                """
                SELECT x.attachment_id, x.insight_id FROM insight_attachment x JOIN attachment t ON t.id = x.attachment_id
                WHERE t.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            )
        )
            byId[attachment].InsightIds.Add(insight);
        return all;
    }

    /// <exception cref="Refusal">There is no such attachment.</exception>
    public NewMedia MediaOf(AttachmentId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<NewMedia>(
                "SELECT m.hash, m.name, m.type, m.bytes FROM media m JOIN attachment a ON a.media_id = m.id WHERE a.id = @id",
                new { id }
            ) ?? throw Refusal.Missing("attachment");
    }

    /// <summary>The attachment of this study that is the same file, if one is.</summary>
    public (AttachmentId Id, string Title)? SameFile(StudyId studyId, string hash)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(AttachmentId, string)?>(
                "SELECT a.id, a.title FROM attachment a JOIN media m ON m.id = a.media_id WHERE a.study_id = @studyId AND m.hash = @hash",
                new { studyId, hash }
            )
            .FirstOrDefault();
    }

    public Step Add(Actor actor, StudyId studyId, string title, NewMedia media) =>
        workspace.Write(actor, studyId, $"Attached “{title}”", writing => Insert(writing, studyId, title, media).Value);

    /// <summary>Attaches the table of a survey as part of a larger step, unless it is attached already.</summary>
    internal static void Keep(Writing writing, StudyId studyId, string title, NewMedia media, SurveyId survey)
    {
        var there = writing.Connection.ExecuteScalar<bool>(
            "SELECT count(*) FROM attachment a JOIN media m ON m.id = a.media_id WHERE a.study_id = @studyId AND m.hash = @Hash",
            new { studyId, media.Hash }
        );
        if (!there)
            Insert(writing, studyId, title, media, survey);
    }

    private static AttachmentId Insert(Writing writing, StudyId studyId, string title, NewMedia media, SurveyId? surveyId = null)
    {
        var mediaId = MediaRows.Insert(writing, studyId, media);
        return writing.Insert(
            "attachment",
            new
            {
                studyId,
                mediaId,
                title,
                surveyId,
            }
        );
    }

    /// <summary>Names an attachment, notes on it and sets its tags, as one step.</summary>
    public Step Change(
        Actor actor,
        StudyId studyId,
        AttachmentId id,
        long version,
        string title,
        string note,
        IReadOnlyList<TagId> tagIds,
        IReadOnlyList<NewTag> newTags
    ) =>
        workspace.Write(
            actor,
            studyId,
            $"Changed the attachment “{title}”",
            writing =>
            {
                writing.Expect("attachment", id.Value, version);
                writing.Update("attachment", id.Value, new { title, note });
                writing.Link(
                    "attachment_tag",
                    "attachment_id",
                    id.Value,
                    "tag_id",
                    [.. tagIds, .. TagNames.FindOrMake(writing, studyId, newTags)]
                );
                return id.Value;
            }
        );

    /// <summary>Takes an attachment away, and off the insights it stood with. The file itself stays for undo.</summary>
    public Step Remove(Actor actor, StudyId studyId, AttachmentId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed an attachment",
            writing =>
            {
                var title =
                    writing.Connection.QueryFirstOrDefault<string>(
                        "SELECT title FROM attachment WHERE id = @id AND study_id = @studyId",
                        new { id, studyId }
                    ) ?? throw Refusal.Missing("attachment");
                writing.Label = $"Removed the attachment “{title}”";
                writing.Remove("attachment", id.Value);
                return id.Value;
            }
        );

    /// <summary>Says which attachments are the context of an insight, in their order, as one step.</summary>
    public Step SetOf(Actor actor, StudyId studyId, InsightId insightId, IReadOnlyList<AttachmentId> attachmentIds) =>
        workspace.Write(
            actor,
            studyId,
            "Changed the attachments of an insight",
            writing =>
            {
                var there = writing
                    .Connection.Query<(long Id, long Attachment)>(
                        "SELECT id, attachment_id FROM insight_attachment WHERE insight_id = @insightId",
                        new { insightId }
                    )
                    .ToList();
                foreach (var gone in there.Where(x => !attachmentIds.Contains(x.Attachment)))
                    writing.Delete("insight_attachment", gone.Id);
                var places = attachmentIds.Distinct().Select((attachmentId, position) => (attachmentId, position)).ToList();
                foreach (var (attachmentId, position) in places)
                {
                    var row = there.FirstOrDefault(x => x.Attachment == attachmentId).Id;
                    if (row > 0)
                        writing.Update("insight_attachment", row, new { position });
                    else
                        writing.Insert(
                            "insight_attachment",
                            new
                            {
                                insightId,
                                attachmentId,
                                position,
                            }
                        );
                }
                return insightId.Value;
            }
        );
}
