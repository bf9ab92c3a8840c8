using System.Globalization;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Media;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Pictures;

/// <summary>Pages of a .pdf as pictures, so that their parts can be marked: drawn by Debian's poppler.</summary>
internal static class PagePictureEndpoints
{
    /// <summary>The longer side of such a picture, in pixels.</summary>
    private const string LongSide = "2000";

    public static void MapPagePictures(this RouteGroupBuilder api) =>
        api.MapPost("/sources/{id:long}/pages/{number:int}/picture", Keep).WithTags("Mark").About(Thing.Source);

    private static async Task<Step> Keep(
        SourceId id,
        int number,
        SignedIn me,
        SourceStore sources,
        RecordedSourceStore recorded,
        MediaFolder media,
        CancellationToken cancel
    )
    {
        var source = sources.Get(id, me.Id);
        if (sources.MediaOf(id) is not { Type: "application/pdf" } file)
            throw Refusal.Because("Only the pages of a .pdf can be kept as pictures.", "id");
        if (source.Shape?.Pages.Any(p => p.Number == number) != true)
            throw Refusal.Because("There are no words on such a page of this source.", "number");
        if (!Ffmpeg.Has("pdftoppm"))
            throw new Refusal(
                RefusalKind.NotFound,
                "poppler-utils is not installed on the server, so pages cannot be drawn. Ask the person who runs Vitrine to install it."
            );
        using var png = new MemoryStream();
        try
        {
            var page = number.ToString(CultureInfo.InvariantCulture);
            await Ffmpeg.Run(
                ["pdftoppm", "-q", "-f", page, "-l", page, "-singlefile", "-scale-to", LongSide, "-png", media.PathOf(file.Hash)],
                (bytes, stop) => bytes.CopyToAsync(png, stop),
                cancel
            );
        }
        catch (UnplayableException)
        {
            png.SetLength(0);
        }
        if (png.Length == 0)
            throw Refusal.Because("This page could not be drawn; the file may be protected or broken.", "number");
        var passing = media.Passing();
        await System.IO.File.WriteAllBytesAsync(passing, png.ToArray(), cancel);
        var hash = await media.HashOf(Path.GetFileName(passing), cancel);
        media.Keep(Path.GetFileName(passing), hash);
        var name = $"{source.Line.Title}, page {number}";
        return recorded.AddStill(
            me.Actor,
            id,
            null,
            number,
            name[..Math.Min(name.Length, Limits.Title)],
            new NewMedia(hash, $"{name}.png", "image/png", png.Length)
        );
    }
}
