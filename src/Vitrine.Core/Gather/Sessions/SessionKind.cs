using Vitrine.Core.Gather.Sources;

namespace Vitrine.Core.Gather.Sessions;

/// <summary>What was held.</summary>
public enum SessionKind
{
    /// <summary>One person asked by one of the team.</summary>
    Interview,

    /// <summary>Somebody tries something while the team watches.</summary>
    UsabilityTest,

    /// <summary>Several people talk with each other.</summary>
    GroupDiscussion,

    /// <summary>The team goes to where people work or live.</summary>
    Visit,
}

/// <summary>What a session of its own would be for a source that has none.</summary>
public static class SessionGuess
{
    private const double MillisecondsInMinute = 60_000;

    /// <summary>
    /// The session that a source of this kind comes of; null for what is not said in a session (a survey, feedback, a diary, a document).
    /// </summary>
    public static SessionKind? KindOf(SourceKind source) =>
        source switch
        {
            SourceKind.Interview => SessionKind.Interview,
            SourceKind.UsabilityTest => SessionKind.UsabilityTest,
            SourceKind.GroupDiscussion => SessionKind.GroupDiscussion,
            SourceKind.FieldNotes => SessionKind.Visit,
            _ => null,
        };

    /// <summary>
    /// Whole minutes from the start to the last moment that is known in a source, rounded up; null when no time is known.
    /// </summary>
    /// <param name="lastMs">The latest beginning or end of a turn, in milliseconds from the start.</param>
    public static int? MinutesOf(int? lastMs) => lastMs is > 0 and var ms ? (int)Math.Ceiling(ms / MillisecondsInMinute) : null;
}
