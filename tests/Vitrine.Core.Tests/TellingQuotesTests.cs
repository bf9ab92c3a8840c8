using System.Globalization;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class TellingQuotesTests
{
    private static readonly SpokenQuote[] Quay =
    [
        new("I was already standing on the quay when the board said nothing.", 1),
        new("You stand on the quay in the rain and wait, and the board is wrong again.", 1),
        new("The board on the quay says off, and you stand there.", 2),
        new("Nothing on the board, so we stood on the quay for an hour.", 3),
        new("My cousin's hens won a prize at the summer show.", 4),
        new("Yes.", 2),
    ];

    /// <summary>
    /// Made by tests/references/quotes/lexrank.py with scikit-learn 1.2.1 (TfidfVectorizer) and networkx 2.8.8 (pagerank), from Debian.
    /// </summary>
    [Fact]
    public void Centrality_is_what_reference_libraries_compute()
    {
        var cases = File.ReadLines(Path.Combine(AppContext.BaseDirectory, "references", "quotes", "lexrank.csv"))
            .Skip(1)
            .Select(line => line.Split(','))
            .GroupBy(f => f[0])
            .ToList();
        Assert.Equal(4, cases.Count);
        foreach (var texts in cases)
        {
            var ranks = new LexRank([.. texts.Select(f => f[1].Split(' '))]).Centrality;
            foreach (var (rank, f) in ranks.Zip(texts))
                Assert.Equal(double.Parse(f[2], CultureInfo.InvariantCulture), rank, 9);
        }
    }

    [Fact]
    public void Texts_without_terms_are_no_trouble_and_all_together_have_one()
    {
        Assert.Empty(new LexRank([]).Centrality);
        Assert.Equal(
            [0.5, 0.5],
            new LexRank([
                [],
                [],
            ]).Centrality
        );
        Assert.Equal(
            1,
            new LexRank([
                ["a"],
                [],
                ["a", "b"],
            ]).Centrality.Sum(),
            9
        );
    }

    [Fact]
    public void Three_quotes_come_from_three_people_and_tell_what_ties_them()
    {
        var told = TellingQuotes.Of(Quay);
        Assert.Equal([1, 2, 3], told.Telling.Select(t => Quay[t.Place].Person!.Value).Order());
        foreach (var quote in told.Telling)
        {
            Assert.Contains(quote.Ties, w => w is "quay" or "board" or "stand" or "standing" or "stood");
            Assert.InRange(quote.People, 2, 3);
            Assert.All(quote.Ties, w => Assert.Contains(w, Quay[quote.Place].Words));
        }
        Assert.Equal(4, told.Odd!.Place);
        Assert.Equal((0, 0), (told.Odd.SharedWith, told.Odd.People));
    }

    [Fact]
    public void Somebody_is_quoted_twice_only_when_nobody_else_is_left_and_never_with_the_same_words()
    {
        SpokenQuote[] two = [Quay[0], Quay[1], Quay[2], Quay[2] with { Person = 2 }];
        var told = TellingQuotes.Of(two).Telling.Select(t => t.Place).ToList();
        Assert.Equal([1, 2], told.Take(2).Select(p => two[p].Person!.Value).Order());
        Assert.Single(told, p => p is 2 or 3);
    }

    [Fact]
    public void It_is_the_same_each_time_and_few_or_silent_quotes_are_no_trouble()
    {
        Assert.Equivalent(TellingQuotes.Of(Quay), TellingQuotes.Of(Quay));
        Assert.Empty(TellingQuotes.Of([]).Telling);
        Assert.Empty(TellingQuotes.Of([new("", null), new("…", null)]).Telling);
        var one = TellingQuotes.Of([Quay[5]]);
        Assert.Equal([0], one.Telling.Select(t => t.Place));
        Assert.Null(one.Odd);
    }

    [Theory]
    [InlineData("the", true)]
    [InlineData("it's", true)]
    [InlineData("you’ll", true)]
    [InlineData("couldn't", true)]
    [InlineData("quay", false)]
    [InlineData("sister's", false)]
    public void Words_that_tell_little_are_known(string word, bool little) => Assert.Equal(little, StopWords.Has(word));

    /// <summary>Numbers that differ by the order in which they were added are equal, wherever things are ordered by them.</summary>
    [FsCheck.Xunit.Property]
    public void Ties_are_decided_by_place_and_not_by_rounding(byte[] kinds, int seed)
    {
        var random = new Random(seed);
        var values = kinds.Select(k => (k % 4 * 0.25) + ((random.NextDouble() - 0.5) * 1e-13)).ToList();
        var places = Enumerable.Range(0, values.Count).ToList();
        Assert.Equal(places.OrderByDescending(p => kinds[p] % 4), Statistics.InOrder.Descending(places, p => values[p]));
        if (places.Count > 0)
            Assert.Equal(places.MaxBy(p => kinds[p] % 4), Statistics.InOrder.Largest(places, p => values[p]));
        var far = Enumerable.Range(0, 50).Select(_ => random.NextDouble() * 1000).Distinct().ToList();
        Assert.Equal(far.OrderDescending(), Statistics.InOrder.Descending(far, v => v));
    }

    [Fact]
    public void Of_quotes_that_say_it_equally_well_the_first_is_told_however_the_sums_fall()
    {
        // The same words in other orders: their likeness is one number, and its last digits are not.
        string[] words = ["quay", "kiosk", "ticket", "island", "winter", "freight", "cancelled"];
        for (var seed = 0; seed < 40; seed++)
        {
            var random = new Random(seed);
            var quotes = Enumerable
                .Range(0, 8)
                .Select(i => new SpokenQuote(string.Join(' ', words.OrderBy(_ => random.Next())) + (i % 2 == 0 ? " boat" : " lamp"), i))
                .ToList();
            Assert.Equal([0, 1], TellingQuotes.Of(quotes).Telling.Take(2).Select(t => t.Place));
        }
    }
}
