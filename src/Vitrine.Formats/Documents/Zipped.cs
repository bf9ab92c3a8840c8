using System.IO.Compression;

namespace Vitrine.Formats.Documents;

/// <summary>Looks into a zipped document (.docx, .odt, .xlsx) before anything in it is read, so that a file made to swell up, or one with programs in it, goes no further.</summary>
internal static class Zipped
{
    /// <summary>The most that a document may unpack to, in bytes.</summary>
    public const long LargestUnpacked = 400L * 1024 * 1024;

    private const int MostParts = 5_000;

    /// <summary>A part that unpacks to more than this many times its size, and to more than <see cref="SmallPart"/>, is no document's.</summary>
    private const int MostSwelling = 300;

    private const long SmallPart = 10L * 1024 * 1024;

    /// <summary>The names of the parts.</summary>
    /// <exception cref="UnreadableException">No zip, a bomb, or with macros.</exception>
    public static IReadOnlyList<string> Check(Stream file, string ending)
    {
        try
        {
            using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > MostParts || zip.Entries.Sum(e => e.Length) > LargestUnpacked || zip.Entries.Any(e => e.Length > SmallPart && e.Length > MostSwelling * Math.Max(1, e.CompressedLength)))
            {
                throw new UnreadableException("This file unpacks to far more than it should and was not opened. If it is a real document, save it anew from the program that made it.");
            }
            var names = zip.Entries.Select(e => e.FullName).ToList();
            if (names.Any(n => n.EndsWith("vbaProject.bin", StringComparison.OrdinalIgnoreCase) || n.StartsWith("Basic/", StringComparison.Ordinal) || n.StartsWith("Scripts/", StringComparison.Ordinal)))
            {
                throw new UnreadableException($"This file holds macros (small programs) and was not opened. Save it without them, as a plain {ending}, and add it again.");
            }
            file.Position = 0;
            return names;
        }
        catch (InvalidDataException)
        {
            throw Damaged(ending);
        }
    }

    public static UnreadableException Damaged(string ending) => new($"This is not a whole {ending} file: it is damaged, protected by a password, or of another kind. Open it in the program that made it, save it as {ending}, and add it again.");
}
