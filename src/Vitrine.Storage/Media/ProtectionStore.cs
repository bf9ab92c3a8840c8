using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Media;

/// <summary>How people are protected in what leaves of recordings and pictures.</summary>
public sealed class ProtectionStore(Workspace workspace)
{
    public Protection Of(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return Of(connection, sourceId);
    }

    /// <summary>
    /// The protection of a source in the caller's snapshot. A still is protected as its film is at its moment besides.
    /// </summary>
    public static Protection Of(SqliteConnection connection, SourceId sourceId)
    {
        var own = Own(connection, sourceId);
        var (film, at) = connection.QueryFirstOrDefault<(SourceId?, int?)>(
            "SELECT still_of_id, still_at_ms FROM source WHERE id = @sourceId",
            new { sourceId }
        );
        return film is { } of && at is { } moment
            ? own with
            {
                Covers =
                [
                    .. own.Covers,
                    .. Own(connection, of).Covers.Where(c => c.CoversAt(moment)).Select(c => c with { BeginMs = null, EndMs = null }),
                ],
            }
            : own;
    }

    /// <summary>Protects a source anew, as one step.</summary>
    public Step Set(Actor actor, StudyId studyId, SourceId sourceId, Protection protection) =>
        workspace.Write(
            actor,
            studyId,
            "Changed how people are protected in a recording",
            writing =>
            {
                var row = new { protection.VoiceChanged, covers = JsonSerializer.Serialize(protection.Covers) };
                if (
                    writing.Connection.QueryFirstOrDefault<long?>(
                        "SELECT id FROM protection WHERE source_id = @sourceId",
                        new { sourceId }
                    ) is
                    { } there
                )
                    writing.Update("protection", there, row);
                else
                    writing.Insert(
                        "protection",
                        new
                        {
                            sourceId,
                            row.VoiceChanged,
                            row.covers,
                        }
                    );
                return sourceId.Value;
            }
        );

    private static Protection Own(SqliteConnection connection, SourceId sourceId) =>
        connection.QueryFirstOrDefault<(bool VoiceChanged, string Covers)?>(
            "SELECT voice_changed, covers FROM protection WHERE source_id = @sourceId",
            new { sourceId }
        )
            is var (voice, covers)
            ? new Protection(voice, JsonSerializer.Deserialize<List<Cover>>(covers)!)
            : Protection.None;
}
