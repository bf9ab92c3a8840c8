using System.Text.Json;
using System.Text.RegularExpressions;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Text;

namespace Vitrine.Bench;

/// <summary>Words of a text of the demo that carry a tag.</summary>
internal sealed record DemoMark(int Text, TextRange Words, string Tag);

/// <summary>What is tagged in a study of the demo, read from its files: those with words.</summary>
internal static class DemoMarks
{
    private static readonly JsonDocumentOptions Readable = new() { CommentHandling = JsonCommentHandling.Skip, AllowTrailingCommas = true };

    public static (Vocabulary Vocabulary, List<IndexedText> Texts, List<DemoMark> Marks) In(string folder)
    {
        var (vocabulary, texts, marks) = (new Vocabulary(), new List<IndexedText>(), new List<DemoMark>());
        foreach (var file in Directory.GetFiles(folder, "*.marks.json").Order(StringComparer.Ordinal))
        {
            var source = new[] { ".txt", ".vtt" }
                .Select(e => file.Replace(".marks.json", e, StringComparison.Ordinal))
                .FirstOrDefault(File.Exists);
            if (source is null)
                continue;
            var lines = File.ReadLines(source).Where(l => !l.Contains("-->") && !l.StartsWith("WEBVTT", StringComparison.Ordinal));
            var text = Regex.Replace(string.Join('\n', lines), "<[^>]*>", "");
            texts.Add(IndexedText.Of(text, TurnsOf(text, texts.Count), vocabulary));
            using var json = JsonDocument.Parse(File.ReadAllText(file), Readable);
            foreach (var mark in json.RootElement.EnumerateArray())
            {
                if (!mark.TryGetProperty("quote", out var quote) || !mark.TryGetProperty("tags", out var tags))
                    continue;
                var start = text.IndexOf(quote.GetString()!, StringComparison.Ordinal);
                if (start < 0)
                    continue;
                var words = new TextRange(start, start + quote.GetString()!.Length);
                marks.AddRange(tags.EnumerateArray().Select(t => new DemoMark(texts.Count - 1, words, t.GetString()!)));
            }
        }
        return (vocabulary, texts, marks);
    }

    /// <summary>Which stretches of texts stand near each other.</summary>
    public static Surroundings Around(IReadOnlyList<IndexedText> texts, IReadOnlyList<(int Text, TextRange Words)> places) =>
        new(
            [.. places.Select(p => p.Text)],
            [
                .. places.Select(p =>
                {
                    var turns = texts[p.Text].Turns;
                    var turn = turns.Count - 1;
                    while (turn >= 0 && turns[turn].Words.Start > p.Words.Start)
                        turn--;
                    return turn < 0 ? (int?)null : texts.Take(p.Text).Sum(t => t.Turns.Count) + turn;
                }),
            ]
        );

    /// <summary>The family and the definition of each shared tag of the demo.</summary>
    public static Dictionary<string, (string Family, string Definition)> Families()
    {
        using var json = JsonDocument.Parse(File.ReadAllText(Path.Combine("demo", "workspace.json")), Readable);
        return json
            .RootElement.GetProperty("tagSet")
            .EnumerateArray()
            .Where(f => f.TryGetProperty("tags", out _))
            .SelectMany(f =>
                f.GetProperty("tags")
                    .EnumerateArray()
                    .Select(t =>
                        (
                            Name: t.GetProperty("name").GetString()!,
                            Family: f.GetProperty("name").GetString()!,
                            Definition: t.TryGetProperty("definition", out var d) ? d.GetString()! : ""
                        )
                    )
            )
            .ToDictionary(t => t.Name, t => (t.Family, t.Definition));
    }

    private static List<TurnOf> TurnsOf(string text, int place)
    {
        var at = 0;
        var turns = new List<TurnOf>();
        foreach (var line in text.Split('\n'))
        {
            if (line.Trim().Length > 0)
                turns.Add(
                    new TurnOf(
                        new TextRange(at, at + line.Length),
                        line.StartsWith("Ida", StringComparison.Ordinal),
                        (ParticipantId)(place + 1L)
                    )
                );
            at += line.Length + 1;
        }
        return turns;
    }
}
