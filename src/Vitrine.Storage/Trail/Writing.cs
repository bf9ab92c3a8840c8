using System.Collections.Concurrent;
using System.Linq.Expressions;
using System.Reflection;
using System.Text.RegularExpressions;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Core.Ids;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// The only way to change research data. Each insert, update and delete records the row before and after under one action.
/// A write in a study touches that study's rows alone; a note-taker takes away nothing that someone else made; the search index follows
/// every row.
/// Columns <c>key</c>, <c>version</c>, <c>created_by</c>, <c>created_at</c> and <c>updated_at</c> are filled in here.
/// </summary>
public sealed partial class Writing
{
    private static readonly ConcurrentDictionary<Type, (string Column, Func<object, object?> Get)[]> ColumnsByType = new();

    private readonly WorkspaceCatalogue catalogue;
    private readonly StudyId? studyId;
    private readonly string now;
    private readonly StudyOfRow studies;
    private readonly LinksHeld links;
    private readonly HashSet<(long Id, long StudyId)> observations = [];
    private readonly HashSet<long> corrected = [];

    internal Writing(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        Actor actor,
        StudyId? studyId,
        DateTimeOffset now,
        string kind = "do",
        long? reverses = null,
        long? continues = null
    )
    {
        ActionId = continues;
        Connection = connection;
        this.catalogue = catalogue;
        Actor = actor;
        this.studyId = studyId;
        this.now = InstantColumn.Stored(now);
        studies = new StudyOfRow(connection, catalogue);
        links = new LinksHeld(connection, catalogue);
        Kind = kind;
        Reverses = reverses;
    }

    /// <summary>Who writes.</summary>
    public Actor Actor { get; }

    /// <summary>When it is written, as columns hold it.</summary>
    public string Now => now;

    /// <summary>For reading inside the transaction.</summary>
    public SqliteConnection Connection { get; }

    /// <summary>The step in words; may be sharpened while the work goes on, before the first change.</summary>
    public required string Label { get; set; }

    /// <summary>The action, once something has changed.</summary>
    public ActionId? ActionId { get; private set; }

    /// <summary>What has changed so far.</summary>
    internal StepNews News { get; } = new();

    private string Kind { get; }

    private long? Reverses { get; }

    /// <summary>Adds a row; the properties of <paramref name="row"/> are its columns.</summary>
    /// <returns>The row's id.</returns>
    public long Insert(string table, object row)
    {
        var columns = Rows.ColumnsOf(Connection, table);
        var values = Values(row);
        if (Lacks("key"))
            values["key"] = Guid.CreateVersion7().ToString();
        if (Lacks("version"))
            values["version"] = 1L;
        if (Lacks("created_by"))
            values["created_by"] = Actor.AccountId;
        if (Lacks("created_at"))
            values["created_at"] = now;
        if (Lacks("updated_at"))
            values["updated_at"] = now;
        Belongs(table, values);
        var added = Rows.Insert(Connection, table, values);
        var id = (long)added["id"]!;
        studies.Learn(table, id, added);
        Record(table, id, null, added);
        return id;

        bool Lacks(string column) => columns.Contains(column) && !values.ContainsKey(column);
    }

    /// <summary>
    /// Adds many rows of one table at once. It is for tables whose rows have no key and no version of their own, and of which nothing is
    /// searched.
    /// </summary>
    /// <param name="columns">The columns that are given; the others get their defaults.</param>
    /// <param name="rows">The values of each row, in the order of the columns.</param>
    /// <returns>The id of the first; the others follow it.</returns>
    public long InsertAll(string table, IReadOnlyList<string> columns, IReadOnlyList<object?[]> rows)
    {
        if (catalogue[table].Search is not null || Rows.ColumnsOf(Connection, table).Contains("key"))
            throw new ArgumentException($"Rows of {table} are added one by one.", nameof(table));
        if (rows.Count == 0)
            return 0;
        foreach (var row in rows)
        {
            for (var c = 0; c < row.Length; c++)
                row[c] = Stored(row[c]);
        }
        foreach (var tie in studies.Ties(table, columns))
        {
            var at = tie.Select(c => columns.ToList().IndexOf(c)).ToList();
            foreach (var values in rows.Select(row => (row[at[0]], row[at[^1]])).Distinct())
                Belongs(table, new Dictionary<string, object?> { [tie[0]] = values.Item1, [tie[^1]] = values.Item2 });
        }
        ActionId ??= AddAction();
        var first = Rows.InsertAll(Connection, table, columns, rows);
        if (studyId is { } study && studies.Ties(table, columns).Any())
            studies.LearnAll(table, first, rows.Count, study.Value);
        Rows.AddChanges(Connection, ActionId.Value, table, first, first + rows.Count - 1);
        News.AddAll(table, first, columns, rows);
        return first;
    }

    /// <summary>Changes columns of a row. A change that changes nothing is not recorded.</summary>
    /// <exception cref="Refusal">The row is gone.</exception>
    public void Update(string table, long id, object changes)
    {
        var before = Rows.Find(Connection, table, id) ?? throw Refusal.Missing(Words(table));
        var values = Values(changes);
        Belongs(table, before);
        if (Rows.Matches(before, values))
            return;
        Belongs(table, values);
        if (before.TryGetValue("version", out var version))
            values["version"] = (long)version! + 1;
        if (before.ContainsKey("updated_at"))
            values["updated_at"] = now;
        Rows.Update(Connection, table, id, values);
        Record(table, id, before, Rows.Find(Connection, table, id));
    }

    /// <summary>Takes a row away. A row that is gone already stays gone.</summary>
    public void Delete(string table, long id)
    {
        if (Rows.Find(Connection, table, id) is not { } before)
            return;
        Belongs(table, before);
        if (Actor.Role == Role.NoteTaker && before.TryGetValue("created_by", out var maker) && (long)maker! != Actor.AccountId)
        {
            throw new Refusal(
                RefusalKind.NotAllowed,
                $"Someone else made this {Words(table)}; a note-taker takes away only what is their own. Ask a researcher of the study."
            );
        }
        Rows.Delete(Connection, table, id);
        Record(table, id, before, null);
    }

    /// <summary>
    /// Takes a row away with everything that goes with it, what is no research data too; what only points to it lets go. The catalogue says
    /// which is which.
    /// </summary>
    public void Remove(string table, long id)
    {
        if (Rows.Find(Connection, table, id) is not { } row)
            return;
        foreach (var (of, link) in catalogue.PointingTo(table).Where(p => p.Link.Then != OnRemoval.Holds))
        {
            foreach (
                var other in Connection
                    .Query<long>($"SELECT x.id FROM {of.Table} x WHERE {link.Points("x", table)} ORDER BY x.id", new { id })
                    .ToList()
            )
            {
                if (link.Then == OnRemoval.Goes)
                    Remove(of.Table, other);
                else
                    Update(of.Table, other, link.Columns.ToDictionary(c => c, c => link.Then == OnRemoval.MovesUp ? row[c] : null));
            }
        }
        Delete(table, id);
        foreach (var link in catalogue[table].Links.Where(l => l.Owns))
        {
            if (row[link.Column] is long own)
                Remove(link.To, own);
        }
    }

    /// <summary>Takes away every row whose <paramref name="column"/> is <paramref name="value"/>.</summary>
    public void DeleteAll(string table, string column, long value)
    {
        if (!Rows.ColumnsOf(Connection, table).Contains(column))
            throw new ArgumentException($"{table} has no column {column}.", nameof(column));
        foreach (var id in Connection.Query<long>($"SELECT id FROM {table} WHERE {column} = @value ORDER BY id", new { value }))
            Delete(table, id);
    }

    /// <summary>
    /// Ties a thing to exactly the <paramref name="wanted"/> others: rows of a linking table are taken away and added, those that stay are
    /// not touched.
    /// </summary>
    /// <param name="table">The linking table, such as <c>session_participant</c>.</param>
    /// <param name="one">The column of the thing, such as <c>session_id</c>.</param>
    /// <param name="id">The thing.</param>
    /// <param name="other">The column of the others.</param>
    public void Link<TOther>(string table, string one, long id, string other, IReadOnlyList<Id<TOther>> wanted)
    {
        var left = wanted.ToHashSet();
        var there = Connection
            .Query<(long Link, Id<TOther> Other)>($"SELECT id, {other} FROM {table} WHERE {one} = @id ORDER BY id", new { id })
            .ToList();
        foreach (var (link, tied) in there)
        {
            if (!left.Remove(tied))
                Delete(table, link);
        }
        foreach (var tied in wanted.Where(left.Remove))
            Insert(table, new Dictionary<string, object?> { [one] = id, [other] = tied });
    }

    /// <summary>Refuses when the row is not at the version the person saw.</summary>
    /// <exception cref="Refusal">The row is gone, or someone has changed it since.</exception>
    public void Expect(string table, long id, long version)
    {
        var row = Rows.Find(Connection, table, id) ?? throw Refusal.Missing(Words(table));
        Belongs(table, row);
        if ((long)row["version"]! == version)
            return;
        throw new Refusal(
            RefusalKind.Conflict,
            $"{TrailStore.LastChange(Connection, Actor.AccountId, table, id)} Your text is still here: look at theirs, then save again.",
            "version"
        );
    }

    /// <summary>Refuses a row that does not hang on the thing it was asked of.</summary>
    /// <param name="column">The column that tells what it hangs on, such as <c>insight_id</c>.</param>
    /// <exception cref="Refusal">The row is gone, or hangs on something else.</exception>
    public void Expect(string table, long id, string column, long thing)
    {
        if (Rows.Find(Connection, table, id) is not { } row || !Equals(row[column], thing))
            throw Refusal.Missing(Words(table));
        Belongs(table, row);
    }

    /// <summary>
    /// Writes a text that the person saw as <paramref name="was"/>. A text that became what they wrote in the meantime is no quarrel; any
    /// other is refused, with the text that stands there.
    /// </summary>
    /// <exception cref="Refusal">The row is gone, or someone has written another text since.</exception>
    public void Rewrite(string table, long id, string column, string was, string text)
    {
        var row = Rows.Find(Connection, table, id) ?? throw Refusal.Missing(Words(table));
        Belongs(table, row);
        var there = (string)row[column]!;
        if (there != was && there != text)
            throw TwoVersions(table, id, column, there);
        Update(table, id, new Dictionary<string, object?> { [column] = text });
    }

    private Refusal TwoVersions(string table, long id, string column, string theirs) =>
        new(
            RefusalKind.Conflict,
            $"{TrailStore.LastChange(Connection, Actor.AccountId, table, id)} Both versions are kept: choose which one stands.",
            column
        )
        {
            Theirs = theirs,
        };

    /// <summary>
    /// Refuses a row of another study, and a row that is tied to one: as if it were not there, so that nobody learns what is.
    /// </summary>
    private void Belongs(string table, IReadOnlyDictionary<string, object?> row)
    {
        if (studyId is { } study && studies.Of(table, row).Any(s => s != study))
            throw Refusal.Missing(Words(table));
    }

    /// <summary>Brings up what is kept of observations' words, once all that they rest on stands.</summary>
    internal void Finish()
    {
        foreach (var source in corrected)
            observations.UnionWith(
                Connection.Query<(long, long)>("SELECT id, study_id FROM observation WHERE source_id = @source", new { source })
            );
        SearchIndex.FollowObservations(Connection, catalogue, observations);
        links.Hold();
        News.AlsoSourcesOfObservations(Connection);
    }

    private void Record(string table, long id, Dictionary<string, object?>? before, Dictionary<string, object?>? after)
    {
        ActionId ??= AddAction();
        News.Add(catalogue[table], id, (after ?? before)!);
        links.Take(table, id, after);
        SearchIndex.Follow(Connection, catalogue, table, before, after);
        if (table == "observation")
            observations.Add((id, (long)(after ?? before)!["study_id"]!));
        if (table is "correction_look" || (table is "source_text" && before is not null && after is not null))
            corrected.Add((long)(after ?? before)!["source_id"]!);
        Rows.AddChange(
            Connection,
            ActionId.Value,
            table,
            id,
            before is null ? null : Rows.ToImage(before),
            after is null ? null : Rows.ToImage(after)
        );
    }

    private long AddAction()
    {
        return (long)
            Rows.Insert(
                Connection,
                "action",
                new Dictionary<string, object?>
                {
                    ["key"] = (Actor.RequestKey ?? Guid.CreateVersion7()).ToString(),
                    ["account_id"] = Actor.AccountId,
                    ["study_id"] = studyId,
                    ["label"] = Label,
                    ["at"] = now,
                    ["kind"] = Kind,
                    ["reverses"] = Reverses,
                    ["batch"] = Actor.Batch?.ToString(),
                }
            )["id"]!;
    }

    private static Dictionary<string, object?> Values(object row) =>
        row is Dictionary<string, object?> given
            ? given.ToDictionary(c => c.Key, c => Stored(c.Value))
            : ColumnsByType.GetOrAdd(row.GetType(), ColumnsIn).ToDictionary(c => c.Column, c => Stored(c.Get(row)));

    private static (string Column, Func<object, object?> Get)[] ColumnsIn(Type type) =>
        [.. type.GetProperties().Select(p => (ColumnName(p.Name), GetterOf(type, p)))];

    // Compiled once: asked by reflection, the values of a row cost as much as adding it.
    private static Func<object, object?> GetterOf(Type type, PropertyInfo property)
    {
        var row = Expression.Parameter(typeof(object));
        return Expression
            .Lambda<Func<object, object?>>(
                Expression.Convert(Expression.Property(Expression.Convert(row, type), property), typeof(object)),
                row
            )
            .Compile();
    }

    private static object? Stored(object? value) =>
        value switch
        {
            bool yes => yes ? 1L : 0L,
            int whole => (long)whole,
            IId id => id.Value,
            RichText text => RichTextJson.Stored(text),
            Enum choice => StoredName.Of(choice),
            DateOnly day => DayColumn.Stored(day),
            DateTimeOffset instant => InstantColumn.Stored(instant),
            _ => value,
        };

    private static string ColumnName(string property) => WordStart().Replace(property, "_").ToLowerInvariant();

    internal IEnumerable<(Declaration Of, Link Link)> PointingTo(string table) => catalogue.PointingTo(table);

    internal IEnumerable<(Declaration Of, IdsInside Inside)> NamingInside(string table) => catalogue.NamingInside(table);

    /// <summary>What a row of a table is called in a sentence.</summary>
    internal string Words(string table) => catalogue[table].Words;

    [GeneratedRegex("(?<=[a-z0-9])(?=[A-Z])")]
    private static partial Regex WordStart();
}
