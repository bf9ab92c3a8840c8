using Vitrine.Core.Sort.Suggestions;

namespace Vitrine.Storage.Sort.Suggestions;

/// <summary>Suggestions that were asked for at once.</summary>
public sealed record Suggestion
{
    public SuggestionId Id { get; init; }
    public StudyId StudyId { get; init; }
    public SuggestionKind Kind { get; init; }

    /// <summary>The theme that is broken up.</summary>
    public ThemeId? ThemeId { get; init; }

    /// <summary>Whether somebody is done with it.</summary>
    public bool PutAway { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }

    /// <summary>How many things are suggested somewhere.</summary>
    public int Items { get; init; }

    /// <summary>How many of them were said yes or no to.</summary>
    public int Answered { get; init; }
}

/// <summary>What may become a theme, or is one.</summary>
public sealed record SuggestedGroupRow
{
    public SuggestedGroupId Id { get; init; }

    /// <summary>Its claim, as far as somebody has written one; that of its theme where it is one.</summary>
    public string Title { get; init; } = "";

    /// <summary>The theme that it is, or has become.</summary>
    public ThemeId? ThemeId { get; init; }
}

/// <summary>A tag or an observation that may belong somewhere.</summary>
public sealed record SuggestedItemRow
{
    public SuggestedItemId Id { get; init; }

    /// <summary>Where it may belong, or was put; null for nowhere, and for what is looked up each time anew.</summary>
    public SuggestedGroupId? GroupId { get; init; }
    public SuggestedPile Pile { get; init; }
    public TagId? TagId { get; init; }
    public ObservationId? ObservationId { get; init; }
    public SuggestionAnswer Answer { get; init; }
}

/// <summary>Suggestions with all that is in them.</summary>
public sealed record SuggestionWhole(Suggestion Head, IReadOnlyList<SuggestedGroupRow> Groups, IReadOnlyList<SuggestedItemRow> Items);

/// <summary>A tag or an observation.</summary>
public readonly record struct Suggested(TagId? TagId, ObservationId? ObservationId);

/// <summary>A group to be suggested.</summary>
/// <param name="ThemeId">The theme that it is; null where it may become one.</param>
public sealed record NewSuggestedGroup(ThemeId? ThemeId);

/// <summary>A thing to be suggested somewhere.</summary>
/// <param name="Group">In which of the groups, by its place; null for none.</param>
public sealed record NewSuggestedItem(Suggested Thing, int? Group, SuggestedPile Pile);

/// <summary>What was refused in one group.</summary>
/// <param name="Refused">What does not belong with the others.</param>
/// <param name="All">All that was in the group.</param>
/// <param name="ThemeId">The theme that it was suggested for.</param>
public sealed record RefusedGroup(IReadOnlyList<Suggested> Refused, IReadOnlyList<Suggested> All, ThemeId? ThemeId);

/// <summary>An answer to one thing.</summary>
/// <param name="GroupId">The group that is meant; null for the one in which it lies.</param>
public sealed record AnsweredItem(SuggestedItemId ItemId, SuggestedGroupId? GroupId);
