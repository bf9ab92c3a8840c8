using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>The catalogue against the schema: a table, a link or a column of words that it does not know fails here.</summary>
public sealed class CatalogueTests : IDisposable
{
    // Columns that are the same everywhere.
    private static readonly string[] Everywhere =
    [
        "id",
        "key",
        "kind",
        "hash",
        "token_hash",
        "content_hash",
        "created_at",
        "updated_at",
        "held_on",
        "type",
        "state",
        "version",
        "created_by",
        "position",
    ];

    private readonly TestWorkspace w = new();
    private readonly SqliteConnection connection;

    public CatalogueTests() => connection = w.Workspace.Open();

    public void Dispose()
    {
        connection.Dispose();
        w.Dispose();
    }

    private List<string> Tables() =>
        connection
            .Query<string>(
                """
                SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'source_search%' AND name NOT LIKE 'searchable%'
                AND name NOT IN ('SchemaVersions', 'sqlite_sequence')
                """
            )
            .ToList();

    [Fact]
    public void Every_table_is_declared_and_every_declared_table_is_there() =>
        Assert.Equal(Tables().Order(), WorkspaceCatalogue.Own.Tables.Select(t => t.Table).Order());

    [Fact]
    public void Every_link_is_declared()
    {
        foreach (var table in Tables())
        {
            var inSchema = connection
                .Query<(string Column, string To)>("SELECT \"from\", \"table\" FROM pragma_foreign_key_list(@table)", new { table })
                .Where(l => l.Column != "created_by");
            Assert.Equal(
                inSchema.Order().Select(l => $"{table}.{l.Column} → {l.To}"),
                WorkspaceCatalogue.Own[table].Links.Select(l => (l.Column, l.To)).Order().Select(l => $"{table}.{l.Column} → {l.To}")
            );
        }
    }

    [Fact]
    public void Every_link_that_a_removal_follows_has_an_index()
    {
        var followed = WorkspaceCatalogue.Own.Tables.SelectMany(t =>
            t.Links.Where(l => l.Then != OnRemoval.Holds && l.To != "study").Select(l => (t.Table, l.Column))
        );
        var missing = followed.Where(f =>
            !connection
                .Query($"EXPLAIN QUERY PLAN SELECT 1 FROM {f.Table} WHERE {f.Column} = 1")
                .Any(p => ((string)p.detail).StartsWith("SEARCH", StringComparison.Ordinal))
        );
        Assert.Empty(missing);
    }

    [Fact]
    public void Every_column_of_text_says_whether_it_holds_words()
    {
        foreach (var table in Tables())
        {
            var declared = WorkspaceCatalogue.Own[table];
            var text = connection
                .Query<string>("SELECT name FROM pragma_table_info(@table) WHERE type = 'TEXT'", new { table })
                .Except(Everywhere)
                .Order();
            Assert.Equal(
                text.Select(c => $"{table}.{c}"),
                declared.PeoplesWords.Concat(declared.Plain).Distinct().Except(Everywhere).Order().Select(c => $"{table}.{c}")
            );
            if (declared.Search is { } search)
                Assert.Superset(search.Words.Append(search.Name ?? search.Words[0]).ToHashSet(), declared.PeoplesWords.ToHashSet());
        }
    }

    [Fact]
    public void Every_thing_leads_to_its_study()
    {
        foreach (var table in WorkspaceCatalogue.Own.Tables.Where(t => t.Table != "reading"))
        {
            connection.Execute($"SELECT * FROM ({WorkspaceCatalogue.Own.OwnersSql(table.Table)}) LIMIT 1");
            Assert.Equal(
                table.StandsInText,
                connection.ExecuteScalar<bool>("SELECT count(*) FROM pragma_table_info(@Table) WHERE name = 'start'", new { table.Table })
            );
        }
    }

    /// <summary>
    /// The interface says of each query which tables it rests on; it knows those that changes are told of, and no others.
    /// </summary>
    [Fact]
    public void The_interface_knows_the_tables()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "Vitrine.slnx")))
            root = Path.GetDirectoryName(root)!;
        var text = File.ReadAllText(Path.Combine(root, "web/src/api/restsOn.ts"));
        var listed = text[
            text.IndexOf("export const tables = [", StringComparison.Ordinal)..text.IndexOf("] as const", StringComparison.Ordinal)
        ]
            .Split('\'')
            .Where((_, i) => i % 2 == 1);
        string[] toldAside = ["job", "recording", "channel", "feedback"];
        Assert.Equal(WorkspaceCatalogue.Own.Tables.Where(t => t.IsTrailed).Select(t => t.Table).Concat(toldAside).Order(), listed.Order());
    }

    /// <summary>A kind of thing that does not exist yet: one declaration and one schema step, and everything knows it.</summary>
    [Fact]
    public void A_new_kind_of_thing_needs_one_declaration_and_one_schema_step()
    {
        const FoundKind Memo = (FoundKind)15;
        var catalogue = new WorkspaceCatalogue([
            .. WorkspaceCatalogue.Own.Tables,
            new Declaration("memo")
            {
                StudyBy = "source_id",
                Links = [new Link("source_id", "source"), new Link("tag_id", "tag", OnRemoval.Goes)],
                Search = new Searched(Memo, "title"),
                PeoplesWords = ["title"],
            },
        ]);
        var workspace = new Workspace(
            w.Workspace.Folder,
            TimeProvider.System,
            catalogue,
            c =>
                c.Execute(
                    """
                    CREATE TABLE memo (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE,
                      source_id INTEGER NOT NULL REFERENCES source (id), tag_id INTEGER NOT NULL REFERENCES tag (id),
                      title TEXT NOT NULL, version INTEGER NOT NULL, created_by INTEGER NOT NULL REFERENCES account (id),
                        created_at TEXT NOT NULL) STRICT;
                    CREATE INDEX memo_by_tag ON memo (tag_id);
                    """
                )
        );
        w.Mark(w.Ida, "standing", "queue");
        var tag = w.Tags.For(w.Study).Single(t => t.Name == "queue").Id;
        var news = new List<string>();
        workspace.Committed += c => news.AddRange(c.News.Tables);
        var (access, undo) = (new StudyAccess(workspace), new Trail.Undo(workspace));
        IEnumerable<long> Found(Viewer? viewer = null) =>
            new SearchStore(workspace, access)
                .Find(viewer ?? new Viewer(w.Ida.AccountId, w.Ida.Role), "quillwort", null, 5)
                .Where(h => h.Kind == Memo)
                .Select(h => h.Id);

        // Made: told in the trail, found by its words, known to be of its study, and news.
        var id = workspace
            .Write(
                w.Ida,
                w.Study,
                "Wrote a memo",
                writing =>
                    writing.Insert(
                        "memo",
                        new
                        {
                            sourceId = w.Source,
                            tagId = tag,
                            title = "Ask Wrenna Quillwort",
                        }
                    )
            )
            .Id!.Value;
        Assert.Equal("Wrote a memo", Assert.Single(new Trail.TrailStore(workspace).Of("memo", id, w.Steward.AccountId, null)).Label);
        Assert.Equal([id], Found());
        Assert.Empty(Found(new Viewer(w.Tom.AccountId, Role.Researcher)));
        Assert.Equal(w.Study, access.OwnersOf(new Viewer(w.Steward.AccountId, Role.Steward), "memo", [id])[id].StudyId);
        Assert.Equal(["memo"], news);

        // Undone and done again.
        undo.Back(w.Ida, w.Study);
        Assert.Empty(Found());
        undo.Again(w.Ida, w.Study);
        Assert.Equal([id], Found());

        // Removed with the tag that it hangs on, and back with it.
        workspace.Write(w.Steward, null, "Removed a tag", writing => writing.Remove("tag", tag));
        Assert.Empty(Found());
        undo.Back(w.Steward, null);
        Assert.Equal([id], Found());

        // Erased: no word of someone who withdrew is left in it.
        w.Participants.Change(w.Ida, w.Study, w.Wren, "P02", "Wren", "Wrenna Quillwort");
        w.Participants.SetConsent(w.Ida, w.Study, [w.Wren], Consent.Withdrawn);
        new Erasure(workspace, new MediaFolder(workspace)).Erase(w.Ida, w.Study, w.Wren);
        Assert.Equal("Ask (erased)", connection.ExecuteScalar<string>("SELECT title FROM memo"));
        Assert.Equal(
            0,
            connection.ExecuteScalar<int>(
                "SELECT count(*) FROM change WHERE coalesce(before, '') || coalesce(after, '') LIKE '%quillwort%'"
            )
        );
    }
}
