namespace Vitrine.Core.Ids;

#pragma warning disable CS1591 // Each is what its name says.

/// <summary>
/// What an <see cref="Id{TKind}"/> can be the number of. None of these has objects; Names.cs gives each kind of id its name.
/// </summary>
public static class Kinds
{
    public abstract class Account;

    public abstract class Action;

    public abstract class Attachment;

    public abstract class Attribute;

    public abstract class Channel;

    public abstract class Evidence;

    public abstract class Exhibit;

    public abstract class Feedback;

    public abstract class Folder;

    public abstract class Insight;

    public abstract class Job;

    public abstract class Link;

    public abstract class LiveLine;

    public abstract class MarginNote;

    public abstract class Mask;

    public abstract class Media;

    public abstract class Observation;

    public abstract class Participant;

    public abstract class ResearchQuestion;

    public abstract class Routing;

    public abstract class SavedFilter;

    public abstract class Session;

    public abstract class Settlement;

    public abstract class Source;

    public abstract class Speaker;

    public abstract class Study;

    public abstract class SuggestedGroup;

    public abstract class SuggestedItem;

    public abstract class Suggestion;

    public abstract class Survey;

    public abstract class Tag;

    public abstract class TagSearch;

    public abstract class Theme;

    public abstract class Watch;

    public abstract class LiveNotes;

    public abstract class Invitation;
}

/// <summary>What has a title, and on which anything may hang. The catalogue of the storage says which tables they stand in.</summary>
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
