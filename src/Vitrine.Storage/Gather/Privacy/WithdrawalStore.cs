using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Access;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>A source in which someone takes part.</summary>
public sealed record TouchedSource
{
    public SourceId Id { get; init; }
    public string Title { get; init; } = "";

    /// <summary>Whether others take part as well; then only what this person says is theirs.</summary>
    public bool Shared { get; init; }

    public int Observations { get; init; }

    /// <summary>Whether a file is kept that holds their words, picture or voice.</summary>
    public bool File { get; init; }

    /// <summary>
    /// What can become of it when they are erased, one of which has to be chosen: nobody but the team knows what of it is theirs. Empty
    /// where nothing is to be chosen.
    /// </summary>
    public IReadOnlyList<SharedOutcome> Choices { get; init; } = [];
}

/// <summary>The table of a survey in which a row is theirs: it goes, and what was made of the others' rows stays.</summary>
public sealed record TouchedFile(AttachmentId Id, string Title);

/// <summary>Something that rests on a person's words.</summary>
/// <param name="Id">Which.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Theirs">How many of its observations are theirs.</param>
/// <param name="All">Out of how many.</param>
public sealed record TouchedThing(long Id, string Title, int Theirs, int All);

/// <summary>Everything that the withdrawal of a participant touches.</summary>
/// <param name="Sources">Where they speak.</param>
/// <param name="Files">Tables of surveys that go.</param>
/// <param name="Observations">Marks on their words.</param>
/// <param name="Themes">Themes that hold some of them.</param>
/// <param name="Insights">Insights that some of them are evidence of.</param>
/// <param name="Exhibits">Published pages that show such an insight.</param>
public sealed record Touched(
    IReadOnlyList<TouchedSource> Sources,
    IReadOnlyList<TouchedFile> Files,
    int Observations,
    IReadOnlyList<TouchedThing> Themes,
    IReadOnlyList<TouchedThing> Insights,
    IReadOnlyList<TouchedThing> Exhibits
);

/// <summary>What rests on a participant.</summary>
public sealed class WithdrawalStore(Workspace workspace, StudyAccess access)
{
    /// <summary>What of a table, whose rows stand where observations stand, stands on someone's words, in whole or in part.</summary>
    internal static List<long> TheirsIn(SqliteConnection connection, string table, StudyId studyId, ParticipantId id)
    {
        var whose = new WhoseWords(connection, studyId);
        return connection
            .Query<MarkRow, AnchorRow, (MarkRow Row, Anchor Anchor)>(
                $"""
                SELECT o.id, o.source_id, {AnchorRow.Columns} FROM {table} o WHERE o.source_id IN (SELECT source_id FROM source_person
                WHERE participant_id = @id)
                """,
                (row, at) => (row, at.Anchor),
                new { id },
                splitOn: AnchorRow.First
            )
            .Where(o => whose.IsOf(id, o.Row.SourceId, o.Anchor))
            .Select(o => o.Row.Id)
            .ToList();
    }

    private sealed record MarkRow
    {
        public long Id { get; init; }
        public SourceId SourceId { get; init; }
    }

    /// <summary>What rests on a participant, as far as the viewer may see it.</summary>
    public Touched Touches(StudyId studyId, ParticipantId id, Viewer viewer)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        using var snapshot = connection.BeginTransaction(deferred: true);
        if (!connection.ExecuteScalar<bool>("SELECT count(*) FROM participant WHERE id = @id AND study_id = @studyId", new { id, studyId }))
            throw Refusal.Missing("participant");
        var marks = TheirsIn(connection, "observation", studyId, id).ToHashSet();
        var theirs = Ids.Json(marks)!;
        var sources = connection
            .Query<TouchedSource>(
                """
                SELECT s.id, s.title, s.media_id IS NOT NULL AS file,
                  EXISTS (SELECT 1 FROM source_person x WHERE x.source_id = s.id AND x.participant_id <> @id) AS shared,
                  (SELECT count(*) FROM observation o WHERE o.source_id = s.id AND o.id IN (SELECT value
                    FROM json_each(@theirs))) AS observations
                FROM source s JOIN source_person v ON v.source_id = s.id AND v.participant_id = @id WHERE s.study_id = @studyId
                  ORDER BY s.position, s.id
                """,
                new
                {
                    studyId,
                    id,
                    theirs,
                }
            )
            .ToList();
        var choices = ChoicesIn(connection, studyId, id);
        var walk = new UsesWalk(connection, workspace.Catalogue);
        var uses = walk.From("observation", marks);
        return new Touched(
            [.. sources.Select(s => s with { Choices = choices.GetValueOrDefault(s.Id, []) })],
            TablesOf(connection, id),
            sources.Sum(s => s.Observations),
            Things("theme"),
            Things("insight"),
            Things("exhibit")
        );

        IReadOnlyList<TouchedThing> Things(string kind)
        {
            var users = uses.Keys.Where(u => u.Kind == kind).Select(u => u.Id).ToList();
            var rests = walk.RestsOn(kind, users, "observation");
            return
            [
                .. Titles
                    .Of(connection, workspace.Catalogue, kind, users)
                    .Select(t => new TouchedThing(
                        t.Id,
                        Seen(t) ? t.Title : "An exhibit that you do not see",
                        rests[t.Id].Count(marks.Contains),
                        rests[t.Id].Count()
                    )),
            ];

            bool Seen(Titled t) => kind != Thing.Exhibit || access.SeesExhibit(viewer, t.Id);
        }
    }

    internal static IReadOnlyList<TouchedFile> TablesOf(SqliteConnection connection, ParticipantId id) =>
        connection
            .Query<(AttachmentId Id, string Title)>(
                """
                SELECT a.id, a.title FROM attachment a WHERE a.survey_id IN (SELECT survey_id FROM survey_row WHERE participant_id = @id)
                ORDER BY a.id
                """,
                new { id }
            )
            .Select(a => new TouchedFile(a.Id, a.Title))
            .ToList();

    /// <summary>
    /// For each source in which others take part as well what can become of it, where somebody has to say: a recording or a picture, and
    /// a text of which not every turn is known to be somebody's.
    /// </summary>
    internal static IReadOnlyDictionary<SourceId, IReadOnlyList<SharedOutcome>> ChoicesIn(
        SqliteConnection connection,
        StudyId studyId,
        ParticipantId id
    ) =>
        connection
            .Query<(SourceId Id, string? Type, bool Heard, bool Covered, bool Unknown)>(
                """
                SELECT s.id, m.type,
                  EXISTS (SELECT 1 FROM in_step i JOIN turn t ON t.source_id = i.transcript_id JOIN speaker p ON p.id = t.speaker_id
                    WHERE i.recording_id = s.id AND p.participant_id = @id),
                  EXISTS (SELECT 1 FROM protection c WHERE c.source_id = s.id AND c.covers <> '[]'),
                  s.length > 0 AND (NOT EXISTS (SELECT 1 FROM turn t WHERE t.source_id = s.id)
                    OR EXISTS (SELECT 1 FROM turn t LEFT JOIN speaker p ON p.id = t.speaker_id
                      WHERE t.source_id = s.id AND p.participant_id IS NULL AND coalesce(p.is_team, 0) = 0))
                FROM source s JOIN source_person v ON v.source_id = s.id AND v.participant_id = @id LEFT JOIN media m ON m.id = s.media_id
                WHERE s.study_id = @studyId AND EXISTS (SELECT 1 FROM source_person x WHERE x.source_id = s.id AND x.participant_id <> @id)
                """,
                new { studyId, id }
            )
            .Select(s =>
                (
                    s.Id,
                    Choices: (s.Type ?? "").Split('/')[0] switch
                    {
                        "audio" or "video" => Of((s.Heard, SharedOutcome.Silence)),
                        "image" => Of((s.Covered, SharedOutcome.Cover)),
                        _ => s.Unknown ? Of((true, SharedOutcome.TakeOut)) : [],
                    }
                )
            )
            .Where(s => s.Choices.Count > 0)
            .ToDictionary(s => s.Id, s => s.Choices);

    private static IReadOnlyList<SharedOutcome> Of((bool There, SharedOutcome What) first) =>
        [.. first.There ? (SharedOutcome[])[first.What] : [], SharedOutcome.NothingOfTheirs, SharedOutcome.Remove];

    /// <summary>
    /// What the given participants have said: the turns that are matched to them, and those of nobody known in sources where they take
    /// part, in every text that these ever had.
    /// </summary>
    internal static Verbatim Words(SqliteConnection connection, IReadOnlyList<ParticipantId> participants)
    {
        var people = Ids.Json(participants);
        var turns = connection
            .Query<(long Source, int Start, int End)>(
                """
                SELECT t.source_id, t.start, t."end" FROM turn t LEFT JOIN speaker p ON p.id = t.speaker_id
                WHERE p.participant_id IN (SELECT value FROM json_each(@people))
                  OR (p.participant_id IS NULL AND coalesce(p.is_team, 0) = 0 AND t.source_id IN (SELECT source_id FROM source_person
                    WHERE participant_id IN (SELECT value FROM json_each(@people))))
                """,
                new { people }
            )
            .ToList();
        var sources = Ids.Json(turns.Select(t => t.Source).Distinct());
        var texts = connection
            .Query<(long Id, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@sources))",
                new { sources }
            )
            .ToDictionary(t => t.Id, t => t.Text);
        var theirs = turns.ToLookup(t => t.Source);
        var quotes = ObservationRows
            .TextRanges(connection, sources)
            .SelectMany(o =>
                o.Where(q => theirs[o.Key.Value].Any(t => t.Start <= q.Start && t.End >= q.End)).Select(q => q.Of(texts[o.Key.Value]))
            );
        var earlier = EarlierTexts.Said(connection, Ids.Json(EarlierTexts.SourcesOf(connection, participants)), participants.Contains);
        return new Verbatim(turns.Select(t => texts[t.Source][t.Start..t.End]).Concat(earlier.SelectMany(e => e)), quotes);
    }
}
