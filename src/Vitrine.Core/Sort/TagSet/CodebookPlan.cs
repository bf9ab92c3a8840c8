namespace Vitrine.Core.Sort.TagSet;

/// <summary>A line of a codebook that comes in. What is empty says nothing: a tag that is there keeps what it has.</summary>
/// <param name="Name">The name of the tag.</param>
/// <param name="Above">The names above it, topmost first.</param>
/// <param name="Definition">What it is.</param>
/// <param name="IsNot">What it is not.</param>
/// <param name="Aliases">Its other names; they are added to those that it has.</param>
/// <param name="Settled">Whether it is thought through; null when nothing is said.</param>
/// <param name="Key">By what it is known outside; null when nothing is said.</param>
/// <param name="Scale">Its scale; null when nothing is said.</param>
/// <param name="Colour">Its colour as #rgb or #rrggbb, which is kept; the nearest of the palette is shown. Null when nothing is
/// said.</param>
/// <param name="Bundles">Names of bundles that hold it; it is put in those that do not, and taken out of none.</param>
/// <param name="IsBundle">Whether it is a bundle and no tag: then its name, definition and key count alone.</param>
/// <param name="IsCodable">Whether it is a tag to mark with.</param>
/// <param name="HasEmptyDescription">Whether it came with a description that says nothing.</param>
public sealed record CodebookLine(
    string Name,
    IReadOnlyList<string> Above,
    string Definition,
    string IsNot,
    IReadOnlyList<string> Aliases,
    bool? Settled,
    Guid? Key,
    Scale? Scale = null,
    string? Colour = null,
    IReadOnlyList<string>? Bundles = null,
    bool IsBundle = false,
    bool IsCodable = true,
    bool HasEmptyDescription = false
);

/// <summary>A tag that is there, as far as a codebook can change it.</summary>
public sealed record CodebookEntry(
    TagId Id,
    Guid Key,
    TagName Name,
    TagId? ParentId,
    string Definition,
    string IsNot,
    bool Settled,
    IReadOnlyList<TagName> Aliases
)
{
    /// <summary>Its scale; null for none.</summary>
    public Scale? Scale { get; init; }

    /// <summary>Values that observations have on its scale.</summary>
    public IReadOnlyList<double> Values { get; init; } = [];

    /// <summary>Its own colour; null for none.</summary>
    public int? Colour { get; init; }

    /// <summary>The bundles that hold it.</summary>
    public IReadOnlyList<TagName> Bundles { get; init; } = [];

    /// <summary>What was said of it outside.</summary>
    public TagOutside? Outside { get; init; }

    /// <summary>Whether it is a bundle.</summary>
    public bool IsBundle { get; init; }
}

/// <summary>What happens to a line.</summary>
public enum CodebookFate
{
    /// <summary>A tag is made.</summary>
    Added,

    /// <summary>A tag that is there is changed.</summary>
    Changed,

    /// <summary>A tag that is there says the same already.</summary>
    Same,

    /// <summary>The line is left out.</summary>
    Left,
}

/// <summary>By what a tag that is there is known in a line.</summary>
public enum CodebookMatch
{
    /// <summary>By what it is known outside.</summary>
    Id,

    /// <summary>By its name.</summary>
    Name,

    /// <summary>By another name of it.</summary>
    Alias,
}

/// <summary>What of a tag is different from then on.</summary>
public enum CodebookChange
{
    /// <summary>What it is called.</summary>
    Name,

    /// <summary>What it stands under.</summary>
    Place,

    /// <summary>What it is.</summary>
    Definition,

    /// <summary>What it is not.</summary>
    IsNot,

    /// <summary>Its other names.</summary>
    Aliases,

    /// <summary>Whether it is thought through.</summary>
    State,

    /// <summary>Its scale.</summary>
    Scale,

    /// <summary>Its colour.</summary>
    Colour,

    /// <summary>In which bundles it is.</summary>
    Bundles,
}

/// <summary>Why a line is left out.</summary>
public enum CodebookProblem
{
    /// <summary>It has no name.</summary>
    NoName,

    /// <summary>A name in it is longer than <see cref="TagName.Longest"/>.</summary>
    NameTooLong,

    /// <summary>A line before it is of the same tag.</summary>
    Twice,

    /// <summary>It would stand under itself.</summary>
    UnderItself,

    /// <summary>Its name is that of another tag than the one that its id means.</summary>
    NameTaken,
}

/// <summary>A line of a codebook with what happens to it.</summary>
/// <param name="Line">The line.</param>
/// <param name="Fate">What happens to it.</param>
/// <param name="Name">The name of the tag from then on; null when the line is left out.</param>
/// <param name="Above">The names above it, cleaned.</param>
/// <param name="Aliases">All its other names from then on.</param>
/// <param name="TagId">The tag that is there; null when one is made, or the line is left out.</param>
/// <param name="Match">By what it is known; null when there is none.</param>
/// <param name="Problem">Why the line is left out; null when it is not.</param>
/// <param name="Changes">What of the tag that is there is different from then on.</param>
/// <param name="Definition">What it is from then on.</param>
/// <param name="IsNot">What it is not from then on.</param>
/// <param name="Settled">Whether it is thought through from then on.</param>
public sealed record PlannedTag(
    CodebookLine Line,
    CodebookFate Fate,
    TagName? Name,
    IReadOnlyList<TagName> Above,
    IReadOnlyList<TagName> Aliases,
    string Definition,
    string IsNot,
    bool Settled,
    IReadOnlyList<CodebookChange> Changes,
    TagId? TagId,
    CodebookMatch? Match,
    CodebookProblem? Problem
)
{
    /// <summary>Its scale from then on.</summary>
    public Scale? Scale { get; init; }

    /// <summary>Its own colour from then on.</summary>
    public int? Colour { get; init; }

    /// <summary>What was said of it outside, from then on.</summary>
    public TagOutside? Outside { get; init; }

    /// <summary>Bundles that it is put in.</summary>
    public IReadOnlyList<TagName> Bundles { get; init; } = [];
}

/// <summary>
/// What a codebook that comes in does to the tags that are there: each line is matched by id, then by name, then by another name; one that
/// matches nothing makes a tag. No tag goes, and nothing that a tag says is emptied.
/// </summary>
public static class CodebookPlan
{
    /// <summary>The lines in their order, each with what happens to it.</summary>
    public static IReadOnlyList<PlannedTag> Of(IReadOnlyList<CodebookLine> lines, IReadOnlyList<CodebookEntry> there)
    {
        var byKey = there.ToDictionary(t => t.Key);
        var bundlesByName = First(there.Where(t => t.IsBundle).Select(t => (t.Name.Key, t)));
        there = [.. there.Where(t => !t.IsBundle)];
        var byId = there.ToDictionary(t => t.Id);
        var byName = First(there.Select(t => (t.Name.Key, t)));
        var byAlias = First(there.SelectMany(t => t.Aliases.Select(a => (a.Key, t))));
        var taken = new HashSet<TagId>();
        var made = new HashSet<string>();
        return [.. lines.Select(Planned)];

        PlannedTag Planned(CodebookLine line)
        {
            if (line.IsBundle)
                return PlannedBundle(line);
            if (TagName.Read(line.Name, out var length) is not { } name)
                return Left(line, length == 0 ? CodebookProblem.NoName : CodebookProblem.NameTooLong);
            var above = line.Above.Select(a => TagName.Read(a, out _)).OfType<TagName>().ToList();
            if (above.Count < line.Above.Count(a => a.Trim().Length > 0))
                return Left(line, CodebookProblem.NameTooLong);
            if (above.Any(a => a.Key == name.Key))
                return Left(line, CodebookProblem.UnderItself);
            CodebookMatch? match =
                line.Key is { } key && byKey.TryGetValue(key, out var tag) && !tag.IsBundle ? CodebookMatch.Id
                : byName.TryGetValue(name.Key, out tag) ? CodebookMatch.Name
                : byAlias.TryGetValue(name.Key, out tag) ? CodebookMatch.Alias
                : null;
            if (tag is null)
                return made.Add(name.Key)
                    ? new PlannedTag(
                        line,
                        CodebookFate.Added,
                        name,
                        above,
                        Others(line, name, []),
                        line.Definition.Trim(),
                        line.IsNot.Trim(),
                        line.Settled ?? line.Definition.Trim().Length > 0,
                        [],
                        null,
                        null,
                        null
                    )
                    {
                        Scale = line.Scale,
                        Colour = Palette.Nearest(line.Colour),
                        Outside = TagOutside.Of(line),
                        Bundles = Read(line.Bundles),
                    }
                    : Left(line, CodebookProblem.Twice);
            if (!taken.Add(tag.Id))
                return Left(line, CodebookProblem.Twice);
            // A name that the file gives is taken when the id says which tag it is; a tag that was found by another name keeps its own.
            var called = match == CodebookMatch.Id ? name : tag.Name;
            if (called.Key != tag.Name.Key && byName.TryGetValue(called.Key, out var other) && other.Id != tag.Id)
                return Left(line, CodebookProblem.NameTaken);
            var moves = above.Count > 0 && !StandsUnder(tag, above[^1]);
            if (moves && byName.TryGetValue(above[^1].Key, out var under) && WithAbove(under).Any(t => t.Id == tag.Id))
                return Left(line, CodebookProblem.UnderItself);
            var (aliases, definition, isNot) = (
                Others(line, called, tag.Aliases),
                Said(line.Definition, tag.Definition),
                Said(line.IsNot, tag.IsNot)
            );
            var settled = line.Settled ?? tag.Settled;
            // Values that were given stay true: a scale that does not hold them is not taken.
            var scale = line.Scale is { } given && tag.Values.All(given.Fits) ? given : tag.Scale;
            var colour = Palette.Nearest(line.Colour) ?? tag.Colour;
            var outside = TagOutside.Of(line) ?? tag.Outside;
            var bundles = Read(line.Bundles).Where(b => tag.Bundles.All(had => had.Key != b.Key)).ToList();
            CodebookChange[] changes =
            [
                .. called.Shown == tag.Name.Shown ? (CodebookChange[])[] : [CodebookChange.Name],
                .. moves ? [CodebookChange.Place] : (CodebookChange[])[],
                .. definition == tag.Definition ? (CodebookChange[])[] : [CodebookChange.Definition],
                .. isNot == tag.IsNot ? (CodebookChange[])[] : [CodebookChange.IsNot],
                .. aliases.Count == tag.Aliases.Count ? (CodebookChange[])[] : [CodebookChange.Aliases],
                .. settled == tag.Settled ? (CodebookChange[])[] : [CodebookChange.State],
                .. scale == tag.Scale ? (CodebookChange[])[] : [CodebookChange.Scale],
                .. colour == tag.Colour && TagOutside.ColourOf(colour, outside) == TagOutside.ColourOf(tag.Colour, tag.Outside)
                    ? (CodebookChange[])[]
                    : [CodebookChange.Colour],
                .. bundles.Count == 0 ? (CodebookChange[])[] : [CodebookChange.Bundles],
            ];
            var fate = changes.Length == 0 ? CodebookFate.Same : CodebookFate.Changed;
            return new PlannedTag(line, fate, called, above, aliases, definition, isNot, settled, changes, tag.Id, match, null)
            {
                Scale = scale,
                Colour = colour,
                Outside = outside,
                Bundles = bundles,
            };
        }

        // A bundle is known by its id, else by its name; its tags say themselves that they are in it.
        PlannedTag PlannedBundle(CodebookLine line)
        {
            if (TagName.Read(line.Name, out var length) is not { } name)
                return Left(line, length == 0 ? CodebookProblem.NoName : CodebookProblem.NameTooLong);
            CodebookMatch? match =
                line.Key is { } key && byKey.TryGetValue(key, out var bundle) && bundle.IsBundle ? CodebookMatch.Id
                : bundlesByName.TryGetValue(name.Key, out bundle) ? CodebookMatch.Name
                : null;
            if (match is null ? !made.Add(name.Key) : !taken.Add(bundle!.Id))
                return Left(line, CodebookProblem.Twice);
            if (
                byName.ContainsKey(name.Key) || (match is not null && bundlesByName.TryGetValue(name.Key, out var other) && other != bundle)
            )
                return Left(line, CodebookProblem.NameTaken);
            var definition = Said(line.Definition, match is null ? "" : bundle!.Definition);
            CodebookChange[] changes = match is null
                ? []
                :
                [
                    .. name.Shown == bundle!.Name.Shown ? (CodebookChange[])[] : [CodebookChange.Name],
                    .. definition == bundle.Definition ? (CodebookChange[])[] : [CodebookChange.Definition],
                ];
            var fate =
                match is null ? CodebookFate.Added
                : changes.Length == 0 ? CodebookFate.Same
                : CodebookFate.Changed;
            return new PlannedTag(line, fate, name, [], [], definition, "", true, changes, match is null ? null : bundle!.Id, match, null);
        }

        bool StandsUnder(CodebookEntry tag, TagName parent) =>
            tag.ParentId is { } id
            && byId.TryGetValue(id, out var up)
            && (up.Name.Key == parent.Key || up.Aliases.Any(a => a.Key == parent.Key));

        IEnumerable<CodebookEntry> WithAbove(CodebookEntry tag)
        {
            for (CodebookEntry? up = tag; up is not null; up = up.ParentId is { } id ? byId.GetValueOrDefault(id) : null)
                yield return up;
        }

        // A name of another tag is no other name of this one.
        List<TagName> Others(CodebookLine line, TagName own, IReadOnlyList<TagName> had) =>
            [
                .. had,
                .. line
                    .Aliases.Select(a => TagName.Read(a, out _))
                    .OfType<TagName>()
                    .Where(a =>
                        a.Key != own.Key && had.All(h => h.Key != a.Key) && !byName.ContainsKey(a.Key) && !byAlias.ContainsKey(a.Key)
                    )
                    .DistinctBy(a => a.Key),
            ];
    }

    private static List<TagName> Read(IReadOnlyList<string>? names) =>
        [.. (names ?? []).Select(n => TagName.Read(n, out _)).OfType<TagName>().DistinctBy(n => n.Key)];

    private static string Said(string given, string had) => given.Trim().Length > 0 ? given.Trim() : had;

    private static Dictionary<string, CodebookEntry> First(IEnumerable<(string Key, CodebookEntry Tag)> named) =>
        named.GroupBy(n => n.Key).ToDictionary(n => n.Key, n => n.First().Tag);

    private static PlannedTag Left(CodebookLine line, CodebookProblem problem) =>
        new(line, CodebookFate.Left, null, [], [], "", "", false, [], null, null, problem);
}
