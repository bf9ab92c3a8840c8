using FsCheck.Xunit;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class NumberedLinesTests
{
    [Fact]
    public void Lines_break_at_white_space_and_each_turn_begins_one()
    {
        var words = string.Join(' ', Enumerable.Repeat("nine nine", 9));
        var text = words + "\n" + "short" + "\n\n" + new string('x', 130);
        var second = words.Length + 1;
        var third = second + "short\n\n".Length;
        var starts = NumberedLines.Starts(text, [new(0, second - 1), new(second, second + 5), new(third, text.Length)]);
        Assert.Equal([0, 60, second, third, third + 60, third + 120], starts);
    }

    [Property]
    public bool No_line_is_longer_or_lost(string given)
    {
        var text = CanonicalText.From(given ?? "");
        if (text.Length == 0)
            return NumberedLines.Starts(text, []).Count == 0;
        var starts = NumberedLines.Starts(text, [new TextRange(0, text.Length)]);
        var ends = starts.Skip(1).Append(text.Length).ToList();
        return starts[0] == 0 && starts.Zip(ends).All(l => l.Second > l.First && l.Second - l.First <= NumberedLines.Longest + 1);
    }
}
