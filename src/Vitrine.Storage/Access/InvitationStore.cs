using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Access;

/// <summary>An invitation that has not been taken up yet.</summary>
public sealed record Invitation
{
    public InvitationId Id { get; init; }
    public string Name { get; init; } = "";
    public string Email { get; init; } = "";
    public Role Role { get; init; }
    public string InvitedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }
    public DateTimeOffset ExpiresAt { get; init; }
    public bool Expired { get; init; }
}

/// <summary>
/// Invitations by link: who holds the link makes their own account, with the role and the studies that the steward chose.
/// </summary>
public sealed class InvitationStore(Workspace workspace)
{
    /// <summary>How long a link can be used.</summary>
    public const int Days = 14;

    private const string Columns = """
        SELECT i.id, i.name, i.email, i.role, a.name AS invited_by, i.created_at, i.expires_at, i.expires_at <= @now AS expired
        FROM invitation i JOIN account a ON a.id = i.created_by WHERE i.revoked_at IS NULL AND i.account_id IS NULL
        """;

    public IReadOnlyList<Invitation> Open()
    {
        using var connection = workspace.Open();
        return connection.Query<Invitation>(Columns + " ORDER BY i.id DESC", new { now = workspace.Now }).ToList();
    }

    /// <summary>Makes an invitation.</summary>
    /// <returns>The secret of its link, which is not kept.</returns>
    public string Invite(Actor actor, string name, string email, Role role, IReadOnlyList<StudyId> studyIds)
    {
        var token = SecretToken.Make();
        var expires = workspace.Now.AddDays(Days);
        workspace.WriteUntrailed(connection =>
        {
            if (connection.ExecuteScalar<bool>("SELECT count(*) FROM account WHERE email = @email", new { email }))
                throw Refusal.Because("This person has an account already. Add them to the team of a study instead.", "email");
            return connection.Execute(
                """
                INSERT INTO invitation (token_hash, name, email, role, studies, created_by, created_at, expires_at) VALUES
                (@hash, @name, @email, @role, @studies, @AccountId, @Now, @expires)
                """,
                new
                {
                    hash = SecretToken.HashOf(token),
                    name,
                    email,
                    role = StoredName.Of(role),
                    studies = JsonSerializer.Serialize(studyIds),
                    actor.AccountId,
                    workspace.Now,
                    expires,
                }
            );
        });
        return token;
    }

    public void Revoke(InvitationId id) =>
        workspace.WriteUntrailed(connection =>
            connection.Execute("UPDATE invitation SET revoked_at = @Now WHERE id = @id AND account_id IS NULL", new { id, workspace.Now })
        );

    /// <exception cref="Refusal">The link opens nothing: taken up, revoked, too old, or never made.</exception>
    public Invitation Opened(string token)
    {
        using var connection = workspace.Open();
        return Opened(connection, token);
    }

    /// <summary>Makes the account that was invited, in its studies.</summary>
    /// <exception cref="Refusal">The link opens nothing, or the address is taken.</exception>
    public Account Accept(string token, string name, string passwordHash)
    {
        var account = workspace.WriteUntrailed(connection =>
        {
            var invitation = Opened(connection, token);
            var id = AccountStore.Insert(connection, name, invitation.Email, invitation.Role, passwordHash, workspace.Now);
            connection.Execute("UPDATE invitation SET account_id = @id WHERE id = @invitation", new { id, invitation = invitation.Id });
            return AccountStore.Find(id, connection);
        });
        Join(token, account);
        return account;
    }

    private void Join(string token, Account account)
    {
        using var connection = workspace.Open();
        var (studies, by, byName) = connection.QuerySingle<(string, long, string)>(
            "SELECT i.studies, a.id, a.name FROM invitation i JOIN account a ON a.id = i.created_by WHERE i.token_hash = @hash",
            new { hash = SecretToken.HashOf(token) }
        );
        var there = connection.Query<long>("SELECT id FROM study").ToHashSet();
        foreach (var studyId in JsonSerializer.Deserialize<long[]>(studies)!.Where(there.Contains))
        {
            workspace.Write(
                new Actor(by, byName, Role.Steward),
                studyId,
                $"{account.Name} joined the study’s team by invitation",
                writing => writing.Insert("membership", new { studyId, accountId = account.Id })
            );
        }
    }

    private Invitation Opened(SqliteConnection connection, string token)
    {
        var found = connection.QueryFirstOrDefault<Invitation>(
            Columns + " AND i.token_hash = @hash",
            new { hash = SecretToken.HashOf(token), now = workspace.Now }
        );
        return found is { Expired: false }
            ? found
            : throw new Refusal(RefusalKind.NotFound, "This invitation cannot be used any more. Ask the person who sent it for a new one.");
    }
}
