using System.Diagnostics;
using System.IO.Compression;
using System.Text;
using Vitrine.Formats.Tables;

namespace Vitrine.Formats.Tests;

/// <summary>
/// Good files with bytes changed, cut off, doubled and swapped, also inside the parts of zipped ones: each reader gives a source or a
/// sentence, in time.
/// A few a reader here; as many as VITRINE_MUTATIONS says when it is set (bench/run mutations).
/// </summary>
public sealed class MutatedFileTests
{
    private static readonly string Folder = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../references"));
    private static readonly int Mutations = int.TryParse(Environment.GetEnvironmentVariable("VITRINE_MUTATIONS"), out var n) ? n : 25;
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(10);

    public static TheoryData<string> Files =>
        [
            .. new[] { "docx", "odt", "rtf", "pdf", "html", "md" }.Select(e => $"documents/quay-report.{e}"),
            "captions/kiosk-voices.vtt",
            "captions/two-people.srt",
            "csv-spectrum/csvs/quotes_and_newlines.csv",
        ];

    [Theory]
    [MemberData(nameof(Files))]
    public void A_mutated_file_gives_a_source_or_a_sentence(string file)
    {
        var good = File.ReadAllBytes(Path.Combine(Folder, file));
        // PdfPig looks long for what a broken file has lost; there the process that reads for the server sets the bound.
        var (times, longest) = file.EndsWith("pdf", StringComparison.Ordinal)
            ? (Mutations / 2, TimeSpan.FromMinutes(2))
            : (Mutations, Longest);
        for (var seed = 0; seed < times; seed++)
        {
            var random = new Random(seed);
            var bytes =
                file.EndsWith("docx", StringComparison.Ordinal) || file.EndsWith("odt", StringComparison.Ordinal)
                    ? random.Next(4) == 0
                        ? Mutated(random, good)
                        : InsideZip(random, good)
                    : Mutated(random, good);
            var began = Stopwatch.GetTimestamp();
            try
            {
                if (file.EndsWith("csv", StringComparison.Ordinal))
                    TableFile.Read("a.csv", new MemoryStream(bytes));
                else
                    SourceFile.Read(file, new MemoryStream(bytes));
            }
            catch (UnreadableException said)
            {
                Assert.True(said.Message.Length > 20, $"seed {seed}: {said.Message}");
            }
            Assert.True(Stopwatch.GetElapsedTime(began) < longest, $"seed {seed}");
        }
    }

    private static byte[] Mutated(Random random, byte[] good)
    {
        var bytes = good.ToList();
        for (var times = random.Next(1, 6); times > 0 && bytes.Count > 8; times--)
        {
            var (at, length) = (random.Next(bytes.Count), random.Next(1, Math.Max(2, bytes.Count / 20)));
            length = Math.Min(length, bytes.Count - at);
            switch (random.Next(5))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes.RemoveRange(at, length);
                    break;
                case 2:
                    bytes.InsertRange(at, bytes.GetRange(at, length));
                    break;
                case 3:
                    for (var i = 0; i < 200; i++)
                        bytes.InsertRange(at, bytes.GetRange(at, Math.Min(length, 12)));
                    break;
                default:
                    bytes.RemoveRange(at, bytes.Count - at);
                    break;
            }
        }
        return [.. bytes];
    }

    private static byte[] InsideZip(Random random, byte[] good)
    {
        using var from = new ZipArchive(new MemoryStream(good));
        using var to = new MemoryStream();
        using (var zip = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var entry in from.Entries)
            {
                using var content = new MemoryStream();
                using (var part = entry.Open())
                    part.CopyTo(content);
                using var written = zip.CreateEntry(entry.FullName).Open();
                written.Write(
                    entry.FullName.EndsWith(".xml", StringComparison.Ordinal) && random.Next(3) == 0
                        ? Repeated(random, content.ToArray())
                        : content.ToArray()
                );
            }
        }
        return to.ToArray();
    }

    /// <summary>XML that is still XML: one element many times, or in itself.</summary>
    private static byte[] Repeated(Random random, byte[] xml)
    {
        var text = Encoding.UTF8.GetString(xml);
        var start = text.IndexOf('<', random.Next(text.Length / 2));
        var end = start < 0 ? -1 : text.IndexOf("/>", start, StringComparison.Ordinal);
        if (end < 0 || end - start > 400)
            return Mutated(random, xml);
        return Encoding.UTF8.GetBytes(text.Insert(start, string.Concat(Enumerable.Repeat(text[start..(end + 2)], 500))));
    }
}
