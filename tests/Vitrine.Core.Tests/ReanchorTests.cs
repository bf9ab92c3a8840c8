using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class ReanchorTests
{
    private const string Talk =
        "Tom: How did you hear?\n\nWren: I herd it on the quay at noon. Nobody tolled us befor.\n\nTom: And then?\n\nWren: We "
        + "waited in the rain, all of us.";

    private static Anchored Corrected(string before, string after, string words) =>
        Reanchor.Between(before, after).Of(Place(before, words));

    private static TextRange Place(string text, string words) =>
        text.IndexOf(words, StringComparison.Ordinal) is >= 0 and var at
            ? new TextRange(at, at + words.Length)
            : throw new ArgumentException(words);

    [Theory]
    [InlineData("herd", "heard", "on the quay", "on the quay", AnchorFate.Same)]
    [InlineData("herd", "heard", "I herd it", "I heard it", AnchorFate.Changed)]
    [InlineData("tolled us befor", "told us before", "Nobody tolled us befor.", "Nobody told us before.", AnchorFate.Changed)]
    [InlineData("tolled us befor", "told us before", "tolled", "told", AnchorFate.Changed)]
    [InlineData("tolled us befor", "told us before", "us", "us", AnchorFate.Same)]
    [InlineData("I herd it", "Well, I heard it then", "I herd it on", "I heard it then on", AnchorFate.Changed)]
    [InlineData("How did you hear?", "How did you come to hear of it?", "We waited in the rain", "We waited in the rain", AnchorFate.Same)]
    [InlineData(", all of us", "", "We waited in the rain", "We waited in the rain", AnchorFate.Same)]
    [InlineData("in the rain", "in  the\nrain", "waited in the rain", "waited in  the\nrain", AnchorFate.Changed)]
    public void A_stretch_follows_its_words(string was, string now, string marked, string words, AnchorFate fate)
    {
        var after = Talk.Replace(was, now);
        var found = Corrected(Talk, after, marked);
        Assert.Equal((words, fate), (found.Range.Of(after), found.Fate));
    }

    [Fact]
    public void Words_taken_out_are_gone_and_leave_a_place_nearby()
    {
        var after = Talk.Replace(" Nobody tolled us befor.", "");
        var found = Corrected(Talk, after, "Nobody tolled us befor.");
        Assert.Equal(AnchorFate.Gone, found.Fate);
        Assert.Equal("noon", found.Range.Of(after));
    }

    [Fact]
    public void Words_moved_elsewhere_are_found_there()
    {
        var after = Talk.Replace(" Nobody tolled us befor.", "").Replace("all of us.", "all of us. Nobody tolled us befor.");
        var found = Corrected(Talk, after, "Nobody tolled us befor.");
        Assert.Equal(("Nobody tolled us befor.", AnchorFate.Same), (found.Range.Of(after), found.Fate));
        Assert.True(found.Range.Start > after.IndexOf("rain", StringComparison.Ordinal));
    }

    [Fact]
    public void The_same_words_said_elsewhere_are_another_place()
    {
        const string before = "The boat was late. We went home. The boat was late.";
        const string after = "The ferry came early. We went home. The boat was late.";
        var found = Reanchor.Between(before, after).Of(new TextRange(0, 18));
        Assert.NotEqual(AnchorFate.Same, found.Fate);
        Assert.Equal("The ferry came early.", found.Range.Of(after));
    }

    [Fact]
    public void A_doubled_word_taken_out_beside_a_stretch_leaves_it_whole()
    {
        var found = Corrected("We sat on on the quay", "We sat on the quay", "on the quay");
        Assert.Equal(AnchorFate.Same, found.Fate);
    }

    [Fact]
    public void Two_hundred_typing_errors_leave_every_stretch_on_its_words()
    {
        var words = Enumerable.Range(0, 8_000).Select(i => $"w{i % 900}x{i % 7}").ToList();
        var before = string.Join(' ', words.Select((w, i) => i % 40 == 7 ? "q" + w : w));
        var after = string.Join(' ', words);
        var correction = Reanchor.Between(before, after);
        Assert.Equal(200, correction.Changes);
        var starts = before
            .Split(' ')
            .Aggregate(
                (List: new List<int>(), At: 0),
                (s, w) =>
                {
                    s.List.Add(s.At);
                    return (s.List, s.At + w.Length + 1);
                }
            )
            .List;
        for (var i = 0; i + 12 < words.Count; i += 11)
        {
            var found = correction.Of(new TextRange(starts[i], starts[i + 12] - 1));
            Assert.Equal(string.Join(' ', words.Skip(i).Take(12)), found.Range.Of(after));
            Assert.Equal(Enumerable.Range(i, 12).Any(w => w % 40 == 7) ? AnchorFate.Changed : AnchorFate.Same, found.Fate);
        }
    }

    [Fact]
    public void An_emoji_is_never_cut_in_two()
    {
        var found = Corrected("a boat 🛥 came", "a boat 🛶 came", "boat 🛥 came");
        Assert.Equal("boat 🛶 came", found.Range.Of("a boat 🛶 came"));
    }

    [Theory]
    [InlineData(3_000)]
    [InlineData(30_000)]
    public void Two_texts_that_share_nothing_are_compared_in_bearable_time(int lines)
    {
        var before = string.Join(
            '\n',
            Enumerable.Range(0, lines).Select(i => string.Join(' ', Enumerable.Range(0, 10).Select(w => $"a{(i * 7 + w) % 2_000}")))
        );
        var after =
            string.Join(
                '\n',
                Enumerable.Range(0, lines).Select(i => string.Join(' ', Enumerable.Range(0, 10).Select(w => $"b{(i * 5 + w) % 2_000}")))
            ) + "\nthe one line that is kept";
        var found = Reanchor
            .Between(before + "\nthe one line that is kept", after)
            .Of(new TextRange(before.Length + 5, before.Length + 13));
        Assert.Equal(("one line", AnchorFate.Same), (found.Range.Of(after), found.Fate));
    }

    // Letters and words repeat on purpose: the same edit can then be read in several ways.
    private static readonly Gen<string> Prose = Gen.Elements("a", "aa", "ab", "b", ".", " ", " ", "\n", "on", "the ")
        .ListOf()
        .Select(parts => string.Concat(parts));

    [Property(MaxTest = 2_000)]
    public Property An_edit_outside_never_changes_the_words() =>
        Prop.ForAll(
            Arb.From(
                from left in Prose
                from quote in Prose
                from right in Prose
                from removed in Prose
                from added in Prose
                from inLeft in Gen.Elements(true, false)
                select (left, quote: quote + "a", right, removed, added, inLeft)
            ),
            e =>
            {
                var before = e.inLeft ? e.left + e.removed + e.right + e.quote : e.quote + e.left + e.removed + e.right;
                var after = e.inLeft ? e.left + e.added + e.right + e.quote : e.quote + e.left + e.added + e.right;
                var start = e.inLeft ? before.Length - e.quote.Length : 0;
                var marked = new TextRange(start, start + e.quote.Length);
                var found = Reanchor.Between(before, after).Of(marked);
                return found.Fate == AnchorFate.Same && found.Range.Of(after) == e.quote;
            }
        );

    [Property(MaxTest = 2_000)]
    public Property Known_edits_outside_move_a_stretch_exactly() =>
        Prop.ForAll(
            Arb.From(
                from left in Prose
                from quote in Prose
                from right in Prose
                from addedLeft in Prose
                from addedRight in Prose
                select (left, quote: quote + "a", right, addedLeft, addedRight)
            ),
            e =>
            {
                var before = e.left + e.quote + e.right;
                var end = e.left.Length + e.quote.Length;
                var correction = Reanchor.Through(before, [(0, e.left.Length, e.addedLeft), (end, before.Length, e.addedRight)]);
                var found = correction.Of(new TextRange(e.left.Length, end));
                return correction.After == e.addedLeft + e.quote + e.addedRight
                    && found.Range.Start == e.addedLeft.Length
                    && found.Range.Of(correction.After) == e.quote;
            }
        );

    [Property(MaxTest = 2_000)]
    public Property Nothing_is_dropped_and_everything_stands_inside_the_new_text() =>
        Prop.ForAll(
            Arb.From(
                from before in Prose
                from after in Prose
                from start in Gen.Choose(0, 30)
                from length in Gen.Choose(1, 12)
                select (before: before + "word", after: after + "end", start, length)
            ),
            e =>
            {
                var start = Math.Min(e.start, e.before.Length - 1);
                var marked = new TextRange(start, Math.Min(e.before.Length, start + e.length));
                var found = Reanchor.Between(e.before, e.after).Of(marked);
                return found.Range.End <= e.after.Length
                    && (found.Fate != AnchorFate.Same || found.Range.Of(e.after) == marked.Of(e.before));
            }
        );

    [Property(MaxTest = 1_000)]
    public Property Changes_turn_one_text_into_the_other() =>
        Prop.ForAll(
            Arb.From(from before in Prose from after in Prose select (before, after)),
            e =>
            {
                var changes = TextChanges.Between(e.before, e.after);
                var rebuilt =
                    string.Concat(
                        changes.Select((c, i) => e.before[(i == 0 ? 0 : changes[i - 1].End)..c.Start] + e.after[c.NewStart..c.NewEnd])
                    ) + e.before[(changes.Count == 0 ? 0 : changes[^1].End)..];
                return rebuilt == e.after;
            }
        );
}
