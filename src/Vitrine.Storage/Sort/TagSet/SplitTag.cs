using System.Text.Json;
using Dapper;
using Vitrine.Core.Access;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>Ends a split: what was decided is done as one step.</summary>
public sealed class SplitTag(Workspace workspace)
{
    /// <summary>
    /// Does what was decided, as one step: each observation that goes has its narrower tags instead of the wide one, and all else that it
    /// had. Decisions stay, so that a split that is undone goes on where it was.
    /// </summary>
    /// <param name="keep">Whether the wide tag stays above the narrower ones; else it goes when nothing is left on it.</param>
    /// <exception cref="Refusal">
    /// Nothing is decided; or the actor is a note-taker; or a shared tag would go and the actor is no steward.
    /// </exception>
    public Step Finish(Actor actor, StudyId studyId, TagId tagId, bool keep) =>
        workspace.Write(
            actor,
            null,
            "Split a tag",
            writing =>
            {
                if (actor.Role == Role.NoteTaker)
                    throw new Refusal(RefusalKind.NotAllowed, "A note-taker does not change others’ marks. Ask a researcher.");
                var connection = writing.Connection;
                var wide = SplitStore.WideOf(connection, studyId, tagId);
                var (_, trays) = SplitStore.TraysOf(connection, studyId, tagId);
                var carrying = connection
                    .Query<(ObservationId Id, long Row, double? Value)>(
                        """
                        SELECT o.id, x.id, x.value FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                        WHERE x.tag_id = @tagId AND o.study_id = @studyId
                        """,
                        new { tagId, studyId }
                    )
                    .ToDictionary(c => c.Id);
                var sent = SplitStore
                    .DecisionsOf(connection, studyId, tagId, trays, carrying.Keys.ToHashSet())
                    .Where(d => d.Outcome == SplitOutcome.Trays)
                    .ToList();
                if (sent.Count == 0)
                    throw Refusal.Because("Nothing was sent to a narrower tag yet.", "keep");
                var used = trays.Where(t => sent.Exists(d => d.Trays.Contains(t.Number))).ToList();
                writing.Label = $"Split the tag “{wide.Name}” into {InWords(used)}";
                var parent = keep ? wide.Id : wide.ParentId;
                var tags = used.ToDictionary(t => t.Number, t => TagOf(writing, studyId, wide, t, parent, keep));
                foreach (var decision in sent)
                {
                    var (_, row, value) = carrying[decision.ObservationId];
                    Send(writing, decision.ObservationId, row, value, [.. decision.Trays.Select(n => tags[n])]);
                }
                writing.Update("tag", wide.Id.Value, new { splitInto = JsonSerializer.Serialize(tags.Values.Select(t => t.Id.Value)) });
                var left = connection.ExecuteScalar<int>("SELECT count(*) FROM observation_tag WHERE tag_id = @tagId", new { tagId });
                if (!keep && left == 0)
                    LetGo(writing, actor, wide, [.. tags.Values.Select(t => t.Id)]);
                return tags.Values.First().Id.Value;
            }
        );

    private static (TagId Id, Scale? Scale) TagOf(Writing writing, StudyId studyId, Tag wide, SplitTray tray, TagId? parent, bool keep)
    {
        // Somebody may have made a tag of that name meanwhile.
        var name = TagName.Read(tray.Name, out _)!;
        if ((tray.TagId ?? TagNames.Find(writing.Connection, studyId, name)) is not { } id)
            return (TagNames.Insert(writing, studyId, new TagValues(name, parent, Scale: wide.Scale)), wide.Scale);
        var there = writing.Connection.QuerySingle<Tag>(TagStore.Columns + "WHERE t.id = @id", new { id });
        // A tag of one study stands under a shared one, not the other way round.
        if (
            keep
            && !SplitStore.AboveOrSelf(writing.Connection, id).Contains(wide.Id)
            && (wide.StudyId is null || there.StudyId == wide.StudyId)
        )
            writing.Update("tag", id.Value, new { parentId = wide.Id });
        return (id, there.Scale);
    }

    private static void Send(
        Writing writing,
        ObservationId observationId,
        long row,
        double? value,
        IReadOnlyList<(TagId Id, Scale? Scale)> tags
    )
    {
        var carried = writing
            .Connection.Query<TagId>("SELECT tag_id FROM observation_tag WHERE observation_id = @observationId", new { observationId })
            .ToHashSet();
        var missing = tags.Where(t => !carried.Contains(t.Id)).ToList();
        // The row goes along with who gave it; a value stays where the other scale has it.
        if (missing.Count == 0)
            writing.Delete("observation_tag", row);
        for (var i = 0; i < missing.Count; i++)
        {
            var (tag, scale) = missing[i];
            var kept = value is { } v && scale?.Fits(v) == true ? value : null;
            if (i == 0)
                writing.Update("observation_tag", row, new { tagId = tag, value = kept });
            else
                writing.Insert(
                    "observation_tag",
                    new
                    {
                        observationId,
                        tagId = tag,
                        value = kept,
                    }
                );
        }
    }

    /// <summary>The wide tag goes; themes that it lies in and filters that ask for it have the narrower ones instead.</summary>
    private static void LetGo(Writing writing, Actor actor, Tag wide, IReadOnlyList<TagId> narrower)
    {
        if (wide.StudyId is null && actor.Role != Role.Steward)
            throw new Refusal(RefusalKind.NotAllowed, "Every study shares this tag. Keep it above the narrower ones, or ask the steward.");
        foreach (
            var (theme, tag) in writing
                .Connection.Query<(ThemeId, TagId)>(
                    """
                    SELECT x.theme_id, n.value FROM theme_tag x, json_each(@narrower) n WHERE x.tag_id = @Id AND NOT EXISTS (
                      SELECT 1 FROM theme_tag y WHERE y.theme_id = x.theme_id AND y.tag_id = n.value) ORDER BY x.id, n.key
                    """,
                    new { wide.Id, narrower = Ids.Json(narrower) }
                )
                .ToList()
        )
            writing.Insert("theme_tag", new { themeId = theme, tagId = tag });
        Merging.ReplaceInside(writing, "tag", wide.Id.Value, [.. narrower.Select(t => t.Value)]);
        writing.Remove("tag", wide.Id.Value);
    }

    private static string InWords(List<SplitTray> trays) =>
        trays.Count == 1
            ? $"“{trays[0].Name}”"
            : string.Join(", ", trays.SkipLast(1).Select(t => $"“{t.Name}”")) + $" and “{trays[^1].Name}”";
}
