using Dapper;

namespace Vitrine.Storage.Access;

/// <summary>What a person may do in the workspace.</summary>
public enum Role
{
    Steward,
    Researcher,
    NoteTaker,
    Reader,
}

/// <summary>A person who can sign in.</summary>
public sealed record Account
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string Email { get; init; } = "";
    public Role Role { get; init; }
}

/// <summary>Accounts. They are not research data: no trail, no undo.</summary>
public sealed class AccountStore(Workspace workspace)
{
    private const string Columns = "SELECT id, name, email, role FROM account ";

    public IReadOnlyList<Account> All()
    {
        using var connection = workspace.Open();
        return connection.Query<Account>(Columns + "ORDER BY id").ToList();
    }

    public Account? Find(long id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<Account>(Columns + "WHERE id = @id", new { id });
    }

    /// <summary>The account of an address with its password hash.</summary>
    public (Account Account, string PasswordHash)? FindByEmail(string email)
    {
        using var connection = workspace.Open();
        var account = connection.QueryFirstOrDefault<Account>(Columns + "WHERE email = @email", new { email });
        return account is null ? null : (account, connection.ExecuteScalar<string>("SELECT password_hash FROM account WHERE id = @Id", account)!);
    }

    /// <exception cref="Refusal">The address is taken.</exception>
    public Account Add(string name, string email, Role role, string passwordHash) => workspace.WriteUntrailed(connection =>
    {
        if (connection.ExecuteScalar<bool>("SELECT count(*) FROM account WHERE email = @email", new { email })) throw Refusal.Because("There is an account with this e-mail address already. Sign in with it.", "email");
        var values = new { key = Guid.CreateVersion7().ToString(), name, email, role = char.ToLowerInvariant(role.ToString()[0]) + role.ToString()[1..], passwordHash, at = workspace.Now };
        var id = connection.ExecuteScalar<long>("INSERT INTO account (key, name, email, role, password_hash, created_at) VALUES (@key, @name, @email, @role, @passwordHash, @at) RETURNING id", values);
        return new Account { Id = id, Name = name, Email = email, Role = role };
    });
}
