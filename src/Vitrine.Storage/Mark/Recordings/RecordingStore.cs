using Dapper;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Recordings;

/// <summary>What is known of a file of sound or film.</summary>
public sealed record Recording
{
    /// <summary>The file's hash.</summary>
    public string Hash { get; init; } = "";

    public int LengthMs { get; init; }

    /// <summary>Whether it has a sound.</summary>
    public bool Sounds { get; init; }

    /// <summary>Of its picture, in pixels; null for sound alone.</summary>
    public int? Width { get; init; }

    public int? Height { get; init; }

    /// <summary>The type of the copy that browsers can play; null where they can play the file itself.</summary>
    public string? CopyType { get; init; }
}

/// <summary>What was found out about recordings. It can be found out again, and is no research data.</summary>
public sealed class RecordingStore(Workspace workspace, MediaFolder media)
{
    /// <summary>Under this name the copy stands that browsers can play.</summary>
    public const string Copy = "copy";

    /// <summary>Under this name a frame stands to know a film by, as PNG.</summary>
    public const string Poster = "poster";

    /// <summary>Under this name the moments stand at which the scenes of a film change, in milliseconds as JSON.</summary>
    public const string Scenes = "scenes";

    /// <summary>Peaks stand by how many a second has: "peaks-100".</summary>
    public static string PeaksName(int perSecond) => $"peaks-{perSecond}";

    /// <summary>What is known of a file; null while it has not been looked at, or when what came of it is gone.</summary>
    public Recording? Find(string hash)
    {
        using var connection = workspace.Open();
        var found = connection.QueryFirstOrDefault<Recording>(
            "SELECT hash, length_ms, sounds, width, height, copy_type FROM recording WHERE hash = @hash",
            new { hash }
        );
        if (found is null)
            return null;
        // A backup holds no files that can be made again.
        string[] needed = [.. found.Sounds ? [PeaksName(100)] : (string[])[], .. found.CopyType is null ? (string[])[] : [Copy]];
        return needed.All(name => File.Exists(media.MadeOf(hash, name))) ? found : null;
    }

    /// <summary>
    /// The recording with which a transcript runs: the one it is attached to, or that of its session, the first where there are several;
    /// null for none that is ready.
    /// </summary>
    public SourceId? InStepWith(SourceId transcript)
    {
        using var connection = workspace.Open();
        return
            connection.QueryFirstOrDefault<long?>(
                """
                SELECT r.id FROM in_step i JOIN source r ON r.id = i.recording_id JOIN media m ON m.id = r.media_id
                  JOIN recording q ON q.hash = m.hash
                WHERE i.transcript_id = @transcript
                """,
                new { transcript }
            )
                is { } found
            ? found
            : (SourceId?)null;
    }

    /// <summary>Keeps what was found out; what was made of the file must stand already.</summary>
    public void Keep(Recording recording, StudyId studyId, AccountId accountId)
    {
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                """
                INSERT INTO recording (hash, length_ms, sounds, width, height, copy_type)
                VALUES (@Hash, @LengthMs, @Sounds, @Width, @Height, @CopyType)
                ON CONFLICT (hash) DO UPDATE SET length_ms = excluded.length_ms, sounds = excluded.sounds, width = excluded.width,
                  height = excluded.height, copy_type = excluded.copy_type
                """,
                recording
            )
        );
        workspace.Tell(studyId, accountId, "recording");
    }
}
