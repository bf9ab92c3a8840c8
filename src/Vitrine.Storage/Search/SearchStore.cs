using System.Text;
using System.Text.RegularExpressions;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Search;

/// <summary>A hit in its context.</summary>
/// <param name="Id">The thing; for words in a text, the source.</param>
/// <param name="SourceId">Where an observation or a hit in a text stands.</param>
/// <param name="Name">What it is called; of an observation and a text, the source's title.</param>
/// <param name="At">
/// Where a hit in a text, or a margin note, stands, in UTF-16 units of the text; null for what does not stand in one.
/// </param>
public sealed record Hit(
    FoundKind Kind,
    long Id,
    StudyId? StudyId,
    string? StudyTitle,
    SourceId? SourceId,
    string Name,
    string Words,
    IReadOnlyList<TextRange> Marks,
    int? At
);

/// <summary>Words around hits that stand close together.</summary>
/// <param name="At">Where the first of them stands, in UTF-16 units of the source's text.</param>
public sealed record Passage(string Words, IReadOnlyList<TextRange> Marks, int At);

/// <summary>What was found in one source.</summary>
/// <param name="Hits">How often, over the whole text.</param>
/// <param name="Passages">The places with the most different words of what was typed, in that order.</param>
public sealed record WordsInSource(SourceId SourceId, int Hits, IReadOnlyList<Passage> Passages);

/// <summary>Search over everything that a person may see.</summary>
public sealed partial class SearchStore(Workspace workspace, StudyAccess access)
{
    // Set around hits by SQLite's highlight(); canonical text holds no control characters.
    private const char On = '\u0002';
    private const char Off = '\u0003';

    /// <summary>
    /// The best hits of each kind, or of one kind. Words may stand anywhere and in any form of their stem, accents and case do not matter;
    /// words in quotes stand next to each other;
    /// the last word may be unfinished.
    /// </summary>
    public IReadOnlyList<Hit> Find(Viewer viewer, string typed, FoundKind? only, int most)
    {
        if (QueryOf(typed) is not { } query)
            return [];
        var studies = access.VisibleTo(viewer);
        using var connection = workspace.Open();
        var hits = new List<Hit>();
        if (only != FoundKind.Text)
            hits.AddRange(Things(connection, viewer, typed, query, studies, only, most));
        if (only is null or FoundKind.Text)
            hits.AddRange(Texts(connection, typed, query, studies, most));
        return hits;
    }

    /// <summary>The sources of a study that hold the words, with how often and the best places; those that hold them best first.</summary>
    public IReadOnlyList<WordsInSource> InSources(StudyId studyId, string typed, int mostSources, int mostPassages)
    {
        if (QueryOf(typed) is not { } query)
            return [];
        using var connection = workspace.Open();
        var rows = connection.Query<(long Source, string Words)>(
            """
            SELECT t.source_id, highlight(source_search, 0, @On, @Off) FROM source_search JOIN source_text t ON t.id = source_search.rowid
            WHERE source_search MATCH @query AND t.source_id IN (SELECT id FROM source WHERE study_id = @studyId) ORDER BY rank
            """,
            new
            {
                query,
                studyId,
                On,
                Off,
            },
            buffered: false
        );
        return
        [
            .. Exactly(typed, rows)
                .Take(mostSources)
                .Select(row =>
                {
                    var place = PlacesIn(connection, "source_id", row.Of);
                    return new WordsInSource(
                        row.Of,
                        row.Marks.Count,
                        [.. Passages(row.Text, row.Marks).Take(mostPassages).Select(p => p with { At = place(p.At) })]
                    );
                }),
        ];
    }

    /// <summary>Of what the stems have found, that which holds the phrases in quotes as they stand.</summary>
    private static IEnumerable<(long Of, string Text, IReadOnlyList<TextRange> Marks)> Exactly(
        string typed,
        IEnumerable<(long Of, string Marked)> found
    )
    {
        var phrases = ExactPhrases.In(typed);
        foreach (var (of, marked) in found)
        {
            var (text, marks) = Unmarked(marked);
            if (phrases.AreIn(text))
                yield return (of, text, phrases.Meant(text, marks));
        }
    }

    private static IEnumerable<Passage> Passages(string text, IReadOnlyList<TextRange> marks)
    {
        for (IReadOnlyList<TextRange> left = marks; left.Count > 0; )
        {
            var excerpt = Excerpt.Around(text, left);
            // A hit too long for its excerpt ends the list; nothing would be left out by it but itself.
            if (excerpt.Marks.Count == 0)
                yield break;
            yield return new Passage(excerpt.Words, excerpt.Marks, excerpt.Start + excerpt.Marks[0].Start);
            left = [.. left.Where(m => m.Start < excerpt.Start || m.End > excerpt.Start + excerpt.Words.Length)];
        }
    }

    /// <summary>What was typed as an FTS5 query; null when it holds no word.</summary>
    internal static string? QueryOf(string typed)
    {
        var parts = Part()
            .Matches(typed = HiddenSigns.Without(typed))
            .Select(m => (Words: WordsOf(m.Value), Quoted: m.Value.StartsWith('"'), Last: m.Index + m.Length == typed.Length))
            .Where(p => p.Words.Length > 0)
            .ToList();
        if (parts.Count == 0)
            return null;
        return string.Join(" AND ", parts.Select(p => $"\"{p.Words}\"{(p.Last && !p.Quoted ? " *" : "")}"));
    }

    // FTS5 hands rows out in the order of their rank one by one, so that only those that are read are put in context.
    private IEnumerable<Hit> Things(
        SqliteConnection connection,
        Viewer viewer,
        string typed,
        string query,
        IReadOnlyList<StudyId>? studies,
        FoundKind? only,
        int most
    )
    {
        var phrases = ExactPhrases.In(typed);
        // Observations are many and the rest are few: apart, neither has to be read past the other.
        var observations = only is null or FoundKind.Observation ? Ranked($"rowid & 15 = {(int)FoundKind.Observation}", one: true) : [];
        var others =
            only == FoundKind.Observation
                ? []
                : Ranked(
                    only is { } kind ? $"rowid & 15 = {(int)kind}" : $"rowid & 15 <> {(int)FoundKind.Observation}",
                    one: only is not null
                );
        return [.. others, .. observations];

        List<Hit> Ranked(string which, bool one)
        {
            var found = new List<Hit>();
            var mine =
                $"(@studies IS NULL OR {SearchIndex.StudyOfRowSql("rowid")} = 0 OR "
                + $"{SearchIndex.StudyOfRowSql("rowid")} IN (SELECT value FROM json_each(@studies)))";
            var rows = connection.Query<(long Row, string Name, string Words)>(
                $"""
                SELECT rowid, name, highlight(searchable, 1, @On, @Off) FROM searchable WHERE searchable MATCH @query
                AND rank MATCH 'bm25(5.0, 1.0)' AND {which} AND {mine} ORDER BY rank
                """,
                new
                {
                    query,
                    studies = Ids.Json(studies),
                    On,
                    Off,
                },
                buffered: false
            );
            var left = workspace.Catalogue.Tables.Where(t => t.Search is not null).ToDictionary(t => t.Search!.Kind, _ => most);
            using var place = workspace.OpenFor(viewer.AccountId);
            foreach (var (row, name, marked) in rows)
            {
                var (kind, id) = SearchIndex.Found(row);
                if (left[kind] == 0 || (kind == FoundKind.Exhibit && !access.SeesExhibit(viewer, id)))
                    continue;
                if (place.QuerySingleOrDefault<Place>(PlaceOf(kind), new { id }) is not { } there)
                    continue;
                var (text, marks) = Unmarked(marked);
                if (!phrases.AreIn($"{name}\n{text}"))
                    continue;
                var excerpt = Excerpt.Around(text, phrases.Meant(text, marks));
                found.Add(
                    new Hit(
                        kind,
                        id,
                        there.StudyId,
                        there.StudyTitle,
                        there.SourceId,
                        there.Name ?? name,
                        excerpt.Words,
                        excerpt.Marks,
                        kind == FoundKind.MarginNote ? there.At : null
                    )
                );
                if (--left[kind] == 0 && one)
                    break;
            }
            return found;
        }
    }

    private static IEnumerable<Hit> Texts(
        SqliteConnection connection,
        string typed,
        string query,
        IReadOnlyList<StudyId>? studies,
        int most
    )
    {
        // Asked of each text that is found, and not beforehand of each that may be seen; the plus keeps SQLite to that.
        var mine = studies is null
            ? ""
            : "AND (SELECT s.study_id FROM source_text t JOIN source s ON s.id = t.source_id WHERE t.id = +source_search.rowid) "
                + "IN (SELECT value FROM json_each(@studies))";
        var rows = connection.Query<(long Row, string Words)>(
            $"""
            SELECT rowid, highlight(source_search, 0, @On, @Off) FROM source_search WHERE source_search MATCH @query {mine}
            ORDER BY rank
            """,
            new
            {
                query,
                studies = Ids.Json(studies),
                On,
                Off,
            },
            buffered: false
        );
        foreach (var (row, text, marks) in Exactly(typed, rows).Take(most).ToList())
        {
            var excerpt = Excerpt.Around(text, marks);
            var place = connection.QuerySingle<Place>(
                """
                SELECT s.study_id, y.title AS study_title, s.id AS source_id, s.title AS name FROM source_text t
                  JOIN source s ON s.id = t.source_id JOIN study y ON y.id = s.study_id WHERE t.id = @row
                """,
                new { row }
            );
            yield return new Hit(
                FoundKind.Text,
                place.SourceId!.Value.Value,
                place.StudyId,
                place.StudyTitle,
                place.SourceId,
                place.Name!,
                excerpt.Words,
                excerpt.Marks,
                PlacesIn(connection, "id", row)(excerpt.Start + (excerpt.Marks.Count > 0 ? excerpt.Marks[0].Start : 0))
            );
        }
    }

    /// <summary>Leads from places in the text that is searched to those in the text as it stands, which may hold signs that nobody
    /// sees.</summary>
    private static Func<int, int> PlacesIn(SqliteConnection connection, string column, long id)
    {
        var text = connection.QueryFirstOrDefault<string>(
            $"""
            SELECT t.text FROM source_text t JOIN searched_text s ON s.id = t.id WHERE t.{column} = @id AND length(t.text) <> length(s.text)
            """,
            new { id }
        );
        return text is null ? place => place : place => HiddenSigns.PlaceIn(text, place);
    }

    private string PlaceOf(FoundKind kind) =>
        kind switch
        {
            FoundKind.Observation or FoundKind.MarginNote => $"""
                SELECT o.study_id, y.title AS study_title, o.source_id, s.title AS name, o.start AS at
                FROM {(kind == FoundKind.Observation ? "observation" : "margin_note")} o
                JOIN source s ON s.id = o.source_id JOIN study y ON y.id = o.study_id
                WHERE o.id = @id
                """,
            FoundKind.Source => """
                SELECT s.study_id, y.title AS study_title, s.id AS source_id FROM source s JOIN study y ON y.id = s.study_id
                WHERE s.id = @id
                """,
            _ => $"""
                SELECT o.study_id, y.title AS study_title
                FROM ({workspace.Catalogue.OwnersSql(workspace.Catalogue.Tables.Single(t => t.Search?.Kind == kind).Table)}
                WHERE x.id = @id) o LEFT JOIN study y ON y.id = o.study_id
                """,
        };

    private static (string Text, IReadOnlyList<TextRange> Marks) Unmarked(string marked)
    {
        var text = new StringBuilder(marked.Length);
        var marks = new List<TextRange>();
        var from = 0;
        foreach (var c in marked)
        {
            if (c == On)
                from = text.Length;
            else if (c == Off)
                marks.Add(new TextRange(from, text.Length));
            else
                text.Append(c);
        }
        return (text.ToString(), marks);
    }

    private static string WordsOf(string part) => NoWord().Replace(part, " ").Trim();

    [GeneratedRegex("\"[^\"]*\"?|[^\\s\"]+")]
    private static partial Regex Part();

    [GeneratedRegex(@"[^\p{L}\p{M}\p{N}]+")]
    private static partial Regex NoWord();

    private sealed record Place
    {
        public StudyId? StudyId { get; init; }
        public string? StudyTitle { get; init; }
        public SourceId? SourceId { get; init; }
        public string? Name { get; init; }
        public int? At { get; init; }
    }
}
