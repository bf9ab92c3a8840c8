using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Formats.Reports;

/// <summary>A tag as a codebook has it.</summary>
/// <param name="Key">By what it is known outside.</param>
/// <param name="Above">The names of the tags that it stands under, from the top.</param>
/// <param name="Name">Its name.</param>
/// <param name="Definition">What it is; may be empty.</param>
/// <param name="IsNot">What it is not; may be empty.</param>
/// <param name="Aliases">Its other names.</param>
/// <param name="Scale">Its scale in words, such as "1 to 5"; may be empty.</param>
/// <param name="Colour">Its colour as #RRGGBB; null when it has none of its own.</param>
/// <param name="Settled">Whether it is thought through; else it is a draft.</param>
/// <param name="Observations">How many observations carry it or a tag under it.</param>
/// <param name="Sources">In how many sources.</param>
/// <param name="People">Of how many people.</param>
/// <param name="OutOf">Of how many who were asked.</param>
/// <param name="Examples">Quotes that tell what it is.</param>
/// <param name="Bundles">Names of the bundles that hold it.</param>
/// <param name="IsCodable">Whether it is a tag to mark with.</param>
/// <param name="HasEmptyDescription">Whether it came from outside with a description that says nothing.</param>
public sealed record CodebookTag(
    Guid Key,
    IReadOnlyList<string> Above,
    string Name,
    string Definition,
    string IsNot,
    IReadOnlyList<string> Aliases,
    string Scale,
    string? Colour,
    bool Settled,
    int Observations,
    int Sources,
    int People,
    int OutOf,
    IReadOnlyList<string> Examples,
    IReadOnlyList<string> Bundles,
    bool IsCodable = true,
    bool HasEmptyDescription = false
);

/// <summary>A bundle as a codebook has it.</summary>
/// <param name="Key">By what it is known outside.</param>
/// <param name="Name">Its name.</param>
/// <param name="Definition">What it is for; may be empty.</param>
public sealed record CodebookBundle(Guid Key, string Name, string Definition);

/// <summary>The tags of a study with what they mean, each before those that stand under it.</summary>
/// <param name="Title">What it is the codebook of.</param>
/// <param name="Day">When it was made.</param>
/// <param name="Tags">The tags.</param>
/// <param name="Bundles">The bundles, also those that hold none of these tags.</param>
public sealed record Codebook(string Title, DateOnly Day, IReadOnlyList<CodebookTag> Tags, IReadOnlyList<CodebookBundle> Bundles)
{
    /// <summary>The heads of its columns, where it is a table.</summary>
    internal static readonly string[] Heads =
    [
        "Tag",
        "Under",
        "Definition",
        "What it is not",
        "Also called",
        "Scale",
        "State",
        "Observations",
        "Sources",
        "People",
        "People asked",
        "Examples",
        "In bundles",
        "Colour",
        "Id",
    ];

    /// <summary>A tag as a row of the table.</summary>
    internal static object[] Row(CodebookTag tag) =>
        [
            WrittenNames.Path([tag.Name]),
            WrittenNames.Path(tag.Above),
            tag.Definition,
            tag.IsNot,
            WrittenNames.List(tag.Aliases),
            tag.Scale,
            tag.Settled ? "settled" : "draft",
            tag.Observations,
            tag.Sources,
            tag.People,
            tag.OutOf,
            string.Join("\n", tag.Examples),
            WrittenNames.List(tag.Bundles),
            tag.Colour ?? "",
            tag.Key.ToString(),
        ];

    /// <summary>"16 observations in 7 sources, 6 of 10 people"</summary>
    internal static string Counted(CodebookTag tag) =>
        $"{tag.Observations} observation{(tag.Observations == 1 ? "" : "s")} in {tag.Sources} source{(tag.Sources == 1 ? "" : "s")}, "
        + $"{tag.People} of {tag.OutOf} people";
}
