using System.Text;
using FsCheck.Xunit;
using Vitrine.Core.Text;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats.Tests;

public class TextFileTests
{
    static TextFileTests() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    private const string Words =
        "The fellow from the café came out – “they’ve called it”. Naïve, she said, à la carte. It’s always the box, and the café knew.";

    public static TheoryData<string, byte[]> Encoded() =>
        new()
        {
            { "UTF-8", new UTF8Encoding(false).GetBytes(Words) },
            { "UTF-8 with a mark", [0xEF, 0xBB, 0xBF, .. Encoding.UTF8.GetBytes(Words)] },
            { "UTF-16 little-endian with a mark", [0xFF, 0xFE, .. Encoding.Unicode.GetBytes(Words)] },
            { "UTF-16 big-endian with a mark", [0xFE, 0xFF, .. Encoding.BigEndianUnicode.GetBytes(Words)] },
            { "UTF-16 little-endian", Encoding.Unicode.GetBytes(Words) },
            { "UTF-16 big-endian", Encoding.BigEndianUnicode.GetBytes(Words) },
            { "UTF-32 with a mark", [0xFF, 0xFE, 0, 0, .. Encoding.UTF32.GetBytes(Words)] },
            { "Windows-1252", Encoding.GetEncoding(1252).GetBytes(Words) },
        };

    [Theory]
    [MemberData(nameof(Encoded))]
    public void Reads_the_encodings_that_researchers_have(string encoding, byte[] bytes) =>
        Assert.True(TextFile.Read(bytes).Text == Words, $"{encoding}: {TextFile.Read(bytes).Text}");

    [Fact]
    public void Says_when_it_had_to_guess()
    {
        Assert.Contains("windows-1252", Assert.Single(TextFile.Read(Encoding.GetEncoding(1252).GetBytes(Words)).Remarks));
        Assert.Empty(TextFile.Read(Encoding.UTF8.GetBytes(Words)).Remarks);
    }

    [Fact]
    public void Emoji_and_right_to_left_text_come_through_with_their_turns()
    {
        var read = TextFile.Read(Encoding.UTF8.GetBytes("Ida: \U0001F6A2?\r\nWren: שלום, yes\r\nIda: So.\r\nWren: \U0001F44D"));
        Assert.Equal(["\U0001F6A2?", "שלום, yes", "So.", "\U0001F44D"], read.Turns.Select(t => t.Words.Of(read.Text)));
    }

    [Fact]
    public void A_binary_file_is_refused_whatever_its_name_says()
    {
        byte[] picture = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 0, 0, 0, 0x0D];
        Assert.Contains("not a text file", Assert.Throws<UnreadableException>(() => TextFile.Read(picture)).Message);
        Assert.Throws<UnreadableException>(() => TextFile.Read([.. Enumerable.Range(1, 400).Select(i => (byte)(i % 32))]));
    }

    [Theory]
    [InlineData("")]
    [InlineData(" \n\t\r\n ")]
    public void Nothing_to_read_is_refused(string pasted) => Assert.Throws<UnreadableException>(() => TextFile.Read(pasted));

    [Property]
    public bool Any_text_survives_utf_8(string? raw)
    {
        var text = CanonicalText.From(raw ?? "").Trim('\n');
        if (string.IsNullOrWhiteSpace(text) || text.Any(char.IsControl))
            return true;
        return TextFile.Read([0xEF, 0xBB, 0xBF, .. Encoding.UTF8.GetBytes(text)]).Text == text;
    }
}

public class SourceFileTests
{
    [Fact]
    public void Another_kind_of_file_is_refused_with_what_can_be_read() =>
        Assert.Contains(".vtt", Assert.Throws<UnreadableException>(() => SourceFile.Read("talk.mov", new MemoryStream([1, 2, 3]))).Message);

    [Fact]
    public void An_empty_file_is_refused() =>
        Assert.Contains("empty", Assert.Throws<UnreadableException>(() => SourceFile.Read("notes.txt", new MemoryStream())).Message);

    [Fact]
    public void The_ending_chooses_the_reader_in_any_case()
    {
        Assert.Equal(
            "Sorrel",
            SourceFile.Read("A.VTT", new MemoryStream("WEBVTT\n\n00:01.000 --> 00:02.000\n<v Sorrel>Aye."u8.ToArray())).Turns[0].Speaker
        );
        Assert.Equal("Notes", SourceFile.Read("notes.md", new MemoryStream("# Notes"u8.ToArray())).Text);
    }

    private static readonly string[] Talk =
    [
        .. Enumerable
            .Range(0, 60)
            .SelectMany(i => new[] { $"Ida: What was it on day {i}?", $"Wren: On day {i} it was off, and", "nobody had told us a thing." }),
    ];

    /// <summary>As prints number lines: each, each fifth, anew on each page, and on lines of their own.</summary>
    [Theory]
    [InlineData(1, int.MaxValue, false)]
    [InlineData(5, int.MaxValue, false)]
    [InlineData(10, int.MaxValue, false)]
    [InlineData(1, 38, false)]
    [InlineData(5, 40, false)]
    [InlineData(1, int.MaxValue, true)]
    public void Numbers_of_lines_that_a_print_leaves_are_left_out(int each, int onPage, bool alone)
    {
        var numbered = Talk.Select((line, i) => (i % onPage) + 1 is var n && n % each == 0 ? $"{n}{(alone ? "\n" : "  ")}{line}" : line);
        var read = TextFile.Read(string.Join('\n', numbered));
        Assert.Equal(120, read.Turns.Count);
        Assert.Equal(["Ida", "Wren"], read.Turns.Select(t => t.Speaker).Distinct());
        Assert.Contains("On day 59 it was off, and", read.Text, StringComparison.Ordinal);
        Assert.DoesNotMatch("(?m)^ *\\d", read.Text);
        Assert.Contains("Numbers of lines", Assert.Single(read.Remarks), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("1 bread\n2 milk\n3 hens")] // a list
    [InlineData("2019 was late\n2020 was later\n2021 was off")]
    public void Numbers_that_are_words_stay(string text) => Assert.Equal(text, TextFile.Read(text).Text);

    [Fact]
    public void Numbers_that_come_in_no_even_steps_stay()
    {
        var text = string.Join('\n', Enumerable.Range(0, 60).Select(i => $"{(i * 7 % 50) + 1} people waited at stop {i}."));
        Assert.Equal(text, TextFile.Read(text).Text);
    }
}
