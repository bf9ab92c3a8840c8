namespace Vitrine.Storage.Catalogue;

/// <summary>
/// Every table of the database, declared once. Trail, undo, search, removal, erasure, the check of a workspace, ownership and live news
/// read it;
/// a test holds it against the schema, so that a table, a link or a column of words cannot be forgotten.
/// </summary>
internal sealed partial class WorkspaceCatalogue
{
    private const string Study = "study_id";

    private readonly Dictionary<string, Declaration> byTable;
    private readonly ILookup<string, (Declaration Of, Link Link)> pointing;
    private readonly IReadOnlySet<string> things;

    public WorkspaceCatalogue(IEnumerable<Declaration> declarations)
    {
        byTable = declarations.ToDictionary(d => d.Table);
        pointing = byTable.Values.SelectMany(d => d.Links.Select(l => (Of: d, Link: l))).ToLookup(p => p.Link.To);
        things = byTable.Values.Where(d => d.Title is not null).Select(d => d.Table).ToHashSet();
    }

    /// <summary>The catalogue of every workspace.</summary>
    public static WorkspaceCatalogue Own { get; } = new([.. Gather(), .. Mark(), .. Sort(), .. Weigh(), .. Show(), .. Aside()]);

    /// <summary>All tables.</summary>
    public IReadOnlyCollection<Declaration> Tables => byTable.Values;

    /// <summary>The declaration of a table.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public Declaration this[string table] =>
        byTable.TryGetValue(table, out var found) ? found : throw new ArgumentException($"{table} is in no catalogue.", nameof(table));

    /// <summary>The declaration of a table, or null.</summary>
    public Declaration? Find(string table) => byTable.GetValueOrDefault(table);

    /// <summary>What points to a table, and by which column; what goes with other rows before what they rest on.</summary>
    public IEnumerable<(Declaration Of, Link Link)> PointingTo(string table) =>
        things.Contains(table) ? pointing[table].Concat(pointing[Link.Anything]) : pointing[table];

    /// <summary>What names rows of a table inside a column.</summary>
    public IEnumerable<(Declaration Of, IdsInside Inside)> NamingInside(string table) =>
        Tables.SelectMany(of => of.Inside.Where(i => i.To == table).Select(i => (of, i)));

    /// <summary>Each link of a table with every table that it can lead to.</summary>
    public IEnumerable<(Link Link, string To)> EndsOf(Declaration of) =>
        of.Links.SelectMany(link => link.KindColumn is null ? [(link, link.To)] : things.Select(to => (link, to)));

    /// <summary>The tables of things: of what has a title.</summary>
    public IReadOnlySet<string> Things => things;

    /// <summary>
    /// A statement that gives <c>id</c> and <c>study_id</c> of the rows <c>x</c> of a table; the study is NULL for what belongs to none.
    /// </summary>
    public string OwnersSql(string table)
    {
        var (joins, row) = ("", "x");
        var at = this[table];
        while (at.StudyBy is { } by && by != Study)
        {
            var next = row + "o";
            joins += $" JOIN {at.Links.Single(l => l.Column == by).To} {next} ON {next}.id = {row}.{by}";
            at = this[at.Links.Single(l => l.Column == by).To];
            row = next;
        }
        var studyId =
            at.StudyBy is not null ? $"{row}.{Study}"
            : at.Table == "study" ? $"{row}.id"
            : "NULL";
        return $"SELECT x.id, {studyId} AS study_id FROM {table} x{joins}";
    }
}
