using FsCheck.Xunit;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class ShapedTextTests
{
    [Fact]
    public void Blocks_stand_apart_and_items_and_rows_close_together()
    {
        var built = new ShapedText();
        built.Begin(BlockKind.Heading, 1);
        built.Add("Quay");
        built.Begin(BlockKind.ListItem, 1, "•");
        built.Add("one");
        built.Begin(BlockKind.ListItem, 1, "•");
        built.Add("two");
        built.Begin(BlockKind.TableRow);
        built.NextCell();
        built.Add("a");
        built.NextCell();
        built.NextCell();
        built.Add("c\nstill c");
        var (text, shape) = built.Done()!.Value;
        Assert.Equal("Quay\n\none\ntwo\n\na\tc still c", text);
        Assert.Equal([(0, "a"), (2, "c still c")], shape.Blocks[^1].Cells!.Select(c => (c.Column, c.Words.Of(text))));
    }

    [Fact]
    public void A_block_without_words_leaves_nothing_behind()
    {
        var built = new ShapedText();
        built.Begin(BlockKind.Paragraph);
        built.Add("one");
        built.Begin(BlockKind.Heading, 2);
        built.Add("  ");
        built.Begin(BlockKind.Paragraph);
        built.Add("two");
        var (text, shape) = built.Done()!.Value;
        Assert.Equal("one\n\ntwo", text);
        Assert.Equal(2, shape.Blocks.Count);
    }

    [Fact]
    public void Nothing_at_all_is_nothing() => Assert.Null(new ShapedText().Done());

    [Fact]
    public void Runs_of_one_look_are_one_and_positions_follow_a_joined_accent()
    {
        var built = new ShapedText();
        built.Add("cafe", bold: true);
        // The accent comes as a run of its own, and becomes one letter with the one before (Unicode Standard Annex 15).
        built.Add("\u0301 closed", bold: true);
        built.Add(", ", italic: false);
        built.Add("again", italic: true);
        var (text, shape) = built.Done()!.Value;
        Assert.Equal("café closed, again", text);
        Assert.Equal(["café closed", "again"], shape.Emphases.Select(e => e.Words.Of(text)));
    }

    [Fact]
    public void A_page_begins_with_its_first_words()
    {
        var built = new ShapedText();
        built.Page(1);
        built.Add("one");
        built.Page(2);
        built.Page(3);
        built.Add("three");
        var (text, shape) = built.Done()!.Value;
        Assert.Equal([1, 2, 3], shape.Pages.Select(p => p.Number));
        Assert.Equal(3, shape.PageAt(text.IndexOf("three", StringComparison.Ordinal)));
        Assert.Equal(1, shape.PageAt(2));
    }

    [Property(MaxTest = 200)]
    public bool Whatever_is_added_the_text_is_canonical_and_every_block_lies_in_it_in_order(string?[] words, bool bold)
    {
        var built = new ShapedText();
        for (var i = 0; i < words.Length; i++)
        {
            built.Begin((BlockKind)(i % 4), 1);
            if (i % 4 == (int)BlockKind.TableRow)
                built.NextCell();
            built.Add(words[i] ?? "", bold);
        }
        if (built.Done() is not { } done)
            return true;
        var (text, shape) = done;
        var at = 0;
        foreach (var block in shape.Blocks)
        {
            if (block.Words.Start < at || block.Words.End > text.Length)
                return false;
            at = block.Words.End;
        }
        return CanonicalText.From(text) == text && shape.Emphases.All(e => e.Words.End <= text.Length);
    }
}
