using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using Vitrine.Formats.Captions;

namespace Vitrine.Formats.Tests;

/// <summary>
/// The same caption files read by two general-purpose packages: webvtt-parser 2.2.0 for WebVTT, subtitle 4.2.2 for SubRip. What they read
/// is kept beside the files, with the script that wrote it:
/// tests/references/captions/make.mjs.
/// </summary>
public sealed partial class CaptionsReferenceTests
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "references", "captions");

    [Theory]
    [InlineData("kiosk-voices.vtt")]
    [InlineData("windows-lines.vtt")]
    [InlineData("broken-times.vtt")]
    public void Cues_of_webvtt_are_those_that_the_package_reads(string file)
    {
        var (cues, _) = WebVtt.Cues(Text(file));
        // The package sorts by time, and leaves the semicolon of an entity standing.
        var ours = cues.OrderBy(c => c.BeginMs).Select(c => (c.BeginMs, c.EndMs, Said(c.Parts)));
        Assert.Equal(
            Expected(file).Select(c => (c.Begin, c.End, Said(c.Parts.Select(p => (p.Voice, Semicolon().Replace(p.Words, "$1")))))),
            ours
        );
    }

    [Theory]
    [InlineData("two-people.srt")]
    [InlineData("windows-lines.srt")]
    public void Cues_of_subrip_are_those_that_the_package_reads(string file)
    {
        var cues = SubRip.Cues(Text(file));
        // The package leaves the tags of fonts and places in the words.
        Assert.Equal(
            Expected(file).Select(c => (c.Begin, c.End, Said(c.Parts.Select(p => (p.Voice, Dressing().Replace(p.Words, "")))))),
            cues.Select(c => (c.BeginMs, c.EndMs, Said(c.Parts)))
        );
    }

    private static string Text(string file) => Encoding.UTF8.GetString(File.ReadAllBytes(Path.Combine(Folder, file)));

    private static IReadOnlyList<Reference> Expected(string file) =>
        JsonSerializer.Deserialize<IReadOnlyList<Reference>>(File.ReadAllText(Path.Combine(Folder, file + ".json")))!;

    private static string Said(IEnumerable<(string? Voice, string Words)> parts) =>
        string.Join(" | ", parts.Select(p => $"{p.Voice}: {Spaces().Replace(p.Words, " ").Trim()}"));

    private sealed record Reference(
        [property: JsonPropertyName("begin")] int Begin,
        [property: JsonPropertyName("end")] int End,
        [property: JsonPropertyName("parts")] IReadOnlyList<Voiced> Parts
    );

    private sealed record Voiced([property: JsonPropertyName("voice")] string? Voice, [property: JsonPropertyName("words")] string Words);

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    [GeneratedRegex(@"([&<>\u200F\u00A0 ]);")]
    private static partial Regex Semicolon();

    [GeneratedRegex(@"<[^>]+>|\{\\[^}]*\}")]
    private static partial Regex Dressing();
}
