using System.Text.Json;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>
/// Corrected texts whose right answers are written into them by hand (tests/references/reanchor/cases.txt), and what a general-purpose
/// package for text quotes, dom-anchor-text-quote 4.0.2, finds in them
/// (found.json, written by make.mjs there). At least as many are found as the package finds, and none wrong.
/// </summary>
public class ReanchorReferenceTests
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "references", "reanchor");
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static TheoryData<string> Names => [.. Cases.Keys];

    private static readonly Dictionary<string, (string Before, TextRange Marked, string After, TextRange? Now)> Cases = File.ReadAllLines(
            Path.Combine(Folder, "cases.txt")
        )
        .Where(line => line.Length > 0 && !line.StartsWith('#'))
        .Chunk(3)
        .ToDictionary(
            c => c[0][3..],
            c => Read(c[1]) is var (before, marked) && Read(c[2]) is var (after, now) ? (before, marked!.Value, after, now) : default
        );

    private static readonly Dictionary<string, (int Start, int End)?> ByThePackage = JsonSerializer
        .Deserialize<List<Found>>(File.ReadAllText(Path.Combine(Folder, "found.json")), Json)!
        .ToDictionary(f => f.Name, f => f.Start is { } start ? (start, f.End!.Value) : ((int, int)?)null);

    [Theory]
    [MemberData(nameof(Names))]
    public void Each_stretch_stands_where_its_words_are(string name)
    {
        var (before, marked, after, now) = Cases[name];
        var found = Reanchor.Between(before, after).Of(marked);
        Assert.Equal(now is null, found.Fate == AnchorFate.Gone);
        if (now is { } right)
            Assert.Equal(right.Of(after), found.Range.Of(after));
        if (now is { } place)
            Assert.Equal(place, found.Range);
    }

    [Fact]
    public void The_package_finds_fewer() =>
        Assert.True(
            Cases.Count(c => Right(c.Value.Now, ByThePackage[c.Key]))
                <= Cases.Count(c =>
                    Reanchor.Between(c.Value.Before, c.Value.After).Of(c.Value.Marked) is var ours
                    && (ours.Fate == AnchorFate.Gone ? c.Value.Now is null : c.Value.Now == ours.Range)
                )
        );

    private static bool Right(TextRange? now, (int Start, int End)? found) =>
        now is { } range ? found == (range.Start, range.End) : found is null;

    private static (string Text, TextRange? Marked) Read(string line)
    {
        line = line.Replace("\\n", "\n");
        var (open, shut) = (line.IndexOf('⟦'), line.IndexOf('⟧'));
        return (line.Replace("⟦", "").Replace("⟧", ""), open < 0 ? null : new TextRange(open, shut - 1));
    }

    private sealed record Found(string Name, int? Start, int? End);
}
