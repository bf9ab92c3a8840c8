using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Media;

/// <summary>The rows that name kept files.</summary>
internal static class MediaRows
{
    /// <summary>Adds the row of a file, as part of a larger step.</summary>
    public static MediaId Insert(Writing writing, StudyId studyId, NewMedia media) =>
        writing.Insert(
            "media",
            new
            {
                studyId,
                media.Hash,
                media.Name,
                media.Type,
                media.Bytes,
            }
        );
}
