using System.IO.Compression;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class EnglishStemTests
{
    /// <summary>Against the reference program of Snowball, version 2.2.0, over the words of an American dictionary (stems.sh).</summary>
    [Fact]
    public void Every_word_of_a_dictionary_has_the_stem_of_the_reference_program()
    {
        var path = Path.Combine(AppContext.BaseDirectory, "references", "stems", "english.tsv.gz");
        using var reader = new StreamReader(new GZipStream(File.OpenRead(path), CompressionMode.Decompress));
        var words = 0;
        var wrong = new List<string>();
        while (reader.ReadLine() is { } line)
        {
            words++;
            var (word, stem) = (line.Split('\t')[0], line.Split('\t')[1]);
            if (EnglishStem.Of(word) is var ours && ours != stem)
                wrong.Add($"{word}: {ours}, not {stem}");
        }
        Assert.True(words > 90_000, $"{words} words");
        Assert.True(wrong.Count == 0, $"{wrong.Count}: {string.Join("; ", wrong.Take(20))}");
    }

    [Theory]
    [InlineData("", "")]
    [InlineData("ok", "ok")]
    [InlineData("'tis", "tis")]
    [InlineData("año", "año")]
    [InlineData("10.30", "10.30")]
    public void What_is_no_english_word_is_left_as_it_stands(string word, string stem) => Assert.Equal(stem, EnglishStem.Of(word));
}
