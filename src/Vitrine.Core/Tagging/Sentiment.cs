namespace Vitrine.Core.Tagging;

/// <summary>How something was felt, as the researcher reads it.</summary>
public enum Sentiment
{
    Negative,
    Neutral,
    Positive,
    Mixed,
}
