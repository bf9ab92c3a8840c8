using Microsoft.AspNetCore.Identity;
using Vitrine.Core.Access;
using Vitrine.Storage.Access;

namespace Vitrine.Server.Access;

internal sealed record RoleChoice(Role Role, bool Closed);

internal sealed record NewInvitation(string Name, string Email, Role Role, IReadOnlyList<StudyId> StudyIds);

/// <summary>A new invitation's secret, which goes into its link. It is shown this once.</summary>
internal sealed record InvitationLink(string Token);

internal sealed record Accepting(string Name, string Password);

internal sealed record Members(IReadOnlyList<AccountId> AccountIds);

/// <summary>The people of the workspace: who is here, who is invited, and who is in which study's team.</summary>
internal static class PeopleEndpoints
{
    public static void MapPeople(this RouteGroupBuilder api)
    {
        api.MapGet("/accounts", (AccountStore accounts) => accounts.All()).WithTags("Access").About(null);
        var stewards = api.MapGroup("").WithTags("Access").RequireAuthorization(AccessEndpoints.Stewards).About(null);
        stewards.MapPost(
            "/accounts",
            (NewAccount given, AccountStore accounts, IPasswordHasher<Account> hasher) => AccessEndpoints.Add(accounts, hasher, given)
        );
        stewards.MapPut(
            "/accounts/{accountId:long}",
            (AccountId accountId, RoleChoice given, AccountStore accounts) =>
            {
                var account = accounts.SetRole(accountId, given.Role, given.Closed);
                LiveConnections.End(accountId);
                return account;
            }
        );
        stewards.MapGet("/invitations", (InvitationStore invitations) => invitations.Open());
        stewards.MapPost(
            "/invitations",
            (NewInvitation given, SignedIn me, InvitationStore invitations) =>
                new InvitationLink(
                    invitations.Invite(
                        me.Actor,
                        AccessEndpoints.NameOf(given.Name),
                        AccessEndpoints.EmailOf(given.Email),
                        given.Role,
                        given.StudyIds
                    )
                )
        );
        stewards.MapDelete(
            "/invitations/{invitationId:long}",
            (InvitationId invitationId, InvitationStore invitations) =>
            {
                invitations.Revoke(invitationId);
                return TypedResults.NoContent();
            }
        );

        var study = api.MapGroup("/studies/{studyId:long}/members").WithTags("Access");
        study.MapGet("", (StudyId studyId, StudyAccess access) => access.MembersOf(studyId));
        study
            .MapPut(
                "",
                (StudyId studyId, Members given, SignedIn me, StudyAccess access) => access.SetMembers(me.Actor, studyId, given.AccountIds)
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
    }

    /// <summary>The other end of an invitation's link: open to whoever holds its secret.</summary>
    public static void MapJoining(this WebApplication app)
    {
        var join = app.MapGroup("/api/join/{token}").WithTags("Access").RequireRateLimiting(AccessEndpoints.Guesses);
        join.MapGet("", (string token, InvitationStore invitations) => invitations.Opened(token));
        join.MapPost(
            "",
            async (string token, Accepting given, HttpContext http, InvitationStore invitations, IPasswordHasher<Account> hasher) =>
            {
                var name = AccessEndpoints.NameOf(given.Name);
                var account = invitations.Accept(
                    token,
                    name,
                    hasher.HashPassword(new Account { Name = name }, AccessEndpoints.Checked(given.Password))
                );
                await AccessEndpoints.SignIn(http, account);
                return account;
            }
        );
    }
}
