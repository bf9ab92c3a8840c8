using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Access;

/// <summary>A person who can sign in.</summary>
public sealed record Account
{
    public AccountId Id { get; init; }
    public string Name { get; init; } = "";
    public string Email { get; init; } = "";
    public Role Role { get; init; }

    /// <summary>Whether the account was closed: its name stays in the trail, nobody signs in with it.</summary>
    public bool Closed { get; init; }
}

/// <summary>Accounts. They are not research data: no trail, no undo.</summary>
public sealed class AccountStore(Workspace workspace)
{
    private const string Columns = "SELECT id, name, email, role, closed_at IS NOT NULL AS closed FROM account ";

    public IReadOnlyList<Account> All()
    {
        using var connection = workspace.Open();
        return connection.Query<Account>(Columns + "ORDER BY id").ToList();
    }

    public Account? Find(AccountId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<Account>(Columns + "WHERE id = @id", new { id });
    }

    /// <summary>The open account of an address with its password hash.</summary>
    public (Account Account, string PasswordHash)? FindByEmail(string email)
    {
        using var connection = workspace.Open();
        var account = connection.QueryFirstOrDefault<Account>(Columns + "WHERE email = @email AND closed_at IS NULL", new { email });
        return account is null ? null : (account, PasswordHashOf(account.Id));
    }

    public string PasswordHashOf(AccountId id)
    {
        using var connection = workspace.Open();
        return connection.ExecuteScalar<string>("SELECT password_hash FROM account WHERE id = @id", new { id })!;
    }

    /// <summary>What a sign-in cookie must hold to be good; null when the account is closed or gone.</summary>
    public string? StampOf(AccountId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<string>(
            "SELECT stamp || ' ' || role FROM account WHERE id = @id AND closed_at IS NULL",
            new { id }
        );
    }

    /// <exception cref="Refusal">The address is taken.</exception>
    public Account Add(string name, string email, Role role, string passwordHash) =>
        workspace.WriteUntrailed(connection => Find(Insert(connection, name, email, role, passwordHash, workspace.Now), connection));

    /// <summary>Makes the first account, the steward's; two at once make one.</summary>
    /// <exception cref="Refusal">There is an account already.</exception>
    public Account AddFirst(string name, string email, string passwordHash) =>
        workspace.WriteUntrailed(connection =>
            connection.ExecuteScalar<bool>("SELECT count(*) FROM account")
                ? throw new Refusal(RefusalKind.Conflict, "This workspace has a steward already. Sign in instead.")
                : Find(Insert(connection, name, email, Role.Steward, passwordHash, workspace.Now), connection)
        );

    /// <summary>Ends every sign-in of an account.</summary>
    public void SignOutEverywhere(AccountId id) => Change(id, "stamp = @stamp", new { id, stamp = NewStamp() });

    /// <summary>Sets a new password, which ends every sign-in.</summary>
    public void SetPassword(AccountId id, string passwordHash) =>
        Change(
            id,
            "password_hash = @passwordHash, stamp = @stamp",
            new
            {
                id,
                passwordHash,
                stamp = NewStamp(),
            }
        );

    /// <summary>Changes what an account may do, or closes and opens it.</summary>
    /// <exception cref="Refusal">It would leave the workspace without a steward.</exception>
    public Account SetRole(AccountId id, Role role, bool closed) =>
        workspace.WriteUntrailed(connection =>
        {
            var others = connection.ExecuteScalar<int>(
                "SELECT count(*) FROM account WHERE role = 'steward' AND closed_at IS NULL AND id <> @id",
                new { id }
            );
            if (others == 0 && (role != Role.Steward || closed))
                throw Refusal.Because("A workspace needs a steward. Make someone else steward first.", "role");
            var found = connection.Execute(
                """
                UPDATE account SET role = @role, closed_at = CASE WHEN @closed THEN coalesce(closed_at, @now) END, stamp = @stamp
                WHERE id = @id
                """,
                new
                {
                    id,
                    role = StoredName.Of(role),
                    closed,
                    now = workspace.Now,
                    stamp = NewStamp(),
                }
            );
            return found == 1 ? Find(id, connection) : throw Refusal.Missing("account");
        });

    internal static AccountId Insert(
        SqliteConnection connection,
        string name,
        string email,
        Role role,
        string passwordHash,
        DateTimeOffset at
    )
    {
        if (connection.ExecuteScalar<bool>("SELECT count(*) FROM account WHERE email = @email", new { email }))
            throw Refusal.Because("There is an account with this e-mail address already. Sign in with it.", "email");
        var values = new
        {
            key = Guid.CreateVersion7().ToString(),
            name,
            email,
            role = StoredName.Of(role),
            passwordHash,
            at,
            stamp = NewStamp(),
        };
        return connection.ExecuteScalar<long>(
            """
            INSERT INTO account (key, name, email, role, password_hash, created_at, stamp) VALUES
            (@key, @name, @email, @role, @passwordHash, @at, @stamp) RETURNING id
            """,
            values
        );
    }

    internal static Account Find(AccountId id, SqliteConnection connection) =>
        connection.QuerySingle<Account>(Columns + "WHERE id = @id", new { id });

    private void Change(AccountId id, string set, object values) =>
        workspace.WriteUntrailed(connection =>
            connection.Execute($"UPDATE account SET {set} WHERE id = @id", values) == 1 ? id : throw Refusal.Missing("account")
        );

    private static string NewStamp() => Guid.NewGuid().ToString("N");
}
