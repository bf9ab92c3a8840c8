namespace Vitrine.Core.Weigh.Evidence;

/// <summary>A group of participants, all of one attribute value, from whom a claim has no evidence.</summary>
/// <param name="Attribute">The name of the attribute.</param>
/// <param name="Value">The value that they share.</param>
/// <param name="People">How many people in scope are in the group.</param>
public sealed record SilentGroup(string Attribute, string Value, int People);

/// <summary>Finds who is missing behind a claim.</summary>
public static class SilentGroups
{
    /// <summary>
    /// Every attribute value that people in scope share and none of the people with evidence has. Attributes with a value of its own for
    /// each person (numbers, dates) make no groups and are left to the caller to leave out.
    /// </summary>
    /// <param name="valuesInScope">Attribute, value and person, for people in scope.</param>
    /// <param name="withEvidence">People who support or contradict.</param>
    public static IReadOnlyList<SilentGroup> Of(
        IEnumerable<(string Attribute, string Value, ParticipantId Person)> valuesInScope,
        IReadOnlySet<ParticipantId> withEvidence
    ) =>
        valuesInScope
            .GroupBy(v => (v.Attribute, v.Value))
            .Where(g => !g.Any(v => withEvidence.Contains(v.Person)))
            .Select(g => new SilentGroup(g.Key.Attribute, g.Key.Value, g.Count()))
            .ToList();
}
