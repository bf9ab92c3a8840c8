using FsCheck.Xunit;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Weigh.Evidence;
using static Vitrine.Core.Gather.Sources.SourceKind;
using static Vitrine.Core.Weigh.Evidence.Stance;

namespace Vitrine.Core.Tests;

public class EvidenceFactsTests
{
    private static EvidencePiece By(long? person, Stance stance = Supports, SourceKind kind = Interview, long study = 1) =>
        new(stance, person, person ?? 99, kind, study);

    private static EvidenceLevel LevelOf(params EvidencePiece[] pieces) => EvidenceFacts.Of(pieces).Level;

    [Fact]
    public void Nothing_is_no_evidence() => Assert.Equal(EvidenceLevel.NoEvidence, LevelOf());

    [Fact]
    public void Unattributed_words_alone_are_no_ones_voice() => Assert.Equal(EvidenceLevel.NoEvidence, LevelOf(By(null), By(null)));

    [Fact]
    public void One_person_is_a_single_voice_however_often_they_speak() =>
        Assert.Equal(EvidenceLevel.SingleVoice, LevelOf([.. Enumerable.Repeat(By(4), 14)]));

    [Fact]
    public void Two_people_are_an_echo() => Assert.Equal(EvidenceLevel.Echoed, LevelOf(By(1), By(2)));

    [Fact]
    public void Two_people_in_two_kinds_are_still_an_echo() => Assert.Equal(EvidenceLevel.Echoed, LevelOf(By(1), By(2, kind: Survey)));

    [Fact]
    public void Five_people_in_one_kind_are_an_echo() =>
        Assert.Equal(EvidenceLevel.Echoed, LevelOf([.. Enumerable.Range(1, 5).Select(p => By(p))]));

    [Fact]
    public void Three_people_in_two_kinds_corroborate() =>
        Assert.Equal(EvidenceLevel.Corroborated, LevelOf(By(1), By(2), By(3, kind: FieldNotes)));

    [Fact]
    public void Three_people_in_two_studies_corroborate() =>
        Assert.Equal(EvidenceLevel.Corroborated, LevelOf(By(1), By(2), By(3, study: 2)));

    [Fact]
    public void A_quarter_against_contests()
    {
        EvidencePiece[] three = [By(1), By(2), By(3, kind: FieldNotes)];
        Assert.Equal(EvidenceLevel.Contested, LevelOf([.. three, By(4, Contradicts)]));
        Assert.Equal(EvidenceLevel.Corroborated, LevelOf([.. three, By(5), By(4, Contradicts)]));
    }

    [Fact]
    public void Context_changes_no_level() =>
        Assert.Equal(EvidenceLevel.SingleVoice, LevelOf(By(1), By(2, Context), By(3, Context, Survey)));

    [Fact]
    public void The_facts_stand_beside_the_level()
    {
        var facts = EvidenceFacts.Of([By(1), By(1), By(1), By(2, kind: Survey), By(null), By(2, Contradicts), By(6, Context)]);
        Assert.Equal(
            (2, 1, 5, 1, 1, 1),
            (facts.PeopleFor, facts.PeopleAgainst, facts.Supporting, facts.Contradicting, facts.Context, facts.Unattributed)
        );
        Assert.Equal((3, 2, 1), (facts.Sources, facts.Kinds, facts.Studies));
        Assert.Equal(0.6, facts.LargestShare, 12);
    }

    [Property]
    public bool More_words_of_the_same_people_never_raise_the_level(int seed)
    {
        var random = new Random(seed);
        var pieces = Enumerable
            .Range(0, random.Next(1, 8))
            .Select(_ => By(random.Next(1, 5), (Stance)random.Next(3), (SourceKind)random.Next(3)))
            .ToList();
        // One of them talks on and on: more of the same, and context, as often as chance has it.
        var talkative = pieces[random.Next(pieces.Count)];
        var more = Enumerable
            .Range(0, random.Next(1, 30))
            .Select(_ =>
                random.Next(3) switch
                {
                    0 => talkative,
                    1 => pieces[random.Next(pieces.Count)],
                    _ => talkative with { Stance = Stance.Context, Person = 99 },
                }
            );
        var (before, after) = (EvidenceFacts.Of(pieces), EvidenceFacts.Of([.. pieces, .. more]));
        return before.Level == after.Level
            && (before.PeopleFor, before.PeopleAgainst, before.Kinds, before.Sources)
                == (after.PeopleFor, after.PeopleAgainst, after.Kinds, after.Sources);
    }
}

public class SilentGroupsTests
{
    [Fact]
    public void Groups_without_a_voice_are_named_with_their_size()
    {
        (string, string, ParticipantId)[] values =
        [
            ("home", "Tarra", 1),
            ("home", "Tarra", 2),
            ("home", "Skelda", 3),
            ("step-free", "yes", 3),
            ("step-free", "no", 1),
        ];
        Assert.Equal(
            [new SilentGroup("home", "Tarra", 2), new SilentGroup("step-free", "no", 1)],
            SilentGroups.Of(values, new HashSet<ParticipantId> { 3 })
        );
    }
}
