using System.Text.Json;
using System.Text.RegularExpressions;

namespace Vitrine.Formats.Tests;

/// <summary>
/// One talk in some fifty layouts, each as text, as .docx and as two prints of different printers (tests/references/transcripts/make.py,
/// which also writes the truth). The layouts are common practice, no source.
/// </summary>
public partial class TranscriptLayoutTests
{
    private sealed record Said(string? Speaker, int? BeginMs, string Words);

    private static readonly JsonSerializerOptions Options = new() { PropertyNameCaseInsensitive = true };
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "references", "transcripts");

    public static TheoryData<string> Files() =>
        [
            .. Directory
                .EnumerateFiles(Folder)
                .Where(f => Path.GetExtension(f) is ".txt" or ".docx" or ".pdf" or ".html")
                .Select(f => Path.GetFileName(f)!)
                .Order(StringComparer.Ordinal),
        ];

    [Theory]
    [MemberData(nameof(Files))]
    public void Every_word_is_credited_to_who_said_it(string file)
    {
        using var stream = File.OpenRead(Path.Combine(Folder, file));
        var read = SourceFile.Read(file, stream);
        var truth = JsonSerializer.Deserialize<List<Said>>(File.ReadAllText(Path.Combine(Folder, $"{file.Split('.')[0]}.json")), Options)!;
        var turns = read
            .Turns.Select(t => new Said(t.Speaker, t.BeginMs, Spaces().Replace(t.Words.Of(read.Text), " ")))
            // What nobody said is the row of headings of a table.
            .Where(t => t.Speaker is not null || truth[0].Speaker is null);
        Assert.Equal(truth, turns);
    }

    /// <summary>
    /// The words of every layout against poppler's pdftotext -layout 22.12.0 (.pdf) and pandoc 2.17.1.1 (.docx), which know nothing of talk:
    /// none is lost, none is made, and they come in the same order, but for cells of several lines, which poppler reads line by line.
    /// </summary>
    [Theory]
    [InlineData("pdftotext.words")]
    [InlineData("pandoc.words")]
    public void No_word_is_lost_or_made(string reference)
    {
        var different = new List<string>();
        foreach (var part in File.ReadAllText(Path.Combine(Folder, reference)).Split("=== ", StringSplitOptions.RemoveEmptyEntries))
        {
            var end = part.IndexOf('\n');
            using var stream = File.OpenRead(Path.Combine(Folder, part[..end]));
            var (ours, theirs) = (WordsOf(SourceFile.Read(part[..end], stream).Text), WordsOf(part[end..]));
            if (!ours.Order(StringComparer.Ordinal).SequenceEqual(theirs.Order(StringComparer.Ordinal)))
                different.Add($"{part[..end]}: {string.Join(' ', ours.Except(theirs))} | {string.Join(' ', theirs.Except(ours))}");
            else if (
                ours.Zip(theirs).Count(w => w.First == w.Second)
                < (part.StartsWith("table-", StringComparison.Ordinal) ? 0.9 : 1) * ours.Count
            )
                different.Add($"{part[..end]}: another order");
        }
        Assert.Empty(different);
    }

    private static List<string> WordsOf(string text) => [.. Word().Matches(text.Normalize()).Select(m => m.Value)];

    [GeneratedRegex(@"[\p{L}\p{Nd}]+")]
    private static partial Regex Word();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
