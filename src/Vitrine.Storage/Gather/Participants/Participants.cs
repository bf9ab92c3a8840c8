using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;

namespace Vitrine.Storage.Gather.Participants;

/// <summary>A fact that can be known about each participant of a study.</summary>
public sealed record ParticipantAttribute
{
    public AttributeId Id { get; init; }
    public string Name { get; init; } = "";
    public AttributeKind Kind { get; init; }
}

/// <summary>A person who was studied. The real name stays with the team.</summary>
public sealed record Participant
{
    public ParticipantId Id { get; init; }
    public string Code { get; init; } = "";
    public string Pseudonym { get; init; } = "";
    public string? RealName { get; init; }
    public Consent Consent { get; init; }

    /// <summary>How they have said yes; null where they have not, or it was not noted how.</summary>
    public AgreedBy? AgreedBy { get; init; }

    /// <summary>Whether somebody has begun to read a source they take part in, so that they are in scope.</summary>
    public bool Begun { get; init; }
    public Dictionary<AttributeId, string> Values { get; init; } = [];
}

/// <summary>People of a study, in their fixed order, with the attributes known of them.</summary>
/// <param name="Attributes">The study's attributes.</param>
/// <param name="People">Those of the page.</param>
/// <param name="Total">How many there are on all pages.</param>
public sealed record Participants(IReadOnlyList<ParticipantAttribute> Attributes, IReadOnlyList<Participant> People, int Total);
