using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>
/// Proves later that nothing is left of what was erased, from hashes that tell nobody's name: eight bytes of SHA-256 under a salt (FIPS
/// 180-4) of every run of six words that only they had said. What others have said in the same words is left out when it is made.
/// </summary>
internal static class ErasureProof
{
    private const int Bytes = 8;

    /// <summary>The salt and the hashes, for an erasure that was just made.</summary>
    public static (byte[] Salt, byte[] Phrases) Of(SqliteConnection connection, WorkspaceCatalogue catalogue, Verbatim said)
    {
        var salt = RandomNumberGenerator.GetBytes(16);
        var runs = said.Runs.ToHashSet();
        foreach (var (_, _, words) in Words(connection, catalogue))
            runs.ExceptWith(Verbatim.RunsOf(words));
        var phrases = new byte[runs.Count * Bytes];
        foreach (var (hash, i) in runs.Select(r => HashOf(salt, r)).Order().Select((h, i) => (h, i)))
            BinaryPrimitives.WriteInt64LittleEndian(phrases.AsSpan(i * Bytes), hash);
        return (salt, phrases);
    }

    /// <summary>Where words stand again that were erased: when, and in which row.</summary>
    public static IEnumerable<(string At, string Table, long Id)> Left(SqliteConnection connection, WorkspaceCatalogue catalogue)
    {
        var erasures = connection
            .Query<(string At, byte[] Salt, byte[] Phrases)>("SELECT at, salt, phrases FROM erasure WHERE length(phrases) > 0")
            .Select(e => (e.At, e.Salt, Hashes: e.Phrases.Chunk(Bytes).Select(b => BinaryPrimitives.ReadInt64LittleEndian(b)).ToHashSet()))
            .ToList();
        if (erasures.Count == 0)
            yield break;
        foreach (var (table, id, words) in Words(connection, catalogue))
        {
            var runs = Verbatim.RunsOf(words).ToList();
            foreach (var (at, salt, hashes) in erasures.Where(e => runs.Exists(p => e.Hashes.Contains(HashOf(e.Salt, p)))))
                yield return (at, table, id);
        }
    }

    /// <summary>Every column in which people's words may stand, and whether its rows say their study.</summary>
    public static IEnumerable<(string Table, string Column, bool OfStudy)> Written(WorkspaceCatalogue catalogue) =>
        catalogue.Tables.SelectMany(t => t.PeoplesWords.Select(c => (t.Table, c, t.StudyBy == "study_id")));

    /// <summary>All words that are kept, and those that the search index holds.</summary>
    private static IEnumerable<(string Table, long Id, string Words)> Words(SqliteConnection connection, WorkspaceCatalogue catalogue)
    {
        foreach (var (table, column, _) in Written(catalogue))
        {
            foreach (
                var (id, words) in connection.Query<(long, string)>(
                    $"SELECT id, \"{column}\" FROM {table} WHERE \"{column}\" <> ''",
                    buffered: false
                )
            )
            {
                var read = new StringBuilder();
                if (catalogue[table].RichTexts.Contains(column))
                    read.Append(RichTextJson.FromStored(words).Plain).Append(" \u0001 ");
                JsonWords.In(
                    words,
                    leaf =>
                    {
                        JsonWords.In(
                            leaf,
                            inner =>
                            {
                                read.Append(inner).Append(" \u0001 ");
                                return inner;
                            }
                        );
                        return leaf;
                    }
                );
                yield return (table, id, read.ToString());
            }
        }
        foreach (
            var (id, words) in connection.Query<(long, string)>(
                "SELECT rowid, name || ' \u0001 ' || words FROM searchable",
                buffered: false
            )
        )
            yield return ("searchable", id, words);
    }

    private static long HashOf(byte[] salt, string phrase)
    {
        Span<byte> hash = stackalloc byte[SHA256.HashSizeInBytes];
        SHA256.HashData([.. salt, .. Encoding.UTF8.GetBytes(phrase)], hash);
        return BinaryPrimitives.ReadInt64LittleEndian(hash);
    }
}
