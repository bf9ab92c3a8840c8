using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Media;

namespace Vitrine.Storage.Gather.Sources;

/// <summary>A source in a list.</summary>
public sealed record SourceLine
{
    public SourceId Id { get; init; }
    public string Title { get; init; } = "";
    public SourceKind Kind { get; init; }
    public DateOnly? HeldOn { get; init; }
    public string? FileName { get; init; }
    public int Length { get; init; }
    public FolderId? FolderId { get; init; }
    public SessionId? SessionId { get; init; }

    /// <summary>What is added to its own times, in milliseconds, to have those of the recording of its session.</summary>
    public int OffsetMs { get; init; }

    /// <summary>The type of the file as it was given, where it is kept; null for pasted text.</summary>
    public string? MediaType { get; init; }

    /// <summary>How long it lasts, for a recording that was looked at; null for others.</summary>
    public int? LengthMs { get; init; }

    /// <summary>The film of which it is a frame and its moment, or the document of which it is a page; null for what is none.</summary>
    public SourceId? StillOfId { get; init; }
    public int? StillAtMs { get; init; }
    public int? StillPage { get; init; }

    /// <summary>The recording that it was attached to or made from; without one, a transcript runs with that of its session.</summary>
    public SourceId? InStepWithId { get; init; }

    /// <summary>The service that wrote it down; null for people.</summary>
    public WrittenBy? WrittenBy { get; init; }

    /// <summary>Where it arrived, for feedback; null for what was gathered otherwise.</summary>
    public string? Channel { get; init; }

    /// <summary>What its sender rated, on the channel's own scale; null for none.</summary>
    public double? Rating { get; init; }
    public int? Furthest { get; init; }
    public List<Speaker> Speakers { get; init; } = [];

    /// <summary>Who is set on the source itself; for none, its session's participants stand.</summary>
    public List<ParticipantId> ParticipantIds { get; init; } = [];

    /// <summary>Everyone who takes part: those set on it or of its session, and those matched to a speaker.</summary>
    public List<ParticipantId> PeopleIds { get; init; } = [];
}

/// <summary>What wrote a transcript down.</summary>
public enum WrittenBy
{
    /// <summary>The stand-in that ships with Vitrine: the turns are real, the words are not.</summary>
    Simulated,

    /// <summary>Debian's pocketsphinx: real and rough.</summary>
    Pocketsphinx,

    /// <summary>A program of the people who run Vitrine.</summary>
    Program,
}

/// <summary>Some of a study's sources.</summary>
/// <param name="Sources">Those of the page, in order.</param>
/// <param name="Total">How many there are on all pages.</param>
public sealed record SourcePage(IReadOnlyList<SourceLine> Sources, int Total);

/// <summary>How many observations stand in a source.</summary>
public sealed record SourceCount
{
    public SourceId SourceId { get; init; }
    public int Observations { get; init; }
}

/// <summary>A source with its words.</summary>
/// <param name="TextHash">The hash of its text, by which a correction says what it corrects.</param>
/// <param name="Corrected">Whether the text is not the one that came in any more.</param>
public sealed record Source(
    StudyId StudyId,
    SourceLine Line,
    string Text,
    string TextHash,
    bool Corrected,
    IReadOnlyList<StoredTurn> Turns,
    Shape? Shape
)
{
    /// <summary>Its turns as they were read, with the names as the text writes them.</summary>
    public IReadOnlyList<Turn> ReadTurns() =>
        [
            .. Turns.Select(t => new Turn(
                new TextRange(t.Start, t.End),
                Line.Speakers.FirstOrDefault(s => s.Id == t.SpeakerId)?.Label,
                t.BeginMs,
                t.EndMs
            )),
        ];
}

/// <summary>A source to be added.</summary>
/// <param name="Comments">What its file holds beside its words: margin notes, under the writer's name where the file tells it.</param>
public sealed record NewSource(
    string Title,
    SourceKind Kind,
    DateOnly? HeldOn,
    string? FileName,
    string Text,
    IReadOnlyList<Turn> Turns,
    IReadOnlyList<ParticipantId> ParticipantIds,
    Shape? Shape = null,
    NewMedia? Media = null,
    FolderId? FolderId = null,
    SessionId? SessionId = null,
    IReadOnlyList<(TextRange Words, string Note)>? Comments = null,
    SourceId? StillOfId = null,
    int? StillAtMs = null,
    int? StillPage = null,
    SourceId? InStepWithId = null,
    WrittenBy? WrittenBy = null
);

/// <summary>Notes to be added; each must hold words.</summary>
public sealed record NewNotes(
    IReadOnlyList<string> Notes,
    SourceKind Kind,
    DateOnly? HeldOn,
    string Folder,
    SessionId? SessionId,
    IReadOnlyList<ParticipantId> ParticipantIds,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<NewTag> NewTags
);
