using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Text;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Text;
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

    /// <summary>
    /// Columns that say what a thing is called; names of files and tags are written in small letters as well, as is what is let stand.
    /// </summary>
    private static readonly HashSet<string> Called = ["name_key", "name", "title", "file_name"];

    private readonly WorkspaceCatalogue catalogue = workspace.Catalogue;

    /// <summary>Erases a participant who has withdrawn.</summary>
    /// <param name="shared">What becomes of sources in which others take part too.</param>
    /// <param name="instead">Files that take the place of those of such sources: silent, or covered, where they are to be.</param>
    /// <exception cref="Refusal">
    /// They have not withdrawn, or are gone; or it is not said what becomes of a source.
    /// </exception>
    public void Erase(
        Actor actor,
        StudyId studyId,
        ParticipantId id,
        IReadOnlyList<SharedDecision>? shared = null,
        IReadOnlyDictionary<SourceId, NewMedia>? instead = null
    )
    {
        shared ??= [];
        workspace.WriteUntrailed(connection =>
        {
            connection.Execute("PRAGMA secure_delete = ON");
            var realName = Checked(connection, studyId, id, shared);
            var erased = new ErasedRows(connection, catalogue);
            var sources = connection.Query<long>("SELECT source_id FROM source_person WHERE participant_id = @id", new { id }).ToList();
            var before = EarlierTexts.SourcesOf(connection, [id]).Where(s => !sources.Contains(s.Value)).ToList();
            var observations = WithdrawalStore.TheirsIn(connection, "observation", studyId, id);
            var said = WithdrawalStore.Words(connection, [id]);
            foreach (var table in WithdrawalStore.TablesOf(connection, id))
                erased.Remove("attachment", table.Id.Value);
            foreach (var observation in observations)
                erased.Remove("observation", observation);
            foreach (var note in WithdrawalStore.TheirsIn(connection, "margin_note", studyId, id))
                erased.Remove("margin_note", note);
            foreach (var source in sources)
            {
                var decided = shared.FirstOrDefault(d => d.SourceId == source);
                var alone = !connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM source_person WHERE source_id = @source AND participant_id <> @id",
                    new { source, id }
                );
                if (alone || decided?.What == SharedOutcome.Remove)
                    erased.Source(source);
                else
                    SharedSource.Share(connection, erased, source, id, decided, instead?.GetValueOrDefault(source));
            }
            foreach (var source in before)
                SharedSource.Forget(connection, erased, source);
            foreach (
                var session in connection
                    .Query<long>("SELECT session_id FROM session_participant WHERE participant_id = @id", new { id })
                    .ToList()
            )
                erased.Session(session, id);
            erased.All("survey_row", "participant_id", id.Value);
            erased.Remove("participant", id.Value);
            erased.SameFiles(studyId);
            erased.FromTrail();
            Sweep(connection, studyId, Names(connection, studyId, realName), said);
            connection.Execute(
                """
                DELETE FROM job WHERE study_id = @studyId AND state IN ('done', 'refused', 'cancelled') AND (source_id IS NULL
                OR source_id NOT IN (SELECT id FROM source))
                """,
                new { studyId }
            );
            SearchIndex.Rebuild(connection, catalogue);
            var (salt, phrases) = ErasureProof.Of(connection, catalogue, said);
            return connection.Execute(
                """
                INSERT INTO erasure (study_id, account_id, at, sources, observations, salt, phrases, files) VALUES
                (@studyId, @AccountId, @now, @sources, @observations, @salt, @phrases, @files)
                """,
                new
                {
                    studyId,
                    actor.AccountId,
                    now = workspace.Now,
                    sources = sources.Count,
                    observations = observations.Count,
                    salt,
                    phrases,
                    files = JsonSerializer.Serialize(erased.Files.Except(MediaFolder.Named(connection))),
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

    /// <summary>Whether someone can be erased so.</summary>
    /// <inheritdoc cref="Erase" path="/exception"/>
    public void Check(StudyId studyId, ParticipantId id, IReadOnlyList<SharedDecision> shared)
    {
        using var connection = workspace.Open();
        Checked(connection, studyId, id, shared);
    }

    /// <returns>Their real name.</returns>
    private static string? Checked(SqliteConnection connection, StudyId studyId, ParticipantId id, IReadOnlyList<SharedDecision> shared)
    {
        var (consent, realName) =
            connection.QueryFirstOrDefault<(string, string?)?>(
                "SELECT consent, real_name FROM participant WHERE id = @id AND study_id = @studyId",
                new { id, studyId }
            ) ?? throw Refusal.Missing("participant");
        if (consent != StoredName.Of(Consent.Withdrawn))
            throw new Refusal(
                RefusalKind.Conflict,
                "Only the material of someone who has withdrawn is erased. Note their withdrawal first, and look at what it touches."
            );
        foreach (var (source, choices) in WithdrawalStore.ChoicesIn(connection, studyId, id))
        {
            var (title, hash) = connection.QuerySingle<(string, string)>(
                "SELECT title, content_hash FROM source WHERE id = @source",
                new { source }
            );
            var decided = shared.FirstOrDefault(d => d.SourceId == source);
            if (decided is null || !choices.Contains(decided.What))
                throw Refusal.Because($"Others take part in “{title}” too. Choose what becomes of it, then erase.", "shared");
            if (decided.What == SharedOutcome.TakeOut && decided.BasedOn != hash)
                throw new Refusal(RefusalKind.Conflict, $"“{title}” was corrected meanwhile. Look at it again, then erase.", "shared");
        }
        return realName;
    }

    /// <summary>
    /// The name under which they may be mentioned: anywhere the whole of it, in their study also each part that nobody else of it has.
    /// </summary>
    private static Named Names(SqliteConnection connection, StudyId studyId, string? realName)
    {
        if (string.IsNullOrWhiteSpace(realName))
            return new Named("", []);
        var others = connection
            .Query<string>("SELECT real_name FROM participant WHERE study_id = @studyId AND real_name IS NOT NULL", new { studyId })
            .SelectMany(NameMask.Parts)
            .ToHashSet();
        return new Named(realName.Trim(), [.. NameMask.Parts(realName).Where(p => p.Length > 2 && !others.Contains(p))]);
    }

    /// <param name="Name">The whole name; empty for none.</param>
    /// <param name="Parts">Its parts that are theirs alone in their study.</param>
    private sealed record Named(string Name, IReadOnlyCollection<string> Parts)
    {
        public IReadOnlyList<TextRange> In(string text, bool ofStudy, bool anyCase = false) =>
            Name.Length == 0 ? [] : NameMask.Find(text, Name, ofStudy ? Parts : [], anyCase);
    }

    /// <summary>Takes their names and their words out of everything that was written, and out of every image in the trail.</summary>
    private void Sweep(SqliteConnection connection, StudyId studyId, Named named, Verbatim said)
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
            var edits = named.In(text, here).Select(r => (r.Start, r.End, Left)).ToList();
            if (edits.Count > 0)
                SharedSource.Rewrite(connection, source, Reanchor.Through(text, edits));
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
                var left =
                    table == "change"
                        ? Image(words, (key, value) => Without(about, key, value, named, isHere, said))
                        : Without(about, column, words, named, isHere, said);
                if (left != words)
                    connection.Execute($"UPDATE {table} SET \"{column}\" = @left WHERE id = @row", new { left, row });
            }
        }
    }

    /// <summary>Every column in which people's words may stand, but for sources' texts, whose positions matter.</summary>
    private IEnumerable<(string Table, string Column, bool OfStudy)> WrittenColumns() =>
        ErasureProof.Written(catalogue).Where(c => c.Table != "source_text");

    private static string Image(string image, Func<string, string, string> without) =>
        Rows.ToImage(Rows.FromImage(image).ToDictionary(c => c.Key, c => c.Value is string words ? without(c.Key, words) : c.Value));

    /// <summary>A column's words without their name and their own words. In what somebody else has said, only without the name.</summary>
    private string Without(string table, string column, string words, Named named, bool ofStudy, Verbatim said)
    {
        if (catalogue.Find(table)?.RichTexts.Contains(column) == true)
            words = WithoutInText(words, named, ofStudy, said);
        return JsonWords.In(
            words,
            leaf =>
            {
                if (table is not ("source_text" or "source_original"))
                    leaf = said.Without(leaf, Left);
                return named
                    .In(leaf, ofStudy, anyCase: Called.Contains(column) || table == "let_stand")
                    .Reverse()
                    .Aggregate(leaf, (left, at) => left[..at.Start] + Left + left[at.End..]);
            }
        );
    }

    /// <summary>The same in a text with form, where a name may stand in several parts.</summary>
    private static string WithoutInText(string stored, Named named, bool ofStudy, Verbatim said)
    {
        var text = RichTextJson.FromStored(stored);
        var left = text.Without(t =>
            Redaction.Merged([.. said.Find(t).Select(r => new Mask(r, Left)), .. named.In(t, ofStudy).Select(r => new Mask(r, Left))])
        );
        return ReferenceEquals(left, text) ? stored : RichTextJson.Stored(left);
    }
}
