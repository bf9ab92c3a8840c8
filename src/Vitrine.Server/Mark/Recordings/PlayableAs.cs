using Vitrine.Server.Media;

namespace Vitrine.Server.Mark.Recordings;

/// <summary>How a browser is to be given a recording.</summary>
/// <param name="Type">The type of the copy; null where the file itself plays.</param>
/// <param name="How">What is said to ffmpeg to make the copy.</param>
internal sealed record PlayableAs(string? Type, IReadOnlyList<string> How)
{
    /// <summary>Coders of sound begin a little early, or late.</summary>
    private const int LatestStartMs = 100;

    /// <summary>
    /// Browsers play WAV, MP3, FLAC, Ogg, WebM and MP4 with the codecs named here (tried in Debian's Chromium). Whatever else, a file whose
    /// name says something other than it is, one that does not know how long it is, and one whose clock begins late, gets a copy: repacked
    /// where its codecs play, decoded and encoded anew where they do not.
    /// </summary>
    /// <param name="file">What is in it; without a length where what it says is not what it lasts.</param>
    /// <param name="ending">Of the file's name, with the point.</param>
    public static PlayableAs Of(Probed file, string ending)
    {
        var names = file.Container.Split(',');
        bool Is(string container) => names.Contains(container);
        var webmPicture = file.Picture is null or "vp8" or "vp9" or "av1";
        var webmSound = file.Sound is null or "opus" or "vorbis";
        var mp4Picture = file.Picture is null || (file.Picture == "h264" && file.PixelFormat is "yuv420p" or "yuvj420p");
        var mp4Sound = file.Sound is null or "aac" or "mp3";
        var whole = file.LengthMs is not null && Math.Abs(file.StartMs) <= LatestStartMs;
        var plays = ending.ToLowerInvariant() switch
        {
            ".mp4" or ".m4a" => Is("mp4") && mp4Picture && mp4Sound && whole,
            ".webm" => Is("webm") && webmPicture && webmSound && whole,
            ".ogg" or ".opus" => Is("ogg") && file.Picture is null && file.Sound is "opus" or "vorbis" or "flac" && whole,
            ".mp3" => Is("mp3") && whole,
            ".flac" => Is("flac") && whole,
            ".wav" => Is("wav") && whole && file.Sound is "pcm_s16le" or "pcm_u8" or "pcm_s24le" or "pcm_f32le",
            _ => false,
        };
        if (plays)
            return new PlayableAs(null, []);
        if (webmPicture && webmSound && file.Picture is not null)
            return new PlayableAs("video/webm", ["-map", "0:v:0", "-map", "0:a:0?", "-c", "copy", "-f", "webm"]);
        string[] sound = file.Sound is null
            ? ["-an"]
            : ["-map", "0:a:0", "-c:a", .. mp4Sound ? (string[])["copy"] : ["aac", "-b:a", "128k"]];
        string[] ends = ["-movflags", "+faststart", "-f", "mp4"];
        if (file.Picture is null)
            return new PlayableAs("audio/mp4", [.. sound, .. ends]);
        string[] picture = mp4Picture ? ["-c:v", "copy"] : Ffmpeg.Packed;
        return new PlayableAs("video/mp4", ["-map", "0:v:0", .. picture, .. sound, .. ends]);
    }
}
