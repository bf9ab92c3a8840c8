using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Search;

/// <summary>
/// Finds words in texts by their stems, with the same tokenizer as the search: "cancel" finds cancelled and cancellation; words in a row
/// are a phrase.
/// </summary>
internal static class StemSearch
{
    /// <summary>Of each text the given words that are in it, each with how it stands there.</summary>
    public static IReadOnlyDictionary<long, IReadOnlyDictionary<string, string>> Found(
        IReadOnlyList<(long Id, string Text)> texts,
        IReadOnlyCollection<string> words
    )
    {
        using var memory = new SqliteConnection("Data Source=:memory:");
        memory.Open();
        memory.Execute("CREATE VIRTUAL TABLE text USING fts5 (words, tokenize = 'porter unicode61 remove_diacritics 2')");
        using (var all = memory.BeginTransaction())
        {
            foreach (var (id, text) in texts)
                memory.Execute("INSERT INTO text (rowid, words) VALUES (@id, @text)", new { id, text }, all);
            all.Commit();
        }
        var found = texts.ToDictionary(t => t.Id, _ => new Dictionary<string, string>());
        foreach (var word in words)
        {
            if (SearchStore.QueryOf($"\"{word.Replace("\"", " ")}\"") is not { } query)
                continue;
            foreach (
                var (id, marked) in memory.Query<(long, string)>(
                    "SELECT rowid, highlight(text, 0, char(2), char(3)) FROM text WHERE text MATCH @query",
                    new { query }
                )
            )
            {
                var start = marked.IndexOf('\u0002') + 1;
                found[id][word] = marked[start..marked.IndexOf('\u0003', start)];
            }
        }
        return found.ToDictionary(f => f.Key, f => (IReadOnlyDictionary<string, string>)f.Value);
    }
}
