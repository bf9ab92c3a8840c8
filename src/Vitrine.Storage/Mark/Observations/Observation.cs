using Vitrine.Core.Mark.Observations;

namespace Vitrine.Storage.Mark.Observations;

/// <summary>What was marked in a source.</summary>
public sealed record Observation
{
    public ObservationId Id { get; init; }
    public SourceId SourceId { get; init; }
    public required Anchor Anchor { get; init; }
    public string Note { get; init; } = "";
    public Sentiment? Sentiment { get; init; }
    public bool Starred { get; init; }

    /// <summary>Whether the reading is unsure: to be looked at again.</summary>
    public bool Unsure { get; init; }

    /// <summary>Whether a search made it and nobody has looked at it yet: found, not reviewed.</summary>
    public bool Found { get; init; }
    public long Version { get; init; }
    public AccountId CreatedById { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }

    /// <summary>Whether it, or a tag on it, came after its source, which was tagged blind, had been opened.</summary>
    public bool Late { get; init; }
    public List<TagId> TagIds { get; init; } = [];

    /// <summary>Values on the scales of its tags, by tag; only those that were given.</summary>
    public Dictionary<TagId, double> Values { get; init; } = [];
}
