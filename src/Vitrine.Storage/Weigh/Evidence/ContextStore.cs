using Dapper;
using Vitrine.Core.Text;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Weigh.Evidence;

/// <summary>What somebody says, shortened at the side that is farther from the quote.</summary>
/// <param name="Who">The pseudonym of a participant, or the name that the transcript gives; empty for nobody.</param>
/// <param name="Team">Whether somebody of the team speaks.</param>
public sealed record SpokenBeside(string Who, bool Team, string Words);

/// <summary>The words around a quote.</summary>
/// <param name="Before">The turn before that in which it begins; null for none.</param>
/// <param name="Who">Who says it, as with <see cref="SpokenBeside"/>.</param>
/// <param name="Lead">What stands before it in its turn.</param>
/// <param name="Trail">What stands behind it in the turn in which it ends.</param>
/// <param name="After">The turn after that; null for none.</param>
public sealed record QuoteContext(
    ObservationId ObservationId,
    SpokenBeside? Before,
    string Who,
    string Lead,
    string Trail,
    SpokenBeside? After
);

/// <summary>Reads what stands around observations of words.</summary>
public sealed class ContextStore(Workspace workspace)
{
    /// <summary>At most so many characters of what stands beside.</summary>
    public const int Most = 320;

    /// <summary>The context of each that stands in words and that the viewer may see; the others have none.</summary>
    public IReadOnlyList<QuoteContext> Of(IReadOnlyList<ObservationId> ids, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var found = connection
            .Query<(ObservationId Id, SourceId SourceId, int Start, int End)>(
                """
                SELECT id, source_id, start, "end" FROM observation
                WHERE id IN (SELECT value FROM json_each(@ids)) AND start IS NOT NULL
                """,
                new { ids = Ids.Json(ids) }
            )
            .ToList();
        var sources = Ids.Json(found.Select(f => f.SourceId).Distinct());
        var texts = connection
            .Query<(SourceId Id, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@sources))",
                new { sources }
            )
            .ToDictionary(t => t.Id, t => t.Text);
        var turns = connection
            .Query<(SourceId SourceId, int Start, int End, string? Who, bool? Team)>(
                """
                SELECT t.source_id, t.start, t."end", coalesce(p.pseudonym, s.label), s.is_team
                FROM turn t LEFT JOIN speaker s ON s.id = t.speaker_id LEFT JOIN participant p ON p.id = s.participant_id
                WHERE t.source_id IN (SELECT value FROM json_each(@sources)) ORDER BY t.source_id, t.start
                """,
                new { sources }
            )
            .GroupBy(t => t.SourceId)
            .ToDictionary(g => g.Key, g => g.ToList());
        return
        [
            .. found
                .Where(f => texts.ContainsKey(f.SourceId) && turns.ContainsKey(f.SourceId))
                .Select(f =>
                {
                    var (text, all) = (texts[f.SourceId], turns[f.SourceId]);
                    var first = Math.Max(0, all.FindLastIndex(t => t.Start <= f.Start));
                    var last = Math.Max(first, all.FindLastIndex(t => t.Start < f.End));
                    SpokenBeside? Beside(int at, bool before)
                    {
                        if (at < 0 || at >= all.Count)
                            return null;
                        var words = text[all[at].Start..all[at].End];
                        return new SpokenBeside(
                            all[at].Who ?? "",
                            all[at].Team == true,
                            before ? Excerpt.Ending(words, Most) : Excerpt.Beginning(words, Most)
                        );
                    }
                    return new QuoteContext(
                        f.Id,
                        Beside(first - 1, before: true),
                        all[first].Who ?? "",
                        Excerpt.Ending(text[Math.Min(all[first].Start, f.Start)..f.Start], Most),
                        Excerpt.Beginning(text[f.End..Math.Max(all[last].End, f.End)], Most),
                        Beside(last + 1, before: false)
                    );
                }),
        ];
    }
}
