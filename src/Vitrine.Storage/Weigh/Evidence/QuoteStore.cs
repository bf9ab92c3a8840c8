using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Weigh.Evidence;

/// <summary>An observation as it is quoted: its words, whose they are, and where they stand.</summary>
public sealed record Quote
{
    public ObservationId ObservationId { get; init; }
    public string Words { get; init; } = "";

    /// <summary>
    /// Whether its words are not in the text any more since a correction; it is quoted as it was marked, and stands nowhere until somebody
    /// has looked.
    /// </summary>
    public bool Gone { get; init; }
    public SourceId SourceId { get; init; }
    public string SourceTitle { get; init; } = "";
    public SourceKind Kind { get; init; }
    public DateOnly? HeldOn { get; init; }
    public ParticipantId? ParticipantId { get; init; }
    public int? AtMs { get; init; }

    /// <summary>Where it stands in its source. A clip has the words that its transcript says are said in it; a part of a picture has
    /// none.</summary>
    public required Anchor Anchor { get; init; }

    /// <summary>
    /// The type of the file in which it stands, where it is one of sound, film or picture; for words, of the recording of their session in
    /// which they can be heard. Null for none.
    /// </summary>
    public string? MediaType { get; init; }
    public List<TagId> TagIds { get; init; } = [];

    /// <summary>What of its words readers see something else of.</summary>
    public List<QuoteMask> Masks { get; init; } = [];
    public string Note { get; init; } = "";
    public Sentiment? Sentiment { get; init; }
    public bool Starred { get; init; }

    /// <summary>Whether a search made it and nobody has looked at it yet.</summary>
    public bool Found { get; init; }
    public string CreatedBy { get; init; } = "";
}

/// <summary>Some of many quotes.</summary>
/// <param name="Quotes">Those of the page, in order.</param>
/// <param name="Total">How many there are on all pages.</param>
public sealed record QuotePage(IReadOnlyList<Quote> Quotes, int Total);

/// <summary>A masked stretch of a quote.</summary>
/// <param name="Start">Where, in UTF-16 units of the quote's words.</param>
/// <param name="End">One past it.</param>
/// <param name="Replacement">What readers see there.</param>
public sealed record QuoteMask(int Start, int End, string Replacement);

/// <summary>Quotes observations by the canonical text they stand in.</summary>
public sealed class QuoteStore(Workspace workspace, TranscriptsInStep inStep)
{
    /// <summary>One page of the given observations (places in the index), in the given order.</summary>
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many a page holds.</param>
    /// <param name="words">Only those that hold these words, whatever their case and accents; empty for all.</param>
    public QuotePage Page(StudyIndex index, IReadOnlyList<int> places, int page, int size, string words = "")
    {
        places = Holding(index, places, words);
        var shown = places.Skip((int)Math.Min((long)page * size, int.MaxValue)).Take(size).ToList();
        var quotes = Of(index, shown).ToDictionary(q => q.ObservationId);
        return new QuotePage([.. shown.Select(p => quotes.GetValueOrDefault(index.Observations[p])).OfType<Quote>()], places.Count);
    }

    /// <summary>
    /// Those of the given observations (places in the index) that hold these words, whatever their case and accents; all for none.
    /// </summary>
    public IReadOnlyList<int> Holding(StudyIndex index, IReadOnlyList<int> places, string words)
    {
        if (FoldedText.Of(words.Trim()) is not { Length: > 0 } looked)
            return places;
        var holding = Of(index, places)
            .Where(q => FoldedText.Of(q.Words).Contains(looked, StringComparison.Ordinal))
            .Select(q => q.ObservationId)
            .ToHashSet();
        return [.. places.Where(p => holding.Contains(index.Observations[p]))];
    }

    /// <summary>
    /// The given observations (places in the index) as quotes, in the index's order: by source, then by place in the text.
    /// </summary>
    public IReadOnlyList<Quote> Of(StudyIndex index, IEnumerable<int> places)
    {
        var wanted = places.Distinct().Order().ToList();
        var ids = wanted.Select(p => index.Observations[p]).ToList();
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var rows = connection
            .Query<Quote, AnchorRow, Quote>(
                $"""
                SELECT o.id AS observation_id, o.source_id, s.title AS source_title, s.kind, s.held_on, o.note, o.sentiment, o.starred,
                  o.found,
                  a.name AS created_by, CASE WHEN o.start IS NULL THEN m.type ELSE (
                    SELECT n.type FROM in_step i JOIN source r ON r.id = i.recording_id JOIN media n ON n.id = r.media_id
                      JOIN recording q ON q.hash = n.hash
                    WHERE i.transcript_id = s.id
                      AND (i.attached OR EXISTS (SELECT 1 FROM turn t WHERE t.source_id = s.id AND t.begin_ms IS NOT NULL))
                    ORDER BY i.attached DESC, i.position, r.id LIMIT 1) END AS media_type,
                  coalesce(o.begin_ms, (SELECT t.begin_ms FROM turn t WHERE t.source_id = o.source_id AND t.start <= o.start
                    ORDER BY t.start DESC LIMIT 1)) + s.offset_ms AS at_ms,
                  (SELECT l.old_words FROM correction_look l WHERE l.observation_id = o.id AND l.fate = 'gone') AS words,
                  EXISTS (SELECT 1 FROM correction_look l WHERE l.observation_id = o.id AND l.fate = 'gone') AS gone,
                  {AnchorRow.Columns}
                FROM observation o JOIN source s ON s.id = o.source_id LEFT JOIN media m ON m.id = s.media_id
                  JOIN account a ON a.id = o.created_by
                WHERE o.id IN (SELECT value FROM json_each(@ids))
                """,
                (quote, at) => quote with { Anchor = at.Anchor },
                new { ids = Ids.Json(ids) },
                splitOn: AnchorRow.First
            )
            .ToDictionary(q => q.ObservationId);
        var clips = inStep.Clips();
        var words = rows.Values.Where(q => !q.Gone).ToDictionary(q => q.ObservationId, q => clips.WordsOf(q.SourceId, q.Anchor));
        var texts = TextsOf(connection, words.Values.OfType<(SourceId Source, TextRange)>().Select(w => w.Source).Distinct().ToList());
        var quotes = wanted
            .Where(p => rows.ContainsKey(index.Observations[p]))
            .Select(p =>
            {
                var row = rows[index.Observations[p]];
                return row with
                {
                    Words =
                        row.Gone ? row.Words
                        : words[row.ObservationId] is var (source, range) ? range.Of(texts[source])
                        : "",
                    ParticipantId = index.PersonOf(p),
                };
            })
            .ToList();
        var byId = quotes.ToDictionary(q => q.ObservationId);
        foreach (
            var (observation, tag) in connection.Query<(long, long)>(
                """
                SELECT observation_id, tag_id FROM observation_tag WHERE observation_id IN (SELECT value FROM json_each(@ids))
                ORDER BY id
                """,
                new { ids = Ids.Json(ids) }
            )
        )
        {
            if (byId.TryGetValue(observation, out var quote))
                quote.TagIds.Add(tag);
        }
        var masks = connection
            .Query<(long Source, int Start, int End, string Replacement)>(
                """
                SELECT source_id, start, "end", replacement FROM mask WHERE source_id IN (SELECT value FROM json_each(@sources))
                ORDER BY source_id, start
                """,
                new { sources = Ids.Json(texts.Keys) }
            )
            .ToLookup(m => m.Source);
        foreach (var quote in quotes.Where(q => !q.Gone))
        {
            if (words[quote.ObservationId] is var (source, at))
                quote.Masks.AddRange(
                    masks[source.Value]
                        .Where(m => m.Start < at.End && m.End > at.Start)
                        .Select(m => new QuoteMask(
                            Math.Max(m.Start, at.Start) - at.Start,
                            Math.Min(m.End, at.End) - at.Start,
                            m.Replacement
                        ))
                );
        }
        return quotes;
    }

    /// <summary>When each source of a study was held, of those of which it is known.</summary>
    public IReadOnlyDictionary<SourceId, DateOnly> HeldOn(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(SourceId Id, DateOnly Day)>(
                "SELECT id, held_on FROM source WHERE study_id = @studyId AND held_on IS NOT NULL",
                new { studyId }
            )
            .ToDictionary(s => s.Id, s => s.Day);
    }

    private static Dictionary<SourceId, string> TextsOf(SqliteConnection connection, IReadOnlyList<SourceId> sourceIds) =>
        connection
            .Query<(SourceId Id, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(sourceIds) }
            )
            .ToDictionary(t => t.Id, t => t.Text);
}
