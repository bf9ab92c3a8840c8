using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>A narrower tag on a key of the split desk.</summary>
public sealed record SplitTray
{
    /// <summary>The key, 1 to 9.</summary>
    public int Number { get; init; }

    /// <summary>The tag, where it is there; else it is made when the split is done.</summary>
    public TagId? TagId { get; init; }
    public string Name { get; init; } = "";
}

/// <summary>What was decided of an observation.</summary>
/// <param name="Trays">Numbers of the trays that it goes to.</param>
/// <param name="Batch">What was decided at once has the same number; the highest was decided last.</param>
public sealed record SplitDecision(ObservationId ObservationId, SplitOutcome Outcome, IReadOnlyList<int> Trays, int Batch);

/// <summary>How far a wide tag is split in a study.</summary>
/// <param name="Several">Whether an observation may go to several trays.</param>
/// <param name="Observations">What carries the wide tag, in the order of sources and texts.</param>
/// <param name="People">Whose each of these is, in the same order; null for nobody's.</param>
/// <param name="Decisions">In the order in which they were made.</param>
/// <param name="Kept">The numbers when the wide tag stays above the narrower ones.</param>
/// <param name="LetGo">The numbers when it is let go.</param>
/// <param name="Elsewhere">
/// How many observations that are not gone through here carry it: of other studies, or hidden from the person.
/// </param>
/// <param name="ValuesLost">How many values on the wide tag's scale are not on that of the tag they go to.</param>
public sealed record SplitShown(
    Tag Wide,
    bool Several,
    IReadOnlyList<ObservationId> Observations,
    IReadOnlyList<ParticipantId?> People,
    IReadOnlyList<SplitTray> Trays,
    IReadOnlyList<SplitDecision> Decisions,
    SplitNumbers Kept,
    SplitNumbers LetGo,
    int Elsewhere,
    int ValuesLost
);

/// <summary>
/// What goes where while a wide tag is split: kept from the first key on, outside the trail, until <see cref="SplitTag"/> does it. A split
/// is of a study and shared by its team.
/// </summary>
public sealed class SplitStore(Workspace workspace, SeenStudies indexes)
{
    /// <summary>The most trays.</summary>
    public const int MostTrays = 9;

    /// <summary>How far the split is; of a tag that nobody has begun to split, with no tray.</summary>
    /// <exception cref="Refusal">There is no such tag in the study.</exception>
    public SplitShown Get(StudyId studyId, TagId tagId, AccountId viewer)
    {
        var index = indexes.Load(studyId, viewer);
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var wide = WideOf(connection, studyId, tagId);
        var place = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        var own = Tally.ByTag(index.Marks, rollUp: false);
        int[] carrying = own[place];
        var ids = carrying.Select(o => index.Observations[o]).ToList();
        var (several, trays) = TraysOf(connection, studyId, tagId);
        var decisions = DecisionsOf(connection, studyId, tagId, trays, ids.ToHashSet());
        var sent = decisions
            .Where(d => d.Outcome == SplitOutcome.Trays)
            .ToDictionary(
                d => index.PlaceOfObservation(d.ObservationId)!.Value,
                d => (IReadOnlyList<int>)[.. d.Trays.Select(n => trays.FindIndex(t => t.Number == n))]
            );
        IReadOnlySet<int> Carrying(TagId? id) =>
            id is { } tag && index.PlaceOfTag(tag) is { } at ? own[at].ToHashSet() : new HashSet<int>();
        var under = Enumerable
            .Range(0, index.Tags.Length)
            .Where(t => t != place && index.Marks.Tags.WithAncestors(t).Contains(place))
            .SelectMany(t => own[t])
            .ToHashSet();
        var inTrays = trays.ConvertAll(t => Carrying(t.TagId));
        var elsewhere =
            connection.ExecuteScalar<int>("SELECT count(*) FROM observation_tag WHERE tag_id = @tagId", new { tagId }) - ids.Count;
        var wideSet = carrying.ToHashSet();
        return new SplitShown(
            wide,
            several,
            ids,
            [.. carrying.Select(index.PersonOf)],
            trays,
            decisions,
            TagSplit.Numbers(wideSet, under, inTrays, sent, keep: true, elsewhere),
            TagSplit.Numbers(wideSet, under, inTrays, sent, keep: false, elsewhere),
            elsewhere,
            ValuesLost(connection, wide, trays, decisions)
        );
    }

    /// <summary>Whether an observation may go to several trays. One that lies in several already stays there.</summary>
    public void SetSeveral(StudyId studyId, TagId tagId, bool several) =>
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                "UPDATE tag_split SET several = @several WHERE id = @id",
                new { id = Begun(connection, studyId, tagId), several }
            )
        );

    /// <summary>Puts a narrower tag on a key: one that is there, or a name under which one is made at the end.</summary>
    /// <exception cref="Refusal">There is no such key or tag, or it is the wide tag itself, one above it, or on another key.</exception>
    public void SetTray(StudyId studyId, TagId tagId, int number, TagId? trayTagId, TagName? name)
    {
        if (number is < 1 or > MostTrays)
            throw Refusal.Because("Trays are numbered from 1 to 9.", "number");
        workspace.WriteUntrailed(connection =>
        {
            var id = Begun(connection, studyId, tagId);
            // A name that is taken means the tag that has it.
            var found = trayTagId ?? (name is null ? null : TagNames.Find(connection, studyId, name));
            var shown = name?.Shown ?? "";
            if (found is { } tray)
            {
                shown =
                    connection.QueryFirstOrDefault<string>(
                        "SELECT name FROM tag WHERE id = @tray AND (study_id IS NULL OR study_id = @studyId)",
                        new { tray, studyId }
                    ) ?? throw Refusal.Missing("tag");
                if (AboveOrSelf(connection, tagId).Contains(tray))
                    throw Refusal.Because($"“{shown}” is the wide tag itself, or stands above it. Choose a narrower one.", "tagId");
            }
            else if (shown.Length == 0)
                throw Refusal.Because("Give the tray a tag, or the name of a new one.", "name");
            var others = connection.Query<SplitTray>(
                "SELECT number, tag_id, name FROM split_tray WHERE tag_split_id = @id AND number <> @number",
                new { id, number }
            );
            if (others.Any(o => found is null ? o.TagId is null && TagName.Read(o.Name, out _)?.Key == name!.Key : o.TagId == found))
                throw Refusal.Because($"“{shown}” has a tray already.", "name");
            return connection.Execute(
                """
                INSERT INTO split_tray (tag_split_id, number, tag_id, name) VALUES (@id, @number, @found, @shown)
                ON CONFLICT (tag_split_id, number) DO UPDATE SET tag_id = @found, name = @shown
                """,
                new
                {
                    id,
                    number,
                    found,
                    shown,
                }
            );
        });
    }

    /// <summary>Takes a tray away; what lay in it and in no other is not decided any more.</summary>
    public void RemoveTray(StudyId studyId, TagId tagId, int number) =>
        workspace.WriteUntrailed(connection =>
        {
            var id = Begun(connection, studyId, tagId);
            return connection.Execute("DELETE FROM split_tray WHERE tag_split_id = @id AND number = @number", new { id, number });
        });

    /// <summary>Decides of one observation or of many at once; a decision that was made before is replaced.</summary>
    /// <exception cref="Refusal">
    /// A tray is not there, or there are several where one is asked for; or an observation does not carry the tag.
    /// </exception>
    public void Decide(StudyId studyId, TagId tagId, IReadOnlyList<ObservationId> ids, SplitOutcome outcome, IReadOnlyList<int> trays) =>
        workspace.WriteUntrailed(connection =>
        {
            var id = Begun(connection, studyId, tagId);
            var (several, known) = TraysOf(connection, studyId, tagId);
            var into = outcome == SplitOutcome.Trays ? trays.Distinct().Order().ToList() : [];
            if (outcome == SplitOutcome.Trays && (into.Count == 0 || into.Exists(n => !known.Exists(t => t.Number == n))))
                throw Refusal.Because("There is no such tray. Put a tag on that key first.", "trays");
            if (!several && into.Count > 1)
                throw Refusal.Because("An observation goes to one tray here. Choose “several” to send it to more.", "trays");
            var all = Ids.Json(ids.Distinct());
            var given = new
            {
                id,
                tagId,
                studyId,
                all,
                outcome = outcome switch
                {
                    SplitOutcome.Trays => "trays",
                    SplitOutcome.Unsure => "unsure",
                    _ => "wide",
                },
                trays = JsonSerializer.Serialize(into),
            };
            var carrying = connection.ExecuteScalar<int>(
                """
                SELECT count(*) FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE x.tag_id = @tagId AND o.study_id = @studyId AND o.id IN (SELECT value FROM json_each(@all))
                """,
                given
            );
            if (carrying != ids.Distinct().Count())
                throw Refusal.Because("One of these does not carry the tag any more. Go on with the next.", "observationIds");
            return connection.Execute(
                """
                INSERT OR REPLACE INTO split_decision (tag_split_id, observation_id, batch, outcome, trays)
                SELECT @id, value, coalesce((SELECT max(batch) FROM split_decision WHERE tag_split_id = @id), 0) + 1, @outcome, @trays
                FROM json_each(@all)
                """,
                given
            );
        });

    /// <summary>Takes back what was decided last.</summary>
    public void Back(StudyId studyId, TagId tagId) =>
        workspace.WriteUntrailed(connection =>
        {
            var id = Begun(connection, studyId, tagId);
            return connection.Execute(
                """
                DELETE FROM split_decision WHERE tag_split_id = @id
                AND batch = (SELECT max(batch) FROM split_decision WHERE tag_split_id = @id)
                """,
                new { id }
            );
        });

    internal static Tag WideOf(SqliteConnection connection, StudyId studyId, TagId tagId) =>
        connection.QueryFirstOrDefault<Tag>(
            TagStore.Columns + "WHERE t.id = @tagId AND (t.study_id IS NULL OR t.study_id = @studyId)",
            new { tagId, studyId }
        ) ?? throw Refusal.Missing("tag");

    private static long Begun(SqliteConnection connection, StudyId studyId, TagId tagId)
    {
        WideOf(connection, studyId, tagId);
        connection.Execute("INSERT OR IGNORE INTO tag_split (study_id, tag_id) VALUES (@studyId, @tagId)", new { studyId, tagId });
        return connection.QuerySingle<long>(
            "SELECT id FROM tag_split WHERE study_id = @studyId AND tag_id = @tagId",
            new { studyId, tagId }
        );
    }

    internal static (bool Several, List<SplitTray> Trays) TraysOf(SqliteConnection connection, StudyId studyId, TagId tagId)
    {
        var several = connection.QueryFirstOrDefault<bool>(
            "SELECT several FROM tag_split WHERE study_id = @studyId AND tag_id = @tagId",
            new { studyId, tagId }
        );
        var trays = connection
            .Query<SplitTray>(
                """
                SELECT t.number, t.tag_id, coalesce(g.name, t.name) AS name
                FROM split_tray t JOIN tag_split s ON s.id = t.tag_split_id LEFT JOIN tag g ON g.id = t.tag_id
                WHERE s.study_id = @studyId AND s.tag_id = @tagId ORDER BY t.number
                """,
                new { studyId, tagId }
            )
            .ToList();
        return (several, trays);
    }

    /// <summary>Decisions on what still carries the tag, by trays that are still there.</summary>
    internal static List<SplitDecision> DecisionsOf(
        SqliteConnection connection,
        StudyId studyId,
        TagId tagId,
        List<SplitTray> trays,
        HashSet<ObservationId> carrying
    ) =>
        connection
            .Query<(ObservationId Id, string Outcome, string Trays, int Batch)>(
                """
                SELECT d.observation_id, d.outcome, d.trays, d.batch FROM split_decision d JOIN tag_split s ON s.id = d.tag_split_id
                WHERE s.study_id = @studyId AND s.tag_id = @tagId ORDER BY d.batch, d.id
                """,
                new { studyId, tagId }
            )
            .Where(d => carrying.Contains(d.Id))
            .Select(d => new SplitDecision(
                d.Id,
                d.Outcome switch
                {
                    "trays" => SplitOutcome.Trays,
                    "unsure" => SplitOutcome.Unsure,
                    _ => SplitOutcome.Wide,
                },
                [.. JsonSerializer.Deserialize<int[]>(d.Trays)!.Where(n => trays.Exists(t => t.Number == n))],
                d.Batch
            ))
            .Where(d => d.Outcome != SplitOutcome.Trays || d.Trays.Count > 0)
            .ToList();

    private static int ValuesLost(SqliteConnection connection, Tag wide, List<SplitTray> trays, List<SplitDecision> decisions)
    {
        if (wide.Scale is null)
            return 0;
        var scales = trays.ToDictionary(t => t.Number, t => t.TagId is { } id ? TagNames.ScaleOf(connection, id) : wide.Scale);
        var values = connection
            .Query<(ObservationId Id, double Value)>(
                "SELECT observation_id, value FROM observation_tag WHERE tag_id = @Id AND value IS NOT NULL",
                new { wide.Id }
            )
            .ToDictionary(v => v.Id, v => v.Value);
        return decisions.Count(d =>
            d.Outcome == SplitOutcome.Trays
            && values.TryGetValue(d.ObservationId, out var value)
            && !d.Trays.Any(n => scales[n]?.Fits(value) == true)
        );
    }

    internal static HashSet<TagId> AboveOrSelf(SqliteConnection connection, TagId id) =>
        [
            .. connection.Query<TagId>(
                """
                WITH RECURSIVE up (id) AS (
                  SELECT @id UNION SELECT t.parent_id FROM tag t JOIN up ON t.id = up.id WHERE t.parent_id IS NOT NULL)
                SELECT id FROM up
                """,
                new { id }
            ),
        ];
}
