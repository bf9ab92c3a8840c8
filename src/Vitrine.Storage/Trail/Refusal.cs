namespace Vitrine.Storage.Trail;

/// <summary>Why something was not done.</summary>
public enum RefusalKind
{
    NotFound,
    Invalid,
    Conflict,
    NotAllowed,
}

/// <summary>A request that is refused, with a sentence for the person who made it. Nothing was changed.</summary>
public sealed class Refusal(RefusalKind kind, string sentence, string? field = null) : Exception(sentence)
{
    public RefusalKind Kind { get; } = kind;

    /// <summary>The text that stands there now, when two people wrote one text.</summary>
    public string? Theirs { get; init; }

    /// <summary>The input that the sentence is about, if one.</summary>
    public string? Field { get; } = field;

    public static Refusal Missing(string what) =>
        new(RefusalKind.NotFound, $"This {what} is not here any more. Someone may have removed it; reload the page to see what is there.");

    public static Refusal Because(string sentence, string field) => new(RefusalKind.Invalid, sentence, field);
}
