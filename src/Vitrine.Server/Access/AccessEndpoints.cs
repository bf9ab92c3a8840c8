using System.Globalization;
using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Vitrine.Storage;
using Vitrine.Storage.Access;

namespace Vitrine.Server.Access;

/// <summary>Who is signed in, and what the sign-in page has to offer.</summary>
/// <param name="DemoAccounts">In demo mode only: the accounts that one click signs in to.</param>
/// <param name="LargestFile">Bytes beyond which a file is not worth sending.</param>
internal sealed record Me(Account? Account, bool NeedsSteward, IReadOnlyList<Account> DemoAccounts, long LargestFile);

internal sealed record NewAccount(string Name, string Email, string Password, Role Role);

internal sealed record Credentials(string Email, string Password);

internal sealed record DemoSignIn(long AccountId);

/// <summary>Sign-in by cookie, the first steward, and the one-click door of the demo.</summary>
internal static class AccessEndpoints
{
    public const string Team = "team";
    public const string Publishers = "publishers";
    private const string Guesses = "guesses";

    public static void AddAccess(this IServiceCollection services)
    {
        services.AddSingleton<IPasswordHasher<Account>, PasswordHasher<Account>>();
        services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie(cookie =>
        {
            cookie.Cookie.Name = "vitrine";
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
            cookie.SlidingExpiration = true;
            cookie.Events.OnRedirectToLogin = context => Problems.Of(401, "signed-out", "Sign in to go on.").ExecuteAsync(context.HttpContext);
            cookie.Events.OnRedirectToAccessDenied = context => Problems.Of(403, "not-allowed", "Your role does not allow this. Ask the steward of the workspace.").ExecuteAsync(context.HttpContext);
        });
        services.AddRateLimiter(limiter =>
        {
            limiter.OnRejected = async (context, _) => await Problems.Of(429, "too-often", "That was tried too often. Wait a minute, then try again.").ExecuteAsync(context.HttpContext);
            limiter.AddPolicy(Guesses, http => RateLimitPartition.GetFixedWindowLimiter(
                http.Connection.RemoteIpAddress?.ToString() ?? "", _ => new FixedWindowRateLimiterOptions { PermitLimit = Limits.GuessesAMinute, Window = TimeSpan.FromMinutes(1) }));
        });
        services.AddAuthorizationBuilder()
            .AddPolicy(Team, p => p.RequireRole(nameof(Role.Steward), nameof(Role.Researcher), nameof(Role.NoteTaker)))
            .AddPolicy(Publishers, p => p.RequireRole(nameof(Role.Steward), nameof(Role.Researcher)));
    }

    public static void MapAccess(this WebApplication app, bool demo)
    {
        var api = app.MapGroup("/api").WithTags("Access");
        api.MapGet("/me", (HttpContext http, AccountStore accounts) =>
        {
            var all = accounts.All();
            var id = http.User.FindFirstValue(ClaimTypes.NameIdentifier);
            return new Me(all.FirstOrDefault(a => a.Id.ToString(CultureInfo.InvariantCulture) == id), all.Count == 0, demo ? all : [], Limits.FileBytes);
        });
        api.MapPost("/set-up", async (NewAccount given, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher) =>
        {
            if (accounts.All().Count > 0) throw new Refusal(RefusalKind.Conflict, "This workspace has a steward already. Sign in instead.");
            var account = Add(accounts, hasher, given with { Role = Role.Steward });
            await SignIn(http, account);
            return account;
        }).RequireRateLimiting(Guesses);
        api.MapPost("/sign-in", async (Credentials given, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher) =>
        {
            var found = accounts.FindByEmail(given.Email.Trim());
            if (found is not { } f || hasher.VerifyHashedPassword(f.Account, f.PasswordHash, given.Password) == PasswordVerificationResult.Failed)
            {
                throw Refusal.Because("This address and password do not belong together. Check both and try again.", "password");
            }
            await SignIn(http, f.Account);
            return f.Account;
        }).RequireRateLimiting(Guesses);
        api.MapPost("/sign-out", async (HttpContext http) =>
        {
            await http.SignOutAsync();
            return TypedResults.NoContent();
        });
        api.MapPost("/accounts", (NewAccount given, AccountStore accounts, IPasswordHasher<Account> hasher) => Add(accounts, hasher, given))
            .RequireAuthorization(p => p.RequireRole(nameof(Role.Steward)));
        if (!demo) return;
        api.MapPost("/demo/sign-in", async (DemoSignIn given, HttpContext http, AccountStore accounts) =>
        {
            var account = accounts.Find(given.AccountId) ?? throw Refusal.Missing("account");
            await SignIn(http, account);
            return account;
        });
    }

    private static Account Add(AccountStore accounts, IPasswordHasher<Account> hasher, NewAccount given)
    {
        var name = Given.Text(given.Name, "name", "Type the person’s name.", Limits.Name);
        var email = Given.Text(given.Email, "email", "Type an e-mail address.", Limits.Name);
        if (!email.Contains('@')) throw Refusal.Because("This is not an e-mail address: it has no @.", "email");
        if (given.Password.Length < Limits.ShortestPassword) throw Refusal.Because($"Choose a password of at least {Limits.ShortestPassword} characters; a few words in a row are easy to remember.", "password");
        return accounts.Add(name, email, given.Role, hasher.HashPassword(new Account { Name = name, Email = email }, given.Password));
    }

    private static Task SignIn(HttpContext http, Account account) => http.SignInAsync(new ClaimsPrincipal(new ClaimsIdentity(
        [new(ClaimTypes.NameIdentifier, account.Id.ToString(CultureInfo.InvariantCulture)), new(ClaimTypes.Name, account.Name), new(ClaimTypes.Role, account.Role.ToString())],
        CookieAuthenticationDefaults.AuthenticationScheme)), new AuthenticationProperties { IsPersistent = true });
}
