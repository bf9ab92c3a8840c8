namespace Vitrine.Core.Sort.Suggestions;

/// <summary>What is suggested.</summary>
public enum SuggestionKind
{
    /// <summary>Themes, from tags.</summary>
    Themes,

    /// <summary>In which of some themes tags or observations belong.</summary>
    Placing,

    /// <summary>A long theme, or a list of observations, in parts.</summary>
    Parts,
}

/// <summary>How something that is suggested came to lie where it lies.</summary>
public enum SuggestedPile
{
    /// <summary>It fits its group.</summary>
    Fits,

    /// <summary>It is as near to another group, and is forced into none.</summary>
    Unsure,

    /// <summary>It has nothing in common with others.</summary>
    Alone,

    /// <summary>It mixes good and bad, and was asked to be held apart.</summary>
    Mixed,

    /// <summary>It would be where somebody has said that it does not belong.</summary>
    Refused,
}

/// <summary>What somebody has said to something that is suggested.</summary>
public enum SuggestionAnswer
{
    /// <summary>Nothing yet.</summary>
    Open,

    /// <summary>Decided later.</summary>
    Later,

    /// <summary>It lies in the theme.</summary>
    Accepted,

    /// <summary>It does not belong there, and is not suggested there again.</summary>
    Refused,
}
