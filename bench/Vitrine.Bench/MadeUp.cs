using Dapper;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Trail;

namespace Vitrine.Bench;

/// <summary>A workspace of made-up rows, put in without the trail to have it soon.</summary>
internal sealed class MadeUp
{
    private readonly Random random = new(42);

    public MadeUp(string folder)
    {
        Workspace = new Workspace(folder, TimeProvider.System);
        var una = new AccountStore(Workspace).Add(
            "Una",
            "una@vitrine.example",
            Role.Steward,
            new PasswordHasher<object>().HashPassword("", Screen.Password)
        );
        Actor = new Actor(una.Id, una.Name, una.Role);
        Study = new StudyStore(Workspace).Create(Actor, new StudyText("Made up", "", "", [])).Id!.Value;
    }

    public Workspace Workspace { get; }

    public Actor Actor { get; }

    public long Study { get; }

    /// <summary>Sources with texts of the given length. Some words are common and most are rare, as in speech (Zipf).</summary>
    public void AddSources(int count, int words)
    {
        using var connection = Begin();
        for (var i = 1; i <= count; i++)
        {
            var text = string.Join(' ', Enumerable.Range(0, words).Select(_ => Word(random)));
            connection.Execute(
                """
                INSERT INTO source (id, key, study_id, title, kind, content_hash, length, position, version, created_by, created_at)
                VALUES (@i, @key, @Study, @title, 'interview', @key, @length, @i, 1, 1, '2026-01-01T00:00:00Z')
                """,
                new
                {
                    i,
                    key = Guid.NewGuid().ToString(),
                    Study,
                    title = $"Source {i}",
                    length = text.Length,
                }
            );
            connection.Execute("INSERT INTO source_text (id, source_id, text) VALUES (@i, @i, @text)", new { i, text });
            connection.Execute("INSERT INTO source_search (rowid, text) VALUES (@i, @text)", new { i, text });
        }
        connection.Execute("COMMIT TRANSACTION");
    }

    public void AddPeople(int count, int sources)
    {
        using var connection = Begin();
        for (var i = 1; i <= count; i++)
        {
            connection.Execute(
                """
                INSERT INTO participant (id, key, study_id, code, pseudonym, position, version) VALUES
                (@i, @key, @Study, @code, @code, @i, 1)
                """,
                new
                {
                    i,
                    key = Guid.NewGuid().ToString(),
                    Study,
                    code = $"P{i}",
                }
            );
        }
        for (var s = 1; s <= sources; s++)
            connection.Execute(
                "INSERT INTO source_participant (source_id, participant_id) VALUES (@s, @p)",
                new { s, p = 1 + random.Next(count) }
            );
        connection.Execute("COMMIT TRANSACTION");
    }

    public void AddMarks(int observations, int tags, int sources, int tagsEach)
    {
        using var connection = Begin();
        for (var t = 1; t <= tags; t++)
        {
            connection.Execute(
                "INSERT INTO tag (id, key, name, name_key, version, created_by, created_at) "
                    + "VALUES (@t, @key, @name, @name, 1, 1, '2026-01-01T00:00:00Z')",
                new
                {
                    t,
                    key = Guid.NewGuid().ToString(),
                    name = $"tag {t}",
                }
            );
        }
        using var observation = connection.CreateCommand();
        observation.CommandText = """
            INSERT INTO observation (id, key, study_id, source_id, start, "end", version, created_by, created_at, updated_at)
            VALUES ($id, $key, $study, $source, $start, $end, 1, 1, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z')
            """;
        using var link = connection.CreateCommand();
        link.CommandText =
            "INSERT OR IGNORE INTO observation_tag (observation_id, tag_id, created_by, created_at) "
            + "VALUES ($observation, $tag, 1, '2026-01-01T00:00:00Z')";
        foreach (var name in new[] { "$id", "$study", "$source", "$start", "$end" })
            observation.Parameters.Add(name, SqliteType.Integer);
        observation.Parameters.Add("$key", SqliteType.Text);
        foreach (var name in new[] { "$observation", "$tag" })
            link.Parameters.Add(name, SqliteType.Integer);
        for (var i = 1; i <= observations; i++)
        {
            var start = random.Next(4000);
            (observation.Parameters["$id"].Value, observation.Parameters["$key"].Value, observation.Parameters["$study"].Value) = (
                i,
                Guid.NewGuid().ToString(),
                Study
            );
            (observation.Parameters["$source"].Value, observation.Parameters["$start"].Value, observation.Parameters["$end"].Value) = (
                1 + random.Next(sources),
                start,
                start + 10 + random.Next(150)
            );
            observation.ExecuteNonQuery();
            for (var t = 0; t < tagsEach; t++)
            {
                (link.Parameters["$observation"].Value, link.Parameters["$tag"].Value) = (
                    i,
                    1 + (int)(tags * random.NextDouble() * random.NextDouble())
                );
                link.ExecuteNonQuery();
            }
        }
        connection.Execute("COMMIT TRANSACTION");
        connection.Execute("ANALYZE main");
    }

    /// <summary>A word of 20,000, made of syllables.</summary>
    public static string Word(Random random)
    {
        string[] syllables =
        [
            "ba",
            "de",
            "fi",
            "go",
            "ku",
            "la",
            "me",
            "ni",
            "po",
            "ru",
            "sa",
            "te",
            "vi",
            "wo",
            "zu",
            "cha",
            "shi",
            "tro",
            "ple",
            "gra",
        ];
        var rank = (int)Math.Pow(20_000, random.NextDouble());
        return $"{syllables[rank % 20]}{syllables[rank / 20 % 20]}"
            + $"{syllables[rank / 400 % 20]}{(rank >= 8000 ? syllables[rank / 8000 % 20] : "")}";
    }

    private SqliteConnection Begin()
    {
        var connection = Workspace.Open();
        connection.Execute("BEGIN IMMEDIATE");
        return connection;
    }
}
