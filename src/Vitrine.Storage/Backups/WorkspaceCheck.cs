using System.Security.Cryptography;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search.Indexing;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Backups;

/// <summary>Whether a workspace is whole: what was looked at, and what is wrong, each in a sentence.</summary>
public sealed record WorkspaceCheck(IReadOnlyList<string> LookedAt, IReadOnlyList<string> Problems)
{
    private const int MostNamed = 20;

    /// <summary>
    /// Looks at everything that a workspace promises: the database itself, links between rows, the search index against the texts,
    /// positions inside their texts, quotes against their ranges, kept files against their hashes.
    /// </summary>
    /// <exception cref="Refusal">There is no workspace in the folder.</exception>
    public static WorkspaceCheck Of(string folder)
    {
        using var connection = DataFolder.Open(folder);
        var (looked, problems) = (new List<string>(), new List<string>());
        problems.AddRange(
            connection
                .Query<string>("PRAGMA integrity_check")
                .Where(line => line != "ok")
                .Select(line => $"The database is damaged: {line}.")
        );
        looked.Add("the database");
        problems.AddRange(
            connection
                .Query<(string Table, long? Row, string Parent)>("SELECT \"table\", rowid, parent FROM pragma_foreign_key_check()")
                .Take(MostNamed)
                .Select(l => $"{l.Table} {l.Row} points to a {l.Parent} that is not there.")
        );
        problems.AddRange(ToNothing(connection).Take(MostNamed));
        looked.Add("links between rows");
        problems.AddRange(OverStudies(connection).Take(MostNamed));
        looked.Add("that nothing reaches into another study");
        Texts(connection, looked, problems);
        Found(connection, problems);
        looked.Add("the search index");
        Files(connection, folder, looked, problems);
        Erased(connection, folder, problems);
        looked.Add("that nothing of what was erased is there");
        return new WorkspaceCheck(looked, problems);
    }

    private static void Texts(SqliteConnection connection, List<string> looked, List<string> problems)
    {
        var observations = Ranges(connection, "observation", "id");
        var masks = Ranges(connection, "mask", "start");
        var turns = Ranges(connection, "turn", "position");
        var (sources, marks) = (0, 0);
        foreach (
            var (id, title, length, hash, text) in connection.Query<(long, string, int, string, string?)>(
                "SELECT s.id, s.title, s.length, s.content_hash, t.text FROM source s LEFT JOIN source_text t ON t.source_id = s.id",
                buffered: false
            )
        )
        {
            sources++;
            if (text is null)
                Say($"has no text");
            else if (text.Length != length || ContentHash.Of(text) != hash)
                Say("has a text of another length or content than is noted of it");
            if (text is null)
                continue;
            if (CanonicalText.From(text) != text)
                Say("has a text that is not in canonical form");
            marks += observations[id].Count();
            if (observations[id].Any(r => r.Start < 0 || r.End > text.Length || r.End <= r.Start))
                Say("has an observation outside its text");
            if (masks[id].Any(r => r.Start < 0 || r.End > text.Length))
                Say("has a mask outside its text");
            if (turns[id].Any(r => r.Start < 0 || r.End > text.Length))
                Say("has a turn outside its text");
            if (turns[id].Zip(turns[id].Skip(1)).Any(pair => pair.Second.Start < pair.First.End))
                Say("has turns that overlap");
            if (
                connection.QueryFirstOrDefault<string>("SELECT shape FROM source_shape WHERE source_id = @id", new { id }) is { } stored
                && JsonSerializer.Deserialize<Shape>(stored)!.Blocks.Any(b => b.Words.End > text.Length)
            )
                Say("has a block outside its text");

            void Say(string what)
            {
                if (problems.Count < MostNamed)
                    problems.Add($"The source “{title}” ({id}) {what}.");
            }
        }
        looked.Add($"the texts of {sources} sources");
        looked.Add($"the places of {marks} observations");
    }

    /// <summary>Links to anything: no foreign key holds them.</summary>
    private static IEnumerable<string> ToNothing(SqliteConnection connection)
    {
        var catalogue = WorkspaceCatalogue.Own;
        foreach (var (table, link) in catalogue.Tables.SelectMany(t => t.Links.Where(l => l.KindColumn is not null).Select(l => (t, l))))
        {
            var there = catalogue.Things.Select(to => link.Points("r", to, $"IN (SELECT id FROM {to})"));
            foreach (
                var row in connection.Query<long>(
                    $"SELECT r.id FROM {table.Table} r WHERE r.{link.Column} IS NOT NULL AND NOT ({string.Join(" OR ", there)})"
                )
            )
                yield return $"The {table.Words} {row} points to something that is not there.";
        }
    }

    private static IEnumerable<string> OverStudies(SqliteConnection connection)
    {
        var catalogue = WorkspaceCatalogue.Own;
        foreach (var table in catalogue.Tables.Where(t => t.StudyBy is not null))
        {
            foreach (var (link, to) in catalogue.EndsOf(table).Where(e => e.To != "study" && catalogue[e.To].StudyBy is not null))
            {
                var rows = connection.Query<long>(
                    $"""
                    SELECT r.id FROM {table.Table} r JOIN ({catalogue.OwnersSql(table.Table)}) a ON a.id = r.id
                    JOIN ({catalogue.OwnersSql(to)}) b ON {link.Points("r", to, "= b.id")} WHERE a.study_id <> b.study_id
                    """
                );
                foreach (var row in rows)
                    yield return $"The {table.Words} {row} points to a {catalogue[to].Words} of another study.";
            }
        }
    }

    private static ILookup<long, (int Start, int End)> Ranges(SqliteConnection connection, string table, string order) =>
        connection
            .Query<(long Source, int Start, int End)>(
                $"SELECT source_id, start, \"end\" FROM {table} WHERE start IS NOT NULL ORDER BY source_id, {order}"
            )
            .ToLookup(r => r.Source, r => (r.Start, r.End));

    private static void Found(SqliteConnection connection, List<string> problems)
    {
        problems.AddRange(SearchIndex.Broken(connection).Select(index => $"The search index {index} does not agree with the texts."));
        problems.AddRange(
            SearchIndex
                .Disagreeing(connection, WorkspaceCatalogue.Own)
                .Take(MostNamed)
                .Select(d => $"The search index holds other words for {d.Table} {d.Id} than stand there.")
        );
    }

    private static void Files(SqliteConnection connection, string folder, List<string> looked, List<string> problems)
    {
        var files = connection
            .Query<(string Hash, string Name, long Bytes)>("SELECT hash, name, bytes FROM media")
            .DistinctBy(f => f.Hash)
            .ToList();
        foreach (var (hash, name, bytes) in files)
        {
            var path = DataFolder.MediaPath(folder, hash);
            if (!File.Exists(path))
                problems.Add($"The kept file “{name}” ({hash}) is missing.");
            else if (new FileInfo(path).Length != bytes || HashOf(path) != hash)
                problems.Add($"The kept file “{name}” ({hash}) is not what it was.");
        }
        var lost = MediaFolderNames(folder).Except(MediaFolder.Named(connection)).ToList();
        problems.AddRange(
            lost.Take(MostNamed).Select(f => $"Nothing names the kept file {f}; it is taken away when the server starts next.")
        );
        looked.Add($"{files.Count} kept files");
    }

    /// <summary>What was erased is known by hashes alone: of runs of words, and of files.</summary>
    private static void Erased(SqliteConnection connection, string folder, List<string> problems)
    {
        problems.AddRange(
            ErasureProof
                .Left(connection, WorkspaceCatalogue.Own)
                .Take(MostNamed)
                .Select(e => $"Words that were erased at {e.At} stand in {e.Table} {e.Id}. Remove them there, and erase again if need be.")
        );
        var there = MediaFolderNames(folder).Concat(MadeFolderNames(folder)).ToHashSet();
        problems.AddRange(
            connection
                .Query<(string At, string Files)>("SELECT at, files FROM erasure")
                .SelectMany(e => JsonSerializer.Deserialize<string[]>(e.Files)!.Where(there.Contains).Select(f => (e.At, File: f)))
                .Take(MostNamed)
                .Select(e => $"The file {e.File}, which was erased at {e.At}, is there again. Remove what it belongs to.")
        );
    }

    private static IEnumerable<string> MadeFolderNames(string folder) =>
        Directory.Exists(Path.Combine(folder, "made"))
            ? Directory.EnumerateDirectories(Path.Combine(folder, "made")).Select(f => Path.GetFileName(f))
            : [];

    private static IEnumerable<string> MediaFolderNames(string folder) =>
        Directory.Exists(Path.Combine(folder, "media"))
            ? Directory.EnumerateFiles(Path.Combine(folder, "media"), "*", SearchOption.AllDirectories).Select(f => Path.GetFileName(f))
            : [];

    private static string HashOf(string path)
    {
        using var file = File.OpenRead(path);
        return Convert.ToHexStringLower(SHA256.HashData(file));
    }
}
