using FsCheck.Xunit;
using PhoneNumbers;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class PersonalDetailsTests
{
    private static readonly NamedPerson[] People = [new("Marnie Quillfeather", "Sorrel"), new("Rose Hollow", "Wren")];

    private static IReadOnlyList<string> Found(string text, params string[] words) =>
        [.. PersonalDetails.Find(text, People, words).Select(f => $"{f.Kind}:{f.Words}>{f.Replacement}")];

    [Fact]
    public void Names_addresses_numbers_and_given_words_are_found_in_order_and_once() =>
        Assert.Equal(
            [
                "Name:Marnie Quillfeather>Sorrel",
                "EmailAddress:marnie.q@quay.example>[e-mail address]",
                "PhoneNumber:01632 960123>[phone number]",
                "Word:the Anchor>[left out]",
                "Name:Rose>Wren",
            ],
            Found(
                "Marnie Quillfeather, marnie.q@quay.example, rings 01632 960123 from the Anchor where Rose and a rose are.",
                "the anchor",
                " "
            )
        );

    // Forms of addr-spec from RFC 5322, appendix A, and RFC 6531; from memory.
    [Theory]
    [InlineData("jdoe@machine.example")]
    [InlineData("mary@x.test")]
    [InlineData("john.q.public@example.com")]
    [InlineData("one+two@sub.domain.example")]
    [InlineData("jürgen@küste.example")]
    public void Addresses_are_found_whole(string address) =>
        Assert.Equal([$"EmailAddress:{address}>[e-mail address]"], Found($"Write to <{address}>, or come."));

    [Theory]
    [InlineData("The 14:00 went at 14:20 on 2026-11-07.")]
    [InlineData("On 07.11.2026 and 7/11/26 there were 48 rows, 12,000 people, room 20 30 40.")]
    [InlineData("In 1998 I paid 0.50 for ticket 4417.")]
    [InlineData("see me @ the quay, a@b")]
    [InlineData("[00:12:03] Sorrel: and then")]
    public void What_is_no_detail_is_left(string text) => Assert.Empty(Found(text));

    /// <summary>
    /// The example numbers of every region that libphonenumber-csharp 9 (Google's libphonenumber, metadata of the national numbering plans)
    /// holds, as written for calls from abroad.
    /// </summary>
    [Fact]
    public void Numbers_of_every_country_are_found_whole()
    {
        var known = PhoneNumberUtil.GetInstance();
        var missed = (
            from region in known.GetSupportedRegions()
            let example = known.GetExampleNumber(region)
            where example is not null
            let written = known.Format(example, PhoneNumberFormat.INTERNATIONAL)
            where Found($"Ring {written}, please.").FirstOrDefault() != $"PhoneNumber:{written}>[phone number]"
            select written
        ).ToList();
        // Plans of fewer than eight digits with the country's code are for the eye of the reviewer.
        Assert.All(missed, written => Assert.InRange(written.Count(char.IsAsciiDigit), 1, 7));
    }

    [Property(MaxTest = 500)]
    public bool No_two_overlap_and_all_stand_where_they_say(string? text, string? word)
    {
        text = (text ?? "") + " Rose a@b.example +44 1632 960123 " + word;
        var found = PersonalDetails.Find(text, People, [word ?? ""]);
        return found.All(f => f.Range.Of(text) == f.Words)
            && found.Zip(found.Skip(1)).All(pair => pair.First.Range.End <= pair.Second.Range.Start);
    }

    [Theory]
    [InlineData("Ring Marnie at 01632 960123 today.", "Ring Sorrel at [phone number] today.")]
    [InlineData("Marnie at ", "Sorrel at ")]
    [InlineData("Ring Mar", "Ring Sorrel")]
    [InlineData("nie at 016", "Sorrel at [phone number]")]
    [InlineData("today", "today")]
    public void A_stretch_leaves_with_its_masks(string stretch, string shown)
    {
        const string text = "Ring Marnie at 01632 960123 today.";
        Mask[] masks = [new(new TextRange(5, 11), "Sorrel"), new(new TextRange(15, 27), "[phone number]")];
        var at = text.IndexOf(stretch, StringComparison.Ordinal);
        Assert.Equal(shown, Redaction.Of(text, new TextRange(at, at + stretch.Length), masks));
    }

    [Fact]
    public void Masked_words_are_left_out_of_every_other_text()
    {
        const string text = "The Anchor is late, says the anchor; anchorage is not.";
        Assert.Equal(
            "[left out] is late, says [left out]; anchorage is not.",
            Redaction.Of(
                text,
                new TextRange(0, text.Length),
                Redaction.Merged(NameMask.FindMasked(text, [("anchor", "[x]"), ("The Anchor", "[left out]")]))
            )
        );
    }

    [Fact]
    public void Masks_that_overlap_become_one_that_covers_all_of_them_and_shows_what_the_first_shows()
    {
        Mask[] masks = [new(new TextRange(4, 8), "a"), new(new TextRange(20, 22), "b"), new(new TextRange(6, 21), "c")];
        Assert.Equal([new Mask(new TextRange(4, 22), "a")], Redaction.Merged(masks));
    }
}
