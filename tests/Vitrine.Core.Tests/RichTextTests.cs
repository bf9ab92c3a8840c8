using System.Text.Json;
using System.Text.Json.Nodes;
using FsCheck.Xunit;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class RichTextTests
{
    /// <summary>A text of any form, of which every word is another one.</summary>
    private sealed class MadeUp(int seed)
    {
        private readonly Random random = new(seed);
        private int words;

        public List<string> Words { get; } = [];

        public RichText Text() => new(Blocks(0, random.Next(0, 6)));

        private List<RichBlock> Blocks(int depth, int many) => [.. Enumerable.Range(0, many).Select(_ => Block(depth))];

        private RichBlock Block(int depth) =>
            random.Next(depth < 3 ? 9 : 6) switch
            {
                0 or 1 => new Paragraph(Line()),
                2 => new Heading(random.Next(1, 4), Line()),
                3 => new Embedded(
                    (EmbeddedAs)random.Next(5),
                    new ThingRef((ThingKind)random.Next(20), random.Next(1, 99)),
                    random.Next(2) == 0 ? "" : Word()
                ),
                4 => new Rule(),
                5 => new UnknownBlock(
                    $$"""{"type":"poll{{random.Next(3)}}","ask":"{{Word()}}","of":[1,{"says":"{{Word()}}"},null,true]}"""
                ),
                _ => new TextList(
                    random.Next(2) == 0,
                    [.. Enumerable.Range(0, random.Next(1, 4)).Select(_ => Blocks(depth + 1, random.Next(1, 3)))]
                ),
            };

        private List<Inline> Line() =>
            [
                .. Enumerable
                    .Range(0, random.Next(0, 6))
                    .Select(
                        Inline (_) =>
                            random.Next(8) switch
                            {
                                0 => new Mention(new ThingRef(ThingKind.Tag, random.Next(1, 99)), Word()),
                                1 => new LineBreak(),
                                2 => new UnknownInline($$"""{"type":"sum","note":"{{Word()}}"}"""),
                                _ => new TextRun(
                                    Word() + " ",
                                    random.Next(3) == 0,
                                    random.Next(3) == 0,
                                    random.Next(5) == 0 ? "https://vitrine.example/a?b=c" : null
                                ),
                            }
                    ),
            ];

        private string Word()
        {
            Words.Add($"w{++words}é\U0001F6A2 ");
            return Words[^1];
        }
    }

    private static RichText Of(int seed) => RichTextJson.FromStored(RichTextJson.Stored(new MadeUp(seed).Text()));

    private static RichText Read(string json) => RichTextJson.Read(JsonNode.Parse(json));

    private static string Squeezed(string text) => string.Concat(text.Where(c => c != '\n'));

    [Property(MaxTest = 300)]
    public void What_is_written_is_read_as_it_was(int seed)
    {
        var text = Of(seed);
        var stored = RichTextJson.Stored(text);
        Assert.Equal(stored, RichTextJson.Stored(RichTextJson.FromStored(stored)));
        var asRecord = JsonSerializer.Serialize(text);
        Assert.Equal(stored, RichTextJson.Stored(JsonSerializer.Deserialize<RichText>(asRecord)!));
    }

    [Property(MaxTest = 300)]
    public void No_word_is_lost_by_the_projection(int seed)
    {
        var made = new MadeUp(seed);
        var plain = made.Text().Plain;
        var at = 0;
        foreach (var word in made.Words)
        {
            at = plain.IndexOf(word.Trim(), at, StringComparison.Ordinal);
            Assert.True(at >= 0, word);
        }
        Assert.Equal(plain, plain.Trim('\n'));
        Assert.Equal(Squeezed(string.Concat(made.Words)).Length, Squeezed(plain).Length - plain.Split("  ").Length + 1);
    }

    [Property(MaxTest = 300)]
    public void Stretches_are_replaced_where_the_projection_has_them(int seed)
    {
        var (text, random) = (Of(seed), new Random(seed));
        var plain = text.Plain;
        var masks = new List<Mask>();
        for (var at = 0; at < plain.Length; )
        {
            var start = Whole(at + random.Next(0, 30));
            var end = Whole(start + random.Next(2, 25));
            if (end > plain.Length)
                break;
            masks.Add(new Mask(new TextRange(start, end), random.Next(4) == 0 ? "" : $"[{masks.Count}]"));
            at = end + 1;
        }
        Assert.Equal(
            plain.Length == 0 ? "" : Squeezed(Redaction.Of(plain, new TextRange(0, plain.Length), masks.Where(m => !IsBetween(plain, m)))),
            Squeezed(text.Replace(masks).Plain)
        );

        // Half a letter is none.
        int Whole(int at) => at < plain.Length && char.IsLowSurrogate(plain[at]) ? at + 1 : at;
    }

    // A stretch of nothing but the gap between two blocks stands in neither.
    private static bool IsBetween(string plain, Mask mask) => mask.Range.Of(plain).All(c => c == '\n');

    [Theory]
    [InlineData(0)]
    [InlineData(3)]
    [InlineData(6)]
    [InlineData(7)]
    [InlineData(12)]
    public void A_name_is_in_no_form_of_a_text_that_it_was_taken_out_of(int cut)
    {
        const string Name = "Wrenna Quillwort";
        foreach (var seed in Enumerable.Range(0, 40))
        {
            var around = Of(seed);
            var (first, second) = (Name[..cut], Name[cut..]);
            List<Inline> split =
            [
                new TextRun("So says "),
                .. first.Length > 0 ? (Inline[])[new TextRun(first, Strong: true)] : [],
                new TextRun(second, Emphasis: true, Link: "mailto:wrenna.quillwort@vitrine.example"),
                new TextRun(", and goes."),
            ];
            var text = new RichText([
                .. around.Blocks,
                new TextList(
                    false,
                    [
                        [new Paragraph(split)],
                    ]
                ),
                new Embedded(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, 7), $"As {Name} said"),
                new UnknownBlock($$"""{"type":"poll","by":["{{Name}}"]}"""),
                new Paragraph([new Mention(new ThingRef(ThingKind.Participant, 3), Name)]),
                .. around.Blocks,
            ]);
            var without = text.Without(t => Redaction.Merged(NameMask.Find(t, [new NamedPerson(Name, "Wren")])));
            var stored = RichTextJson.Stored(without);
            Assert.DoesNotContain("wrenna", stored, StringComparison.OrdinalIgnoreCase);
            Assert.DoesNotContain("quillwort", stored, StringComparison.OrdinalIgnoreCase);
            Assert.Contains("So says Wren, and goes.", without.Plain);
            Assert.Equal(text.Plain.Replace(Name, "Wren"), without.Plain);
            // Who was spoken of by that name is no reference any more; the quote stands as it stood.
            Assert.Contains(new ThingRef(ThingKind.Observation, 7), without.References);
            Assert.Equal(
                text.References.Count(r => r.Kind == ThingKind.Participant) - 1,
                without.References.Count(r => r.Kind == ThingKind.Participant)
            );
        }
    }

    [Fact]
    public void A_text_without_form_is_read_as_paragraphs_and_keeps_its_words()
    {
        const string Told = "They wait.\nIn the rain.\n\nNobody says why.\n\n\n\n{\"version\": it is none";
        var text = RichTextJson.FromStored(Told);
        Assert.Equal(3, text.Blocks.Count);
        Assert.Equal("They wait.\nIn the rain.\n\nNobody says why.\n\n{\"version\": it is none", text.Plain);
        Assert.Equal("", RichTextJson.Stored(RichTextJson.FromStored("")));
        Assert.Equal("{\"version\":9", RichTextJson.FromStored("{\"version\":9").Plain);
        Assert.Equal("a\nb\n\nc", RichTextJson.FromStored("a\r\nb\r\n\r\nc").Plain);
    }

    [Fact]
    public void What_a_text_holds_has_one_form()
    {
        var text = Read(
            """
            {"version":1,"blocks":[
              {"type":"paragraph","content":[{"type":"text","text":"one "},{"type":"text","text":"two\nthree","strong":false},
                {"type":"text","text":""},{"type":"text","text":"go","link":"javascript:alert(1)"},
                {"type":"text","text":"x","link":"https://vitrine.example/"}]},
              {"type":"heading","level":7,"content":[{"type":"text","text":"seven"}]},
              {"type":"quote","thing":"observation","id":-1},
              {"type":"quote","thing":"Observation","id":1},
              {"type":"quote","thing":"observation","id":1}]}
            """
        );
        Assert.Equal(
            [new TextRun("one two"), new LineBreak(), new TextRun("threego"), new TextRun("x", Link: "https://vitrine.example/")],
            ((Paragraph)text.Blocks[0]).Content
        );
        Assert.Equal(
            [typeof(UnknownBlock), typeof(UnknownBlock), typeof(UnknownBlock), typeof(Embedded)],
            text.Blocks.Skip(1).Select(b => b.GetType())
        );
        Assert.Equal("one two\nthreegox", text.OnlyKnown().Plain);
        Assert.Equal([new ThingRef(ThingKind.Observation, 1)], text.References);
        Assert.Equal(
            [new ThingRef(ThingKind.Observation, 2)],
            text.Replace(new ThingRef(ThingKind.Observation, 1), new ThingRef(ThingKind.Observation, 2)).References
        );
    }

    [Theory]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("""{"blocks":[]}""")]
    [InlineData("""{"version":2,"blocks":[]}""")]
    [InlineData("""{"version":1}""")]
    [InlineData("""{"version":1,"blocks":[null]}""")]
    [InlineData("""{"version":1,"blocks":[{"content":[]}]}""")]
    [InlineData("""{"version":1,"blocks":[{"type":"bulletList","items":[7]}]}""")]
    [InlineData("""{"version":1,"blocks":[{"type":"poll","a":{"b":1,"b":2}}]}""")]
    [InlineData("""{"version":1,"blocks":[{"type":"poll","a":["\ud800"]}]}""")]
    public void What_is_no_text_is_refused(string json) => Assert.ThrowsAny<JsonException>(() => Read(json));

    [Fact]
    public void A_text_has_bounds()
    {
        var deep =
            string.Concat(Enumerable.Repeat("""{"type":"bulletList","items":[[""", 8))
            + """{"type":"rule"}"""
            + string.Concat(Enumerable.Repeat("]]}", 8));
        Assert.Throws<JsonException>(() => Read($$"""{"version":1,"blocks":[{{deep}}]}"""));
        var many = string.Join(',', Enumerable.Repeat("""{"type":"rule"}""", RichTextJson.MostParts + 1));
        Assert.Throws<JsonException>(() => Read($$"""{"version":1,"blocks":[{{many}}]}"""));
    }
}
