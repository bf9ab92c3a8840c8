using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Blind;

/// <summary>Somebody who tags a source blind.</summary>
/// <param name="DoneAt">When the person said done; null while at it.</param>
public sealed record BlindTagger(AccountId AccountId, string Name, DateTimeOffset? DoneAt);

/// <summary>How far a source has come that several people tag blind.</summary>
/// <param name="Taggers">Who tags it; nobody when it is not tagged blind.</param>
/// <param name="OpenedAt">Since when they see each other's marks; null while they do not.</param>
public sealed record BlindTagging(IReadOnlyList<BlindTagger> Taggers, DateTimeOffset? OpenedAt);

/// <summary>
/// Sources that several people tag without seeing each other's marks, until each has said done or somebody opens them.
/// </summary>
public sealed class BlindStore(Workspace workspace)
{
    private const string Table = "blind_tagging";
    private const string Of = "blind_tagger";

    /// <summary>How far a source has come that is tagged blind.</summary>
    public BlindTagging In(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return Read(connection, sourceId);
    }

    private static BlindTagging Read(SqliteConnection connection, SourceId sourceId)
    {
        var opened = connection.QueryFirstOrDefault<DateTimeOffset?>(
            "SELECT opened_at FROM blind_tagging WHERE source_id = @sourceId",
            new { sourceId }
        );
        return new BlindTagging(
            connection
                .Query<(AccountId, string, DateTimeOffset?)>(
                    """
                    SELECT t.account_id, a.name, t.done_at FROM blind_tagger t JOIN account a ON a.id = t.account_id
                    JOIN blind_tagging b ON b.id = t.blind_tagging_id WHERE b.source_id = @sourceId ORDER BY a.name, a.id
                    """,
                    new { sourceId }
                )
                .Select(t => new BlindTagger(t.Item1, t.Item2, t.Item3))
                .ToList(),
            opened
        );
    }

    /// <summary>Gives a source to people who tag it blind; those who had it and are not named any more are let go.</summary>
    /// <exception cref="Refusal">They are fewer than two, or it was opened already.</exception>
    public Step Give(Actor actor, SourceId sourceId, IReadOnlyList<AccountId> people)
    {
        var wanted = people.Distinct().ToList();
        if (wanted.Count < 2)
            throw Refusal.Because("Blind tagging takes two people or more. Choose another one.", "accountIds");
        return workspace.Write(
            actor,
            StudyOf(sourceId),
            "Gave a source to be tagged blind",
            writing =>
            {
                var studyId = writing.Connection.QuerySingle<StudyId>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId });
                var members = writing
                    .Connection.Query<AccountId>(
                        """
                        SELECT a.id FROM account a WHERE a.closed_at IS NULL AND a.role <> 'reader'
                        AND (a.role = 'steward' OR a.id IN (SELECT account_id FROM membership WHERE study_id = @studyId))
                        """,
                        new { studyId }
                    )
                    .ToHashSet();
                if (!wanted.TrueForAll(members.Contains))
                    throw Refusal.Because("One of them is not in the team of this study. Add the person there first.", "accountIds");
                var (id, opened) = writing.Connection.QueryFirstOrDefault<(long?, string?)>(
                    "SELECT id, opened_at FROM blind_tagging WHERE source_id = @sourceId",
                    new { sourceId }
                );
                if (opened is not null)
                    throw Refusal.Because("This source was opened already: they have seen each other's marks.", "accountIds");
                id ??= writing.Insert(Table, new { studyId, sourceId });
                var there = Taggers(writing.Connection, id.Value);
                foreach (var gone in there.Where(t => !wanted.Contains(t.Account)))
                    writing.Remove(Of, gone.Id);
                foreach (var accountId in wanted.Except(there.Select(t => t.Account)))
                    writing.Insert(Of, new { blindTaggingId = id, accountId });
                return id.Value;
            }
        );
    }

    /// <summary>A person says done, or not yet after all; with the last one it is opened.</summary>
    public Step Done(Actor actor, SourceId sourceId, bool done) =>
        workspace.Write(
            actor,
            StudyOf(sourceId),
            done ? "Said done with a source" : "Went back to tagging a source",
            writing =>
            {
                var id = Closed(writing, sourceId);
                var taggers = Taggers(writing.Connection, id);
                if (taggers.Find(t => t.Account == actor.AccountId) is not { Id: > 0 } mine)
                    throw Refusal.Because("This source was not given to you to be tagged blind.", "done");
                writing.Update(Of, mine.Id, new { doneAt = done ? writing.Now : null });
                if (done && taggers.TrueForAll(t => t.Done || t.Id == mine.Id))
                    writing.Update(Table, id, new { openedAt = writing.Now });
            }
        );

    /// <summary>They see each other's marks from now on.</summary>
    public Step Open(Actor actor, SourceId sourceId) =>
        workspace.Write(
            actor,
            StudyOf(sourceId),
            "Opened a source that was tagged blind",
            writing => writing.Update(Table, Closed(writing, sourceId), new { openedAt = writing.Now })
        );

    private static long Closed(Writing writing, SourceId sourceId) =>
        writing.Connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM blind_tagging WHERE source_id = @sourceId AND opened_at IS NULL",
            new { sourceId }
        ) ?? throw Refusal.Because("This source is not tagged blind, or it is open already.", "id");

    private static List<(long Id, AccountId Account, bool Done)> Taggers(SqliteConnection connection, long id) =>
        [
            .. connection.Query<(long, AccountId, bool)>(
                "SELECT id, account_id, done_at IS NOT NULL FROM blind_tagger WHERE blind_tagging_id = @id ORDER BY id",
                new { id }
            ),
        ];

    private StudyId StudyOf(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<StudyId?>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId })
            ?? throw Refusal.Missing("source");
    }
}
