using System.Collections.Concurrent;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Jobs;

/// <summary>What a job does.</summary>
public enum JobKind
{
    /// <summary>Makes a source of a file.</summary>
    File,

    /// <summary>Makes participants and sources of a table's rows.</summary>
    Survey,

    /// <summary>Makes a recording ready to be played and marked.</summary>
    Recording,

    /// <summary>Writes down what is said in a recording.</summary>
    Transcription,
}

/// <summary>Where a job stands.</summary>
public enum JobState
{
    /// <summary>The file is coming in, or the line broke on the way.</summary>
    Sending,
    Waiting,
    Working,

    /// <summary>The same content is here already; the person decides.</summary>
    Same,

    /// <summary>It is a table; the person says what its columns are.</summary>
    Table,
    Done,
    Refused,
    Cancelled,
}

/// <summary>A piece of long work.</summary>
public sealed record Job
{
    public JobId Id { get; init; }
    public string Key { get; init; } = "";
    public StudyId StudyId { get; init; }
    public AccountId AccountId { get; init; }
    public JobKind Kind { get; init; }
    public JobState State { get; init; }
    public string Name { get; init; } = "";
    public long Bytes { get; init; }
    public string Modified { get; init; } = "";

    /// <summary>What the person asked for, as JSON of the job's kind.</summary>
    public string Given { get; init; } = "{}";

    public string? Hash { get; init; }

    /// <summary>What became of it, in words.</summary>
    public string Said { get; init; } = "";

    public SourceId? SourceId { get; init; }
}

/// <summary>Jobs. They are not research data; what they make is.</summary>
public sealed class JobStore(Workspace workspace)
{
    private const string Columns =
        "SELECT id, key, study_id, account_id, kind, state, name, bytes, modified, given, hash, said, source_id FROM job ";
    private const string Ended = "('done', 'refused', 'cancelled')";

    private readonly ConcurrentDictionary<long, double> progress = [];

    /// <summary>A person's jobs in a study, oldest first.</summary>
    public IReadOnlyList<Job> Of(StudyId studyId, AccountId accountId) =>
        Find("WHERE study_id = @studyId AND account_id = @accountId ORDER BY id", new { studyId, accountId });

    public Job? Get(StudyId studyId, AccountId accountId, string key) =>
        Find(
                "WHERE key = @key AND study_id = @studyId AND account_id = @accountId",
                new
                {
                    key,
                    studyId,
                    accountId,
                }
            )
            .FirstOrDefault();

    /// <summary>The person's job for the same file that did not come in whole, if there is one.</summary>
    public Job? Broken(StudyId studyId, AccountId accountId, string name, long bytes, string modified) =>
        Find(
                "WHERE study_id = @studyId AND account_id = @accountId AND name = @name AND bytes = @bytes AND modified = "
                    + "@modified AND state = 'sending' ORDER BY id DESC",
                new
                {
                    studyId,
                    accountId,
                    name,
                    bytes,
                    modified,
                }
            )
            .FirstOrDefault();

    public Job Add(
        StudyId studyId,
        AccountId accountId,
        JobKind kind,
        JobState state,
        string name,
        long bytes,
        string modified,
        string given,
        string? hash = null,
        SourceId? sourceId = null
    )
    {
        var key = Guid.CreateVersion7().ToString();
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                """
                INSERT INTO job (key, study_id, account_id, kind, state, name, bytes, modified, given, hash, source_id,
                  created_at, updated_at)
                VALUES (@key, @studyId, @accountId, @kind, @state, @name, @bytes, @modified, @given, @hash, @sourceId, @now, @now)
                """,
                new
                {
                    key,
                    studyId,
                    accountId,
                    kind = StoredName.Of(kind),
                    state = StoredName.Of(state),
                    name,
                    bytes,
                    modified,
                    given,
                    hash,
                    sourceId,
                    now = workspace.Now,
                }
            )
        );
        workspace.Tell(studyId, accountId, "job");
        return Get(studyId, accountId, key)!;
    }

    /// <summary>Moves a job on from one of the given states; whether it was in one.</summary>
    public bool Move(
        Job job,
        JobState to,
        string said = "",
        SourceId? sourceId = null,
        string? given = null,
        JobKind? kind = null,
        params JobState[] from
    )
    {
        var moved =
            workspace.WriteUntrailed(connection =>
                connection.Execute(
                    $"UPDATE job SET state = @to, said = @said, source_id = @sourceId, "
                        + $"given = coalesce(@given, given), kind = coalesce(@kind, kind), "
                        + $"updated_at = @now WHERE id = @Id AND state IN ({string.Join(", ", from.Select(f => $"'{StoredName.Of(f)}'"))})",
                    new
                    {
                        to = StoredName.Of(to),
                        said,
                        sourceId,
                        given,
                        kind = kind is { } k ? StoredName.Of(k) : null,
                        now = workspace.Now,
                        job.Id,
                    }
                )
            ) > 0;
        progress.TryRemove(job.Id.Value, out _);
        if (moved)
            workspace.Tell(job.StudyId, job.AccountId, "job");
        return moved;
    }

    public void Hashed(Job job, string hash) =>
        workspace.WriteUntrailed(connection => connection.Execute("UPDATE job SET hash = @hash WHERE id = @Id", new { hash, job.Id }));

    /// <summary>How far the work on a job is, 0..1; forgotten when the server ends, as the work then begins again.</summary>
    public double ProgressOf(Job job) => job.State == JobState.Done ? 1 : progress.GetValueOrDefault(job.Id.Value);

    public void Progress(Job job, double reached)
    {
        progress[job.Id.Value] = reached;
        workspace.Tell(job.StudyId, job.AccountId, "job");
    }

    /// <summary>Takes the next waiting job of some kinds to work on; null when there is none.</summary>
    public Job? Next(params JobKind[] kinds) =>
        workspace.WriteUntrailed(connection =>
        {
            var id = connection.QueryFirstOrDefault<long?>(
                $"SELECT id FROM job WHERE state = 'waiting' AND kind IN ({Names(kinds)}) ORDER BY id"
            );
            if (id is null)
                return null;
            connection.Execute("UPDATE job SET state = 'working', updated_at = @now WHERE id = @id", new { id, now = workspace.Now });
            return Find(connection, "WHERE id = @id", new { id }).Single();
        });

    /// <summary>After a restart: what was being worked on is begun again.</summary>
    public void BeginAgain() =>
        workspace.WriteUntrailed(connection => connection.Execute("UPDATE job SET state = 'waiting' WHERE state = 'working'"));

    /// <summary>Ends whatever has not ended, with a sentence.</summary>
    internal static void CancelAll(SqliteConnection connection, string said) =>
        connection.Execute($"UPDATE job SET state = 'cancelled', said = @said WHERE state NOT IN {Ended}", new { said });

    /// <summary>Puts a person's ended jobs away.</summary>
    public void PutAway(StudyId studyId, AccountId accountId)
    {
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                $"DELETE FROM job WHERE study_id = @studyId AND account_id = @accountId AND state IN {Ended}",
                new { studyId, accountId }
            )
        );
        workspace.Tell(studyId, accountId, "job");
    }

    /// <summary>The last job of a kind for a file.</summary>
    public Job? Last(JobKind kind, string hash) =>
        Find("WHERE kind = @kind AND hash = @hash ORDER BY id DESC", new { kind = StoredName.Of(kind), hash }).FirstOrDefault();

    /// <summary>The last job of a kind for a source.</summary>
    public Job? Last(JobKind kind, SourceId sourceId) =>
        Find("WHERE kind = @kind AND source_id = @sourceId ORDER BY id DESC", new { kind = StoredName.Of(kind), sourceId })
            .FirstOrDefault();

    private static string Names(JobKind[] kinds) => string.Join(", ", kinds.Select(k => $"'{StoredName.Of(k)}'"));

    private List<Job> Find(string where, object given)
    {
        using var connection = workspace.Open();
        return Find(connection, where, given);
    }

    private static List<Job> Find(SqliteConnection connection, string where, object given) =>
        connection.Query<Job>(Columns + where, given).AsList();
}
