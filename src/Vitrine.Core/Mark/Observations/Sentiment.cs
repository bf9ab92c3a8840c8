namespace Vitrine.Core.Mark.Observations;

/// <summary>How something was felt, as the researcher reads it.</summary>
public enum Sentiment
{
    /// <summary>Against it.</summary>
    Negative,

    /// <summary>Neither.</summary>
    Neutral,

    /// <summary>In its favour.</summary>
    Positive,

    /// <summary>Both at once.</summary>
    Mixed,
}
