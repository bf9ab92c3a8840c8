using System.Text.Json;

namespace Vitrine.Core.Tests;

public class IdTests
{
    [Fact]
    public void An_id_is_its_number_in_JSON_in_addresses_and_in_words()
    {
        var known = new Dictionary<TagId, SourceId?> { [3] = 7, [4] = null };
        var json = JsonSerializer.Serialize(known);
        Assert.Equal("""{"3":7,"4":null}""", json);
        Assert.Equal(known, JsonSerializer.Deserialize<Dictionary<TagId, SourceId?>>(json));
        Assert.Equal("sources/7", $"sources/{known[3]}");
        Assert.Equal(
            [2, 7, 11],
            new SourceId[] { 11, 2, 7 }
                .Order()
                .Select(id => id.Value)
        );
    }

    [Theory]
    [InlineData("7", 7L)]
    [InlineData("9223372036854775807", long.MaxValue)]
    [InlineData("9223372036854775808", null)]
    [InlineData("-1", null)]
    [InlineData(" 7", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void Only_digits_are_an_id(string? digits, long? number) =>
        Assert.Equal(number, SourceId.TryParse(digits, null, out var id) ? id.Value : null);
}
