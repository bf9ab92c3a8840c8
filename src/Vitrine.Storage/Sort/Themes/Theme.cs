using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Counting;

namespace Vitrine.Storage.Sort.Themes;

/// <summary>A theme with what was laid in it by hand.</summary>
public sealed record Theme
{
    public ThemeId Id { get; init; }
    public ThemeId? ParentId { get; init; }

    /// <summary>Its claim; empty while nobody has said one.</summary>
    public string Title { get; init; } = "";
    public string Description { get; init; } = "";
    public int? Colour { get; init; }

    /// <summary>Its place among its neighbours.</summary>
    public long Position { get; init; }
    public long Version { get; init; }
    public List<TagId> TagIds { get; init; } = [];
    public Dictionary<ObservationId, Stance> Observations { get; init; } = [];
    public List<ResearchQuestionId> QuestionIds { get; init; } = [];

    /// <summary>What a theme without a claim is called in a sentence.</summary>
    public const string Unnamed = "no claim yet";

    internal string Named => Title.Length > 0 ? Title : Unnamed;
}

/// <summary>What is put in a theme, or taken out of it.</summary>
public sealed record Laid(IReadOnlyList<ObservationId> ObservationIds, IReadOnlyList<TagId> TagIds)
{
    public static Laid Nothing { get; } = new([], []);

    /// <summary>In words: "3 observations and 1 tag".</summary>
    public string InWords =>
        string.Join(
            " and ",
            new[] { What(ObservationIds.Count, "observation"), What(TagIds.Count, "tag") }.Where(words => words.Length > 0)
        );

    private static string What(int count, string word) =>
        count switch
        {
            0 => "",
            1 => $"1 {word}",
            _ => $"{count} {word}s",
        };
}

/// <summary>Themes over a study's arrays.</summary>
public static class ThemeIndex
{
    /// <summary>What each theme holds now, by place in the index.</summary>
    public static IReadOnlyList<ThemePiece>[] ContentsOf(this StudyIndex index, IReadOnlyList<Theme> themes)
    {
        var place = themes.Select((t, i) => (t.Id, i)).ToDictionary(x => x.Id, x => x.i);
        return ThemeContents.Of(
            index.Marks,
            [
                .. themes.Select(t => new LaidTheme(
                    t.ParentId is { } parent ? place[parent] : -1,
                    [.. t.TagIds.Select(index.PlaceOfTag).OfType<int>()],
                    t.Observations.Select(o => (Place: index.PlaceOfObservation(o.Key), o.Value))
                        .Where(o => o.Place is not null)
                        .ToDictionary(o => o.Place!.Value, o => o.Value)
                )),
            ]
        );
    }

    /// <summary>What a theme, by its place, holds beside its sub-themes.</summary>
    public static IReadOnlyList<ThemePiece> Beside(this IReadOnlyList<Theme> themes, IReadOnlyList<ThemePiece>[] contents, int theme)
    {
        var below = themes
            .Select((t, i) => (t.ParentId, i))
            .Where(t => t.ParentId == themes[theme].Id)
            .SelectMany(t => contents[t.i])
            .Select(p => p.Observation)
            .ToHashSet();
        return below.Count == 0 ? contents[theme] : [.. contents[theme].Where(p => !below.Contains(p.Observation))];
    }

    /// <summary>What lies in no theme, by place in the index: what nobody has decided about, or what was left out on purpose.</summary>
    public static IReadOnlyList<int> InNone(
        this StudyIndex index,
        IReadOnlyList<ThemePiece>[] contents,
        IReadOnlySet<ObservationId> leftOut,
        bool wasLeftOut
    )
    {
        var sorted = contents.SelectMany(c => c).Select(p => p.Observation).ToHashSet();
        return
        [
            .. Enumerable
                .Range(0, index.Marks.Count)
                .Where(o => !sorted.Contains(o) && leftOut.Contains(index.Observations[o]) == wasLeftOut),
        ];
    }

    /// <summary>What has come into each theme since somebody's last look, by place in the index, its sub-themes included.</summary>
    public static HashSet<int>[] NewIn(
        this StudyIndex index,
        IReadOnlyList<Theme> themes,
        IReadOnlyList<ThemePiece>[] contents,
        CameSince came
    )
    {
        var fresh = themes
            .Select(
                (theme, at) =>
                {
                    var live = theme.TagIds.Select(index.PlaceOfTag).OfType<int>().ToHashSet();
                    var laid = came.Laid[theme.Id].ToHashSet();
                    bool ByTag(ObservationId id) =>
                        came.Tagged[id].Select(index.PlaceOfTag).OfType<int>().Any(t => index.Marks.Tags.CountsFor(t).Any(live.Contains));
                    return contents[at]
                        .Select(p => p.Observation)
                        .Where(o => laid.Contains(index.Observations[o]) || ByTag(index.Observations[o]))
                        .ToHashSet();
                }
            )
            .ToArray();
        var place = themes.Select((t, i) => (t.Id, i)).ToDictionary(x => x.Id, x => x.i);
        // Each is handed to all themes above it.
        for (var at = 0; at < themes.Count; at++)
        {
            for (var above = themes[at].ParentId; above is { } id; above = themes[place[id]].ParentId)
                fresh[place[id]].UnionWith(fresh[at]);
        }
        return fresh;
    }
}
