using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class NameMaskTests
{
    private static readonly NamedPerson[] People =
    [
        new("Marnie Quillfeather", "Sorrel"),
        new("Rose O'Dell", "Wren"),
        new("J. $1", "Tansy"),
    ];

    [Theory]
    [InlineData("Marnie Quillfeather said so.", "Sorrel said so.")]
    [InlineData("MARNIE QUILLFEATHER", "Sorrel")]
    [InlineData("I told Marnie, Mrs Quillfeather that is", "I told Sorrel, Mrs Sorrel that is")]
    [InlineData("Marnie's box", "Sorrel's box")]
    [InlineData("Rose came, and a rose grew", "Wren came, and a rose grew")]
    [InlineData("O'Dell and Marnies", "Wren and Sorrels")]
    public void Real_names_give_way_to_pseudonyms(string text, string masked) => Assert.Equal(masked, Applied(text, People));

    /// <summary>Forms in which a name leaves unseen when only its letters as they were entered are looked for.</summary>
    [Theory]
    [InlineData("CÉLESTINE DU BOIS", "#")]
    [InlineData("Celestine du Bois", "#")] // accents left out
    [InlineData("Ce\u0301lestine Du Bois", "#")] // and taken apart
    [InlineData("Ｃéｌｅｓｔｉｎｅ du Bois", "#")] // compatibility forms
    [InlineData("𝐂élestine du Bois", "#")]
    [InlineData("Cé\u00ADles\u200Btine du\u2060 Bois", "#")] // soft hyphens, spaces of no width
    [InlineData("Célestine\u00A0du\u2009Bois", "#")] // any space
    [InlineData("Célestine\ndu   Bois", "#")] // over a line
    [InlineData("Céles-\ntine came", "# came")] // cut by a line
    [InlineData("CelestineDuBois", "#")] // run together
    [InlineData("#celestinedubois92 and so", "##92 and so")] // inside a longer word
    [InlineData("celestine.dubois@post.example", "#@post.example")]
    [InlineData("c.bois@post.example", "c.#@post.example")]
    [InlineData("Célestines box", "#s box")] // genitive with and without a sign
    [InlineData("Célestine’s box, Célestine's", "#’s box, #'s")]
    [InlineData("Jean-Luc O’Hara", "@")] // curly and straight
    [InlineData("Jean Luc O'Hara", "@")]
    [InlineData("JEAN‐LUC OHARA", "@")]
    [InlineData("O'Hara said", "@ said")]
    [InlineData("昨日山本美咲さんが来た", "昨日%さんが来た")] // no spaces between words
    [InlineData("山本さん", "%さん")]
    public void A_name_is_known_in_every_form(string text, string masked) => Assert.Equal(masked, Applied(text, Formed));

    [Theory]
    [InlineData("a celestine sky, Boisterous, du jour, harangue")]
    [InlineData("Jeans, the luck of it, Lucy and O Haralds")]
    [InlineData("He told Luc y the rest")]
    [InlineData("I told Ann a story")]
    [InlineData("山の本")]
    public void What_is_no_name_stays(string text)
    {
        NamedPerson[] people = [.. Formed.Where(p => p.Pseudonym != "@"), new("Anna Lucy-Haralds", "&")];
        Assert.Equal(
            text.Replace("Lucy", "&", StringComparison.Ordinal).Replace("Haralds", "&", StringComparison.Ordinal),
            Applied(text, people)
        );
    }

    private static readonly NamedPerson[] Formed =
    [
        // The first as some keyboards enter it: its accent is a sign of its own.
        new("Ce\u0301lestine du Bois", "#"),
        new("Jean-Luc O'Hara", "@"),
        new("山本 美咲", "%"),
    ];

    [Theory]
    [InlineData("ring 01632 960123", "ring [number]")]
    [InlineData("ring 01632-960 123", "ring [number]")]
    [InlineData("at the BLÜE HOUSE’s door", "at the [house]’s door")]
    [InlineData("at the blu\u0308e\nhouse", "at the [house]")]
    [InlineData("blüe houseboat, 101632 960123", "blüe houseboat, 101632 960123")]
    public void Masked_words_are_known_in_every_form(string text, string masked) =>
        Assert.Equal(
            masked,
            Redaction.Of(
                text,
                new TextRange(0, text.Length),
                Redaction.Merged(NameMask.FindMasked(text, [("01632 960123", "[number]"), ("blüe house", "[house]")]))
            )
        );

    /// <summary>
    /// Names that are words too (from memory), looked for in texts of people who are called otherwise: every find is a false one.
    /// </summary>
    [Fact]
    public void False_finds_are_words_with_a_capital_and_few()
    {
        string[] given =
        [
            "Rose",
            "Will",
            "May",
            "Grace",
            "Hope",
            "Mark",
            "Frank",
            "Bill",
            "Art",
            "Rob",
            "Sue",
            "Dawn",
            "Summer",
            "Faith",
            "Joy",
        ];
        string[] family =
        [
            "Young",
            "King",
            "Long",
            "Brown",
            "Bell",
            "Post",
            "Sailing",
            "Shore",
            "Winter",
            "Field",
            "Day",
            "Bridge",
            "Wood",
            "Hill",
            "Day",
        ];
        NamedPerson[] people = [.. given.Zip(family, (g, f) => new NamedPerson($"{g} {f}", "*"))];
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "Vitrine.slnx")))
            root = Path.GetDirectoryName(root)!;
        var (words, found) = (0, new List<string>());
        foreach (
            var file in Directory
                .EnumerateFiles(Path.Combine(root, "demo"), "*", SearchOption.AllDirectories)
                .Where(f => Path.GetExtension(f) is ".txt" or ".md" or ".vtt")
        )
        {
            var text = File.ReadAllText(file);
            words += text.Split((char[])[' ', '\n'], StringSplitOptions.RemoveEmptyEntries).Length;
            found.AddRange(NameMask.Find(text, people).Select(m => m.Range.Of(text)));
        }
        Assert.All(found, f => Assert.Contains(f, given.Concat(family)));

        // A large made-up text: 200,000 words put together of the demo's words and of parts of the names, one in five with a capital. A
        // part
        // inside of a longer word, or in small letters, is never taken for a name.
        var random = new Random(7);
        string[] pieces = [.. given.Concat(family).Select(n => n.ToLowerInvariant()), "ing", "er", "ly", "un", "over", "s", "man", "ton"];
        var made = string.Join(
            ' ',
            Enumerable
                .Range(0, 200_000)
                .Select(_ => string.Concat(Enumerable.Range(0, random.Next(1, 4)).Select(_ => pieces[random.Next(pieces.Length)])))
                .Select(w => random.Next(5) == 0 ? char.ToUpperInvariant(w[0]) + w[1..] : w)
        );
        var whole = people.Select(p => p.RealName.Replace(" ", "")).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var (asParts, inside) = (0, 0);
        foreach (var place in NameMask.Find(made, people).Select(m => m.Range).Distinct())
        {
            var word = made[
                (made.LastIndexOf(' ', place.Start) + 1)..(made.IndexOf(' ', place.End - 1) is > 0 and var end ? end : made.Length)
            ];
            if (given.Concat(family).Any(n => word == n || word == n + "s") || place.Of(made).Contains(' '))
                asParts++;
            else if (whole.Any(n => word.Contains(n, StringComparison.OrdinalIgnoreCase)))
                inside++;
            else
                Assert.Fail($"“{word}” was taken for a name");
        }
        // One word in sixteen is a part of a name with a capital; one in a hundred and ten holds a whole name run together.
        Assert.Equal((12_663, 1_829), (asParts, inside));
        // Six in 10,619 words when this was written; each is shown to the team, who can let it stand.
        Assert.InRange(words, 9_000, 200_000);
        Assert.InRange(found.Count, 1, words / 1000);
    }

    [Fact]
    public void A_name_is_text_not_a_pattern() => Assert.Equal("Tansy paid", Applied("J. $1 paid", People));

    [Fact]
    public void Nobody_named_changes_nothing() => Assert.Equal("as it is", Applied("as it is", [new("  ", "Alder")]));

    private static string Applied(string text, IEnumerable<NamedPerson> people) =>
        Redaction.Of(text, new TextRange(0, text.Length), Redaction.Merged(NameMask.Find(text, people)));
}
