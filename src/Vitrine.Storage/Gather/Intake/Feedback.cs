using Vitrine.Core.Gather.Intake;

namespace Vitrine.Storage.Gather.Intake;

/// <summary>What became of a piece of feedback in a study.</summary>
public enum RoutingState
{
    Waiting,
    Kept,
    Dismissed,
}

/// <summary>A piece of feedback in a study, and why it is there.</summary>
public sealed record Routing
{
    public RoutingId Id { get; init; }
    public FeedbackId FeedbackId { get; init; }
    public StudyId StudyId { get; init; }

    /// <summary>The watch that put it there; empty when a person did.</summary>
    public string WatchName { get; init; } = "";

    /// <summary>What of the watch it met, in words.</summary>
    public string Met { get; init; } = "";

    public RoutingState State { get; init; }
    public SourceId? SourceId { get; init; }
}

/// <summary>Feedback from outside.</summary>
public sealed record Feedback
{
    public FeedbackId Id { get; init; }
    public ChannelId ChannelId { get; init; }
    public string Sender { get; init; } = "";
    public string Title { get; init; } = "";
    public string Text { get; init; } = "";
    public double? Rating { get; init; }
    public DateTimeOffset WrittenAt { get; init; }
    public List<Routing> Routings { get; init; } = [];
}

/// <summary>Feedback by what became of it in the studies that a person sees.</summary>
public enum FeedbackView
{
    /// <summary>Waits for a decision in a study.</summary>
    Waiting,

    /// <summary>Is a source of a study.</summary>
    Kept,
    Dismissed,

    /// <summary>Went to no study.</summary>
    Nowhere,
    All,
}

/// <summary>How many pieces each <see cref="FeedbackView"/> holds. One that is decided in two studies in two ways counts in both.</summary>
public sealed record FeedbackCounts
{
    public int Waiting { get; init; }
    public int Kept { get; init; }
    public int Dismissed { get; init; }
    public int Nowhere { get; init; }
    public int All { get; init; }
}

/// <summary>Some of much feedback.</summary>
/// <param name="Feedback">Those of the page, the latest first.</param>
/// <param name="Total">How many there are on all pages.</param>
/// <param name="Counts">How many each view holds, whatever words are looked for.</param>
public sealed record FeedbackPage(IReadOnlyList<Feedback> Feedback, int Total, FeedbackCounts Counts);

/// <summary>What has arrived that a rule would route.</summary>
/// <param name="FeedbackId">The piece.</param>
/// <param name="Title">Its title, or its first words when it has none.</param>
/// <param name="Met">What of the rule it meets, in words.</param>
public sealed record Tried(FeedbackId FeedbackId, string Title, string Met);

/// <summary>A rule of a study.</summary>
public sealed record Watch
{
    public WatchId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Name { get; init; } = "";
    public required WatchRule Rule { get; init; }
    public long Version { get; init; }
}
