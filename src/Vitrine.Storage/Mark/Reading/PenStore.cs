using Dapper;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Reading;

/// <summary>A tag on one of the keys 1 to 9.</summary>
public sealed record Pen
{
    /// <summary>The key, 1 to 9.</summary>
    public int Number { get; init; }
    public TagId TagId { get; init; }
}

/// <summary>Which tags each person has on the keys 1 to 9, study by study.</summary>
public sealed class PenStore(Workspace workspace)
{
    /// <summary>A person's pens in a study, by their number; without tags that are gone.</summary>
    public IReadOnlyList<Pen> Of(AccountId accountId, StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<Pen>(
                "SELECT number, tag_id FROM pen WHERE account_id = @accountId AND study_id = @studyId ORDER BY number",
                new { accountId, studyId }
            )
            .AsList();
    }

    /// <summary>Puts a tag on a key, or for null takes off what is on it. A tag is on one key at most.</summary>
    /// <exception cref="Refusal">There is no such key, or the tag is no tag of the study.</exception>
    public IReadOnlyList<Pen> Set(AccountId accountId, StudyId studyId, int number, TagId? tagId)
    {
        if (number is < 1 or > 9)
            throw Refusal.Because("Pens are numbered from 1 to 9.", "number");
        var given = new
        {
            accountId,
            studyId,
            number,
            tagId,
        };
        workspace.WriteUntrailed(connection =>
        {
            if (
                tagId is not null
                && !connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM tag WHERE id = @tagId AND (study_id IS NULL OR study_id = @studyId)",
                    given
                )
            )
                throw Refusal.Missing("tag");
            connection.Execute(
                "DELETE FROM pen WHERE account_id = @accountId AND study_id = @studyId AND (number = @number OR tag_id = @tagId)",
                given
            );
            return tagId is null
                ? 0
                : connection.Execute(
                    "INSERT INTO pen (account_id, study_id, number, tag_id) VALUES (@accountId, @studyId, @number, @tagId)",
                    given
                );
        });
        return Of(accountId, studyId);
    }
}
