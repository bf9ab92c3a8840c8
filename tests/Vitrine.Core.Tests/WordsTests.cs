using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class WordsTests
{
    private static string[] Read(string text) => [.. Words.In(text, 0, text.Length).Select(w => w.Of(text))];

    [Theory]
    [InlineData("Can't pay 1,000.50!", "Can't", "pay", "1,000.50")]
    [InlineData("“It’s off,” said P03 at 10:30.", "It’s", "off", "said", "P03", "at", "10", "30")]
    [InlineData("e-mail to ferry@vitrine.example", "e", "mail", "to", "ferry", "vitrine.example")]
    [InlineData("the cafe\u0301 … snake_case", "the", "cafe\u0301", "snake_case")]
    [InlineData("船は来ない", "船", "は", "来", "な", "い")]
    // Half-width katakana with its voicing sign, Hebrew with geresh, and Arabic digits with the decimal sign: a word each.
    [InlineData("ﾊﾞｽ ｶﾞ", "ﾊﾞｽ", "ｶﾞ")]
    [InlineData("ג׳ירף צ׳יפס", "ג׳ירף", "צ׳יפס")]
    [InlineData("١٢٫٥ ٪", "١٢٫٥")]
    [InlineData("time\u00ADtable", "time\u00ADtable")]
    [InlineData(" 😀 — ... ___ ")]
    public void Words_are_what_stands_between_spaces_and_punctuation(string text, params string[] words) => Assert.Equal(words, Read(text));

    /// <summary>
    /// WordBreakTest.txt of the Unicode Character Database 15.0 (UAX #29); of its segments those that hold a letter or a digit.
    /// Departures: straight quotes are no part of a Hebrew word (they quote far more often than they are geresh or gershayim), and a
    /// picture joined to a letter is no part of its word.
    /// </summary>
    [Fact]
    public void The_test_data_of_the_annex_is_followed_but_for_named_departures()
    {
        var path = Path.Combine(AppContext.BaseDirectory, "references", "words", "WordBreakTest.txt");
        var read = 0;
        var departures = new List<string>();
        foreach (var line in File.ReadLines(path).Select(l => l.Split('#')[0].Trim()).Where(l => l.Length > 0))
        {
            read++;
            var parts = line.Split('÷', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(part => string.Concat(part.Split(" × ").Select(code => char.ConvertFromUtf32(Convert.ToInt32(code, 16)))))
                .ToList();
            var wanted = parts.Where(p => p.Any(char.IsLetterOrDigit));
            var ours = Read(string.Concat(parts));
            if (!ours.SequenceEqual(wanted))
                departures.Add(line);
        }
        Assert.Equal(1823, read);
        Assert.Equal(6, departures.Count);
        Assert.All(departures, d => Assert.Matches("05D0.* (0027|0022)|200D × (1F6D1|2701)", d));
    }
}
