namespace Vitrine.Storage.Catalogue;

/// <summary>What has a title, and on which anything may hang: the things of the catalogue.</summary>
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
