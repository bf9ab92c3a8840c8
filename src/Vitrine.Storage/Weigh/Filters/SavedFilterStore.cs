using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Weigh.Filters;

/// <summary>Conditions that a study keeps by name.</summary>
public sealed record SavedFilter
{
    public SavedFilterId Id { get; init; }
    public string Name { get; init; } = "";

    /// <summary>What it asks for; null where that cannot be read.</summary>
    public Conditions? Conditions { get; init; }
    public string CreatedBy { get; init; } = "";
}

/// <summary>The saved filters of a study; one name is kept once.</summary>
public sealed class SavedFilterStore(Workspace workspace)
{
    /// <summary>Those of a study, by name.</summary>
    public IReadOnlyList<SavedFilter> In(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<SavedFilter>(
                """
                SELECT f.id, f.name, f.conditions, a.name AS created_by FROM saved_filter f JOIN account a ON a.id = f.created_by
                WHERE f.study_id = @studyId ORDER BY f.name COLLATE NOCASE, f.id
                """,
                new { studyId }
            )
            .ToList();
    }

    /// <summary>Keeps conditions by a name; under a name that is there, in place of what it held.</summary>
    /// <exception cref="Refusal">They ask for nothing, or for what no value can be.</exception>
    public Step Keep(Actor actor, StudyId studyId, string name, Conditions conditions)
    {
        if (!conditions.AreReadable)
            throw Refusal.Because("Say from which number or day to which, such as 12.5 or 2026-03-01.", "ranges");
        if (!conditions.Any)
            throw Refusal.Because("Choose some conditions first: these ask for nothing.", "conditions");
        return workspace.Write(
            actor,
            studyId,
            $"Kept the filter “{name}”",
            writing =>
            {
                var there = writing.Connection.QueryFirstOrDefault<long?>(
                    "SELECT id FROM saved_filter WHERE study_id = @studyId AND name = @name COLLATE NOCASE",
                    new { studyId, name }
                );
                var json = conditions.ToJson();
                if (there is not { } id)
                    return writing.Insert(
                        "saved_filter",
                        new
                        {
                            studyId,
                            name,
                            conditions = json,
                        }
                    );
                writing.Update("saved_filter", id, new { name, conditions = json });
                return id;
            }
        );
    }

    /// <summary>A filter goes; what it asked for stays in the addresses that hold it.</summary>
    public Step Remove(Actor actor, StudyId studyId, SavedFilterId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a filter",
            writing =>
            {
                writing.Expect("saved_filter", id.Value, "study_id", studyId.Value);
                writing.Remove("saved_filter", id.Value);
            }
        );
}
