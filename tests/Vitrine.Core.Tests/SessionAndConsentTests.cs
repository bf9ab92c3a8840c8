using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;

namespace Vitrine.Core.Tests;

public sealed class SessionAndConsentTests
{
    [Theory]
    [InlineData(SourceKind.Interview, SessionKind.Interview)]
    [InlineData(SourceKind.GroupDiscussion, SessionKind.GroupDiscussion)]
    [InlineData(SourceKind.FieldNotes, SessionKind.Visit)]
    [InlineData(SourceKind.Survey, null)]
    [InlineData(SourceKind.Document, null)]
    public void A_source_that_was_held_with_people_tells_what_its_session_was(SourceKind source, SessionKind? session) =>
        Assert.Equal(session, SessionGuess.KindOf(source));

    [Theory]
    [InlineData(null, null)]
    [InlineData(0, null)]
    [InlineData(1, 1)]
    [InlineData(60_000, 1)]
    [InlineData(60_001, 2)]
    public void A_length_is_whole_minutes_rounded_up(int? lastMs, int? minutes) => Assert.Equal(minutes, SessionGuess.MinutesOf(lastMs));

    [Theory]
    [InlineData(Consent.Asked, false)]
    [InlineData(Consent.Given, true)]
    [InlineData(Consent.Limited, false)]
    [InlineData(Consent.Withdrawn, false)]
    public void Nothing_leaves_of_someone_who_has_not_said_yes(Consent consent, bool leave) =>
        Assert.Equal(leave, ConsentRule.MayLeave(consent));
}
