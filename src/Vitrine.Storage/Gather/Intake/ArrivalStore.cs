using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Storage.Access;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Intake;

/// <summary>How feedback arrives.</summary>
public enum ChannelKind
{
    /// <summary>A made-up feed that ships with Vitrine.</summary>
    Simulated,

    /// <summary>RSS and Atom files.</summary>
    Feed,

    /// <summary>E-mail files.</summary>
    Mail,

    /// <summary>Other programs, over a JSON address with a token.</summary>
    Endpoint,
}

/// <summary>Where feedback arrives.</summary>
public sealed record Channel
{
    public ChannelId Id { get; init; }
    public string Name { get; init; } = "";
    public ChannelKind Kind { get; init; }
    public int Items { get; init; }
}

/// <summary>Feedback that arrives.</summary>
public sealed record NewFeedback(string OuterId, string Sender, string Title, string Text, double? Rating, DateTimeOffset? WrittenAt);

/// <summary>What arrived now: how many pieces are new, how many were here, and how many went to a study.</summary>
public sealed record Arrival(int Added, int Known, int Routed);

/// <summary>
/// Where feedback arrives, and what does. It is post that came in, not yet anybody's work, and is written outside the trail; what people do
/// with it is in <see cref="IntakeStore"/>.
/// </summary>
public sealed class ArrivalStore(Workspace workspace)
{
    public IReadOnlyList<Channel> Channels()
    {
        using var connection = workspace.Open();
        return connection
            .Query<Channel>(
                """
                SELECT c.id, c.name, c.kind, (SELECT count(*) FROM feedback f WHERE f.channel_id = c.id) AS items FROM channel c
                ORDER BY c.id
                """
            )
            .AsList();
    }

    /// <summary>The channel of a kind that has one; made when it is not there.</summary>
    public ChannelId ChannelOf(ChannelKind kind, string name) =>
        workspace.WriteUntrailed(connection =>
            connection.QueryFirstOrDefault<long?>(
                "SELECT id FROM channel WHERE kind = @kind AND token_hash IS NULL",
                new { kind = StoredName.Of(kind) }
            ) ?? Insert(connection, kind, name, null)
        );

    /// <summary>Makes an address for another program.</summary>
    /// <returns>The token, which is shown once and not kept.</returns>
    /// <exception cref="Refusal">There is a channel of that name.</exception>
    public string MakeEndpoint(string name)
    {
        var token = SecretToken.Make();
        workspace.WriteUntrailed(connection =>
            connection.ExecuteScalar<bool>("SELECT count(*) FROM channel WHERE name = @name", new { name })
                ? throw Refusal.Because($"There is a channel “{name}” already. Choose another name.", "name")
                : Insert(connection, ChannelKind.Endpoint, name, SecretToken.HashOf(token))
        );
        Tell("channel");
        return token;
    }

    /// <summary>Ends an address: its token is taken no more. What arrived stays.</summary>
    public void EndEndpoint(ChannelId id)
    {
        workspace.WriteUntrailed(connection =>
            connection.Execute("UPDATE channel SET token_hash = key WHERE id = @id AND kind = 'endpoint'", new { id })
        );
        Tell("channel");
    }

    /// <summary>The channel that a token opens; null for none.</summary>
    public ChannelId? Opened(string token)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM channel WHERE token_hash = @hash AND kind = 'endpoint'",
            new { hash = SecretToken.HashOf(token) }
        );
    }

    /// <summary>
    /// Takes in what arrives on a channel. What is known by its own id is left as it is; the rest passes every watch of every study.
    /// </summary>
    public Arrival Take(ChannelId channelId, IReadOnlyList<NewFeedback> pieces)
    {
        var arrival = workspace.WriteUntrailed(connection =>
        {
            var (added, routed) = (0, 0);
            var watches = IntakeStore.Watches(connection);
            foreach (var piece in pieces)
            {
                var text = CanonicalText.From(piece.Text).Trim();
                var id = connection.QueryFirstOrDefault<long?>(
                    """
                    INSERT INTO feedback (key, channel_id, outer_id, sender, title, text, rating, written_at, created_at) VALUES
                      (@key, @channelId, @OuterId, @Sender, @Title, @text, @Rating, @writtenAt, @now)
                    ON CONFLICT (channel_id, outer_id) DO NOTHING RETURNING id
                    """,
                    new
                    {
                        key = Guid.CreateVersion7().ToString(),
                        channelId,
                        piece.OuterId,
                        piece.Sender,
                        piece.Title,
                        text,
                        piece.Rating,
                        writtenAt = piece.WrittenAt ?? workspace.Now,
                        now = workspace.Now,
                    }
                );
                if (id is not { } made)
                    continue;
                added++;
                var arrived = new Feedback
                {
                    Id = made,
                    ChannelId = channelId,
                    Sender = piece.Sender,
                    Title = piece.Title,
                    Text = text,
                    Rating = piece.Rating,
                };
                foreach (var of in IntakeStore.Meeting([arrived], watches).GroupBy(m => m.Watch.StudyId))
                {
                    // Several watches of one study put it there once, and all are named.
                    connection.Execute(
                        """
                        INSERT INTO routing (key, study_id, feedback_id, watch_name, met, state, created_at) VALUES
                        (@key, @study, @made, @names, @met, 'waiting', @now)
                        """,
                        new
                        {
                            key = Guid.CreateVersion7().ToString(),
                            study = of.Key,
                            made,
                            names = string.Join(", ", of.Select(m => m.Watch.Name)),
                            met = string.Join("; ", of.Select(m => m.Met)),
                            now = workspace.Now,
                        }
                    );
                    routed++;
                }
            }
            return new Arrival(added, pieces.Count - added, routed);
        });
        if (arrival.Added > 0)
            Tell("feedback", "routing");
        return arrival;
    }

    private ChannelId Insert(SqliteConnection connection, ChannelKind kind, string name, string? tokenHash) =>
        connection.ExecuteScalar<long>(
            "INSERT INTO channel (key, name, kind, token_hash, created_at) VALUES (@key, @name, @kind, @tokenHash, @now) RETURNING id",
            new
            {
                key = Guid.CreateVersion7().ToString(),
                name,
                kind = StoredName.Of(kind),
                tokenHash,
                now = workspace.Now,
            }
        );

    private void Tell(params string[] tables) => workspace.Tell(null, 0, tables);
}
