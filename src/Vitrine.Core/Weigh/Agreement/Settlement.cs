using System.Text.Json.Serialization;

namespace Vitrine.Core.Weigh.Agreement;

/// <summary>What two people come to who have marked the same unit differently.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<Outcome>))]
public enum Outcome
{
    /// <summary>As the first had it.</summary>
    First,

    /// <summary>As the second had it.</summary>
    Second,

    /// <summary>What either had stands.</summary>
    Both,

    /// <summary>Only what both had stands.</summary>
    Neither,

    /// <summary>Nothing changes; it is to be talked about.</summary>
    Talk,
}

/// <summary>A tag on an observation.</summary>
public readonly record struct TagOn(ObservationId Observation, TagId Tag);

/// <summary>Settles a unit that two people have marked differently.</summary>
public static class Settlement
{
    /// <summary>The tags in which they differ there, each with whether it is taken away.</summary>
    /// <param name="first">What the first has on the unit.</param>
    /// <param name="second">What the second has.</param>
    /// <param name="outcome">What they have come to.</param>
    public static IReadOnlyList<(TagOn Mark, bool Taken)> Of(
        IReadOnlyCollection<TagOn> first,
        IReadOnlyCollection<TagOn> second,
        Outcome outcome
    )
    {
        var (ofFirst, ofSecond) = (first.Select(m => m.Tag).ToHashSet(), second.Select(m => m.Tag).ToHashSet());
        return
        [
            .. first.Where(m => !ofSecond.Contains(m.Tag)).Select(m => (m, outcome is Outcome.Second or Outcome.Neither)),
            .. second.Where(m => !ofFirst.Contains(m.Tag)).Select(m => (m, outcome is Outcome.First or Outcome.Neither)),
        ];
    }
}

/// <summary>Over what agreement is counted.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<AgreementUnit>))]
public enum AgreementUnit
{
    /// <summary>Sentences of what participants say.</summary>
    Sentence,

    /// <summary>Their turns.</summary>
    Turn,

    /// <summary>Seconds of sound and film: clips, and words whose time is known.</summary>
    Second,
}
