namespace Vitrine.Core.Gather.Privacy;

/// <summary>What a participant has said to their words being used.</summary>
public enum Consent
{
    /// <summary>Asked, without an answer that was noted: nothing leaves until there is one.</summary>
    Asked,

    /// <summary>Given: words, voice and picture may be published.</summary>
    Given,

    /// <summary>The words are for the team: they are counted, and are not shown to readers.</summary>
    Limited,

    /// <summary>Taken back: the words are not shown to readers.</summary>
    Withdrawn,
}

/// <summary>How a participant has said yes.</summary>
public enum AgreedBy
{
    /// <summary>In a form, such as the one in which they answered.</summary>
    Form,

    /// <summary>By signature.</summary>
    Signature,

    /// <summary>By word.</summary>
    Word,
}

/// <summary>What each state allows.</summary>
public static class ConsentRule
{
    /// <summary>
    /// Whether readers outside the team may be shown the participant's words, hear or see them: only when they have said yes, so that
    /// whoever has not answered stays inside.
    /// </summary>
    public static bool MayLeave(Consent consent) => consent is Consent.Given;

    /// <summary>What is noted of people who come in: that they have said yes, where it is told how.</summary>
    public static Consent Noted(AgreedBy? by) => by is null ? Consent.Asked : Consent.Given;
}
