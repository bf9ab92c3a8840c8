using Dapper;
using Vitrine.Core.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Access;

/// <summary>Someone who looks: their account and their role.</summary>
public sealed record Viewer(AccountId AccountId, Role Role);

/// <summary>Whose a thing is.</summary>
/// <param name="StudyId">Its study; null for what belongs to none, such as a shared tag.</param>
public sealed record Owner(StudyId? StudyId);

/// <summary>
/// Who sees which study. A steward sees all; others of the team see the studies they are in. What belongs to no study (a shared tag) the
/// whole team sees.
/// An exhibit is seen by those who see every study that it draws from; one that draws from none yet, by who made it.
/// </summary>
public sealed class StudyAccess(Workspace workspace)
{
    private const string Theirs = "SELECT study_id FROM membership WHERE account_id = @AccountId";

    /// <summary>The studies a person sees; null for all that there are.</summary>
    public IReadOnlyList<StudyId>? VisibleTo(Viewer viewer)
    {
        if (viewer.Role == Role.Steward)
            return null;
        using var connection = workspace.Open();
        var theirs = connection.Query<StudyId>(Theirs, viewer).ToList();
        return connection.ExecuteScalar<int>("SELECT count(*) FROM study") > theirs.Count ? theirs : null;
    }

    public bool SeesStudy(Viewer viewer, StudyId studyId)
    {
        using var connection = workspace.Open();
        if (
            viewer.Role == Role.Reader
            || !connection.ExecuteScalar<bool>("SELECT count(*) FROM study WHERE id = @studyId", new { studyId })
        )
            return false;
        return viewer.Role == Role.Steward
            || connection.ExecuteScalar<bool>(
                "SELECT count(*) FROM membership WHERE account_id = @AccountId AND study_id = @studyId",
                new { viewer.AccountId, studyId }
            );
    }

    /// <summary>Whether a thing is there and the person sees it.</summary>
    public bool Sees(Viewer viewer, string thing, long id) =>
        viewer.Role != Role.Reader
        && (
            thing == Thing.Exhibit
                ? SeesExhibit(viewer, id)
                : OwnersOf(viewer, thing, [id]).TryGetValue(id, out var owner)
                    && (owner.StudyId is not { } study || SeesStudy(viewer, study))
        );

    /// <summary>
    /// Whose the given things are, by id; one that is not there is left out, and so is a mark that the viewer may not see, or what hangs
    /// on it.
    /// </summary>
    public IReadOnlyDictionary<long, Owner> OwnersOf(Viewer viewer, string thing, IReadOnlyCollection<long> ids)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        return connection
            .Query<(long Id, long? Study)>(
                $"{workspace.Catalogue.OwnersSql(thing)} WHERE x.id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(ids) }
            )
            .ToDictionary(o => o.Id, o => new Owner(o.Study));
    }

    /// <summary>Whether an exhibit is there and draws from no study that the person does not see.</summary>
    public bool SeesExhibit(Viewer viewer, ExhibitId id)
    {
        using var connection = workspace.Open();
        return connection.ExecuteScalar<bool>(
            $"""
            SELECT count(*) FROM exhibit e WHERE e.id = @id AND (@all OR e.created_by = @AccountId OR EXISTS (SELECT 1
              FROM exhibit_insight x WHERE x.exhibit_id = e.id)) AND (@all OR NOT EXISTS (
              SELECT 1 FROM exhibit_insight x JOIN insight i ON i.id = x.insight_id WHERE x.exhibit_id = e.id
                AND i.study_id NOT IN ({Theirs})))
            """,
            new
            {
                id,
                all = viewer.Role == Role.Steward,
                viewer.AccountId,
            }
        );
    }

    /// <summary>The team of a study.</summary>
    public IReadOnlyList<AccountId> MembersOf(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<AccountId>("SELECT account_id FROM membership WHERE study_id = @studyId ORDER BY id", new { studyId })
            .ToList();
    }

    /// <summary>Everyone who sees a study; for null, the whole team of the workspace.</summary>
    public IReadOnlyList<AccountId> SeenBy(StudyId? studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<AccountId>(
                """
                SELECT id FROM account WHERE role = 'steward' OR (role <> 'reader' AND (@studyId IS NULL OR id IN (SELECT account_id
                FROM membership WHERE study_id = @studyId)))
                """,
                new { studyId }
            )
            .ToList();
    }

    /// <summary>Sets who is in a study's team, as one step.</summary>
    public Step SetMembers(Actor actor, StudyId studyId, IReadOnlyList<AccountId> accountIds) =>
        workspace.Write(
            actor,
            studyId,
            "Changed the study’s team",
            writing =>
            {
                writing.Link("membership", "study_id", studyId.Value, "account_id", accountIds);
                return studyId.Value;
            }
        );
}
