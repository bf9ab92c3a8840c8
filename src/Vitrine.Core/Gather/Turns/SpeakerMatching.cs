namespace Vitrine.Core.Gather.Turns;

/// <summary>Whom a speaker's name in a transcript stands for.</summary>
/// <param name="ParticipantId">The participant, or null.</param>
/// <param name="IsTeam">Whether the speaker is one of the research team.</param>
public sealed record SpeakerMatch(ParticipantId? ParticipantId, bool IsTeam);

/// <summary>How a participant may be called in a transcript.</summary>
public sealed record KnownParticipant(ParticipantId Id, string Code, string Pseudonym, string? RealName);

/// <summary>Guesses whom each speaker is, so that the researcher only has to correct the rest.</summary>
public static class SpeakerMatching
{
    private static readonly HashSet<string> TeamNames = new(StringComparer.OrdinalIgnoreCase)
    {
        "I",
        "Q",
        "Int",
        "Interviewer",
        "Moderator",
        "Mod",
        "Facilitator",
        "Researcher",
        "R",
        "You",
        "Note-taker",
        "Observer",
    };

    /// <summary>
    /// A speaker is a participant when the name is that person's code, pseudonym, "code pseudonym", real name or first name and no one
    /// else's;
    /// a team member when it is a usual word for the role or the name (or first name) of an account.
    /// </summary>
    public static SpeakerMatch Guess(string speaker, IReadOnlyCollection<KnownParticipant> participants, IReadOnlyCollection<string> team)
    {
        var name = speaker.Trim();
        var hits = participants.Where(p => NamesOf(p).Any(n => Same(n, name))).Select(p => p.Id).Distinct().ToList();
        if (hits.Count == 1)
            return new SpeakerMatch(hits[0], false);
        var isTeam = TeamNames.Contains(name) || team.Any(t => Same(t, name) || Same(FirstName(t), name));
        return new SpeakerMatch(null, isTeam && hits.Count == 0);
    }

    /// <summary>Whether a name stands for someone at first sight.</summary>
    public static bool Knows(string name, IReadOnlyCollection<KnownParticipant> participants, IReadOnlyCollection<string> team) =>
        Guess(name, participants, team) is { ParticipantId: not null } or { IsTeam: true };

    private static IEnumerable<string> NamesOf(KnownParticipant p)
    {
        yield return p.Code;
        yield return p.Pseudonym;
        yield return $"{p.Code} {p.Pseudonym}";
        if (string.IsNullOrWhiteSpace(p.RealName))
            yield break;
        yield return p.RealName;
        yield return FirstName(p.RealName);
    }

    private static string FirstName(string name) => name.Trim().Split(' ')[0];

    private static bool Same(string a, string b) => a.Length > 0 && string.Equals(a.Trim(), b, StringComparison.OrdinalIgnoreCase);
}
