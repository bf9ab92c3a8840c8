using Vitrine.Core.Weigh.Evidence;

namespace Vitrine.Core.Sort.Themes;

/// <summary>Where a theme is thin. Each is said with the figures that it rests on; none of them blocks anything.</summary>
public enum ThinSpot
{
    /// <summary>Nothing says yet what its observations claim together.</summary>
    NoClaim,

    /// <summary>Nothing says yet what it means.</summary>
    NoDescription,

    /// <summary>No observation of an identified person supports it.</summary>
    NobodySupports,

    /// <summary>One person supports it.</summary>
    OnePerson,

    /// <summary>More than half of three or more supporting observations are one person's.</summary>
    MostlyOnePerson,

    /// <summary>All that supports it is of one kind of source.</summary>
    OneKind,

    /// <summary>Groups of participants from whom there is nothing.</summary>
    GroupsNotHeard,

    /// <summary>Nothing contradicts it: nobody has found, or looked for, who says otherwise.</summary>
    NothingAgainst,

    /// <summary>
    /// Among what supports it are two or more obstacles (negative) and two or more of what works (positive), the fewer at least a quarter
    /// of both.
    /// </summary>
    MixesGoodAndBad,
}

/// <summary>What a theme says and rests on.</summary>
/// <param name="Claim">Its title.</param>
/// <param name="Description">What it means.</param>
/// <param name="Facts">What it rests on.</param>
/// <param name="GroupsNotHeard">How many groups there are from whom there is nothing.</param>
/// <param name="Negative">How many of its supporting observations are negative.</param>
/// <param name="Positive">How many are positive.</param>
public sealed record ThemeGround(string Claim, string Description, EvidenceFacts Facts, int GroupsNotHeard, int Negative, int Positive);

/// <summary>Finds where a theme is thin.</summary>
public static class ThinSpots
{
    private const int FewestForShare = 3;

    /// <summary>Where a theme is thin, the weightiest first. What is "most" and "mixed" is our rule: common practice, no source.</summary>
    public static IReadOnlyList<ThinSpot> Of(ThemeGround theme)
    {
        var facts = theme.Facts;
        return
        [
            .. new (ThinSpot Spot, bool Is)[]
            {
                (ThinSpot.NoClaim, theme.Claim.Length == 0),
                (ThinSpot.NoDescription, theme.Description.Length == 0),
                (ThinSpot.NobodySupports, facts.PeopleFor == 0),
                (ThinSpot.OnePerson, facts.PeopleFor == 1),
                (ThinSpot.MostlyOnePerson, facts.PeopleFor > 1 && facts.Supporting >= FewestForShare && facts.LargestShare > 0.5),
                (ThinSpot.OneKind, facts.PeopleFor > 1 && facts.Kinds == 1),
                (ThinSpot.GroupsNotHeard, facts.PeopleFor > 0 && theme.GroupsNotHeard > 0),
                (ThinSpot.NothingAgainst, facts.Supporting > 0 && facts.Contradicting == 0),
                (ThinSpot.MixesGoodAndBad, MixesGoodAndBad(theme.Negative, theme.Positive)),
            }
                .Where(s => s.Is)
                .Select(s => s.Spot),
        ];
    }

    /// <summary>
    /// Whether observations mix obstacles (negative) with what works (positive): two or more of each, the fewer at least a quarter of both.
    /// </summary>
    public static bool MixesGoodAndBad(int negative, int positive)
    {
        var fewer = Math.Min(negative, positive);
        return fewer >= 2 && fewer * 4 >= negative + positive;
    }

    /// <summary>Whether it says too little to support an insight: it needs a claim and a description.</summary>
    public static bool SaysTooLittle(string claim, string description) => claim.Length == 0 || description.Length == 0;
}
