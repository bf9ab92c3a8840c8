namespace Vitrine.Core.Access;

/// <summary>What a person may do in the workspace.</summary>
public enum Role
{
    /// <summary>Runs the workspace: invites people, sees every study.</summary>
    Steward,

    /// <summary>Does everything in the studies of their teams, and publishes.</summary>
    Researcher,

    /// <summary>Adds sources and marks; takes away only what is their own.</summary>
    NoteTaker,

    /// <summary>Sees what is published, by its link.</summary>
    Reader,
}
