using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Uses;

/// <summary>A thing as a list, a sentence or a card names it.</summary>
/// <param name="StudyId">Its study; null for what belongs to none.</param>
public sealed record Titled(long Id, string Title, StudyId? StudyId);

/// <summary>How things are called; the catalogue says by which column.</summary>
internal static class Titles
{
    private const int Longest = 200;

    /// <summary>The given things of one kind, in the order of their ids, without those that are not there.</summary>
    public static IReadOnlyList<Titled> Of(SqliteConnection connection, WorkspaceCatalogue catalogue, string thing, IEnumerable<long> ids)
    {
        var which = $"WHERE o.id IN (SELECT value FROM json_each(@ids)) ORDER BY o.id";
        var given = new { ids = Ids.Json(ids) };
        var owned = $"FROM {thing} o JOIN ({catalogue.OwnersSql(thing)}) a ON a.id = o.id";
        if (catalogue[thing].Title != Declaration.ByItsWords)
            return connection
                .Query<(long Id, string Title, long? Study)>($"SELECT o.id, o.{catalogue[thing].Title}, a.study_id {owned} {which}", given)
                .Select(t => t.Title.Length > 0 ? t : (t.Id, Title: $"{catalogue[thing].Words} without a title", t.Study))
                .Select(t => new Titled(t.Id, t.Title.Length > Longest ? Excerpt.Beginning(t.Title) : t.Title, t.Study))
                .ToList();
        return connection
            .Query<Row, AnchorRow, Titled>(
                $"SELECT o.id, a.study_id, o.source_id, s.title, {AnchorRow.Columns} {owned} JOIN source s ON s.id = o.source_id {which}",
                (row, at) =>
                    new Titled(
                        row.Id,
                        $"{Placing.InWords(at.Anchor, ObservationRows.GroundOf(connection, row.SourceId))}, {row.Title}",
                        row.StudyId
                    ),
                given,
                splitOn: AnchorRow.First
            )
            .ToList();
    }

    private sealed record Row
    {
        public long Id { get; init; }
        public StudyId? StudyId { get; init; }
        public SourceId SourceId { get; init; }
        public string Title { get; init; } = "";
    }
}
