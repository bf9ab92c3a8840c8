namespace Vitrine.Storage.Gather.Turns;

/// <summary>A name in a transcript and whom it stands for.</summary>
public sealed record Speaker
{
    public SpeakerId Id { get; init; }
    public string Label { get; init; } = "";
    public ParticipantId? ParticipantId { get; init; }
    public bool IsTeam { get; init; }
    public int Turns { get; init; }
}

/// <summary>A stretch of the text to show as one block.</summary>
public sealed record StoredTurn
{
    public int Start { get; init; }
    public int End { get; init; }
    public SpeakerId? SpeakerId { get; init; }
    public int? BeginMs { get; init; }
    public int? EndMs { get; init; }
}
