using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Vitrine.Core.Access;
using Vitrine.Formats;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Access;

/// <summary>Who is signed in, and what the sign-in page has to offer.</summary>
/// <param name="Loading">Whether the demo is still being loaded, so that nobody can come in yet.</param>
/// <param name="DemoAccounts">In demo mode only: the accounts that one click signs in to.</param>
/// <param name="LargestFile">Bytes beyond which a file is not worth sending.</param>
/// <param name="FileEndings">The endings of files that can be taken in.</param>
/// <param name="PageToken">Goes into the header X-Vitrine-Token of every write.</param>
/// <param name="Commits">Writes since the server started. When the live line, once it stands, tells another number, the page has missed
/// something.</param>
internal sealed record Me(
    Account? Account,
    bool NeedsSteward,
    bool Loading,
    IReadOnlyList<Account> DemoAccounts,
    long LargestFile,
    IReadOnlyList<string> FileEndings,
    string PageToken,
    long Commits
);

internal sealed record NewAccount(string Name, string Email, string Password, Role Role);

internal sealed record Credentials(string Email, string Password);

internal sealed record NewPassword(string Current, string Password);

internal sealed record DemoSignIn(AccountId AccountId);

/// <summary>Sign-in by cookie, the first steward, one's own password, and the one-click door of the demo.</summary>
internal static class AccessEndpoints
{
    public const string Team = "team";
    public const string Publishers = "publishers";
    public const string Stewards = "stewards";
    public const string Guesses = "guesses";
    public const string Arrivals = "arrivals";
    public const string Readers = "readers";
    private const string Stamp = "stamp";
    private static readonly Account Nobody = new();
    private static readonly ConcurrentDictionary<IPasswordHasher<Account>, string> nobodysHash = new();

    public static void AddAccess(this IServiceCollection services)
    {
        services.AddSingleton<IPasswordHasher<Account>, PasswordHasher<Account>>();
        services.AddAntiforgeryCheck();
        services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(cookie =>
            {
                cookie.Cookie.Name = "vitrine";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Strict;
                cookie.ExpireTimeSpan = TimeSpan.FromDays(14);
                cookie.SlidingExpiration = true;
                cookie.Events.OnRedirectToLogin = context =>
                    Problems.Of(401, "signed-out", "Sign in to go on.").ExecuteAsync(context.HttpContext);
                cookie.Events.OnRedirectToAccessDenied = context =>
                    Problems
                        .Of(403, "not-allowed", "Your role does not allow this. Ask the steward of the workspace.")
                        .ExecuteAsync(context.HttpContext);
                cookie.Events.OnValidatePrincipal = EndIfStampIsOld;
            });
        services.AddRateLimiter(limiter =>
        {
            limiter.OnRejected = async (context, _) =>
                await Problems
                    .Of(429, "too-often", "That was tried too often. Wait a minute, then try again.")
                    .ExecuteAsync(context.HttpContext);
            foreach (
                var (policy, most) in new[]
                {
                    (Guesses, Limits.GuessesAMinute),
                    (Arrivals, Limits.ArrivalsAMinute),
                    (Readers, Limits.ReadingsAMinute),
                }
            )
            {
                limiter.AddPolicy(
                    policy,
                    http =>
                        RateLimitPartition.GetFixedWindowLimiter(
                            http.Connection.RemoteIpAddress?.ToString() ?? "",
                            _ => new FixedWindowRateLimiterOptions { PermitLimit = most, Window = TimeSpan.FromMinutes(1) }
                        )
                );
            }
        });
        services
            .AddAuthorizationBuilder()
            .AddPolicy(Team, p => p.RequireRole(nameof(Role.Steward), nameof(Role.Researcher), nameof(Role.NoteTaker)))
            .AddPolicy(Publishers, p => p.RequireRole(nameof(Role.Steward), nameof(Role.Researcher)))
            .AddPolicy(Stewards, p => p.RequireRole(nameof(Role.Steward)));
    }

    public static void MapAccess(this WebApplication app, bool demo)
    {
        var api = app.MapGroup("/api").WithTags("Access");
        api.MapGet(
            "/me",
            (HttpContext http, AccountStore accounts, IAntiforgery forgery, Workspace workspace, Readiness readiness) =>
            {
                var all = accounts.All();
                var me = all.FirstOrDefault(a => a.Id == SignedIn.Of(http)?.Id);
                return new Me(
                    me,
                    all.Count == 0,
                    !readiness.IsReady,
                    demo && readiness.IsReady ? all : [],
                    Limits.FileBytes,
                    SourceFile.Endings,
                    forgery.GetAndStoreTokens(http).RequestToken!,
                    workspace.Commits
                );
            }
        );
        api.MapPost(
                "/set-up",
                async (NewAccount given, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher) =>
                {
                    var (name, email) = (NameOf(given.Name), EmailOf(given.Email));
                    var account = accounts.AddFirst(
                        name,
                        email,
                        hasher.HashPassword(new Account { Name = name, Email = email }, Checked(given.Password))
                    );
                    await SignIn(http, account);
                    return account;
                }
            )
            .RequireRateLimiting(Guesses);
        api.MapPost(
                "/sign-in",
                async (Credentials given, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher) =>
                {
                    var found = accounts.FindByEmail(given.Email.Trim());
                    // An unknown address costs the same time as a known one, so that nobody learns which is which.
                    var fits = hasher.VerifyHashedPassword(
                        found?.Account ?? Nobody,
                        found?.PasswordHash ?? nobodysHash.GetOrAdd(hasher, h => h.HashPassword(Nobody, Guid.NewGuid().ToString())),
                        given.Password
                    );
                    if (found is not { } f || fits == PasswordVerificationResult.Failed)
                    {
                        throw Refusal.Because("This address and password do not belong together. Check both and try again.", "password");
                    }
                    await SignIn(http, f.Account);
                    return f.Account;
                }
            )
            .RequireRateLimiting(Guesses);
        api.MapPost(
            "/sign-out",
            async (HttpContext http) =>
            {
                await http.SignOutAsync();
                return TypedResults.NoContent();
            }
        );

        var mine = api.MapGroup("/me").RequireAuthorization();
        mine.MapPut(
                "/password",
                async (NewPassword given, SignedIn me, HttpContext http, AccountStore accounts, IPasswordHasher<Account> hasher) =>
                {
                    var account = accounts.Find(me.Id)!;
                    if (
                        hasher.VerifyHashedPassword(account, accounts.PasswordHashOf(me.Id), given.Current)
                        == PasswordVerificationResult.Failed
                    )
                        throw Refusal.Because("This is not your current password.", "current");
                    accounts.SetPassword(me.Id, hasher.HashPassword(account, Checked(given.Password)));
                    LiveConnections.End(me.Id);
                    await SignIn(http, account);
                    return TypedResults.NoContent();
                }
            )
            .RequireRateLimiting(Guesses);
        mine.MapPost(
            "/sign-out-everywhere",
            async (SignedIn me, HttpContext http, AccountStore accounts) =>
            {
                accounts.SignOutEverywhere(me.Id);
                LiveConnections.End(me.Id);
                await http.SignOutAsync();
                return TypedResults.NoContent();
            }
        );
        if (!demo)
            return;
        api.MapPost(
            "/demo/sign-in",
            async (DemoSignIn given, HttpContext http, AccountStore accounts) =>
            {
                var account = accounts.Find(given.AccountId) ?? throw Refusal.Missing("account");
                await SignIn(http, account);
                return account;
            }
        );
    }

    public static Account Add(AccountStore accounts, IPasswordHasher<Account> hasher, NewAccount given)
    {
        var (name, email) = (NameOf(given.Name), EmailOf(given.Email));
        return accounts.Add(
            name,
            email,
            given.Role,
            hasher.HashPassword(new Account { Name = name, Email = email }, Checked(given.Password))
        );
    }

    public static string NameOf(string name) => Validate.Text(name, "name", "Type the person’s name.", Limits.Name);

    public static string EmailOf(string given)
    {
        var email = Validate.Text(given, "email", "Type an e-mail address.", Limits.Name);
        return email.Contains('@') ? email : throw Refusal.Because("This is not an e-mail address: it has no @.", "email");
    }

    public static string Checked(string password) =>
        password.Length >= Limits.ShortestPassword
            ? password
            : throw Refusal.Because(
                $"Choose a password of at least {Limits.ShortestPassword} characters; a few words in a row are easy to remember.",
                "password"
            );

    public static Task SignIn(HttpContext http, Account account)
    {
        var stamp = http.RequestServices.GetRequiredService<AccountStore>().StampOf(account.Id) ?? throw Refusal.Missing("account");
        return http.SignInAsync(
            new ClaimsPrincipal(
                new ClaimsIdentity(
                    [
                        new(ClaimTypes.NameIdentifier, account.Id.ToString()),
                        new(ClaimTypes.Name, account.Name),
                        new(ClaimTypes.Role, account.Role.ToString()),
                        new(Stamp, stamp),
                    ],
                    CookieAuthenticationDefaults.AuthenticationScheme
                )
            ),
            new AuthenticationProperties { IsPersistent = true }
        );
    }

    /// <summary>A cookie from before a new password, another role, or a sign-out everywhere is no cookie.</summary>
    private static Task EndIfStampIsOld(CookieValidatePrincipalContext context)
    {
        var id = long.Parse(context.Principal!.FindFirstValue(ClaimTypes.NameIdentifier)!, CultureInfo.InvariantCulture);
        if (context.HttpContext.RequestServices.GetRequiredService<AccountStore>().StampOf(id) != context.Principal!.FindFirstValue(Stamp))
            context.RejectPrincipal();
        return Task.CompletedTask;
    }
}
