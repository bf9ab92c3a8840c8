namespace Vitrine.Core.Gather.Privacy;

/// <summary>What a participant has said to their words being used.</summary>
public enum Consent
{
    /// <summary>Asked, without an answer that was noted.</summary>
    Asked,

    /// <summary>Given: words may be published.</summary>
    Given,

    /// <summary>The words are for the team: they are counted, and are not shown to readers.</summary>
    Limited,

    /// <summary>Taken back: the words are not shown to readers.</summary>
    Withdrawn,
}

/// <summary>What each state allows.</summary>
public static class ConsentRule
{
    /// <summary>Whether a reader outside the team may be shown the participant's words.</summary>
    public static bool WordsMayLeave(Consent consent) => consent is Consent.Asked or Consent.Given;

    /// <summary>
    /// Whether a reader outside the team may hear or see the participant: a voice and a face say more than words, so that silence is not
    /// enough.
    /// </summary>
    public static bool RecordingMayLeave(Consent consent) => consent is Consent.Given;
}
