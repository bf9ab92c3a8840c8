namespace Vitrine.Core.Gather.Sources;

/// <summary>What a source is; breadth of evidence is counted over these kinds.</summary>
public enum SourceKind
{
    /// <summary>An interview.</summary>
    Interview,

    /// <summary>A usability test.</summary>
    UsabilityTest,

    /// <summary>A group discussion.</summary>
    GroupDiscussion,

    /// <summary>Notes of the team from where they were.</summary>
    FieldNotes,

    /// <summary>What somebody wrote over days.</summary>
    Diary,

    /// <summary>Answers of one person to a survey.</summary>
    Survey,

    /// <summary>A piece of feedback from outside.</summary>
    Feedback,

    /// <summary>Anything else that is written.</summary>
    Document,
}
