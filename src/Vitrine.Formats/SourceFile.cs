using Vitrine.Formats.Captions;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats;

/// <summary>What can be made of a file.</summary>
public enum FileUse
{
    /// <summary>It holds words to read.</summary>
    Text,

    /// <summary>It holds rows, one for each person who answered.</summary>
    Table,

    /// <summary>Sound, picture or film, kept as it is.</summary>
    Media,
}

/// <summary>Chooses the reader for a file by the ending of its name, which <see cref="FileContent"/> holds against what is in it.</summary>
public static class SourceFile
{
    private delegate ReadSource Reader(Stream file, Func<string, bool>? isKnown);

    private static readonly Dictionary<string, Reader> Readers = new(StringComparer.OrdinalIgnoreCase)
    {
        [".txt"] = (file, isKnown) => TextFile.Read(Text(file), isKnown),
        [".md"] = (file, isKnown) => MarkdownFile.Read(Text(file), isKnown),
        [".docx"] = Docx.Read,
        [".odt"] = Odt.Read,
        [".rtf"] = (file, isKnown) => Rtf.Read(Bytes(file), isKnown),
        [".pdf"] = (file, isKnown) => Pdf.Read(Bytes(file), isKnown),
        [".html"] = (file, isKnown) => Html.Read(Bytes(file), isKnown),
        [".htm"] = (file, isKnown) => Html.Read(Bytes(file), isKnown),
        [".vtt"] = (file, _) => WebVtt.Read(Text(file)),
        [".srt"] = (file, _) => SubRip.Read(Text(file)),
    };

    private static readonly Dictionary<string, string> MediaTypes = new(StringComparer.OrdinalIgnoreCase)
    {
        [".wav"] = "audio/wav",
        [".mp3"] = "audio/mpeg",
        [".m4a"] = "audio/mp4",
        [".ogg"] = "audio/ogg",
        [".webm"] = "video/webm",
        [".mp4"] = "video/mp4",
        [".mov"] = "video/quicktime",
        [".mkv"] = "video/x-matroska",
        [".avi"] = "video/x-msvideo",
        [".flac"] = "audio/flac",
        [".aac"] = "audio/aac",
        [".opus"] = "audio/ogg",
        [".3gp"] = "video/3gpp",
        [".m4v"] = "video/x-m4v",
        [".mts"] = "video/mp2t",
        [".m2ts"] = "video/mp2t",
        [".amr"] = "audio/amr",
        [".wma"] = "audio/x-ms-wma",
        [".aiff"] = "audio/aiff",
        [".aif"] = "audio/aiff",
        [".webp"] = "image/webp",
        [".gif"] = "image/gif",
        [".png"] = "image/png",
        [".jpg"] = "image/jpeg",
        [".jpeg"] = "image/jpeg",
    };

    private static readonly Dictionary<string, string> OtherTypes = new(StringComparer.OrdinalIgnoreCase)
    {
        [".txt"] = "text/plain",
        [".md"] = "text/markdown",
        [".docx"] = "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
        [".odt"] = "application/vnd.oasis.opendocument.text",
        [".rtf"] = "application/rtf",
        [".pdf"] = "application/pdf",
        [".html"] = "text/html",
        [".htm"] = "text/html",
        [".vtt"] = "text/vtt",
        [".srt"] = "application/x-subrip",
        [".csv"] = "text/csv",
        [".xlsx"] = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    };

    /// <summary>The endings that can be taken in, for the file picker and for messages.</summary>
    public static readonly IReadOnlyList<string> Endings = [.. Readers.Keys, ".csv", ".xlsx", .. MediaTypes.Keys];

    /// <summary>What can be made of a file of this name; null for nothing but an attachment.</summary>
    public static FileUse? UseOf(string fileName) =>
        Path.GetExtension(fileName).ToLowerInvariant() switch
        {
            ".csv" or ".xlsx" => FileUse.Table,
            var ending when Readers.ContainsKey(ending) => FileUse.Text,
            var ending when MediaTypes.ContainsKey(ending) => FileUse.Media,
            _ => null,
        };

    /// <summary>The media type (RFC 6838) under which a file of this name is served.</summary>
    public static string TypeOf(string fileName)
    {
        var ending = Path.GetExtension(fileName);
        return MediaTypes.GetValueOrDefault(ending) ?? OtherTypes.GetValueOrDefault(ending) ?? "application/octet-stream";
    }

    /// <summary>Reads one file; <paramref name="isKnown"/> says which names are speakers at first sight.</summary>
    /// <param name="fileName">Its ending chooses the reader.</param>
    /// <param name="file">A stream that can seek, at its beginning.</param>
    /// <param name="isKnown">Whether a name is someone's already.</param>
    /// <exception cref="UnreadableException">Says why not, in a sentence for the person who chose the file.</exception>
    public static ReadSource Read(string fileName, Stream file, Func<string, bool>? isKnown = null)
    {
        if (!Readers.TryGetValue(Path.GetExtension(fileName), out var read))
            throw new UnreadableException(
                $"Files of this kind cannot be read. Choose {string.Join(", ", Readers.Keys)}, or paste the text."
            );
        if (file.Length == 0)
            throw new UnreadableException("The file is empty. Check that it was saved, and add it again.");
        return ReadBounds.Run(fileName, () => read(file, isKnown)).Bounded(isKnown);
    }

    private static byte[] Text(Stream file) =>
        file.Length <= ReadBounds.MostTextBytes ? Bytes(file) : throw ReadSource.TooLong(file.Length);

    private static byte[] Bytes(Stream file)
    {
        var bytes = new byte[file.Length];
        file.ReadExactly(bytes);
        return bytes;
    }
}
