using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>The tag set as it was at the end of a day, and what has become of it.</summary>
/// <param name="First">The day on which the first of its tags was made; null for an empty tag set.</param>
/// <param name="Tags">As they stood then, in their order.</param>
/// <param name="Now">As they stand now.</param>
/// <param name="Differences">What differs.</param>
public sealed record TagSetThen(
    DateOnly? First,
    IReadOnlyList<TagThen> Tags,
    IReadOnlyList<TagThen> Now,
    IReadOnlyList<TagDifference> Differences
);

/// <summary>Reads from the trail what the tag set was: of each tag, what stood before the first change behind that day.</summary>
public sealed class TagHistoryStore(Workspace workspace)
{
    private sealed record Row
    {
        public TagId Id { get; init; }
        public StudyId? StudyId { get; init; }
        public string Name { get; init; } = "";
        public TagId? ParentId { get; init; }
        public string Definition { get; init; } = "";
        public string IsNot { get; init; } = "";
        public bool Settled { get; init; }
        public bool Retired { get; init; }
        public string SplitInto { get; init; } = "";
        public long Position { get; init; }
    }

    private const string Columns = """
        json_extract(row, '$.id') AS id, json_extract(row, '$.study_id') AS study_id, json_extract(row, '$.name') AS name,
        json_extract(row, '$.parent_id') AS parent_id, json_extract(row, '$.definition') AS definition,
        coalesce(json_extract(row, '$.is_not'), '') AS is_not, json_extract(row, '$.settled') AS settled,
        coalesce(json_extract(row, '$.retired'), 0) AS retired, coalesce(json_extract(row, '$.split_into'), '') AS split_into,
        json_extract(row, '$.position') AS position
        """;

    /// <summary>The shared tag set with the own tags of some studies, as it was before an instant, against now.</summary>
    /// <param name="studies">Whose own tags; null for those of all studies.</param>
    public TagSetThen On(DateTimeOffset end, IReadOnlyList<StudyId>? studies)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var until = InstantColumn.Stored(end);
        var now = connection
            .Query<Row>(
                """
                SELECT id, study_id, name, parent_id, definition, is_not, settled, retired, split_into, position FROM tag
                WHERE bundle = 0 ORDER BY position, id
                """
            )
            .ToList();
        var before = connection
            .Query<(long Id, string? Row)>(
                """
                SELECT row_id, before FROM change WHERE id IN (
                  SELECT min(c.id) FROM change c JOIN action a ON a.id = c.action_id
                  WHERE c.table_name = 'tag' AND coalesce(json_extract(coalesce(c.after, c.before), '$.bundle'), 0) = 0
                    AND a.at >= @until GROUP BY c.row_id)
                """,
                new { until }
            )
            .ToDictionary(c => (TagId)c.Id, c => c.Row);
        var restored = connection
            .Query<Row>($"SELECT {Columns} FROM (SELECT value AS row FROM json_each(@all))", new { all = Listed(before.Values) })
            .Concat(now.Where(t => !before.ContainsKey(t.Id)))
            .OrderBy(t => t.Position)
            .ThenBy(t => t.Id)
            .ToList();
        var (then, present) = (Of(restored, studies), Of(now, studies));
        var gone = then.Select(t => t.Id).Except(present.Select(t => t.Id)).ToList();
        var (merged, split) = WhereTo(connection, gone);
        var first = connection.QueryFirstOrDefault<DateTimeOffset?>("SELECT min(created_at) FROM tag");
        return new TagSetThen(
            first is { } at ? DateOnly.FromDateTime(at.UtcDateTime) : null,
            then,
            present,
            TagSetHistory.Between(then, present, merged, split)
        );
    }

    private static string Listed(IEnumerable<string?> rows) => $"[{string.Join(',', rows.OfType<string>())}]";

    private static List<TagThen> Of(IEnumerable<Row> rows, IReadOnlyList<StudyId>? studies) =>
        [
            .. rows.Where(r => r.StudyId is not { } study || studies is null || studies.Contains(study))
                .Select(r => new TagThen(r.Id, r.Name, r.ParentId, r.Definition, r.IsNot, r.Settled, r.Retired, SplitIntoOf(r.SplitInto))),
        ];

    private static IReadOnlyList<TagId> SplitIntoOf(string column) =>
        column.Length == 0 ? [] : [.. JsonSerializer.Deserialize<long[]>(column)!.Select(id => new TagId(id))];

    /// <summary>
    /// Where tags that are gone went: by a merge, which gave their names to the one that stayed; by a split, which is told in the row that
    /// went.
    /// </summary>
    private static (Dictionary<TagId, TagId> Merged, Dictionary<TagId, IReadOnlyList<TagId>> Split) WhereTo(
        SqliteConnection connection,
        IReadOnlyList<TagId> gone
    )
    {
        var (merged, split) = (new Dictionary<TagId, TagId>(), new Dictionary<TagId, IReadOnlyList<TagId>>());
        var deleted = connection
            .Query<(long Id, long Action, string Name, string SplitInto)>(
                """
                SELECT row_id, action_id, json_extract(before, '$.name'), coalesce(json_extract(before, '$.split_into'), '')
                FROM change WHERE id IN (
                  SELECT max(id) FROM change WHERE table_name = 'tag' AND after IS NULL AND row_id IN (SELECT value FROM json_each(@gone))
                  GROUP BY row_id)
                """,
                new { gone = Ids.Json(gone) }
            )
            .ToList();
        foreach (var (id, action, name, into) in deleted)
        {
            var stays = connection
                .Query<(long Id, string? Aliases)>(
                    """
                    SELECT row_id, json_extract(after, '$.aliases') FROM change
                    WHERE action_id = @action AND table_name = 'tag' AND row_id <> @id AND after IS NOT NULL ORDER BY id DESC
                    """,
                    new { action, id }
                )
                .FirstOrDefault(s => s.Aliases is not null && NamesColumn.Read(s.Aliases).Contains(name));
            if (stays.Aliases is not null)
                merged[new TagId(id)] = new TagId(stays.Id);
            else if (into.Length > 0)
                split[new TagId(id)] = SplitIntoOf(into);
        }
        return (merged, split);
    }
}
