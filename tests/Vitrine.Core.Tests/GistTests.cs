using System.Globalization;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class GistTests
{
    private static string References(string file) => Path.Combine(AppContext.BaseDirectory, "references", "quotes", file);

    private static List<(string Sentence, double Rank)> Talk() =>
        [
            .. File.ReadLines(References("gist.csv"))
                .Skip(1)
                .Select(line => line.Split('\t'))
                .Select(f => (f[0], double.Parse(f[1], CultureInfo.InvariantCulture))),
        ];

    /// <summary>
    /// The ranks of whole sentences, made by tests/references/quotes/gist.py with scikit-learn 1.2.1 (TfidfVectorizer, over stems that are
    /// written into it by hand) and networkx 2.8.8 (pagerank). Of each part the one with the highest rank there is the one chosen here.
    /// </summary>
    [Fact]
    public void Of_each_part_it_takes_the_sentence_that_a_graph_package_ranks_highest()
    {
        var talk = Talk();
        var text = string.Join(' ', talk.Select(t => t.Sentence));
        var gist = Gist.Of(text, [new TurnOf(new TextRange(0, text.Length), false, null)]);
        var many = talk.Count / 4;
        var expected = Enumerable
            .Range(0, many)
            .Select(part => talk[(part * talk.Count / many)..((part + 1) * talk.Count / many)].MaxBy(t => t.Rank).Sentence);
        Assert.Equal(expected, gist.Select(g => g.Range.Of(text)));
        Assert.All(gist, g => Assert.NotEmpty(g.Ties));
    }

    private static IReadOnlyList<GistSentence> Of(string text, params (string Words, bool IsTeam)[] turns) =>
        Gist.Of(
            text,
            [
                .. turns.Select(t => new TurnOf(
                    new TextRange(
                        text.IndexOf(t.Words, StringComparison.Ordinal),
                        text.IndexOf(t.Words, StringComparison.Ordinal) + t.Words.Length
                    ),
                    t.IsTeam,
                    null
                )),
            ]
        );

    [Fact]
    public void What_the_team_says_is_no_gist_and_neither_is_what_is_read_as_quickly()
    {
        var team = string.Concat(Enumerable.Repeat("Tell me more about the boat and the quay and the winter. ", 9)).Trim();
        var said = string.Concat(Enumerable.Range(0, 8).Select(i => $"The boat waits at the quay number {i} in the winter. ")).Trim();
        var text = $"{team}\n{said}";
        var gist = Of(text, (team, true), (said, false));
        Assert.Equal(2, gist.Count);
        Assert.All(gist, g => Assert.Equal(1, g.Turn));
        Assert.Empty(Of(text, (team, true)));
        Assert.Empty(Gist.Of("", []));
        Assert.Empty(Of("Yes. No. Perhaps. The boat is late again today.", ("Yes. No. Perhaps. The boat is late again today.", false)));
    }

    [Fact]
    public void The_end_is_not_lost_to_a_talkative_beginning_and_nothing_is_said_twice()
    {
        var begins = string.Concat(Enumerable.Range(0, 20).Select(i => $"The boat is late at the quay on day {i} again. "));
        var ends = string.Concat(Enumerable.Range(0, 8).Select(i => $"My ticket has a name and the house of {i} shares it. ")).Trim();
        var text = begins + ends;
        var gist = Of(text, (text, false));
        Assert.Equal(7, gist.Count);
        Assert.Equal(gist.OrderBy(g => g.Range.Start), gist);
        Assert.Contains(gist, g => g.Range.Of(text).Contains("ticket", StringComparison.Ordinal));
    }
}
