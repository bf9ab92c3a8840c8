using Microsoft.Net.Http.Headers;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Http;

internal static class SentFile
{
    /// <summary>A kept file as it was given, in ranges; <paramref name="shown"/> in the page, or for keeping.</summary>
    public static IResult Sent(this MediaFolder media, NewMedia file, bool shown) =>
        Results.File(
            Path.GetFullPath(media.PathOf(file.Hash)),
            file.Type,
            shown ? null : file.Name,
            entityTag: new EntityTagHeaderValue($"\"{file.Hash}\""),
            enableRangeProcessing: true
        );
}
