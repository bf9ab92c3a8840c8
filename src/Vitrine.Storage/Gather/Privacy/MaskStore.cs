using Dapper;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>A mask over a stretch of a source.</summary>
public sealed record StoredMask
{
    public MaskId Id { get; init; }
    public SourceId SourceId { get; init; }
    public int Start { get; init; }
    public int End { get; init; }
    public DetailKind Kind { get; init; }
    public string Replacement { get; init; } = "";
}

/// <summary>A stretch to be masked.</summary>
public sealed record NewMask(SourceId SourceId, int Start, int End, DetailKind Kind, string Replacement);

/// <summary>Masks: made after a look, taken off by the team, and applied to whatever leaves it.</summary>
public sealed class MaskStore(Workspace workspace)
{
    private const string Columns = "SELECT m.id, m.source_id, m.start, m.\"end\", m.kind, m.replacement FROM mask m ";

    public IReadOnlyList<StoredMask> Of(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return connection.Query<StoredMask>(Columns + "WHERE m.source_id = @sourceId ORDER BY m.start", new { sourceId }).AsList();
    }

    public IReadOnlyList<StoredMask> In(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<StoredMask>(
                Columns + "JOIN source s ON s.id = m.source_id WHERE s.study_id = @studyId ORDER BY s.position, s.id, m.start",
                new { studyId }
            )
            .AsList();
    }

    /// <summary>Masks stretches, as one step. A stretch that reaches into one that is masked already takes its place.</summary>
    public Step Mask(Actor actor, StudyId studyId, IReadOnlyList<NewMask> masks) =>
        workspace.Write(
            actor,
            studyId,
            masks.Count == 1 ? "Masked words" : $"Masked words in {masks.Count} places",
            writing =>
            {
                foreach (var of in masks.GroupBy(m => m.SourceId))
                {
                    var text =
                        writing.Connection.QueryFirstOrDefault<string>(
                            """
                            SELECT t.text FROM source_text t JOIN source s ON s.id = t.source_id WHERE t.source_id = @Key
                            AND s.study_id = @studyId
                            """,
                            new { of.Key, studyId }
                        ) ?? throw Refusal.Missing("source");
                    foreach (var mask in of)
                    {
                        if (mask.Start < 0 || mask.End <= mask.Start || mask.End > text.Length)
                            throw new Refusal(
                                RefusalKind.Conflict,
                                "The text was corrected meanwhile. Look for names again; nothing was masked."
                            );
                        foreach (
                            var there in writing
                                .Connection.Query<long>(
                                    "SELECT id FROM mask WHERE source_id = @SourceId AND start < @End AND \"end\" > @Start",
                                    mask
                                )
                                .ToList()
                        )
                            writing.Delete("mask", there);
                        writing.Insert(
                            "mask",
                            new
                            {
                                mask.SourceId,
                                mask.Start,
                                mask.End,
                                mask.Kind,
                                mask.Replacement,
                            }
                        );
                    }
                }
            }
        );

    /// <summary>Takes masks off, as one step.</summary>
    public Step Unmask(Actor actor, StudyId studyId, IReadOnlyList<MaskId> ids) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Removed a mask" : $"Removed {ids.Count} masks",
            writing =>
            {
                foreach (var id in ids)
                    writing.Delete("mask", id.Value);
            }
        );

    /// <summary>
    /// Moves a source's masks along when its text is corrected, as part of that step: each covers whatever became of its words, wherever
    /// they are now.
    /// </summary>
    internal static void Follow(Writing writing, SourceId sourceId, Reanchor moved)
    {
        foreach (
            var (id, start, end) in writing
                .Connection.Query<(long, int, int)>("SELECT id, start, \"end\" FROM mask WHERE source_id = @sourceId", new { sourceId })
                .ToList()
        )
        {
            var now = moved.Of(new TextRange(start, end));
            if (now.Fate == AnchorFate.Gone)
                writing.Delete("mask", id);
            else
                writing.Update("mask", id, new { now.Range.Start, now.Range.End });
        }
    }
}
