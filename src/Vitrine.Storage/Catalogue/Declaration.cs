namespace Vitrine.Storage.Catalogue;

/// <summary>What becomes of a row when the row that it points to is removed.</summary>
internal enum OnRemoval
{
    /// <summary>The removal is refused while it points there.</summary>
    Holds,

    /// <summary>It goes along.</summary>
    Goes,

    /// <summary>It stays, and points to nothing.</summary>
    LetsGo,

    /// <summary>It stays, and points to what the removed row pointed to: a child moves up to its grandparent.</summary>
    MovesUp,
}

/// <summary>A column that points to a row of a table.</summary>
/// <param name="Column">The column, such as <c>source_id</c>.</param>
/// <param name="To">The table that it points to.</param>
/// <param name="Then">What becomes of the row when that one is removed.</param>
/// <param name="Owns">Whether the row that is pointed to is this one's own, and goes when this one goes.</param>
internal sealed record Link(string Column, string To, OnRemoval Then = OnRemoval.Holds, bool Owns = false);

/// <summary>What of a row is found by words.</summary>
/// <param name="Kind">As what it is found.</param>
/// <param name="Name">The column of its name, which weighs more; null when it has none.</param>
/// <param name="Words">The columns of its other words.</param>
internal sealed record Searched(FoundKind Kind, string? Name, params string[] Words);

/// <summary>One table, declared once.</summary>
internal sealed record Declaration(string Table)
{
    /// <summary>What a row of it is called in a sentence.</summary>
    public string Words { get; init; } = Table.Replace('_', ' ');

    /// <summary>Whether it is research data: changed only through the trail.</summary>
    public bool IsTrailed { get; init; } = true;

    /// <summary>
    /// The column that leads to its study: <c>study_id</c>, or a link to what is of a study. Null for what belongs to none.
    /// </summary>
    public string? StudyBy { get; init; }

    /// <summary>Where it points to.</summary>
    public IReadOnlyList<Link> Links { get; init; } = [];

    /// <summary>What of it is found by words.</summary>
    public Searched? Search { get; init; }

    /// <summary>Columns in which words of people, or about them, may stand: an erasure goes through them.</summary>
    public IReadOnlyList<string> PeoplesWords { get; init; } = [];

    /// <summary>Columns of text that hold no words of people: choices, times, tokens, names of formats.</summary>
    public IReadOnlyList<string> Plain { get; init; } = [];

    /// <summary>
    /// Whether <c>start</c> and <c>end</c> are positions in the text of its <c>source_id</c>, which move when that text does.
    /// </summary>
    public bool StandsInText { get; init; }
}
