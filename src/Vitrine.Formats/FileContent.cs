namespace Vitrine.Formats;

/// <summary>
/// What a file is, told by how it begins and not by its name. The signatures are those of the formats' own specifications (from memory).
/// </summary>
public static class FileContent
{
    /// <summary>Endings that stand for one way of packing: any of them may be right for such a file.</summary>
    private static readonly string[][] Families =
    [
        [".mp4", ".m4a", ".m4v", ".mov", ".3gp"],
        [".ogg", ".opus"],
        [".webm", ".mkv"],
        [".mts", ".m2ts"],
        [".aiff", ".aif"],
        [".jpg", ".jpeg"],
    ];

    /// <summary>How much of a file is looked at, in bytes.</summary>
    private const int Head = 512;

    /// <summary>
    /// The ending that a file should have by what is in it; null for text, for what is packed as a zip archive (its reader tells
    /// what it is), and for what is not known. A name that fits keeps its ending.
    /// </summary>
    /// <param name="fileName">What it is called.</param>
    /// <param name="file">A stream that can seek; it is left at its beginning.</param>
    public static string? EndingOf(string fileName, Stream file)
    {
        var head = new byte[Head];
        file.Position = 0;
        var read = file.ReadAtLeast(head, Head, throwOnEndOfStream: false);
        file.Position = 0;
        var found = Of(head.AsSpan(0, read));
        var named = Path.GetExtension(fileName).ToLowerInvariant();
        return Array.Find(Families, f => f.Contains(found)) is { } family && family.Contains(named) ? named : found;
    }

    private static string? Of(ReadOnlySpan<byte> head)
    {
        if (head.StartsWith("RIFF"u8) && head.Length >= 12)
            return head[8..].StartsWith("WAVE"u8) ? ".wav"
                : head[8..].StartsWith("AVI "u8) ? ".avi"
                : head[8..].StartsWith("WEBP"u8) ? ".webp"
                : null;
        if (head.Length >= 12 && head[4..].StartsWith("ftyp"u8))
            return ".mp4";
        if (head.StartsWith("FORM"u8) && head.Length >= 12 && head[8..].StartsWith("AIF"u8))
            return ".aiff";
        return head.StartsWith("RF64"u8) ? ".wav"
            : head.StartsWith("OggS"u8) ? ".ogg"
            : head.StartsWith("fLaC"u8) ? ".flac"
            : head.StartsWith("ID3"u8) || IsMp3(head) ? ".mp3"
            : IsAac(head) ? ".aac"
            : head.StartsWith((ReadOnlySpan<byte>)[0x1A, 0x45, 0xDF, 0xA3]) ? ".webm"
            : head.StartsWith("#!AMR"u8) ? ".amr"
            : head.StartsWith((ReadOnlySpan<byte>)[0x30, 0x26, 0xB2, 0x75, 0x8E, 0x66, 0xCF, 0x11]) ? ".wma"
            : IsTransport(head) ? ".mts"
            : head.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? ".png"
            : head.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? ".jpg"
            : head.StartsWith("GIF87a"u8) || head.StartsWith("GIF89a"u8) ? ".gif"
            : head.StartsWith("%PDF-"u8) ? ".pdf"
            : head.StartsWith("{\\rtf"u8) ? ".rtf"
            : null;
    }

    /// <summary>A frame of MPEG layer III: eleven bits set, then its version and layer.</summary>
    private static bool IsMp3(ReadOnlySpan<byte> head) =>
        head.Length >= 4 && head[0] == 0xFF && (head[1] & 0xE6) == 0xE2 && (head[2] & 0xF0) != 0xF0 && (head[2] & 0x0C) != 0x0C;

    /// <summary>A frame of ADTS: twelve bits set, and layer 0.</summary>
    private static bool IsAac(ReadOnlySpan<byte> head) => head.Length >= 2 && head[0] == 0xFF && (head[1] & 0xF6) == 0xF0;

    /// <summary>Packets of 188 bytes that begin with 0x47, in cameras each after four bytes of time.</summary>
    private static bool IsTransport(ReadOnlySpan<byte> head) =>
        head.Length >= 389
        && ((head[0] == 0x47 && head[188] == 0x47 && head[376] == 0x47) || (head[4] == 0x47 && head[196] == 0x47 && head[388] == 0x47));
}
