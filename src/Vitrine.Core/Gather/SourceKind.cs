namespace Vitrine.Core.Gather;

/// <summary>What a source is; breadth of evidence is counted over these kinds.</summary>
public enum SourceKind
{
    Interview,
    UsabilityTest,
    GroupDiscussion,
    FieldNotes,
    Diary,
    Survey,
    Feedback,
    Document,
}
