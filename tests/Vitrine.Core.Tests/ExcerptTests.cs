using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class ExcerptTests
{
    private static readonly string Long = string.Join(' ', Enumerable.Range(100, 200).Select(i => $"word{i}"));

    [Fact]
    public void Around_a_place_it_is_cut_between_words_and_points_at_the_same_words()
    {
        var at = Long.IndexOf("word200", StringComparison.Ordinal);
        var excerpt = Excerpt.Around(Long, [new TextRange(at, at + 7)]);
        Assert.Equal("word200", excerpt.Marks.Single().Of(excerpt.Words));
        Assert.StartsWith("word193 ", excerpt.Words);
        Assert.EndsWith(" word216", excerpt.Words);
        Assert.Equal(excerpt.Words, Long.Substring(excerpt.Start, excerpt.Words.Length));
    }

    [Fact]
    public void It_is_where_the_most_different_words_are()
    {
        var text = $"kiosk kiosk {Long} ticket {Long} ticket at the kiosk";
        var marks = System
            .Text.RegularExpressions.Regex.Matches(text, "kiosk|ticket")
            .Select(m => new TextRange(m.Index, m.Index + m.Length))
            .ToList();
        Assert.EndsWith("ticket at the kiosk", Excerpt.Around(text, marks).Words);
        Assert.StartsWith("kiosk kiosk", Excerpt.Around(text, marks[..3]).Words);
    }

    [Fact]
    public void A_short_text_is_shown_whole_and_without_marks_its_beginning()
    {
        Assert.Equal("A short one.", Excerpt.Around("A short one.", [new TextRange(2, 7)]).Words);
        Assert.StartsWith("word100 word101", Excerpt.Around(Long, []).Words);
    }

    [Fact]
    public void One_endless_word_and_a_pair_of_surrogates_at_the_edge_are_no_trouble()
    {
        var endless = new string('x', 500);
        var excerpt = Excerpt.Around(endless, [new TextRange(200, 210)]);
        Assert.Equal(new string('x', 10), excerpt.Marks.Single().Of(excerpt.Words));
        var ships = string.Concat(Enumerable.Repeat("\U0001F6A2", 200));
        Assert.False(char.IsHighSurrogate(Excerpt.Around("x" + ships, [new TextRange(0, 1)]).Words[^1]));
    }
}
