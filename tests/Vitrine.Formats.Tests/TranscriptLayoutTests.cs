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

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
