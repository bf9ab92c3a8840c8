using System.Globalization;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class SentencesTests
{
    private static string Folder => Path.Combine(AppContext.BaseDirectory, "references", "sentences");

    private static string[] Read(string text) =>
        text.Length == 0 ? [] : [.. Sentences.In(text, new TextRange(0, text.Length)).Select(s => s.Of(text))];

    [Fact]
    public void Each_case_written_by_hand_is_read_as_written()
    {
        var cases = File.ReadLines(Path.Combine(Folder, "cases.txt")).Where(l => l.Length > 0 && l[0] != '#').ToList();
        Assert.True(cases.Count >= 200, $"{cases.Count} cases");
        var wrong = cases
            .Select(c => c.Replace("\\n", "\n", StringComparison.Ordinal))
            .Select(c =>
                (
                    Wanted: string.Join('|', c.Split('|').Select(s => s.Trim())),
                    Read: string.Join('|', Read(c.Replace("|", "", StringComparison.Ordinal)))
                )
            )
            .Where(c => c.Wanted != c.Read);
        Assert.Empty(wrong.Select(c => c.Read + "   instead of   " + c.Wanted));
    }

    /// <summary>
    /// SentenceBreakTest.txt of the Unicode Character Database 15.0 (UAX #29). Departures: a mark with nothing behind it but the next
    /// word ends no sentence ("list.txt", "vitrine.example", "!x"), except in scripts that write without spaces; and an accent that opens a
    /// line by itself, over no letter, is looked past, as accents are everywhere.
    /// </summary>
    [Fact]
    public void The_test_data_of_the_annex_is_followed_but_for_named_departures()
    {
        var departures = new List<string>();
        var read = 0;
        foreach (var line in File.ReadLines(Path.Combine(Folder, "SentenceBreakTest.txt")).Select(l => l.Split('#')[0].Trim()))
        {
            if (line.Length == 0)
                continue;
            read++;
            var parts = line.Split('÷', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(part => string.Concat(part.Split(" × ").Select(code => char.ConvertFromUtf32(Convert.ToInt32(code, 16)))))
                .ToList();
            if (!Read(string.Concat(parts)).SequenceEqual(parts.Select(p => p.Trim()).Where(p => p.Length > 0)))
                departures.Add(string.Concat(parts));
        }
        Assert.Equal(502, read);
        // Each by itself, so that one that is lost does not hide one that is gained.
        Assert.Equal(
            File.ReadLines(Path.Combine(Folder, "departures.txt")).Where(l => l.Length > 0 && l[0] != '#'),
            departures.Select(d => string.Join(' ', d.EnumerateRunes().Select(r => r.Value.ToString("X4", CultureInfo.InvariantCulture))))
        );
        Assert.All(departures, text => Assert.Matches(@"[.!][)’\p{Mn}\p{Cf}]*[^\s\p{Mn}\p{Cf}.!)’]|\n\p{Cf}*\p{Mn}", text));
    }

    [Fact]
    public void Sentences_are_in_order_and_leave_no_word_out()
    {
        var random = new Random(20261126);
        const string letters = "aA1 .!?…\n\"”“()[]-•😀é\u0301\u200f。א";
        for (var n = 0; n < 2_000; n++)
        {
            var text = string.Concat(Enumerable.Range(0, random.Next(1, 60)).Select(_ => letters[random.Next(letters.Length)]));
            var start = random.Next(text.Length);
            if (TextRange.Tidy(text, start, random.Next(start + 1, text.Length + 1)) is not { } within)
                continue;
            var found = Sentences.In(text, within);
            Assert.Equal(
                within.Of(text).Where(c => !char.IsWhiteSpace(c)),
                found.SelectMany(s => s.Of(text)).Where(c => !char.IsWhiteSpace(c))
            );
            Assert.All(found.Zip(found.Skip(1)), pair => Assert.True(pair.First.End <= pair.Second.Start));
        }
    }

    [Theory]
    [InlineData("If it came before, I'd not have gone.", "If it came before,|I'd not have gone.")]
    [InlineData("The box (it was heavy) stayed: always the box.", "The box|(it was heavy)|stayed:|always the box.")]
    [InlineData("I was — no, Ida was — late", "I was —|no,|Ida was —|late")]
    [InlineData("It cost 1,000 at 10:30.", "It cost 1,000 at 10:30.")]
    [InlineData("(Nobody.)", "(Nobody.)")]
    public void Clauses_end_at_what_is_written_between_them(string sentence, string wanted) =>
        Assert.Equal(wanted, string.Join('|', Clauses.In(sentence, new TextRange(0, sentence.Length)).Select(c => c.Of(sentence))));
}
