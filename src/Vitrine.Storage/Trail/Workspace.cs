using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>A committed step: in which study (null: outside studies), by whom, and what it changed.</summary>
public sealed record Committed(StudyId? StudyId, AccountId AccountId, StepNews News, ActionId? ActionId = null);

/// <summary>
/// One installation's data: a folder with one SQLite file. Reads are free; every write of research data goes through <see cref="Writing"/>.
/// </summary>
public sealed class Workspace
{
    /// <summary>The database's name inside the data folder.</summary>
    public const string DatabaseName = "vitrine.db";

    private readonly DatabaseFile file;
    private readonly TimeProvider clock;
    private readonly Lock writing = new();
    private readonly Editions editions = new();
    private long commits;

    private static readonly TimeSpan BetweenParts = TimeSpan.FromMilliseconds(1);

    /// <summary>Opens the workspace in a folder, which is made when missing, and brings its schema up to date.</summary>
    public Workspace(string folder, TimeProvider clock)
        : this(folder, clock, WorkspaceCatalogue.Own) { }

    /// <summary>A workspace with tables of another catalogue.</summary>
    internal Workspace(string folder, TimeProvider clock, WorkspaceCatalogue catalogue, Action<SqliteConnection>? furtherSchema = null)
    {
        Catalogue = catalogue;
        Directory.CreateDirectory(folder);
        Folder = Path.GetFullPath(folder);
        this.clock = clock;
        file = new DatabaseFile(Path.Combine(Folder, DatabaseName));
        if (furtherSchema is not null)
        {
            using var connection = Open();
            furtherSchema(connection);
        }
        InTransaction(c => SearchIndex.FillIfEmpty(c, catalogue));
    }

    /// <summary>Raised after each commit that changed research data.</summary>
    public event Action<Committed>? Committed;

    /// <summary>Rises with every committed write that counts may rest on, so that what was loaded knows what it has missed.</summary>
    internal long Edition => editions.Now;

    /// <summary>How many writes were committed since this workspace was opened.</summary>
    public long Commits => Interlocked.Read(ref commits);

    /// <summary>What the tables are.</summary>
    internal WorkspaceCatalogue Catalogue { get; }

    /// <summary>Where the data lives.</summary>
    public string Folder { get; }

    /// <summary>The instant that it is now.</summary>
    public DateTimeOffset Now => clock.GetUtcNow();

    /// <inheritdoc cref="DatabaseFile.Rest"/>
    public void Rest() => file.Rest();

    /// <summary>
    /// Writes the database file anew, without anything that was deleted from it, and empties the log of writes. Others' writes wait
    /// meanwhile.
    /// </summary>
    internal void MakeAnew()
    {
        lock (writing)
            file.MakeAnew();
    }

    /// <summary>For whoever wants to hear what is asked of the database.</summary>
    internal Action<SqliteConnection>? OnOpen
    {
        get => file.OnOpen;
        set => file.OnOpen = value;
    }

    /// <summary>
    /// A connection for reading; the caller disposes it. It sees every mark: for what a person is shown there is
    /// <see cref="SeenMarks"/>.
    /// </summary>
    /// <param name="pooled">Whether it is lent and goes back; else it is closed with what was made in it alone.</param>
    public SqliteConnection Open(bool pooled = true) => file.Open(pooled);

    /// <summary>
    /// The one unit of work: a transaction in which <paramref name="work"/> changes rows, each recorded in the trail under one step of
    /// <paramref name="actor"/>.
    /// Nothing is kept when <paramref name="work"/> throws.
    /// </summary>
    public Step Write(Actor actor, StudyId? studyId, string label, Func<Writing, long?> work) =>
        Reported(
            actor,
            connection =>
            {
                var writing = new Writing(connection, Catalogue, actor, studyId, Now) { Label = label };
                var id = work(writing);
                writing.Finish();
                if (writing.ActionId is { } action)
                    connection.Execute(
                        "UPDATE action SET result_id = @id, label = @Label WHERE id = @action",
                        new
                        {
                            id,
                            writing.Label,
                            action,
                        }
                    );
                return (new Step(writing.ActionId, writing.Label, id), studyId, writing.News);
            }
        );

    /// <summary>
    /// A long step in several transactions, between which others write. In the trail it is one step; until its last part it cannot be
    /// undone, and under the same request key it is gone on with.
    /// When a part fails, all of it is taken back.
    /// </summary>
    /// <param name="part">Does the next part; says whether there is more, and what the step has made.</param>
    internal Step WriteInParts(Actor actor, StudyId? studyId, string label, Func<Writing, (bool More, long? Id)> part)
    {
        var action = Unfinished(actor);
        var news = new StepNews();
        try
        {
            while (true)
            {
                var more = false;
                var step = Reported(
                    actor,
                    connection =>
                    {
                        var writing = new Writing(connection, Catalogue, actor, studyId, Now, continues: action) { Label = label };
                        (more, var id) = part(writing);
                        writing.Finish();
                        news.AddAll(writing.News);
                        connection.Execute(
                            "UPDATE action SET result_id = @id, label = @Label, unfinished = @more WHERE id = @ActionId",
                            new
                            {
                                id,
                                writing.Label,
                                more,
                                writing.ActionId,
                            }
                        );
                        return (new Step(writing.ActionId, writing.Label, id), studyId, writing.News);
                    }
                );
                action = step.ActionId?.Value ?? action;
                if (!more)
                    return step with { Changed = news.In(studyId) };
                LetOthersWrite();
            }
        }
        catch when (action is not null)
        {
            new Undo(this).TakeBack(actor, action.Value);
            throw;
        }
    }

    /// <summary>Whoever waits to write comes first now: the lock asks nobody how long they have waited.</summary>
    internal static void LetOthersWrite() => Thread.Sleep(BetweenParts);

    private long? Unfinished(Actor actor)
    {
        if (actor.RequestKey is not { } key)
            return null;
        using var connection = Open();
        return connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM action WHERE key = @key AND account_id = @AccountId AND unfinished = 1",
            new { key = key.ToString(), actor.AccountId }
        );
    }

    /// <inheritdoc cref="Write(Actor, StudyId?, string, Func{Writing, long?})"/>
    public Step Write(Actor actor, StudyId? studyId, string label, Action<Writing> work) =>
        Write(
            actor,
            studyId,
            label,
            writing =>
            {
                work(writing);
                return null;
            }
        );

    /// <summary>A write of what is not research data (accounts, reading progress), outside the trail.</summary>
    internal T WriteUntrailed<T>(Func<SqliteConnection, T> work) => InTransaction(work);

    /// <summary>
    /// Runs a step and tells whoever listens once it is committed; a step that changed nothing is no news.
    /// A step whose request was sent before is not run again: its answer is given again.
    /// </summary>
    internal Step Reported(Actor actor, Func<SqliteConnection, (Step Step, StudyId? StudyId, StepNews News)> run)
    {
        var done = InTransaction<(Step, StudyId?, StepNews?)>(
            connection => Answered(connection, actor) is { } before ? (before, null, null) : run(connection),
            actor.AccountId
        );
        var (step, studyId, news) = done;
        if (news is null)
            return step;
        if (news.Tables.Count == 0)
            return step with { Changed = news.In(studyId) };
        Touch(studyId, news);
        Interlocked.Increment(ref commits);
        Committed?.Invoke(new Committed(studyId, actor.AccountId, news, step.ActionId));
        return step with { Changed = news.In(studyId) };
    }

    /// <summary>Tells whoever listens of a change that is no research data.</summary>
    internal void Tell(StudyId? studyId, AccountId accountId, params string[] tables) =>
        Committed?.Invoke(new Committed(studyId, accountId, StepNews.Of(tables)));

    /// <summary>
    /// Makes what was loaded of a study old, as far as the news go; for null, of every study (the shared tag set has changed).
    /// </summary>
    internal void Touch(StudyId? studyId, StepNews news) => editions.Add(studyId, news);

    /// <summary>What has changed in a study since an edition, step by step; null when that is too long ago to be known.</summary>
    internal IReadOnlyList<StepNews>? NewsSince(StudyId studyId, long since) => editions.Since(studyId, since);

    /// <summary>The step that was done under the actor's request key, if it was.</summary>
    public Step? DoneBefore(Actor actor)
    {
        using var connection = Open();
        return Answered(connection, actor);
    }

    private Step? Answered(SqliteConnection connection, Actor actor)
    {
        if (actor.RequestKey is not { } sent)
            return null;
        var found = connection.QueryFirstOrDefault<(long Id, string Label, long? Made, long? Study)?>(
            "SELECT id, label, result_id, study_id FROM action WHERE key = @key AND account_id = @AccountId AND unfinished = 0",
            new { key = sent.ToString(), actor.AccountId }
        );
        return found is { } f ? new Step(f.Id, f.Label, f.Made, NewsOf(connection, f.Id)?.In(f.Study)) : null;
    }

    /// <summary>What a step changed, by the trail; null for a very long one.</summary>
    private StepNews? NewsOf(SqliteConnection connection, long action)
    {
        const int Most = 5_000;
        var changes = connection
            .Query<(string Table, long Id, string Image)>(
                $"SELECT table_name, row_id, coalesce(after, before) FROM change WHERE action_id = @action ORDER BY id LIMIT {Most + 1}",
                new { action }
            )
            .AsList();
        if (changes.Count > Most)
            return null;
        var news = new StepNews();
        foreach (var (table, id, image) in changes)
            news.Add(Catalogue[table], id, Rows.FromImage(image));
        news.AlsoSourcesOfObservations(connection);
        return news;
    }

    private T InTransaction<T>(Func<SqliteConnection, T> work, AccountId viewer = default)
    {
        lock (writing)
        {
            using var connection = file.OpenForWriting();
            var before = connection.ExecuteScalar<long>("SELECT total_changes()");
            connection.Execute("BEGIN IMMEDIATE");
            try
            {
                connection.Execute("PRAGMA defer_foreign_keys = ON");
                var result = work(connection);
                connection.Execute("COMMIT TRANSACTION");
                file.Wrote(connection.ExecuteScalar<long>("SELECT total_changes()") - before);
                return result;
            }
            catch (SqliteException constraint) when (constraint.SqliteErrorCode == 19)
            {
                var refusal = BrokenConstraint.AsRefusal(connection, viewer, constraint);
                connection.Execute("ROLLBACK TRANSACTION");
                throw refusal;
            }
            catch
            {
                connection.Execute("ROLLBACK TRANSACTION");
                throw;
            }
            finally
            {
                Rows.Forget(connection);
            }
        }
    }
}
