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

/// <summary>A column that points to a row: of one table, or of anything.</summary>
/// <param name="Column">The column, such as <c>source_id</c>.</param>
/// <param name="To">The table that it points to; <see cref="Anything"/> where another column says which.</param>
/// <param name="Then">What becomes of the row when that one is removed.</param>
/// <param name="Owns">Whether the row that is pointed to is this one's own, and goes when this one goes.</param>
internal sealed record Link(string Column, string To, OnRemoval Then = OnRemoval.Holds, bool Owns = false)
{
    /// <summary>Whatever has a title.</summary>
    public const string Anything = "*";

    /// <summary>The column that says of which table the row is that a link to anything points to; null for a link to one table.</summary>
    public string? KindColumn { get; private init; }

    /// <summary>
    /// The other columns of a row that is there once for what it points to: <c>theme_id</c> of a tag that lies in a theme. Null where there
    /// may be several.
    /// </summary>
    public IReadOnlyList<string>? Once { get; init; }

    /// <summary>Whether it points to the one that stays when two things are merged; else it goes with the other.</summary>
    public bool FollowsMerge { get; init; } = true;

    /// <summary>A link to anything: <c>on</c> for the columns <c>on_kind</c> and <c>on_id</c>.</summary>
    public static Link ToAnything(string name, OnRemoval then) => new($"{name}_id", Anything, then) { KindColumn = $"{name}_kind" };

    /// <summary>The columns in which it stands.</summary>
    public IEnumerable<string> Columns => KindColumn is null ? [Column] : [KindColumn, Column];

    /// <summary>That the row <paramref name="row"/> of a statement points to rows of a table: a condition in SQL.</summary>
    /// <param name="which">To which rows, as SQL says it of their id.</param>
    public string Points(string row, string table, string which = "= @id") =>
        KindColumn is null ? $"{row}.{Column} {which}" : $"({row}.{KindColumn} = '{table}' AND {row}.{Column} {which})";

    /// <summary>The table that the row <paramref name="row"/> of a statement points to, in SQL.</summary>
    public string KindSql(string row) => KindColumn is null ? $"'{To}'" : $"{row}.{KindColumn}";

    /// <summary>The same of a row that stands as JSON.</summary>
    public string PointsInImage(string image, string table, string which = "= @id") =>
        KindColumn is null
            ? $"json_extract({image}, '$.{Column}') {which}"
            : $"(json_extract({image}, '$.{KindColumn}') = '{table}' AND json_extract({image}, '$.{Column}') {which})";

    /// <summary>The table that a row of these values points to; null for none.</summary>
    public string? TableOf(IReadOnlyDictionary<string, object?> row) =>
        KindColumn is null ? To : row.GetValueOrDefault(KindColumn) as string;
}

/// <summary>Ids inside a column of JSON: a list at the top of it.</summary>
/// <param name="Column">The column, such as <c>conditions</c>.</param>
/// <param name="Property">The list, such as <c>tagIds</c>.</param>
/// <param name="To">The table that they point to. One that is removed stays named, and fits nothing.</param>
internal sealed record IdsInside(string Column, string Property, string To);

/// <summary>A row that has no title of its own and ties two things: what uses, and what is used.</summary>
/// <param name="User">The column of what uses the other, such as <c>insight_id</c> of a piece of evidence.</param>
/// <param name="Used">The column of what is used, such as <c>observation_id</c>.</param>
/// <param name="Holds">Whether what is used has what uses it in it: a tag the observations that carry it.</param>
/// <param name="Held">Whether what uses has what is used in it: a bundle its tags.</param>
/// <param name="Live">Whether it uses, with what is used, all that is in that: a theme what a tag of it has in it.</param>
/// <param name="As">What the user is called, where that is not what its kind is called.</param>
internal sealed record Tie(string User, string Used, bool Holds = false, bool Held = false, bool Live = false, string? As = null);

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
    /// Whether its rows only tell what stands in other rows: an undo brings them back where it can, and they never stand in its way.
    /// </summary>
    public bool IsDerived { get; init; }

    /// <summary>
    /// The column that leads to its study: <c>study_id</c>, or a link to what is of a study. Null for what belongs to none.
    /// </summary>
    public string? StudyBy { get; init; }

    /// <summary>Where it points to.</summary>
    public IReadOnlyList<Link> Links { get; init; } = [];

    /// <summary>Ids that stand inside its columns.</summary>
    public IReadOnlyList<IdsInside> Inside { get; init; } = [];

    /// <summary>
    /// How a row is called in a list, a sentence, on a card: its column, or <see cref="ByItsWords"/>. What has a title is a thing: anything
    /// may hang on it. Null for what only ties things or tells something of one.
    /// </summary>
    public string? Title { get; init; }

    /// <summary>The title of what has none but the words that it stands on.</summary>
    public const string ByItsWords = "*";

    /// <summary>What it ties; null for what ties nothing.</summary>
    public Tie? Ties { get; init; }

    /// <summary>What of it is found by words.</summary>
    public Searched? Search { get; init; }

    /// <summary>Columns in which words of people, or about them, may stand: an erasure goes through them.</summary>
    public IReadOnlyList<string> PeoplesWords { get; init; } = [];

    /// <summary>Those of these columns that are texts with form: read by their plain projection, with their references in rows.</summary>
    public IReadOnlyList<string> RichTexts { get; init; } = [];

    /// <summary>Columns of text that hold no words of people: choices, times, tokens, names of formats.</summary>
    public IReadOnlyList<string> Plain { get; init; } = [];

    /// <summary>
    /// Whether <c>start</c> and <c>end</c> are positions in the text of its <c>source_id</c>, which move when that text does.
    /// </summary>
    public bool StandsInText { get; init; }
}
