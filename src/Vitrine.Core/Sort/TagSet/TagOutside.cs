namespace Vitrine.Core.Sort.TagSet;

/// <summary>What a codebook from outside said of a tag for which there is no place here; it goes out as it came in.</summary>
/// <param name="Colour">The colour that it came with, as #rrggbb; the tag is drawn in the nearest of the palette. Null for none.</param>
/// <param name="IsCodable">Whether it is a tag to mark with; one that is none, and has come to be used, is one.</param>
/// <param name="HasEmptyDescription">Whether it came with a description that says nothing.</param>
public sealed record TagOutside(string? Colour = null, bool IsCodable = true, bool HasEmptyDescription = false)
{
    /// <summary>Null where nothing was said.</summary>
    public static TagOutside? Of(CodebookLine line)
    {
        var colour = Palette.Read(line.Colour);
        var said = new TagOutside(
            colour is not null && Palette.Of(Palette.Nearest(colour)!.Value) == colour ? null : colour,
            line.IsCodable,
            line.HasEmptyDescription
        );
        return said == new TagOutside() ? null : said;
    }

    /// <summary>The colour with which a tag goes out, as #rrggbb: the one it came with, as long as it was given no other; null for
    /// none.</summary>
    /// <param name="colour">Its own colour of the palette.</param>
    /// <param name="outside">What was said of it outside.</param>
    public static string? ColourOf(int? colour, TagOutside? outside) =>
        colour is not { } own ? null
        : outside?.Colour is { } came && Palette.Nearest(came) == own ? came
        : Palette.Of(own);
}
