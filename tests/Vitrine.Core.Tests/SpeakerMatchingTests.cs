using Vitrine.Core.Gather.Turns;

namespace Vitrine.Core.Tests;

public class SpeakerMatchingTests
{
    private static readonly KnownParticipant[] People =
    [
        new(1, "P01", "Alder", null),
        new(3, "P03", "Sorrel", "Marnie Quillfeather"),
        new(4, "P04", "Tansy", "Marnie Otherwise"),
    ];

    private static readonly string[] Team = ["Ida Moss", "Tom Varley"];

    [Theory]
    [InlineData("P03", 3)]
    [InlineData("sorrel", 3)]
    [InlineData("P03 Sorrel", 3)]
    [InlineData("Marnie Quillfeather", 3)]
    [InlineData(" Alder ", 1)]
    public void A_participant_is_known_by_code_pseudonym_or_name(string speaker, long id) =>
        Assert.Equal(new SpeakerMatch(id, false), SpeakerMatching.Guess(speaker, People, Team));

    [Theory]
    [InlineData("Interviewer")]
    [InlineData("I")]
    [InlineData("moderator")]
    [InlineData("Ida")]
    [InlineData("Tom Varley")]
    public void The_team_is_known_by_role_or_name(string speaker) =>
        Assert.Equal(new SpeakerMatch(null, true), SpeakerMatching.Guess(speaker, People, Team));

    [Fact]
    public void A_first_name_that_two_share_is_left_to_the_researcher() =>
        Assert.Equal(new SpeakerMatch(null, false), SpeakerMatching.Guess("Marnie", People, Team));

    [Fact]
    public void A_stranger_is_left_to_the_researcher() =>
        Assert.Equal(new SpeakerMatch(null, false), SpeakerMatching.Guess("Dougal", People, Team));
}
