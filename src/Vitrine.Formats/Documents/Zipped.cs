using System.IO.Compression;
using System.Xml;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Looks into a zipped document (.docx, .odt, .xlsx) before anything in it is read, so that a file made to swell up, or one with programs
/// in it, goes no further.
/// </summary>
internal static class Zipped
{
    /// <summary>The most that a document may unpack to, in bytes.</summary>
    public const long LargestUnpacked = 400L * 1024 * 1024;

    private const int MostParts = 5_000;

    /// <summary>Elements in elements; a table in a table in a table needs some forty.</summary>
    private const int Deepest = 1_000;

    /// <summary>
    /// A part that unpacks to more than this many times its size, and to more than <see cref="SmallPart"/>, is no document's.
    /// </summary>
    private const int MostSwelling = 300;

    private const long SmallPart = 10L * 1024 * 1024;

    /// <summary>The names of the parts.</summary>
    /// <exception cref="UnreadableException">No zip, a bomb, or with macros.</exception>
    public static IReadOnlyList<string> Check(Stream file, string ending)
    {
        try
        {
            using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
            if (
                zip.Entries.Count > MostParts
                || zip.Entries.Any(e => e.Length is < 0 or > LargestUnpacked)
                || zip.Entries.Sum(e => e.Length) > LargestUnpacked
                || zip.Entries.Any(e => e.Length > SmallPart && e.Length > MostSwelling * Math.Max(1, e.CompressedLength))
            )
            {
                throw new UnreadableException(
                    "This file unpacks to far more than it should and was not opened. If it is a real document, save it anew "
                        + "from the program that made it."
                );
            }
            var names = zip.Entries.Select(e => e.FullName).ToList();
            if (
                names.Any(n =>
                    n.EndsWith("vbaProject.bin", StringComparison.OrdinalIgnoreCase)
                    || n.StartsWith("Basic/", StringComparison.Ordinal)
                    || n.StartsWith("Scripts/", StringComparison.Ordinal)
                )
            )
            {
                throw new UnreadableException(
                    $"This file holds macros (small programs) and was not opened. Save it without them, as a plain {ending}, and "
                        + $"add it again."
                );
            }
            if (ending != ".xlsx")
                foreach (var part in zip.Entries.Where(e => e.FullName.EndsWith(".xml", StringComparison.OrdinalIgnoreCase)))
                    RefuseDeep(part);
            file.Position = 0;
            return names;
        }
        // Parts that lie about their size or place.
        catch (Exception problem)
            when (problem is InvalidDataException or IOException or OverflowException or ArgumentException or NotSupportedException)
        {
            throw Damaged(ending);
        }
    }

    /// <summary>Looks how deep the elements of a part are nested, before anything builds a tree of them.</summary>
    private static void RefuseDeep(ZipArchiveEntry part)
    {
        using var stream = part.Open();
        using var xml = XmlReader.Create(stream, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
        try
        {
            while (xml.Read())
            {
                if (xml.Depth > Deepest)
                    throw new UnreadableException(ReadBounds.TooDeep);
            }
        }
        catch (XmlException)
        {
            // Its reader says what is wrong with it, when it is a part that is read.
        }
    }

    public static UnreadableException Damaged(string ending) =>
        new(
            $"This is not a whole {ending} file: it is damaged, protected by a password, or of another kind. Open it in the "
                + $"program that made it, save it as {ending}, and add it again."
        );
}
