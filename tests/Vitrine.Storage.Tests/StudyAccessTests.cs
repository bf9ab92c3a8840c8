using Microsoft.Extensions.Time.Testing;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class StudyAccessTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly StudyAccess access;
    private readonly long other;

    public StudyAccessTests()
    {
        access = new StudyAccess(w.Workspace);
        other = new StudyStore(w.Workspace).Create(w.Tom, new StudyText("Tom's own", "", "", [])).Id!.Value;
    }

    public void Dispose() => w.Dispose();

    private Viewer Ida => new(w.Ida.AccountId, Role.Researcher);

    private Viewer Tom => new(w.Tom.AccountId, Role.Researcher);

    [Fact]
    public void Who_makes_a_study_is_in_its_team_and_a_steward_sees_all()
    {
        Assert.Equal([w.Study], access.VisibleTo(Ida));
        Assert.Equal([other], access.VisibleTo(Tom));
        Assert.Null(access.VisibleTo(Ida with { Role = Role.Steward }));
        Assert.True(access.SeesStudy(Tom with { Role = Role.Steward }, w.Study));
        Assert.False(access.SeesStudy(Tom, w.Study));
        Assert.False(access.SeesStudy(Tom with { Role = Role.Steward }, 999));
    }

    [Fact]
    public void A_reader_sees_no_study_even_in_a_team()
    {
        access.SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        Assert.True(access.SeesStudy(Tom, w.Study));
        Assert.False(access.SeesStudy(Tom with { Role = Role.Reader }, w.Study));
        Assert.False(access.Sees(Tom with { Role = Role.Reader }, Thing.Source, w.Source.Value));
    }

    [Fact]
    public void Things_are_there_for_those_who_see_their_study_and_shared_tags_for_all()
    {
        var observation = w.Mark(w.Ida, "standing", "own tag").Id!.Value;
        var own = w.Tags.For(w.Study).Single().Id;
        var shared = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("shared"), null, 1, "", true)).Id!.Value;
        foreach (
            var (thing, id) in new (string, long)[]
            {
                (Thing.Source, w.Source.Value),
                (Thing.Observation, observation),
                (Thing.Participant, w.Wren.Value),
                (Thing.Tag, own.Value),
            }
        )
        {
            Assert.True(access.Sees(Ida, thing, id), $"{thing}");
            Assert.False(access.Sees(Tom, thing, id), $"{thing}");
            Assert.False(access.Sees(Ida, thing, 999), $"{thing}");
        }
        Assert.True(access.Sees(Tom, Thing.Tag, shared));
        Assert.Equal(["shared"], w.Tags.In(w.Steward.AccountId, access.VisibleTo(Tom)).Select(t => t.Name));
    }

    [Fact]
    public void An_exhibit_is_there_for_those_who_see_every_study_that_it_draws_from()
    {
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        Assert.True(access.SeesExhibit(Ida, exhibit));
        Assert.False(access.SeesExhibit(Tom, exhibit));
        w.Exhibits.Arrange(w.Ida, exhibit, [w.Insights.Make(w.Ida, w.Study, "Idas", RichText.Empty, []).Id!.Value]);
        Assert.False(access.SeesExhibit(Tom, exhibit));
        Assert.True(access.SeesExhibit(Ida, exhibit));
        Assert.Empty(w.Exhibits.For(Tom, access));
        Assert.Single(w.Exhibits.For(Ida, access));
    }

    [Fact]
    public void The_trail_of_a_shared_tag_is_told_as_far_as_one_may_see()
    {
        var tag = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("queue"), null, 1, "", true)).Id!.Value;
        w.Mark(w.Ida, "Nobody tells you", "queue");
        Assert.Equal(2, w.Trail.Of(Thing.Tag, tag, w.Steward.AccountId, access.VisibleTo(Ida)).Count);
        Assert.Equal(["Made the tag “queue”"], w.Trail.Of(Thing.Tag, tag, w.Steward.AccountId, access.VisibleTo(Tom)).Select(e => e.Label));
    }

    [Fact]
    public void A_change_of_the_team_is_a_step_that_can_be_undone()
    {
        access.SetMembers(w.Ida, w.Study, [w.Tom.AccountId]);
        Assert.Equal([w.Tom.AccountId], access.MembersOf(w.Study));
        Assert.Equal([w.Tom.AccountId, w.Steward.AccountId], access.SeenBy(w.Study));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([w.Ida.AccountId], access.MembersOf(w.Study));
    }

    [Fact]
    public void A_write_in_one_study_touches_no_row_of_another()
    {
        var sources = new SourceStore(w.Workspace, w.Participants);
        var wren = w.Wren;
        void Refused(Action act) => Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(act).Kind);
        var mark = w.Mark(w.Ida, "standing", "own").Id!.Value;
        var ownTag = w.Tags.For(w.Study).Single().Id;
        Refused(() => w.Participants.Change(w.Tom, other, wren, "P9", "Taken over", null));
        Refused(() => w.Participants.Remove(w.Tom, other, wren));
        Refused(() => sources.Add(w.Tom, other, new NewSource("Mine", SourceKind.Interview, null, null, "words", [], [wren]), []));
        Refused(() => w.Observations.Tag(w.Tom, other, [mark], [], [TestWorkspace.Named("mine")]));
        Refused(() => w.Observations.Remove(w.Tom, other, [mark]));
        Refused(() => w.Themes.Make(w.Tom, other, "Mine", "", null, [mark], []));
        Refused(() => w.Themes.Make(w.Tom, other, "Mine", "", null, [], [ownTag]));
        Assert.Empty(w.Themes.In(other, w.Steward.AccountId));
        Assert.Contains(w.Participants.In(w.Study).People, p => p.Id == wren && p.Pseudonym == "Wren");
    }

    [Fact]
    public void A_note_taker_takes_away_their_own_and_nothing_else()
    {
        var nell = new Actor(w.Tom.AccountId, "Nell", Role.NoteTaker);
        var idas = w.Mark(w.Ida, "standing", "one").Id!.Value;
        var nells = w.Mark(nell, "Nobody", "two").Id!.Value;
        Assert.Equal(RefusalKind.NotAllowed, Assert.Throws<Refusal>(() => w.Observations.Remove(nell, w.Study, [idas])).Kind);
        Assert.Equal(RefusalKind.NotAllowed, Assert.Throws<Refusal>(() => w.Observations.Remove(nell, w.Study, [nells, idas])).Kind);
        Assert.Equal(2, w.Observations.In(w.Source, w.Steward.AccountId).Count);
        w.Observations.Remove(nell, w.Study, [nells]);
        Assert.Equal([idas], w.Observations.In(w.Source, w.Steward.AccountId).Select(o => o.Id));
    }
}

public sealed class InvitationTests : IDisposable
{
    private readonly string folder = MigratedTemplate.Folder("vitrine-test-");
    private readonly FakeTimeProvider clock = new(new DateTimeOffset(2026, 11, 23, 9, 0, 0, TimeSpan.Zero));
    private readonly Workspace workspace;
    private readonly InvitationStore invitations;
    private readonly AccountStore accounts;
    private readonly Actor una;

    public InvitationTests()
    {
        workspace = new Workspace(folder, clock);
        invitations = new InvitationStore(workspace);
        accounts = new AccountStore(workspace);
        una = new Actor(accounts.Add("Una", "una@vitrine.example", Role.Steward, "x").Id, "Una", Role.Steward);
    }

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public void A_link_works_for_fourteen_days_and_once()
    {
        var token = invitations.Invite(una, "Tom", "tom@vitrine.example", Role.Researcher, []);
        clock.Advance(TimeSpan.FromDays(13.9));
        Assert.Equal(new DateTimeOffset(2026, 12, 7, 9, 0, 0, TimeSpan.Zero), invitations.Opened(token).ExpiresAt);
        clock.Advance(TimeSpan.FromDays(0.2));
        Assert.Throws<Refusal>(() => invitations.Opened(token));
        Assert.Throws<Refusal>(() => invitations.Accept(token, "Tom", "x"));

        var second = invitations.Invite(una, "Tom", "tom@vitrine.example", Role.Researcher, []);
        Assert.Equal(Role.Researcher, invitations.Accept(second, "Tom Varley", "x").Role);
        Assert.Throws<Refusal>(() => invitations.Accept(second, "Another", "x"));
        Assert.Contains(
            "has an account already",
            Assert.Throws<Refusal>(() => invitations.Invite(una, "Tom", "TOM@vitrine.example", Role.Reader, [])).Message
        );
    }

    [Fact]
    public void It_brings_into_the_studies_that_were_chosen_and_still_are()
    {
        var study = new StudyStore(workspace).Create(una, new StudyText("One", "", "", [])).Id!.Value;
        var tom = invitations.Accept(invitations.Invite(una, "Tom", "tom@vitrine.example", Role.Researcher, [study, 999]), "Tom", "x");
        Assert.Equal([una.AccountId, tom.Id], new StudyAccess(workspace).MembersOf(study));
    }

    [Fact]
    public void The_secret_itself_is_not_kept()
    {
        var token = invitations.Invite(una, "Tom", "tom@vitrine.example", Role.Researcher, []);
        workspace.Rest();
        Assert.DoesNotContain(token, File.ReadAllText(Path.Combine(folder, Workspace.DatabaseName), System.Text.Encoding.Latin1));
    }

    [Fact]
    public void A_stamp_ends_with_a_new_password_another_role_a_sign_out_everywhere_and_closing()
    {
        var tom = accounts.Add("Tom", "tom@vitrine.example", Role.Researcher, "x").Id;
        var seen = new HashSet<string?> { accounts.StampOf(tom) };
        accounts.SetPassword(tom, "y");
        Assert.True(seen.Add(accounts.StampOf(tom)));
        accounts.SetRole(tom, Role.NoteTaker, closed: false);
        Assert.True(seen.Add(accounts.StampOf(tom)));
        accounts.SignOutEverywhere(tom);
        Assert.True(seen.Add(accounts.StampOf(tom)));
        accounts.SetRole(tom, Role.NoteTaker, closed: true);
        Assert.Null(accounts.StampOf(tom));
        Assert.Null(accounts.FindByEmail("tom@vitrine.example"));
        accounts.SetRole(tom, Role.NoteTaker, closed: false);
        Assert.NotNull(accounts.FindByEmail("tom@vitrine.example"));
        Assert.Throws<Refusal>(() => accounts.SetRole(una.AccountId, Role.Steward, closed: true));
    }
}
