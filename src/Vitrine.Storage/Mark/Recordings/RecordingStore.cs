using Dapper;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Recordings;

/// <summary>What is known of a file of sound or film.</summary>
public sealed record Recording
{
    /// <summary>The file's hash.</summary>
    public string Hash { get; init; } = "";

    /// <summary>How long it lasts, as measured.</summary>
    public int LengthMs { get; init; }

    /// <summary>How long it says that it lasts, where that is more than what is in it; null else.</summary>
    public int? SaysMs { get; init; }

    /// <summary>Whether it has a sound.</summary>
    public bool Sounds { get; init; }

    /// <summary>Of its picture, in pixels; null for sound alone.</summary>
    public int? Width { get; init; }

    public int? Height { get; init; }

    /// <summary>How long one frame of a film stands, in milliseconds; null where that differs, or is not known.</summary>
    public double? FrameMs { get; init; }

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

    /// <summary>What is known of a file; null while it has not been looked at, or when what came of it is gone.</summary>
    public Recording? Find(string hash)
    {
        using var connection = workspace.Open();
        var found = connection.QueryFirstOrDefault<Recording>(
            "SELECT hash, length_ms, says_ms, sounds, width, height, frame_ms, copy_type FROM recording WHERE hash = @hash",
            new { hash }
        );
        if (found is null)
            return null;
        // A backup holds no files that can be made again.
        string[] needed =
        [
            .. found.Sounds ? [RecordingPeaks.NameOf(RecordingPeaks.Resolutions[0])] : (string[])[],
            .. found.CopyType is null ? (string[])[] : [Copy],
        ];
        return needed.All(name => File.Exists(media.MadeOf(hash, name))) ? found : null;
    }

    /// <summary>Keeps what was found out; what was made of the file must stand already.</summary>
    public void Keep(Recording recording, StudyId studyId, AccountId accountId)
    {
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                """
                INSERT INTO recording (hash, length_ms, says_ms, sounds, width, height, frame_ms, copy_type)
                VALUES (@Hash, @LengthMs, @SaysMs, @Sounds, @Width, @Height, @FrameMs, @CopyType)
                ON CONFLICT (hash) DO UPDATE SET length_ms = excluded.length_ms, says_ms = excluded.says_ms,
                  sounds = excluded.sounds, width = excluded.width,
                  height = excluded.height, frame_ms = excluded.frame_ms, copy_type = excluded.copy_type
                """,
                recording
            )
        );
        workspace.Tell(studyId, accountId, "recording");
    }
}
