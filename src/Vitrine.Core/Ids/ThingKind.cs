namespace Vitrine.Core.Ids;

/// <summary>What has a title, and on which anything may hang. The catalogue of the storage says which tables they stand in.</summary>
#pragma warning disable CS1591 // Each is what its name says.
public enum ThingKind
{
    Study,
    ResearchQuestion,
    Participant,
    Attribute,
    Folder,
    Session,
    Source,
    Attachment,
    Survey,
    LiveLine,
    Watch,
    Tag,
    TagProposal,
    TagSearch,
    SavedFilter,
    Observation,
    MarginNote,
    Theme,
    Insight,
    Exhibit,
}
