using System.Text.Json;
using System.Text.RegularExpressions;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>
/// Erases a participant's material for good: their sources, their turns in what they share with others, the marks on their words, their
/// attributes and names, the images of all of it in the trail,
/// the search index and the kept files. It is outside the trail, as nothing of it may be kept to undo it by. Afterwards the database file
/// is made anew, so that no page of it holds what stood there.
/// </summary>
public sealed class Erasure(Workspace workspace, MediaFolder media)
{
    /// <summary>What stands in the place of words that were erased.</summary>
    public const string Left = "(erased)";

    /// <summary>Columns that say what a thing is called; names of files and tags are written in small letters as well.</summary>
    private static readonly HashSet<string> Called = ["name_key", "name", "title", "file_name"];

    private readonly WorkspaceCatalogue catalogue = workspace.Catalogue;

    /// <summary>Erases a participant who has withdrawn.</summary>
    /// <exception cref="Refusal">They have not withdrawn, or are gone.</exception>
    public void Erase(Actor actor, StudyId studyId, ParticipantId id)
    {
        workspace.WriteUntrailed(connection =>
        {
            connection.Execute("PRAGMA secure_delete = ON");
            var person =
                connection.QueryFirstOrDefault<(string Consent, string? RealName)?>(
                    "SELECT consent, real_name FROM participant WHERE id = @id AND study_id = @studyId",
                    new { id, studyId }
                ) ?? throw Refusal.Missing("participant");
            if (person.Consent != StoredName.Of(Consent.Withdrawn))
                throw new Refusal(
                    RefusalKind.Conflict,
                    "Only the material of someone who has withdrawn is erased. Note their withdrawal first, and look at what it touches."
                );
            var erased = new ErasedRows(connection, catalogue);
            var sources = connection.Query<long>("SELECT source_id FROM source_person WHERE participant_id = @id", new { id }).ToList();
            var observations = connection.Query<long>(WithdrawalStore.Theirs, new { id }).ToList();
            var said = WithdrawalStore.Words(connection, [id]);
            foreach (var observation in observations)
                erased.Remove("observation", observation);
            foreach (var note in connection.Query<long>(WithdrawalStore.TheirsIn("margin_note"), new { id }).ToList())
                erased.Remove("margin_note", note);
            foreach (var source in sources)
            {
                if (
                    connection.ExecuteScalar<bool>(
                        "SELECT count(*) FROM source_person WHERE source_id = @source AND participant_id <> @id",
                        new { source, id }
                    )
                )
                    CutOut(connection, erased, source, id);
                else
                    erased.Source(source);
            }
            foreach (
                var session in connection
                    .Query<long>("SELECT session_id FROM session_participant WHERE participant_id = @id", new { id })
                    .ToList()
            )
                erased.Session(session, id);
            erased.All("survey_row", "participant_id", id);
            erased.Remove("participant", id);
            erased.FromTrail();
            Sweep(connection, studyId, Names(connection, studyId, person.RealName), said);
            connection.Execute(
                """
                DELETE FROM job WHERE study_id = @studyId AND state IN ('done', 'refused', 'cancelled') AND (source_id IS NULL
                OR source_id NOT IN (SELECT id FROM source))
                """,
                new { studyId }
            );
            SearchIndex.Rebuild(connection, catalogue);
            return connection.Execute(
                """
                INSERT INTO erasure (study_id, account_id, at, sources, observations) VALUES
                (@studyId, @AccountId, @now, @sources, @observations)
                """,
                new
                {
                    studyId,
                    actor.AccountId,
                    now = workspace.Now,
                    sources = sources.Count,
                    observations = observations.Count,
                }
            );
        });
        workspace.Touch(null, StepNews.Of("source", "observation"));
        Clean();
        workspace.Tell(
            studyId,
            actor.AccountId,
            ["participant", "source", "source_text", "observation", "margin_note", "tag", "insight", "session", "study"]
        );
    }

    /// <summary>
    /// Makes the database file anew after an erasure, and takes away the files that nothing names. What a killed server did not come to is
    /// done at its next start.
    /// </summary>
    public void Clean()
    {
        using (var connection = workspace.Open())
        {
            if (!connection.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM erasure WHERE cleaned = 0)"))
                return;
        }
        workspace.MakeAnew();
        media.Sweep(alsoArriving: false);
        workspace.WriteUntrailed(connection => connection.Execute("UPDATE erasure SET cleaned = 1"));
    }

    /// <summary>Cuts one person's turns out of a source that is also others'. What was marked of the others stays on its words.</summary>
    private static void CutOut(SqliteConnection connection, ErasedRows erased, SourceId source, ParticipantId participant)
    {
        var text = connection.QuerySingle<string>("SELECT text FROM source_text WHERE source_id = @source", new { source });
        var turns = connection
            .Query<(long Id, int Start, int End, long? Begin, bool Theirs)>(
                """
                SELECT t.id, t.start, t."end", t.begin_ms, coalesce(p.participant_id = @participant, 0) FROM turn t
                LEFT JOIN speaker p ON p.id = t.speaker_id WHERE t.source_id = @source ORDER BY t.start
                """,
                new { source, participant }
            )
            .ToList();
        // With the name before the words, which stands on the same line.
        var edits = turns.Where(t => t.Theirs).Select(t => (Start: LineStart(text, t.Start), t.End, Left)).ToList();
        if (edits.Count == 0)
            return;
        var moved = Reanchor.Through(text, edits);
        foreach (var turn in turns.Where(t => t.Theirs))
            erased.Row("turn", turn.Id);
        Rewrite(connection, source, moved);
        // The first text, what is to be looked at and the file that came in hold their words.
        erased.All("source_original", "source_id", source);
        erased.All("correction_look", "source_id", source);
        if (connection.QuerySingle<long?>("SELECT media_id FROM source WHERE id = @source", new { source }) is { } file)
        {
            connection.Execute("UPDATE source SET media_id = NULL WHERE id = @source", new { source });
            erased.Row("media", file);
        }
        foreach (
            var line in connection
                .Query<long>(
                    """
                    SELECT l.id FROM live_line l JOIN live_notes n ON n.id = l.live_notes_id WHERE n.source_id = @source
                    AND l.begin_ms IN (SELECT value FROM json_each(@times))
                    """,
                    new { source, times = Ids.Json(turns.Where(t => t.Theirs).Select(t => t.Begin).OfType<long>()) }
                )
                .ToList()
        )
            erased.Remove("live_line", line);
        foreach (
            var speaker in connection
                .Query<long>(
                    "SELECT id FROM speaker WHERE source_id = @source AND participant_id = @participant",
                    new { source, participant }
                )
                .ToList()
        )
            erased.Row("speaker", speaker);
        foreach (var table in new[] { "source_text", "source_shape" })
            erased.Images(table, connection.Query<long>($"SELECT id FROM {table} WHERE source_id = @source", new { source }));
        erased.Images("source", [source]);
        // Marks on their words that were taken away before are told of by the words.
        foreach (var table in new[] { "observation", "margin_note" })
        {
            erased.Images(
                table,
                connection.Query<long>(
                    $"""
                    SELECT DISTINCT row_id FROM change WHERE table_name = '{table}'
                    AND json_extract(coalesce(before, after), '$.source_id') = @source AND row_id NOT IN (SELECT id FROM {table})
                    """,
                    new { source }
                )
            );
        }
    }

    /// <summary>Puts another text in the place of a source's, and moves everything that stands in it along.</summary>
    private static void Rewrite(SqliteConnection connection, SourceId source, Reanchor moved)
    {
        foreach (var table in WorkspaceCatalogue.Own.Tables.Where(t => t.StandsInText).Select(t => t.Table))
        {
            foreach (
                var (id, start, end) in connection
                    .Query<(long, int, int)>(
                        $"SELECT id, start, \"end\" FROM {table} WHERE source_id = @source AND start IS NOT NULL",
                        new { source }
                    )
                    .ToList()
            )
            {
                var now = moved.Block(new TextRange(start, end)) ?? moved.Of(new TextRange(start, end)).Range;
                connection.Execute(
                    $"UPDATE {table} SET start = @Start, \"end\" = @End WHERE id = @id",
                    new
                    {
                        now.Start,
                        now.End,
                        id,
                    }
                );
            }
        }
        if (connection.QueryFirstOrDefault<string>("SELECT shape FROM source_shape WHERE source_id = @source", new { source }) is { } shape)
        {
            connection.Execute(
                "UPDATE source_shape SET shape = @shape WHERE source_id = @source",
                new { source, shape = JsonSerializer.Serialize(CorrectedText.ShapeOf(moved, JsonSerializer.Deserialize<Shape>(shape)!)) }
            );
        }
        connection.Execute("UPDATE source_text SET text = @After WHERE source_id = @source", new { moved.After, source });
        connection.Execute(
            "UPDATE source SET content_hash = @hash, length = @Length WHERE id = @source",
            new
            {
                hash = ContentHash.Of(moved.After),
                moved.After.Length,
                source,
            }
        );
    }

    private static int LineStart(string text, int position) => text.LastIndexOf('\n', Math.Max(0, position - 1)) + 1;

    /// <summary>
    /// The names under which they may be mentioned: anywhere by the whole real name, in their study also by each part that nobody else of
    /// it has.
    /// </summary>
    private static (IReadOnlyList<string> Anywhere, IReadOnlyList<string> InStudy) Names(
        SqliteConnection connection,
        StudyId studyId,
        string? realName
    )
    {
        if (string.IsNullOrWhiteSpace(realName))
            return ([], []);
        var others = connection
            .Query<string>("SELECT real_name FROM participant WHERE study_id = @studyId AND real_name IS NOT NULL", new { studyId })
            .SelectMany(NameMask.Parts)
            .ToHashSet();
        return ([realName.Trim()], [realName.Trim(), .. NameMask.Parts(realName).Where(p => p.Length > 2 && !others.Contains(p))]);
    }

    /// <summary>Takes their names and their words out of everything that was written, and out of every image in the trail.</summary>
    private void Sweep(
        SqliteConnection connection,
        StudyId studyId,
        (IReadOnlyList<string> Anywhere, IReadOnlyList<string> InStudy) named,
        Verbatim said
    )
    {
        foreach (
            var (source, text, here) in connection
                .Query<(long, string, bool)>(
                    "SELECT t.source_id, t.text, s.study_id = @studyId FROM source_text t JOIN source s ON s.id = t.source_id",
                    new { studyId }
                )
                .ToList()
        )
        {
            var edits = Places(text, here ? named.InStudy : named.Anywhere);
            if (edits.Count > 0)
                Rewrite(connection, source, Reanchor.Through(text, edits));
        }
        foreach (var (table, column, ofStudy) in WrittenColumns())
        {
            // What belongs to no study, such as an exhibit, may tell of this one.
            var here =
                table == "change" ? "(SELECT coalesce(a.study_id, @studyId) = @studyId FROM action a WHERE a.id = action_id)"
                : ofStudy ? "coalesce(study_id, @studyId) = @studyId"
                : "1";
            var of = table == "change" ? "table_name" : $"'{table}'";
            foreach (
                var (row, words, isHere, about) in connection
                    .Query<(long, string, bool, string)>(
                        $"SELECT id, \"{column}\", {here}, {of} FROM {table} WHERE \"{column}\" <> ''",
                        new { studyId }
                    )
                    .ToList()
            )
            {
                var names = isHere ? named.InStudy : named.Anywhere;
                var left =
                    table == "change"
                        ? Image(words, (key, value) => Without(about, key, value, names, said))
                        : Without(about, column, words, names, said);
                if (left != words)
                    connection.Execute($"UPDATE {table} SET \"{column}\" = @left WHERE id = @row", new { left, row });
            }
        }
    }

    /// <summary>
    /// Every column in which people's words may stand, but for sources' texts, whose positions matter; and whether its rows say their
    /// study.
    /// </summary>
    private IEnumerable<(string Table, string Column, bool OfStudy)> WrittenColumns() =>
        catalogue
            .Tables.Where(t => t.Table != "source_text")
            .SelectMany(t => t.PeoplesWords.Select(c => (t.Table, c, t.StudyBy == "study_id")));

    private static string Image(string image, Func<string, string, string> without) =>
        Rows.ToImage(Rows.FromImage(image).ToDictionary(c => c.Key, c => c.Value is string words ? without(c.Key, words) : c.Value));

    /// <summary>A column's words without their names and their own words. In what somebody else has said, only the names.</summary>
    private static string Without(string table, string column, string words, IReadOnlyList<string> names, Verbatim said)
    {
        if (table is not ("source_text" or "source_original"))
            words = said.Without(words, Left);
        var options = RegexOptions.CultureInvariant | (Called.Contains(column) ? RegexOptions.IgnoreCase : RegexOptions.None);
        foreach (var name in names)
            words = Regex.Replace(words, NameMask.Whole(name), Left, options);
        return words;
    }

    private static List<(int Start, int End, string Words)> Places(string text, IReadOnlyList<string> names)
    {
        var found = new List<(int Start, int End, string Words)>();
        foreach (Match match in names.SelectMany(name => Regex.Matches(text, NameMask.Whole(name), RegexOptions.CultureInvariant)))
        {
            if (!found.Any(f => f.Start < match.Index + match.Length && f.End > match.Index))
                found.Add((match.Index, match.Index + match.Length, Left));
        }
        return [.. found.OrderBy(f => f.Start)];
    }
}
