using System.Xml.Linq;
using FsCheck.Xunit;
using Vitrine.Formats.Documents;
using Vitrine.Formats.Reports;
using Vitrine.Formats.Tables;

namespace Vitrine.Formats.Tests;

public sealed class CodebookTests
{
    private static readonly Guid[] Guids = [.. Enumerable.Range(1, 4).Select(i => new Guid(i, 0, 0, new byte[8]))];

    private static CodebookTag Tag(int guid, string name, string[] above, string definition = "", params string[] examples) =>
        new(
            Guids[guid],
            above,
            name,
            definition,
            guid == 1 ? "Heard at home." : "",
            guid == 1 ? ["in vain", "stood there"] : [],
            guid == 2 ? "1 to 5" : "",
            guid == 0 ? "#b4532a" : null,
            guid != 3,
            4,
            2,
            1,
            9,
            examples,
            guid is 1 or 3 ? ["To revisit"] : []
        );

    private static readonly Codebook Book = new(
        "Boarding",
        new DateOnly(2026, 11, 26),
        [
            Tag(0, "hearing", [], "How word reaches someone."),
            Tag(1, "learnt on the quay", ["hearing"], "=After they had come, \"down\"\nto the quay.", "I was there\nalready."),
            Tag(2, "effort", ["hearing", "learnt on the quay"]),
            Tag(3, "a draft & <more>", []),
        ],
        [new CodebookBundle(new Guid(9, 0, 0, new byte[8]), "To revisit", "Not sure yet.")]
    );

    private static MemoryStream Written(Action<Codebook, Stream> write)
    {
        var file = new MemoryStream();
        write(Book, file);
        return new MemoryStream(file.ToArray());
    }

    [Theory]
    [InlineData("book.csv")]
    [InlineData("book.xlsx")]
    public void As_a_table_it_is_read_back_cell_by_cell(string name)
    {
        var file = Written(name.EndsWith("csv", StringComparison.Ordinal) ? CodebookTables.WriteCsv : CodebookTables.WriteXlsx);
        var table = TableFile.Read(name, file);
        Assert.Equal(["Tag", "Under", "Definition", "What it is not"], table.Columns.Take(4));
        Assert.Equal(4, table.Rows.Count);
        Assert.Equal("learnt on the quay", table.Rows[1][0]);
        Assert.Equal("hearing / learnt on the quay", table.Rows[2][1]);
        Assert.EndsWith(
            "=After they had come, \"down\"\nto the quay.",
            table.Rows[1][2].ReplaceLineEndings("\n"),
            StringComparison.Ordinal
        );
        Assert.Equal(["in vain; stood there", "settled", "4", "2", "1", "9"], new[] { 4, 6, 7, 8, 9, 10 }.Select(c => table.Rows[1][c]));
        Assert.Equal("draft", table.Rows[3][6]);
        Assert.Equal(["To revisit", "", Guids[3].ToString()], table.Rows[3].Skip(12));
    }

    [Fact]
    public void No_cell_of_the_comma_separated_table_begins_like_a_formula()
    {
        var text = System.Text.Encoding.UTF8.GetString(Written(CodebookTables.WriteCsv).ToArray());
        Assert.Contains("\"'=After", text, StringComparison.Ordinal);
    }

    [Fact]
    public void As_a_word_document_it_has_a_heading_for_each_tag_at_its_depth()
    {
        var read = Docx.Read(Written(CodebookDocx.Write));
        Assert.Contains("learnt on the quay", read.Text, StringComparison.Ordinal);
        Assert.Contains("Not: Heard at home.", read.Text, StringComparison.Ordinal);
        Assert.Contains("Also called: in vain; stood there", read.Text, StringComparison.Ordinal);
        Assert.Contains("4 observations in 2 sources, 1 of 9 people", read.Text, StringComparison.Ordinal);
        Assert.Contains("a draft & <more> (draft)", read.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void As_markdown_nothing_of_a_name_is_taken_for_a_sign()
    {
        var text = CodebookText.Markdown(Book).ReplaceLineEndings("\n");
        Assert.Contains("## hearing\n", text, StringComparison.Ordinal);
        Assert.Contains("#### effort\n", text, StringComparison.Ordinal);
        Assert.Contains("## a draft & \\<more\\> (draft)", text, StringComparison.Ordinal);
        Assert.Contains("> I was there\n> already.", text, StringComparison.Ordinal);
    }

    // The rules of the REFI-QDA codebook schema, version 1.0 (2019), from memory: CodeBook with an origin holds Codes, which holds nested
    // Code
    // elements; each has a guid, a name, isCodable and perhaps a color as #RRGGBB; a Description comes before the codes in it. Sets come
    // after
    // Codes: each with a guid and a name holds MemberCode elements, each with the guid of a code.
    [Fact]
    public void In_the_open_exchange_format_codes_are_nested_by_the_rules_of_its_schema()
    {
        var root = XDocument.Load(Written(CodebookText.WriteExchange)).Root!;
        XNamespace qdc = "urn:QDA-XML:codebook:1.0";
        Assert.Equal((qdc + "CodeBook", "Vitrine"), (root.Name, root.Attribute("origin")!.Value));
        Assert.Equal([qdc + "Codes", qdc + "Sets"], root.Elements().Select(e => e.Name));
        var codes = root.Elements().First();
        Assert.Equal(["hearing", "a draft & <more>"], codes.Elements(qdc + "Code").Select(c => c.Attribute("name")!.Value));
        foreach (var code in codes.Descendants(qdc + "Code"))
        {
            Assert.True(Guid.TryParse(code.Attribute("guid")!.Value, out _));
            Assert.Equal("true", code.Attribute("isCodable")!.Value);
            Assert.Matches("^#[0-9a-fA-F]{6}$", code.Attribute("color")?.Value ?? "#000000");
            Assert.All(code.Elements().Skip(1), e => Assert.Equal(qdc + "Code", e.Name));
        }
        var quay = codes.Element(qdc + "Code")!.Element(qdc + "Code")!;
        Assert.Equal("effort", quay.Element(qdc + "Code")!.Attribute("name")!.Value);
        Assert.EndsWith(
            "Not: Heard at home.\nAlso called: in vain; stood there",
            quay.Element(qdc + "Description")!.Value,
            StringComparison.Ordinal
        );
        var set = Assert.Single(root.Element(qdc + "Sets")!.Elements(qdc + "Set"));
        Assert.Equal("To revisit", set.Attribute("name")!.Value);
        Assert.Equal(
            (new Guid(9, 0, 0, new byte[8]).ToString(), "Not sure yet."),
            (set.Attribute("guid")!.Value, set.Element(qdc + "Description")!.Value)
        );
        Assert.Equal([$"{Guids[1]}", $"{Guids[3]}"], set.Elements(qdc + "MemberCode").Select(m => m.Attribute("guid")!.Value));
    }

    // What stands in names and sentences that any sign of a format could be taken for.
    private static readonly string[] Pieces =
    [
        "late",
        "“return” misread",
        " / ",
        "\\",
        "\\/",
        ";",
        ", ",
        "=1+1",
        "'",
        "'=x",
        "-",
        "@",
        "\"",
        "<b>&amp;",
        "(draft)",
        "Not: ",
        "\\Not: ",
        "Also called: ",
        "Scale: ",
        "State: draft",
        "(least: a; most: b)",
        "é\U0001F6A2",
    ];

    private static string Any(Random random, bool lines = false, bool some = false) =>
        System
            .Text.RegularExpressions.Regex.Replace(
                string.Join(
                    lines ? "\n" : " ",
                    Enumerable.Range(0, random.Next(some ? 1 : 0, 5)).Select(_ => Pieces[random.Next(Pieces.Length)])
                ),
                " +",
                " "
            )
            .Trim();

    /// <summary>A tag set of the seed, whose words stand for what tags may be called and say.</summary>
    private static Codebook Random(int seed)
    {
        var random = new Random(seed);
        var tags = new List<CodebookTag>();
        for (var i = 0; i < random.Next(1, 12); i++)
        {
            IReadOnlyList<string> above = tags.Count == 0 || random.Next(3) == 0 ? [] : [.. tags[^1].Above, tags[^1].Name];
            var scale = new Core.Sort.TagSet.Scale(
                random.Next(-3, 3),
                10,
                random.Next(2) == 0 ? 1 : 0.5,
                Any(random),
                Any(random),
                Any(random)
            );
            tags.Add(
                new CodebookTag(
                    new Guid(seed, 0, 0, 0, 0, 0, 0, 0, 0, 0, (byte)i),
                    above,
                    Any(random, some: true),
                    Any(random, lines: true),
                    Any(random, lines: true),
                    [.. Enumerable.Range(0, random.Next(3)).Select(_ => Any(random, some: true)).Where(a => a.Length > 0)],
                    random.Next(2) == 0 ? "" : Core.Sort.TagSet.ScaleWords.Of(scale),
                    random.Next(2) == 0 ? null : "#2c6fa8",
                    random.Next(2) == 0,
                    1,
                    1,
                    1,
                    1,
                    ["A quote."],
                    [.. Enumerable.Range(0, random.Next(3)).Select(_ => Any(random, some: true)).Where(a => a.Length > 0).Distinct()]
                )
            );
        }
        tags.RemoveAll(t => t.Name.Length == 0 || t.Above.Any(a => a.Length == 0));
        return new Codebook(
            "Any",
            new DateOnly(2026, 11, 27),
            tags,
            [
                .. tags.SelectMany(t => t.Bundles)
                    .Distinct()
                    .Select(
                        (name, i) => new CodebookBundle(new Guid(seed, 1, 0, 0, 0, 0, 0, 0, 0, 0, (byte)i), name, Any(random, lines: true))
                    ),
            ]
        );
    }

    [Property(MaxTest = 150)]
    public void A_round_trip_loses_nothing_in_any_format(int seed)
    {
        var book = Random(seed);
        MemoryStream Out(Action<Codebook, Stream> write)
        {
            var file = new MemoryStream();
            write(book, file);
            return new MemoryStream(file.ToArray());
        }
        IReadOnlyList<string[]> Cells(string name, MemoryStream file)
        {
            var table = TableFile.Read(name, file, 1);
            return
            [
                [.. table.Columns],
                .. table.Rows,
            ];
        }
        var told = string.Join("\n\n", book.Tags.Select(Told));
        Assert.Equal(told, string.Join("\n\n", CodebookReading.Table(Cells("a.csv", Out(CodebookTables.WriteCsv))).Select(Read)));
        Assert.Equal(told, string.Join("\n\n", CodebookReading.Table(Cells("a.xlsx", Out(CodebookTables.WriteXlsx))).Select(Read)));
        Assert.Equal(
            told,
            string.Join("\n\n", CodebookReading.Exchange(Out(CodebookText.WriteExchange)).Where(l => !l.IsBundle).Select(Read))
        );
        Assert.Equal(
            book.Bundles.Select(b => (b.Key, b.Name, b.Definition)),
            CodebookReading
                .Exchange(Out(CodebookText.WriteExchange))
                .Where(l => l.IsBundle)
                .Select(l => (l.Key!.Value, l.Name, l.Definition.ReplaceLineEndings("\n")))
        );
        Assert.Equal(told, string.Join("\n\n", CodebookDocx.Read(Out(CodebookDocx.Write)).Select(Read)));

        static string Told(CodebookTag t) =>
            string.Join(
                " | ",
                [
                    $"{t.Key}",
                    .. t.Above,
                    t.Name,
                    t.Definition,
                    t.IsNot,
                    .. t.Aliases,
                    t.Scale,
                    t.Colour ?? "",
                    $"{t.Settled}",
                    .. t.Bundles.Order(),
                ]
            );
        static string Read(Core.Sort.TagSet.CodebookLine l) =>
            string.Join(
                " | ",
                [
                    $"{l.Key}",
                    .. l.Above,
                    l.Name,
                    l.Definition.ReplaceLineEndings("\n"),
                    l.IsNot.ReplaceLineEndings("\n"),
                    .. l.Aliases,
                    l.Scale is { } scale ? Core.Sort.TagSet.ScaleWords.Of(scale) : "",
                    l.Colour ?? "",
                    $"{l.Settled ?? true}",
                    .. l.Bundles!.Order(),
                ]
            );
    }

    [Fact]
    public void Cells_without_a_head_are_names_and_what_they_are()
    {
        var lines = CodebookReading.Table(TableFile.Cells("late, again\nhearing / told\tBy a person.\n\n\tno name\n", '\t'));
        Assert.Equal(["late, again", "told", ""], lines.Select(l => l.Name));
        Assert.Equal(("hearing", "By a person."), (lines[1].Above.Single(), lines[1].Definition));
        var headed = CodebookReading
            .Table([
                ["Description", "Parent", "Code"],
                ["It is.", "a / b", "c / d"],
            ])
            .Single();
        Assert.Equal(("d", "a/b/c", "It is."), (headed.Name, string.Join('/', headed.Above), headed.Definition));
        Assert.Empty(CodebookReading.Table([]));
    }

    [Theory]
    [InlineData("")]
    [InlineData("<CodeBook>")]
    [InlineData("<Project/>")]
    [InlineData("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/passwd\">]><CodeBook><Codes/></CodeBook>")]
    public void What_is_no_codebook_is_refused(string text) =>
        Assert.Throws<UnreadableException>(() => CodebookReading.Exchange(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(text))));

    [Fact]
    public void What_another_program_says_of_codes_and_sets_is_read_and_an_empty_codebook_is_none_the_less_one()
    {
        IReadOnlyList<Core.Sort.TagSet.CodebookLine> Read(string inside) =>
            CodebookReading.Exchange(
                new MemoryStream(System.Text.Encoding.UTF8.GetBytes($"<CodeBook xmlns=\"urn:QDA-XML:codebook:1.0\">{inside}</CodeBook>"))
            );
        Assert.Empty(Read("<Codes/>"));
        Assert.Empty(Read(""));
        Assert.Empty(Read("<Codes/><Sets/>"));
        var lines = Read(
            $"<Codes><Code guid=\"{Guids[0]}\" name=\"Family\" isCodable=\"false\" color=\"#9e9\"><Description/></Code></Codes>"
                + $"<Sets><Set guid=\"{Guids[1]}\" name=\"Report\"><Description>For May.</Description><MemberCode guid=\"{Guids[0]}\"/></Set></Sets>"
        );
        Assert.Equal(
            (false, true, "#9e9", "Report"),
            (lines[0].IsCodable, lines[0].HasEmptyDescription, lines[0].Colour, lines[0].Bundles!.Single())
        );
        Assert.Equal((true, Guids[1], "Report", "For May."), (lines[1].IsBundle, lines[1].Key!.Value, lines[1].Name, lines[1].Definition));
    }

    [Fact]
    public void Codes_of_another_program_come_in_as_deep_as_they_stand()
    {
        var deep =
            string.Concat(Enumerable.Range(0, 3000).Select(i => $"<Code name=\"c{i}\">"))
            + string.Concat(Enumerable.Repeat("</Code>", 3000));
        var read = CodebookReading.Exchange(
            new MemoryStream(
                System.Text.Encoding.UTF8.GetBytes($"<CodeBook xmlns=\"urn:QDA-XML:codebook:1.0\"><Codes>{deep}</Codes></CodeBook>")
            )
        );
        Assert.Equal((3000, 2999), (read.Count, read[^1].Above.Count));
    }
}
