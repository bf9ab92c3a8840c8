using Vitrine.Core.Text;

namespace Vitrine.Formats.Tests;

/// <summary>Prints of several pages (tests/references/prints/make.sh).</summary>
public class PrintTests
{
    private static ReadSource Read(string name)
    {
        using var file = File.OpenRead(Path.Combine(AppContext.BaseDirectory, "references", "prints", name));
        return SourceFile.Read(name, file);
    }

    [Fact]
    public void A_long_talk_keeps_its_turns_over_pages_and_has_no_running_heads()
    {
        var read = Read("long-talk.pdf");
        var spoken = read.Turns.Where(t => t.Speaker is not null).ToList();
        Assert.Equal(122, spoken.Count);
        Assert.Equal(
            [.. Enumerable.Repeat((string[])["Ida", "Sorrel", "Wren"], 40).SelectMany(n => n), "Ida", "Sorrel"],
            spoken.Select(t => t.Speaker)
        );
        Assert.Equal("Boarding without a car", Assert.Single(read.Turns, t => t.Speaker is null).Words.Of(read.Text));
        Assert.DoesNotContain("draft 3", read.Text);
        Assert.DoesNotContain("Page ", read.Text);
        Assert.Contains(read.Remarks, r => r.Contains("“Talks on the quay, draft 3”, “Page 1 of", StringComparison.Ordinal));
        Assert.Equal(BlockKind.Heading, read.Shape!.Blocks[0].Kind);
    }

    [Fact]
    public void Words_broken_at_line_ends_are_whole_and_ligatures_are_letters()
    {
        var text = Read("long-talk.pdf").Text;
        Assert.Contains("They print the timetable anew, and the well-known board, and a gangway is moved.", text);
        Assert.Contains("the ferryman said", text);
        Assert.Contains("The final offer was a different ticket.", text);
    }

    [Fact]
    public void Columns_are_read_one_after_the_other()
    {
        var read = Read("two-columns.pdf");
        Assert.Equal(
            Enumerable.Range(1, 24).Select(n => $"Paragraph {n} says that"),
            read.Turns.Select(t => string.Join(' ', t.Words.Of(read.Text).Split(' ').Take(4)))
        );
    }

    [Fact]
    public void An_appendix_in_two_columns_is_read_one_after_the_other_between_pages_of_one()
    {
        var read = Read("appendix.pdf");
        var paragraphs = read.Turns.Select(t => t.Words.Of(read.Text)).ToList();
        Assert.StartsWith("The report begins with", paragraphs[0]);
        Assert.Equal(
            ["Appendix: what was said", .. Enumerable.Range(1, 8).Select(n => $"Answer {n} says that"), "The end of the"],
            paragraphs.Skip(8).Select((p, i) => i == 0 ? p : string.Join(' ', p.Split(' ').Take(4)))
        );
        Assert.All(paragraphs.Skip(9).Take(8), p => Assert.EndsWith("two hours.", p));
        Assert.EndsWith("in a single one of them.", paragraphs[^1]);
    }

    [Fact]
    public void A_word_that_was_cut_into_two_words_is_whole_and_a_word_made_with_a_hyphen_keeps_it() =>
        Assert.Equal(
            "They ask for a self-service gate, a footpath, a gangway and a well-known face at the gate.",
            Read("appendix.pdf") is var read ? read.Turns[1].Words.Of(read.Text) : ""
        );
}
