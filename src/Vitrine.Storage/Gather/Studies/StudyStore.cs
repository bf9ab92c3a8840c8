using Dapper;
using Vitrine.Core.Gather.Sources;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Studies;

/// <summary>A study in a list, with the figures of its stage line.</summary>
public sealed record StudyLine
{
    public StudyId Id { get; init; }
    public string Title { get; init; } = "";
    public string Purpose { get; init; } = "";
    public string Method { get; init; } = "";
    public long Version { get; init; }
    public DateTimeOffset CreatedAt { get; init; }
    public string WorkedOnAt { get; init; } = "";
    public int Sources { get; init; }
    public int SourcesBegun { get; init; }
    public int Participants { get; init; }
    public int Sessions { get; init; }
    public int Observations { get; init; }
    public int Themes { get; init; }
    public int Insights { get; init; }

    /// <summary>Observations to look at after a correction.</summary>
    public int ToLookAt { get; init; }

    /// <summary>Pieces of feedback that nobody has decided about.</summary>
    public int Undecided { get; init; }
}

/// <summary>What a study sets out to learn.</summary>
public sealed record ResearchQuestion(ResearchQuestionId Id, string Text);

/// <summary>A study with its research questions.</summary>
/// <param name="Pseudonyms">Names to choose from for participants, with commas between them; empty for the usual ones.</param>
public sealed record Study(StudyLine Line, IReadOnlyList<string> ResearchQuestions, IReadOnlyList<KindCount> Kinds, string Pseudonyms);

/// <summary>How many sources of one kind a study has.</summary>
public sealed record KindCount
{
    public SourceKind Kind { get; init; }
    public int Sources { get; init; }
}

/// <summary>What a researcher writes about a study.</summary>
public sealed record StudyText(string Title, string Purpose, string Method, IReadOnlyList<string> ResearchQuestions);

/// <summary>Studies.</summary>
public sealed class StudyStore(Workspace workspace)
{
    private const string Lines = """
        SELECT s.id, s.title, s.purpose, s.method, s.version, s.created_at,
          coalesce((SELECT max(at) FROM action WHERE study_id = s.id), s.created_at) AS worked_on_at,
          (SELECT count(*) FROM source WHERE study_id = s.id) AS sources,
          (SELECT count(DISTINCT r.source_id) FROM reading r JOIN source x ON x.id = r.source_id WHERE x.study_id = s.id) AS sources_begun,
          (SELECT count(*) FROM participant WHERE study_id = s.id) AS participants,
          (SELECT count(*) FROM session WHERE study_id = s.id) AS sessions,
          (SELECT count(*) FROM observation WHERE study_id = s.id) AS observations,
          (SELECT count(*) FROM theme WHERE study_id = s.id) AS themes,
          (SELECT count(*) FROM insight WHERE study_id = s.id) AS insights,
          (SELECT count(*) FROM correction_look l JOIN source x ON x.id = l.source_id WHERE x.study_id = s.id) AS to_look_at,
          (SELECT count(*) FROM routing WHERE study_id = s.id AND state = 'waiting') AS undecided
        FROM study s

        """;

    /// <summary>The given studies (null: all), the one worked on last first.</summary>
    public IReadOnlyList<StudyLine> All(IReadOnlyList<StudyId>? visible, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<StudyLine>(
                Lines + "WHERE @ids IS NULL OR s.id IN (SELECT value FROM json_each(@ids)) ORDER BY worked_on_at DESC, s.id DESC",
                new { ids = Ids.Json(visible) }
            )
            .ToList();
    }

    /// <exception cref="Refusal">There is no such study.</exception>
    public Study Get(StudyId id, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        var line = connection.QueryFirstOrDefault<StudyLine>(Lines + "WHERE s.id = @id", new { id }) ?? throw Refusal.Missing("study");
        var questions = connection
            .Query<string>("SELECT text FROM research_question WHERE study_id = @id ORDER BY position", new { id })
            .ToList();
        var kinds = connection
            .Query<KindCount>(
                "SELECT kind, count(*) AS sources FROM source WHERE study_id = @id GROUP BY kind ORDER BY sources DESC, kind",
                new { id }
            )
            .ToList();
        var pseudonyms = connection.QuerySingle<string>("SELECT pseudonyms FROM study WHERE id = @id", new { id });
        return new Study(line, questions, kinds, pseudonyms);
    }

    /// <summary>The research questions of a study, in their order.</summary>
    public IReadOnlyList<ResearchQuestion> Questions(StudyId id)
    {
        using var connection = workspace.Open();
        return connection
            .Query<ResearchQuestion>("SELECT id, text FROM research_question WHERE study_id = @id ORDER BY position", new { id })
            .ToList();
    }

    /// <summary>Makes a study, with its maker as the first of its team.</summary>
    public Step Create(Actor actor, StudyText text) =>
        workspace.Write(
            actor,
            null,
            $"Made the study “{text.Title}”",
            writing =>
            {
                var id = writing.Insert(
                    "study",
                    new
                    {
                        text.Title,
                        text.Purpose,
                        text.Method,
                    }
                );
                AddQuestions(writing, id, text.ResearchQuestions);
                writing.Insert("membership", new { studyId = id, actor.AccountId });
                return id;
            }
        );

    public Step Change(Actor actor, StudyId id, long version, StudyText text) =>
        workspace.Write(
            actor,
            id,
            "Changed the study’s description",
            writing =>
            {
                writing.Expect("study", id.Value, version);
                writing.Update(
                    "study",
                    id.Value,
                    new
                    {
                        text.Title,
                        text.Purpose,
                        text.Method,
                    }
                );
                RewriteQuestions(writing, id, text.ResearchQuestions);
                return id.Value;
            }
        );

    private static void AddQuestions(Writing writing, StudyId studyId, IReadOnlyList<string> questions)
    {
        for (var position = 0; position < questions.Count; position++)
            AddQuestion(writing, studyId, questions[position], position);
    }

    private static void AddQuestion(Writing writing, StudyId studyId, string text, int position) =>
        writing.Insert(
            "research_question",
            new
            {
                studyId,
                position,
                text,
            }
        );

    /// <summary>
    /// A question that stands there word for word stays itself, wherever it moves; of the others, one in the place of another is that one
    /// in other words. So what answers a question keeps it.
    /// </summary>
    private static void RewriteQuestions(Writing writing, StudyId studyId, IReadOnlyList<string> questions)
    {
        var there = writing
            .Connection.Query<(long Id, string Text)>(
                "SELECT id, text FROM research_question WHERE study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .ToList();
        var left = there.ToList();
        var kept = questions.Select(text => Take(left.FindIndex(q => q.Text == text))).ToList();
        for (var position = 0; position < questions.Count; position++)
        {
            var id = kept[position] ?? (position < there.Count ? Take(left.IndexOf(there[position])) : null);
            if (id is null)
                AddQuestion(writing, studyId, questions[position], position);
            else if (there.FindIndex(q => q.Id == id) is var was && (was != position || there[was].Text != questions[position]))
                writing.Update("research_question", id.Value, new { position, text = questions[position] });
        }
        foreach (var (id, _) in left)
            writing.Remove("research_question", id);

        long? Take(int at)
        {
            if (at < 0)
                return null;
            var id = left[at].Id;
            left.RemoveAt(at);
            return id;
        }
    }
}
