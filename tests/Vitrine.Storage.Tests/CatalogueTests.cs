using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

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
                WorkspaceCatalogue
                    .Own[table]
                    .Links.Where(l => l.KindColumn is null)
                    .Select(l => (l.Column, l.To))
                    .Order()
                    .Select(l => $"{table}.{l.Column} → {l.To}")
            );
        }
    }

    /// <summary>A row that is there once for what it points to says by which columns; the database holds it to that.</summary>
    [Fact]
    public void What_is_there_once_is_held_by_an_index()
    {
        foreach (
            var (table, link) in WorkspaceCatalogue.Own.Tables.SelectMany(t => t.Links.Select(l => (t, l))).Where(l => l.l.To == "tag")
        )
        {
            var indexes = connection
                .Query<string>("SELECT name FROM pragma_index_list(@Table) WHERE \"unique\" = 1", new { table.Table })
                .Select(index => connection.Query<string>("SELECT name FROM pragma_index_info(@index)", new { index }).ToHashSet())
                .Where(columns => columns.Remove(link.Column));
            if (link.FollowsMerge)
                Assert.All(
                    indexes,
                    columns => Assert.True(link.Once is not null && columns.IsSupersetOf(link.Once), $"{table.Table}.{link.Column}")
                );
        }
    }

    [Fact]
    public void Things_have_a_title_and_a_kind_and_ties_tie_two_of_them()
    {
        var catalogue = WorkspaceCatalogue.Own;
        Assert.Equal(Enum.GetValues<ThingKind>().Select(Thing.Table).Order(), catalogue.Things.Order());
        foreach (var table in catalogue.Tables)
        {
            if (table.Title is { } title && title != Declaration.ByItsWords)
                connection.Execute($"SELECT {title} FROM {table.Table}");
            Assert.False(table.Title is not null && table.Ties is not null, table.Table);
            if (table.Ties is { } tie)
                Assert.All(
                    [tie.User, tie.Used],
                    end => Assert.Contains(table.Links.Single(l => l.Column == end).To, catalogue.Things.Append(Link.Anything))
                );
            foreach (var inside in table.Inside)
                connection.Execute($"SELECT {inside.Column} FROM {table.Table}");
        }
    }

    [Fact]
    public void Every_link_that_a_removal_follows_has_an_index()
    {
        var followed = WorkspaceCatalogue.Own.Tables.SelectMany(t =>
            t.Links.Where(l => l.Then != OnRemoval.Holds && l.To != "study").Select(l => (t.Table, Points: l.Points("x", "tag", "= 1")))
        );
        var missing = followed.Where(f =>
            !connection
                .Query($"EXPLAIN QUERY PLAN SELECT 1 FROM {f.Table} x WHERE {f.Points}")
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
                declared
                    .PeoplesWords.Concat(declared.Plain)
                    .Concat(declared.Links.Select(l => l.KindColumn).OfType<string>())
                    .Distinct()
                    .Except(Everywhere)
                    .Order()
                    .Select(c => $"{table}.{c}")
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

    /// <summary>A kind of thing that does not exist yet: one declaration and one schema step, and everything knows it.</summary>
    [Fact]
    public void A_new_kind_of_thing_needs_one_declaration_and_one_schema_step()
    {
        const FoundKind Memo = (FoundKind)15;
        var catalogue = new WorkspaceCatalogue([
            .. WorkspaceCatalogue.Own.Tables,
            new Declaration("thought")
            {
                StudyBy = "study_id",
                Links = [new Link("study_id", "study"), Link.ToAnything("on", OnRemoval.Goes)],
                Title = "title",
                Search = new Searched(Memo, "title"),
                PeoplesWords = ["title"],
                Plain = ["on_kind"],
            },
        ]);
        var workspace = new Workspace(
            w.Workspace.Folder,
            TimeProvider.System,
            catalogue,
            c =>
                c.Execute(
                    """
                    CREATE TABLE thought (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE,
                      study_id INTEGER NOT NULL REFERENCES study (id), on_kind TEXT NOT NULL, on_id INTEGER NOT NULL,
                      title TEXT NOT NULL, version INTEGER NOT NULL, created_by INTEGER NOT NULL REFERENCES account (id),
                        created_at TEXT NOT NULL) STRICT;
                    CREATE INDEX thought_by_on ON thought (on_kind, on_id);
                    """
                )
        );
        var observation = w.Mark(w.Ida, "standing", "queue", "line").Id!.Value;
        var (tag, into) = (w.Tags.For(w.Study).Single(t => t.Name == "queue").Id, w.Tags.For(w.Study).Single(t => t.Name == "line").Id);
        var news = new List<Changed>();
        workspace.Committed += c => news.Add(c.News.In(c.StudyId));
        var (access, undo) = (new StudyAccess(workspace), new Trail.Undo(workspace));
        var (uses, merge) = (new UsesWalk(connection, catalogue), new TagMerge(workspace, new UsesStore(workspace, access)));
        IEnumerable<long> Found(Viewer? viewer = null) =>
            new SearchStore(workspace, access)
                .Find(viewer ?? new Viewer(w.Ida.AccountId, w.Ida.Role), "quillwort", null, 5)
                .Where(h => h.Kind == Memo)
                .Select(h => h.Id);
        long Write(string onKind, long onId, string title) =>
            workspace
                .Write(
                    w.Ida,
                    w.Study,
                    "Wrote it down",
                    writing =>
                        writing.Insert(
                            "thought",
                            new
                            {
                                studyId = w.Study,
                                onKind,
                                onId,
                                title,
                            }
                        )
                )
                .Id!.Value;
        IEnumerable<long> On(string kind, long thing) => uses.From(kind, [thing]).Keys.Where(u => u.Kind == "thought").Select(u => u.Id);

        // Made: told in the trail of what it hangs on, found by its words, known to be of its study, news, and one of the uses.
        var id = Write("tag", tag.Value, "Ask Wrenna Quillwort");
        Assert.Equal("Wrote it down", new Trail.TrailStore(workspace).Of("tag", tag.Value, w.Steward.AccountId, null)[0].Label);
        Assert.Equal([id], Found());
        Assert.Empty(Found(new Viewer(w.Tom.AccountId, Role.Researcher)));
        Assert.Equal(w.Study, access.OwnersOf(new Viewer(w.Steward.AccountId, Role.Steward), "thought", [id])[id].StudyId);
        Assert.Equal(["thought"], news[^1].Rows.Keys);
        Assert.Equal([id], On("tag", tag.Value));
        Assert.Empty(On("tag", into.Value));
        var other = Write("observation", observation, "How long?");
        Assert.Equal([w.Source], news[^1].Sources);
        Assert.Equal([other], On("source", w.Source.Value));

        // It hangs on something that is there, and of its study.
        Assert.Throws<Refusal>(() => Write("tag", 9_999, "Nothing"));
        Assert.Throws<Refusal>(() => Write("pen", 1, "Nothing"));
        var elsewhere = new StudyStore(workspace).Create(w.Ida, new StudyText("Elsewhere", "", "", [])).Id!.Value;
        Assert.Throws<Refusal>(() => Write("study", 9_999, "Nothing"));
        Assert.Throws<Refusal>(() => Write("theme", w.Themes.Make(w.Ida, elsewhere, "Theirs", "", null, [], []).Id!.Value, "Theirs"));
        Assert.Throws<Refusal>(() =>
            workspace.Write(w.Ida, w.Study, "Took it away alone", writing => writing.Delete("observation", observation))
        );

        // Undone and done again.
        undo.Back(w.Ida, w.Study);
        undo.Back(w.Ida, w.Study);
        Assert.Empty(Found());
        undo.Again(w.Ida, w.Study);
        undo.Again(w.Ida, w.Study);
        Assert.Equal([id], Found());

        // It follows a merge, and comes back with its undo.
        merge.Merge(w.Ida, into, [tag], "", "");
        Assert.Equal([id], On("tag", into.Value));
        undo.Back(w.Ida, null);
        Assert.Equal([id], On("tag", tag.Value));

        // Removed with the tag that it hangs on, and back with it.
        workspace.Write(w.Steward, null, "Removed a tag", writing => writing.Remove("tag", tag.Value));
        Assert.Empty(Found());
        undo.Back(w.Steward, null);
        Assert.Equal([id], Found());

        // Hidden from who tags blind, with the mark that it hangs on.
        access.SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        new BlindStore(workspace).Give(w.Ida, w.Source, [w.Ida.AccountId, w.Tom.AccountId]);
        using (var tom = workspace.OpenFor(w.Tom.AccountId))
            Assert.Equal([id], tom.Query<long>("SELECT id FROM thought"));

        // Erased: no word of someone who withdrew is left in it.
        w.Participants.Change(w.Ida, w.Study, w.Wren, "P02", "Wren", "Wrenna Quillwort");
        w.Participants.SetConsent(w.Ida, w.Study, [w.Wren], Consent.Withdrawn);
        new Erasure(workspace, new MediaFolder(workspace)).Erase(w.Ida, w.Study, w.Wren);
        Assert.Equal("Ask (erased)", connection.ExecuteScalar<string>("SELECT title FROM thought WHERE id = @id", new { id }));
        Assert.Equal(
            0,
            connection.ExecuteScalar<int>(
                "SELECT count(*) FROM change WHERE coalesce(before, '') || coalesce(after, '') LIKE '%quillwort%'"
            )
        );
    }
}
